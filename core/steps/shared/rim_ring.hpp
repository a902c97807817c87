#pragma once
/// \file For .cpp files: rings beside the borders of a flat face: what lips and flanges are raised from.

#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/find_items.hpp"

#include <TopoDS_Face.hxx>
#include <TopoDS_Wire.hxx>

namespace gc {

/// The flat rim of a body, seen from outside.
struct Rim {
    TopoDS_Face face;
    Plane plane; ///< its normal looks out of the material
    TopoDS_Wire outer;
    std::vector<TopoDS_Wire> inner; ///< around the openings in it
};
/// Of the one face that was picked. Errors: "rim.one" for several, "rim.flat" where it is not flat.
Result<Rim> rimOf(const FoundItems& picked);

/// A ring between two lines beside a border of a rim, to be added to a body or taken from it.
struct RingWish {
    double from = 0, to = 1; ///< how far the lines are beside the border, mm
    bool outward = false;    ///< away from what the border encloses
    Vec3 way;                ///< along which it is moved
    double height = 1;       ///< by so much, mm
    double lean = 0;         ///< of its side over the far line, inward along the way, rad
};
class RingTool {
  public:
    /// \param kind what its faces' roles begin with: "lip side" by the wall beside each edge, "lip top" by
    /// the rim
    RingTool(const FoundItems& picked, const Rim& rim, int step, std::string kind);
    /// Errors: "ring.fold" where a line runs into itself or into the other border.
    Result<Done> add(const TopoDS_Wire& border, const RingWish& wish);
    /// Did every side lean that should? What runs along a free curve stays square.
    bool leans() const { return m_leans; }
    NamedTool whole() const { return m_made.whole(); }

  private:
    const FoundItems& m_picked;
    const Rim& m_rim;
    std::string m_kind;
    ToolOfSolids m_made;
    bool m_leans = true;
};

} // namespace gc
