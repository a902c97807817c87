#pragma once
/// \file Triangles for pictures and measures, watertight over the faces of a body.

#include "core/base/progress.hpp"
#include "core/shape/body.hpp"

#include <array>
#include <chrono>
#include <cstdint>
#include <limits>

namespace gc {

/// The triangles of one face and its name.
struct MeshFace {
    std::string name; ///< the best reference to the face
    std::uint32_t firstVertex = 0, vertexCount = 0;
    std::uint32_t firstTriangle = 0, triangleCount = 0;
};

/// An edge of the body as a polyline.
struct MeshEdge {
    std::vector<Vec3> points;
    bool smooth = false; ///< the faces beside it are tangent
};

struct TriangleMesh {
    std::vector<Vec3> points;                            ///< per face: faces do not share vertices
    std::vector<Vec3> normals;                           ///< exact, outward, from the surface
    std::vector<std::uint32_t> shared;                   ///< equal numbers are the same point in space
    std::vector<std::array<std::uint32_t, 3>> triangles; ///< counter-clockwise from outside
    std::vector<MeshFace> faces;                         ///< in the order of the kernel's map
    std::vector<MeshEdge> edges; ///< in the order of the kernel's map; empty polylines for seams
    double deviation = 0;        ///< asked bound on the distance to the surface, mm
    int byKernel = 0;            ///< how many faces our own mesher could not do
    /// Faces that no mesher could do, from 0: they have no triangles, and the mesh is open there.
    std::vector<int> missing{};
};

struct MeshOptions {
    double deviation = 0.05; ///< mm
    double angle = 0.35;     ///< rad between neighbouring normals
    Stop stop{};             ///< asked face by face
    /// How long the kernel may refine a face that our own mesher cannot do, before its first cut is taken.
    std::chrono::milliseconds patience{20000};
};

/// The deviation of triangles that keep to the edges of the faces only: to be looked at, not measured on.
inline constexpr double kDeviationUnknown = std::numeric_limits<double>::infinity();

/// The deviation for a body of that diagonal, mm: as asked up to `kLargeBody`, and beyond it the same share
/// of the whole, so that a vessel of five metres has no more triangles than one of two.
double deviationFor(double asked, double diagonal);

/// Meshes every face with our own mesher (docs/kernel.md), or, where that meets its limits, with the
/// kernel's. Its deviation is the one asked, or `kDeviationUnknown`. A face that neither could mesh is left
/// out and named. Errors: "mesh.face" where that is all of them; "mesh.stopped".
Result<TriangleMesh> makeMesh(const Body& body, const MeshOptions& options = {});
/// The kernel's mesher alone: the fallback, and the reference to measure against.
Result<TriangleMesh> makeKernelMesh(const Body& body, const MeshOptions& options = {});

/// Which faces are missing in it, as it is said of a body.
Message missingIn(const TriangleMesh& mesh, const std::string& body);

/// The enclosed volume by the divergence theorem, mm^3.
double meshVolume(const TriangleMesh& mesh);
/// The area of all triangles, or of those of a face, mm^2.
double meshArea(const TriangleMesh& mesh);
double meshArea(const TriangleMesh& mesh, const MeshFace& face);

/// How many triangle edges do not have exactly one partner: 0 in a watertight mesh.
int openMeshEdges(const TriangleMesh& mesh);

} // namespace gc
