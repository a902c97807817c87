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

/// Nothing when there is none of that name.
const Material* findMaterial(const std::vector<Material>& materials, const std::string& name);

const std::vector<Process>& processes();

} // namespace gc
