#pragma once
/// \file Merging unknowns that plain equalities tie: u - v = value, u = value.

#include <vector>

namespace gc {

/// An affine union-find over coordinates and the ground.
class Equalities {
  public:
    explicit Equalities(int coordinates);

    /// Ties u - v = value; v < 0: u = value. \param by the relation it comes from.
    /// \return by how much what was tied before differs from it; nothing when it was news.
    struct Known {
        bool known = false;
        double missedBy = 0;
    };
    Known tie(int u, int v, double value, int by);

    /// The relations along the chain of ties between two coordinates (v < 0: the ground).
    std::vector<int> chain(int u, int v) const;

    /// The class of every coordinate (-1: ground) and its offset from the class's unknown.
    void classes(std::vector<int>& classOf, std::vector<double>& offset, int& count);
    /// Are two coordinates one and the same, to 1e-12?
    bool same(int u, int v);

  private:
    int root(int i, double& sum);
    struct Tie {
        int other = 0, by = 0;
    };
    int m_ground;
    std::vector<int> m_parent;
    std::vector<double> m_offset; ///< to the parent
    std::vector<std::vector<Tie>> m_ties;
};

} // namespace gc
