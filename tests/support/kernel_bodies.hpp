#pragma once
/// \file For .cpp files of tests: bodies straight from the kernel.

#include "core/shape/kernel.hpp"

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <catch2/catch.hpp>

#include <string>

namespace gc {

/// A body around a kernel shape, its faces named "face 1", "face 2", ... of step 1.
inline Body bodyOf(const TopoDS_Shape& shape) {
    static std::uint64_t count = 0;
    NameBuilder names(onlySolid(shape));
    for (int i = 1; i <= names.faces().Extent(); ++i)
        names.add(names.faces()(i), internName(1, "face " + std::to_string(i)));
    auto body = names.finish();
    REQUIRE(body.ok());
    return body->withContent(++count);
}

/// mm^2, by the kernel.
inline double areaOf(const TopoDS_Shape& shape) {
    GProp_GProps props;
    BRepGProp::SurfaceProperties(shape, props, 1e-6);
    return props.Mass();
}

} // namespace gc
