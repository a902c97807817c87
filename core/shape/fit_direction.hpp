#pragma once
/// \file For .cpp files only: B-splines of degree 5 through given points, on chosen breaks of the parameter.

#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>

#include <memory>
#include <vector>

namespace gc {

/// One parameter of a curve or surface that is fitted: its knots, and where it is interpolated.
class FitDirection {
  public:
    static constexpr int kDegree = 5;

    /// \param breaks ascending, ends included
    /// \param smooth how many derivatives are continuous at each break, 0 to 4; those of the ends count not
    FitDirection(std::vector<double> breaks, const std::vector<int>& smooth);

    /// Halves every span.
    void refine();

    int poles() const { return m_flat->Length() - kDegree - 1; }
    /// Where values are wanted, as many as poles.
    const std::vector<double>& points() const { return m_points; }
    /// Between these.
    std::vector<double> middles() const;
    const TColStd_Array1OfReal& knots() const { return *m_knots; }
    const TColStd_Array1OfInteger& multiplicities() const { return *m_multiplicities; }

    /// Values in rows of `width` numbers, one row a point, become poles in the same rows.
    bool solve(std::vector<double>& rows, std::size_t width) const;

  private:
    void build();

    std::vector<double> m_breaks;
    std::vector<int> m_smooth;
    int m_parts = 1;
    std::unique_ptr<TColStd_Array1OfReal> m_knots, m_flat;
    std::unique_ptr<TColStd_Array1OfInteger> m_multiplicities;
    std::vector<double> m_points;
};

} // namespace gc
