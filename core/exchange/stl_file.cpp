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

Result<Done> writeStl(const std::vector<NamedBody>& bodies, const std::string& partName,
                      const std::filesystem::path& path, const ExportOptions& options) {
    std::string triangles;
    std::uint32_t count = 0;
    for (const NamedBody& b : bodies) {
        const auto mesh = makeMesh(b.body, {options.deviation, options.angle});
        if (!mesh) return mesh.error();
        for (const auto& t : mesh->triangles) {
            const Vec3 p = mesh->points[t[0]], q = mesh->points[t[1]], r = mesh->points[t[2]];
            if (mesh->shared[t[0]] == mesh->shared[t[1]] || mesh->shared[t[1]] == mesh->shared[t[2]] ||
                mesh->shared[t[2]] == mesh->shared[t[0]])
                continue; // at a pole
            put(triangles, unit(cross(q - p, r - p)));
            for (const Vec3& v : {p, q, r}) put(triangles, v);
            put(triangles, std::uint16_t{0});
            ++count;
        }
    }
    std::string header = "Good Curve, units: mm, part: " + partName;
    header.resize(80, ' ');
    put(header, count);
    return writeFileAtomically(path, header + triangles);
}

} // namespace gc
