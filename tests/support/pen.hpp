#pragma once
/// \file A pen for drawings in tests, and ways to look at them that do not use the solver's equations.

#include "core/sketch/solve/freedom.hpp"

#include <Eigen/SVD>

#include <numbers>

namespace gc::test {

using K = RelationKind;
using S = StrokeKind;

inline constexpr double kPi = std::numbers::pi;
inline constexpr double kGood = 1e-9;

struct Pen {
    Drawing d;
    DimensionValues v;

    int line(Vec2 a, Vec2 b) { return d.draw(S::Line, {a, b}); }
    int circle(Vec2 c, double r) { return d.draw(S::Circle, {c}, {r}); }
    int arc(Vec2 c, double r, double from, double to) {
        const auto at = [&](double a) { return c + Vec2{std::cos(a), std::sin(a)} * r; };
        return d.draw(S::Arc, {at(from), at(to), c}, {r});
    }
    int dot(Vec2 p) { return d.findStroke(d.draw(S::Point, {p}))->points[0]; }
    int from(int s) const { return d.findStroke(s)->points[0]; }
    int to(int s) const { return d.findStroke(s)->points[1]; }
    int centre(int s) const { return centrePoint(*d.findStroke(s)); }
    void join(int p, int q) { d.relate(K::Coincident, {p, q}); }
    void size(K kind, std::vector<int> of, double value) { v[d.relate(kind, std::move(of))] = value; }
    /// A closed ring of lines.
    std::vector<int> ring(const std::vector<Vec2>& at) {
        std::vector<int> lines;
        for (std::size_t i = 0; i < at.size(); ++i) lines.push_back(line(at[i], at[(i + 1) % at.size()]));
        for (std::size_t i = 0; i < at.size(); ++i) join(to(lines[i]), from(lines[(i + 1) % at.size()]));
        return lines;
    }
    Vec2 at(int p) const { return d.at(p); }
    Vec2 along(int l) const { return d.at(to(l)) - d.at(from(l)); }
    double radius(int s) const { return d.findStroke(s)->sizes[0]; }

    Settlement settle() {
        Settler settler(d, v);
        const Settlement s = settler.settle();
        d = settler.drawing();
        return s;
    }
};

inline double area(const Pen& p, const std::vector<int>& ring) {
    double a = 0;
    for (const int l : ring) a += cross(p.at(p.from(l)), p.at(p.to(l))) / 2;
    return std::fabs(a);
}

inline double heightOver(const Pen& p, int line, Vec2 q) {
    const Vec2 u = p.along(line);
    return cross(u, q - p.at(p.from(line))) / length(u);
}

/// How many sizes are missing, from the singular values of the raw Jacobian taken by differences: every
/// coordinate an unknown, every relation all its equations, nothing merged.
inline int freedomsByDifferences(const Drawing& d, const DimensionValues& v) {
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
    const Eigen::VectorXd singular = Eigen::BDCSVD<Eigen::MatrixXd>(m).singularValues();
    int rank = 0;
    for (const double value : singular) rank += value > 1e-7;
    return static_cast<int>(n) - rank;
}

} // namespace gc::test
