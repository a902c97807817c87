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
    /// A lid for one mouth, and what was met on the way to it.
    struct Lid {
        TopoDS_Face face; ///< flat, without a border; taken forward it looks as the wall does
        bool met = false, missed = false;
    };
    Lid lidFor(std::size_t mouth, const gp_Trsf& by) const;
    /// How far along a line from a place the body is, either way, mm.
    std::optional<double> bodyAlong(const gp_Pnt& from, const gp_Vec& way, double within) const;

    struct Rest;
    const Detail &m_whole, &m_bare;
    gp_Vec m_way;
    bool m_takes;
    std::unique_ptr<Rest> m_rest;
};

} // namespace gc
