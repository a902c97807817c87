// Twist: every place of a body goes round an axis, nearer to it, or along an arc.

#include "core/base/angles.hpp"
#include "core/steps/shared/deformed.hpp"
#include "core/steps/shared/find_axis.hpp"
#include "core/steps/shared/find_body.hpp"
#include "core/steps/shared/runs_through_itself.hpp"
#include "core/steps/shared/size_handles.hpp"
#include "core/units/amount.hpp"

#include <gp_Ax3.hxx>

#include <algorithm>
#include <cmath>
#include <memory>
#include <vector>

namespace gc {

namespace {

/// The part of an axis along which it happens.
struct Range {
    gp_Ax3 frame; ///< its z along the axis, its x where 0° is
    double low = 0, high = 0;
    bool smooth = false; ///< it begins and ends gently, as the body goes on beyond

    /// How far it has gone at a level, 0 to 1: beyond the ends of a whole body evenly on.
    double share(double level) const {
        const double t = (level - low) / (high - low);
        if (!smooth) return t;
        const double x = std::clamp(t, 0.0, 1.0);
        return x * x * x * (10 - 15 * x + 6 * x * x); // twice smooth at both ends
    }
    double levelOf(const gp_Pnt& p) const {
        return gp_Vec(frame.Location(), p).Dot(gp_Vec(frame.Direction()));
    }
    bool isSquare(const gp_Pln& plane) const {
        return plane.Axis().Direction().IsParallel(frame.Direction(), 1e-9);
    }
    gp_Pnt at(double x, double y, double z) const {
        return frame.Location().Translated(gp_Vec(frame.XDirection()) * x + gp_Vec(frame.YDirection()) * y +
                                           gp_Vec(frame.Direction()) * z);
    }
};

Deformation turning(const Range& r, double angle) {
    const auto turnAt = [=](double level) {
        gp_Trsf t;
        t.SetRotation(gp_Ax1(r.frame.Location(), r.frame.Direction()), angle * r.share(level));
        return t;
    };
    return {[=](const gp_Pnt& p) { return p.Transformed(turnAt(r.levelOf(p))); },
            [=](const gp_Pln& plane) {
                return r.isSquare(plane) ? std::optional(turnAt(r.levelOf(plane.Location()))) : std::nullopt;
            }};
}

Deformation narrowing(const Range& r, double size) {
    return {[=](const gp_Pnt& p) {
                const double level = r.levelOf(p), by = 1 + (size - 1) * r.share(level);
                const gp_Pnt on = r.at(0, 0, level);
                return on.Translated(gp_Vec(on, p) * by);
            },
            [=](const gp_Pln& plane) {
                // Square ones are scaled within themselves, which a motion does not.
                return r.isSquare(plane) && std::fabs(r.share(r.levelOf(plane.Location()))) < 1e-12
                           ? std::optional(gp_Trsf())
                           : std::nullopt;
            }};
}

/// The axis of a bend: it keeps its length, and turns by its share of the angle at each level.
class BentAxis {
  public:
    BentAxis(const Range& range, double angle) : m_range(range), m_angle(angle), m_known{gp_XY()} {
        for (int i = 0; i < kPieces; ++i)
            m_known.push_back(m_known.back() + between(levelAt(i), levelAt(i + 1)));
    }
    /// Off the axis as it was, and along it from where the bend begins, mm; a level within the range.
    gp_XY at(double level) const {
        const double share = (level - m_range.low) / (m_range.high - m_range.low);
        const int i = std::clamp(static_cast<int>(share * kPieces), 0, kPieces);
        return m_known[static_cast<std::size_t>(i)] + between(levelAt(i), level);
    }
    double turnAt(double level) const { return m_angle * m_range.share(level); }

  private:
    static constexpr int kPieces = 64;
    double levelAt(int i) const { return m_range.low + (m_range.high - m_range.low) * i / kPieces; }
    /// By Gauss and Legendre with three places (Abramowitz and Stegun, 25.4.30): within 1e-11 of the
    /// length.
    gp_XY between(double from, double to) const {
        static const double kAside = std::sqrt(0.6);
        const double half = 0.5 * (to - from), middle = 0.5 * (from + to);
        gp_XY sum;
        for (const auto& [at, weight] : {std::pair{-kAside, 5.0 / 9}, {0.0, 8.0 / 9}, {kAside, 5.0 / 9}}) {
            const double a = turnAt(middle + half * at);
            sum += gp_XY(std::sin(a), std::cos(a)) * weight;
        }
        return sum * half;
    }

    Range m_range;
    double m_angle; ///< rad
    std::vector<gp_XY> m_known;
};

/// Along the bent axis, then straight on: an arc where the whole body is bent, else gently in and out of it.
Deformation bending(const Range& r, double angle) {
    const auto axis = std::make_shared<const BentAxis>(r, angle);
    const auto arc = [=](double level) {
        const double on = std::clamp(level, r.low, r.high), a = axis->turnAt(on), rest = level - on;
        // Where the axis is, and which way it goes there.
        const gp_Vec along =
            gp_Vec(r.frame.XDirection()) * std::sin(a) + gp_Vec(r.frame.Direction()) * std::cos(a);
        const gp_XY there = axis->at(on);
        const gp_Pnt at = r.at(there.X(), 0, r.low + there.Y()).Translated(along * rest);
        const gp_Vec out =
            gp_Vec(r.frame.XDirection()) * std::cos(a) - gp_Vec(r.frame.Direction()) * std::sin(a);
        return std::pair{at, out};
    };
    const auto motion = [=](double level) {
        const auto [at, out] = arc(level);
        const gp_Dir y = r.frame.YDirection();
        gp_Trsf t;
        t.SetDisplacement(gp_Ax3(r.at(0, 0, level), r.frame.Direction(), r.frame.XDirection()),
                          gp_Ax3(at, gp_Dir(out).Crossed(y), gp_Dir(out)));
        return t;
    };
    return {[=](const gp_Pnt& p) { return p.Transformed(motion(r.levelOf(p))); },
            [=](const gp_Pln& plane) {
                return r.isSquare(plane) ? std::optional(motion(r.levelOf(plane.Location()))) : std::nullopt;
            }};
}

Result<Range> rangeBy(const Arguments& args, ModelReader& model, const TopoDS_Shape& shape) {
    const auto found = findAxis(args, "axis", model);
    if (!found) return found.error();
    const Axis axis = turnedUp(*found);
    const gp_Dir along(axis.direction.x, axis.direction.y, axis.direction.z);
    // 0° lies to the right, or to the back for what lies across.
    const gp_Dir right = along.IsParallel(gp::DX(), 1e-6) ? gp::DY() : gp::DX();
    Range r;
    r.frame = gp_Ax3(gp_Pnt(axis.origin.x, axis.origin.y, axis.origin.z), along, right);
    if (args.text("how") == "bend") r.frame.Rotate(gp_Ax1(r.frame.Location(), along), args.number("toward"));
    if (args.text("range") == "from end to end") {
        std::tie(r.low, r.high) = reachAlong(shape, axis.origin, axis.direction);
        return r;
    }
    r.low = args.number("low");
    r.high = args.number("high");
    r.smooth = true;
    if (r.high - r.low < 0.1)
        return errorOf(
            "twist.range",
            phrase("It would begin at %1 and end at %2. The second must lie further along the axis.",
                   formatAmount(r.low, "mm", 2), formatAmount(r.high, "mm", 2)));
    return r;
}

std::optional<Error> tooTight(const Range& r, double angle, const TopoDS_Shape& shape) {
    const gp_Dir x = r.frame.XDirection();
    const gp_Pnt o = r.frame.Location();
    const double reach = reachAlong(shape, toVec(o), {x.X(), x.Y(), x.Z()}).second,
                 steepest = r.smooth ? 15. / 8 : 1, // of the share, in the middle of the range
        radius = (r.high - r.low) / (angle * steepest);
    if (reach < 0.98 * radius) return std::nullopt;
    const double most = 0.95 * (r.high - r.low) / (steepest * reach);
    return errorOf(
        "twist.tight",
        phrase("Bent so far the inside of the bend would meet itself: it reaches %1 from the axis, and the "
               "bend has a radius of %2. At most %3.",
               formatAmount(reach, "mm", 1), formatAmount(radius, "mm", 1), formatAmount(most, "°", 0)));
}

} // namespace

Result<StepChange> runTwist(const Arguments& args, ModelReader& model, const Progress& progress) {
    const auto found = findBody(args, "body", model);
    if (!found) return found.error();
    return guarded("twist.failed", "The body cannot be twisted there.", [&]() -> Result<StepChange> {
        const TopoDS_Shape& shape = found->body.shape().shape;
        const auto range = rangeBy(args, model, shape);
        if (!range) return range.error();
        const std::string& how = args.text("how");
        if (how == "turn") {
            constexpr double kLeast = 4; // mm: a shorter arm could not be taken hold of
            const Vec3 on = toVec(range->at(0, 0, range->high)), x = toWay(range->frame.XDirection());
            model.show(turnHandle("angle", on, toWay(range->frame.Direction()),
                                  x * std::max(reachAlong(shape, on, x).second, kLeast),
                                  args.number("angle")));
        }
        if (how == "bend")
            if (auto e = tooTight(*range, args.number("bend"), shape)) return *e;
        const Deformation by = how == "turn"    ? turning(*range, args.number("angle"))
                               : how == "taper" ? narrowing(*range, args.number("size"))
                                                : bending(*range, args.number("bend"));
        auto body = deformed(found->body, by, progress);
        if (progress.stopped()) return stoppedError();
        if (!body) return body.error();
        if (runsThroughItself(*body))
            return errorOf("twist.meets",
                           "The body would run through itself. Use a smaller angle, or a longer range.");
        return StepChange(ChangedBody{found->id, std::move(*body)});
    });
}

} // namespace gc
