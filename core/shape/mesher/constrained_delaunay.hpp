#pragma once
/// \file Constrained Delaunay triangulation of points on an integer grid, with exact predicates.

#include <array>
#include <cstdint>
#include <utility>
#include <vector>

namespace gc {

/// Points are inserted one by one (Lawson's walk and flips), then edges are forced in by flipping what
/// crosses them (Sloan, A fast algorithm for generating constrained Delaunay triangulations, Computers &
/// Structures 47, 1993). Coordinates must lie within +/- kLimit: orientation is then exact in 64 bits and the
/// circle test in 128.
class ConstrainedDelaunay {
  public:
    using Int = std::int64_t;
    static constexpr Int kLimit = Int(1) << 24;
    /// The first three points are the far corners of the triangle that everything lies in.
    static constexpr int kFarPoints = 3;

    struct Triangle {
        std::array<int, 3> corner;       ///< counter-clockwise
        std::array<int, 3> beyond;       ///< the triangle across the edge opposite each corner, or -1
        std::array<bool, 3> constrained; ///< that edge may not be flipped
    };

    explicit ConstrainedDelaunay(std::size_t expectedPoints);

    /// Number of the point: a new one, or the one that is there already. -1 when the walk does not end (a
    /// fault).
    int insert(Int x, Int y);
    /// Forces the edge in; points that lie on it split it. False when it crosses another constrained edge.
    bool constrain(int a, int b);
    /// True for each triangle with an odd number of constrained edges between it and the outside.
    std::vector<bool> inside() const;

    const std::vector<Triangle>& triangles() const { return m_triangles; }
    std::size_t pointCount() const { return m_x.size(); }
    /// Twice the signed area of the triangle, exact.
    Int orientation(int a, int b, int c) const;
    Int x(int point) const { return m_x[static_cast<std::size_t>(point)]; }
    Int y(int point) const { return m_y[static_cast<std::size_t>(point)]; }

  private:
    struct Place { // an edge: the one opposite corner `side` of `triangle`
        int triangle = -1, side = 0;
    };

    Triangle& at(int t) { return m_triangles[static_cast<std::size_t>(t)]; }
    const Triangle& at(int t) const { return m_triangles[static_cast<std::size_t>(t)]; }
    bool inCircle(int a, int b, int c, int d) const;
    int locate(int p) const;
    void splitTriangle(int t, int p);
    void splitEdge(int t, int side, int p);
    void legalise(int p);
    void flip(Place edge);
    void setBeyond(int t, int was, int is);
    bool find(int a, int b, Place& place) const;
    bool mark(int a, int b);
    bool constrain(int a, int b, int depth);
    bool collectCrossed(int a, int b, std::vector<std::pair<int, int>>& crossed, int& through) const;
    std::pair<int, int> opposite(Place edge) const;
    void restoreDelaunay(std::vector<std::pair<int, int>>& edges);
    bool crossing(int a, int b, int& triangle, int& through) const;
    template <class Visit>
    bool around(int point, Visit&& visit) const;

    std::vector<Int> m_x, m_y;
    std::vector<Triangle> m_triangles;
    std::vector<int> m_triangleOf; // one triangle at each point
    std::vector<int> m_suspects;
    int m_last = 0;
};

} // namespace gc
