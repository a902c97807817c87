#include "core/steps/shared/lifted_rounds.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/shared/defeatured.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <GeomLProp_SLProps.hxx>
#include <TopoDS.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Torus.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

std::optional<double> roundRadius(const TopoDS_Face& face) {
    const BRepAdaptor_Surface s(face, false);
    if (s.GetType() == GeomAbs_Cylinder) return s.Cylinder().Radius();
    if (s.GetType() == GeomAbs_Torus) return s.Torus().MinorRadius();
    return std::nullopt;
}

std::optional<double> rolledRadius(const TopoDS_Face& face) {
    if (const auto known = roundRadius(face)) return known;
    constexpr int kEach = 5;
    constexpr double kEven = 0.01, kGrain = 1e-3; // of the radius; mm
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0, least = 1e300, most = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    GeomLProp_SLProps props(BRep_Tool::Surface(face), 2, kNoDirection);
    for (int i = 0; i < kEach; ++i)
        for (int j = 0; j < kEach; ++j) {
            props.SetParameters(u0 + (u1 - u0) * (i + 0.5) / kEach, v0 + (v1 - v0) * (j + 0.5) / kEach);
            if (!props.IsCurvatureDefined()) return std::nullopt;
            const double bend = std::max(std::fabs(props.MaxCurvature()), std::fabs(props.MinCurvature()));
            least = std::min(least, 1 / bend), most = std::max(most, 1 / bend);
        }
    if (most - least > kEven * most) return std::nullopt;
    const double middle = 0.5 * (least + most), round = std::round(middle / kGrain) * kGrain;
    return std::fabs(round - middle) < 0.5 * kEven * middle ? round : middle;
}

std::optional<std::pair<NamePtr, double>> roundAt(const NamedShape& shape, const TopoDS_Shape& face) {
    const NamePtr name = firstName(shape, face);
    if (!name || name->role != "fillet" || name->parents.size() != 2) return std::nullopt;
    const auto radius = roundRadius(TopoDS::Face(face));
    if (!radius) return std::nullopt;
    return std::pair{name, *radius};
}

namespace {

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

std::optional<Unrounded> withoutRounds(const Body& body, const Rounds& rounds) {
    const NamedShape& s = body.shape();
    TopTools_IndexedMapOfShape faces;
    for (int i = 1; i <= s.faces.Extent(); ++i)
        if (rounds.has(firstName(s, s.faces(i)))) faces.Add(s.faces(i));
    const auto made = withoutFaces(body, faces);
    if (!made) return std::nullopt;
    Unrounded out{*made, {}};
    for (const auto& [name, radius] : rounds) {
        EdgeChain edges = edgesOfRound(*made, body, name, radius);
        if (edges.edges.empty()) return std::nullopt;
        out.chains.push_back(std::move(edges));
    }
    return out;
}

} // namespace gc
