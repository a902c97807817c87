#pragma once
/// \file For .cpp files only: triangles of a whole body, edge by edge and face by face.

#include "core/base/progress.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/mesher/patch.hpp"

#include <chrono>
#include <optional>

namespace gc {

/// An edge as all its faces see it.
struct EdgePoints {
    std::vector<double> t; ///< parameters along the edge taken forward; empty for degenerate edges
    std::vector<Vec3> points;
    std::vector<int> ids; ///< the ends' are those of their vertices
};

struct MeshedBody {
    std::vector<EdgePoints> edges; ///< in the order of the kernel's map
    std::vector<Patch> faces;      ///< in the order of the kernel's map, turned outward
    int idCount = 0;               ///< ids below this many are used; vertices have the first ones
    std::vector<int> missing{};    ///< faces that nobody could mesh, without triangles
    int byKernel = 0;              ///< how many faces the kernel's mesher did
    bool rough = false;            ///< of these some keep to their edges only
};

/// Points every edge once, then meshes the faces between them. Faces that fail or fold are tried again with
/// finer edges, together with their neighbours, up to three times.
/// \param patience with the kernel's mesher, which gets the faces that fail still; nothing: it is not asked
/// \return false when a face still fails: `fault` says which (from 0) and why; -1: it was stopped.
bool meshBody(const NamedShape& shape, const MeshBounds& bounds, MeshedBody& out,
              std::pair<int, std::string>& fault, const Stop& stop = {},
              const std::optional<std::chrono::milliseconds>& patience = {});

/// All faces by the kernel's mesher. \return false when it was stopped
bool meshBodyByKernel(const NamedShape& shape, const MeshBounds& bounds, MeshedBody& out,
                      std::chrono::milliseconds patience, const Stop& stop = {});

} // namespace gc
