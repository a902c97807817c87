// The wall of a loft across: from threads to shares of the sections.

#include "core/base/tolerance.hpp"
#include "core/steps/loft/skin.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

/// The parameter across is the mean of the lengths along the sections. Between two corners each section is
/// walked by its own smooth map, so that threads which are no corners leave no kink.
void Skin::spread() {
    auto& threads = m_plan.threads;
    const auto corner =
        std::find_if(threads.begin(), threads.end(), [](const LoftThread& t) { return t.corner; });
    const bool smooth = corner == threads.end();
    if (!smooth) std::rotate(threads.begin(), corner, threads.end());
    int lines = 0;
    m_round = 0;
    for (const LoftSection& s : m_plan.sections)
        if (!s.isPoint()) m_round += s.length(), ++lines;
    m_round /= lines;
    spreadSpans(smooth);
    if (smooth && beginCalmly()) spreadSpans(true);
}

void Skin::spreadSpans(bool smooth) {
    const auto& threads = m_plan.threads;
    const auto& sections = m_plan.sections;
    const auto lines =
        std::count_if(sections.begin(), sections.end(), [](const LoftSection& s) { return !s.isPoint(); });
    m_threadAt.clear();
    m_spans.clear();
    m_spread.clear();
    for (const LoftThread& t : threads) {
        double sum = 0;
        for (std::size_t i = 0; i < sections.size(); ++i)
            if (!sections[i].isPoint())
                sum += wrapped(t.at[i] - threads.front().at[i]) / static_cast<double>(lines);
        m_threadAt.push_back(&t == &threads.front() ? 0 : sum * m_round);
    }
    m_threadAt.push_back(m_round);
    std::vector<std::size_t> ends; // threads at which spans begin
    for (std::size_t k = 0; k < threads.size(); ++k)
        if (k == 0 || threads[k].corner) ends.push_back(k);
    ends.push_back(threads.size());
    for (std::size_t e = 0; e + 1 < ends.size(); ++e) {
        m_spans.push_back({m_threadAt[ends[e]], m_threadAt[ends[e + 1]], {}});
        m_spread.emplace_back();
        for (std::size_t i = 0; i < sections.size(); ++i) {
            std::vector<double> x, y;
            for (std::size_t k = ends[e]; k <= ends[e + 1]; ++k) {
                const double at = threads[k % threads.size()].at[i];
                x.push_back(m_threadAt[k]);
                y.push_back(y.empty() ? at : y.back() + forward(y.back(), at));
            }
            Spread s{std::nullopt, y.front(), y.back() - y.front()};
            if (x.size() > 2 && !sections[i].isPoint()) s.smooth.emplace(std::move(x), std::move(y), smooth);
            m_spread.back().push_back(std::move(s));
        }
    }
}

/// How much a wall without corners turns at a place across, rad: that of the section that does so most.
double Skin::turnAt(double u) const {
    constexpr double kBeside = 0.015; // of the way round
    double out = 0;
    for (std::size_t i = 0; i < m_plan.sections.size(); ++i) {
        const LoftSection& s = m_plan.sections[i];
        if (s.isPoint()) continue;
        const double share = shareAt(0, i, u);
        const gp_Pnt before = s.at(wrapped(share - kBeside)), here = s.at(wrapped(share)),
                     after = s.at(wrapped(share + kBeside));
        if (before.Distance(here) < kKernelPoint || here.Distance(after) < kKernelPoint) continue;
        out = std::max(out, gp_Vec(before, here).Angle(gp_Vec(here, after)));
    }
    return out;
}

/// A wall without corners closes up in a seam. It is better not where it is bent tightly: there a wall that
/// is thicker than that uses it up. Nor in the middle of a calm stretch, where details will be: but near the
/// end of one, the nearest to where the wall would begin otherwise. False where it may begin there.
bool Skin::beginCalmly() {
    constexpr int kLooks = 128;
    constexpr double kTight = 0.25, kAlike = 0.01, kWithin = 0.12; // rad; rad; of the stretch
    if (turnAt(0) < kTight) return false;
    std::vector<bool> calm;
    std::vector<double> turns;
    for (int k = 0; k < kLooks; ++k) turns.push_back(turnAt(m_round * k / kLooks));
    const double least = *std::min_element(turns.begin(), turns.end());
    for (const double t : turns) calm.push_back(t <= least + kAlike);
    if (calm.front()) return false; // bent alike all round
    double u = 0, nearest = 1;
    for (std::size_t k = 1; k < calm.size(); ++k) {
        if (!calm[k] || calm[k - 1]) continue;
        std::size_t end = k;
        while (end + 1 < calm.size() && calm[end + 1]) ++end;
        const double from = double(k) / kLooks, to = double(end) / kLooks;
        if (std::min(from, 1 - to) >= nearest) continue;
        nearest = std::min(from, 1 - to);
        u = m_round * (from < 1 - to ? from + kWithin * (to - from) : to - kWithin * (to - from));
    }
    LoftThread begin{{}, false};
    for (std::size_t i = 0; i < m_plan.sections.size(); ++i)
        begin.at.push_back(m_plan.sections[i].isPoint() ? 0 : wrapped(shareAt(0, i, u)));
    auto& threads = m_plan.threads;
    const auto next = std::upper_bound(m_threadAt.begin(), m_threadAt.end() - 1, u);
    const auto place = threads.insert(threads.begin() + (next - m_threadAt.begin()), begin);
    std::rotate(threads.begin(), place, threads.end());
    return true;
}

double Skin::shareAt(std::size_t span, std::size_t section, double u) const {
    const Spread& s = m_spread[span][section];
    if (s.smooth) return s.smooth->at(u);
    return s.from + s.rise * (u - m_spans[span].from) / (m_spans[span].to - m_spans[span].from);
}

/// The share of a section, and whether it ends the span: at a corner that decides which piece is meant.
std::pair<double, bool> Skin::placeOf(std::size_t span, std::size_t section, double u) const {
    const bool late = u > m_spans[span].to - 1e-9 * m_round;
    return {wrapped(shareAt(span, section, u) + (late ? -1e-12 : 1e-12)), late};
}

gp_Pnt Skin::pointOf(std::size_t span, std::size_t section, double u) const {
    const auto [share, late] = placeOf(span, section, u);
    return m_plan.sections[section].at(share, late);
}

std::size_t Skin::spanAt(double u) const {
    std::size_t i = 0;
    while (i + 1 < m_spans.size() && u >= m_spans[i].to) ++i;
    return i;
}

std::vector<double> Skin::breaksOf(std::size_t span) const {
    const LoftSpan& here = m_spans[span];
    std::vector<double> all{here.from, here.to};
    const auto add = [&](double u) {
        if (u > here.from && u < here.to) all.push_back(u);
    };
    for (const double u : m_threadAt) add(u);
    for (const double u : m_guideAt) add(u);
    for (std::size_t i = 0; i < m_plan.sections.size(); ++i) {
        const LoftSection& s = m_plan.sections[i];
        const Spread& map = m_spread[span][i];
        for (std::size_t k = 0; k < s.pieces().size(); ++k)
            for (const double b : s.pieces()[k].curve.breaks()) {
                const double share = wrapped(s.shareOf(k) + b / s.length());
                const double y = map.from + wrapped(share - map.from);
                if (y >= map.from + map.rise) continue;
                add(map.smooth ? map.smooth->inverse(y)
                               : here.from + (here.to - here.from) * (y - map.from) / map.rise);
            }
    }
    std::sort(all.begin(), all.end());
    // Of places that are nearly one, one.
    const double near = 2e-5 * m_round;
    std::vector<double> out{all.front()};
    for (const double u : all)
        if (u - out.back() > near) out.push_back(u);
    if (out.size() > 1 && here.to - out.back() < near) out.pop_back();
    if (out.back() < here.to) out.push_back(here.to);
    return out;
}

} // namespace gc
