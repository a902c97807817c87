#include "core/steps/loft/guide.hpp"

#include "core/base/least.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/loft/tie.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr int kGuideLooks = 240;

/// Where the line passes the plane of a section nearest to a point of it; nothing where it does not.
std::optional<double> passes(const Path& line, const LoftSection& s) {
    const auto before = [&](double at) { return gp_Vec(s.middle(), line.at(at)).Dot(s.normal()); };
    const double step = line.length() / kGuideLooks, flat = 1e-6 * (1 + line.length());
    std::optional<double> best;
    const auto take = [&](double at) {
        if (!best || line.at(at).Distance(s.middle()) < line.at(*best).Distance(s.middle())) best = at;
    };
    for (const double end : {0.0, line.length()})
        if (std::fabs(before(end)) < std::max(kGuideMeets, flat)) take(end);
    for (int i = 0; i < kGuideLooks; ++i) {
        double low = step * i, high = step * (i + 1), at = before(low);
        if ((at < 0) == (before(high) < 0)) continue;
        for (int k = 0; k < 80; ++k) {
            const double middle = 0.5 * (low + high);
            const double there = before(middle);
            ((there < 0) == (at < 0) ? low : high) = middle;
        }
        take(0.5 * (low + high));
    }
    return best;
}

/// Where line and section are nearest to each other: along the line, and the share of the section.
std::pair<double, double> nearest(const Path& line, const LoftSection& s) {
    const auto away = [&](double at) {
        return s.nearest(line.at(std::clamp(at, 0.0, line.length()))).second;
    };
    if (!s.isPoint() && s.unevenness() < kGuideMeets)
        if (const auto at = passes(line, s)) return {*at, s.nearest(line.at(*at)).first};
    double best = 0, least = 1e300;
    for (int i = 0; i <= kGuideLooks; ++i)
        if (const double d = away(line.length() * i / kGuideLooks); d < least) {
            least = d;
            best = line.length() * i / kGuideLooks;
        }
    const double step = line.length() / kGuideLooks;
    double at = std::clamp(leastWithin(best - step, best + step, away), 0.0, line.length());
    if (away(best) <= away(at)) at = best;
    return {at, s.nearest(line.at(at)).first};
}

/// A place next to a corner is the corner; next to the beginning or the end of the guide is that.
void snap(const LoftSection& s, double& share) {
    for (std::size_t i = 0; i < s.pieces().size(); ++i) {
        const double d = wrapped(share - s.shareOf(i));
        if (std::min(d, 1 - d) * s.length() < kGuideMeets) share = s.shareOf(i);
    }
}

/// Are the places in order; round a closed line, once?
bool putInOrder(LoftGuide& guide, bool round) {
    std::vector<double>& along = guide.along;
    if (round)
        for (std::size_t i = 1; i < along.size(); ++i)
            if (along[i] <= along[i - 1]) along[i] += guide.line.length();
    return std::is_sorted(along.begin(), along.end(), std::less_equal<>()) &&
           (!round || along.back() < along.front() + guide.line.length());
}

Error misses(const std::string& said, int number, int section, const gp_Pnt& at, double gap) {
    Error e = errorOf("loft.guide-misses",
                      phrase("Guide %1 misses section %2 by %3. Draw it so that it meets the section there.",
                             std::to_string(number), std::to_string(section),
                             formatAmount(gap, "mm", gap < 0.1 ? 4 : 2)));
    e.place = toVec(at);
    e.culprits = {said};
    return e;
}

} // namespace

Result<LoftGuide> guideThrough(const Path& path, const std::vector<LoftSection>& sections, bool round,
                               int number, const std::string& said, ModelReader& model) {
    if (round && !path.closed()) {
        Error e = errorOf("loft.guide-ends",
                          phrase("Guide %1 ends, and the loft goes round to its first section again. Pick a "
                                 "closed line that runs round with it.",
                                 std::to_string(number)));
        e.place = toVec(path.at(path.length()));
        e.culprits = {said};
        return e;
    }
    for (const bool against : {false, true}) {
        LoftGuide out{against ? path.reversed() : path, {}, {}};
        for (std::size_t i = 0; i < sections.size(); ++i) {
            const LoftSection& s = sections[i];
            auto [along, share] = nearest(out.line, s);
            const gp_Pnt at = out.line.at(along);
            if (const double gap = at.Distance(s.at(share)); gap > kGuideMeets) {
                Error e = misses(said, number, static_cast<int>(i) + 1, at, gap);
                if (const auto tie = tieFor(said, at, gap, s, static_cast<int>(i) + 1, model))
                    e.remedies.push_back(*tie);
                return e;
            }
            snap(s, share);
            out.along.push_back(along);
            out.at.push_back(share);
        }
        if (putInOrder(out, round)) return out;
    }
    Error e =
        errorOf("loft.guide-order", phrase("Guide %1 meets the sections in another order than they are in. "
                                           "Let it run from the first to the last.",
                                           std::to_string(number)));
    e.culprits = {said};
    return e;
}

double shareBeside(const LoftSection& drawn, const LoftSection& wall, double share) {
    if (drawn.isPoint() || wall.isPoint()) return 0;
    const auto place = drawn.placeAt(share);
    const bool atCorner = place.share == 0 && drawn.cornerAt(drawn.pieceAt(share));
    const auto corner = atCorner ? wall.shareOfPlace(place) : std::nullopt;
    double out = corner ? *corner : wall.nearest(drawn.at(share)).first;
    snap(wall, out);
    return out;
}

LoftGuide guideBeside(const LoftGuide& guide, const std::vector<LoftSection>& drawn,
                      const std::vector<LoftSection>& wall) {
    LoftGuide out = guide;
    for (std::size_t i = 0; i < wall.size(); ++i) out.at[i] = shareBeside(drawn[i], wall[i], guide.at[i]);
    return out;
}

Result<LoftSpine> spineThrough(const Path& path, const std::vector<LoftSection>& sections) {
    for (const bool against : {false, true}) {
        LoftSpine out{against ? path.reversed() : path, {}};
        for (std::size_t i = 0; i < sections.size(); ++i) {
            const LoftSection& s = sections[i];
            const auto at = s.isPoint() ? std::optional(nearest(out.line, s).first) : passes(out.line, s);
            if (!at) {
                Error e = errorOf("loft.spine-misses",
                                  phrase("The spine does not pass the plane of section %1. Draw it from the "
                                         "first section to the last.",
                                         std::to_string(i + 1)));
                e.place = toVec(s.middle());
                return e;
            }
            out.along.push_back(*at);
        }
        if (std::is_sorted(out.along.begin(), out.along.end(), std::less_equal<>())) return out;
    }
    return errorOf("loft.spine-order", "The spine passes the sections in another order than they are in. Put "
                                       "them in its order.");
}

} // namespace gc
