#include "core/steps/shared/deformed.hpp"

#include "core/model/arguments.hpp"
#include "core/shape/breaks_of.hpp"
#include "core/shape/extremes.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/kept_parameters.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepTools.hxx>
#include <BRepTools_Modifier.hxx>
#include <Geom_Plane.hxx>
#include <TopoDS.hxx>
#include <gp_Ax3.hxx>

#include <algorithm>

namespace gc {

namespace {

constexpr double kFits[] = {5e-6, 5e-5}; // mm
constexpr double kTogether = 3e-5;       // mm: an edge's own curve and those of its faces, each within a fit
constexpr int kMost = 2000;              // poles in a row

class Deform : public KeptParameters {
  public:
    Deform(const Deformation& by, const Stop& stop) : m_by(by), m_stop(stop) {}

    /// Nothing else is done once a fit has failed.
    const TopoDS_Shape& rough() const { return m_rough; }

    Standard_Boolean NewSurface(const TopoDS_Face& face, Handle(Geom_Surface) & surface,
                                TopLoc_Location& place, Standard_Real& tolerance,
                                Standard_Boolean& reverseWires, Standard_Boolean& reverseFace) override {
        reverseWires = reverseFace = false;
        place = TopLoc_Location();
        tolerance = std::max(BRep_Tool::Tolerance(face), kTogether);
        const Handle(Geom_Surface) was = BRep_Tool::Surface(face);
        if (const auto plane = Handle(Geom_Plane)::DownCast(was); !plane.IsNull())
            if (const auto moved = m_by.moves(plane->Pln())) {
                surface = Handle(Geom_Surface)::DownCast(was->Transformed(*moved));
                return true;
            }
        surface = fitted(face);
        if (!surface.IsNull()) return true;
        if (m_rough.IsNull()) m_rough = face;
        surface = was;
        return true;
    }
    Standard_Boolean NewCurve(const TopoDS_Edge& edge, Handle(Geom_Curve) & curve, TopLoc_Location& place,
                              Standard_Real& tolerance) override {
        if (BRep_Tool::Degenerated(edge)) return false;
        place = TopLoc_Location();
        tolerance = std::max(BRep_Tool::Tolerance(edge), kTogether);
        const BRepAdaptor_Curve was(edge);
        double a = 0, b = 0;
        BRep_Tool::Range(edge, a, b);
        const auto at = [&](double t) { return std::vector{m_by.place(was.Value(t))}; };
        const auto breaks =
            breaksOf(was, &BRepAdaptor_Curve::NbIntervals, &BRepAdaptor_Curve::Intervals, a, b);
        for (const double tolerances : kFits)
            if (const auto direction = directionFor(breaks, at, tolerances, kMost)) {
                curve = curvesThrough(*direction, at).front();
                return true;
            }
        if (m_rough.IsNull()) m_rough = edge;
        return false;
    }
    Standard_Boolean NewPoint(const TopoDS_Vertex& vertex, gp_Pnt& point, Standard_Real& tolerance) override {
        point = m_by.place(BRep_Tool::Pnt(vertex));
        tolerance = std::max(BRep_Tool::Tolerance(vertex), 2 * kTogether);
        return true;
    }
    GeomAbs_Shape Continuity(const TopoDS_Edge& edge, const TopoDS_Face& a, const TopoDS_Face& b,
                             const TopoDS_Edge&, const TopoDS_Face&, const TopoDS_Face&) override {
        return std::min(BRep_Tool::Continuity(edge, a, b), GeomAbs_G1);
    }
    DEFINE_STANDARD_RTTI_INLINE(Deform, KeptParameters)

  private:
    bool changes(const TopoDS_Face&) const override { return true; }
    double leastTolerance() const override { return kTogether; }

    Handle(Geom_Surface) fitted(const TopoDS_Face& face) const {
        constexpr int kAcross = 9; // places of the other parameter that a direction is fitted by
        if (m_stop && m_stop()) return {};
        const BRepAdaptor_Surface was(face, false);
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(face, u0, u1, v0, v1);
        const auto ub = breaksOf(was, &BRepAdaptor_Surface::NbUIntervals, &BRepAdaptor_Surface::UIntervals,
                                 u0, u1),
                   vb = breaksOf(was, &BRepAdaptor_Surface::NbVIntervals, &BRepAdaptor_Surface::VIntervals,
                                 v0, v1);
        const auto across = [&](double from, double to, const std::function<gp_Pnt(double)>& at) {
            std::vector<gp_Pnt> out;
            for (int i = 0; i < kAcross; ++i) out.push_back(at(from + (to - from) * i / (kAcross - 1)));
            return out;
        };
        const auto place = [&](double u, double v) { return m_by.place(was.Value(u, v)); };
        for (const double tolerance : kFits) {
            const auto u = directionFor(
                ub, [&](double at) { return across(v0, v1, [&](double v) { return place(at, v); }); },
                tolerance, kMost);
            const auto v = directionFor(
                vb, [&](double at) { return across(u0, u1, [&](double x) { return place(x, at); }); },
                tolerance, kMost);
            if (!u || !v) continue;
            std::vector<std::vector<gp_Pnt>> places;
            for (const double x : u->points()) {
                places.emplace_back();
                for (const double y : v->points()) places.back().push_back(place(x, y));
            }
            return surfaceThrough(*u, *v, places);
        }
        return {};
    }

    const Deformation& m_by;
    Stop m_stop;
    TopoDS_Shape m_rough;
};

} // namespace

Result<Body> deformed(const Body& body, const Deformation& by, const Progress& progress) {
    const NamedShape& s = body.shape();
    const Handle(Deform) work = new Deform(by, progress.stop());
    BRepTools_Modifier modifier(s.shape, work);
    if (progress.stopped()) return stoppedError();
    if (!work->rough().IsNull() || !modifier.IsDone()) {
        Error e = errorOf("deform.rough",
                          "A face cannot follow closely enough: it would take too many pieces. Use a smaller "
                          "angle, or a longer range.");
        if (!work->rough().IsNull() && work->rough().ShapeType() == TopAbs_FACE)
            e.culprits.push_back(s.wordsFor(work->rough()));
        return e;
    }
    NameBuilder names(modifier.ModifiedShape(s.shape));
    for (int i = 1; i <= s.faces.Extent(); ++i)
        names.add(modifier.ModifiedShape(s.faces(i)), s.namesOf(s.faces(i)));
    return names.finish();
}

std::pair<double, double> reachAlong(const TopoDS_Shape& shape, const Vec3& origin, const Vec3& direction) {
    const gp_Dir along(direction.x, direction.y, direction.z);
    gp_Trsf turn; // the direction becomes the first axis
    turn.SetTransformation(
        gp_Ax3(gp_Pnt(origin.x, origin.y, origin.z), gp_Ax2(gp::Origin(), along).XDirection(), along));
    const Box box = extentOf(BRepBuilderAPI_Transform(shape, turn, true).Shape());
    return {box.low.x, box.high.x};
}

} // namespace gc
