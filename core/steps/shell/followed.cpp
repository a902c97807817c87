#include "core/steps/shell/followed.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/extended_face.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/fitted_offset.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/laid_line.hpp"

#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <Geom_ElementarySurface.hxx>
#include <Geom_Line.hxx>
#include <Geom_OffsetSurface.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// What a surface becomes, moved; null where nothing is left of it. \param by mm along its own normal
/// \param folds where that is cut off from it, which takes more knots than anything else
Handle(Geom_Surface) movedSurface(const Handle(Geom_Surface) & surface, double by, bool folds) {
    if (!Handle(Geom_ElementarySurface)::DownCast(surface).IsNull()) return shiftedSurface(surface, by);
    for (const double tolerance : {kSurfaceFit, 10 * kSurfaceFit, 100 * kSurfaceFit, 1000 * kSurfaceFit}) {
        if (tolerance > 100 * kSurfaceFit && !folds) break;
        const auto made = plainOffset(new Geom_OffsetSurface(surface, by), tolerance);
        if (!made.IsNull()) return made;
    }
    return nullptr;
}

/// mm per parameter of a surface, about.
double scaleOf(const MovedFace& f) {
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(f.face, u0, u1, v0, v1);
    gp_Pnt p;
    gp_Vec du, dv;
    f.surface->D1((u0 + u1) / 2, (v0 + v1) / 2, p, du, dv);
    return std::max({du.Magnitude(), dv.Magnitude(), 1e-6});
}

} // namespace

Followed::Followed(const ShellPlan& plan, double beyond, Rounds rounds, bool turning)
    : m_plan(plan), m_shape(*plan.before), m_rounds(std::move(rounds)), m_turning(turning) {
    for (int i = 1; i <= m_shape.faces.Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(m_shape.faces(i));
        const double by = plan.opened.Contains(face) ? 0 : plan.offsetOf(i);
        m_faces.push_back(movedFace(face, by, beyond));
    }
}

bool Followed::follow() {
    const double wall = std::fabs(m_plan.offset);
    if (!takeBorders() || !moveCorners(m_shape, m_faces, m_borders, m_apart, wall)) return false;
    return (!m_turning || turnUsedUp(m_faces, m_borders, wall)) && moveFaces() && moveBorders();
}

std::vector<TopoDS_Shape> Followed::wiresOf(int number) const {
    std::vector<TopoDS_Shape> out;
    for (TopoDS_Iterator w(face(number).Oriented(TopAbs_FORWARD)); w.More(); w.Next())
        out.push_back(w.Value());
    return out;
}

double Followed::offFrom(const MovedFace& face, const Geom2d_Curve& line, const Geom_Curve& curve,
                         double from, double to) const {
    constexpr double kBetween = 1.5; // it may be farther off between them
    const Handle(Geom_Surface) surface = BRep_Tool::Surface(movedOf(face));
    const auto offAt = [&](double at) {
        const gp_Pnt2d uv = line.Value(at);
        return surface->Value(uv.X(), uv.Y()).Distance(curve.Value(at));
    };
    // It swings between the knots of both; where it bends a great deal over a short way, between two looks.
    const int looks = m_rounds.empty() ? 256 : 512;
    const double step = (to - from) / looks;
    std::vector<double> seen;
    for (int k = 0; k <= looks; ++k) seen.push_back(offAt(from + step * k));
    double off = *std::max_element(seen.begin(), seen.end());
    for (int k = 1; k < looks; ++k) {
        const auto i = static_cast<std::size_t>(k);
        if (seen[i] < seen[i - 1] || seen[i] < seen[i + 1] || seen[i] < off / 10) continue;
        for (int part = -8; part <= 8; ++part) off = std::max(off, offAt(from + step * (k + part / 8.0)));
    }
    return std::max(kKernelPoint, kBetween * off);
}

bool Followed::takeBorders() {
    for (int i = 1; i <= m_shape.facesOfEdge.Extent(); ++i) {
        const TopoDS_Edge edge = TopoDS::Edge(m_shape.facesOfEdge.FindKey(i).Oriented(TopAbs_FORWARD));
        if (BRep_Tool::Degenerated(edge)) return false;
        const auto faces = toVector(m_shape.facesOfEdge(i));
        const bool seam = faces.size() == 1 || (faces.size() == 2 && faces[0].IsSame(faces[1]));
        if (faces.size() != 2 && !seam) return false;
        FollowedBorder b;
        b.edge = edge;
        b.faces[0] = m_shape.faces.FindIndex(faces.front());
        b.faces[1] = m_shape.faces.FindIndex(faces.back());
        const MovedFace &one = faceOf(b, 0), &other = faceOf(b, 1);
        if (m_plan.opened.Contains(one.face) && m_plan.opened.Contains(other.face)) return false;
        if (seam && !BRep_Tool::IsClosed(edge, one.face)) return false;
        b.moves.emplace(edge, one, other);
        if (!roundEnding(b) && (roundOf(b, 0) || roundOf(b, 1))) b.moves->goOn();
        m_borders.push_back(std::move(b));
    }
    return true;
}

/// The border between two faces where a corner came apart: so short that it is straight.
bool Followed::joinApart(ApartCorner& apart) {
    const gp_Pnt a = BRep_Tool::Pnt(apart.at[0]), b = BRep_Tool::Pnt(apart.at[1]);
    const double far = a.Distance(b);
    const Handle(Geom_Curve) straight = new Geom_Line(a, gp_Vec(a, b));
    m_build.MakeEdge(apart.between, straight, kKernelPoint);
    double off = kKernelPoint;
    for (const MovedFace* f : apart.faces) {
        const gp_Pnt2d near = BRep_Tool::Parameters(apart.old, f->face);
        const auto from = besideFace(*f, a, near), to = besideFace(*f, b, near);
        if (!from || !to) return false;
        const gp_Vec2d way(from->uv, to->uv);
        if (way.Magnitude() < 1e-12) return false;
        const Handle(Geom2d_Curve) line = straightLaid(from->uv, to->uv, 0, far);
        off = std::max(off, offFrom(*f, *line, *straight, 0, far));
        m_build.UpdateEdge(apart.between, line, movedOf(*f), off);
    }
    if (off > kMovedShare * std::fabs(m_plan.offset)) return false;
    for (int i = 0; i < 2; ++i) {
        m_build.UpdateVertex(apart.at[i], off);
        m_build.Add(apart.between, apart.at[i].Oriented(i == 0 ? TopAbs_FORWARD : TopAbs_REVERSED));
    }
    m_build.Range(apart.between, 0, far);
    return true;
}

bool Followed::moveFaces() {
    for (const MovedFace& f : m_faces) {
        TopoDS_Face now;
        const auto round = m_rounds.find(static_cast<int>(&f - m_faces.data()) + 1);
        if (round != m_rounds.end()) {
            m_build.MakeFace(now, round->second->surface(), kKernelPoint);
            now.Orientation(f.face.Orientation());
        } else if (f.by == 0) {
            now = TopoDS::Face(f.face.EmptyCopied());
        } else {
            const auto surface = movedSurface(f.surface, f.reversed ? -f.by : f.by, !m_rounds.empty());
            if (surface.IsNull()) return false;
            m_build.MakeFace(now, surface, kKernelPoint);
            now.Orientation(f.face.Orientation());
        }
        m_moved.push_back(now);
    }
    return true;
}

bool Followed::moveBorders() {
    for (FollowedBorder& b : m_borders)
        if ((m_plan.stop && m_plan.stop()) || (!b.gone && !moveBorder(b))) return false;
    for (ApartCorner& a : m_apart)
        if (!joinApart(a)) return false;
    for (std::size_t i = 0; i < m_faces.size(); ++i) {
        TopoDS_Shape into = m_moved[i].Oriented(TopAbs_FORWARD);
        for (TopoDS_Iterator w(m_faces[i].face.Oriented(TopAbs_FORWARD)); w.More(); w.Next()) {
            if (w.Value().ShapeType() != TopAbs_WIRE) return false;
            m_build.Add(into, movedWire(TopoDS::Wire(w.Value()), m_faces[i]));
        }
    }
    return true;
}

bool Followed::moveBorder(FollowedBorder& b) {
    if (b.edge.IsNull() && (roundOf(b, 0) || roundOf(b, 1))) return false;
    if (const auto side = roundEnding(b)) return endRound(b, *side);
    if (movePieces(b)) return true;
    auto led =
        b.via.empty() ? b.moves->led(BRep_Tool::Pnt(b.ends[0]), BRep_Tool::Pnt(b.ends[1])) : std::nullopt;
    if (!led) return false;
    b.moves = std::move(led);
    b.now.clear();
    return movePieces(b);
}

bool Followed::movePieces(FollowedBorder& b) {
    const MovedBorder& m = *b.moves;
    const auto ends = endsAlong(b);
    if (!ends || isUsedUp(b, *ends)) return false;
    const auto [from, to] = *ends;
    std::vector<std::pair<double, TopoDS_Vertex>> stops{{from, b.ends[0]}};
    for (const TopoDS_Vertex& v : b.via) {
        auto at = m.parameterAt(BRep_Tool::Pnt(v), from);
        if (at && *at < from) *at += m.last() - m.first();
        if (!at || *at <= from || *at >= to) return false;
        stops.emplace_back(*at, v);
    }
    stops.emplace_back(to, b.ends[1]);
    for (std::size_t i = 0; i + 1 < stops.size(); ++i)
        if (!movePiece(b, stops[i], stops[i + 1])) return false;
    return true;
}

/// The curve of a border and its lines on both faces, fitted together over the same parameter.
bool Followed::movePiece(FollowedBorder& b, const Stop& from, const Stop& to) {
    const MovedBorder& m = *b.moves;
    const std::vector<double> breaks = m.breaks(from.first, to.first);
    if (breaks.empty()) return false;
    std::array<double, 2> scales;
    for (std::size_t i = 0; i < 2; ++i) scales[i] = roundOf(b, i) ? 1 : scaleOf(faceOf(b, i));
    const auto places = [&](double at) -> std::optional<std::vector<gp_Pnt>> {
        const bool stopped = m_plan.stop && m_plan.stop();
        auto place = stopped ? std::nullopt : placeWithin(b, at, from.first, to.first);
        if (!place) return std::nullopt;
        for (std::size_t i = 0; i < 2; ++i)
            if (const FoldRound* round = roundOf(b, i)) {
                const auto on = round->beside(place->uv[i]);
                if (!on) return std::nullopt;
                place->uv[i] = *on;
            }
        std::vector<gp_Pnt> out{place->at};
        for (std::size_t i = 0; i < 2; ++i)
            out.emplace_back(scales[i] * place->uv[i].X(), scales[i] * place->uv[i].Y(), 0);
        return out;
    };
    // Over a jump of the bend what is moved goes on as smoothly, but not as fast.
    const auto fitted = curvesAlong(breaks, 3, places, {1e-6, 1e-5, 1e-4}, 300, {1, 0});
    return !fitted.empty() && makeEdge(b, {from.second, to.second}, fitted, scales);
}

const FoldRound* Followed::roundOf(const FollowedBorder& b, std::size_t side) const {
    const auto round = m_rounds.find(b.faces[side]);
    return round == m_rounds.end() ? nullptr : round->second.get();
}

std::optional<std::size_t> Followed::roundEnding(const FollowedBorder& b) const {
    if (BRep_Tool::Surface(faceOf(b, 0).face) == BRep_Tool::Surface(faceOf(b, 1).face)) return std::nullopt;
    for (const std::size_t side : {0U, 1U})
        if (roundOf(b, side)) return side;
    return std::nullopt;
}

/// What a round ends at: the face beyond; where that has a round there, too, a plane through both corners,
/// along that of the border as nearly as can be, which both are cut by alike.
class Followed::RoundEnd {
  public:
    RoundEnd(const FollowedBorder& b, const MovedFace& beyond, const FoldRound* round)
        : m_beyond(beyond), m_round(round) {
        if (!round) return;
        double from = 0, to = 0;
        const Handle(Geom_Curve) curve = BRep_Tool::Curve(b.edge, from, to);
        constexpr int kLooks = 8;
        const gp_Pnt first = curve->Value(from);
        const gp_Vec chord(first, curve->Value(to));
        gp_Vec square;
        for (int k = 1; k < kLooks; ++k)
            if (const gp_Vec c = chord.Crossed(gp_Vec(first, curve->Value(from + (to - from) * k / kLooks)));
                c.SquareMagnitude() > square.SquareMagnitude())
                square = c;
        const gp_Pnt corner = BRep_Tool::Pnt(b.ends[0]);
        // Where walls lean by more or less the corners do not stay in the border's plane.
        const gp_Vec across(corner, BRep_Tool::Pnt(b.ends[1]));
        if (across.Magnitude() > kKernelPoint)
            square -= across * (square * across / across.SquareMagnitude());
        if (square.Magnitude() > kNoDirection) m_plane = gp_Pln(corner, gp_Dir(square));
    }
    bool known() const { return !m_round || m_plane; }
    /// Of the face or round beyond, about.
    gp_Pnt2d near(const TopoDS_Vertex& corner) const {
        const gp_Pnt2d on = BRep_Tool::Parameters(corner, m_beyond.face);
        return m_round ? m_round->near(on) : on;
    }
    /// How far a place is from the end, mm, and its parameters there.
    std::optional<std::pair<double, gp_Pnt2d>> at(const gp_Pnt& place, const gp_Pnt2d& near) const {
        if (!m_round) {
            const auto beside = besideFace(m_beyond, place, near);
            if (!beside) return std::nullopt;
            return std::pair(beside->height - m_beyond.by, beside->uv);
        }
        const auto foot = footPoint(*m_round->surface(), place, near, false);
        if (!foot) return std::nullopt;
        return std::pair(gp_Vec(m_plane->Location(), place) * gp_Vec(m_plane->Axis().Direction()), foot->uv);
    }

  private:
    const MovedFace& m_beyond;
    const FoldRound* m_round;
    std::optional<gp_Pln> m_plane;
};

/// Over the round from one of its sides to the other, where its end is.
bool Followed::endRound(FollowedBorder& b, std::size_t side) {
    const Geom_Surface& round = *roundOf(b, side)->surface();
    const RoundEnd beyond(b, faceOf(b, 1 - side), roundOf(b, 1 - side));
    if (!beyond.known()) return false;
    gp_Pnt2d at[2], uv[2];
    for (const bool end : {false, true}) {
        const gp_Pnt p = BRep_Tool::Pnt(b.ends[end]);
        const TopoDS_Vertex old = cornerBefore(b, end);
        const auto on = footPoint(
            round, p, roundOf(b, side)->near(BRep_Tool::Parameters(old, faceOf(b, side).face)), false);
        const auto there = beyond.at(p, beyond.near(old));
        if (!on || !there) return false;
        at[end] = on->uv, uv[end] = there->second;
    }
    const auto places = [&](double t) -> std::optional<std::vector<gp_Pnt>> {
        constexpr int kSteps = 30;
        constexpr double kBeside = 1e-4; // mm along it
        gp_Pnt2d on(at[0].XY() * (1 - t) + at[1].XY() * t), near(uv[0].XY() * (1 - t) + uv[1].XY() * t);
        for (int step = 0; step < kSteps; ++step) {
            const gp_Pnt p = round.Value(on.X(), on.Y());
            const auto here = beyond.at(p, near),
                       ahead = beyond.at(round.Value(on.X() + kBeside, on.Y()), near);
            if (!here || !ahead) return std::nullopt;
            near = here->second;
            const double rise = (ahead->first - here->first) / kBeside;
            if (std::fabs(here->first) < kMet) {
                std::vector<gp_Pnt> out{p};
                for (std::size_t i = 0; i < 2; ++i) {
                    const gp_Pnt2d flat = i == side ? on : near;
                    out.emplace_back(flat.X(), flat.Y(), 0);
                }
                return out;
            }
            if (std::fabs(rise) < 1e-6) return std::nullopt;
            on.SetX(on.X() - here->first / rise);
        }
        return std::nullopt;
    };
    const auto fitted = curvesAlong({0, 1}, 3, places, {1e-6, 1e-5, 1e-4}, 300);
    return !fitted.empty() && makeEdge(b, {b.ends[0], b.ends[1]}, fitted, {1, 1});
}

/// Where a face closes up without a period, as a little farther on: moved, a seam that is not quite smooth
/// comes apart, and places near it have two names.
std::optional<MovedPlace> Followed::placeWithin(const FollowedBorder& b, double at, double from,
                                                double to) const {
    constexpr double kAtSeam = 1e-4, kBeside = 0.1; // of the parameters; of the piece
    auto out = b.moves->place(at);
    if (!out || b.faces[0] == b.faces[1]) return out;
    for (std::size_t i = 0; i < 2; ++i) {
        const auto other = beyondSeam(*faceOf(b, i).surface, out->uv[i], kAtSeam);
        if (!other) continue;
        const double on = at < (from + to) / 2 ? kBeside : 1 - kBeside;
        const auto beside = b.moves->place(from + on * (to - from));
        if (!beside) return std::nullopt;
        if (other->Distance(beside->uv[i]) < out->uv[i].Distance(beside->uv[i])) out->uv[i] = *other;
    }
    return out;
}

bool Followed::makeEdge(FollowedBorder& b, const std::array<TopoDS_Vertex, 2>& ends,
                        const std::vector<Handle(Geom_BSplineCurve)>& fitted,
                        const std::array<double, 2>& scales) {
    // Lines that come in at a slant are farther apart in the face's parameters than in space; most of all
    // where the two sides of a seam are not quite one.
    const double slant = b.faces[0] == b.faces[1] ? 60 : 4;
    TopoDS_Edge now;
    const double from = fitted[0]->FirstParameter(), to = fitted[0]->LastParameter();
    const std::array<Handle(Geom2d_Curve), 2> lines = {inParameters(fitted[1], {scales[0], scales[0]}),
                                                       inParameters(fitted[2], {scales[1], scales[1]})};
    const double off = std::max(offFrom(faceOf(b, 0), *lines[0], *fitted[0], from, to),
                                offFrom(faceOf(b, 1), *lines[1], *fitted[0], from, to));
    const double most = kMovedShare * std::fabs(m_plan.offset);
    if (off > most) return false;
    m_build.MakeEdge(now, fitted[0], off);
    if (b.faces[0] == b.faces[1])
        m_build.UpdateEdge(now, lines[0], lines[1], movedOf(faceOf(b, 0)), off);
    else
        for (std::size_t i = 0; i < 2; ++i) m_build.UpdateEdge(now, lines[i], movedOf(faceOf(b, i)), off);
    for (std::size_t i = 0; i < 2; ++i) {
        const double apart = BRep_Tool::Pnt(ends[i]).Distance(fitted[0]->Value(i == 0 ? from : to));
        if (apart > most) return false;
        m_build.UpdateVertex(ends[i], apart + slant * off);
        m_build.Add(now, ends[i].Oriented(i == 0 ? TopAbs_FORWARD : TopAbs_REVERSED));
    }
    m_build.Range(now, from, to);
    m_build.SameParameter(now, true);
    m_build.SameRange(now, true);
    b.now.push_back(now);
    return true;
}

} // namespace gc
