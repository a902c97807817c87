#include "core/steps/shared/relief.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/laid_line.hpp"

#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_BSplineSurface.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// A side of an area between its near and its far line.
struct LaidSide {
    LaidLine near, far;
    int stroke = 0;
    bool closed = false;
};

/// The surface between two lines of a side.
Handle(Geom_BSplineSurface) between(const LaidSide& side) {
    const Handle(Geom_BSplineCurve)& a = side.near.curve, &b = side.far.curve;
    TColgp_Array2OfPnt poles(1, a->NbPoles(), 1, 2);
    for (int i = 1; i <= a->NbPoles(); ++i) poles(i, 1) = a->Pole(i), poles(i, 2) = b->Pole(i);
    TColStd_Array1OfReal across(1, 2);
    across(1) = 0, across(2) = 1;
    TColStd_Array1OfInteger ends(1, 2);
    ends.Init(2);
    return new Geom_BSplineSurface(poles, a->Knots(), across, a->Multiplicities(), ends, a->Degree(), 1);
}

class Maker {
  public:
    Maker(const TopoDS_Face& face, const Outline& outline, const Laying& laying, const ReliefShape& shape,
          const LiftedSurface& top, double fit)
        : m_face(face), m_forward(TopoDS::Face(face.Oriented(TopAbs_FORWARD))),
          m_surface(BRep_Tool::Surface(face)), m_wall(m_surface), m_over(top.surface), m_outline(outline),
          m_laying(laying), m_shape(shape), m_top(top), m_fit(fit) {}

    Result<Relief> run(const Region& area) {
        const auto sides = FarSides::of(area, m_shape);
        if (!sides) return sides.error();
        m_out.area = &area;
        m_builder.MakeFace(m_far, m_top.surface, std::max(kKernelPoint, m_top.off));
        for (std::size_t l = 0; l < sides->loops().size(); ++l) {
            std::vector<LaidSide> laid;
            for (std::size_t i = 0; i < sides->loops()[l].size(); ++i) {
                auto one = lay(*sides, l, i);
                if (!one) return one.error();
                laid.push_back(std::move(*one));
            }
            addLoop(laid, *sides, l);
        }
        // The far side looks where the wall did, raised or sunk.
        m_out.faces.push_back({TopoDS::Face(m_far.Oriented(m_face.Orientation())), {farRole(area, m_shape)}});
        return std::move(m_out);
    }

  private:
    Result<LaidSide> lay(const FarSides& sides, std::size_t l, std::size_t i) {
        const SurfacePlace about = aboutWhere(sides.near(l, i, 0));
        const gp_Vec2d scale(std::max(1e-6, about.du.Magnitude()), std::max(1e-6, about.dv.Magnitude()));
        std::optional<Vec2> missed;
        const auto uvOf = [&](Vec2 p) {
            const auto at = m_laying.at(p);
            if (!at && !missed) missed = p;
            return at.value_or(about.uv);
        };
        const auto four = [&](double t) {
            const gp_Pnt2d n = uvOf(sides.near(l, i, t)), f = uvOf(sides.far(l, i, t));
            return std::vector{m_wall.Value(n.X(), n.Y()), gp_Pnt(n.X() * scale.X(), n.Y() * scale.Y(), 0),
                               m_over.Value(f.X(), f.Y()), gp_Pnt(f.X() * scale.X(), f.Y() * scale.Y(), 0)};
        };
        constexpr int kMost = 400;
        const auto direction =
            directionFor(sides.breaks(l, i), four, {m_fit, 10 * m_fit, 100 * m_fit}, kMost);
        if (missed) {
            Error e = errorOf("emboss.miss", "A part of the drawing does not come onto the wall.");
            const Vec3 at = m_outline.plane.at(*missed);
            e.place = at;
            return e;
        }
        if (!direction)
            return errorOf("emboss.uneven",
                           "The wall is too uneven for this drawing. Lay it where the wall is more even.");
        const auto curves = curvesThrough(*direction, four);
        LaidSide out;
        out.near = {curves[0], inParameters(curves[1], scale)};
        out.far = {curves[2], inParameters(curves[3], scale)};
        out.near.off = offBetween(out.near, m_surface);
        out.far.off = offBetween(out.far, m_top.surface);
        out.stroke = sides.loops()[l][i].stroke();
        out.closed = sides.loops()[l].size() == 1;
        return out;
    }
    SurfacePlace aboutWhere(Vec2 p) const {
        const auto at = m_laying.at(p);
        return placeOf(*m_surface, at.value_or(gp_Pnt2d()));
    }

    void addLoop(const std::vector<LaidSide>& sides, const FarSides& drawn, std::size_t l) {
        std::vector<LaidLine> feet, crests;
        for (const LaidSide& s : sides) feet.push_back(s.near), crests.push_back(s.far);
        const LaidLoop loop = laidLoop(feet, crests, m_forward, m_far);
        const bool left = turnOf(feet) > 0; // counter-clockwise in the wall's parameters
        if (l == 0) {
            m_out.loop = wireOf(loop.foot, left);
        } else { // what a counter leaves of the wall
            TopoDS_Face island = TopoDS::Face(m_face.EmptyCopied().Oriented(TopAbs_FORWARD));
            m_builder.Add(island, wireOf(loop.foot, !left));
            m_out.islands.push_back(TopoDS::Face(island.Oriented(m_face.Orientation())));
        }
        m_builder.Add(m_far, wireOf(loop.crest, left != (l == 0)));
        for (std::size_t i = 0; i < sides.size(); ++i) addSide(sides[i], loop, i, outwardOf(drawn, l, i));
    }

    /// In space, away from the material that the side bounds, where it begins to rise.
    gp_Vec outwardOf(const FarSides& drawn, std::size_t l, std::size_t i) const {
        constexpr double kAside = 1e-3; // mm
        const Vec2 p = drawn.near(l, i, 0.5), left = leftOf(drawn.loops()[l][i].heading(0.5));
        // The area lies to the left, and with it the material of what is raised.
        const auto a = m_laying.at(p), b = m_laying.at(p - left * kAside);
        if (!a || !b) return {};
        const gp_Vec away(m_surface->Value(a->X(), a->Y()), m_surface->Value(b->X(), b->Y()));
        return m_shape.height > 0 ? away : -away;
    }

    void addSide(const LaidSide& side, const LaidLoop& loop, std::size_t i, const gp_Vec& outward) {
        const TopoDS_Edge &foot = loop.foot[i], &crest = loop.crest[i], &before = loop.up[i],
                          &after = loop.up[(i + 1) % loop.up.size()];
        const Handle(Geom_BSplineSurface) surface = between(side);
        TopoDS_Face face;
        m_builder.MakeFace(face, surface, kKernelPoint);
        m_builder.UpdateEdge(foot, straightLaid({0, 0}, {1, 0}, 0, 1), face, BRep_Tool::Tolerance(foot));
        m_builder.UpdateEdge(crest, straightLaid({0, 1}, {1, 1}, 0, 1), face, BRep_Tool::Tolerance(crest));
        const auto upAt = [&](double x, const TopoDS_Edge& e) {
            double a = 0, b = 0;
            BRep_Tool::Range(e, a, b);
            return straightLaid({x, 0}, {x, 1}, a, b);
        };
        const double tolerance = side.near.off + side.far.off;
        if (side.closed) {
            m_builder.UpdateEdge(after, upAt(1, after), upAt(0, after), face, tolerance);
        } else {
            m_builder.UpdateEdge(after, upAt(1, after), face, tolerance);
            m_builder.UpdateEdge(before, upAt(0, before), face, tolerance);
        }
        m_builder.Add(face, borderOfSide(loop, i));
        const auto normal = placeOf(*surface, {0.5, 0.5}).normal();
        if (normal && normal->Dot(outward) < 0) face.Reverse();
        m_out.faces.push_back({face, m_outline.rolesOf(side.stroke)});
    }

    TopoDS_Face m_face, m_forward;
    Handle(Geom_Surface) m_surface;
    GeomAdaptor_Surface m_wall, m_over; // adaptors keep what they worked out for the places near the last
    const Outline& m_outline;
    const Laying& m_laying;
    const ReliefShape& m_shape;
    const LiftedSurface& m_top;
    double m_fit; // mm
    BRep_Builder m_builder;
    TopoDS_Face m_far;
    Relief m_out;
};

} // namespace

std::string farRole(const Region& area, const ReliefShape& shape) {
    const std::vector<int> strokes = area.strokes();
    return (shape.height > 0 ? "top " : "floor ") +
           std::to_string(strokes.empty() ? 0 : *std::min_element(strokes.begin(), strokes.end()));
}

Result<Relief> reliefOn(const TopoDS_Face& face, const Outline& outline, const Region& area,
                        const Laying& laying, const ReliefShape& shape, const LiftedSurface& top,
                        double fit) {
    return Maker(face, outline, laying, shape, top, fit).run(area);
}

} // namespace gc
