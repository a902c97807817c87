#pragma once
/// \file For .cpp files: other surfaces and curves under a body, on the same parameters.

#include "core/shape/kernel.hpp"

#include <BRepTools_Modification.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>

#include <algorithm>

namespace gc {

/// What hangs together stays so: curves in (u, v) and places on edges are as they were.
class KeptParameters : public BRepTools_Modification {
  public:
    Standard_Boolean NewCurve2d(const TopoDS_Edge& edge, const TopoDS_Face& face, const TopoDS_Edge&,
                                const TopoDS_Face&, Handle(Geom2d_Curve) & curve,
                                Standard_Real& tolerance) override {
        if (!changes(face)) return false;
        double a = 0, b = 0;
        const Handle(Geom2d_Curve) old = BRep_Tool::CurveOnSurface(edge, face, a, b);
        if (old.IsNull()) return false;
        curve = Handle(Geom2d_Curve)::DownCast(old->Copy());
        tolerance = std::max(BRep_Tool::Tolerance(edge), leastTolerance());
        return true;
    }
    Standard_Boolean NewParameter(const TopoDS_Vertex&, const TopoDS_Edge&, Standard_Real&,
                                  Standard_Real&) override {
        return false;
    }
    DEFINE_STANDARD_RTTI_INLINE(KeptParameters, BRepTools_Modification)

  protected:
    /// Does a face get another surface?
    virtual bool changes(const TopoDS_Face& face) const = 0;
    /// Of edges, mm.
    virtual double leastTolerance() const { return 0; }
};

/// Only surfaces are swapped, each for one with the same places at the same parameters.
class SwappedSurfaces : public KeptParameters {
  public:
    Standard_Boolean NewSurface(const TopoDS_Face& face, Handle(Geom_Surface) & surface,
                                TopLoc_Location& place, Standard_Real& tolerance,
                                Standard_Boolean& reverseWires, Standard_Boolean& reverseFace) override {
        reverseWires = reverseFace = false;
        tolerance = BRep_Tool::Tolerance(face);
        surface = insteadOf(face, place);
        if (surface.IsNull()) return false;
        m_swapped.Add(face);
        return true;
    }
    Standard_Boolean NewCurve(const TopoDS_Edge&, Handle(Geom_Curve) &, TopLoc_Location&,
                              Standard_Real&) override {
        return false;
    }
    Standard_Boolean NewPoint(const TopoDS_Vertex&, gp_Pnt&, Standard_Real&) override { return false; }
    GeomAbs_Shape Continuity(const TopoDS_Edge& edge, const TopoDS_Face& a, const TopoDS_Face& b,
                             const TopoDS_Edge&, const TopoDS_Face&, const TopoDS_Face&) override {
        return BRep_Tool::Continuity(edge, a, b);
    }
    DEFINE_STANDARD_RTTI_INLINE(SwappedSurfaces, KeptParameters)

  protected:
    /// Null: the face keeps its own. \param place of the surface; it may be set
    virtual Handle(Geom_Surface) insteadOf(const TopoDS_Face& face, TopLoc_Location& place) const = 0;

  private:
    bool changes(const TopoDS_Face& face) const override { return m_swapped.Contains(face); }

    TopTools_IndexedMapOfShape m_swapped;
};

} // namespace gc
