#include "core/steps/shell/moved_borders.hpp"

#include "core/shape/foot_point.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRep_Tool.hxx>
#include <GeomAdaptor_Curve.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <TColStd_Array1OfReal.hxx>

#include <Eigen/Dense>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// rad. Faces that are nearer to running on from each other leave it open where their border goes aside; over
/// a wall of some millimetres both are then within a micrometre of any such place.
constexpr double kRunsOn = 2e-4;
/// mm. How far the way to the nearest place of a surface may be from square to it, at its border.
constexpr double kAside = 1e-3;
constexpr double kMet = 1e-7; // mm

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

/// The least step that takes a place by what is wanted along each of some ways. Ways that differ by less than
/// kRunsOn are taken for one.
gp_Vec leastStep(const std::vector<gp_Vec>& ways, const std::vector<double>& wanted) {
    Eigen::MatrixXd a(static_cast<Eigen::Index>(ways.size()), 3);
    Eigen::VectorXd b(static_cast<Eigen::Index>(ways.size()));
    for (std::size_t i = 0; i < ways.size(); ++i) {
        const auto row = static_cast<Eigen::Index>(i);
        a.row(row) << ways[i].X(), ways[i].Y(), ways[i].Z();
        b(row) = wanted[i];
    }
    Eigen::JacobiSVD<Eigen::MatrixXd> svd(a, Eigen::ComputeThinU | Eigen::ComputeThinV);
    svd.setThreshold(kRunsOn / 2);
    const Eigen::Vector3d step = svd.solve(b);
    return {step.x(), step.y(), step.z()};
}

/// Where the edge's line on a face is near a parameter.
gp_Pnt2d onLine(const Geom2d_Curve& line, double at, double first, double last) {
    return line.Value(std::clamp(at, first, last));
}

} // namespace

namespace {

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

std::optional<gp_Pnt2d> beyondSeam(const Geom_Surface& surface, const gp_Pnt2d& uv) {
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    surface.Bounds(u0, u1, v0, v1);
    constexpr double kAt = 1e-7; // of the surface's parameters
    const double u = kAt * (u1 - u0), v = kAt * (v1 - v0);
    if (surface.IsUClosed() && !surface.IsUPeriodic() && (uv.X() <= u0 + u || uv.X() >= u1 - u))
        return gp_Pnt2d(uv.X() <= u0 + u ? u1 : u0, uv.Y());
    if (surface.IsVClosed() && !surface.IsVPeriodic() && (uv.Y() <= v0 + v || uv.Y() >= v1 - v))
        return gp_Pnt2d(uv.X(), uv.Y() <= v0 + v ? v1 : v0);
    return std::nullopt;
}

std::optional<BesideFace> besideFace(const MovedFace& face, const gp_Pnt& place, const gp_Pnt2d& near) {
    const auto here = besideHere(face, place, near);
    if (!here || here->aside < kMet) return here;
    const auto other = beyondSeam(*face.surface, here->uv);
    const auto there = other ? besideHere(face, place, *other) : std::nullopt;
    return there && there->aside < here->aside ? there : here;
}

MovedBorder::MovedBorder(const TopoDS_Edge& edge, const MovedFace& first, const TopoDS_Edge& inSecond,
                         const MovedFace& second)
    : m_curve(BRep_Tool::Curve(edge, m_first, m_last)), m_faces{&first, &second} {
    double from = 0, to = 0;
    m_lines = {BRep_Tool::CurveOnSurface(edge, first.face, from, to),
               BRep_Tool::CurveOnSurface(inSecond, second.face, from, to)};
    gp_Pnt begin, end;
    gp_Vec out, in;
    m_curve->D1(m_first, begin, out);
    m_curve->D1(m_last, end, in);
    m_round =
        begin.Distance(end) < 1e-5 && out.Magnitude() > 1e-9 && in.Magnitude() > 1e-9 && out.Angle(in) < 1e-3;
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
    const double within = std::clamp(at, m_first, m_last);
    m_curve->D1(within, place, way);
    place.Translate(way * (at - within));
}

/// Along both normals, which are one.
std::optional<MovedPlace> MovedBorder::smoothPlace(double at) const {
    const double within = std::clamp(at, m_first, m_last);
    MovedPlace out;
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

std::optional<MovedPlace> MovedBorder::place(double at) const {
    constexpr int kSteps = 40;
    if (smooth()) return smoothPlace(at);
    gp_Pnt middle;
    gp_Vec way;
    along(at, middle, way);
    if (way.Magnitude() < 1e-9) return std::nullopt;
    way.Normalize();
    MovedPlace out;
    out.at = middle;
    std::array<gp_Vec, 2> normals;
    for (std::size_t i = 0; i < 2; ++i) out.uv[i] = onLine(*m_lines[i], at, m_first, m_last);
    for (int step = 0; step < kSteps; ++step) {
        std::vector<gp_Vec> ways{way};
        double aside = 0;
        std::vector<double> wanted{gp_Vec(out.at, middle) * way};
        for (std::size_t i = 0; i < 2; ++i) {
            const auto beside = besideFace(*m_faces[i], out.at, out.uv[i]);
            if (!beside) return std::nullopt;
            out.uv[i] = beside->uv;
            normals[i] = beside->normal;
            aside = std::max(aside, beside->aside);
            ways.push_back(beside->normal);
            wanted.push_back(m_faces[i]->by - beside->height);
        }
        const double weight = weightAside(normals[0].Angle(normals[1]));
        if (weight > 0) {
            const gp_Vec across = way.Crossed(normals[0] + normals[1]).Normalized();
            ways.push_back(across * weight);
            wanted.push_back(gp_Vec(out.at, middle) * across * weight);
        }
        const gp_Vec moves = leastStep(ways, wanted);
        out.at.Translate(moves);
        if (moves.Magnitude() > kMet / 10) continue;
        // At a seam, from the side on which the edge's line ends.
        for (std::size_t i = 0; i < 2; ++i) {
            const auto again = besideHere(*m_faces[i], out.at, onLine(*m_lines[i], at, m_first, m_last));
            if (again && again->aside < aside + kMet) out.uv[i] = again->uv;
        }
        // What is left where the two run on smoothly from each other.
        return aside < kAside && std::fabs(wanted[1]) < 1e-4 && std::fabs(wanted[2]) < 1e-4
                   ? std::optional(out)
                   : std::nullopt;
    }
    return std::nullopt;
}

std::optional<double> MovedBorder::parameterAt(const gp_Pnt& place, double near) const {
    // Where it runs on only nearly smoothly it goes to and fro about the joint.
    constexpr int kSteps = 40;
    constexpr double kToAndFro = 1e-5; // mm
    double at = near;
    for (int step = 0; step < kSteps; ++step) {
        gp_Pnt on;
        gp_Vec way;
        along(at, on, way);
        const double square = way.SquareMagnitude();
        if (square < 1e-18) return std::nullopt;
        const double moves = gp_Vec(on, place) * way / square;
        at += moves;
        const double most = step < kSteps / 2 ? kMet / 10 : kToAndFro;
        if (std::fabs(moves) * std::sqrt(square) < most) return at;
    }
    return std::nullopt;
}

namespace {

/// Where a surface's second derivative may jump, along u or along v.
std::vector<double> jumpsOf(const GeomAdaptor_Surface& surface, bool alongU) {
    const int n = alongU ? surface.NbUIntervals(GeomAbs_C2) : surface.NbVIntervals(GeomAbs_C2);
    TColStd_Array1OfReal ends(1, n + 1);
    if (alongU)
        surface.UIntervals(ends, GeomAbs_C2);
    else
        surface.VIntervals(ends, GeomAbs_C2);
    std::vector<double> out;
    for (int i = 2; i <= n; ++i) out.push_back(ends(i));
    return out;
}

} // namespace

std::vector<double> MovedBorder::breaks(double from, double to) const {
    constexpr int kLooks = 48, kHalvings = 45;
    std::vector<double> out;
    const GeomAdaptor_Curve curve(m_curve, m_first, m_last);
    const int n = curve.NbIntervals(GeomAbs_C3);
    TColStd_Array1OfReal ends(1, n + 1);
    curve.Intervals(ends, GeomAbs_C3);
    for (int i = 2; i <= n; ++i) out.push_back(ends(i));
    std::vector<MovedPlace> places;
    for (int i = 0; i <= kLooks; ++i) {
        const auto there = place(from + (to - from) * i / kLooks);
        if (!there) return {};
        places.push_back(*there);
    }
    for (std::size_t f = 0; f < 2; ++f) {
        const GeomAdaptor_Surface surface(m_faces[f]->surface);
        for (const bool alongU : {true, false}) {
            const auto here = [&](const MovedPlace& p) { return alongU ? p.uv[f].X() : p.uv[f].Y(); };
            for (const double jump : jumpsOf(surface, alongU))
                for (int i = 0; i < kLooks; ++i) {
                    const auto k = static_cast<std::size_t>(i);
                    if ((here(places[k]) < jump) == (here(places[k + 1]) < jump)) continue;
                    const bool rises = here(places[k]) < jump;
                    double low = from + (to - from) * i / kLooks,
                           high = from + (to - from) * (i + 1) / kLooks;
                    for (int half = 0; half < kHalvings; ++half) {
                        const double middle = 0.5 * (low + high);
                        const auto there = place(middle);
                        if (!there) return {};
                        ((here(*there) < jump) == rises ? low : high) = middle;
                    }
                    out.push_back(0.5 * (low + high));
                }
        }
    }
    const double apart = 1e-5 * (to - from);
    out.push_back(from);
    std::sort(out.begin(), out.end());
    std::vector<double> kept{from};
    for (const double at : out)
        if (at > kept.back() + apart && at < to - apart) kept.push_back(at);
    kept.push_back(to);
    return kept;
}

namespace {

/// Along a border to where it meets one face more, by the secant method.
std::optional<gp_Pnt> alongTo(const MovedBorder& border, bool fromEnd, const MovedFace& stop,
                              const gp_Pnt2d& near) {
    gp_Pnt2d uv = near;
    const auto gap = [&](double at, gp_Pnt& place) -> std::optional<double> {
        const auto there = border.place(at);
        if (!there) return std::nullopt;
        place = there->at;
        const auto beside = besideFace(stop, place, uv);
        if (!beside) return std::nullopt;
        uv = beside->uv;
        if (beside->aside > kAside) return std::nullopt;
        return stop.by - beside->height;
    };
    gp_Pnt place;
    gp_Vec way;
    double a = fromEnd ? border.last() : border.first();
    border.along(a, place, way);
    const double unit = 1 / way.Magnitude(); // parameter per mm
    auto atA = gap(a, place);
    if (!atA) return std::nullopt;
    if (std::fabs(*atA) < kMet) return place;
    double b = a + (fromEnd ? -1 : 1) * 0.01 * unit;
    for (int step = 0; step < 40; ++step) {
        const auto atB = gap(b, place);
        if (!atB) return std::nullopt;
        if (std::fabs(*atB) < kMet) return place;
        const double slope = (*atB - *atA) / (b - a);
        if (slope == 0) return std::nullopt;
        const double most = 5 * unit; // mm a step
        const double moves = std::clamp(-*atB / slope, -most, most);
        a = b, atA = atB;
        b += moves;
    }
    return std::nullopt;
}

/// Where a corner lies on one of its faces.
gp_Pnt2d nearOn(const MovedFace& face, const TopoDS_Vertex& corner) {
    return BRep_Tool::Parameters(corner, face.face);
}

} // namespace

std::optional<MovedCorner> movedCorner(const TopoDS_Vertex& corner,
                                       const std::vector<const MovedFace*>& faces,
                                       const std::vector<std::pair<const MovedBorder*, bool>>& borders) {
    constexpr double kFades = 0.1; // rad
    const auto smoothest = std::min_element(borders.begin(), borders.end(), [](const auto& a, const auto& b) {
        return a.first->kinkAt(a.second) < b.first->kinkAt(b.second);
    });
    std::vector<gp_Pnt2d> uv;
    for (const MovedFace* f : faces) uv.push_back(nearOn(*f, corner));
    MovedCorner out{BRep_Tool::Pnt(corner), 0};
    // Where two of the faces run on from each other, along their border to the others.
    const auto& [border, atEnd] = *smoothest;
    if (border->kinkAt(atEnd) < kFades || faces.size() < 3) {
        gp_XYZ sum;
        int met = 0;
        for (std::size_t i = 0; i < faces.size(); ++i) {
            if (faces[i] == border->faces()[0] || faces[i] == border->faces()[1]) continue;
            const auto there = alongTo(*border, atEnd, *faces[i], uv[i]);
            if (!there) return std::nullopt;
            sum += there->XYZ();
            ++met;
        }
        if (met > 0) {
            out.at = gp_Pnt(sum / met);
        } else {
            const auto there = border->place(atEnd ? border->last() : border->first());
            if (!there) return std::nullopt;
            out.at = there->at;
        }
    } else {
        for (int step = 0;; ++step) {
            if (step == 40) return std::nullopt;
            std::vector<gp_Vec> ways;
            std::vector<double> wanted;
            for (std::size_t i = 0; i < faces.size(); ++i) {
                const auto beside = besideFace(*faces[i], out.at, uv[i]);
                if (!beside) return std::nullopt;
                uv[i] = beside->uv;
                ways.push_back(beside->normal);
                wanted.push_back(faces[i]->by - beside->height);
            }
            const gp_Vec moves = leastStep(ways, wanted);
            out.at.Translate(moves);
            if (moves.Magnitude() < kMet / 10) break;
        }
    }
    for (std::size_t i = 0; i < faces.size(); ++i) {
        const auto beside = besideFace(*faces[i], out.at, uv[i]);
        if (!beside || beside->aside > kAside) return std::nullopt;
        out.off = std::max(out.off, std::fabs(faces[i]->by - beside->height));
    }
    return out;
}

} // namespace gc
