#pragma once
/// \file For .cpp files: which places of a face's surface lie within the face.

#include "core/base/tolerance.hpp"

#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <ShapeAnalysis_Surface.hxx>

#include <memory>

namespace gc {

class PlacesOnFace {
  public:
    explicit PlacesOnFace(const TopoDS_Face& face)
        : m_surface(new ShapeAnalysis_Surface(BRep_Tool::Surface(face))),
          m_inside(std::make_unique<BRepTopAdaptor_FClass2d>(face, kKernelPoint)) {}
    bool holds(const gp_Pnt& p) const {
        return m_inside->Perform(m_surface->ValueOfUV(p, kKernelPoint)) != TopAbs_OUT;
    }

  private:
    Handle(ShapeAnalysis_Surface) m_surface;
    std::unique_ptr<BRepTopAdaptor_FClass2d> m_inside;
};

} // namespace gc
