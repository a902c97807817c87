#pragma once
/// \file For .cpp files: where the borders of a body go when each of its faces is moved along its
/// own normal by a distance of its own.

#include "core/shape/kernel.hpp"

#include <Geom2d_Curve.hxx>
#include <Geom_Curve.hxx>
#include <Geom_Surface.hxx>
#include <gp_Pnt2d.hxx>
#include <gp_Vec.hxx>

#include <array>
#include <optional>
#include <vector>

namespace gc {

/// A face that is moved.
struct MovedFace {
    TopoDS_Face face;
    Handle(Geom_Surface) surface; ///< the face's own, or one that goes on beyond it with the same parameters
    double by = 0;                ///< mm along the outward normal
    bool reversed = false;        ///< its outward normal is against that of the surface
};

/// \param beyond mm by which a spline is continued past its borders: what moves may leave them
MovedFace movedFace(const TopoDS_Face& face, double by, double beyond);

/// A place beside a face.
struct BesideFace {
    gp_Pnt2d uv;       ///< of the nearest place of its surface
    gp_Vec normal;     ///< outward there
    double height = 0; ///< mm along the normal
    double aside = 0;  ///< mm from that way: not nothing where the surface ends there
};

/// Nothing where none is found.
std::optional<BesideFace> besideFace(const MovedFace& face, const gp_Pnt& place, const gp_Pnt2d& near);

/// How far a place still is from where it should be beside some faces.
struct Wanted {
    std::vector<gp_Vec> ways;  ///< the normals of the faces
    std::vector<double> steps; ///< mm along them
    double aside = 0;          ///< mm: the largest of the faces'
    double most() const;       ///< mm: the largest of the steps, whichever way
    /// The least step that takes a place there. Ways that hardly differ are taken for one.
    gp_Vec leastStep() const;
};
/// What else is wanted of a place beside two faces: that it lies in a plane, and, where these run on from
/// each other nearly smoothly, not far aside. Which way that is, is told once: turned with the faces at every
/// step, it would turn more than the place moves where they are bent nearly as much as the place is off.
class KeptAside {
  public:
    explicit KeptAside(const gp_Vec& square) : m_square(square) {}
    /// \param off to the middle of where it may be, in that plane
    void addTo(Wanted& wanted, const gp_Vec& off);

  private:
    gp_Vec m_square;
    std::optional<gp_Vec> m_aside;
};
/// \param uv places of the faces near it, which become the nearest. Nothing where one has none.
std::optional<Wanted> wantedBeside(const std::vector<const MovedFace*>& faces, const gp_Pnt& place,
                                   std::vector<gp_Pnt2d>& uv);

/// mm. How far the way to the nearest place of a surface may be from square to it, at its border.
inline constexpr double kAside = 1e-3;
/// mm. A place that moves by no more than a tenth of this has come to rest.
inline constexpr double kMet = 1e-7;

/// The same place of a surface that closes up there without a period, said from the other side: a whole turn
/// farther or less. \param within how near to where it closes up, as a share of its parameters
std::optional<gp_Pnt2d> beyondSeam(const Geom_Surface& surface, const gp_Pnt2d& uv, double within = 1e-7);

/// A place of a border that was moved.
struct MovedPlace {
    gp_Pnt at;
    std::vector<gp_Pnt2d> uv; ///< on the two faces
};

/// An edge between two faces, or where a face closes up, and where it goes: in the planes square to it, the
/// place that is as far from either face as that is moved. Where the faces run on from each other smoothly
/// that leaves open how far aside it goes: then as little as can be.
class MovedBorder {
  public:
    /// \param second the first again where that closes up
    MovedBorder(const TopoDS_Edge& edge, const MovedFace& first, const MovedFace& second);
    /// Between two faces that did not meet before, straight from one place to another. \param uv of both
    /// places, for either face
    MovedBorder(const MovedFace& first, const MovedFace& second, const std::array<gp_Pnt, 2>& ends,
                const std::array<std::array<gp_Pnt2d, 2>, 2>& uv);

    /// The edge's curve and lines go on beyond its ends, and so does what becomes of it: not straight.
    void goOn() { m_goesOn = true; }
    /// Does it end where it begins, and run on smoothly there? Then it has places beyond its ends, too.
    bool isRing() const { return m_round; }
    double first() const { return m_first; }
    double last() const { return m_last; }
    /// The angle between the two outward normals at one end, rad.
    double kinkAt(bool end) const;
    /// The same at a parameter of the edge.
    double kinkHere(double at) const;

    /// \param at a parameter of the edge, or beyond its ends, where it goes on straight. Nothing where there
    /// is no such place.
    std::optional<MovedPlace> place(double at) const;
    /// The plane square to the edge: a place of it and the way along the edge, not of length 1.
    void along(double at, gp_Pnt& place, gp_Vec& way) const;
    /// The parameter at which a place near it lies in the plane square to the edge.
    std::optional<double> parameterAt(const gp_Pnt& place, double near) const;
    const std::vector<const MovedFace*>& faces() const { return m_faces; }
    /// Along it from one of its ends to where it meets one face more, by the secant method.
    /// \param near a place of that face near it
    std::optional<gp_Pnt> alongTo(const MovedFace& stop, bool fromEnd, const gp_Pnt2d& near) const;
    /// The same, led by where it goes rather than by the edge, between two places of it: on the way
    /// along both moved faces, step by step. Where the edge bends more than the faces are moved, the planes
    /// square to it cross before they reach that place. Nothing where it does not lead from one to the other.
    std::optional<MovedBorder> led(const gp_Pnt& from, const gp_Pnt& to) const;
    /// Parameters between two at which what becomes of it is less smooth: the edge itself is, or its place on
    /// one of the faces comes over where that is. With the two, rising. Empty where it has no place
    /// somewhere, or goes back on its way.
    std::vector<double> breaks(double from, double to) const;

  private:
    bool smooth() const;
    /// In a plane, as little aside as can be.
    std::optional<MovedPlace> placeIn(const gp_Pnt& middle, const gp_Vec& square,
                                      std::vector<gp_Pnt2d> uv) const;
    std::vector<MovedPlace> steps(const gp_Pnt& from, const gp_Pnt& to) const;
    void findKink();
    bool addCrossings(std::size_t face, bool alongU, const std::vector<std::pair<double, MovedPlace>>& seen,
                      std::vector<double>& breaks) const;
    std::optional<MovedPlace> smoothPlace(double at) const;

    double least() const;
    double most() const;

    bool m_goesOn = false;
    bool m_led = false;                         ///< by where it goes: m_curve is no edge
    bool m_round = false;                       ///< it ends where it begins, and runs on smoothly there
    double m_first = 0, m_last = 1, m_kink = 0; // before the curve, which sets them
    Handle(Geom_Curve) m_curve;
    std::array<Handle(Geom2d_Curve), 2> m_lines; ///< on the surfaces
    std::vector<const MovedFace*> m_faces;       ///< two
};

} // namespace gc
