#pragma once
/// \file A triangle mesh as patches, face by face, of which only what the window lacks is sent.

#include "forge/jobs/workshop.hpp"

namespace gc::forge {

/// Cuts a mesh up by the faces of its vertices. The values of each vertex belong to its patch: where one
/// changes, the patch is another.
/// \param faceOf number of the face of each vertex
/// \param values rows of one number for each vertex; those of the patches that are sent come back in the
/// order
///        of the patches' vertices
say::Patches patchesOf(const TriangleMesh& mesh, const std::vector<std::uint32_t>& faceOf,
                       std::vector<std::vector<float>*> values, ThingId body, Level level,
                       SurfaceMemory& sent);

} // namespace gc::forge
