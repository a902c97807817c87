#include "core/steps/shared/fold.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

/// A place that was looked at, and how far the section reaches there.
struct Look {
    PathFrame frame;
    double along = 0, reach = 0; ///< mm of path before it; mm
};

/// Its points, as the start has them.
std::vector<gp_Vec> pointsOf(const Section& section, const Frames& frames) {
    std::vector<gp_Vec> out;
    for (const gp_Pnt& p : section.border(12)) out.push_back(frames.local(p));
    return out;
}

/// How far the section reaches in a direction.
double reachTowards(const std::vector<gp_Vec>& points, const PathFrame& f, const gp_Vec& way) {
    double most = 0;
    for (const gp_Vec& p : points) most = std::max(most, (f.across * p.X() + f.up * p.Y()).Dot(way));
    return most;
}

class Turns {
  public:
    Turns(const std::vector<gp_Vec>& points, double length, bool closed)
        : m_points(points), m_length(length), m_closed(closed) {}
    void add(const Look& look) { m_looks.push_back(look); }
    void addCorner(double along, double turn) { m_corners.emplace_back(along, turn); }

    /// The two places that are nearest to each other for what the section needs.
    std::optional<Fold> nearest() const {
        std::optional<Fold> worst;
        for (std::size_t i = 0; i < m_looks.size(); ++i)
            for (std::size_t j = i + 1; j < m_looks.size(); ++j)
                if (const auto fits = fitsBetween(m_looks[i], m_looks[j]);
                    fits && (!worst || *fits < worst->fits))
                    worst = Fold{m_looks[i].frame.at, *fits, 0};
        return worst;
    }

  private:
    std::optional<double> fitsBetween(const Look& a, const Look& b) const {
        double apart = b.along - a.along;
        if (m_closed) apart = std::min(apart, m_length - apart);
        const double distance = a.frame.at.Distance(b.frame.at), reach = a.reach + b.reach;
        if (distance > reach || distance < 1e-9 ||
            apart < std::max(std::numbers::pi / 2, cornerBetween(a, b)) * reach)
            return std::nullopt;
        const gp_Vec way = gp_Vec(a.frame.at, b.frame.at) / distance;
        const double needs = reachTowards(m_points, a.frame, way) + reachTowards(m_points, b.frame, -way);
        if (needs <= distance) return std::nullopt;
        return distance / needs;
    }
    /// About a corner the two legs are near each other as far as their mitre goes, and a little beyond.
    double cornerBetween(const Look& a, const Look& b) const {
        double most = 0;
        for (const auto& [along, turn] : m_corners)
            if (m_closed || (along >= a.along && along <= b.along))
                most = std::max(most, 0.35 + std::tan(turn / 2));
        return most;
    }

    const std::vector<gp_Vec>& m_points;
    double m_length;
    bool m_closed;
    std::vector<Look> m_looks;
    std::vector<std::pair<double, double>> m_corners; ///< length before it, turn in rad
};

double reachOf(const std::vector<gp_Vec>& points, const PathFrame& f) {
    double reach = 0;
    for (const gp_Vec& p : points) reach = std::max(reach, (f.across * p.X() + f.up * p.Y()).Magnitude());
    return reach;
}

double lengthOf(const std::vector<PathPiece>& pieces) {
    double sum = 0;
    for (const PathPiece& p : pieces) sum += p.curve.length();
    return sum;
}

} // namespace

std::optional<Fold> foldOf(const Section& section, const std::vector<PathPiece>& pieces, bool closed,
                           const Frames& frames) {
    const auto points = pointsOf(section, frames);
    std::optional<Fold> worst;
    Turns turns(points, lengthOf(pieces), closed);
    double before = 0;
    for (std::size_t k = 0; k < pieces.size(); ++k) {
        const LengthCurve& curve = pieces[k].curve;
        const auto& breaks = curve.knots();
        const int perSpan = breaks.size() > 20 ? 8 : 40;
        for (std::size_t i = 0; i + 1 < breaks.size(); ++i)
            for (int step = 0; step <= perSpan; ++step) {
                // At a joint the bend of either side counts.
                const double share = std::clamp(static_cast<double>(step) / perSpan, 1e-6, 1 - 1e-6);
                const double s = breaks[i] + (breaks[i + 1] - breaks[i]) * share;
                const PathFrame f = frames.at(k, s);
                const gp_Vec bend = curve.bend(s);
                const double inward = reachTowards(points, f, bend);
                if (inward >= 1 && (!worst || 1 / inward < worst->fits))
                    worst = Fold{f.at, 1 / inward, 1 / bend.Magnitude()};
                if (step % 2 == 0) turns.add({f, before + s, reachOf(points, f)});
            }
        before += curve.length();
    }
    return worst ? worst : turns.nearest();
}

std::optional<Fold> meetingOf(const Section& section, const std::vector<SmoothRun>& runs, bool closed,
                              const Frames& first) {
    constexpr int kPerPiece = 24;
    const auto points = pointsOf(section, first);
    double length = 0;
    for (const SmoothRun& r : runs) length += lengthOf(r.pieces);
    Turns turns(points, length, closed);
    double before = 0;
    for (const SmoothRun& r : runs) {
        const Frames frames(r.pieces, false, r.across, {});
        if (r.turnBefore > 0) turns.addCorner(before, r.turnBefore);
        for (std::size_t k = 0; k < r.pieces.size(); ++k) {
            const double own = r.pieces[k].curve.length();
            for (int i = 0; i <= kPerPiece; ++i) {
                const PathFrame f = frames.at(k, own * i / kPerPiece);
                turns.add({f, before + own * i / kPerPiece, reachOf(points, f)});
            }
            before += own;
        }
    }
    return turns.nearest();
}

} // namespace gc
