#include "core/exchange/export.hpp"

#include <algorithm>
#include <charconv>

namespace gc {

const std::vector<ExportFormat>& exportFormats() {
    static const std::vector<ExportFormat> all{
        {".step", "STEP", "exact surfaces in mm, for toolmakers and other programs",
         [](const std::vector<NamedBody>& bodies, const std::string& name, const std::filesystem::path& path,
            const ExportOptions&) -> Result<Notes> {
             if (const auto done = writeStep(bodies, name, path); !done) return done.error();
             return Notes();
         }},
        {".3mf", "3MF", "triangles with units and names, for printers", write3mf},
        {".stl", "STL", "plain triangles, to be read as mm", writeStl},
        {".glb", "GLB", "triangles in metres with names and colours (glTF), for pictures and the web",
         writeGlb},
        {".obj", "OBJ", "triangles with names, to be read as mm", writeObj},
    };
    return all;
}

Result<TriangleMesh> trianglesFor(const NamedBody& body, const ExportOptions& options, Notes& notes) {
    auto mesh = makeMesh(body.body, {options.deviation, options.angle});
    if (mesh && !mesh->missing.empty()) notes.push_back(missingIn(*mesh, body.name));
    return mesh;
}

bool isNothing(const TriangleMesh& mesh, const std::array<std::uint32_t, 3>& t) {
    const auto same = [&](std::size_t a, std::size_t b) { return mesh.shared[t[a]] == mesh.shared[t[b]]; };
    return same(0, 1) || same(1, 2) || same(2, 0);
}

std::optional<std::array<double, 3>> rgbOf(const std::string& colour) {
    unsigned value = 0;
    if (colour.size() != 7 || colour[0] != '#') return std::nullopt;
    const auto r = std::from_chars(colour.data() + 1, colour.data() + 7, value, 16);
    if (r.ec != std::errc() || r.ptr != colour.data() + 7) return std::nullopt;
    return std::array{(value >> 16) / 255.0, (value >> 8 & 255) / 255.0, (value & 255) / 255.0};
}

Result<Notes> exportBodies(const std::vector<NamedBody>& bodies, const std::string& partName,
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
        e.sentence =
            phrase("\"%1\" should end in .step, .3mf, .stl, .glb or .obj.", path.filename().string());
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
