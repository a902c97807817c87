#pragma once
/// \file For .cpp files: how large faces are.

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>

namespace gc {

/// Of a face, or of all of a body, mm²; as exact as the kernel's own quadrature, which is to compare by.
inline double areaOf(const TopoDS_Shape& shape) {
    GProp_GProps props;
    BRepGProp::SurfaceProperties(shape, props);
    return props.Mass();
}

} // namespace gc
