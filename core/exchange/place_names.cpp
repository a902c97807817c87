#include "core/exchange/place_names.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <TopoDS.hxx>

#include <cmath>
#include <map>

namespace gc {

namespace {

const char* sortOf(const TopoDS_Face& face) {
    switch (BRepAdaptor_Surface(face, false).GetType()) {
    case GeomAbs_Plane:
        return "flat face";
    case GeomAbs_Cylinder:
        return "round face";
    case GeomAbs_Cone:
        return "conical face";
    case GeomAbs_Sphere:
        return "ball face";
    case GeomAbs_Torus:
        return "ring face";
    default:
        return "free face";
    }
}

} // namespace

void nameByPlace(NameBuilder& names, int stepId) {
    std::map<std::string, int> taken;
    for (int i = 1; i <= names.faces().Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(names.faces()(i));
        GProp_GProps props;
        BRepGProp::SurfaceProperties(face, props);
        const double size = std::sqrt(std::fabs(props.Mass()));
        const std::string role = roleAtPlace(sortOf(face), size, toVec(props.CentreOfMass()));
        const int times = ++taken[role];
        names.add(face, internName(stepId, times == 1 ? role : role + " again " + std::to_string(times)));
    }
}

} // namespace gc
