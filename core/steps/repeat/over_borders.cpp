#include "core/steps/repeat/over_borders.hpp"

#include "core/base/tolerance.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepLib.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom_Plane.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Shell.hxx>
#include <gp_Lin.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// A flat face turns so that it runs along a shared edge against its neighbour.
void turnAgainst(TopoDS_Face& lid, const std::vector<TopoDS_Shape>& faces) {
    const auto senseIn = [](const TopoDS_Shape& face,
                            const TopoDS_Shape& edge) -> std::optional<TopAbs_Orientation> {
        for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next())
            if (x.Current().IsSame(edge)) return x.Current().Orientation();
        return std::nullopt;
    };
    const TopoDS_Shape edge = TopExp_Explorer(lid, TopAbs_EDGE).Current();
    for (const TopoDS_Shape& f : faces)
        if (const auto sense = senseIn(f, edge)) {
            if (*sense == *senseIn(lid, edge)) lid.Reverse();
            return;
        }
}

} // namespace

/// The body without the detail, for lines.
struct CopyTools::Rest {
    IntCurvesFace_ShapeIntersector lines;
};

CopyTools::CopyTools(const NamedShape& shape, const Detail& whole, const Detail& bare, const gp_Vec& way,
                     bool takes)
    : m_whole(whole), m_bare(bare), m_way(way.Normalized()), m_takes(takes),
      m_rest(std::make_unique<Rest>()) {
    TopTools_IndexedMapOfShape own;
    for (const TopoDS_Face& f : whole.faces) own.Add(f);
    std::vector<TopoDS_Shape> rest;
    for (int i = 1; i <= shape.faces.Extent(); ++i)
        if (!own.Contains(shape.faces(i))) rest.push_back(shape.faces(i));
    for (const Mouth& m : whole.mouths) { // what the detail's own mouths leave open
        TopoDS_Shape lid = m.host.EmptyCopied().Oriented(TopAbs_FORWARD);
        BRep_Builder().Add(lid, m.loop.Reversed());
        rest.push_back(lid);
    }
    m_rest->lines.Load(together(rest), kKernelPoint);
}

CopyTools::~CopyTools() = default;

std::optional<double> CopyTools::bodyAlong(const gp_Pnt& from, const gp_Vec& way, double within) const {
    constexpr double kFar = 1e4; // mm
    m_rest->lines.Perform(gp_Lin(from, gp_Dir(way)), -kFar, kFar);
    double nearest = 1e300;
    for (int k = 1; k <= m_rest->lines.NbPnt(); ++k)
        if (std::fabs(m_rest->lines.WParameter(k)) < std::fabs(nearest))
            nearest = m_rest->lines.WParameter(k);
    return std::fabs(nearest) <= within ? std::optional(nearest) : std::nullopt;
}

CopyTools::Lid CopyTools::lidFor(std::size_t mouth, const gp_Trsf& by) const {
    constexpr int kEach = 8;       // places of each edge of a mouth
    constexpr double kClear = 0.1; // mm, and as much of its size
    const gp_Vec way = m_way.Transformed(by).Normalized();
    const Stand own = standOf({m_whole.faces, {m_whole.mouths[mouth]}});
    const bool outward = gp_Vec(own.up).Transformed(by).Dot(way) > 0;
    const gp_Pnt middle = own.at.Transformed(by);
    // A hollow goes on out of the body, what is added into it.
    const double sense = outward == m_takes ? 1 : -1;
    double reach = -1e300, size = 0;
    Lid out;
    for (TopoDS_Iterator e(m_bare.mouths[mouth].loop); e.More(); e.Next()) {
        const BRepAdaptor_Curve c(TopoDS::Edge(e.Value()));
        const double from = c.FirstParameter(), step = (c.LastParameter() - from) / kEach;
        for (int i = 0; i < kEach; ++i) {
            const gp_Pnt p = c.Value(from + step * (i + 0.5)).Transformed(by);
            size = std::max(size, p.Distance(middle));
            const auto away = bodyAlong(p, way, 2 * size + 1); // what lies farther is another wall
            (away ? out.met : out.missed) = true;
            reach = std::max(reach, sense * (gp_Vec(middle, p).Dot(way) + away.value_or(0)));
        }
    }
    reach += kClear + kClear * size;
    BRep_Builder().MakeFace(
        out.face, new Geom_Plane(middle.Translated(way * (sense * reach)), gp_Dir(outward ? way : -way)),
        kKernelPoint);
    if (m_bare.mouths[mouth].host.Orientation() == TopAbs_REVERSED) out.face.Reverse();
    return out;
}

namespace {

/// The faces of a copy, closed by lids. Nothing where its loops are no borders of these.
std::optional<TopoDS_Solid> closedBy(const FittedCopy& copy) {
    const BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    for (const TopoDS_Shape& f : copy.faces) builder.Add(shell, f);
    for (std::size_t m = 0; m < copy.hosts.size(); ++m) {
        const BRepBuilderAPI_MakeFace made(Handle(Geom_Plane)::DownCast(BRep_Tool::Surface(copy.hosts[m])),
                                           copy.loops[m]);
        if (!made.IsDone()) return std::nullopt;
        TopoDS_Face lid = made.Face();
        turnAgainst(lid, copy.faces);
        builder.Add(shell, lid);
    }
    shell.Closed(true);
    TopoDS_Solid out;
    builder.MakeSolid(out);
    builder.Add(out, shell);
    BRepLib::OrientClosedSolid(out);
    return out;
}

} // namespace

std::optional<CopyTool> CopyTools::at(const gp_Trsf& by) const {
    CopyTool out;
    std::vector<TopoDS_Face> hosts;
    std::vector<KnownPlaces> places;
    bool met = false;
    for (std::size_t m = 0; m < m_bare.mouths.size(); ++m) {
        const Lid lid = lidFor(m, by);
        met = met || lid.met;
        out.overhangs = out.overhangs || lid.missed;
        hosts.push_back(lid.face);
        places.emplace_back(BRep_Tool::Surface(lid.face));
        places.back().add({0, 0});
    }
    if (!met) return std::nullopt;
    std::vector<const KnownPlaces*> known;
    for (const KnownPlaces& p : places) known.push_back(&p);
    auto copy = fitted(m_bare, by, hosts, known);
    auto solid = copy ? closedBy(*copy) : std::nullopt;
    if (!solid) return std::nullopt;
    out.solid = *solid;
    out.faces = std::move(copy->faces);
    return out;
}

} // namespace gc
