// Where details stand on a wall after they were moved away from it.

#include "core/base/tolerance.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/repeat/fitting.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Quaternion.hxx>

namespace gc {

std::optional<gp_Vec> ownWay(const Detail& detail) {
    for (const TopoDS_Face& f : detail.faces) {
        bool atMouth = false;
        TopTools_IndexedMapOfShape mouth;
        TopExp::MapShapes(detail.mouths.front().loop, TopAbs_EDGE, mouth);
        for (TopExp_Explorer x(f, TopAbs_EDGE); x.More(); x.Next())
            atMouth = atMouth || mouth.Contains(x.Current());
        if (!atMouth) continue;
        const BRepAdaptor_Surface s(f, false);
        if (s.GetType() == GeomAbs_Cylinder) return gp_Vec(s.Cylinder().Axis().Direction());
        if (s.GetType() == GeomAbs_Cone) return gp_Vec(s.Cone().Axis().Direction());
        if (s.GetType() == GeomAbs_SurfaceOfExtrusion) return gp_Vec(s.Direction());
        if (s.GetType() != GeomAbs_Plane) continue;
        for (TopExp_Explorer x(f, TopAbs_EDGE); x.More(); x.Next()) {
            const BRepAdaptor_Curve c(TopoDS::Edge(x.Current()));
            bool ends = false;
            for (TopExp_Explorer v(x.Current(), TopAbs_VERTEX); v.More(); v.Next())
                for (TopExp_Explorer m(detail.mouths.front().loop, TopAbs_VERTEX); m.More(); m.Next())
                    ends = ends || m.Current().IsSame(v.Current());
            if (ends && !mouth.Contains(x.Current()) && c.GetType() == GeomAbs_Line)
                return gp_Vec(c.Line().Direction());
        }
    }
    return std::nullopt;
}

Stand standOf(const Detail& detail) {
    const Mouth& mouth = detail.mouths.front();
    const SurfacePlace place = placeOf(*BRep_Tool::Surface(mouth.host), middleOf(mouth));
    const gp_Vec n = place.normal().value_or(gp_Vec(0, 0, 1));
    return {place.at, gp_Dir(mouth.host.Orientation() == TopAbs_REVERSED ? -n : n)};
}

Seats::Seats(const Detail& detail, Walls& walls, bool square)
    : m_detail(detail), m_walls(walls), m_square(square), m_own(standOf(detail)),
      m_way(ownWay(detail).value_or(gp_Vec(m_own.up))) {}

std::optional<gp_Trsf> Seats::seated(const gp_Trsf& by) {
    const gp_Pnt p = m_own.at.Transformed(by);
    const gp_Vec up = gp_Vec(m_own.up).Transformed(by);
    const TopoDS_Face& first = m_detail.mouths.front().host;
    const auto found = m_square ? m_walls.nearest(p, first) : m_walls.along(p, m_way.Transformed(by), first);
    if (!found) return std::nullopt;
    const SurfacePlace place = placeOf(m_walls.placesOf(found->face).surface(), found->uv);
    const auto n = place.normal();
    if (!n) return std::nullopt;
    m_walls.placesOf(found->face).add(found->uv);
    gp_Trsf back;
    back.SetTranslation(gp_Vec(p, place.at));
    if (m_square) {
        gp_Trsf turn;
        turn.SetRotation(gp_Quaternion(up, found->face.Orientation() == TopAbs_REVERSED ? -*n : *n));
        // About the place itself.
        gp_Trsf there, home;
        there.SetTranslation(gp_Vec(place.at.XYZ()));
        home.SetTranslation(gp_Vec(place.at.XYZ().Reversed()));
        back = there * turn * home * back;
    }
    return back * by;
}

} // namespace gc
