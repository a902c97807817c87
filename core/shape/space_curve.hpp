#pragma once
/// \file A curve in space as a value, the kernel's curves behind it.

#include "core/base/vec.hpp"

#include <cstdint>
#include <memory>
#include <vector>

namespace gc {

struct SpacePieces; // core/shape/space_pieces.hpp, for .cpp files of the layers that may see the kernel

/// One or more pieces that go on from each other.
class SpaceCurve {
  public:
    SpaceCurve() = default;
    explicit SpaceCurve(std::shared_ptr<const SpacePieces> pieces) : m_pieces(std::move(pieces)) {}

    bool empty() const { return !m_pieces; }
    const SpacePieces& pieces() const { return *m_pieces; }
    /// Points along it, ends included, chords within a deviation of it, mm.
    std::vector<Vec3> polyline(double deviation) const;

  private:
    std::shared_ptr<const SpacePieces> m_pieces;
};

} // namespace gc
