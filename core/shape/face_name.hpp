#pragma once
/// \file Names of faces: where a face came from. A name is {step, role, names of its parents}, interned, so
/// that equal names are equal pointers.

#include "core/names/reference.hpp"

#include <string>
#include <vector>

namespace gc {

struct FaceName;
using NamePtr = const FaceName*;

struct FaceName {
    int step = 0;
    std::string role;             ///< "wall", "inside of", "rim of", "fillet", "copy 3"
    std::vector<NamePtr> parents; ///< sorted; empty for faces that a step made from an outline
    std::string text;             ///< the whole name as a text, unique
    std::vector<int> steps;       ///< every step that it rests on, ascending
};

/// The one name with this content. Names live as long as the program. May be called from any thread.
NamePtr internName(int step, const std::string& role, std::vector<NamePtr> parents = {});

/// Does the pattern of a reference fit this name? NextTo looks at the first face only.
bool fits(const FaceRef& pattern, const FaceName& name);

/// The reference that fits this name; nothing where the grammar has no words for it (corners of fillets).
FaceRefPtr referenceTo(const FaceName& name);

} // namespace gc
