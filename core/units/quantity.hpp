#pragma once
/// \file Physical sizes as types. Inside the program a length is in millimetres, an angle in radians and a
/// mass in grams; volumes are cubic millimetres. Mixing dimensions does not compile.

#include <numbers>

namespace gc {

/// A size of dimension length^L, angle^A, mass^M, stored in mm, rad and g.
template <int L, int A, int M>
class Quantity {
  public:
    constexpr Quantity() = default;
    constexpr explicit Quantity(double internal) : m_value(internal) {}
    /// The bare number in mm, rad and g.
    constexpr double internal() const { return m_value; }

    friend constexpr Quantity operator+(Quantity a, Quantity b) { return Quantity(a.m_value + b.m_value); }
    friend constexpr Quantity operator-(Quantity a, Quantity b) { return Quantity(a.m_value - b.m_value); }
    friend constexpr Quantity operator-(Quantity a) { return Quantity(-a.m_value); }
    friend constexpr Quantity operator*(Quantity a, double k) { return Quantity(a.m_value * k); }
    friend constexpr Quantity operator*(double k, Quantity a) { return Quantity(a.m_value * k); }
    friend constexpr Quantity operator/(Quantity a, double k) { return Quantity(a.m_value / k); }
    friend constexpr auto operator<=>(Quantity a, Quantity b) = default;

    // Named factories and readers; which of them exist depends on the dimension.
    static constexpr Quantity mm(double v) requires(L == 1 && A == 0 && M == 0) { return Quantity(v); }
    static constexpr Quantity in(double v) requires(L == 1 && A == 0 && M == 0) { return Quantity(v * 25.4); }
    constexpr double mm() const requires(L == 1 && A == 0 && M == 0) { return m_value; }
    constexpr double in() const requires(L == 1 && A == 0 && M == 0) { return m_value / 25.4; }
    static constexpr Quantity rad(double v) requires(L == 0 && A == 1 && M == 0) { return Quantity(v); }
    static constexpr Quantity deg(double v) requires(L == 0 && A == 1 && M == 0) {
        return Quantity(v * std::numbers::pi / 180);
    }
    constexpr double rad() const requires(L == 0 && A == 1 && M == 0) { return m_value; }
    constexpr double deg() const requires(L == 0 && A == 1 && M == 0) {
        return m_value * 180 / std::numbers::pi;
    }
    static constexpr Quantity g(double v) requires(L == 0 && A == 0 && M == 1) { return Quantity(v); }
    constexpr double g() const requires(L == 0 && A == 0 && M == 1) { return m_value; }
    static constexpr Quantity mm3(double v) requires(L == 3 && A == 0 && M == 0) { return Quantity(v); }
    static constexpr Quantity ml(double v) requires(L == 3 && A == 0 && M == 0) { return Quantity(v * 1000); }
    constexpr double mm3() const requires(L == 3 && A == 0 && M == 0) { return m_value; }
    constexpr double ml() const requires(L == 3 && A == 0 && M == 0) { return m_value / 1000; }

  private:
    double m_value = 0;
};

template <int L1, int A1, int M1, int L2, int A2, int M2>
constexpr auto operator*(Quantity<L1, A1, M1> a, Quantity<L2, A2, M2> b) {
    return Quantity<L1 + L2, A1 + A2, M1 + M2>(a.internal() * b.internal());
}
template <int L1, int A1, int M1, int L2, int A2, int M2>
constexpr auto operator/(Quantity<L1, A1, M1> a, Quantity<L2, A2, M2> b) {
    return Quantity<L1 - L2, A1 - A2, M1 - M2>(a.internal() / b.internal());
}

using Length = Quantity<1, 0, 0>;
using Area = Quantity<2, 0, 0>;
using Volume = Quantity<3, 0, 0>;
using Angle = Quantity<0, 1, 0>;
using Mass = Quantity<0, 0, 1>;
using Density = Quantity<-3, 0, 1>; ///< g/mm^3

} // namespace gc
