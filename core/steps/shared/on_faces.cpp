#include "core/steps/shared/on_faces.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/kernel.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Builder.hxx>
#include <Extrema_ExtPS.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <TopoDS_Compound.hxx>
#include <gp_Lin.hxx>

#include <cmath>
#include <functional>
#include <memory>
#include <optional>

namespace gc {

namespace {

constexpr double kLaid = 1e-5; // mm: how near to the true place

struct Laid {
    gp_Pnt at;
    std::size_t face = 0;
};
using Lay = std::function<std::optional<Laid>(const gp_Pnt&)>;

Error missed(const gp_Pnt& at) {
    Error e = errorOf("curve.miss",
                      "A part of the line does not come onto the faces. Pick more of them, or end the "
                      "line before.");
    e.place = toVec(at);
    return e;
}

/// The lengths at which a piece comes from one face onto another, to a hundredth of a micrometre.
Result<std::vector<double>> changesOf(const LengthCurve& piece, const Lay& lay) {
    constexpr int kLooks = 64;
    std::vector<double> out{0};
    auto before = lay(piece.at(0));
    if (!before) return missed(piece.at(0));
    for (int i = 1; i <= kLooks; ++i) {
        const double to = piece.length() * i / kLooks;
        auto now = lay(piece.at(to));
        if (!now) return missed(piece.at(to));
        if (now->face != before->face) {
            double a = piece.length() * (i - 1) / kLooks, b = to;
            for (int k = 0; k < 40 && b - a > 1e-8; ++k) {
                const double m = 0.5 * (a + b);
                const auto middle = lay(piece.at(m));
                if (!middle) return missed(piece.at(m));
                (middle->face == before->face ? a : b) = m;
            }
            const auto left = lay(piece.at(a)), right = lay(piece.at(b));
            if (!left || !right || left->at.Distance(right->at) > 1e-3) {
                Error e = errorOf("curve.jump",
                                  "The line jumps from one face to another that lies further away. End it "
                                  "before, or lay it on one of them.");
                e.place = toVec(piece.at(a));
                return e;
            }
            out.push_back(0.5 * (a + b));
        }
        before = now;
    }
    out.push_back(piece.length());
    return out;
}

/// How a piece is only moved, as by a flat face that it lies before: then it stays the line or the arc that
/// it is.
std::optional<gp_Vec> shiftOf(const LengthCurve& piece, double from, double to,
                              const std::function<gp_Pnt(double)>& place) {
    constexpr int kLooks = 32;
    const gp_Vec first(piece.at(from), place(from));
    for (int i = 1; i <= kLooks; ++i) {
        const double s = from + (to - from) * i / kLooks;
        if ((gp_Vec(piece.at(s), place(s)) - first).Magnitude() > 0.1 * kKernelPoint) return std::nullopt;
    }
    return first;
}

Result<SpacePieces> laid(const Path& line, const Lay& lay) {
    SpacePieces out;
    out.closed = line.closed();
    for (const PathPiece& p : line.pieces()) {
        const auto changes = changesOf(p.curve, lay);
        if (!changes) return changes.error();
        for (std::size_t i = 0; i + 1 < changes->size(); ++i) {
            const double from = (*changes)[i], to = (*changes)[i + 1];
            std::vector<double> breaks{from};
            for (const double b : p.curve.breaks())
                if (b > from + 1e-6 && b < to - 1e-6) breaks.push_back(b);
            breaks.push_back(to);
            bool all = true;
            const auto place = [&](double s) {
                const auto found = lay(p.curve.at(s));
                all = all && found;
                return found ? found->at : p.curve.at(s);
            };
            if (const auto shift = shiftOf(p.curve, from, to, place); shift && all) {
                const Handle(Geom_Curve) same =
                    Handle(Geom_Curve)::DownCast(p.curve.curve()->Translated(*shift));
                out.curves.emplace_back(same, p.curve.parameterAt(from), p.curve.parameterAt(to));
                continue;
            }
            const auto direction = directionFor(
                breaks, [&](double s) { return std::vector{place(s)}; }, kLaid);
            if (!all) return missed(p.curve.at(from));
            if (!direction)
                return errorOf("curve.uneven", "The faces are too uneven for this line. Lay it elsewhere.");
            std::vector<gp_Pnt> places;
            for (const double s : direction->points()) places.push_back(place(s));
            const Handle(Geom_Curve) fitted = curveThroughPlaces(*direction, places);
            out.curves.push_back(LengthCurve(fitted, fitted->FirstParameter(), fitted->LastParameter()));
        }
    }
    return out;
}

/// Square to the plane that a line lies in; of a straight one, level if that can be.
gp_Dir squareTo(const Path& line) {
    std::vector<gp_Pnt> places;
    for (const PathPiece& p : line.pieces())
        for (int i = 0; i < 16; ++i) places.push_back(p.curve.at(p.curve.length() * i / 16));
    places.push_back(line.pieces().back().curve.end());
    // The normal of what it encloses with the chord from end to end, as the sum of triangles.
    gp_Vec sum;
    for (std::size_t i = 1; i + 1 < places.size(); ++i)
        sum += gp_Vec(places.front(), places[i]).Crossed(gp_Vec(places.front(), places[i + 1]));
    if (sum.Magnitude() > 1e-6) return gp_Dir(sum);
    const gp_Vec along(places.front(), places.back());
    const gp_Vec level(-along.Y(), along.X(), 0);
    return level.Magnitude() > 1e-9 * along.Magnitude() ? gp_Dir(level) : gp_Dir(0, 1, 0);
}

/// Square to the drawing that it is a line of.
std::optional<gp_Dir> squareToDrawing(const References& line, ModelReader& model) {
    const auto ref = line.empty() ? Result<EdgeRef>(Error{}) : parseEdgeRef(line.front());
    if (!ref || (ref->kind != EdgeRef::Kind::Stroke && ref->kind != EdgeRef::Kind::Chain))
        return std::nullopt;
    const Outline* drawn = model.outline({ref->step, 0});
    if (!drawn) return std::nullopt;
    const Vec3 n = drawn->plane.normal();
    return gp_Dir(n.x, n.y, n.z);
}

} // namespace

Result<SpacePieces> laidAhead(const Path& line, const std::vector<TopoDS_Face>& faces, const gp_Dir& ahead) {
    std::vector<std::unique_ptr<IntCurvesFace_ShapeIntersector>> crossing;
    for (const TopoDS_Face& f : faces) {
        crossing.push_back(std::make_unique<IntCurvesFace_ShapeIntersector>());
        crossing.back()->Load(f, kKernelPoint);
    }
    constexpr double kFar = 1e5;
    // Of the places that it meets those nearest to the line, on the same side of it all along.
    const auto nearest = [&](const gp_Pnt& from, double low, double high) {
        std::optional<Laid> best;
        double least = 1e300;
        for (std::size_t f = 0; f < crossing.size(); ++f) {
            crossing[f]->Perform(gp_Lin(from, ahead), low, high);
            for (int i = 1; crossing[f]->IsDone() && i <= crossing[f]->NbPnt(); ++i)
                if (const double w = std::fabs(crossing[f]->WParameter(i)); w < least) {
                    least = w;
                    best = Laid{crossing[f]->Pnt(i), f};
                }
        }
        return best;
    };
    const gp_Pnt start = line.start();
    const auto forward = nearest(start, -1e-6, kFar), back = nearest(start, -kFar, 1e-6);
    const bool goesBack = !forward || (back && back->at.Distance(start) < forward->at.Distance(start));
    return laid(
        line, [&](const gp_Pnt& p) { return goesBack ? nearest(p, -kFar, 1e-6) : nearest(p, -1e-6, kFar); });
}

namespace {

/// The nearest place of a face; its surface's samples are taken once.
class Nearest {
  public:
    explicit Nearest(const TopoDS_Face& face) : m_face(face), m_inside(face, kKernelPoint) {
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(face, u0, u1, v0, v1);
        m_surface.Initialize(face, false);
        m_nearest.Initialize(m_surface, u0, u1, v0, v1, kKernelPoint, kKernelPoint);
        m_nearest.SetFlag(Extrema_ExtFlag_MIN);
    }

    std::optional<gp_Pnt> of(const gp_Pnt& p) {
        m_nearest.Perform(p);
        double least = 1e300;
        std::optional<gp_Pnt> best;
        for (int i = 1; m_nearest.IsDone() && i <= m_nearest.NbExt(); ++i) {
            double u = 0, v = 0;
            m_nearest.Point(i).Parameter(u, v);
            if (m_nearest.SquareDistance(i) >= least || m_inside.Perform(gp_Pnt2d(u, v)) == TopAbs_OUT)
                continue;
            least = m_nearest.SquareDistance(i);
            best = m_nearest.Point(i).Value();
        }
        return best ? best : onBorder(p);
    }

  private:
    /// Beyond the border of the face the nearest place is on it.
    std::optional<gp_Pnt> onBorder(const gp_Pnt& p) const {
        const BRepExtrema_DistShapeShape distance(BRepBuilderAPI_MakeVertex(p).Shape(), m_face);
        if (!distance.IsDone() || distance.NbSolution() == 0) return std::nullopt;
        return distance.PointOnShape2(1);
    }

    TopoDS_Face m_face;
    BRepTopAdaptor_FClass2d m_inside;
    BRepAdaptor_Surface m_surface;
    Extrema_ExtPS m_nearest;
};

} // namespace

Result<SpacePieces> laidSquarely(const Path& line, const std::vector<TopoDS_Face>& faces) {
    std::vector<std::unique_ptr<Nearest>> nearest;
    for (const TopoDS_Face& f : faces) nearest.push_back(std::make_unique<Nearest>(f));
    return laid(line, [&](const gp_Pnt& p) -> std::optional<Laid> {
        std::optional<Laid> best;
        for (std::size_t f = 0; f < nearest.size(); ++f)
            if (const auto at = nearest[f]->of(p); at && (!best || p.Distance(*at) < p.Distance(best->at)))
                best = Laid{*at, f};
        return best;
    });
}

Result<SpacePieces> laidBy(const Arguments& args, const std::vector<TopoDS_Face>& faces, ModelReader& model) {
    const References& refs = args.references("line");
    if (refs.empty())
        return errorOf("curve.line",
                       "Pick the line that is laid onto the faces: strokes of a drawing, a curve, or "
                       "edges.");
    const auto line = findPath(refs, model);
    if (!line) return line.error();
    if (args.text("towards") == "square to them") return laidSquarely(*line, faces);
    const auto drawn = squareToDrawing(refs, model);
    return laidAhead(*line, faces, drawn ? *drawn : squareTo(*line));
}

} // namespace gc
