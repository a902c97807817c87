#include "app/link/surfaces.hpp"

namespace gc::app {

std::optional<Surface> PatchStore::take(const say::Patches& patches,
                                        std::vector<std::vector<float>*> values) {
    std::unordered_map<std::uint64_t, Patch> now;
    std::size_t vertex = 0, corner = 0;
    for (std::size_t f = 0; f < patches.keys.size(); ++f) { // what came anew
        if (patches.counts[3 * f] == 0) continue;
        Patch& p = now[patches.keys[f]];
        const std::size_t n = patches.counts[3 * f + 1], corners = 3 * std::size_t{patches.counts[3 * f + 2]};
        p = {};
        for (std::size_t i = 3 * vertex; i < 3 * (vertex + n); i += 3) {
            p.points.emplace_back(patches.points[i], patches.points[i + 1], patches.points[i + 2]);
            p.normals.emplace_back(patches.normals[i], patches.normals[i + 1], patches.normals[i + 2]);
        }
        const auto from = patches.triangles.begin() + static_cast<std::ptrdiff_t>(corner);
        p.triangles.assign(from, from + static_cast<std::ptrdiff_t>(corners));
        for (const auto* row : values) {
            const auto first = row->begin() + static_cast<std::ptrdiff_t>(vertex);
            p.values.emplace_back(first, first + static_cast<std::ptrdiff_t>(n));
        }
        vertex += n;
        corner += corners;
    }
    for (auto* row : values) row->clear();
    Surface out;
    for (std::size_t f = 0; f < patches.keys.size(); ++f) {
        auto known = now.find(patches.keys[f]);
        if (known == now.end()) {
            const auto held = m_held.find(patches.keys[f]);
            if (held == m_held.end()) return std::nullopt;
            known = now.emplace(held->first, std::move(held->second)).first;
        }
        const Patch& p = known->second;
        if (p.values.size() != values.size()) return std::nullopt;
        const auto base = static_cast<std::uint32_t>(out.points.size());
        out.points.insert(out.points.end(), p.points.begin(), p.points.end());
        out.normals.insert(out.normals.end(), p.normals.begin(), p.normals.end());
        out.faceOf.insert(out.faceOf.end(), p.points.size(), static_cast<std::uint32_t>(f));
        for (const std::uint32_t t : p.triangles) out.triangles.push_back(base + t);
        for (std::size_t r = 0; r < values.size(); ++r)
            values[r]->insert(values[r]->end(), p.values[r].begin(), p.values[r].end());
    }
    m_held = std::move(now);
    return out;
}

} // namespace gc::app
