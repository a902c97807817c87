#include "core/sketch/solve/reduce.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <queue>

namespace gc {

Equalities::Equalities(int coordinates)
    : m_ground(coordinates), m_parent(static_cast<std::size_t>(coordinates) + 1),
      m_offset(static_cast<std::size_t>(coordinates) + 1, 0.0),
      m_ties(static_cast<std::size_t>(coordinates) + 1) {
    std::iota(m_parent.begin(), m_parent.end(), 0);
}

/// The root of i, and i less root. Paths are shortened on the way.
int Equalities::root(int i, double& sum) {
    std::vector<int> path;
    while (m_parent[static_cast<std::size_t>(i)] != i) {
        path.push_back(i);
        i = m_parent[static_cast<std::size_t>(i)];
    }
    double total = 0;
    for (auto it = path.rbegin(); it != path.rend(); ++it) {
        const auto at = static_cast<std::size_t>(*it);
        total += m_offset[at];
        m_offset[at] = total;
        m_parent[at] = i;
    }
    sum = total;
    return i;
}

Equalities::Known Equalities::tie(int u, int v, double value, int by) {
    if (v < 0) v = m_ground;
    double fromU = 0, fromV = 0;
    const int a = root(u, fromU), b = root(v, fromV);
    if (a == b) return {true, std::fabs(fromU - fromV - value)};
    m_ties[static_cast<std::size_t>(u)].push_back({v, by});
    m_ties[static_cast<std::size_t>(v)].push_back({u, by});
    // a - b = value + fromV - fromU. The ground stays a root.
    const double d = value + fromV - fromU;
    if (a == m_ground) {
        m_parent[static_cast<std::size_t>(b)] = a;
        m_offset[static_cast<std::size_t>(b)] = -d;
    } else {
        m_parent[static_cast<std::size_t>(a)] = b;
        m_offset[static_cast<std::size_t>(a)] = d;
    }
    return {};
}

std::vector<int> Equalities::chain(int u, int v) const {
    if (v < 0) v = m_ground;
    std::vector<Tie> from(m_parent.size(), Tie{-1, 0});
    std::queue<int> open;
    open.push(u);
    from[static_cast<std::size_t>(u)].other = u;
    while (!open.empty() && from[static_cast<std::size_t>(v)].other < 0) {
        const int i = open.front();
        open.pop();
        for (const Tie& t : m_ties[static_cast<std::size_t>(i)])
            if (from[static_cast<std::size_t>(t.other)].other < 0) {
                from[static_cast<std::size_t>(t.other)] = {i, t.by};
                open.push(t.other);
            }
    }
    std::vector<int> relations;
    if (from[static_cast<std::size_t>(v)].other < 0) return relations;
    for (int i = v; i != u; i = from[static_cast<std::size_t>(i)].other)
        relations.push_back(from[static_cast<std::size_t>(i)].by);
    std::sort(relations.begin(), relations.end());
    relations.erase(std::unique(relations.begin(), relations.end()), relations.end());
    return relations;
}

void Equalities::classes(std::vector<int>& classOf, std::vector<double>& offset, int& count) {
    std::vector<int> number(m_parent.size(), -1);
    classOf.resize(static_cast<std::size_t>(m_ground));
    offset.resize(static_cast<std::size_t>(m_ground));
    count = 0;
    for (int i = 0; i < m_ground; ++i) {
        const auto at = static_cast<std::size_t>(i);
        const int r = root(i, offset[at]);
        if (r == m_ground) {
            classOf[at] = -1;
            continue;
        }
        int& n = number[static_cast<std::size_t>(r)];
        if (n < 0) n = count++;
        classOf[at] = n;
    }
}

bool Equalities::same(int u, int v) {
    double a = 0, b = 0;
    return root(u, a) == root(v, b) && std::fabs(a - b) < 1e-12;
}

} // namespace gc
