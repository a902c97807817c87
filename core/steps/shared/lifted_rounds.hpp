#pragma once
/// \file For .cpp files: rounds of earlier steps taken off a body, to be built anew when something beside
/// them has changed.

#include "core/steps/shared/edge_work.hpp"

#include <algorithm>
#include <optional>

namespace gc {

/// The radius of a face that rolls along an edge, where it is the same all along, mm.
std::optional<double> roundRadius(const TopoDS_Face& face);
/// The same of rounds of any form by their bend across, mm: of a ball that rolls along two walls one bend is
/// the same everywhere. As it was typed, where it is nearly that.
std::optional<double> rolledRadius(const TopoDS_Face& face);

/// Rounds with their radii, mm, in the order of the body's faces: what is built of them must not hang on
/// where names lie in memory.
class Rounds {
  public:
    void add(NamePtr name, double radius) {
        if (!has(name)) m_all.emplace_back(name, radius);
    }
    bool has(NamePtr name) const {
        return std::any_of(m_all.begin(), m_all.end(), [&](const auto& r) { return r.first == name; });
    }
    bool empty() const { return m_all.empty(); }
    auto begin() const { return m_all.begin(); }
    auto end() const { return m_all.end(); }

  private:
    std::vector<std::pair<NamePtr, double>> m_all;
};

/// The round that a face is: made by a fillet between two faces, of one radius. Nothing where it is none.
std::optional<std::pair<NamePtr, double>> roundAt(const NamedShape& shape, const TopoDS_Shape& face);

/// A body without some of its rounds, and the chains that make them again, with their radii and under their
/// names. Nothing where the body does not close without them.
struct Unrounded {
    Body body;
    std::vector<EdgeChain> chains;
};
std::optional<Unrounded> withoutRounds(const Body& body, const Rounds& rounds);

} // namespace gc
