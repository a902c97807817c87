#pragma once
/// \file Surfaces put together from the patches that the forge sends: those that did not change are kept
/// here.

#include "app/link/scene.hpp"
#include "forge/protocol/messages.hpp"

#include <unordered_map>

namespace gc::app {

/// The patches of one surface, as the forge's last message about it left them.
class PatchStore {
  public:
    /// The whole surface. A patch that is neither in the message nor held: nothing, for the two sides no
    /// longer agree. \param values rows of numbers for the vertices in the message; they come back for all
    /// vertices
    std::optional<Surface> take(const say::Patches& patches, std::vector<std::vector<float>*> values = {});
    void clear() { m_held.clear(); }

  private:
    struct Patch {
        std::vector<QVector3D> points, normals;
        std::vector<std::uint32_t> triangles;
        std::vector<std::vector<float>> values;
    };
    std::unordered_map<std::uint64_t, Patch> m_held;
};

} // namespace gc::app
