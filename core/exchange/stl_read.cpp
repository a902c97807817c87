// Bodies out of STL files: flat pieces, as coarse as the file.

#include "core/exchange/place_names.hpp"
#include "core/exchange/stl_file.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRep_Builder.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>
#include <map>
#include <sstream>

namespace gc {

namespace {

using Triangle = std::array<Vec3, 3>;

const char* kBroken = "This is not an STL file that can be read. It may be cut off; export it anew.";

bool isGood(const Vec3& v) {
    constexpr double kFar = 1e6;                                                    // mm
    return std::fabs(v.x) < kFar && std::fabs(v.y) < kFar && std::fabs(v.z) < kFar; // false for NaN
}

/// 80 bytes of anything, the count, and 50 bytes a triangle; little-endian.
std::optional<std::vector<Triangle>> binary(const std::string& s) {
    constexpr std::size_t kHead = 84, kEach = 50, kNormal = 12;
    if (s.size() < kHead) return std::nullopt;
    std::uint32_t count = 0;
    std::memcpy(&count, s.data() + 80, 4);
    if (s.size() != kHead + kEach * std::size_t{count}) return std::nullopt;
    std::vector<Triangle> out(count);
    for (std::size_t i = 0; i < count; ++i)
        for (std::size_t k = 0; k < 3; ++k) {
            float p[3];
            std::memcpy(p, s.data() + kHead + kEach * i + kNormal + 12 * k, 12);
            out[i][k] = {p[0], p[1], p[2]};
            if (!isGood(out[i][k])) return std::nullopt;
        }
    return out;
}

std::optional<std::vector<Triangle>> inWords(const std::string& s) {
    if (s.find("solid") == std::string::npos || s.find("endsolid") == std::string::npos) return std::nullopt;
    std::istringstream in(s);
    std::vector<Vec3> points;
    for (std::string word; in >> word;) {
        if (word != "vertex") continue;
        Vec3 p;
        if (!(in >> p.x >> p.y >> p.z) || !isGood(p)) return std::nullopt;
        points.push_back(p);
    }
    if (points.empty() || points.size() % 3 != 0) return std::nullopt;
    std::vector<Triangle> out(points.size() / 3);
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = {points[3 * i], points[3 * i + 1], points[3 * i + 2]};
    return out;
}

/// Triangles by the numbers of their corners; corners that lie on each other are one.
struct Welded {
    std::vector<Vec3> points;
    std::vector<std::array<int, 3>> triangles;
};

Welded weld(const std::vector<Triangle>& all) {
    constexpr double kCell = 1e-4; // mm
    std::map<std::array<long long, 3>, int> known;
    Welded w;
    for (const Triangle& t : all) {
        std::array<int, 3> corners{};
        for (std::size_t k = 0; k < 3; ++k) {
            const std::array<long long, 3> cell{std::llround(t[k].x / kCell), std::llround(t[k].y / kCell),
                                                std::llround(t[k].z / kCell)};
            const auto at = known.emplace(cell, static_cast<int>(w.points.size()));
            if (at.second) w.points.push_back(t[k]);
            corners[k] = at.first->second;
        }
        if (corners[0] == corners[1] || corners[1] == corners[2] || corners[2] == corners[0]) continue;
        const Vec3 a = w.points[static_cast<std::size_t>(corners[0])];
        const Vec3 n = cross(w.points[static_cast<std::size_t>(corners[1])] - a,
                             w.points[static_cast<std::size_t>(corners[2])] - a);
        if (length(n) > kCell * kCell) w.triangles.push_back(corners);
    }
    return w;
}

/// Edges that do not have one triangle on each side.
std::size_t openEdges(const Welded& w) {
    std::map<std::pair<int, int>, int> sides; // forward less backward, and how many
    std::map<std::pair<int, int>, int> uses;
    for (const auto& t : w.triangles)
        for (std::size_t k = 0; k < 3; ++k) {
            const int a = t[k], b = t[(k + 1) % 3];
            sides[std::minmax(a, b)] += a < b ? 1 : -1;
            ++uses[std::minmax(a, b)];
        }
    std::size_t open = 0;
    for (const auto& [edge, n] : uses) open += n != 2 || sides[edge] != 0;
    return open;
}

TopoDS_Shape solidOf(const Welded& w) {
    BRep_Builder builder;
    std::vector<TopoDS_Vertex> corners(w.points.size());
    for (std::size_t i = 0; i < corners.size(); ++i)
        builder.MakeVertex(corners[i], gp_Pnt(w.points[i].x, w.points[i].y, w.points[i].z), 1e-5);
    std::map<std::pair<int, int>, TopoDS_Edge> edges;
    const auto edge = [&](int a, int b) {
        TopoDS_Edge& e = edges[std::minmax(a, b)];
        if (e.IsNull()) {
            const auto [low, high] = std::minmax(a, b);
            e = BRepBuilderAPI_MakeEdge(corners[static_cast<std::size_t>(low)],
                                        corners[static_cast<std::size_t>(high)])
                    .Edge();
        }
        return TopoDS::Edge(a < b ? e : e.Reversed());
    };
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    for (const auto& t : w.triangles) {
        TopoDS_Wire wire;
        builder.MakeWire(wire);
        for (std::size_t k = 0; k < 3; ++k) builder.Add(wire, edge(t[k], t[(k + 1) % 3]));
        wire.Closed(true);
        const Vec3 a = w.points[static_cast<std::size_t>(t[0])];
        const Vec3 n = unit(cross(w.points[static_cast<std::size_t>(t[1])] - a,
                                  w.points[static_cast<std::size_t>(t[2])] - a));
        const gp_Pln plane(gp_Pnt(a.x, a.y, a.z), gp_Dir(n.x, n.y, n.z));
        builder.Add(shell, BRepBuilderAPI_MakeFace(plane, wire).Face());
    }
    shell.Closed(true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    // Triangles in one plane become one face.
    ShapeUpgrade_UnifySameDomain unify(solid, true, true, false);
    unify.Build();
    return unify.Shape();
}

} // namespace

Result<Body> readStl(const std::string& content, int stepId) {
    const auto triangles = [&] {
        auto read = binary(content);
        return read ? read : inWords(content);
    }();
    if (!triangles) return errorOf("stl.syntax", kBroken);
    if (triangles->size() > kMostStlTriangles)
        return errorOf("stl.large",
                       phrase("The STL file has %1 triangles; up to %2 can be brought in. Export it coarser.",
                              std::to_string(triangles->size()), std::to_string(kMostStlTriangles)));
    const Welded w = weld(*triangles);
    if (w.triangles.empty()) return errorOf("stl.empty", "The STL file holds no triangles.");
    if (const std::size_t open = openEdges(w))
        return errorOf("stl.open", phrase("The STL file is not closed: %1 edges do not have one triangle on "
                                          "each side. Mend it where it was made.",
                                          std::to_string(open)));
    return guarded("stl.syntax", kBroken, [&]() -> Result<Body> {
        NameBuilder names(solidOf(w));
        names.frame(stepId, Plane{{}, {1, 0, 0}, {0, 1, 0}});
        nameByPlace(names, stepId);
        return names.finish();
    });
}

} // namespace gc
