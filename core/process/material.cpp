#include "core/process/material.hpp"

#include "core/base/file.hpp"
#include "core/units/expression.hpp"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <cstdlib>

namespace gc {

namespace {

Error entryError(int row, const std::string& what) {
    Error e;
    e.code = "materials.entry";
    e.position = row;
    e.sentence = phrase("Material %1 of the materials file %2", std::to_string(row + 1), what);
    return e;
}

} // namespace

Result<std::vector<Material>> parseMaterials(const std::string& text) {
    const auto json = nlohmann::json::parse(text, nullptr, false);
    Error e;
    e.code = "materials.syntax";
    if (json.is_discarded() || !json.is_object() || !json.contains("materials") ||
        !json["materials"].is_array()) {
        e.sentence =
            "The materials file is not a list of materials. Compare it with the shipped materials.json.";
        return e;
    }
    std::vector<Material> materials;
    int row = -1;
    for (const auto& entry : json["materials"]) {
        ++row;
        auto textOf = [&](const char* key) {
            return entry.is_object() && entry.contains(key) && entry[key].is_string()
                       ? entry[key].get<std::string>()
                       : std::string();
        };
        Material m;
        m.name = textOf("name");
        m.family = textOf("family");
        m.source = textOf("source");
        if (m.name.empty()) return entryError(row, "has no name.");
        if (m.source.empty())
            return entryError(row, "(" + m.name + ") does not say where its density is from.");
        const auto density = entry.find("density_g_cm3");
        if (density == entry.end() || !density->is_number() || !(density->get<double>() > 0) ||
            density->get<double>() > 30)
            return entryError(row, "(" + m.name + ") needs a density between 0 and 30 g/cm³.");
        m.density = Density(density->get<double>() / 1000);
        if (findMaterial(materials, m.name)) return entryError(row, "(" + m.name + ") is there twice.");
        materials.push_back(std::move(m));
    }
    return materials;
}

std::filesystem::path userMaterialsPath() {
    const char* config = std::getenv("XDG_CONFIG_HOME");
    const char* home = std::getenv("HOME");
    const std::filesystem::path base = config && *config ? std::filesystem::path(config)
                                       : home            ? std::filesystem::path(home) / ".config"
                                                         : std::filesystem::path("/tmp");
    return base / "good-curve" / "materials.json";
}

Result<std::vector<Material>> loadMaterials() {
    auto shippedText = readFile(dataDirectory() / "materials.json", 4u << 20);
    if (!shippedText) return shippedText.error();
    auto materials = parseMaterials(*shippedText);
    if (!materials) return materials;
    std::error_code ignored;
    if (!std::filesystem::exists(userMaterialsPath(), ignored)) return materials;
    auto ownText = readFile(userMaterialsPath(), 4u << 20);
    if (!ownText) return ownText.error();
    auto own = parseMaterials(*ownText);
    if (!own) return own;
    for (Material& m : *own) {
        const auto same = std::find_if(materials->begin(), materials->end(),
                                       [&](const Material& other) { return other.name == m.name; });
        if (same != materials->end())
            *same = std::move(m);
        else
            materials->push_back(std::move(m));
    }
    return materials;
}

Result<Density> densityFromText(const std::string& text) {
    struct DensityUnit {
        const char* sign;
        double perGramPerCm3;
    };
    static constexpr DensityUnit kUnits[] = {{"g/cm³", 1},    {"g/cm3", 1},    {"g/ml", 1}, {"kg/l", 1},
                                             {"kg/m³", 1e-3}, {"kg/m3", 1e-3}, {"t/m³", 1}};
    std::string figure = text;
    while (!figure.empty() && figure.back() == ' ') figure.pop_back();
    double factor = 1;
    for (const DensityUnit& u : kUnits)
        if (figure.ends_with(u.sign)) {
            factor = u.perGramPerCm3;
            figure.resize(figure.size() - std::string_view(u.sign).size());
            break;
        }
    const auto value = evaluate(figure, kNumber, UnitSystem());
    constexpr double kMost = 30; // g/cm³; osmium has 22.6
    if (!value || !(value->value * factor > 0) || value->value * factor > kMost)
        return errorOf("materials.density",
                       "A density is a number between 0 and 30 g/cm³, such as \"0.93 g/cm³\" "
                       "or \"930 kg/m³\".");
    return Density(value->value * factor / 1000);
}

Result<Done> keepOwnMaterial(const Material& material) {
    if (material.name.empty()) return errorOf("materials.name", "Give the material a name.");
    if (material.source.empty())
        return errorOf("materials.source",
                       "Say where the density is from: a data sheet, or what you weighed and measured.");
    std::vector<Material> own;
    std::error_code ignored;
    if (std::filesystem::exists(userMaterialsPath(), ignored)) {
        const auto text = readFile(userMaterialsPath(), 4u << 20);
        if (!text) return text.error();
        auto read = parseMaterials(*text);
        if (!read) return read.error();
        own = std::move(*read);
    }
    std::erase_if(own, [&](const Material& m) { return m.name == material.name; });
    own.push_back(material);
    nlohmann::ordered_json list = nlohmann::ordered_json::array();
    for (const Material& m : own)
        list.push_back({{"name", m.name},
                        {"family", m.family},
                        {"density_g_cm3", m.density.internal() * 1000},
                        {"source", m.source}});
    std::filesystem::create_directories(userMaterialsPath().parent_path(), ignored);
    return writeFileAtomically(userMaterialsPath(),
                               nlohmann::ordered_json{{"materials", list}}.dump(2) + "\n");
}

const Material* findMaterial(const std::vector<Material>& materials, const std::string& name) {
    const auto it =
        std::find_if(materials.begin(), materials.end(), [&](const Material& m) { return m.name == name; });
    return it == materials.end() ? nullptr : &*it;
}

const std::vector<Process>& processes() {
    static const std::vector<Process> all{
        {"injection moulded",
         "Not covered: flow, weld lines, warp, shrinkage, ejector marks. Ask your moulder."},
        {"printed",
         "Not covered: support, layer strength, anisotropy, trapped powder or resin. Ask your printer."},
        {"thermoformed", "Not covered: how far the sheet thins over the former. Ask your former."},
        {"blow moulded", "Not covered: parison swell and how the wall thins in corners. Ask your moulder."},
        {"cast", "Not covered: feeding, porosity and shrinkage. Ask your foundry."},
        {"slip cast", "Not covered: drying and firing shrinkage, glaze thickness. Ask your pottery."},
        {"machined", "Not covered: tool access and clamping. Ask your machinist."},
    };
    return all;
}

} // namespace gc
