#pragma once
/// \file For .cpp files: whether places of a plane lie within a flat face.

#include "core/base/vec.hpp"

#include <TopoDS_Face.hxx>
#include <gp_Pln.hxx>
#include <gp_Pnt.hxx>

#include <vector>

namespace gc {

/// The border of a flat face as chords, each with how far its curve may lie from it. The kernel's own
/// classifier projects every edge into the plane before it can answer, which is dear for a face that is asked
/// once or twice.
class FlatOutline {
  public:
    explicit FlatOutline(const TopoDS_Face& face);

    enum class Where { In, Out, Near };
    /// Near: nearer to a chord than its curve may lie from it, and than the kernel tells points apart.
    Where where(const gp_Pnt& p) const;
    const gp_Pln& plane() const { return m_plane; }

  private:
    struct Chord {
        Vec2 from, to;
        double bulge = 0; ///< mm
    };
    Vec2 foot(const gp_Pnt& p) const; ///< in the plane, turned a little

    gp_Pln m_plane;
    std::vector<Chord> m_chords;
};

} // namespace gc
