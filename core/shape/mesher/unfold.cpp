// Triangles that lie the wrong way round in the face's parameters. They are made in steps, along which the
// parameters may change unevenly: a long thin triangle may then turn over.

#include "core/base/triangle.hpp"
#include "core/shape/mesher/patch.hpp"

#include <algorithm>
#include <unordered_map>

namespace gc {

namespace {

class Unfolder {
  public:
    explicit Unfolder(Patch& patch) : m_patch(patch) {}

    void run() {
        constexpr int kPasses = 40;
        for (int pass = 0; pass < kPasses; ++pass)
            if (!flipAll()) return;
    }

  private:
    double area(int a, int b, int c) const {
        const auto at = [&](int i) { return m_patch.uv[static_cast<std::size_t>(i)]; };
        return cross(at(b) - at(a), at(c) - at(a));
    }
    static std::uint64_t key(int a, int b) {
        return edgeKey(static_cast<std::uint32_t>(a), static_cast<std::uint32_t>(b));
    }

    /// False where none was turned.
    bool flipAll() {
        auto& triangles = m_patch.triangles;
        std::vector<std::size_t> wrong;
        for (std::size_t i = 0; i < triangles.size(); ++i)
            if (area(triangles[i][0], triangles[i][1], triangles[i][2]) < 0) wrong.push_back(i);
        if (wrong.empty()) return false;
        std::unordered_map<std::uint64_t, std::vector<std::size_t>> beside;
        for (std::size_t i = 0; i < triangles.size(); ++i)
            for (std::size_t k = 0; k < 3; ++k)
                beside[key(triangles[i][k], triangles[i][(k + 1) % 3])].push_back(i);
        bool any = false;
        std::vector<bool> used(triangles.size(), false);
        for (const std::size_t i : wrong)
            for (std::size_t k = 0; k < 3 && !used[i]; ++k) {
                const auto& pair = beside[key(triangles[i][k], triangles[i][(k + 1) % 3])];
                if (pair.size() != 2) continue; // at the border
                const std::size_t other = pair[0] == i ? pair[1] : pair[0];
                if (!used[other] && flip(i, k, other)) used[i] = used[other] = any = true;
            }
        return any;
    }

    /// How much of two triangles lies wrongly, as their area in the parameters; not more than 0.
    double wrong(int a, int b, int c, int d, int e, int f) const {
        return std::min(area(a, b, c), 0.0) + std::min(area(d, e, f), 0.0);
    }
    /// The side between two triangles becomes the other diagonal, where less of them lies wrongly then.
    bool flip(std::size_t i, std::size_t side, std::size_t other) {
        auto& t = m_patch.triangles;
        const int a = t[i][side], b = t[i][(side + 1) % 3], c = t[i][(side + 2) % 3];
        const auto d =
            std::find_if(t[other].begin(), t[other].end(), [&](int p) { return p != a && p != b; });
        if (d == t[other].end()) return false;
        const int across = *d;
        if (wrong(a, across, c, across, b, c) <= wrong(a, b, c, b, a, across)) return false;
        t[i] = {a, across, c};
        t[other] = {across, b, c};
        return true;
    }

    Patch& m_patch;
};

} // namespace

void unfold(Patch& patch) {
    Unfolder(patch).run();
}

} // namespace gc
