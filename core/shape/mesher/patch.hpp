#pragma once
/// \file For .cpp files only: the triangles of one face while they are made.

#include "core/shape/surface_eval.hpp"

#include <array>
#include <string>
#include <vector>

namespace gc {

/// What the triangles must keep to.
struct MeshBounds {
    double deviation = 0.05;  ///< mm between triangle and surface
    double edgeAngle = 0.2;   ///< rad that an edge may turn from point to point
    double insideAngle = 0.4; ///< rad between normals that are neighbours inside a face
    int edgeParts = 1;        ///< of each step along an edge that these ask for
    bool operator==(const MeshBounds&) const = default;
};

/// A point of the face's boundary. Its id and its place are shared by all faces that meet there.
struct BoundaryPoint {
    double u = 0, v = 0;
    int id = -1;
    Vec3 p;
};

/// A wire of the face, in the order that keeps the face on its left in (u, v). A segment is an edge.
struct BoundaryLoop {
    struct Segment {
        std::size_t from = 0, to = 0; ///< points [from, to); the next segment begins at `to`
        bool degenerate = false;      ///< all its points are one point in space
    };
    std::vector<BoundaryPoint> points;
    std::vector<Segment> segments;
};

struct Patch {
    std::vector<Vec3> points, normals; ///< a normal of length 0 is not worked out yet
    std::vector<Vec2> uv;
    std::vector<int> ids; ///< -1 inside the face
    std::vector<std::array<int, 3>> triangles;
    bool done = false;
    double folded = 0; ///< share of the area that looks the wrong way
    const char* fault = "";

    int add(const BoundaryPoint& point);
    int add(Vec3 point, Vec3 normal, Vec2 at);
    /// A fault that ends the work on the patch.
    bool fail(const char* why) {
        fault = why;
        return false;
    }
};

/// Distance of a chord from the surface, from its ends' normals: |dP . dN| / 8, the sagitta of the arc that
/// has those normals.
double chordSag(const Patch& patch, int a, int b);
/// The same for a triangle: the worst of its sides and of its middle.
double triangleSag(const Patch& patch, const std::array<int, 3>& triangle);

/// Works out the normals that are missing.
void completeNormals(const SurfaceEval& surface, Patch& patch);
/// Turns pairs of triangles over where one lies the wrong way round in (u, v) and less of them does then.
void unfold(Patch& patch);
/// The share of its area that looks the wrong way, by the normals of its corners.
double foldedShare(const Patch& patch);
/// Triangulates a nearly flat patch anew as it lies in space, its points as they are; it may be finer than it
/// need be then. False, and nothing is done, where it is not flat, or its borders cross themselves so.
/// \param borders its points along them, in order
bool layFlat(Patch& patch, const std::vector<std::vector<int>>& borders);
/// Splits inner edges whose sag is over the bound, conformingly; boundary edges are never split.
void refine(const SurfaceEval& surface, Patch& patch, double deviation);

/// What sags by more than this share of the deviation is split: the sag is an estimate, by normals.
inline constexpr double kSagTaken = 1.02;

/// How fine a face must be along u and along v, from samples of points and normals.
struct MeshDensity {
    struct Axis {
        std::vector<double> at;    ///< parameters, rising
        std::vector<double> steps; ///< steps needed from the first parameter to each
        int count() const;
        /// Steps needed up to t.
        double stepsTo(double t) const;
        /// The parameter after so many steps.
        double after(double steps) const;
        /// n + 1 parameters at equal shares of the steps.
        std::vector<double> quantiles(int n) const;
    };
    Axis u, v;
    std::vector<double> rowSteps; ///< steps along u needed at each of v.at
    /// Would the face need more points than are sensible? It cannot be meshed to these bounds then.
    bool tooFine() const;
};
struct UvBox {
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
};
MeshDensity measureDensity(const SurfaceEval& surface, const UvBox& box, const MeshBounds& bounds);

/// Piecewise linear through (x, y), x rising.
double interpolate(const std::vector<double>& x, const std::vector<double>& y, double at);

/// A side of a four-sided face, along rising u or v.
struct PatchSide {
    std::vector<BoundaryPoint> points;
    bool degenerate = false;
};
/// Sides in order: low v, high u, high v, low u.
using PatchSides = std::array<PatchSide, 4>;
/// Finds the four sides of a loop that follows isolines; false when it does not.
bool findSides(const BoundaryLoop& loop, PatchSides& sides);

/// Rows and columns inside, strips zipped to the boundary's own points.
bool meshGrid(const SurfaceEval& surface, const PatchSides& sides, const MeshBounds& bounds, Patch& patch);
/// Constrained Delaunay triangulation in (u, v) stretched by density.
bool meshFreely(const SurfaceEval& surface, const std::vector<BoundaryLoop>& loops, const MeshBounds& bounds,
                Patch& patch);

} // namespace gc
