#include "core/steps/emboss/across.hpp"

#include "core/steps/emboss/closed.hpp"
#include "core/steps/shared/over_walls.hpp"
#include "core/steps/shared/profile.hpp"
#include "core/steps/shared/relief.hpp"

#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepOffsetAPI_MakeThickSolid.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr const char* kRim = "rim of the layer"; // must not be left: the area ends before it

/// Walls side by side give a solid each, with the faces between them in common: these go.
TopoDS_Shape inOne(const TopoDS_Shape& solids) {
    TopTools_IndexedMapOfShape once, twice;
    std::vector<TopoDS_Shape> faces;
    for (TopExp_Explorer f(solids, TopAbs_FACE); f.More(); f.Next()) {
        (once.Contains(f.Current()) ? twice : once).Add(f.Current());
        faces.push_back(f.Current());
    }
    BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    for (const TopoDS_Shape& f : faces)
        if (!twice.Contains(f)) builder.Add(shell, f);
    shell.Closed(true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    BRepClass3d_SolidClassifier inside(solid);
    inside.PerformInfinitePoint(1e-7);
    return inside.State() == TopAbs_IN ? solid.Reversed() : TopoDS_Shape(solid);
}

/// What lies over the walls, as high as the relief.
std::optional<NamedTool> layerOver(const std::vector<TopoDS_Face>& walls, const ReliefShape& shape,
                                   const std::string& farCalled, int step) {
    BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    for (const TopoDS_Face& w : walls) builder.Add(shell, w);
    NamedTool out;
    out.step = step;
    TopTools_IndexedMapOfShape known;
    const auto call = [&](const TopoDS_Shape& face, const std::string& role) {
        out.names.emplace_back(face, internName(step, role));
        known.Add(face);
    };
    if (shape.along) {
        BRepPrimAPI_MakePrism prism(shell, gp_Vec(*shape.along) * shape.height);
        out.shape = prism.Shape();
        for (TopExp_Explorer f(prism.LastShape(), TopAbs_FACE); f.More(); f.Next())
            call(f.Current(), farCalled);
        for (TopExp_Explorer f(prism.FirstShape(), TopAbs_FACE); f.More(); f.Next())
            call(f.Current(), "wall");
    } else {
        BRepOffsetAPI_MakeThickSolid thick;
        thick.MakeThickSolidBySimple(shell, shape.height);
        if (!thick.IsDone()) return std::nullopt;
        out.shape = thick.Shape();
        for (const TopoDS_Face& w : walls) {
            call(w, "wall");
            for (const TopoDS_Shape& f : toVector(thick.Modified(w))) call(f, farCalled);
            for (const TopoDS_Shape& f : toVector(thick.Generated(w))) call(f, farCalled);
        }
    }
    out.shape = inOne(out.shape);
    for (TopExp_Explorer f(out.shape, TopAbs_FACE); f.More(); f.Next())
        if (!known.Contains(f.Current())) call(f.Current(), kRim);
    return out;
}

/// The walls that an area comes onto, and between which distances from the drawing.
struct Under {
    std::vector<TopoDS_Face> walls;
    std::vector<std::pair<Vec2, Hit>>
        met;                           ///< a place on each of them, and on either side of where one closes up
    double low = 1e300, high = -1e300; ///< mm
};
/// On one wall, and on the same side of the line at which it closes up?
bool isBeside(const Hit& a, const Hit& b) {
    if (!a.face.IsSame(b.face)) return false;
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(a.face, u0, u1, v0, v1);
    return std::fabs(a.there.X() - b.there.X()) < 0.5 * (u1 - u0) || !BRep_Tool::Surface(a.face)->IsUClosed();
}
std::optional<Under> wallsUnder(const std::vector<TopoDS_Face>& walls, const Region& area,
                                const LayingBy& by) {
    Under out;
    WallsAhead ahead(walls, by);
    for (const Vec2 p : placesOf(area)) {
        const auto hit = ahead.under(p);
        if (!hit) return std::nullopt;
        out.low = std::min(out.low, hit->far), out.high = std::max(out.high, hit->far);
        if (std::none_of(out.walls.begin(), out.walls.end(),
                         [&](const TopoDS_Face& w) { return w.IsSame(hit->face); }))
            out.walls.push_back(hit->face);
        if (std::none_of(out.met.begin(), out.met.end(),
                         [&](const auto& m) { return isBeside(m.second, *hit); }))
            out.met.emplace_back(p, *hit);
    }
    return out;
}

/// The area moved through the layer, on that side of the part that it is laid onto.
NamedTool prismThrough(const Under& under, const Outline& outline, const Region& area, const LayingBy& by,
                       const ReliefShape& shape, int step) {
    double low = under.low, high = under.high;
    const double beyond = std::fabs(shape.height) + 0.25 * (high - low) + 0.5;
    low -= beyond, high += beyond;
    const gp_Vec way = directionIn(by.drawing.normal()) * (by.ahead ? 1.0 : -1.0);
    Profile profile = profileOf(outline, area);
    gp_Trsf lift;
    lift.SetTranslation(way * low);
    profile = moved(std::move(profile), lift);
    BRepPrimAPI_MakePrism prism(profile.face, way * (high - low));
    NamedTool out;
    out.step = step;
    out.frame = outline.plane;
    out.shape = prism.Shape();
    for (const TopoDS_Shape& f : {prism.FirstShape(), prism.LastShape()})
        out.names.emplace_back(f, internName(step, kRim));
    for (const ProfileEdge& e : profile.edges)
        for (const TopoDS_Shape& f : toVector(prism.Generated(e.edge)))
            for (const std::string& role : e.roles) out.names.emplace_back(f, internName(step, role));
    return out;
}

bool hasRim(const Body& body) {
    const NamedShape& s = body.shape();
    for (int i = 1; i <= s.faces.Extent(); ++i)
        for (const NamePtr n : s.namesOf(s.faces(i)))
            if (n->role == kRim) return true;
    return false;
}

Error notOver() {
    return errorOf("emboss.failed", "The drawing cannot be embossed over this border. Move it away from it, "
                                    "or let it rise along the drawing.");
}

bool isOn(const OverWalls& walls, const Region& area) {
    for (const Vec2 p : placesOf(area)) {
        const auto there = walls.column(p.x, {p.y});
        if (there.empty() || there.front().beyond) return false;
    }
    return true;
}

/// The faces of a body that lie on the same surfaces as some.
std::vector<TopoDS_Shape> facesOn(const NamedShape& body, const std::vector<TopoDS_Face>& of) {
    std::vector<TopoDS_Shape> out;
    for (int i = 1; i <= body.faces.Extent(); ++i)
        if (std::any_of(of.begin(), of.end(), [&](const TopoDS_Face& f) {
                return BRep_Tool::Surface(f) == BRep_Tool::Surface(TopoDS::Face(body.faces(i)));
            }))
            out.push_back(body.faces(i));
    return out;
}

Result<Body> over(const Body& body, const std::vector<TopoDS_Face>& picked, const OverWalls& walls,
                  const Outline& outline, const Region& area, const ReliefShape& shape, int step) {
    constexpr double kMost = 0.05; // mm: the less, the straighter from the wall on
    if (!isOn(walls, area)) return beyondWalls();
    auto tool =
        reliefOver(walls, outline, area, shape, std::min(kMost, 0.1 * std::fabs(shape.height)), kRim, step);
    if (!tool) return tool.error();
    const std::string far = farRole(area, shape);
    for (const auto& [face, name] : tool->names)
        if (name->role == kRim || name->role == far) tool->apart.push_back(face);
    // Its ends lie along the walls and meet none of them; to find that out the kernel would take long.
    tool->apartFrom = facesOn(body.shape(), picked);
    auto out = combine(body, *tool, shape.height > 0 ? Combine::Add : Combine::Take);
    if (!out) return notOver();
    if (hasRim(*out)) return beyondWalls();
    return out;
}

} // namespace

Result<Body> embossedAcross(const Body& body, const std::vector<TopoDS_Face>& walls, const Outline& outline,
                            const LaidArea& laid, const LayingBy& by, const ReliefShape& shape, int step) {
    const Region& area = *laid.area;
    if (by.wrapped)
        return laid.over ? over(body, walls, *laid.over, outline, area, shape, step) : beyondWalls();
    const auto under = wallsUnder(walls, area, by);
    if (!under) return beyondWalls();
    if (shape.lean != 0)
        return over(body, walls, *straightOver(under->met, by.drawing), outline, area, shape, step);
    const auto layer = layerOver(under->walls, shape, farRole(area, shape), step);
    if (!layer) return notOver();
    const auto whole = bodyOf(prismThrough(*under, outline, area, by, shape, step));
    if (!whole) return notOver();
    const auto piece = combine(*whole, *layer, Combine::Common);
    if (!piece) return notOver();
    if (hasRim(*piece)) return beyondWalls();
    return combine(body, toolOf(*piece, step), shape.height > 0 ? Combine::Add : Combine::Take);
}

Result<NamedTool> standingAcross(const std::vector<TopoDS_Face>& walls, const Outline& outline,
                                 const LaidArea& laid, const LayingBy& by, const ReliefShape& shape,
                                 int step) {
    std::shared_ptr<const OverWalls> all = laid.over;
    if (!by.wrapped) {
        const auto under = wallsUnder(walls, *laid.area, by);
        if (!under) return beyondWalls();
        all = straightOver(under->met, by.drawing);
    }
    if (!all || !isOn(*all, *laid.area)) return beyondWalls();
    return reliefOver(*all, outline, *laid.area, shape, 0, kFootRole, step);
}

} // namespace gc
