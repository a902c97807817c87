#include "core/steps/fillet/swallowed.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/shared/defeatured.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <TopoDS.hxx>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Torus.hxx>

#include <algorithm>
#include <map>

namespace gc {

namespace {

/// The radius of a face that a fillet made, where it is the same all along.
std::optional<double> radiusOf(const TopoDS_Face& face) {
    const BRepAdaptor_Surface s(face, false);
    if (s.GetType() == GeomAbs_Cylinder) return s.Cylinder().Radius();
    if (s.GetType() == GeomAbs_Torus) return s.Torus().MinorRadius();
    return std::nullopt;
}

/// Rounds between two faces that lie beside an edge of the chains and are smaller than what the edge gets.
std::map<NamePtr, double> swallowedBy(const NamedShape& s, const std::vector<EdgeChain>& chains) {
    std::map<NamePtr, double> out;
    for (const EdgeChain& c : chains)
        for (const TopoDS_Edge& e : c.edges)
            for (const TopoDS_Shape& f : facesBeside(s, e)) {
                const NamePtr name = firstName(s, f);
                if (!name || name->role != "fillet" || name->parents.size() != 2) continue;
                const auto radius = radiusOf(TopoDS::Face(f));
                if (radius && *radius < std::max(c.first, c.second) - kFlat) out.emplace(name, *radius);
            }
    return out;
}

/// The edges where the two faces beside a round meet.
EdgeChain edgesUnder(const Body& body, NamePtr round, double radius) {
    EdgeChain out;
    out.first = out.second = radius;
    out.called = round;
    const NamedShape& s = body.shape();
    for (const int i : s.edgesBetween(round->parents[0], round->parents[1]))
        out.edges.push_back(TopoDS::Edge(s.edges(i + 1)));
    return out;
}

/// Those of them that the round was on: the faces may meet elsewhere, in edges that are sharp and stay so.
EdgeChain edgesOfRound(const Body& sharp, const Body& before, NamePtr round, double radius) {
    EdgeChain out = edgesUnder(sharp, round, radius);
    const EdgeChain stay = foundAgain(edgesUnder(before, round, radius), before, sharp, true);
    std::erase_if(out.edges, [&](const TopoDS_Edge& e) {
        return std::any_of(stay.edges.begin(), stay.edges.end(),
                           [&](const TopoDS_Edge& s) { return s.IsSame(e); });
    });
    return out;
}

} // namespace

std::optional<Unrounded> withoutSwallowed(const Body& body, const std::vector<EdgeChain>& chains) {
    const NamedShape& s = body.shape();
    const auto rounds = swallowedBy(s, chains);
    if (rounds.empty()) return std::nullopt;
    TopTools_IndexedMapOfShape faces;
    for (int i = 1; i <= s.faces.Extent(); ++i)
        if (rounds.count(firstName(s, s.faces(i)))) faces.Add(s.faces(i));
    const auto made = withoutFaces(body, faces);
    if (!made) return std::nullopt;
    Unrounded out{*made, {}};
    for (const EdgeChain& c : chains) {
        EdgeChain again = foundAgain(c, body, *made, true);
        if (again.edges.empty()) return std::nullopt;
        out.chains.push_back(std::move(again));
    }
    for (const auto& [name, radius] : rounds) {
        EdgeChain edges = edgesOfRound(*made, body, name, radius);
        if (edges.edges.empty()) return std::nullopt;
        out.chains.push_back(std::move(edges));
    }
    return out;
}

} // namespace gc
