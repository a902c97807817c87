#pragma once
/// \file For .cpp files of this folder: the walls that copies of a detail may come to stand on.

#include "core/shape/kernel.hpp"
#include "core/steps/shared/detail.hpp"

#include <BRepTopAdaptor_FClass2d.hxx>
#include <Geom_Surface.hxx>

#include <memory>
#include <optional>

namespace gc {

/// Places of a surface from places near it: found from the nearest one that is known already.
class KnownPlaces {
  public:
    explicit KnownPlaces(Handle(Geom_Surface) surface) : m_surface(std::move(surface)) {}
    const Geom_Surface& surface() const { return *m_surface; }
    /// Nothing where none is known.
    std::optional<gp_Pnt2d> nearTo(const gp_Pnt& p) const;
    /// The nearest place; nothing where there is none.
    std::optional<gp_Pnt2d> footOf(const gp_Pnt& p) const;
    void add(const gp_Pnt2d& uv) { m_known.emplace_back(m_surface->Value(uv.X(), uv.Y()), uv); }

  private:
    Handle(Geom_Surface) m_surface;
    std::vector<std::pair<gp_Pnt, gp_Pnt2d>> m_known;
};

/// The walls that a detail's mouths are in, and all that run on smoothly from these.
class Walls {
  public:
    Walls(const NamedShape& shape, const Detail& detail);

    struct Place {
        TopoDS_Face face;
        gp_Pnt2d uv;
    };
    /// The nearest place. Where all of them lie outside of their faces, that of the first one.
    /// \param first the wall that is asked first
    std::optional<Place> nearest(const gp_Pnt& p, const TopoDS_Face& first);
    /// The nearest along a line both ways; nothing where it meets none.
    std::optional<Place> along(const gp_Pnt& p, const gp_Vec& way, const TopoDS_Face& first);
    KnownPlaces& placesOf(const TopoDS_Face& face);
    /// Does the place lie within the face, as it is without the detail?
    bool holds(const TopoDS_Face& face, const gp_Pnt2d& uv) const;
    const TopTools_IndexedMapOfShape& faces() const { return m_faces; }

  private:
    struct One {
        KnownPlaces places;
        TopoDS_Face filled;
        std::unique_ptr<BRepTopAdaptor_FClass2d> inside;
        double low = 0, high = 0; ///< of the seam, where it closes up; else the same
    };
    std::optional<gp_Pnt2d> hit(const One& on, const gp_Pnt& p, const gp_Vec& way) const;

    TopTools_IndexedMapOfShape m_faces;
    std::vector<One> m_all; ///< in the order of the faces
};

/// The middle of a loop in the parameters of a face taken forward.
gp_Pnt2d middleOf(const Mouth& mouth);

} // namespace gc
