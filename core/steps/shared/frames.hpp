#pragma once
/// \file For .cpp files: how a section stands along a path.

#include "core/steps/shared/path.hpp"

#include <functional>
#include <optional>

namespace gc {

/// A place of the path with the directions that the section keeps there.
struct PathFrame {
    gp_Pnt at;
    gp_Vec along;      ///< the path's tangent
    gp_Vec across, up; ///< square to each other; as long as the section is large there
    gp_Pnt place(const gp_Vec& local) const {
        return at.Translated(across * local.X() + up * local.Y() + along * local.Z());
    }
    /// What place() puts there; of a frame of size 1.
    gp_Vec local(const gp_Pnt& p) const {
        const gp_Vec d(at, p);
        return {d.Dot(across), d.Dot(up), d.Dot(along)};
    }
};

/// A direction across a path carried from one place of it to the next with least turning: reflected in the
/// plane between the places, then in the one between the tangents (Wang, Jüttler, Zheng, Liu 2008).
gp_Vec carried(const gp_Pnt& from, const gp_Vec& along, const gp_Vec& across, const gp_Pnt& to,
               const gp_Vec& next);

/// What happens to a section on its way.
struct SweepLaw {
    bool parallel = false;   ///< it keeps the directions that it has at the start
    double from = 0, to = 1; ///< the shares of the whole way at which this part of it begins and ends
    double turn = 0;         ///< about the path over its whole length, rad
    double size = 1;         ///< at the end, of what it is at the start
    /// Or at a share of the length; 1 at the start.
    std::function<double(double share)> sizes{};
    /// Where its own x axis looks at a share of the length, from the path; it is made square to the path.
    std::function<gp_Vec(double share, const gp_Pnt& at)> leads;
};

/// Rotation-minimising frames by double reflection (Wang, Jüttler, Zheng, Liu 2008) along a path without
/// corners; over a closed one what they turn by in all is spread evenly.
class Frames {
  public:
    /// \param across at the start; its part square to the path is taken
    Frames(const std::vector<PathPiece>& pieces, bool closed, const gp_Vec& across, SweepLaw law);

    /// \param s from the start of the piece, mm
    PathFrame at(std::size_t piece, double s) const;
    PathFrame start() const { return at(0, 0); }
    PathFrame end() const { return at(m_pieces.size() - 1, m_pieces.back().curve.length()); }
    /// Of a place of the path, as the start has it: the local coordinates of a point, of a section of size 1.
    gp_Vec local(const gp_Pnt& p) const;

  private:
    struct Node {
        double s = 0;
        gp_Pnt at;
        gp_Vec along, across;
    };
    void walk(const gp_Vec& across);

    std::vector<PathPiece> m_pieces;
    SweepLaw m_law;
    std::vector<double> m_before; ///< length before each piece
    std::vector<std::vector<Node>> m_nodes;
    double m_length = 0;
    double m_twist = 0; ///< of a closed path: what is to be turned back over all of it, rad
    gp_Vec m_across, m_up;
};

} // namespace gc
