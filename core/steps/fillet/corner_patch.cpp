#include "core/steps/fillet/corner_patch.hpp"

#include <BSplCLib.hxx>
#include <Eigen/Sparse>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <math_Matrix.hxx>

#include <algorithm>
#include <array>
#include <cmath>

namespace gc {

namespace {

constexpr int kDegree = 3;
constexpr double kMargin = 0.04;  // of the width, round the border
constexpr double kSteepest = 0.2; // cosine between a normal and the direction of heights
constexpr double kFair = 1e-9;    // weight of fairness against the border

using Sparse = Eigen::SparseMatrix<double>;

/// Even knots over 0 to 1, ends held.
class Grid {
  public:
    explicit Grid(int cells) : m_cells(cells), m_flat(1, cells + 2 * kDegree + 1) {
        for (int i = m_flat.Lower(); i <= m_flat.Upper(); ++i)
            m_flat(i) = std::clamp((i - 1 - kDegree) / double(cells), 0.0, 1.0);
    }
    int cells() const { return m_cells; }
    int poles() const { return m_cells + kDegree; }
    /// Values and derivatives of the splines that are not zero there. \return the first of them, from 0
    int at(double t, int derivatives, math_Matrix& out) const {
        int first = 0;
        BSplCLib::EvalBsplineBasis(derivatives, kDegree + 1, m_flat, t, first, out);
        return first - 1;
    }
    /// Where a spline's pole lies for the spline to be its own parameter.
    double abscissa(int pole) const { return (m_flat(pole + 2) + m_flat(pole + 3) + m_flat(pole + 4)) / 3; }
    /// Integrals of products of two splines' derivatives of the same order, for orders 0 to 3, by Gauss's
    /// rule with four places a cell, which is exact.
    std::array<Sparse, 4> products() const {
        static constexpr std::array kPlaces{-0.8611363115940526, -0.3399810435848563, 0.3399810435848563,
                                            0.8611363115940526},
            kWeights{0.3478548451374538, 0.6521451548625461, 0.6521451548625461, 0.3478548451374538};
        std::array<std::vector<Eigen::Triplet<double>>, 4> entries;
        math_Matrix basis(1, 4, 1, kDegree + 1);
        for (int cell = 0; cell < m_cells; ++cell)
            for (std::size_t g = 0; g < 4; ++g) {
                const int first = at((cell + 0.5 + 0.5 * kPlaces[g]) / m_cells, 3, basis);
                for (int d = 0; d < 4; ++d)
                    for (int i = 0; i <= kDegree; ++i)
                        for (int j = 0; j <= kDegree; ++j)
                            entries[std::size_t(d)].emplace_back(
                                first + i, first + j,
                                kWeights[g] / (2 * m_cells) * basis(d + 1, i + 1) * basis(d + 1, j + 1));
            }
        std::array<Sparse, 4> out;
        for (std::size_t d = 0; d < 4; ++d) {
            out[d].resize(poles(), poles());
            out[d].setFromTriplets(entries[d].begin(), entries[d].end());
        }
        return out;
    }

  private:
    int m_cells;
    TColStd_Array1OfReal m_flat;
};

/// Both as wide.
Sparse kronecker(const Sparse& a, const Sparse& b) {
    const auto wide = static_cast<int>(a.cols());
    std::vector<Eigen::Triplet<double>> entries;
    for (int k = 0; k < a.outerSize(); ++k)
        for (Sparse::InnerIterator p(a, k); p; ++p)
            for (int l = 0; l < b.outerSize(); ++l)
                for (Sparse::InnerIterator q(b, l); q; ++q)
                    entries.emplace_back(int(p.row() * wide + q.row()), int(p.col() * wide + q.col()),
                                         p.value() * q.value());
    Sparse out(wide * wide, wide * wide);
    out.setFromTriplets(entries.begin(), entries.end());
    return out;
}

/// A place of the border on the square from 0 to 1, its height and slopes there.
struct PatchRow {
    double x = 0, y = 0;
    std::array<double, 3> heightAndSlopes{};
};

/// Heights of the poles, x by x.
std::optional<Eigen::VectorXd> fairHeights(const Grid& grid, const std::vector<PatchRow>& wanted) {
    const int poles = grid.poles();
    std::vector<Eigen::Triplet<double>> entries;
    Eigen::VectorXd right(Eigen::Index(3 * wanted.size()));
    math_Matrix u(1, 2, 1, kDegree + 1), v(1, 2, 1, kDegree + 1);
    const double weight = std::sqrt(1.0 / double(wanted.size()));
    for (std::size_t k = 0; k < wanted.size(); ++k) {
        const int i0 = grid.at(wanted[k].x, 1, u), j0 = grid.at(wanted[k].y, 1, v);
        // A slope counts over the width of a cell.
        const std::array<double, 3> scales{weight * grid.cells(), weight, weight};
        for (int r = 0; r < 3; ++r) {
            const int row = int(3 * k) + r;
            for (int i = 0; i <= kDegree; ++i)
                for (int j = 0; j <= kDegree; ++j)
                    entries.emplace_back(row, (i0 + i) * poles + j0 + j,
                                         scales[std::size_t(r)] * u(r == 1 ? 2 : 1, i + 1) *
                                             v(r == 2 ? 2 : 1, j + 1));
            right(row) = scales[std::size_t(r)] * wanted[k].heightAndSlopes[std::size_t(r)];
        }
    }
    Sparse border(Eigen::Index(3 * wanted.size()), poles * poles);
    border.setFromTriplets(entries.begin(), entries.end());
    const auto m = grid.products();
    const Sparse fair = Sparse(kronecker(m[3], m[0]) + kronecker(m[0], m[3])) +
                        3.0 * Sparse(kronecker(m[2], m[1]) + kronecker(m[1], m[2]));
    const Sparse normal = Sparse(border.transpose() * border) + kFair * fair;
    Eigen::SimplicialLDLT<Sparse> solver(normal);
    if (solver.info() != Eigen::Success) return std::nullopt;
    Eigen::VectorXd heights = solver.solve(border.transpose() * right);
    if (solver.info() != Eigen::Success || !heights.allFinite()) return std::nullopt;
    return heights;
}

Handle(Geom_BSplineSurface)
    surfaceOf(const Grid& grid, const Eigen::VectorXd& heights, const gp_Ax3& over, double width) {
    const int count = grid.poles(), cells = grid.cells();
    TColgp_Array2OfPnt poles(1, count, 1, count);
    for (int i = 0; i < count; ++i)
        for (int j = 0; j < count; ++j)
            poles(i + 1, j + 1) =
                over.Location()
                    .Translated(gp_Vec(over.XDirection()) * (width * grid.abscissa(i)))
                    .Translated(gp_Vec(over.YDirection()) * (width * grid.abscissa(j)))
                    .Translated(gp_Vec(over.Direction()) * (width * heights(i * count + j)));
    TColStd_Array1OfReal knots(1, cells + 1);
    TColStd_Array1OfInteger times(1, cells + 1);
    for (int i = 0; i <= cells; ++i) {
        knots(i + 1) = width * i / cells;
        times(i + 1) = i == 0 || i == cells ? kDegree + 1 : 1;
    }
    return new Geom_BSplineSurface(poles, knots, knots, times, times, kDegree, kDegree);
}

/// The frame whose square from its origin holds the border. \return how wide it is, mm
std::pair<gp_Ax3, double> squareOver(const std::vector<BorderPlace>& border, const gp_Vec& up) {
    const gp_Ax3 frame(border.front().at, gp_Dir(up));
    double low[2] = {1e300, 1e300}, high[2] = {-1e300, -1e300};
    for (const BorderPlace& b : border) {
        const gp_Vec to(frame.Location(), b.at);
        const double at[2] = {to.Dot(gp_Vec(frame.XDirection())), to.Dot(gp_Vec(frame.YDirection()))};
        for (int k : {0, 1}) low[k] = std::min(low[k], at[k]), high[k] = std::max(high[k], at[k]);
    }
    const double width = std::max(high[0] - low[0], high[1] - low[1]) * (1 + 2 * kMargin);
    gp_Ax3 out = frame;
    out.SetLocation(frame.Location()
                        .Translated(gp_Vec(frame.XDirection()) * (0.5 * (low[0] + high[0] - width)))
                        .Translated(gp_Vec(frame.YDirection()) * (0.5 * (low[1] + high[1] - width))));
    return {out, width};
}

std::optional<CornerPatch> fittedBy(int cells, const std::vector<BorderPlace>& border,
                                    const std::vector<PatchRow>& wanted, const gp_Ax3& over, double width) {
    const Grid grid(cells);
    const auto heights = fairHeights(grid, wanted);
    if (!heights) return std::nullopt;
    CornerPatch out{over, surfaceOf(grid, *heights, over, width)};
    for (std::size_t k = 0; k < border.size(); ++k) {
        gp_Pnt p;
        gp_Vec du, dv;
        out.heights->D1(width * wanted[k].x, width * wanted[k].y, p, du, dv);
        out.off = std::max(out.off, p.Distance(border[k].at));
        out.kink = std::max(out.kink, du.Crossed(dv).Angle(border[k].normal));
    }
    return out;
}

/// With smaller cells where the border bends much.
std::optional<CornerPatch> fittedOver(const std::vector<BorderPlace>& border,
                                      const std::vector<PatchRow>& wanted, const gp_Ax3& over, double width) {
    constexpr double kFine = 2e-4, kEven = 2e-3; // mm, rad
    std::optional<CornerPatch> best;
    for (const int cells : {40, 80}) {
        auto made = fittedBy(cells, border, wanted, over, width);
        if (made && (!best || made->off < best->off)) best = std::move(made);
        if (best && best->off < kFine && best->kink < kEven) break;
    }
    return best;
}

} // namespace

std::optional<CornerPatch> fairPatch(const std::vector<BorderPlace>& border) {
    gp_Vec up;
    for (const BorderPlace& b : border) up += b.normal;
    if (border.empty() || up.Magnitude() < kSteepest * double(border.size())) return std::nullopt;
    up.Normalize();
    const auto [over, width] = squareOver(border, up);
    const gp_Vec x(over.XDirection()), y(over.YDirection());
    std::vector<PatchRow> wanted;
    for (const BorderPlace& b : border) {
        const double along = b.normal.Dot(up);
        if (along < kSteepest) return std::nullopt;
        const gp_Vec to = gp_Vec(over.Location(), b.at) / width;
        wanted.push_back(
            {to.Dot(x), to.Dot(y), {to.Dot(up), -b.normal.Dot(x) / along, -b.normal.Dot(y) / along}});
    }
    return fittedOver(border, wanted, over, width);
}

} // namespace gc
