#pragma once
/// \file The numbers of one independent part of a drawing: its unknowns, its Jacobian, its Newton steps.

#include "core/sketch/solve/system.hpp"

#include <Eigen/SparseCholesky>
#include <Eigen/SparseCore>

#include <memory>

namespace gc {

/// Equations that hang together through their unknowns, and those unknowns.
///
/// A step solves the quasi-definite system
///   [ W  J' ] [dz]   [ W (anchor - z) ]
///   [ J -d  ] [ l] = [ -r             ]
/// so it is the smallest motion (weighted by W) from the anchor that meets the equations to first order.
/// Unlike J'J + eps W it does not square the condition, and unlike J J' it does not fill in at a shared
/// centre; with d > 0 it has a factor in every order of elimination, also where rows depend on each other
/// (Vanderbei, Symmetric quasidefinite matrices, SIAM J. Optim. 5, 1995).
class Component {
  public:
    Component(const System& system, std::vector<int> equations);

    int unknowns() const { return static_cast<int>(m_global.size()); }
    int rows() const { return static_cast<int>(m_equations.size()); }
    const std::vector<int>& globalUnknowns() const { return m_global; }
    const std::vector<int>& equations() const { return m_equations; }

    Eigen::VectorXd gather(std::span<const double> z) const;
    void scatter(const Eigen::VectorXd& local, std::vector<double>& z) const;

    /// Residuals at local unknowns; with the Jacobian too when asked. \return the largest, mm.
    double evaluate(const Eigen::VectorXd& local, bool jacobian);
    const Eigen::VectorXd& residuals() const { return m_r; }
    double value(int row) const { return m_r[row]; }

    /// Row k of the Jacobian of the last evaluation: local unknowns and derivatives, each unknown once.
    std::vector<std::pair<int, double>> row(int k) const;

    /// A spring of strength one in W: unknown a less unknown b (global numbers; b < 0: nothing) wants to be
    /// `rest`. What springs join moves together.
    struct Spring {
        int a = 0, b = -1;
        double rest = 0;
    };
    /// An empty list takes the springs away.
    void setSprings(const std::vector<Spring>& springs);
    /// What pulls at z: W (home - z), springs included.
    Eigen::VectorXd pull(const Eigen::VectorXd& weights, const Eigen::VectorXd& home,
                         const Eigen::VectorXd& z) const;

    /// Factors the system above for the last Jacobian. False when the numbers do not allow it.
    bool factor(const Eigen::VectorXd& weights, double d);
    /// A step by the last factor. \param pull W (anchor - z), or nothing for zero.
    Eigen::VectorXd step(const Eigen::VectorXd& residuals, const Eigen::VectorXd* pull) const;

    /// Other sizes for the dimensions, by row; used when a change is made in parts.
    void setSystem(const System& system) { m_system = &system; }

  private:
    void analyse();
    using Sparse = Eigen::SparseMatrix<double>;
    const System* m_system;
    std::vector<int> m_equations;
    std::vector<int> m_global; ///< local to global unknown
    std::vector<double> m_scratch;
    // The Jacobian by rows, duplicates merged.
    std::vector<int> m_rowStart, m_column;
    std::vector<double> m_value;
    std::vector<int> m_slot;      ///< for every operand of every equation: where in m_value; -1: ground
    std::vector<int> m_slotStart; ///< by equation
    std::vector<int> m_local;     ///< for every operand: local unknown or -1
    std::vector<double> m_offset; ///< for every operand
    Eigen::VectorXd m_r;
    // The factored system, in the order of elimination.
    struct Factor {
        Sparse matrix;
        Eigen::SimplicialLDLT<Sparse, Eigen::Lower, Eigen::NaturalOrdering<int>> ldlt;
        std::vector<int> place;      ///< of unknown i or row n + k in the order of elimination
        std::vector<int> jacobianAt; ///< by entry of m_value: where in the matrix
        std::vector<int> diagonalAt;
        std::vector<int> springAt;
    };
    std::vector<Spring> m_springs; ///< of local unknowns
    std::shared_ptr<Factor> m_factor;
};

/// The independent parts of a system; equations on constants alone are in none (see System::equations).
std::vector<Component> componentsOf(const System& system);

} // namespace gc
