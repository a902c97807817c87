#pragma once
/// \file Names of faces: where a face came from. A name is {step, role, names of its parents}, interned, so
/// that equal names are equal pointers.

#include "core/base/vec.hpp"
#include "core/names/reference.hpp"

#include <string>
#include <vector>

namespace gc {

struct FaceName;
using NamePtr = const FaceName*;

struct FaceName {
    int step = 0;
    std::string role;             ///< "wall", "inside of", "rim of", "fillet", "copy at 60°"
    std::vector<NamePtr> parents; ///< sorted; empty for faces that a step made from an outline
    std::string text;             ///< the whole name as a text, unique
    std::vector<int> steps;       ///< every step that it rests on, ascending
};

/// The one name with this content. Names live as long as the program. May be called from any thread.
NamePtr internName(int step, const std::string& role, std::vector<NamePtr> parents = {});

/// A role that says where something is: "flat face 12.40 at 1.00 2.00 3.00"; lengths in mm.
std::string roleAtPlace(const std::string& what, double size, const Vec3& at);

/// Does the pattern of a reference fit this name? NextTo and Ordered look at the first face only. Places in
/// roles agree within two hundredths of a millimetre: files are written with rounded figures.
bool fits(const FaceRef& pattern, const FaceName& name);

/// How far apart the places in the pattern and in the name are, where all else is the same: other copies of
/// the same thing, other faces of the same sort from the same file. Nothing where more differs.
std::optional<double> distanceOfPlaces(const FaceRef& pattern, const FaceName& name);

/// The reference that fits this name; nothing where the grammar has no words for it (corners of fillets).
FaceRefPtr referenceTo(const FaceName& name);

} // namespace gc
