#include "core/sketch/solve/elimination.hpp"

#include "core/base/at_index.hpp"

#include <algorithm>
#include <cmath>
#include <functional>
#include <queue>

namespace gc {

namespace {

/// Below this an entry is what rounding left.
constexpr double kNothing = 1e-13;

} // namespace

Elimination::Elimination(int unknowns, double tolerance)
    : m_tolerance(tolerance), m_rowOf(at(unknowns), -1), m_work(at(unknowns), 0.0), m_in(at(unknowns), 0),
      m_rowsWith(at(unknowns)) {}

bool Elimination::add(const SparseRow& row, SparseRow* dependsOn) {
    const bool independent = reduce(row, dependsOn);
    ++m_added;
    return independent;
}

bool Elimination::reduce(const SparseRow& row, SparseRow* dependsOn) {
    double norm = 0;
    for (const auto& [c, v] : row) norm += v * v;
    norm = norm > 1e-300 ? std::sqrt(norm) : 1;
    std::vector<int> pattern;
    std::priority_queue<int, std::vector<int>, std::greater<>> open;
    const auto touch = [&](int c, double v) {
        if (!m_in[at(c)]) {
            m_in[at(c)] = 1;
            pattern.push_back(c);
            if (m_rowOf[at(c)] >= 0) open.push(m_rowOf[at(c)]);
        }
        m_work[at(c)] += v;
    };
    for (const auto& [c, v] : row) touch(c, v / norm);
    SparseRow multipliers;
    while (!open.empty()) {
        const int k = open.top();
        open.pop();
        const Row& r = m_rows[at(k)];
        const double f = m_work[at(r.column)] / r.pivot;
        if (std::fabs(f) >= 1e-14) {
            multipliers.push_back({k, f});
            for (const auto& [c, v] : r.entries)
                if (c != r.column) touch(c, -f * v);
        }
        m_work[at(r.column)] = 0;
    }
    int best = -1;
    double most = 0;
    for (const int c : pattern)
        if (std::fabs(m_work[at(c)]) > most) most = std::fabs(m_work[at(c)]), best = c;
    const bool independent = most > m_tolerance;
    if (independent) {
        Row r{{}, best, m_work[at(best)], m_added, norm, std::move(multipliers)};
        for (const int c : pattern)
            if (std::fabs(m_work[at(c)]) > kNothing) {
                r.entries.push_back({c, m_work[at(c)]});
                if (c != best) m_rowsWith[at(c)].push_back(rank());
            }
        m_rowOf[at(best)] = rank();
        m_rows.push_back(std::move(r));
    } else if (dependsOn) {
        expand(multipliers, norm, *dependsOn);
    }
    for (const int c : pattern) m_work[at(c)] = 0, m_in[at(c)] = 0;
    return independent;
}

/// From multiples of reduced rows to multiples of the rows as they were given.
void Elimination::expand(const SparseRow& multipliers, double norm, SparseRow& dependsOn) {
    std::vector<double> lambda(m_rows.size(), 0.0);
    std::vector<char> queued(m_rows.size(), 0);
    std::priority_queue<int> open;
    const auto touch = [&](int k, double v) {
        lambda[at(k)] += v;
        if (!queued[at(k)]) {
            queued[at(k)] = 1;
            open.push(k);
        }
    };
    for (const auto& [k, v] : multipliers) touch(k, v);
    dependsOn.clear();
    while (!open.empty()) {
        const int k = open.top();
        open.pop();
        const double l = lambda[at(k)];
        if (std::fabs(l) < 1e-12) continue;
        dependsOn.push_back({m_rows[at(k)].original, l * norm / m_rows[at(k)].norm});
        for (const auto& [j, v] : m_rows[at(k)].made) touch(j, -l * v);
    }
}

std::vector<int> Elimination::freeUnknowns() const {
    std::vector<int> free;
    for (std::size_t c = 0; c < m_rowOf.size(); ++c)
        if (m_rowOf[c] < 0) free.push_back(static_cast<int>(c));
    return free;
}

SparseRow Elimination::motion(int freeUnknown) {
    std::vector<int> touched{freeUnknown};
    m_work[at(freeUnknown)] = 1;
    m_in[at(freeUnknown)] = 1;
    std::priority_queue<int> open; // later rows first: their pivots stand in no later row
    for (const int k : m_rowsWith[at(freeUnknown)]) open.push(k);
    for (int last = -1; !open.empty();) {
        const int k = open.top();
        open.pop();
        if (k == last) continue;
        last = k;
        const Row& r = m_rows[at(k)];
        double sum = 0;
        for (const auto& [c, v] : r.entries)
            if (c != r.column) sum += v * m_work[at(c)];
        const double value = -sum / r.pivot;
        if (std::fabs(value) < 1e-11) continue;
        m_work[at(r.column)] = value;
        if (!m_in[at(r.column)]) {
            m_in[at(r.column)] = 1;
            touched.push_back(r.column);
        }
        for (const int other : m_rowsWith[at(r.column)]) open.push(other);
    }
    SparseRow out;
    for (const int c : touched) {
        if (std::fabs(m_work[at(c)]) > 1e-10) out.push_back({c, m_work[at(c)]});
        m_work[at(c)] = 0;
        m_in[at(c)] = 0;
    }
    return out;
}

} // namespace gc
