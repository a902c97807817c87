#include "core/steps/shared/facing.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/shared/over_face.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepTools.hxx>
#include <Bnd_Box.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Lin.hxx>
#include <gp_Pln.hxx>

#include <algorithm>

namespace gc {

Ahead::Ahead(const TopoDS_Shape& body) : m_inside(body) {
    m_crossing.Load(body, kKernelPoint);
}

std::optional<double> Ahead::distance(const gp_Pnt& from, const gp_Dir& way, double far) {
    return holds(from, true) ? 0 : crossing(from, way, far);
}

std::optional<double> Ahead::crossing(const gp_Pnt& from, const gp_Dir& way, double far) {
    m_crossing.PerformNearest(gp_Lin(from, way), 0, far);
    if (!m_crossing.IsDone() || m_crossing.NbPnt() == 0) return std::nullopt;
    return m_crossing.WParameter(1);
}

bool Ahead::holds(const gp_Pnt& p, bool onIt) {
    m_inside.Perform(p, kKernelPoint);
    return m_inside.State() == TopAbs_IN || (onIt && m_inside.State() != TopAbs_OUT);
}

gp_Dir outOf(const TopoDS_Face& face) {
    const BRepAdaptor_Surface surface(face);
    gp_Dir way = surface.Plane().Axis().Direction();
    if (!surface.Plane().Direct()) way.Reverse();
    if (face.Orientation() == TopAbs_REVERSED) way.Reverse();
    return way;
}

double widthOf(const TopoDS_Face& face) {
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    return std::min(u1 - u0, v1 - v0);
}

std::vector<TopoDS_Face> flatFacesOf(const NamedTool& tool) {
    std::vector<TopoDS_Face> out;
    for (TopExp_Explorer x(tool.shape, TopAbs_FACE); x.More(); x.Next())
        if (const TopoDS_Face face = TopoDS::Face(x.Current());
            BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane)
            out.push_back(face);
    return out;
}

namespace {

constexpr double kNear = 0.5; // of a face's width: a wall further away is another matter

/// Looks from a few places first, which settles most faces: the body is far from one of them, or the face
/// lies within it. Odd, so that the middle is among them: where something is symmetric to a silhouette it is
/// met there.
Gap gapOf(const TopoDS_Face& face, Ahead& body) {
    constexpr double kBorder = 1e-4; // of the width: as near to its border as that
    constexpr double kWithin = 0.05; // of the width, within what is not a rectangle
    Gap g;
    g.face = face;
    g.way = outOf(face);
    const double far = kNear * widthOf(face);
    for (const int looks : {3, 15}) {
        auto places = placesOver(face, looks, kBorder);
        if (places.size() < static_cast<std::size_t>(looks * looks)) // no rectangle: its border is elsewhere
            for (const gp_Pnt& p : placesOver(face, looks + 2, kWithin)) places.push_back(p);
        for (const gp_Pnt& p : places) {
            const auto away = body.distance(p, g.way, far);
            g.least = std::min(g.least, away.value_or(g.least));
            g.most = std::max(g.most, away.value_or(g.most));
            (away ? g.within : g.without) |= !away || *away == 0;
            if (g.without && g.within) break; // a corner of it came out: that is told apart later
        }
        g.everywhere = !places.empty() && !g.without;
        if (!g.everywhere || g.most == 0) break;
        const gp_Pnt m = places[places.size() / 2];
        g.middle = {m.X(), m.Y(), m.Z()};
    }
    return g;
}

} // namespace

std::vector<Gap> gapsOf(const Body& body, const NamedTool& tool) {
    Ahead ahead(body.shape().shape);
    Bnd_Box whole;
    BRepBndLib::Add(body.shape().shape, whole, false);
    std::vector<Gap> out;
    for (const TopoDS_Face& face : flatFacesOf(tool)) {
        Bnd_Box about;
        BRepBndLib::Add(face, about, false);
        about.Enlarge(kNear * widthOf(face));
        if (about.IsOut(whole)) continue;
        if (Gap g = gapOf(face, ahead); g.everywhere || g.within) out.push_back(std::move(g));
    }
    return out;
}

std::vector<NamePtr> namesIn(const NamedTool& tool, const TopoDS_Shape& face) {
    std::vector<NamePtr> out;
    for (const auto& [f, name] : tool.names)
        if (f.IsSame(face)) out.push_back(name);
    return out;
}

std::string wordsFor(const NamedTool& tool, const TopoDS_Shape& face) {
    const auto names = namesIn(tool, face);
    const auto ref = names.empty() ? nullptr : referenceTo(*names.front());
    return ref ? toText(*ref) : std::string();
}

} // namespace gc
