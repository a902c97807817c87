#include "core/steps/fillet/across.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/length_curve.hpp"
#include "core/steps/shared/area_of.hpp"
#include "core/steps/shared/defeatured.hpp"
#include "core/steps/shared/face_normal.hpp"
#include "core/steps/shared/over_face.hpp"
#include "core/steps/shared/rounded.hpp"
#include "core/units/amount.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepGProp.hxx>
#include <BRep_Tool.hxx>
#include <GProp_GProps.hxx>
#include <ShapeAnalysis_Surface.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kMostEaten =
    0.15; // of the body's skin: more is no chamfer or ledge, and leaving it out takes long

/// How wide a face is: as a rectangle of the same area and border.
double widthOf(const TopoDS_Face& face) {
    GProp_GProps border;
    BRepGProp::LinearProperties(face, border);
    const double half = border.Mass() / 2, apart = half * half - 4 * areaOf(face);
    return 0.5 * (half - std::sqrt(std::max(apart, 0.0)));
}

/// The faces that share an edge with a face, with the length of what they share.
std::vector<std::pair<TopoDS_Face, double>> neighboursOf(const NamedShape& s, const TopoDS_Face& face) {
    std::vector<std::pair<TopoDS_Face, double>> out;
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next()) {
        const TopoDS_Edge e = TopoDS::Edge(x.Current());
        if (BRep_Tool::Degenerated(e)) continue;
        for (const TopoDS_Shape& f : facesBeside(s, e)) {
            if (f.IsSame(face)) continue;
            const auto known =
                std::find_if(out.begin(), out.end(), [&](const auto& n) { return n.first.IsSame(f); });
            const double length = LengthCurve::of(TopoDS::Edge(e.Oriented(TopAbs_FORWARD))).length();
            if (known == out.end())
                out.emplace_back(TopoDS::Face(f), length);
            else
                known->second += length;
        }
    }
    return out;
}

/// Two faces by their names, as the body's faces change.
struct Pair {
    NamePtr one, other;
    double radius = 0;
};

/// What lies between faces, and those.
struct Gap {
    TopTools_IndexedMapOfShape eaten;
    std::vector<Pair> pairs;
};

Error tooSmall(double radius, const Vec3& at) {
    Error e =
        errorOf("fillet.small",
                phrase("A round of %1 does not reach from one face to the other: part of what lies between "
                       "them would stay. Make it larger.",
                       formatAmount(radius, "mm", 2)));
    e.place = at;
    return e;
}

/// A place of a face that a round has left: inside the air where it took material, inside the body where it
/// filled.
std::optional<gp_Pnt> leftOf(const TopTools_IndexedMapOfShape& eaten, const TopoDS_Shape& rounded,
                             bool hollow) {
    constexpr int kNet = 9;
    constexpr double kOn = 1e-4; // mm
    BRepClass3d_SolidClassifier inside(rounded);
    for (int i = 1; i <= eaten.Extent(); ++i)
        for (const gp_Pnt& p : placesOver(TopoDS::Face(eaten(i)), kNet)) {
            inside.Perform(p, kOn);
            if (inside.State() == (hollow ? TopAbs_OUT : TopAbs_IN)) return p;
        }
    return std::nullopt;
}

/// The edges in which a pair of faces meets now and did not before.
std::vector<int> newEdges(const Body& sharp, const Body& before, const Pair& pair) {
    EdgeChain was;
    for (const int i : before.shape().edgesBetween(pair.one, pair.other))
        was.edges.push_back(TopoDS::Edge(before.shape().edges(i + 1)));
    const EdgeChain stay = foundAgain(was, before, sharp, true);
    std::vector<int> out;
    for (const int i : sharp.shape().edgesBetween(pair.one, pair.other)) {
        const TopoDS_Shape& e = sharp.shape().edges(i + 1);
        if (std::none_of(stay.edges.begin(), stay.edges.end(),
                         [&](const TopoDS_Edge& s) { return s.IsSame(e); }))
            out.push_back(i);
    }
    return out;
}

Error apart() {
    return errorOf("fillet.apart",
                   "The two faces do not run into each other when what lies between them is "
                   "left out, so no ball rolls along both. Pick two that do, or round the face "
                   "between them fully.");
}

/// What lies between is left out, and the edges that come of it are rounded, with other chains.
Result<Body> roundedWithout(const Body& body, const Gap& gap, const std::vector<EdgeChain>& others,
                            int step) {
    const auto sharp = withoutFaces(body, gap.eaten);
    if (!sharp) return apart();
    std::vector<EdgeChain> chains;
    BRepFilletAPI_MakeFillet asks(sharp->shape().shape);
    for (const Pair& p : gap.pairs) {
        const auto edges = newEdges(*sharp, body, p);
        if (edges.empty()) return apart();
        if (auto added = addChains(*sharp, edges, p.radius, p.radius, false, asks, chains); !added)
            return added.error();
    }
    if (chains.empty()) return apart();
    const bool hollow = isHollow(sharp->shape(), chains.front().edges.front());
    for (const EdgeChain& c : others) {
        EdgeChain again = foundAgain(c, body, *sharp, true);
        if (again.edges.empty()) return apart();
        chains.push_back(std::move(again));
    }
    auto made = rounded(*sharp, chains, step, &asks);
    if (!made) return made;
    if (const auto left = leftOf(gap.eaten, made->shape().shape, hollow))
        return tooSmall(gap.pairs.front().radius, toVec(*left));
    return made;
}

Result<Body> roundedWhereTheyMeet(const Body& body, const Pair& pair, int step) {
    std::vector<EdgeChain> chains;
    BRepFilletAPI_MakeFillet asks(body.shape().shape);
    const auto& edges = body.shape().edgesBetween(pair.one, pair.other);
    if (auto added = addChains(body, edges, pair.radius, pair.radius, false, asks, chains); !added)
        return added.error();
    return chains.empty() ? apart() : rounded(body, chains, step, &asks);
}

/// Flat faces that never meet.
bool areParallel(const TopoDS_Face& a, const TopoDS_Face& b) {
    constexpr double kParallel = 1e-3; // rad
    const BRepAdaptor_Surface p(a, false), q(b, false);
    return p.GetType() == GeomAbs_Plane && q.GetType() == GeomAbs_Plane &&
           p.Plane().Axis().IsParallel(q.Plane().Axis(), kParallel);
}

/// Two sides of a thin wall: continued, they meet far away or nowhere, which the kernel takes seconds to find
/// out.
bool areOpposite(const TopoDS_Edge& edge, const TopoDS_Face& one, const TopoDS_Face& other) {
    constexpr double kOpposite = -0.97; // 166 degrees
    const auto n = normalBeside(edge, one);
    const BRepAdaptor_Curve curve(edge);
    const gp_Pnt at = curve.Value(0.5 * (curve.FirstParameter() + curve.LastParameter()));
    const Handle(ShapeAnalysis_Surface) there = new ShapeAnalysis_Surface(BRep_Tool::Surface(other));
    gp_Pnt p;
    const auto m = outwardNormal(BRepAdaptor_Surface(other, false), other.Orientation() == TopAbs_REVERSED,
                                 there->ValueOfUV(at, kKernelPoint), p);
    return n && m && n->Dot(*m) < kOpposite;
}

/// Of the faces beside an edge of a chain the narrow one, and the one beyond it.
struct Narrow {
    TopoDS_Face one, eaten, other;
};
std::optional<Narrow> narrowBeside(const NamedShape& s, const TopoDS_Edge& edge, double radius) {
    const auto faces = facesBeside(s, edge);
    if (faces.size() != 2) return std::nullopt;
    TopoDS_Face one = TopoDS::Face(faces[0]), eaten = TopoDS::Face(faces[1]);
    if (widthOf(one) < widthOf(eaten)) std::swap(one, eaten);
    // The ball touches each face a radius times the tangent of half the turn from the edge.
    const auto kink = kinkAt(s, edge);
    if (!kink || widthOf(eaten) > radius * std::tan(*kink / 2)) return std::nullopt;
    if (areaOf(eaten) > kMostEaten * areaOf(s.shape)) return std::nullopt;
    auto beyond = neighboursOf(s, eaten);
    std::erase_if(beyond, [&](const auto& n) { return n.first.IsSame(one); });
    const auto longest = std::max_element(beyond.begin(), beyond.end(),
                                          [](const auto& a, const auto& b) { return a.second < b.second; });
    if (longest == beyond.end() || areParallel(one, longest->first) || areOpposite(edge, one, longest->first))
        return std::nullopt;
    return Narrow{one, eaten, longest->first};
}

void addNarrow(const NamedShape& s, const EdgeChain& chain, Gap& gap) {
    for (const TopoDS_Edge& e : chain.edges) {
        const auto narrow = narrowBeside(s, e, chain.first);
        if (!narrow) continue;
        gap.eaten.Add(narrow->eaten);
        gap.pairs.push_back({firstName(s, narrow->one), firstName(s, narrow->other), chain.first});
    }
}

/// What may lie between two faces, the likeliest first: nothing; what touches both, the narrowest first; what
/// touches one of them and something that touches the other.
std::vector<std::vector<TopoDS_Face>> liesBetween(const NamedShape& s, const TopoDS_Face& one,
                                                  const TopoDS_Face& other) {
    const auto besideOne = neighboursOf(s, one), besideOther = neighboursOf(s, other);
    const auto touchesOther = [&](const TopoDS_Face& f) {
        return std::any_of(besideOther.begin(), besideOther.end(),
                           [&](const auto& n) { return n.first.IsSame(f); });
    };
    std::vector<std::vector<TopoDS_Face>> out, twos;
    for (const auto& [f, length] : besideOne) {
        if (f.IsSame(other)) {
            out.push_back({});
            continue;
        }
        if (touchesOther(f)) out.push_back({f});
        for (const auto& [g, more] : neighboursOf(s, f))
            if (!g.IsSame(one) && !g.IsSame(other) && touchesOther(g)) twos.push_back({f, g});
    }
    std::stable_sort(out.begin(), out.end(), [](const auto& a, const auto& b) {
        return (a.empty() ? 0 : widthOf(a.front())) < (b.empty() ? 0 : widthOf(b.front()));
    });
    out.insert(out.end(), twos.begin(), twos.end());
    return out;
}

} // namespace

std::optional<Body> roundedOverNarrow(const Body& body, const std::vector<EdgeChain>& chains, int step) {
    Gap gap;
    std::vector<EdgeChain> others;
    for (const EdgeChain& c : chains) {
        if (c.first != c.second || !c.via.empty()) return std::nullopt;
        const int before = gap.eaten.Extent();
        addNarrow(body.shape(), c, gap);
        if (gap.eaten.Extent() == before) others.push_back(c);
    }
    if (gap.eaten.IsEmpty()) return std::nullopt;
    if (auto made = roundedWithout(body, gap, others, step)) return *made;
    return std::nullopt;
}

Result<Body> roundedAcross(const Body& body, const TopoDS_Face& one, const TopoDS_Face& other, double radius,
                           int step) {
    const NamedShape& s = body.shape();
    const Pair pair{firstName(s, one), firstName(s, other), radius};
    Error first = apart();
    for (const auto& faces : liesBetween(s, one, other)) {
        Gap gap;
        for (const TopoDS_Face& f : faces) gap.eaten.Add(f);
        gap.pairs.push_back(pair);
        auto made =
            faces.empty() ? roundedWhereTheyMeet(body, pair, step) : roundedWithout(body, gap, {}, step);
        if (made) return made;
        if (first.code == "fillet.apart") first = made.error();
    }
    return first;
}

} // namespace gc
