#pragma once
/// \file What lies within a closed walk, asked again and again.

#include "core/sketch/region.hpp"

namespace gc {

/// A loop's outline as a polyline within 0.01 mm, and the boxes of its sides. The loop must outlive it.
class Inside {
  public:
    explicit Inside(const Loop& loop);

    /// Inside it, and further than 1e-6 mm from its outline.
    bool holds(Vec2 p) const;
    /// Does a level line from the place to the right cross the outline an odd number of times?
    bool around(Vec2 p) const;

  private:
    struct Box {
        Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
        bool has(Vec2 p) const;
    };
    const Loop* m_loop;
    std::vector<Vec2> m_line;
    std::vector<Box> m_boxes;
    Box m_whole;
};

} // namespace gc
