#include "core/steps/fillet/round_section.hpp"

#include "core/shape/foot_point.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <TopoDS.hxx>
#include <gp_Circ.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Lin.hxx>
#include <gp_Sphere.hxx>
#include <gp_Torus.hxx>

#include <array>
#include <cmath>

namespace gc {

namespace {

/// A face in that plane: straight, or an arc.
struct SectionSide {
    gp_XY outward, into; ///< at the edge, of length 1
    bool bent = false;
    gp_XY centre;      ///< of the arc
    double radius = 0; ///< mm

    /// The outward normal beside a place.
    gp_XY normalAt(const gp_XY& p) const {
        if (!bent) return outward;
        const gp_XY away = (p - centre).Normalized();
        return bulges() ? away : away.Reversed();
    }
    bool bulges() const { return outward.Dot(centre) < 0; }
    /// Where the face lies that is moved outward by a length; its radius for an arc.
    double movedRadius(double by) const { return radius + (bulges() ? by : -by); }
};

/// The arc in which a round surface meets the plane; nothing where it is none, or not the same all along.
std::optional<std::pair<gp_Pnt, double>> sectionArcOf(const BRepAdaptor_Surface& s,
                                                      const SectionPlane& across) {
    if (!across.circle) {
        if (s.GetType() != GeomAbs_Cylinder ||
            !s.Cylinder().Axis().Direction().IsParallel(across.along, kAlongEdge))
            return std::nullopt;
        const gp_Pnt o = s.Cylinder().Location();
        const gp_Vec along(across.along);
        return std::pair(o.Translated(along * gp_Vec(o, across.at).Dot(along)), s.Cylinder().Radius());
    }
    const gp_Circ& circle = *across.circle;
    if (s.GetType() == GeomAbs_Sphere && gp_Lin(circle.Axis()).Distance(s.Sphere().Location()) < kAlongEdge)
        return std::pair(s.Sphere().Location(), s.Sphere().Radius());
    if (s.GetType() != GeomAbs_Torus || !isAboutCircle(s.Torus().Axis(), circle)) return std::nullopt;
    return std::pair(s.Torus().Location().Translated(gp_Vec(across.x) * s.Torus().MajorRadius()),
                     s.Torus().MinorRadius());
}

std::optional<SectionSide> sectionSideOf(const TopoDS_Face& face, const TopoDS_Edge& edge,
                                         const SectionPlane& across) {
    const auto out = normalBeside(edge, face);
    const TopoDS_Edge in = asIn(face, edge);
    if (!out || in.IsNull()) return std::nullopt;
    gp_Vec along(across.along);
    if (in.Orientation() == TopAbs_REVERSED) along.Reverse();
    SectionSide side{
        across.flat(*out).Normalized(), across.flat(out->Crossed(along)).Normalized(), false, {}, 0};
    const BRepAdaptor_Surface s(face, false);
    if (isStraightAcross(s, across)) return side;
    const auto arc = sectionArcOf(s, across);
    if (!arc) return std::nullopt;
    side.bent = true;
    side.centre = across.flat(arc->first);
    side.radius = arc->second;
    return side;
}

/// Where two sides meet that are moved outward by a length, next to the edge.
std::optional<gp_XY> movedSectionCorner(const SectionSide& a, const SectionSide& b, double by) {
    constexpr double kParallel = 1e-6;
    if (a.bent && !b.bent) return movedSectionCorner(b, a, by);
    if (!a.bent && !b.bent) {
        const double det = a.outward.Crossed(b.outward);
        if (std::fabs(det) < kParallel) return std::nullopt;
        return gp_XY(by * (b.outward.Y() - a.outward.Y()) / det, by * (a.outward.X() - b.outward.X()) / det);
    }
    const double rb = b.movedRadius(by);
    if (rb <= kParallel) return std::nullopt;
    gp_XY foot, way; // of the line on which the two places lie; half of their distance along it
    double square = 0;
    if (!a.bent) {
        const double off = by - a.outward.Dot(b.centre);
        foot = b.centre + a.outward * off;
        way = gp_XY(-a.outward.Y(), a.outward.X());
        square = rb * rb - off * off;
    } else {
        const double ra = a.movedRadius(by), apart = (b.centre - a.centre).Modulus();
        if (ra <= kParallel || apart <= kParallel) return std::nullopt;
        const gp_XY to = (b.centre - a.centre) / apart;
        const double off = (ra * ra - rb * rb + apart * apart) / (2 * apart);
        foot = a.centre + to * off;
        way = gp_XY(-to.Y(), to.X());
        square = ra * ra - off * off;
    }
    if (square <= 0) return std::nullopt;
    const gp_XY p = foot + way * std::sqrt(square), q = foot - way * std::sqrt(square);
    return p.Modulus() < q.Modulus() ? p : q;
}

/// A round's section: the ball's middle, where it touches the sides, and its nearest place to the edge.
struct RoundSection {
    gp_XY centre, nearest;
    std::array<gp_XY, 2> touches;
};

std::optional<RoundSection> roundSectionOf(const std::array<SectionSide, 2>& sides, double radius,
                                           bool hollow) {
    constexpr double kLeast = 1e-4; // mm
    const double out = hollow ? radius : -radius;
    const auto centre = movedSectionCorner(sides[0], sides[1], out);
    if (!centre || centre->Modulus() < radius + kLeast) return std::nullopt;
    RoundSection s{*centre, *centre * (1 - radius / centre->Modulus()), {}};
    for (std::size_t i = 0; i < 2; ++i) {
        s.touches[i] = *centre - sides[i].normalAt(*centre) * out;
        if (s.touches[i].Dot(sides[i].into) < kLeast) return std::nullopt;
    }
    return s;
}

gp_XY onSectionArc(const SectionSide& side, const gp_XY& near) {
    return side.centre + (near - side.centre).Normalized() * side.radius;
}

/// Places of a side from the edge to the ball's touch, both left out.
std::vector<gp_XY> placesToTouch(const SectionSide& side, const gp_XY& touch) {
    std::vector<gp_XY> out;
    for (const double share : {0.1, 0.35, 0.65, 0.999}) {
        const gp_XY p = touch * share;
        out.push_back(side.bent ? onSectionArc(side, p) : p);
    }
    return out;
}

/// The section's border: a side, the ball's arc, the other side, with the corners that they share.
std::vector<TopoDS_Edge> sectionBorder(const std::array<SectionSide, 2>& sides, const RoundSection& section,
                                       const SectionPlane& across) {
    const std::array<gp_Pnt, 3> places{across.at, across.inSpace(section.touches[0]),
                                       across.inSpace(section.touches[1])};
    std::array<TopoDS_Vertex, 3> corners;
    for (std::size_t i = 0; i < 3; ++i) corners[i] = BRepBuilderAPI_MakeVertex(places[i]).Vertex();
    const auto arc = [&](std::size_t from, const gp_XY& middle, std::size_t to) {
        return BRepBuilderAPI_MakeEdge(
                   GC_MakeArcOfCircle(places[from], across.inSpace(middle), places[to]).Value(),
                   corners[from], corners[to])
            .Edge();
    };
    const auto side = [&](std::size_t i) -> TopoDS_Edge {
        if (!sides[i].bent) return BRepBuilderAPI_MakeEdge(corners[0], corners[i + 1]).Edge();
        return arc(0, onSectionArc(sides[i], section.touches[i] * 0.5), i + 1);
    };
    return {side(0), arc(1, section.nearest, 2), side(1)};
}

/// Does the section stay on one side of the axis that it is turned about?
bool clearsAxis(const RoundSection& s, double radius, const SectionPlane& across) {
    if (!across.circle) return true;
    constexpr int kLooks = 8;
    const double axis = -across.circle->Radius();
    for (const gp_XY& touch : s.touches)
        for (int k = 0; k <= kLooks; ++k) {
            const gp_XY way =
                (touch - s.centre) * (double(k) / kLooks) + (s.nearest - s.centre) * (1 - double(k) / kLooks);
            if (s.centre.X() + way.Normalized().X() * radius - axis < kAlongEdge) return false;
        }
    return true;
}

} // namespace

std::array<std::vector<gp_Pnt>, 2> RoundSliver::across(double share) const {
    const gp_Trsf move = alongEdge(edge, share);
    auto out = atMiddle;
    for (auto& places : out)
        for (gp_Pnt& p : places) p.Transform(move);
    return out;
}

std::optional<RoundSliver> roundSliver(const NamedShape& s, const TopoDS_Edge& edge, double radius) {
    const auto faces = facesBeside(s, edge);
    const BRepAdaptor_Curve curve(edge);
    const auto across = sectionPlaneOf(curve);
    if (faces.size() != 2 || !across) return std::nullopt;
    const auto a = sectionSideOf(TopoDS::Face(faces[0]), edge, *across),
               b = sectionSideOf(TopoDS::Face(faces[1]), edge, *across);
    if (!a || !b) return std::nullopt;
    const std::array<SectionSide, 2> sides{*a, *b};
    const auto section = roundSectionOf(sides, radius, isHollow(s, edge));
    if (!section || !clearsAxis(*section, radius, *across)) return std::nullopt;
    RoundSliver out;
    out.edge = edge;
    double reach = 0;
    for (std::size_t i = 0; i < 2; ++i) {
        for (const gp_XY& p : placesToTouch(sides[i], section->touches[i]))
            out.atMiddle[i].push_back(across->inSpace(p));
        reach = std::max(reach, section->touches[i].Modulus());
    }
    out.within = across->inSpace(section->nearest * 0.5);
    constexpr double kBeyond = 4; // times the reach: what the edge ends at may lean
    const SweptSection swept =
        sweptAlong(edge, *across, sectionBorder(sides, *section, *across), kBeyond * reach);
    out.solid = swept.solid;
    out.ends = swept.ends;
    out.walls = {swept.made[0], swept.made[2]};
    out.round = swept.made[1];
    return out;
}

} // namespace gc
