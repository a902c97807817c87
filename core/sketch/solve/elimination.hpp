#pragma once
/// \file Rank, dependences and freedoms of a sparse Jacobian in one structure.

#include <utility>
#include <vector>

namespace gc {

using SparseRow = std::vector<std::pair<int, double>>;

/// Rows are added one at a time, scaled to unit length and reduced by those before; the pivot is the largest
/// entry left, and a row with none above the tolerance depends on earlier rows. Agrees with sparse QR and
/// with singular values where those are clear (see docs/outline.md).
class Elimination {
  public:
    explicit Elimination(int unknowns, double tolerance = 1e-8);

    /// \return true when the row is independent of those before. A dependent row is not kept.
    /// \param dependsOn for a dependent row: earlier rows (by the order of adding, dependent ones included)
    /// and how much of each, in units of the rows as given
    bool add(const SparseRow& row, SparseRow* dependsOn = nullptr);

    int rank() const { return static_cast<int>(m_rows.size()); }

    /// Unknowns that no row decides.
    std::vector<int> freeUnknowns() const;
    /// How everything moves when the free unknown moves by one and the other free ones stand still.
    SparseRow motion(int freeUnknown);

  private:
    struct Row {
        SparseRow entries;
        int column = 0;
        double pivot = 0;
        int original = 0;
        double norm = 1;
        SparseRow made; ///< earlier kept rows and how much of each was taken away
    };
    bool reduce(const SparseRow& row, SparseRow* dependsOn);
    void expand(const SparseRow& multipliers, double norm, SparseRow& dependsOn);

    double m_tolerance;
    std::vector<Row> m_rows;
    std::vector<int> m_rowOf; ///< by unknown: the kept row whose pivot it is, or -1
    std::vector<double> m_work;
    std::vector<char> m_in;
    std::vector<std::vector<int>> m_rowsWith; ///< by unknown: rows that hold it beside their pivot
    int m_added = 0;
};

} // namespace gc
