// Bodies to OBJ files: triangles in words.

#include "core/base/figure.hpp"
#include "core/base/file.hpp"
#include "core/exchange/export.hpp"

#include <map>

namespace gc {

namespace {

/// A name without what would end the line.
std::string inOneLine(std::string name) {
    for (char& c : name)
        if (static_cast<unsigned char>(c) < 0x20) c = ' ';
    return name;
}

std::string line(const char* word, const Vec3& v) {
    std::string out = word;
    for (const double c : {v.x, v.y, v.z}) out += " " + figureOf(c, 9);
    return out + "\n";
}

} // namespace

Result<Notes> writeObj(const std::vector<NamedBody>& bodies, const std::string& partName,
                       const std::filesystem::path& path, const ExportOptions& options) {
    Notes notes;
    std::string out = "# Good Curve, units: mm, part: " + inOneLine(partName) + "\n";
    std::size_t pointsBefore = 0, normalsBefore = 0; // they are counted through the whole file
    for (const NamedBody& b : bodies) {
        const auto mesh = trianglesFor(b, options, notes);
        if (!mesh) return mesh.error();
        out += "o " + inOneLine(b.name) + "\n";
        std::vector<std::size_t> place(mesh->points.size());
        std::map<std::uint32_t, std::size_t> known; // corners that faces share are written once
        for (std::size_t i = 0; i < mesh->points.size(); ++i) {
            const auto at = known.emplace(mesh->shared[i], known.size() + 1);
            if (at.second) out += line("v", mesh->points[i]);
            place[i] = pointsBefore + at.first->second;
        }
        for (const Vec3& n : mesh->normals) out += line("vn", n);
        for (const auto& t : mesh->triangles) {
            if (isNothing(*mesh, t)) continue;
            out += "f";
            for (const std::uint32_t k : t)
                out += " " + std::to_string(place[k]) + "//" + std::to_string(normalsBefore + k + 1);
            out += "\n";
        }
        pointsBefore += known.size();
        normalsBefore += mesh->normals.size();
    }
    if (const auto done = writeFileAtomically(path, out); !done) return done.error();
    return notes;
}

} // namespace gc
