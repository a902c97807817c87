#include "core/exchange/export.hpp"

#include <algorithm>

namespace gc {

const std::vector<ExportFormat>& exportFormats() {
    static const std::vector<ExportFormat> all{
        {".step", "STEP", "exact surfaces in mm, for toolmakers and other programs",
         [](const std::vector<NamedBody>& bodies, const std::string& name, const std::filesystem::path& path,
            const ExportOptions&) { return writeStep(bodies, name, path); }},
        {".3mf", "3MF", "triangles with units and names, for printers", write3mf},
        {".stl", "STL", "plain triangles, to be read as mm", writeStl},
    };
    return all;
}

Result<Done> exportBodies(const std::vector<NamedBody>& bodies, const std::string& partName,
                          const std::filesystem::path& path, const ExportOptions& options) {
    Error e;
    std::string ending = path.extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(),
                   [](unsigned char c) { return std::tolower(c); });
    if (ending == ".stp") ending = ".step";
    const auto& formats = exportFormats();
    const auto it = std::find_if(formats.begin(), formats.end(),
                                 [&](const ExportFormat& f) { return f.ending == ending; });
    if (it == formats.end()) {
        e.code = "export.format";
        e.sentence = phrase("\"%1\" should end in .step, .3mf or .stl.", path.filename().string());
        return e;
    }
    if (bodies.empty()) {
        e.code = "export.empty";
        e.sentence = "There is no body to export yet.";
        return e;
    }
    return it->write(bodies, partName, path, options);
}

} // namespace gc
