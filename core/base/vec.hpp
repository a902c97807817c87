#pragma once
/// \file Points and directions in space and in a plane: plain values, millimetres where they are points.

#include <array>
#include <cmath>
#include <numbers>

namespace gc {

struct Vec2 {
    double x = 0, y = 0;
    friend Vec2 operator+(Vec2 a, Vec2 b) { return {a.x + b.x, a.y + b.y}; }
    friend Vec2 operator-(Vec2 a, Vec2 b) { return {a.x - b.x, a.y - b.y}; }
    friend Vec2 operator*(Vec2 a, double k) { return {a.x * k, a.y * k}; }
    friend bool operator==(const Vec2&, const Vec2&) = default;
};
inline double dot(Vec2 a, Vec2 b) {
    return a.x * b.x + a.y * b.y;
}
inline double cross(Vec2 a, Vec2 b) {
    return a.x * b.y - a.y * b.x;
}
inline double length(Vec2 a) {
    return std::hypot(a.x, a.y);
}
/// The unit vector along a, or the fallback where a has no direction.
inline Vec2 unit(Vec2 a, Vec2 fallback = {1, 0}) {
    const double l = length(a);
    return l > 1e-12 ? a * (1 / l) : fallback;
}
/// The vector turned counter-clockwise by a right angle.
inline Vec2 leftOf(Vec2 v) {
    return {-v.y, v.x};
}
/// The vector turned counter-clockwise by an angle, rad.
inline Vec2 turnedBy(Vec2 v, double angle) {
    const double c = std::cos(angle), s = std::sin(angle);
    return {v.x * c - v.y * s, v.x * s + v.y * c};
}
/// The counter-clockwise turn from a to b, in [0, 2 pi).
inline double turnBetween(Vec2 a, Vec2 b) {
    const double t = std::atan2(cross(a, b), dot(a, b));
    return t < 0 ? t + 2 * std::numbers::pi : t;
}

struct Vec3 {
    double x = 0, y = 0, z = 0;
    friend Vec3 operator+(Vec3 a, Vec3 b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
    friend Vec3 operator-(Vec3 a, Vec3 b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
    friend Vec3 operator*(Vec3 a, double k) { return {a.x * k, a.y * k, a.z * k}; }
    friend Vec3 operator/(Vec3 a, double k) { return {a.x / k, a.y / k, a.z / k}; }
    friend Vec3 operator-(Vec3 a) { return {-a.x, -a.y, -a.z}; }
    Vec3& operator+=(Vec3 b) { return *this = *this + b; }
    friend bool operator==(const Vec3&, const Vec3&) = default;
};
inline double dot(Vec3 a, Vec3 b) {
    return a.x * b.x + a.y * b.y + a.z * b.z;
}
inline Vec3 cross(Vec3 a, Vec3 b) {
    return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
inline double length(Vec3 a) {
    return std::sqrt(dot(a, a));
}
/// The unit vector along a, or the fallback where a has no direction.
inline Vec3 unit(Vec3 a, Vec3 fallback = {0, 0, 1}) {
    const double m = length(a);
    return m > 1e-300 ? a / m : fallback;
}

} // namespace gc
