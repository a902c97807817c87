#pragma once
/// \file For .cpp files: what a ball sweeps that rolls along an edge and touches both faces beside it, and
/// where two such sweeps meet.

#include "core/steps/shared/moved_borders.hpp"

#include <array>
#include <map>
#include <optional>

namespace gc {

/// By the parameter of the edge, also beyond its ends: the ball lies in the plane square to the edge.
class Canal {
  public:
    /// \param border its faces moved by the radius, towards the ball. Nothing where no ball rolls all the
    /// way, or where it turns back on its way.
    static std::optional<Canal> along(const MovedBorder& border, double from, double to, double radius);

    double radius() const { return m_radius; }
    /// \param across along the arc from the touch on the first face, 0, to that on the second, 1
    gp_Pnt at(double along, double across) const;
    gp_Pnt centre(double along) const { return m_centre->Value(along); }
    gp_Pnt touch(double along, bool second) const { return (second ? m_second : m_first)->Value(along); }
    /// Where the plane square to its middle line through a place meets that line, from a parameter near it.
    std::optional<double> nearest(const gp_Pnt& place, double near) const;
    /// How far round the arc a place lies, as a share of it.
    double acrossAt(double along, const gp_Pnt& place) const;
    const std::vector<double>& breaks() const { return m_breaks; }

  private:
    Handle(Geom_Curve) m_centre, m_first, m_second;
    std::vector<double> m_breaks; ///< where it is less smooth, ends included
    double m_radius = 0;
};

/// Where two canals beside the same first face, whose second faces meet in a crease, meet each other: from
/// that face up to the crease. It is the edge between the two rounds there. Where one reaches higher up the
/// crease than the other, it goes on along the second face of the other.
class Mitre {
  public:
    /// A canal with where the mitre begins and ends along it.
    struct Side {
        const Canal* canal = nullptr;
        double first = 0, last = 0;
        const MovedFace* wall = nullptr; ///< its second face, if it is the lower one
        gp_Pnt2d near{};                 ///< a place of that near the crease
    };
    Mitre(const Side& one, const Side& other) : m_sides{one, other} {}

    /// Finds how far the lower one goes. False where that is not told.
    bool findEnd();
    /// The share of the way up to which both take part; 1 where they end together.
    double shared() const { return m_shared; }
    bool isLower(std::size_t side) const { return m_sides[side].wall != nullptr; }

    /// The place on one of the canals, along it and across it, at a share of its own way. At the ends exactly
    /// on the first face and on the crease. Nothing where the two do not meet.
    std::optional<gp_Pnt2d> on(std::size_t side, double share) const;
    gp_Pnt bottom() const { return guide(0); }
    /// Where the lower one ends.
    std::optional<gp_Pnt> corner() const;

  private:
    using Two = std::array<gp_Pnt2d, 2>;
    struct Met {
        gp_Pnt at;
        Two on;
    };
    std::optional<Met> met(double share) const;
    std::optional<Met> meet(double share) const;
    gp_Pnt guide(double share) const;

    std::array<Side, 2> m_sides;
    double m_shared = 1;
    mutable std::map<double, std::optional<Met>> m_known;
};

} // namespace gc
