#include "core/steps/curve/helix.hpp"

#include "core/shape/fit_grid.hpp"

#include <TColgp_Array1OfPnt.hxx>

#include <cmath>
#include <numbers>

namespace gc {

gp_Pnt Helix::at(double share) const {
    const Vec3 up = unit(axis.direction);
    // Where the space's x axis looks from the axis; of an axis along it, its y axis.
    const Vec3 wanted = std::fabs(up.x) > 0.9 ? Vec3{0, 1, 0} : Vec3{1, 0, 0};
    const Vec3 across = unit(wanted - up * dot(wanted, up)), back = cross(up, across);
    const double angle = start + 2 * std::numbers::pi * turns * share * (left ? -1 : 1);
    const double r = radius + (farRadius - radius) * share;
    const Vec3 p = axis.origin + up * (level + height * share) + across * (r * std::cos(angle)) +
                   back * (r * std::sin(angle));
    return {p.x, p.y, p.z};
}

Handle(Geom_BSplineCurve) curveThrough(const std::function<gp_Pnt(double)>& equation, double tolerance) {
    const auto direction = directionFor(
        {0, 1}, [&](double t) { return std::vector{equation(t)}; }, tolerance, 4000);
    if (!direction) return nullptr;
    std::vector<gp_Pnt> places;
    for (const double t : direction->points()) places.push_back(equation(t));
    return curveThroughPlaces(*direction, places);
}

Handle(Geom_BSplineCurve) bridge(const gp_Pnt& a, const gp_Vec& ta, const gp_Vec& ka, const gp_Pnt& b,
                                 const gp_Vec& tb, const gp_Vec& kb) {
    // As fast at its ends as the way is long; then the second derivative is the curvature by the speed
    // squared.
    const double speed = a.Distance(b);
    const gp_Vec va = ta * speed, vb = tb * speed, aa = ka * (speed * speed), ab = kb * (speed * speed);
    TColgp_Array1OfPnt poles(1, 6);
    poles(1) = a;
    poles(2) = a.Translated(va / 5);
    poles(3) = a.Translated(va * (2. / 5) + aa / 20);
    poles(6) = b;
    poles(5) = b.Translated(vb / -5);
    poles(4) = b.Translated(vb * (-2. / 5) + ab / 20);
    TColStd_Array1OfReal knots(1, 2);
    knots(1) = 0, knots(2) = 1;
    TColStd_Array1OfInteger multiplicities(1, 2);
    multiplicities.Init(6);
    return new Geom_BSplineCurve(poles, knots, multiplicities, 5);
}

} // namespace gc
