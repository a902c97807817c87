#include "core/steps/repeat/along.hpp"

#include "core/steps/shared/frames.hpp"
#include "core/units/amount.hpp"

#include <gp_Ax3.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The place of a path that is nearest to a point, mm from its beginning.
double nearestOf(const Path& path, const gp_Pnt& p) {
    constexpr int kLooks = 400;
    double best = 0;
    const double step = path.length() / kLooks;
    for (int i = 1; i <= kLooks; ++i)
        if (path.at(i * step).SquareDistance(p) < path.at(best).SquareDistance(p)) best = i * step;
    // Between its neighbours, by halving where the way to the point leads on or back.
    double low = std::max(0.0, best - step), high = std::min(path.length(), best + step);
    for (int k = 0; k < 60; ++k) {
        const double m = 0.5 * (low + high);
        (gp_Vec(path.at(m), p).Dot(path.tangent(m)) > 0 ? low : high) = m;
    }
    const double found = 0.5 * (low + high);
    return path.at(found).SquareDistance(p) <= path.at(best).SquareDistance(p) ? found : best;
}

/// How directions turn from one place of a path to another.
class Turning {
  public:
    Turning(const Path& path, double from) : m_path(path), m_s(from), m_along(path.tangent(from)) {
        m_across = gp_Vec(gp_Ax3(gp_Pnt(), gp_Dir(m_along)).XDirection());
        m_first = frame();
    }
    /// Places are to be asked for in the order of the way.
    gp_Trsf at(double s) {
        constexpr double kStep = 0.5; // mm
        const int n = std::max(1, static_cast<int>(std::ceil(std::fabs(s - m_s) / kStep)));
        const double from = m_s;
        for (int i = 1; i <= n; ++i) {
            const double next = from + (s - from) * i / n;
            const gp_Vec along = m_path.tangent(wrapped(next));
            m_across = carried(m_path.at(wrapped(m_s)), m_along, m_across, m_path.at(wrapped(next)), along);
            m_along = along, m_s = next;
        }
        gp_Trsf t;
        t.SetDisplacement(m_first, frame());
        return t;
    }

    double wrapped(double s) const {
        return m_path.closed() ? s - m_path.length() * std::floor(s / m_path.length()) : s;
    }

  private:
    gp_Ax3 frame() const { return gp_Ax3(m_path.at(wrapped(m_s)), gp_Dir(m_along), gp_Dir(m_across)); }
    const Path& m_path;
    double m_s;
    gp_Vec m_along, m_across;
    gp_Ax3 m_first;
};

Error tooMany(const Arguments& args, int count, double rest, double pitch) {
    const int most = 1 + static_cast<int>(std::floor(rest / pitch + 1e-9));
    Error e = errorOf("repeat.span",
                      phrase("%1 of them every %2 need %3 of the curve, and from the detail on "
                             "there are %4.",
                             std::to_string(count), formatAmount(pitch, "mm", 2),
                             formatAmount(pitch * (count - 1), "mm", 2), formatAmount(rest, "mm", 2)));
    if (most >= 2)
        e.remedies.push_back(
            {args.id(), "count", std::to_string(most), phrase("%1 fit", std::to_string(most)), false});
    return e;
}

} // namespace

Result<CopyLayout> alongBy(const Arguments& args, ModelReader& model, const WidthAlong& width,
                           const Vec3& at) {
    if (args.references("curve").empty())
        return errorOf("repeat.curve",
                       "Pick the curve that the copies follow: strokes of a drawing, or edges.");
    auto found = findPath(args.references("curve"), model);
    if (!found) return found.error();
    const gp_Pnt detail(at.x, at.y, at.z);
    const bool closed = found->closed();
    // Onward leads to the end that lies farther: the sense in which it was drawn is not to be seen.
    const bool late = !closed && nearestOf(*found, detail) > 0.5 * found->length();
    const Path path = late == (args.text("sense") == "backward") ? std::move(*found) : found->reversed();
    const double from = nearestOf(path, detail);
    const double rest = closed ? path.length() : path.length() - from;
    if (rest < 1e-3)
        return errorOf("repeat.span", "The detail stands at the end of the curve. Turn the way round.");
    const std::string& how = args.text("spread");
    int count = static_cast<int>(args.number("count"));
    const double pitch = args.number("pitch");
    if (how == "filling") {
        const gp_Vec t = path.tangent(from);
        const double least = width({t.X(), t.Y(), t.Z()}) + args.number("gap");
        count = static_cast<int>(std::floor(rest / least + 1e-9)) + (closed ? 0 : 1);
        if (count < 2)
            return errorOf("repeat.span",
                           phrase("Not even two fit along this curve: from the detail on it is %1 "
                                  "long.",
                                  formatAmount(rest, "mm", 2)));
    }
    if (how == "every" && pitch * (closed ? count : count - 1) > rest * (1 + 1e-9))
        return tooMany(args, closed ? count + 1 : count, rest, pitch);
    const bool turns = args.text("turning") == "turning with it", every = how == "every";
    CopyLayout out;
    out.motionsFor = [=](int n) {
        const double step = every ? pitch : rest / (closed ? n : n - 1);
        Turning turning(path, from);
        std::vector<gp_Trsf> motions;
        for (int k = 1; k < n; ++k) {
            const double s = from + k * step;
            gp_Trsf t;
            if (turns)
                t = turning.at(s);
            else
                t.SetTranslation(gp_Vec(path.at(from), path.at(turning.wrapped(s))));
            motions.push_back(t);
        }
        return motions;
    };
    out.motions = out.motionsFor(count);
    if (how != "filling") out.countSlot = "count";
    return out;
}

} // namespace gc
