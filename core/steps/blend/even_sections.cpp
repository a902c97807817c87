#include "core/steps/blend/even_sections.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/blend/pieces.hpp"
#include "core/steps/shared/edge_work.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopoDS.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr int kPoles = 6;              // across
constexpr int kMostSectionPoles = 300; // along

/// A rail of a round, from 0 to 1 along the chain.
class Rail {
  public:
    Rail(const RoundPiece& piece, std::size_t side) : m_ahead(piece.ahead[side]), m_face(piece.beside[side]) {
        m_curve = BRep_Tool::Curve(piece.rails[side], m_from, m_to);
        double a = 0, b = 0;
        m_beside = BRep_Tool::CurveOnSurface(piece.rails[side], piece.beside[side], a, b);
        m_round = BRep_Tool::CurveOnSurface(piece.rails[side], piece.round, a, b);
    }
    gp_Pnt at(double t) const { return m_curve->Value(parameter(t)); }
    /// Along the chain, of length 1. Fitted rails may end in a tiny hook: there it is taken from before.
    gp_Vec tangent(double t) const {
        constexpr double kHook = 0.004, kBeside = 0.001;
        const double from = std::clamp(t, kHook, 1 - kHook);
        if (from == t) return direction(t);
        const double beside = from + (t < from ? kBeside : -kBeside);
        return (direction(from) + (direction(beside) - direction(from)) * ((t - from) / (beside - from)))
            .Normalized();
    }
    gp_Pnt2d onRound(double t) const { return m_round->Value(parameter(t)); }
    SurfacePlace place(double t) const {
        const gp_Pnt2d near = m_beside->Value(parameter(t));
        const auto foot = footPoint(m_face.surface(), at(t), near, false);
        return foot ? *foot : placeOf(m_face.surface(), near);
    }
    gp_Vec outward(const SurfacePlace& place) const { return m_face.outward(place).value_or(gp_Vec()); }
    double length() const {
        double sum = 0;
        constexpr int kParts = 32;
        for (int i = 0; i < kParts; ++i) sum += at(double(i) / kParts).Distance(at(double(i + 1) / kParts));
        return sum;
    }

  private:
    gp_Vec direction(double t) const {
        gp_Pnt p;
        gp_Vec d;
        m_curve->D1(parameter(t), p, d);
        return (m_ahead ? d : -d).Normalized();
    }
    double parameter(double t) const { return m_from + (m_ahead ? t : 1 - t) * (m_to - m_from); }

    bool m_ahead;
    FaceSurface m_face;
    Handle(Geom_Curve) m_curve;
    Handle(Geom2d_Curve) m_beside, m_round;
    double m_from = 0, m_to = 1;
};

/// The sections of one piece: quintic curves whose ends have the place, the tangent and the curvature of the
/// faces beside them (Farin: Curves and surfaces for CAGD, 4.3: derivatives of Bézier curves at their ends).
class Sections {
  public:
    /// \param ends where the piece ends on flat faces: their normals
    Sections(const RoundPiece& piece, double tension, const std::array<std::optional<gp_Vec>, 2>& ends)
        : m_rails{Rail(piece, 0), Rail(piece, 1)}, m_tension(tension), m_ends(ends) {
        const gp_Pnt2d a = m_rails[0].onRound(0), b = m_rails[0].onRound(1);
        m_alongU = std::fabs(b.X() - a.X()) > std::fabs(b.Y() - a.Y());
        m_offset = partner(0, 0, 1);
        m_scale = partner(1, 0, 1) - m_offset;
        const double chord = m_rails[0].at(0.5).Distance(m_rails[1].at(matching(0.5)));
        m_fade = std::min(0.5, 2 * chord / std::max(m_rails[0].length(), kSamePoint));
    }

    struct End {
        SurfacePlace place;
        gp_Vec normal, along; ///< along the section
        double curvature = 0; ///< towards the normal
    };
    std::array<End, 2> endsAt(double t) const {
        std::array<End, 2> out;
        const double other = matching(t);
        out[0].place = m_rails[0].place(t);
        out[1].place = m_rails[1].place(other);
        const gp_Vec chord(out[0].place.at, out[1].place.at);
        const gp_Vec across = planeAt(t);
        for (std::size_t s = 0; s < 2; ++s) {
            End& e = out[s];
            e.normal = m_rails[s].outward(e.place);
            e.along = e.normal.Crossed(across);
            if (e.along.Magnitude() > kNoDirection) e.along.Normalize();
            if (e.along.Dot(chord) < 0) e.along.Reverse();
            e.curvature = e.place.curvature(e.along, e.normal);
        }
        return out;
    }
    std::vector<gp_Pnt> polesAt(double t) const {
        const auto ends = endsAt(t);
        const gp_Pnt p = ends[0].place.at, q = ends[1].place.at;
        const double a = m_tension * p.Distance(q);
        const auto second = [&](const End& e) { return e.normal * (e.curvature * a * a / 20); };
        const gp_Pnt b1 = p.Translated(ends[0].along * (a / 5)), b4 = q.Translated(ends[1].along * (-a / 5));
        const gp_Pnt b2(2 * b1.XYZ() - p.XYZ() + second(ends[0]).XYZ()),
            b3(2 * b4.XYZ() - q.XYZ() + second(ends[1]).XYZ());
        return {p, b1, b2, b3, b4, q};
    }

  private:
    /// The place of the other rail that lies across from one, as the round has it.
    double partner(double t, double low, double high) const {
        const auto along = [&](std::size_t s, double x) {
            const gp_Pnt2d uv = m_rails[s].onRound(x);
            return m_alongU ? uv.X() : uv.Y();
        };
        const double wanted = along(0, t);
        const bool rising = along(1, 1) > along(1, 0);
        for (int k = 0; k < 60; ++k) {
            const double middle = 0.5 * (low + high);
            ((along(1, middle) < wanted) == rising ? low : high) = middle;
        }
        return 0.5 * (low + high);
    }
    double matching(double t) const {
        if (t <= 0 || t >= 1 || m_scale < 0.1) return t;
        return std::clamp((partner(t, 0, 1) - m_offset) / m_scale, 0.0, 1.0);
    }
    /// The normal of the plane of a section: square to the chain, at a flat end that of the end.
    gp_Vec planeAt(double t) const {
        gp_Vec out = squareAt(t);
        for (std::size_t i = 0; i < 2; ++i) {
            if (!m_ends[i]) continue;
            const double x = (i == 0 ? t : 1 - t) / m_fade;
            if (x >= 1) continue;
            gp_Vec there = *m_ends[i];
            const gp_Vec square = squareAt(i == 0 ? 0 : 1);
            if (there.Dot(square) < 0) there.Reverse();
            out += (there - square) * std::pow(1 - x, 4);
        }
        return out.Normalized();
    }
    gp_Vec squareAt(double t) const {
        const double other = matching(t);
        gp_Vec chord(m_rails[0].at(t), m_rails[1].at(other));
        gp_Vec out = m_rails[0].tangent(t) + m_rails[1].tangent(other);
        chord.Normalize();
        out -= chord * out.Dot(chord);
        return out.Normalized();
    }

    std::array<Rail, 2> m_rails;
    double m_tension;
    std::array<std::optional<gp_Vec>, 2> m_ends;
    bool m_alongU = true;
    double m_offset = 0, m_scale = 1, m_fade = 0.5;
};

Handle(Geom_BSplineSurface) skinned(const GridDirection& u, const Sections& sections) {
    const auto curves = curvesThrough(u, [&](double t) { return sections.polesAt(t); });
    const int n = curves.front()->NbPoles();
    TColgp_Array2OfPnt poles(1, n, 1, kPoles);
    for (int i = 1; i <= n; ++i)
        for (int k = 1; k <= kPoles; ++k) poles(i, k) = curves[static_cast<std::size_t>(k) - 1]->Pole(i);
    TColStd_Array1OfReal knots(1, 2);
    TColStd_Array1OfInteger times(1, 2);
    knots(1) = 0, knots(2) = 1;
    times.Init(kPoles);
    return new Geom_BSplineSurface(poles, curves.front()->Knots(), knots, curves.front()->Multiplicities(),
                                   times, curves.front()->Degree(), kPoles - 1);
}

/// Between the places where it was fitted, too.
double jumpOf(const Geom_BSplineSurface& surface, const Sections& sections) {
    constexpr int kPlaces = 100;
    double most = 0;
    for (int i = 0; i < kPlaces; ++i) {
        const double t = (i + 0.37) / kPlaces;
        const auto ends = sections.endsAt(t);
        for (std::size_t s = 0; s < 2; ++s) {
            const SurfacePlace here = placeOf(surface, {t, s == 0 ? 0.0 : 1.0});
            most =
                std::max(most, std::fabs(here.curvature(ends[s].along, ends[s].normal) - ends[s].curvature));
        }
    }
    return most;
}

Result<Strip> evenStrip(const RoundChain& chain, const NamedShape& rounded, double tension, double& jump) {
    Strip out;
    out.closed = chain.closed;
    const std::size_t n = chain.pieces.size();
    for (std::size_t i = 0; i < n; ++i) {
        const RoundPiece& p = chain.pieces[i];
        std::array<std::optional<gp_Vec>, 2> ends;
        const auto normal = [](const TopoDS_Face& f) {
            return gp_Vec(BRepAdaptor_Surface(f, false).Plane().Axis().Direction());
        };
        if (!chain.closed && i == 0) ends[0] = normal(chain.ends[0]);
        if (!chain.closed && i + 1 == n) ends[1] = normal(chain.ends[1]);
        const Sections sections(p, tension, ends);
        const auto direction = directionFor(
            {0, 1}, [&](double t) { return sections.polesAt(t); }, {2e-6, 1e-5, 5e-5}, kMostSectionPoles);
        if (!direction) {
            Error e =
                errorOf("blend.shape", "No smooth face can be laid along this edge: the faces beside it "
                                       "change too much on the way.");
            e.place = middleOf(EdgeChain{{p.rails[0]}});
            return e;
        }
        StripPiece piece;
        piece.surface = skinned(*direction, sections);
        piece.beside = p.beside;
        piece.instead = p.rails;
        piece.name = firstName(rounded, p.round);
        jump = std::max(jump, jumpOf(*piece.surface, sections));
        out.pieces.push_back(std::move(piece));
        out.joints.push_back(p.from);
        out.gone.push_back(p.round);
    }
    if (!chain.closed) {
        out.joints.push_back(chain.pieces.back().to);
        out.ends = {chain.pieces.front().first, chain.pieces.back().last};
    }
    return out;
}

} // namespace

Result<std::vector<Strip>> evenStrips(BRepFilletAPI_MakeFillet& rounds, const NamedShape& before,
                                      const NamedShape& rounded, double tension, double& jump) {
    const auto chains = roundChains(rounds, before, rounded);
    if (!chains) return chains.error();
    std::vector<Strip> out;
    for (const RoundChain& c : *chains) {
        auto strip = evenStrip(c, rounded, tension, jump);
        if (!strip) return strip.error();
        out.push_back(std::move(*strip));
    }
    return out;
}

} // namespace gc
