#include "core/steps/repeat/over_borders.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/repeat/surgery.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/worked_names.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepLib.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom_Plane.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
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
    const BRep_Builder builder;
    TopoDS_Compound rest;
    builder.MakeCompound(rest);
    for (int i = 1; i <= shape.faces.Extent(); ++i)
        if (!own.Contains(shape.faces(i))) builder.Add(rest, shape.faces(i));
    for (const Mouth& m : whole.mouths) { // what the detail's own mouths leave open
        TopoDS_Face lid = TopoDS::Face(m.host.EmptyCopied().Oriented(TopAbs_FORWARD));
        builder.Add(lid, m.loop.Reversed());
        builder.Add(rest, lid);
    }
    m_rest->lines.Load(rest, kKernelPoint);
}

CopyTools::~CopyTools() = default;

std::optional<CopyTool> CopyTools::at(const gp_Trsf& by) const {
    constexpr int kEach = 8;       // places of each edge of a mouth
    constexpr double kClear = 0.1; // mm, and as much of its size
    const gp_Vec way = m_way.Transformed(by).Normalized();
    CopyTool out;
    std::vector<TopoDS_Face> hosts;
    std::vector<KnownPlaces> places;
    std::size_t met = 0;
    for (std::size_t m = 0; m < m_bare.mouths.size(); ++m) {
        const Stand own = standOf({m_whole.faces, {m_whole.mouths[m]}});
        const bool outward = gp_Vec(own.up).Transformed(by).Dot(way) > 0;
        const gp_Pnt middle = own.at.Transformed(by);
        // A hollow goes on out of the body, what is added into it.
        const double sense = outward == m_takes ? 1 : -1;
        double reach = -1e300, size = 0;
        for (TopoDS_Iterator e(m_bare.mouths[m].loop); e.More(); e.Next()) {
            const BRepAdaptor_Curve c(TopoDS::Edge(e.Value()));
            for (int i = 0; i < kEach; ++i) {
                const gp_Pnt p =
                    c.Value(c.FirstParameter() + (c.LastParameter() - c.FirstParameter()) * (i + 0.5) / kEach)
                        .Transformed(by);
                size = std::max(size, p.Distance(middle));
                m_rest->lines.Perform(gp_Lin(p, gp_Dir(way)), -1e4, 1e4);
                double nearest = 1e300;
                for (int k = 1; k <= m_rest->lines.NbPnt(); ++k)
                    if (std::fabs(m_rest->lines.WParameter(k)) < std::fabs(nearest))
                        nearest = m_rest->lines.WParameter(k);
                // What lies far from where it was is another wall.
                if (std::fabs(nearest) > 2 * size + 1) {
                    out.overhangs = true;
                    reach = std::max(reach, sense * gp_Vec(middle, p).Dot(way));
                    continue;
                }
                ++met;
                reach = std::max(reach, sense * (gp_Vec(middle, p).Dot(way) + nearest));
            }
        }
        reach += kClear + kClear * size;
        const Handle(Geom_Plane) plane =
            new Geom_Plane(middle.Translated(way * (sense * reach)), gp_Dir(outward ? way : -way));
        TopoDS_Face face;
        BRep_Builder().MakeFace(face, plane, kKernelPoint);
        // Taken forward it looks as the wall does.
        hosts.push_back(m_bare.mouths[m].host.Orientation() == TopAbs_REVERSED ? TopoDS::Face(face.Reversed())
                                                                               : face);
        places.emplace_back(Handle(Geom_Surface)(plane));
        places.back().add({0, 0});
    }
    if (met == 0) return std::nullopt;
    std::vector<const KnownPlaces*> known;
    for (const KnownPlaces& p : places) known.push_back(&p);
    auto copy = fitted(m_bare, by, hosts, known);
    if (!copy) return std::nullopt;
    const BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    for (const TopoDS_Shape& f : copy->faces) builder.Add(shell, f);
    for (std::size_t m = 0; m < hosts.size(); ++m) {
        const BRepBuilderAPI_MakeFace made(Handle(Geom_Plane)::DownCast(BRep_Tool::Surface(hosts[m])),
                                           copy->loops[m]);
        if (!made.IsDone()) return std::nullopt;
        TopoDS_Face lid = made.Face();
        turnAgainst(lid, copy->faces);
        builder.Add(shell, lid);
    }
    shell.Closed(true);
    builder.MakeSolid(out.solid);
    builder.Add(out.solid, shell);
    BRepLib::OrientClosedSolid(out.solid);
    out.faces = std::move(copy->faces);
    return out;
}

Result<Body> workedIn(const Body& body, const std::vector<std::pair<Placement, CopyTool>>& tools,
                      const NamedShape& before, const Detail& bare, bool takes, int step) {
    std::vector<TopoDS_Shape> solids;
    for (const auto& [placement, tool] : tools) solids.push_back(tool.solid);
    BRepAlgoAPI_Cut cut;
    BRepAlgoAPI_Fuse fuse;
    BRepAlgoAPI_BooleanOperation& operation = takes ? static_cast<BRepAlgoAPI_BooleanOperation&>(cut) : fuse;
    setUp(operation, body.shape().shape, solids);
    operation.Build();
    if (operation.HasErrors())
        return errorOf("repeat.failed",
                       "The copies over the borders of walls cannot be worked into the body. Move them a "
                       "little, or take fewer.");
    NameBuilder names(onlySolid(operation.Shape()));
    names.carry(body.shape(), operation);
    for (const auto& [placement, tool] : tools)
        for (std::size_t f = 0; f < tool.faces.size(); ++f)
            for (const TopoDS_Shape& now : whatBecameOf(tool.faces[f], operation))
                if (names.has(now)) nameCopy(names, before, bare.faces[f], now, placement.place, step);
    return names.finish();
}

} // namespace gc
