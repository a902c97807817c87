#pragma once
/// \file For .cpp files: rings beside the borders of a flat face: what lips and flanges are raised from.

#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/ring_solid.hpp"

namespace gc {

/// The flat rim of a body, seen from outside.
struct Rim {
    TopoDS_Face face;
    Plane plane; ///< its normal looks out of the material
    TopoDS_Wire outer;
    std::vector<TopoDS_Wire> inner; ///< around the openings in it
};
/// The same items on a copy of the body whose edges are its own, where some border of them is a free curve:
/// what is set onto it there writes to them.
Result<FoundItems> onOwnEdges(const FoundItems& picked);
/// Of the one face that was picked. Errors: "rim.one" for several, "rim.flat" where it is not flat.
Result<Rim> rimOf(const FoundItems& picked);

/// The rim's face with other lines in the places of some of its borders.
TopoDS_Face restOf(const Rim& rim, const std::vector<std::pair<TopoDS_Wire, TopoDS_Wire>>& lines);

/// What a face of a ring beside a rim is called, after the wall beside it or the rim. \param kind what its
/// role begins with
NamePtr ringName(const FoundItems& picked, const Rim& rim, int step, const std::string& kind,
                 const RingSolid::Face& face);

/// Rings beside the borders of a rim that are added to its body or taken from it.
class RingTool {
  public:
    /// \param kind what its faces' roles begin with: "lip side" by the wall beside each edge, "lip top" by
    /// the rim
    RingTool(const FoundItems& picked, const Rim& rim, int step, std::string kind);
    /// Errors: "ring.fold" where a line runs into itself.
    Result<Done> add(const TopoDS_Wire& border, const RingWish& wish);
    /// Did every side lean that should? What the kernel cannot lean stays square.
    bool leans() const { return m_leans; }
    NamedTool whole() const { return m_made.whole(); }
    /// The body with what was added so far: set onto the rim where every ring stands on it, face by face;
    /// else by a boolean. Errors of combine(). The body must have edges of its own (see onOwnEdges()).
    Result<Body> combined(Combine how) const;

  private:
    NamePtr nameOf(const RingSolid::Face& face) const {
        return ringName(m_picked, m_rim, m_made.tool.step, m_kind, face);
    }
    std::optional<Body> setOntoRim() const;

    const FoundItems& m_picked;
    const Rim& m_rim;
    std::string m_kind;
    ToolOfSolids m_made;
    struct Set {
        TopoDS_Wire border;
        RingSolid ring;
    };
    std::vector<Set> m_set;
    bool m_leans = true;
};

} // namespace gc
