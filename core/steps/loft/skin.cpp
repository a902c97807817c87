#include "core/steps/loft/skin.hpp"

#include "core/steps/loft/end_walls.hpp"

#include <Eigen/LU>

#include <algorithm>
#include <cmath>

namespace gc {

Skin::Skin(const LoftPlan& plan) : m_plan(plan) {
    spread();
    placeStops();
    solveWeights();
    findEnds();
    placeGuides();
    for (std::size_t i = 0; i < m_spans.size(); ++i) m_spans[i].breaks = breaksOf(i);
}

Skin::~Skin() = default;
Skin::Skin(Skin&&) noexcept = default;

// ---- along: cardinal functions

void Skin::placeStops() {
    if (m_plan.spine) {
        m_stops = m_plan.spine->along;
        const auto& pieces = m_plan.spine->line.pieces();
        const gp_Vec along = pieces.front().curve.tangent(0);
        m_along.emplace(pieces, m_plan.spine->line.closed(),
                        std::fabs(along.X()) < 0.9 * along.Magnitude() ? gp_Vec(1, 0, 0) : gp_Vec(0, 1, 0),
                        SweepLaw());
        for (const double v : m_stops) m_frames.push_back(frameAt(v));
        return;
    }
    if (m_plan.beside) {
        m_stops = m_plan.beside->stops();
        return;
    }
    const std::size_t n = m_plan.sections.size();
    constexpr int kPerSpan = 24;
    m_stops.push_back(0);
    for (std::size_t i = 0; i + (m_plan.closed ? 0 : 1) < n; ++i) {
        double sum = 0;
        for (std::size_t k = 0; k < m_spans.size(); ++k)
            for (int j = 0; j < kPerSpan; ++j) {
                const double u = m_spans[k].from + (m_spans[k].to - m_spans[k].from) * (j + 0.5) / kPerSpan;
                sum += pointOf(k, i, u).Distance(pointOf(k, (i + 1) % n, u)) *
                       (m_spans[k].to - m_spans[k].from) / (kPerSpan * m_round);
            }
        m_stops.push_back(m_stops.back() + std::max(sum, 1e-6));
    }
}

PathFrame Skin::frameAt(double v) const {
    const auto [piece, s] = m_plan.spine->line.pieceAt(v);
    return m_along->at(piece, s);
}

/// Is the slope there given to the spline? Around a spine it is put on top.
bool Skin::clamped(std::size_t end) const {
    return !m_plan.spine && endOf(end).kind != LoftEnd::Kind::Free;
}

/// Slopes of C2 cubic splines (de Boor, A Practical Guide to Splines, IV): natural or clamped ends, or
/// periodic. The functions are 1 at one section and 0 at the others; the last two have a slope of 1 at an
/// end.
void Skin::solveWeights() {
    if (m_plan.straight) return;
    const auto n = static_cast<Eigen::Index>(m_plan.sections.size());
    const auto h = [&](Eigen::Index i) {
        return m_stops[static_cast<std::size_t>(i) + 1] - m_stops[static_cast<std::size_t>(i)];
    };
    Eigen::MatrixXd left = Eigen::MatrixXd::Zero(n, n), right = Eigen::MatrixXd::Zero(n, n + 2);
    for (Eigen::Index i = 0; i < n; ++i) {
        const bool first = i == 0, last = i + 1 == n;
        if (!m_plan.closed && (first || last)) {
            left(i, i) = clamped(first ? 0 : 1) ? 1 : 2;
            if (clamped(first ? 0 : 1)) {
                right(i, first ? n : n + 1) = 1;
                continue;
            }
            const Eigen::Index beside = first ? 1 : n - 2;
            const double gap = first ? h(0) : -h(n - 2);
            left(i, beside) += 1;
            right(i, beside) += 3 / gap;
            right(i, i) -= 3 / gap;
            continue;
        }
        const Eigen::Index before = (i + n - 1) % n, after = (i + 1) % n;
        const double a = h(before), b = h(i);
        left(i, before) += 1 / a;
        left(i, i) += 2 / a + 2 / b;
        left(i, after) += 1 / b;
        right(i, i) += 3 / (a * a) - 3 / (b * b);
        right(i, before) -= 3 / (a * a);
        right(i, after) += 3 / (b * b);
    }
    const Eigen::MatrixXd slopes = left.partialPivLu().solve(right);
    for (Eigen::Index c = 0; c < n + 2; ++c) {
        m_slopes.emplace_back();
        for (Eigen::Index i = 0; i < n; ++i) m_slopes.back().push_back(slopes(i, c));
        if (m_plan.closed) m_slopes.back().push_back(slopes(0, c));
    }
}

/// Of the sections, then of the slopes at both ends, then of the second derivatives there.
std::vector<double> Skin::weightsAt(double v) const {
    const std::size_t n = m_plan.sections.size();
    std::vector<double> out(n + 4, 0);
    const auto next = std::upper_bound(m_stops.begin() + 1, m_stops.end() - 1, v);
    const auto i = static_cast<std::size_t>(next - m_stops.begin()) - 1;
    const double h = m_stops[i + 1] - m_stops[i], t = (v - m_stops[i]) / h, s = 1 - t;
    const std::size_t j = (i + 1) % n;
    if (m_plan.straight) {
        out[i] += s;
        out[j] += t;
        return out;
    }
    out[i] += (1 + 2 * t) * s * s;
    out[j] += t * t * (3 - 2 * t);
    for (std::size_t c = 0; c < n + 2; ++c)
        out[c] += t * s * s * h * m_slopes[c][i] - t * t * s * h * m_slopes[c][i + 1];
    // Quintics that end with the interval next to the end: nothing else is bent by them.
    for (const std::size_t end : {0, 1}) {
        if (endOf(end).kind == LoftEnd::Kind::Free) continue;
        const bool here = end == 0 ? i == 0 : i + 2 == m_stops.size();
        const double x = end == 0 ? t : s, y = 1 - x;
        if (!clamped(end)) out[n + end] = here ? (end == 0 ? h : -h) * x * y * y * y * (1 + 3 * x) : 0;
        out[n + 2 + end] = here ? h * h * x * x * y * y * y / 2 : 0;
    }
    return out;
}

Skin::Along Skin::alongWithoutGuides(double v) const {
    Along out{weightsAt(v), {}, std::nullopt};
    if (m_plan.spine) out.frame = frameAt(v);
    return out;
}

Skin::Along Skin::along(double v) const {
    Along out = alongWithoutGuides(v);
    std::vector<gp_Vec> off;
    if (const Skin* drawn = m_plan.beside.get()) {
        const std::vector<gp_Vec> theirs = drawn->along(v).guides;
        for (const std::size_t guide : m_guideOrder) {
            const auto at = std::find(drawn->m_guideOrder.begin(), drawn->m_guideOrder.end(), guide);
            off.push_back(theirs[static_cast<std::size_t>(at - drawn->m_guideOrder.begin())]);
        }
        out.guides = std::move(off);
        return out;
    }
    for (std::size_t j = 0; j < m_guideBase.size(); ++j) {
        const double s = m_guideAlong[j].at(v);
        const Path& line = m_plan.guides[m_guideOrder[j]].line;
        off.emplace_back(at(m_guideBase[j], out), line.at(line.closed() ? std::fmod(s, line.length()) : s));
    }
    out.guides = std::move(off);
    return out;
}

gp_Pnt Skin::at(const Across& across, const Along& along) {
    gp_Vec sum(0, 0, 0);
    for (std::size_t c = 0; c < across.values.size(); ++c)
        if (along.weights[c] != 0) sum += across.values[c] * along.weights[c];
    gp_Pnt p = along.frame ? along.frame->place(sum) : gp_Pnt(sum.XYZ());
    for (std::size_t j = 0; j < along.guides.size(); ++j)
        if (across.guides[j] != 0) p.Translate(along.guides[j] * across.guides[j]);
    return p;
}

// ---- ends

double Skin::chordAt(std::size_t end, std::size_t span, double u) const {
    const std::size_t n = m_plan.sections.size();
    const gp_Pnt here = pointOf(span, endSection(end), u), next = pointOf(span, end == 0 ? 1 : n - 2, u);
    const double h = end == 0 ? m_stops[1] - m_stops[0] : m_stops[n - 1] - m_stops[n - 2];
    return here.Distance(next) / h;
}

/// The derivative along, at an end, that the end asks for.
gp_Vec Skin::wanted(std::size_t end, std::size_t span, double u) const {
    const LoftSection& s = m_plan.sections[endSection(end)];
    const LoftEnd& e = endOf(end);
    const double length = e.strength * chordAt(end, span, u);
    if (s.isPoint()) { // round: into the plane that is square to the way to the next section
        const LoftSection& beside = m_plan.sections[end == 0 ? 1 : m_plan.sections.size() - 2];
        const gp_Vec axis = gp_Vec(s.middle(), beside.middle()).Normalized();
        gp_Vec out(s.middle(), pointOf(span, end == 0 ? 1 : m_plan.sections.size() - 2, u));
        out -= axis * out.Dot(axis);
        if (out.Magnitude() < 1e-12) return {0, 0, 0};
        return out.Normalized() * (end == 0 ? length : -length);
    }
    if (!m_walls[end]) return s.normal() * length;
    const auto [share, late] = placeOf(span, endSection(end), u);
    return m_walls[end]->at(share, late, s.normal()).ahead * length;
}

void Skin::findEnds() {
    for (const std::size_t end : {0, 1}) {
        const LoftEnd& e = endOf(end);
        if (e.kind == LoftEnd::Kind::Free || m_plan.straight || m_plan.closed) continue;
        if (e.kind != LoftEnd::Kind::Square)
            m_walls[end] = std::make_unique<EndWalls>(m_plan.sections[endSection(end)]);
        const double h = end == 0 ? m_stops[1] - m_stops[0] : m_stops.back() - m_stops[m_stops.size() - 2];
        m_step[end] = (end == 0 ? h : -h) / 300;
        const double from = end == 0 ? m_stops.front() : m_stops.back();
        for (int k = 0; k < 4; ++k) m_near[end].push_back(alongWithoutGuides(from + m_step[end] * k));
    }
}

/// What makes the wall leave or arrive as it is asked to.
void Skin::addEnd(std::size_t end, std::size_t span, double u, Across& out) const {
    if (m_near[end].empty()) return;
    const std::size_t n = m_plan.sections.size();
    const auto local = [&](const gp_Vec& v) {
        if (!m_plan.spine) return v;
        const PathFrame& f = m_frames[endSection(end)];
        return gp_Vec(v.Dot(f.across), v.Dot(f.up), v.Dot(f.along));
    };
    // One-sided differences that are exact for cubics, without and then with the slope.
    const auto f = [&](std::size_t k) { return gp_Vec(at(out, m_near[end][k]).XYZ()); };
    const double step = m_step[end];
    const gp_Vec slope = wanted(end, span, u);
    gp_Vec has(0, 0, 0);
    if (!clamped(end)) has = (f(0) * -11.0 + f(1) * 18.0 - f(2) * 9.0 + f(3) * 2.0) / (6 * step);
    out.values[n + end] = local(slope - has);
    if (endOf(end).kind != LoftEnd::Kind::Curved || !m_walls[end]) return;
    const auto [share, late] = placeOf(span, endSection(end), u);
    const auto look = m_walls[end]->at(share, late, m_plan.sections[endSection(end)].normal());
    const gp_Vec second = (f(0) * 2.0 - f(1) * 5.0 + f(2) * 4.0 - f(3)) / (step * step);
    const double lacks = look.bend * slope.SquareMagnitude() - second.Dot(look.normal);
    out.values[n + 2 + end] = local(look.normal * lacks);
}

Skin::Across Skin::acrossSections(std::size_t span, double u) const {
    const std::size_t n = m_plan.sections.size();
    Across out;
    out.values.assign(n + 4, gp_Vec(0, 0, 0));
    for (std::size_t i = 0; i < n; ++i) {
        const gp_Pnt p = pointOf(span, i, u);
        out.values[i] = m_plan.spine ? m_frames[i].local(p) : gp_Vec(p.XYZ());
    }
    for (const std::size_t end : {0, 1}) addEnd(end, span, u, out);
    return out;
}

Skin::Across Skin::across(std::size_t span, double u) const {
    Across out = acrossSections(span, u);
    for (std::size_t j = 0; j < m_guideBase.size(); ++j) out.guides.push_back(blend(j, u));
    return out;
}

// ---- guides

void Skin::placeGuides() {
    const auto& guides = m_plan.guides;
    if (guides.empty()) return;
    const std::size_t first = m_plan.sections.front().isPoint() ? 1 : 0;
    std::vector<std::pair<double, std::size_t>> order;
    for (std::size_t j = 0; j < guides.size(); ++j) {
        double u = 0, least = 1e300; // of the thread that it is
        for (std::size_t k = 0; k < m_plan.threads.size(); ++k) {
            const double d = wrapped(guides[j].at[first] - m_plan.threads[k].at[first]);
            if (std::min(d, 1 - d) < least) least = std::min(d, 1 - d), u = m_threadAt[k];
        }
        order.emplace_back(u, j);
    }
    std::sort(order.begin(), order.end());
    for (const auto& [u, j] : order) {
        const std::size_t span = spanAt(u);
        m_guideAt.push_back(u);
        m_guideOrder.push_back(j);
        std::optional<double> slope[2];
        for (const std::size_t end : {0, 1})
            if (!m_near[end].empty())
                slope[end] =
                    wanted(end, span, u).Dot(guides[j].line.tangent(guides[j].along[endSection(end)]));
        std::vector<double> along = guides[j].along;
        if (m_plan.closed) along.push_back(along.front() + guides[j].line.length());
        m_guideAlong.emplace_back(m_stops, std::move(along), m_plan.closed, slope[0], slope[1]);
        m_guideBase.push_back(acrossSections(span, u));
    }
}

/// 1 at the guide, 0 at its neighbours, with two derivatives of 0 at both.
double Skin::blend(std::size_t guide, double u) const {
    const std::size_t g = m_guideAt.size();
    if (g == 1) return 1;
    const auto fall = [](double t) { return 1 - t * t * t * (10 - 15 * t + 6 * t * t); };
    const auto ahead = [&](double from, double to) {
        return forward(from / m_round, to / m_round) * m_round;
    };
    const double here = m_guideAt[guide];
    const double after = ahead(here, m_guideAt[(guide + 1) % g]);
    const double before = ahead(m_guideAt[(guide + g - 1) % g], here);
    double d = wrapped((u - here) / m_round) * m_round;
    if (d > m_round * (1 - 1e-12)) d = 0;
    if (d < after) return fall(d / after);
    return m_round - d < before ? fall((m_round - d) / before) : 0;
}

std::optional<std::pair<gp_Pnt, gp_Vec>> Skin::pullAt(std::size_t end) const {
    if (m_near[end].empty()) return std::nullopt;
    const double h = end == 0 ? m_stops[1] - m_stops[0] : m_stops[m_stops.size() - 2] - m_stops.back();
    const double u = m_spans.front().from;
    return std::pair(pointOf(0, endSection(end), u), wanted(end, 0, u) * (h / (3 * endOf(end).strength)));
}

std::vector<double> Skin::breaksAlong() const {
    if (m_plan.beside) return m_plan.beside->breaksAlong();
    std::vector<double> out = m_stops;
    for (std::size_t j = 0; j < m_guideAlong.size(); ++j) {
        const Path& line = m_plan.guides[m_guideOrder[j]].line;
        const auto& along = m_plan.guides[m_guideOrder[j]].along;
        const double round = m_plan.closed ? line.length() : 0;
        const double last = m_plan.closed ? along.front() + round : along.back();
        for (const double s : line.breaks())
            for (const double there : {s, s + round})
                if (there > along.front() && there < last) out.push_back(m_guideAlong[j].inverse(there));
    }
    if (m_plan.spine)
        for (const double s : m_plan.spine->line.breaks())
            if (s > m_stops.front() && s < m_stops.back()) out.push_back(s);
    std::sort(out.begin(), out.end());
    const double near = 1e-5 * (m_stops.back() - m_stops.front());
    std::vector<double> apart{out.front()};
    for (const double v : out)
        if (v - apart.back() > near) apart.push_back(v);
    apart.back() = m_stops.back();
    return apart;
}

} // namespace gc
