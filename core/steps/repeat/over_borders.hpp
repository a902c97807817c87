#pragma once
/// \file For .cpp files of this folder: copies that lie over borders of walls, by booleans.

#include "core/shape/body.hpp"
#include "core/steps/repeat/fitting.hpp"

#include <TopoDS_Solid.hxx>

namespace gc {

/// A copy with its walls drawn on to where they are clear of what it stands in or on.
struct CopyTool {
    std::vector<TopoDS_Shape> faces; ///< in the order of the detail's
    TopoDS_Solid solid;
    bool overhangs = false; ///< a part of it stands beside the body
};

/// Makes them, one after the other.
class CopyTools {
  public:
    /// \param way of the detail's walls \param takes it is a hollow
    CopyTools(const NamedShape& shape, const Detail& whole, const Detail& bare, const gp_Vec& way,
              bool takes);
    ~CopyTools();
    /// Nothing where no part of it meets the body, or its walls cannot be drawn on.
    std::optional<CopyTool> at(const gp_Trsf& by) const;

  private:
    struct Rest;
    const Detail &m_whole, &m_bare;
    gp_Vec m_way;
    bool m_takes;
    std::unique_ptr<Rest> m_rest;
};

/// All of them by one boolean. Errors: the kernel's.
Result<Body> workedIn(const Body& body, const std::vector<std::pair<Placement, CopyTool>>& tools,
                      const NamedShape& before, const Detail& bare, bool takes, int step);

} // namespace gc
