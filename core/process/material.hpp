#pragma once
/// \file Materials with their densities, from a file that users may edit.

#include "core/base/result.hpp"
#include "core/units/quantity.hpp"

#include <filesystem>
#include <string>
#include <vector>

namespace gc {

struct Material {
    std::string name;   ///< "polypropylene"
    std::string family; ///< "polymer", "metal", "ceramic", "rubber", "other"
    Density density;
    std::string source; ///< where the figure comes from, in words
};

/// A process by which parts are made, and what to bear in mind with it.
struct Process {
    std::string name;    ///< "injection moulded"
    std::string caution; ///< what the checks do not cover
};

/// The materials of a JSON text: {"materials": [{"name", "family", "density_g_cm3", "source"}]}.
/// Errors: "materials.syntax", "materials.entry" (position = row from 0), "materials.twice".
Result<std::vector<Material>> parseMaterials(const std::string& json);

/// The shipped materials, overridden and added to by the user's file where there is one
/// ($XDG_CONFIG_HOME/good-curve/materials.json).
Result<std::vector<Material>> loadMaterials();
std::filesystem::path userMaterialsPath();

/// "0.93", "0.93 g/cm³", "930 kg/m³", also worked out: "12.4 / 13.1 g/cm³". A bare number is g/cm³.
/// Errors: "materials.density".
Result<Density> densityFromText(const std::string& text);
/// Keeps a material in the user's file, in place of one of that name. Errors: "materials.name",
/// "materials.source", those of reading the file, and of writing it.
Result<Done> keepOwnMaterial(const Material& material);

/// Nothing when there is none of that name.
const Material* findMaterial(const std::vector<Material>& materials, const std::string& name);

const std::vector<Process>& processes();

} // namespace gc
