#pragma once
/// \file For .cpp files only: single faces of a body by the kernel's mesher, where our own meets its limits.

#include "core/shape/mesher/body_mesher.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <gp_Pnt2d.hxx>

#include <map>
#include <optional>

namespace gc {

struct KernelFaces {
    struct OnEdge {
        std::size_t vertex = 0, edge = 0, place = 0; ///< of the patch; the edge's number; of its points
    };
    struct Face {
        Patch patch; ///< turned as the face is; without triangles where the kernel could not do it either
        std::vector<OnEdge> border;
    };
    std::map<std::size_t, Face> faces;       ///< by their numbers
    std::map<std::size_t, EdgePoints> edges; ///< of these faces, without ids
    bool rough = false;                      ///< they keep to their edges only
};

/// Together, so that faces that touch share the points of the edge between them. The shape itself stays as it
/// is. Nothing when it was stopped. \param which their numbers
std::optional<KernelFaces> meshByKernel(const NamedShape& shape, const std::vector<std::size_t>& which,
                                        const MeshBounds& bounds, std::chrono::milliseconds patience,
                                        const Stop& stop);

/// Some faces make the kernel split triangles without end: after a while it is asked for a first cut, which
/// keeps to the edges only.
enum class Triangulated { Whole, Roughly, Stopped };
Triangulated triangulate(const TopoDS_Shape& shape, double deviation, double angle,
                         std::chrono::milliseconds patience, const Stop& stop);

/// The normal of a surface as it is; of length 0 at a pole.
Vec3 kernelNormal(const BRepAdaptor_Surface& surface, const gp_Pnt2d& uv);

} // namespace gc
