#include "core/steps/shared/moved_borders.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/breaks_of.hpp"
#include "core/shape/extended_face.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/laid_line.hpp"

#include <BRep_Tool.hxx>
#include <GeomAdaptor_Curve.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_ElementarySurface.hxx>
#include <Geom_Line.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <TopoDS.hxx>

#include <Eigen/Dense>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// rad. Faces that are nearer to running on from each other leave it open where their border goes aside; over
/// a wall of some millimetres both are then within a micrometre of any such place.
constexpr double kRunsOn = 2e-4;

/// How much it weighs that a border does not go aside, where two faces turn by an angle from each other.
/// At a place of the edge moved along the middle of both normals, aside is wanted only for how much more one
/// face is bent than the other: b = k d^2 a / 8 for a difference of bends k, a move d and an angle a. With a
/// weight m the faces then miss each other by no more than k d^2 m^2 / 16, a hundred-thousandth of a
/// millimetre; without it what fitted faces miss each other by is multiplied by 2 / a.
double weightAside(double angle) {
    constexpr double kWeight = 0.01, kNone = 0.4; // rad
    const double share = std::max(0.0, 1 - angle / kNone);
    return kWeight * share * share;
}

/// Where the edge's line on a face is near a parameter.
gp_Pnt2d onLine(const Geom2d_Curve& line, double at, double first, double last) {
    return line.Value(std::clamp(at, first, last));
}

/// Does it go back on its way?
bool turnsBack(const std::vector<std::pair<double, MovedPlace>>& seen) {
    for (std::size_t k = 2; k < seen.size(); ++k) {
        const gp_Pnt a = seen[k - 2].second.at, b = seen[k - 1].second.at, c = seen[k].second.at;
        if (gp_Vec(a, b) * gp_Vec(b, c) < 0 && std::min(a.Distance(b), b.Distance(c)) > kKernelPoint)
            return true;
    }
    return false;
}

/// With nothing cut off from it: the face may have to go on there.
Handle(Geom_Surface) wholeSurface(const TopoDS_Face& face) {
    const Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
    const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(surface);
    return trimmed.IsNull() ? surface : trimmed->BasisSurface();
}

/// Does a surface keep its parameters when it is continued? One that is turned or drawn out becomes a spline
/// with parameters of its own.
bool keepsParameters(const Handle(Geom_Surface) & surface) {
    return !Handle(Geom_BSplineSurface)::DownCast(surface).IsNull() ||
           !Handle(Geom_ElementarySurface)::DownCast(surface).IsNull();
}

std::optional<BesideFace> besideHere(const MovedFace& face, const gp_Pnt& place, const gp_Pnt2d& near) {
    const auto foot = footPoint(*face.surface, place, near, false);
    if (!foot) return std::nullopt;
    auto n = foot->normal();
    if (!n) return std::nullopt;
    if (face.reversed) n->Reverse();
    const gp_Vec away(foot->at, place);
    const double height = away * *n;
    return BesideFace{foot->uv, *n, height, (away - *n * height).Magnitude()};
}

} // namespace

MovedFace movedFace(const TopoDS_Face& face, double by, double beyond) {
    MovedFace out;
    out.face = face;
    out.by = by;
    out.reversed = face.Orientation() == TopAbs_REVERSED;
    out.surface = wholeSurface(face);
    if (beyond > 0 && keepsParameters(out.surface))
        out.surface = BRep_Tool::Surface(extendedFace(face, beyond));
    return out;
}

std::optional<gp_Pnt2d> beyondSeam(const Geom_Surface& surface, const gp_Pnt2d& uv, double within) {
    double low[2], high[2];
    surface.Bounds(low[0], high[0], low[1], high[1]);
    for (const int k : {0, 1}) {
        const double whole = high[k] - low[k], from = uv.Coord(k + 1) - low[k];
        // Asked last: a spline works both its borders out to tell.
        if (std::min(from, whole - from) > within * whole ||
            !(k == 0 ? surface.IsUClosed() && !surface.IsUPeriodic()
                     : surface.IsVClosed() && !surface.IsVPeriodic()))
            continue;
        gp_Pnt2d other = uv;
        other.SetCoord(k + 1, uv.Coord(k + 1) + (from < whole / 2 ? whole : -whole));
        return other;
    }
    return std::nullopt;
}

std::optional<BesideFace> besideFace(const MovedFace& face, const gp_Pnt& place, const gp_Pnt2d& near) {
    const auto here = besideHere(face, place, near);
    if (!here || here->aside < kMet) return here;
    const auto other = beyondSeam(*face.surface, here->uv);
    const auto there = other ? besideHere(face, place, *other) : std::nullopt;
    return there && there->aside < here->aside ? there : here;
}

gp_Vec Wanted::leastStep() const {
    const auto rows = static_cast<Eigen::Index>(ways.size());
    Eigen::MatrixXd a(rows, 3);
    Eigen::VectorXd b(rows);
    for (std::size_t i = 0; i < ways.size(); ++i) {
        const auto row = static_cast<Eigen::Index>(i);
        a.row(row) << ways[i].X(), ways[i].Y(), ways[i].Z();
        b(row) = steps[i];
    }
    Eigen::JacobiSVD<Eigen::MatrixXd> svd(a, Eigen::ComputeThinU | Eigen::ComputeThinV);
    svd.setThreshold(kRunsOn / 2);
    const Eigen::Vector3d step = svd.solve(b);
    return {step.x(), step.y(), step.z()};
}

void KeptAside::addTo(Wanted& wanted, const gp_Vec& off) {
    const auto also = [&](const gp_Vec& to, double weight) {
        wanted.ways.push_back(to * weight);
        wanted.steps.push_back(off * to * weight);
    };
    if (!m_aside) m_aside = m_square.Crossed(wanted.ways[0] + wanted.ways[1]).Normalized();
    const double weight = weightAside(wanted.ways[0].Angle(wanted.ways[1]));
    also(m_square, 1);
    if (weight > 0) also(*m_aside, weight);
}

double Wanted::most() const {
    double out = 0;
    for (const double s : steps) out = std::max(out, std::fabs(s));
    return out;
}

std::optional<Wanted> wantedBeside(const std::vector<const MovedFace*>& faces, const gp_Pnt& place,
                                   std::vector<gp_Pnt2d>& uv) {
    Wanted out;
    for (std::size_t i = 0; i < faces.size(); ++i) {
        const auto beside = besideFace(*faces[i], place, uv[i]);
        if (!beside) return std::nullopt;
        uv[i] = beside->uv;
        out.ways.push_back(beside->normal);
        out.steps.push_back(faces[i]->by - beside->height);
        out.aside = std::max(out.aside, beside->aside);
    }
    return out;
}

MovedBorder::MovedBorder(const TopoDS_Edge& edge, const MovedFace& first, const MovedFace& second)
    : m_curve(BRep_Tool::Curve(edge, m_first, m_last)), m_faces{&first, &second} {
    for (std::size_t i = 0; i < 2; ++i) {
        // Of the two lines of a seam the kernel gives the other one for a face that is turned over; and faces
        // that share a surface which closes up have different lines for an edge where it does.
        const TopoDS_Face face = TopoDS::Face(m_faces[i]->face.Oriented(TopAbs_FORWARD));
        const TopoDS_Edge in = &first != &second
                                   ? asIn(face, edge)
                                   : TopoDS::Edge(edge.Oriented(i == 0 ? TopAbs_FORWARD : TopAbs_REVERSED));
        double from = 0, to = 0;
        m_lines[i] = BRep_Tool::CurveOnSurface(in, face, from, to);
    }
    gp_Pnt begin, end;
    gp_Vec out, in;
    m_curve->D1(m_first, begin, out);
    m_curve->D1(m_last, end, in);
    m_round =
        begin.Distance(end) < 1e-5 && out.Magnitude() > 1e-9 && in.Magnitude() > 1e-9 && out.Angle(in) < 1e-3;
    findKink();
}

MovedBorder::MovedBorder(const MovedFace& first, const MovedFace& second, const std::array<gp_Pnt, 2>& ends,
                         const std::array<std::array<gp_Pnt2d, 2>, 2>& uv)
    : m_last(ends[0].Distance(ends[1])),
      m_curve(new Geom_Line(ends[0], gp_Vec(ends[0], ends[1]))), m_faces{&first, &second} {
    for (std::size_t i = 0; i < 2; ++i) m_lines[i] = straightLaid(uv[i][0], uv[i][1], 0, m_last);
    findKink();
}

void MovedBorder::findKink() {
    constexpr int kLooks = 24;
    for (int i = 0; i <= kLooks; ++i)
        m_kink = std::max(m_kink, kinkHere(m_first + (m_last - m_first) * i / kLooks));
}

double MovedBorder::kinkHere(double at) const {
    std::array<gp_Vec, 2> normals;
    for (std::size_t i = 0; i < 2; ++i) {
        const auto n = placeOf(*m_faces[i]->surface, m_lines[i]->Value(at)).normal();
        if (!n) return 0;
        normals[i] = m_faces[i]->reversed ? -*n : *n;
    }
    return normals[0].Angle(normals[1]);
}

double MovedBorder::kinkAt(bool end) const {
    // At the very end of a face its normal may be that of a pole.
    constexpr double kShare = 1e-3;
    return kinkHere(end ? m_last - kShare * (m_last - m_first) : m_first + kShare * (m_last - m_first));
}

bool MovedBorder::smooth() const {
    return m_kink < kRunsOn && m_faces[0]->by == m_faces[1]->by;
}

void MovedBorder::along(double at, gp_Pnt& place, gp_Vec& way) const {
    const double whole = m_last - m_first;
    if (m_round && at < m_first && at > m_first - whole) {
        m_curve->D1(at + whole, place, way);
        place.Translate(gp_Vec(m_curve->Value(m_last), m_curve->Value(m_first))); // it closes up within 1e-5
        return;
    }
    if (m_round && at > m_last && at < m_last + whole) {
        m_curve->D1(at - whole, place, way);
        place.Translate(gp_Vec(m_curve->Value(m_first), m_curve->Value(m_last)));
        return;
    }
    const double within = std::clamp(at, least(), most());
    m_curve->D1(within, place, way);
    place.Translate(way * (at - within));
}

double MovedBorder::least() const {
    return m_goesOn ? std::min(m_first, m_curve->FirstParameter()) : m_first;
}

double MovedBorder::most() const {
    return m_goesOn ? std::max(m_last, m_curve->LastParameter()) : m_last;
}

/// Along both normals, which are one.
std::optional<MovedPlace> MovedBorder::smoothPlace(double at) const {
    const double within = std::clamp(at, least(), most());
    MovedPlace out;
    out.uv.resize(2);
    gp_XYZ sum;
    for (std::size_t i = 0; i < 2; ++i) {
        gp_Vec2d way;
        m_lines[i]->D1(within, out.uv[i], way);
        out.uv[i].Translate(way * (at - within));
        const Geom_Surface& surface = *m_faces[i]->surface;
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        surface.Bounds(u0, u1, v0, v1);
        const auto leaves = [](double x, double low, double high) {
            return x < low - 1e-9 || x > high + 1e-9;
        };
        if ((!surface.IsUPeriodic() && leaves(out.uv[i].X(), u0, u1)) ||
            (!surface.IsVPeriodic() && leaves(out.uv[i].Y(), v0, v1)))
            return std::nullopt;
        const SurfacePlace on = placeOf(surface, out.uv[i]);
        const auto n = on.normal();
        if (!n) return std::nullopt;
        sum += on.at.XYZ() + n->XYZ() * (m_faces[i]->reversed ? -m_faces[i]->by : m_faces[i]->by);
    }
    out.at = gp_Pnt(sum / 2);
    return out;
}

std::optional<MovedPlace> MovedBorder::placeIn(const gp_Pnt& middle, const gp_Vec& square,
                                               std::vector<gp_Pnt2d> uv) const {
    constexpr int kSteps = 40;
    constexpr double kLeft = 1e-3; // mm: where the two run on smoothly from each other not all can be had
    MovedPlace out{middle, std::move(uv)};
    KeptAside kept(square);
    for (int step = 0; step < kSteps; ++step) {
        auto wanted = wantedBeside(m_faces, out.at, out.uv);
        if (!wanted) return std::nullopt;
        const double left = wanted->most();
        kept.addTo(*wanted, gp_Vec(out.at, middle));
        const gp_Vec moves = wanted->leastStep();
        out.at.Translate(moves);
        if (moves.Magnitude() > kMet / 10) continue;
        if (wanted->aside > kAside || left > kLeft) return std::nullopt;
        return out;
    }
    return std::nullopt;
}

std::optional<MovedPlace> MovedBorder::place(double at) const {
    if (smooth()) return smoothPlace(at);
    gp_Pnt middle;
    gp_Vec way;
    along(at, middle, way);
    if (way.Magnitude() < 1e-9) return std::nullopt;
    std::vector<gp_Pnt2d> near;
    for (const auto& line : m_lines) near.push_back(onLine(*line, at, m_first, m_last));
    auto out = placeIn(middle, way.Normalized(), near);
    if (!out) return out;
    // At a seam, from the side on which the edge's line ends.
    for (std::size_t i = 0; i < 2; ++i) {
        const auto found = besideHere(*m_faces[i], out->at, out->uv[i]),
                   again = besideHere(*m_faces[i], out->at, near[i]);
        if (found && again && again->aside < found->aside + kMet) out->uv[i] = again->uv;
    }
    return out;
}

std::optional<double> MovedBorder::parameterAt(const gp_Pnt& place, double near) const {
    // Where it runs on only nearly smoothly it goes to and fro about the joint; so does where a ring closes
    // up.
    constexpr int kSteps = 40;
    constexpr double kToAndFro = 2e-4; // mm
    double at = near;
    for (int step = 0; step < kSteps; ++step) {
        gp_Pnt on;
        gp_Vec way;
        along(at, on, way);
        const double square = way.SquareMagnitude();
        if (square < 1e-18) return std::nullopt;
        const double moves = gp_Vec(on, place) * way / square;
        at += moves;
        if (std::fabs(moves) * std::sqrt(square) < kMet / 10) return at;
        if (step >= kSteps / 2 && std::fabs(moves) * std::sqrt(square) < kToAndFro) return at - moves / 2;
    }
    return std::nullopt;
}

/// Where its place on a face comes over a jump of the face's bend. False where it has no place on the way.
bool MovedBorder::addCrossings(std::size_t face, bool alongU,
                               const std::vector<std::pair<double, MovedPlace>>& seen,
                               std::vector<double>& breaks) const {
    constexpr int kHalvings = 45;
    const GeomAdaptor_Surface s(m_faces[face]->surface);
    auto jumps = alongU ? breaksOf(s, &GeomAdaptor_Surface::NbUIntervals, &GeomAdaptor_Surface::UIntervals,
                                   s.FirstUParameter(), s.LastUParameter())
                        : breaksOf(s, &GeomAdaptor_Surface::NbVIntervals, &GeomAdaptor_Surface::VIntervals,
                                   s.FirstVParameter(), s.LastVParameter());
    const auto before = [&](const MovedPlace& p, double jump) {
        return (alongU ? p.uv[face].X() : p.uv[face].Y()) < jump;
    };
    for (std::size_t j = 1; j + 1 < jumps.size(); ++j)
        for (std::size_t k = 0; k + 1 < seen.size(); ++k) {
            const bool first = before(seen[k].second, jumps[j]);
            if (first == before(seen[k + 1].second, jumps[j])) continue;
            double low = seen[k].first, high = seen[k + 1].first;
            for (int half = 0; half < kHalvings; ++half) {
                const double middle = 0.5 * (low + high);
                const auto there = place(middle);
                if (!there) return false;
                (before(*there, jumps[j]) == first ? low : high) = middle;
            }
            breaks.push_back(0.5 * (low + high));
        }
    return true;
}

std::vector<double> MovedBorder::breaks(double from, double to) const {
    constexpr int kLooks = 48;
    const GeomAdaptor_Curve curve(m_curve, m_first, m_last);
    std::vector<double> all;
    if (!m_led)
        all = breaksOf(curve, &GeomAdaptor_Curve::NbIntervals, &GeomAdaptor_Curve::Intervals, m_first, m_last,
                       GeomAbs_C3);
    std::vector<std::pair<double, MovedPlace>> seen;
    for (int i = 0; i <= kLooks; ++i) {
        const double at = from + (to - from) * i / kLooks;
        const auto there = place(at);
        if (!there) return {};
        seen.emplace_back(at, *there);
    }
    if (turnsBack(seen)) return {};
    for (const std::size_t face : {0U, 1U})
        for (const bool alongU : {true, false})
            if (!addCrossings(face, alongU, seen, all)) return {};
    const double apart = 1e-5 * (to - from);
    std::sort(all.begin(), all.end());
    std::vector<double> kept{from};
    for (const double at : all)
        if (at > kept.back() + apart && at < to - apart) kept.push_back(at);
    kept.push_back(to);
    return kept;
}

} // namespace gc
