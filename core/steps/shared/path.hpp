#pragma once
/// \file For .cpp files: the path of a sweep: pieces of curves in space that go on from each other.

#include "core/model/arguments.hpp"
#include "core/shape/length_curve.hpp"

namespace gc {

struct PathPiece {
    LengthCurve curve;
    int item = 0; ///< what the faces along it are called by: a stroke's id, else its place in the path
};

class Path {
  public:
    Path(std::vector<PathPiece> pieces, bool closed);

    const std::vector<PathPiece>& pieces() const { return m_pieces; }
    bool closed() const { return m_closed; }
    double length() const { return m_length; }
    /// By the length from its beginning, mm; beyond its ends as at these.
    gp_Pnt at(double s) const;
    gp_Vec tangent(double s) const; ///< of length 1
    /// The piece there, and how far from where that begins.
    std::pair<std::size_t, double> pieceAt(double s) const;
    /// Where pieces join and splines are less smooth, ends included; mm from its beginning.
    std::vector<double> breaks() const;
    gp_Pnt start() const { return m_pieces.front().curve.start(); }
    /// The angle by which it turns where a piece ends, rad; of the last piece of a closed path, where it
    /// begins again.
    double turnAfter(std::size_t piece) const;
    Path reversed() const;

  private:
    std::vector<PathPiece> m_pieces;
    bool m_closed;
    std::vector<double> m_before; ///< length before each piece
    double m_length = 0;
};

/// A turn larger than that is a corner, rad.
inline constexpr double kCorner = 2e-3;

/// Edges, strokes and chains of strokes as one path that begins with the first of them. Errors: "path.none"
/// for an empty list, "path.gap" where they do not hang together, "path.branch" where more than two meet, and
/// those of findCurve and findEdges.
Result<Path> findPath(const References& references, ModelReader& model);

} // namespace gc
