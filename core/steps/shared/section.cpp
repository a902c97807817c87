#include "core/steps/shared/section.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pln.hxx>
#include <gp_Quaternion.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

gp_Vec Section::normal() const {
    const BRepAdaptor_Surface surface(face);
    gp_Vec n(surface.Plane().Axis().Direction());
    if (!surface.Plane().Direct()) n.Reverse();
    return face.Orientation() == TopAbs_REVERSED ? -n : n;
}

std::vector<gp_Pnt> Section::border(int each) const {
    std::vector<gp_Pnt> out;
    for (const auto& loop : loops)
        for (const SectionEdge& e : loop)
            for (int k = 0; k < each; ++k) out.push_back(e.curve.at(e.curve.length() * k / each));
    return out;
}

Section sectionOf(const Profile& profile) {
    Section out;
    out.face = profile.face;
    const TopoDS_Face ahead = TopoDS::Face(profile.face.Oriented(TopAbs_FORWARD));
    const TopoDS_Wire outer = BRepTools::OuterWire(ahead);
    const auto add = [&](const TopoDS_Wire& wire) {
        std::vector<SectionEdge> loop;
        for (BRepTools_WireExplorer x(wire, ahead); x.More(); x.Next()) {
            SectionEdge e{LengthCurve::of(x.Current()), {}};
            for (const ProfileEdge& p : profile.edges)
                if (p.edge.IsSame(x.Current())) e.roles = p.roles;
            loop.push_back(std::move(e));
        }
        out.loops.push_back(std::move(loop));
    };
    add(outer);
    for (TopExp_Explorer x(ahead, TopAbs_WIRE); x.More(); x.Next())
        if (!x.Current().IsSame(outer)) add(TopoDS::Wire(x.Current()));
    return out;
}

Section facing(Section section, const gp_Vec& along) {
    if (section.normal().Dot(along) > 0) return section;
    section.face.Reverse();
    for (auto& loop : section.loops) {
        std::reverse(loop.begin(), loop.end());
        for (SectionEdge& e : loop) e.curve = e.curve.reversed();
    }
    return section;
}

gp_Trsf placingOnto(const Path& path, const gp_Vec& normal, const gp_Pnt& point) {
    const gp_Vec along = path.pieces().front().curve.tangent(0);
    const gp_Vec nearer = normal.Dot(along) < 0 ? -normal : normal;
    gp_Trsf turn, shift;
    turn.SetRotation(gp_Quaternion(nearer, along));
    const gp_Pnt turned = point.Transformed(turn);
    shift.SetTranslation(turned, path.start());
    return shift * turn;
}

} // namespace gc
