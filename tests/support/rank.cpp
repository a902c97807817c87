#include "tests/support/rank.hpp"

#include <Eigen/QR>

namespace gc::test {

int freedomsByDifferences(const Drawing& d, const DimensionValues& v) {
    const System s = compile(d, v);
    // Residuals of the reduced equations as a function of raw coordinates, plus one row for every tie.
    const auto n = static_cast<Eigen::Index>(s.start.size());
    std::vector<double> x(s.start.size());
    for (std::size_t i = 0; i < x.size(); ++i) x[i] = s.coordinate(s.unknowns, static_cast<int>(i));
    std::vector<Eigen::VectorXd> rows;
    for (const Equation& e : s.equations) {
        std::vector<double> at(static_cast<std::size_t>(e.count));
        const auto value = [&](const std::vector<double>& y) {
            for (int j = 0; j < e.count; ++j)
                at[static_cast<std::size_t>(j)] =
                    y[static_cast<std::size_t>(s.operands[static_cast<std::size_t>(e.first + j)])];
            return evaluate(e, s.constants.data() + e.extra, at.data(), nullptr);
        };
        Eigen::VectorXd row = Eigen::VectorXd::Zero(n);
        for (int j = 0; j < e.count; ++j) {
            const auto c = static_cast<std::size_t>(s.operands[static_cast<std::size_t>(e.first + j)]);
            auto y = x;
            y[c] = x[c] + 1e-5;
            const double up = value(y);
            y[c] = x[c] - 1e-5;
            row[static_cast<Eigen::Index>(c)] = (up - value(y)) / 2e-5;
        }
        rows.push_back(row);
    }
    for (Eigen::Index i = 0; i < n; ++i)
        for (Eigen::Index j = -1; j < i; ++j) {
            const auto a = static_cast<std::size_t>(i);
            Eigen::VectorXd row = Eigen::VectorXd::Zero(n);
            row[i] = 1;
            if (j < 0 ? s.classOf[a] >= 0
                      : s.classOf[a] < 0 || s.classOf[a] != s.classOf[static_cast<std::size_t>(j)])
                continue;
            if (j >= 0) row[j] = -1;
            rows.push_back(row);
            break;
        }
    Eigen::MatrixXd m(static_cast<Eigen::Index>(rows.size()), n);
    for (std::size_t i = 0; i < rows.size(); ++i) m.row(static_cast<Eigen::Index>(i)) = rows[i].normalized();
    Eigen::FullPivHouseholderQR<Eigen::MatrixXd> parted(m);
    parted.setThreshold(1e-7); // as a share of the largest pivot, which is about 1: rows are of length 1
    return static_cast<int>(n - parted.rank());
}

} // namespace gc::test
