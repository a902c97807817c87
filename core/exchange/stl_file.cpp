#include "core/base/file.hpp"
#include "core/exchange/export.hpp"

#include <cstring>

namespace gc {

namespace {

template <class T>
void put(std::string& out, T value) {
    static_assert(std::is_trivially_copyable_v<T>);
    char bytes[sizeof value];
    std::memcpy(bytes, &value, sizeof value); // the format is little-endian, as is every machine we build for
    out.append(bytes, sizeof value);
}

void put(std::string& out, Vec3 v) {
    put(out, static_cast<float>(v.x));
    put(out, static_cast<float>(v.y));
    put(out, static_cast<float>(v.z));
}

} // namespace

Result<Notes> writeStl(const std::vector<NamedBody>& bodies, const std::string& partName,
                       const std::filesystem::path& path, const ExportOptions& options) {
    std::string triangles;
    std::uint32_t count = 0;
    Notes notes;
    for (const NamedBody& b : bodies) {
        const auto mesh = trianglesFor(b, options, notes);
        if (!mesh) return mesh.error();
        for (const auto& t : mesh->triangles) {
            const Vec3 p = mesh->points[t[0]], q = mesh->points[t[1]], r = mesh->points[t[2]];
            if (isNothing(*mesh, t)) continue;
            put(triangles, unit(cross(q - p, r - p)));
            for (const Vec3& v : {p, q, r}) put(triangles, v);
            put(triangles, std::uint16_t{0});
            ++count;
        }
    }
    std::string header = "Good Curve, units: mm, part: " + partName;
    header.resize(80, ' ');
    put(header, count);
    if (const auto done = writeFileAtomically(path, header + triangles); !done) return done.error();
    return notes;
}

} // namespace gc
