#pragma once
/// \file Boxes as the text of an STL file.

#include "core/base/vec.hpp"
#include "core/units/amount.hpp"

#include <string>
#include <vector>

namespace gc::test {

struct StlBox {
    Vec3 low, high;
};

/// Twelve triangles for each, counter-clockwise from outside.
inline std::string stlText(const std::vector<StlBox>& boxes) {
    std::string out = "solid boxes\n";
    const auto facet = [&](Vec3 a, Vec3 b, Vec3 c) {
        out += "facet normal 0 0 1\nouter loop\n";
        for (const Vec3& v : {a, b, c})
            out += "vertex " + formatNumber(v.x, 6) + " " + formatNumber(v.y, 6) + " " +
                   formatNumber(v.z, 6) + "\n";
        out += "endloop\nendfacet\n";
    };
    const auto wall = [&](Vec3 a, Vec3 b, Vec3 c, Vec3 d) { facet(a, b, c), facet(a, c, d); };
    for (const auto& [l, h] : boxes) {
        wall({l.x, l.y, l.z}, {l.x, h.y, l.z}, {h.x, h.y, l.z}, {h.x, l.y, l.z});
        wall({l.x, l.y, h.z}, {h.x, l.y, h.z}, {h.x, h.y, h.z}, {l.x, h.y, h.z});
        wall({l.x, l.y, l.z}, {h.x, l.y, l.z}, {h.x, l.y, h.z}, {l.x, l.y, h.z});
        wall({h.x, h.y, l.z}, {l.x, h.y, l.z}, {l.x, h.y, h.z}, {h.x, h.y, h.z});
        wall({h.x, l.y, l.z}, {h.x, h.y, l.z}, {h.x, h.y, h.z}, {h.x, l.y, h.z});
        wall({l.x, h.y, l.z}, {l.x, l.y, l.z}, {l.x, l.y, h.z}, {l.x, h.y, h.z});
    }
    return out + "endsolid boxes\n";
}

} // namespace gc::test
