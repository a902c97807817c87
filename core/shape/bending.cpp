#include "core/shape/bending.hpp"

#include <Eigen/Dense>

#include <cmath>

namespace gc {

namespace {

/// A symmetric form on a tangent plane: e du² + 2 f du dv + g dv².
struct Form {
    double e = 0, f = 0, g = 0;
};
struct TangentFrame {
    Vec3 u, v, n;
    explicit TangentFrame(Vec3 normal) : n(normal) {
        const Vec3 aside = std::fabs(n.x) < 0.7 ? Vec3{1, 0, 0} : Vec3{0, 1, 0};
        u = unit(cross(aside, n));
        v = cross(n, u);
    }
};

/// Least squares of dn = II de over the sides of a triangle; nothing for a sliver.
bool formOf(const TriangleMesh& mesh, const std::array<std::uint32_t, 3>& t, const TangentFrame& frame,
            Form& out) {
    Eigen::Matrix<double, 6, 3> rows;
    Eigen::Matrix<double, 6, 1> turned;
    for (int k = 0; k < 3; ++k) {
        const std::uint32_t p = t[static_cast<std::size_t>(k)], q = t[static_cast<std::size_t>((k + 1) % 3)];
        const Vec3 e = mesh.points[q] - mesh.points[p], n = mesh.normals[q] - mesh.normals[p];
        const double eu = dot(e, frame.u), ev = dot(e, frame.v);
        rows.row(2 * k) << eu, ev, 0;
        rows.row(2 * k + 1) << 0, eu, ev;
        turned(2 * k) = dot(n, frame.u);
        turned(2 * k + 1) = dot(n, frame.v);
    }
    const Eigen::Matrix3d normal = rows.transpose() * rows;
    if (!(normal.determinant() > 1e-12 * std::pow(normal.trace(), 3))) return false;
    const Eigen::Vector3d form = normal.ldlt().solve(rows.transpose() * turned);
    out = {form(0), form(1), form(2)};
    return true;
}

/// The same form in the frame of a vertex, whose normal is nearly the same.
Form turnedTo(const TangentFrame& to, const TangentFrame& from, const Form& f) {
    const auto along = [&](Vec3 w) { return std::pair{dot(w, from.u), dot(w, from.v)}; };
    const auto [uu, uv] = along(to.u);
    const auto [vu, vv] = along(to.v);
    return {f.e * uu * uu + 2 * f.f * uu * uv + f.g * uv * uv,
            f.e * uu * vu + f.f * (uu * vv + uv * vu) + f.g * uv * vv,
            f.e * vu * vu + 2 * f.f * vu * vv + f.g * vv * vv};
}

} // namespace

std::vector<float> bendingOf(const TriangleMesh& mesh) {
    std::vector<Form> sums(mesh.points.size());
    std::vector<double> weights(mesh.points.size(), 0);
    for (const auto& t : mesh.triangles) {
        const Vec3 a = mesh.points[t[0]], square = cross(mesh.points[t[1]] - a, mesh.points[t[2]] - a);
        const double area = length(square) / 2;
        if (!(area > 0)) continue;
        const TangentFrame frame(square * (0.5 / area));
        Form form;
        if (!formOf(mesh, t, frame, form)) continue;
        for (const std::uint32_t v : t) {
            const Form f = turnedTo(TangentFrame(mesh.normals[v]), frame, form);
            sums[v].e += area * f.e, sums[v].f += area * f.f, sums[v].g += area * f.g;
            weights[v] += area;
        }
    }
    std::vector<float> out(mesh.points.size(), 0.f);
    for (std::size_t v = 0; v < out.size(); ++v) {
        if (weights[v] == 0) continue;
        const double mean = (sums[v].e + sums[v].g) / 2 / weights[v],
                     half = std::hypot((sums[v].e - sums[v].g) / 2, sums[v].f) / weights[v];
        out[v] = static_cast<float>(mean < 0 ? mean - half : mean + half);
    }
    return out;
}

std::vector<Vec3> bendingAlong(const std::vector<Vec3>& points) {
    const std::size_t n = points.size();
    std::vector<Vec3> out(n);
    if (n < 3) return out;
    const bool closed = length(points.front() - points.back()) < 1e-9;
    const auto at = [&](Vec3 before, Vec3 p, Vec3 after) {
        const Vec3 a = before - p, b = after - p;
        const Vec3 normal = cross(a, b);
        const double size = length(normal), all = length(a) * length(b) * length(a - b);
        if (!(size > 1e-9 * length(a) * length(b)) || !(all > 0)) return Vec3{};
        // The circle's centre lies at (|a|² b - |b|² a) x normal / (2 |normal|²) from p.
        const Vec3 to = cross(b * dot(a, a) - a * dot(b, b), normal) * (1 / (2 * size * size));
        return to * (1 / dot(to, to));
    };
    for (std::size_t i = 1; i + 1 < n; ++i) out[i] = at(points[i - 1], points[i], points[i + 1]);
    out.front() = closed ? at(points[n - 2], points[0], points[1]) : out[1];
    out.back() = closed ? out.front() : out[n - 2];
    return out;
}

} // namespace gc
