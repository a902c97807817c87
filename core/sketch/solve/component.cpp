#include "core/sketch/solve/component.hpp"

#include <Eigen/OrderingMethods>

#include <algorithm>
#include <cmath>
#include <numeric>

namespace gc {

Component::Component(const System& system, std::vector<int> equations)
    : m_system(&system), m_equations(std::move(equations)) {
    std::unordered_map<int, int> local;
    m_rowStart.push_back(0);
    m_slotStart.push_back(0);
    std::size_t widest = 0;
    for (const int k : m_equations) {
        const Equation& e = system.equations[static_cast<std::size_t>(k)];
        widest = std::max(widest, static_cast<std::size_t>(e.count));
        const auto rowBegin = static_cast<std::size_t>(m_rowStart.back());
        for (int j = 0; j < e.count; ++j) {
            const auto c = static_cast<std::size_t>(system.operands[static_cast<std::size_t>(e.first + j)]);
            m_offset.push_back(system.offset[c]);
            const int global = system.classOf[c];
            if (global < 0) {
                m_local.push_back(-1);
                m_slot.push_back(-1);
                continue;
            }
            const auto [it, isNew] = local.try_emplace(global, static_cast<int>(m_global.size()));
            if (isNew) m_global.push_back(global);
            m_local.push_back(it->second);
            const auto known = std::find(m_column.begin() + static_cast<std::ptrdiff_t>(rowBegin),
                                         m_column.end(), it->second);
            m_slot.push_back(static_cast<int>(known - m_column.begin()));
            if (known == m_column.end()) m_column.push_back(it->second);
        }
        m_rowStart.push_back(static_cast<int>(m_column.size()));
        m_slotStart.push_back(static_cast<int>(m_slot.size()));
    }
    m_value.resize(m_column.size());
    m_scratch.resize(2 * widest);
    m_r.resize(rows());
}

Eigen::VectorXd Component::gather(std::span<const double> z) const {
    Eigen::VectorXd local(unknowns());
    for (int i = 0; i < unknowns(); ++i)
        local[i] = z[static_cast<std::size_t>(m_global[static_cast<std::size_t>(i)])];
    return local;
}

void Component::scatter(const Eigen::VectorXd& local, std::vector<double>& z) const {
    for (int i = 0; i < unknowns(); ++i)
        z[static_cast<std::size_t>(m_global[static_cast<std::size_t>(i)])] = local[i];
}

double Component::evaluate(const Eigen::VectorXd& z, bool jacobian) {
    if (jacobian) std::fill(m_value.begin(), m_value.end(), 0.0);
    double* x = m_scratch.data();
    double* g = x + m_scratch.size() / 2;
    double worst = 0;
    for (std::size_t k = 0; k < m_equations.size(); ++k) {
        const Equation& e = m_system->equations[static_cast<std::size_t>(m_equations[k])];
        const auto slot = static_cast<std::size_t>(m_slotStart[k]);
        for (std::size_t j = 0; j < static_cast<std::size_t>(e.count); ++j) {
            const int local = m_local[slot + j];
            x[j] = m_offset[slot + j] + (local < 0 ? 0.0 : z[local]);
        }
        const double r = gc::evaluate(e, m_system->constants.data() + e.extra, x, jacobian ? g : nullptr);
        m_r[static_cast<Eigen::Index>(k)] = r;
        worst = std::isfinite(r) ? std::max(worst, std::fabs(r)) : 1e300;
        if (!jacobian) continue;
        for (std::size_t j = 0; j < static_cast<std::size_t>(e.count); ++j)
            if (const int at = m_slot[slot + j]; at >= 0) m_value[static_cast<std::size_t>(at)] += g[j];
    }
    return worst;
}

std::vector<std::pair<int, double>> Component::row(int k) const {
    std::vector<std::pair<int, double>> out;
    for (int i = m_rowStart[static_cast<std::size_t>(k)]; i < m_rowStart[static_cast<std::size_t>(k) + 1];
         ++i)
        out.push_back({m_column[static_cast<std::size_t>(i)], m_value[static_cast<std::size_t>(i)]});
    return out;
}

void Component::setSprings(const std::vector<Spring>& springs) {
    std::unordered_map<int, int> local;
    for (int i = 0; i < unknowns(); ++i) local[m_global[static_cast<std::size_t>(i)]] = i;
    m_springs.clear();
    for (Spring s : springs) {
        const auto i = local.find(s.a), j = local.find(s.b);
        if (i == local.end() || s.a == s.b || (s.b >= 0 && j == local.end())) continue;
        s.a = i->second;
        if (s.b >= 0) s.b = j->second;
        m_springs.push_back(s);
    }
    m_factor.reset();
}

Eigen::VectorXd Component::pull(const Eigen::VectorXd& weights, const Eigen::VectorXd& home,
                                const Eigen::VectorXd& z) const {
    Eigen::VectorXd out = weights.cwiseProduct(home - z);
    for (const Spring& s : m_springs) {
        const double stretch = s.rest - (z[s.a] - (s.b < 0 ? 0.0 : z[s.b]));
        out[s.a] += stretch;
        if (s.b >= 0) out[s.b] -= stretch;
    }
    return out;
}

/// Chooses the order of elimination once and lays the matrix out in it.
void Component::analyse() {
    m_factor = std::make_shared<Factor>();
    const int n = unknowns(), all = n + rows();
    std::vector<Eigen::Triplet<double>> entries;
    for (int i = 0; i < all; ++i) entries.emplace_back(i, i, 1.0);
    for (int k = 0; k < rows(); ++k)
        for (int i = m_rowStart[static_cast<std::size_t>(k)]; i < m_rowStart[static_cast<std::size_t>(k) + 1];
             ++i)
            entries.emplace_back(n + k, m_column[static_cast<std::size_t>(i)], 1.0);
    for (const Spring& s : m_springs)
        if (s.b >= 0) entries.emplace_back(std::max(s.a, s.b), std::min(s.a, s.b), 1.0);
    Sparse pattern(all, all);
    pattern.setFromTriplets(entries.begin(), entries.end());
    Eigen::PermutationMatrix<Eigen::Dynamic, Eigen::Dynamic, int> order;
    Eigen::AMDOrdering<int>()(pattern.selfadjointView<Eigen::Lower>(), order);
    m_factor->place.resize(static_cast<std::size_t>(all));
    for (int p = 0; p < all; ++p) m_factor->place[static_cast<std::size_t>(order.indices()[p])] = p;
    const auto place = [&](int i) { return m_factor->place[static_cast<std::size_t>(i)]; };
    for (auto& t : entries) {
        const int a = place(t.row()), b = place(t.col());
        t = {std::max(a, b), std::min(a, b), 1.0};
    }
    Sparse& m = m_factor->matrix;
    m.resize(all, all);
    m.setFromTriplets(entries.begin(), entries.end());
    m.makeCompressed();
    const auto find = [&](const Eigen::Triplet<double>& t) {
        const int* begin = m.innerIndexPtr() + m.outerIndexPtr()[t.col()];
        const int* end = m.innerIndexPtr() + m.outerIndexPtr()[t.col() + 1];
        return static_cast<int>(std::lower_bound(begin, end, t.row()) - m.innerIndexPtr());
    };
    const std::size_t diagonals = static_cast<std::size_t>(all), couplings = diagonals + m_value.size();
    for (std::size_t i = 0; i < entries.size(); ++i)
        (i < diagonals   ? m_factor->diagonalAt
         : i < couplings ? m_factor->jacobianAt
                         : m_factor->springAt)
            .push_back(find(entries[i]));
    m_factor->ldlt.analyzePattern(m);
}

bool Component::factor(const Eigen::VectorXd& weights, double d) {
    if (!m_factor) analyse();
    double* v = m_factor->matrix.valuePtr();
    const int n = unknowns();
    for (int i = 0; i < n; ++i) v[m_factor->diagonalAt[static_cast<std::size_t>(i)]] = weights[i];
    for (int k = 0; k < rows(); ++k) v[m_factor->diagonalAt[static_cast<std::size_t>(n + k)]] = -d;
    for (std::size_t i = 0; i < m_value.size(); ++i) v[m_factor->jacobianAt[i]] = m_value[i];
    for (const int at : m_factor->springAt) v[at] = 0;
    std::size_t coupling = 0;
    for (const Spring& spring : m_springs) {
        v[m_factor->diagonalAt[static_cast<std::size_t>(spring.a)]] += 1;
        if (spring.b < 0) continue;
        v[m_factor->diagonalAt[static_cast<std::size_t>(spring.b)]] += 1;
        v[m_factor->springAt[coupling++]] -= 1;
    }
    m_factor->ldlt.factorize(m_factor->matrix);
    return m_factor->ldlt.info() == Eigen::Success;
}

Eigen::VectorXd Component::step(const Eigen::VectorXd& residuals, const Eigen::VectorXd* pull) const {
    const int n = unknowns();
    Eigen::VectorXd b(n + rows());
    const auto place = [&](int i) { return m_factor->place[static_cast<std::size_t>(i)]; };
    for (int i = 0; i < n; ++i) b[place(i)] = pull ? (*pull)[i] : 0.0;
    for (int k = 0; k < rows(); ++k) b[place(n + k)] = -residuals[k];
    const Eigen::VectorXd x = m_factor->ldlt.solve(b);
    Eigen::VectorXd dz(n);
    for (int i = 0; i < n; ++i) dz[i] = x[place(i)];
    return dz;
}

std::vector<Component> componentsOf(const System& system) {
    std::vector<int> parent(system.unknowns.size());
    std::iota(parent.begin(), parent.end(), 0);
    const auto find = [&](int i) {
        while (parent[static_cast<std::size_t>(i)] != i) {
            int& up = parent[static_cast<std::size_t>(i)];
            up = parent[static_cast<std::size_t>(up)];
            i = up;
        }
        return i;
    };
    const auto firstUnknown = [&](const Equation& e, auto&& visit) {
        int first = -1;
        for (int j = 0; j < e.count; ++j) {
            const int c = system.classOf[static_cast<std::size_t>(
                system.operands[static_cast<std::size_t>(e.first + j)])];
            if (c < 0) continue;
            if (first < 0) first = find(c);
            visit(first, c);
        }
        return first;
    };
    for (const Equation& e : system.equations)
        firstUnknown(e, [&](int& first, int c) {
            parent[static_cast<std::size_t>(find(c))] = first;
            first = find(first);
        });
    std::vector<int> number(system.unknowns.size(), -1);
    std::vector<std::vector<int>> lists;
    for (std::size_t k = 0; k < system.equations.size(); ++k) {
        int root = firstUnknown(system.equations[k], [](int, int) {});
        if (root < 0) continue;
        int& at = number[static_cast<std::size_t>(find(root))];
        if (at < 0) {
            at = static_cast<int>(lists.size());
            lists.emplace_back();
        }
        lists[static_cast<std::size_t>(at)].push_back(static_cast<int>(k));
    }
    std::vector<Component> components;
    for (auto& list : lists) components.emplace_back(system, std::move(list));
    return components;
}

} // namespace gc
