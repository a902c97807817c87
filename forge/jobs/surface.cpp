#include "forge/jobs/surface.hpp"

#include "core/base/hash.hpp"

namespace gc::forge {

namespace {

struct Patch {
    std::vector<std::uint32_t> vertices;  ///< numbers in the mesh
    std::vector<std::uint32_t> triangles; ///< numbers in `vertices`
};

std::vector<Patch> cutUp(const TriangleMesh& mesh, const std::vector<std::uint32_t>& faceOf) {
    std::vector<Patch> patches(mesh.faces.size());
    std::vector<std::uint32_t> place(mesh.points.size());
    for (std::size_t v = 0; v < mesh.points.size(); ++v) {
        Patch& p = patches[faceOf[v]];
        place[v] = static_cast<std::uint32_t>(p.vertices.size());
        p.vertices.push_back(static_cast<std::uint32_t>(v));
    }
    for (const auto& t : mesh.triangles)
        for (const std::uint32_t v : t) patches[faceOf[t[0]]].triangles.push_back(place[v]);
    return patches;
}

void put(std::vector<float>& out, Vec3 v) {
    for (const double c : {v.x, v.y, v.z}) out.push_back(static_cast<float>(c));
}

std::uint64_t keyOf(const Patch& p, const TriangleMesh& mesh,
                    const std::vector<std::vector<float>*>& values) {
    std::vector<float> numbers;
    numbers.reserve(p.vertices.size() * (6 + values.size()));
    for (const std::uint32_t v : p.vertices) {
        put(numbers, mesh.points[v]);
        put(numbers, mesh.normals[v]);
        for (const auto* row : values) numbers.push_back((*row)[v]);
    }
    return Hasher()
        .bytes(numbers.data(), numbers.size() * sizeof(float))
        .bytes(p.triangles.data(), p.triangles.size() * sizeof(std::uint32_t))
        .value();
}

} // namespace

say::Patches patchesOf(const TriangleMesh& mesh, const std::vector<std::uint32_t>& faceOf,
                       std::vector<std::vector<float>*> values, ThingId body, Level level,
                       SurfaceMemory& sent) {
    const auto patches = cutUp(mesh, faceOf);
    say::Patches out;
    for (const Patch& p : patches) out.keys.push_back(keyOf(p, mesh, values));
    const auto lacking = sent.lacking(body, level, out.keys);
    std::vector<std::vector<float>> kept(values.size());
    for (std::size_t f = 0; f < patches.size(); ++f) {
        const Patch& p = patches[f];
        if (!lacking[f]) {
            out.counts.insert(out.counts.end(), {0, 0, 0});
            continue;
        }
        out.counts.insert(out.counts.end(), {1, static_cast<std::uint32_t>(p.vertices.size()),
                                             static_cast<std::uint32_t>(p.triangles.size() / 3)});
        for (const std::uint32_t v : p.vertices) {
            put(out.points, mesh.points[v]);
            put(out.normals, mesh.normals[v]);
            for (std::size_t r = 0; r < values.size(); ++r) kept[r].push_back((*values[r])[v]);
        }
        out.triangles.insert(out.triangles.end(), p.triangles.begin(), p.triangles.end());
    }
    for (std::size_t r = 0; r < values.size(); ++r) *values[r] = std::move(kept[r]);
    return out;
}

} // namespace gc::forge
