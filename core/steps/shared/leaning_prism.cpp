#include "core/steps/shared/leaning_prism.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"
#include "core/sketch/loop_runs.hpp"
#include "core/steps/shared/lean_half.hpp"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepLib.hxx>
#include <BRep_Builder.hxx>
#include <TopLoc_Location.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <gp_Trsf.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

using Loops = SideLoops;

/// A stroke's run is several sides where it has corners: each moves by itself.
void addSides(std::vector<InsetSide>& sides, const LoopRun& run) {
    constexpr double kCorner = 1e-5; // the sine of the angle that is one
    std::vector<Curve2> curves;
    for (const Curve2& c : run.curves) {
        if (!curves.empty()) {
            const Vec2 a = unit(curves.back().slope(1)), b = unit(c.slope(0));
            if (std::fabs(cross(a, b)) > kCorner || dot(a, b) < 0) {
                sides.emplace_back(std::move(curves), run.stroke);
                curves.clear();
            }
        }
        curves.push_back(c);
    }
    sides.emplace_back(std::move(curves), run.stroke);
}

} // namespace

SideLoops sidesOf(const Region& area) {
    SideLoops out;
    const auto add = [&](const Loop& loop) {
        out.emplace_back();
        for (const LoopRun& run : runsOf(loop)) addSides(out.back(), run);
    };
    add(area.outer);
    for (const Loop& hole : area.holes) add(hole);
    return out;
}

namespace {

/// Where nothing moves: heights take the place of distances.
Inset upright(const Loops& loops, double height) {
    Inset out;
    for (const auto& sides : loops) {
        InsetLoop loop;
        loop.sides = sides;
        loop.vanished.resize(sides.size());
        const int n = static_cast<int>(sides.size());
        for (const double at : {0.0, height})
            for (const InsetSide& s : sides) loop.nodes.push_back({s.at(1), at});
        for (int k = 0; k < n; ++k)
            loop.corners.push_back({k, (k + 1) % n, k, n + k, true, {{0, 1, 0}, {height, 1, 0}}});
        out.loops.push_back(std::move(loop));
    }
    return out;
}

/// The rows of the free sides, as far as either half's corners run along them.
bool fitRows(LeanFoot& foot, const Loops& loops, const std::vector<LeanHalf>& halves,
             const std::vector<Inset>& insets) {
    constexpr double kBeyond = 0.02; // of the parameter: room for curves that are fitted along corners
    std::vector<double> moves{0};
    for (const LeanHalf& h : halves) moves.push_back(h.movedAt(h.height));
    for (std::size_t l = 0; l < loops.size(); ++l) {
        foot.rows.emplace_back(loops[l].size());
        for (std::size_t i = 0; i < loops[l].size(); ++i) {
            if (loops[l][i].kind() != InsetSide::Kind::Free) continue;
            double from = 0, to = 1;
            for (const Inset& inset : insets)
                for (const InsetCorner& c : inset.loops[l].corners)
                    for (const InsetCorner::Place& p : c.path) {
                        if (c.after == static_cast<int>(i)) from = std::min(from, p.onAfter);
                        if (c.before == static_cast<int>(i)) to = std::max(to, p.onBefore);
                    }
            if (from < -1e-9) from -= kBeyond;
            if (to > 1 + 1e-9) to += kBeyond;
            foot.rows[l][i] = LeanRows::of(loops[l][i], from, to, moves);
            if (!foot.rows[l][i]) return false;
        }
    }
    return true;
}

/// The corners and edges in the drawing's plane, laid on the sides of both halves.
bool makeFoot(LeanFoot& foot, const Loops& loops, const std::vector<LeanHalfBuilder>& halves) {
    for (std::size_t l = 0; l < loops.size(); ++l) {
        foot.edges.emplace_back();
        const std::size_t n = loops[l].size();
        for (std::size_t i = 0; i < n; ++i) {
            const auto edge = halves.front().face(l, i).level(0, 1, foot.corners[l][(i + n - 1) % n],
                                                              foot.corners[l][i], 0);
            if (!edge) return false;
            for (std::size_t h = 1; h < halves.size(); ++h)
                halves[h].face(l, i).lay(*edge, halves.front().face(l, i));
            foot.edges.back().push_back(*edge);
        }
    }
    return true;
}

std::vector<std::string> rolesOf(const Outline& outline, int stroke, bool behind) {
    std::vector<std::string> out = outline.rolesOf(stroke);
    if (behind)
        for (std::string& role : out) role.insert(0, "back ");
    return out;
}

TopLoc_Location placeOf(Plane plane, double level) {
    plane = moved(plane, level);
    const Vec3 o = plane.origin, n = plane.normal(), x = plane.across;
    gp_Trsf t;
    t.SetDisplacement(gp_Ax3(gp::Origin(), gp::DZ(), gp::DX()),
                      gp_Ax3(gp_Pnt(o.x, o.y, o.z), gp_Dir(n.x, n.y, n.z), gp_Dir(x.x, x.y, x.z)));
    return t;
}

LeaningPrism assemble(const Outline& outline, const Loops& loops, const LeanFoot& foot,
                      const std::vector<LeanHalf>& halves, std::vector<LeanHalfBuilder>& builders) {
    LeaningPrism out;
    for (std::size_t h = 0; h < halves.size(); ++h) {
        (halves[h].sense > 0 ? out.before : out.behind) = builders[h].cap();
        for (std::size_t l = 0; l < loops.size(); ++l)
            for (std::size_t i = 0; i < loops[l].size(); ++i)
                out.sides.push_back(
                    {builders[h].sideFace(l, i),
                     rolesOf(outline, loops[l][i].stroke(), halves.size() > 1 && halves[h].sense < 0),
                     loops[l][i].stroke()});
    }
    if (out.before.IsNull()) out.before = LeanHalfBuilder::flatFace(foot.edges, 0, true);
    if (out.behind.IsNull()) out.behind = LeanHalfBuilder::flatFace(foot.edges, 0, false);
    BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    builder.Add(shell, out.before);
    builder.Add(shell, out.behind);
    for (const auto& side : out.sides) builder.Add(shell, side.face);
    shell.Closed(true);
    BRepLib::SameParameter(shell, kSurfaceFit, true);
    BRepLib::UpdateTolerances(shell, true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    out.solid = solid;
    return out;
}

} // namespace

Result<std::variant<LeaningPrism, LeanStop>> leaningPrism(const Outline& outline, const Region& area,
                                                          double level, const std::vector<LeanHalf>& halves) {
    const auto unfit = errorOf(
        "lean.fit",
        "A curve of the drawing is too uneven to be leant. Draw it with fewer nodes, or lean it less.");
    const Loops loops = sidesOf(area);
    std::vector<Inset> insets;
    for (const LeanHalf& h : halves) {
        const double by = h.movedAt(h.height);
        insets.push_back(std::fabs(by) < kKernelPoint ? upright(loops, h.height) : insetOf(loops, by));
        if (const auto& stop = insets.back().stop)
            return std::variant<LeaningPrism, LeanStop>(
                LeanStop{*stop, std::fabs(stop->by / std::tan(h.lean)), h});
    }
    LeanFoot foot;
    if (!fitRows(foot, loops, halves, insets)) return unfit;
    for (const auto& sides : loops) {
        foot.corners.emplace_back();
        for (const InsetSide& s : sides)
            foot.corners.back().push_back(BRepBuilderAPI_MakeVertex(inFrame(s.at(1), 0)));
    }
    std::vector<LeanHalfBuilder> builders;
    builders.reserve(halves.size());
    for (std::size_t h = 0; h < halves.size(); ++h) builders.emplace_back(halves[h], h + 1, insets[h], foot);
    if (!makeFoot(foot, loops, builders)) return unfit;
    for (LeanHalfBuilder& b : builders)
        if (!b.makeEdges()) return unfit;
    LeaningPrism out = assemble(outline, loops, foot, halves, builders);
    const TopLoc_Location place = placeOf(outline.plane, level);
    out.solid.Move(place);
    for (TopoDS_Face* f : {&out.before, &out.behind}) f->Move(place);
    for (auto& side : out.sides) side.face.Move(place);
    return std::variant<LeaningPrism, LeanStop>(std::move(out));
}

} // namespace gc
