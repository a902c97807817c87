// Sweep: the areas of a drawing carried along a path.

#include "core/shape/places.hpp"
#include "core/sketch/loop_runs.hpp"
#include "core/steps/shared/becoming.hpp"
#include "core/steps/shared/converted_walls.hpp"
#include "core/steps/shared/filling.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/runs.hpp"
#include "core/steps/shared/size_handles.hpp"
#include "core/steps/sweep/round_caps.hpp"
#include "core/steps/sweep/size_law.hpp"

#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

void beginWhereFlat(Loop& loop) {
    const auto runs = runsOf(loop);
    if (runs.size() != 1 || runs[0].curves.size() != 1) return;
    Curve2 c = runs[0].curves[0];
    if (!c.closed() || c.isCircular()) return;
    if (length(c.at(0) - c.p[0]) > length(c.at(0.25) - c.p[0])) c.from += c.turn / 4;
    loop.sides.resize(1);
    loop.sides[0].curve = c;
}

/// An area whose ellipses begin where they are bent least: their walls then close up there. What is offset or
/// rounded would have to find its way over that: better not where it is bent most.
Region fromWhereFlat(Region area) {
    beginWhereFlat(area.outer);
    for (Loop& hole : area.holes) beginWhereFlat(hole);
    return area;
}

/// The normal of a face that leads, where it is nearest to the path.
Result<Done> leadByFace(const Arguments& args, ModelReader& model, SweepLaw& law) {
    const auto found = findFaces(args.references("lead face"), model);
    if (!found) return found.error();
    law.leads = [body = found->body, items = found->items](double, const gp_Pnt& at) {
        const auto nearest = nearestOnFaces(body, items, toVec(at));
        return nearest ? gp_Vec(nearest->normal.x, nearest->normal.y, nearest->normal.z) : gp_Vec();
    };
    return Done{};
}

/// The line that leads, by the share of its own length.
Result<SweepLaw> lawOf(const Arguments& args, ModelReader& model) {
    SweepLaw law;
    law.parallel = args.text("stand") == "kept parallel";
    if (args.text("change").starts_with("turning")) law.turn = args.number("turn");
    if (args.text("change").ends_with("growing to")) law.size = args.number("size");
    if (args.text("change").ends_with("growing as")) {
        auto sizes = sizesBy(args, model);
        if (!sizes) return sizes.error();
        law.sizes = std::move(*sizes);
    }
    if (args.text("stand") == "led by the face") {
        if (auto led = leadByFace(args, model, law); !led) return led.error();
        return law;
    }
    if (args.text("stand") != "led by") return law;
    auto lead = findPath(args.references("lead"), model);
    if (!lead) {
        Error e = lead.error();
        if (e.code == "path.none") e.sentence = "Pick the line that leads the section in the stand.";
        return e;
    }
    law.leads = [line = std::move(*lead)](double share, const gp_Pnt& at) {
        return gp_Vec(at, line.at(share * line.length()));
    };
    return law;
}

/// The face that it shall end at, if any.
Result<std::optional<SweepEnd>> endOf(const Arguments& args, ModelReader& model) {
    if (args.text("end") != "on to") return std::optional<SweepEnd>();
    const auto found = findFaces(args.references("end face"), model);
    if (!found) return found.error();
    if (found->items.size() > 1)
        return errorOf("sweep.faces", phrase("%1 is %2 faces; one is needed to end at. Pick it in the stand.",
                                             marked(args.references("end face").front()),
                                             std::to_string(found->items.size())));
    return std::optional<SweepEnd>(SweepEnd{TopoDS::Face(found->body.shape().faces(found->items.front() + 1)),
                                            args.references("end face").front()});
}

/// How far the section has turned at the path's end.
void showTurn(const Path& path, const Region& area, const Plane& plane, double turn, ModelReader& model) {
    constexpr double kLeast = 4; // mm: a shorter arm could not be taken hold of
    const Vec3 end = toVec(path.at(path.length())), along = toWay(path.tangent(path.length()));
    double reach = kLeast;
    for (const Side& s : area.outer.sides)
        reach = std::max(reach, length(plane.at(s.curve.at(0)) - plane.at(middleOf(area))));
    Vec3 arm = plane.up - along * dot(plane.up, along);
    if (length(arm) < 0.1) arm = plane.across - along * dot(plane.across, along);
    model.show(turnHandle("turn", end, along, unit(arm) * reach, turn));
}

/// Where it stands already is where a section is meant that the path begins in, squarely.
bool standsOnIt(const Plane& plane, const Region& area, const Path& path) {
    Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
    for (const Side& s : area.outer.sides) {
        Vec2 l, h;
        s.curve.bounds(l, h);
        low = {std::min(low.x, l.x), std::min(low.y, l.y)};
        high = {std::max(high.x, h.x), std::max(high.y, h.y)};
    }
    const Vec2 at = plane.foot(toVec(path.start()));
    if (at.x < low.x || at.x > high.x || at.y < low.y || at.y > high.y) return false;
    constexpr double kOn = 1e-4, kSquare = 1e-6; // mm, 1 - cosine
    const gp_Vec along = path.pieces().front().curve.tangent(0);
    const Vec3 n = plane.normal();
    return std::fabs(plane.before(toVec(path.start()))) < kOn &&
           std::fabs(std::fabs(along.Dot(gp_Vec(n.x, n.y, n.z))) - 1) < kSquare;
}

/// The sweep of each area.
Result<NamedTool> toolFor(const Arguments& args, const Outline& outline, const std::vector<Region>& areas,
                          const Path& path, const SweepLaw& law, const std::optional<SweepEnd>& end) {
    gp_Trsf placing;
    const Plane& plane = outline.plane;
    const Vec3 n = plane.normal(), x = plane.across, o = plane.origin;
    if (args.text("placing") == "brought onto it" && !standsOnIt(plane, areas.front(), path))
        placing = placingOnto(path, gp_Vec(n.x, n.y, n.z), gp_Pnt(o.x, o.y, o.z));
    const gp_Vec across = gp_Vec(x.x, x.y, x.z).Transformed(placing);
    TopoDS_Compound solids;
    BRep_Builder().MakeCompound(solids);
    NamedTool all;
    all.step = args.id();
    all.frame = plane;
    for (const Region& area : areas) {
        auto made = sweepAlong(moved(profileOf(outline, fromWhereFlat(area)), placing), path, across, law,
                               args.text("corners") == "rounded", end, args.id(), plane);
        if (made && !end && args.text("caps") != "flat")
            made = withRoundCaps(std::move(*made), args.text("caps") == "round"
                                                       ? std::vector<std::string>{"start", "end"}
                                                       : std::vector<std::string>{"end"});
        if (!made) return made.error();
        convertWalls(*made);
        for (TopExp_Explorer s(made->shape, TopAbs_SOLID); s.More(); s.Next())
            BRep_Builder().Add(solids, s.Current());
        all.names.insert(all.names.end(), made->names.begin(), made->names.end());
    }
    all.shape = onlySolid(solids);
    return all;
}

} // namespace

Result<StepChange> runSweep(const Arguments& args, ModelReader& model, const Progress&) {
    auto filled = filledFor(args, model, "sweep", "Sweep");
    if (!filled) return filled.error();
    auto becoming = becomingOf(args, model);
    if (!becoming) return becoming.error();
    auto made =
        guarded("sweep.failed", "The section cannot be swept along this path.", [&]() -> Result<StepChange> {
            auto path = findPath(args.references("path"), model);
            if (!path) return path.error();
            const auto law = lawOf(args, model);
            if (!law) return law.error();
            const Path way = args.text("begin") == "from its end" ? path->reversed() : *path;
            if (args.text("change").starts_with("turning"))
                showTurn(way, filled->areas.front(), filled->outline().plane, law->turn, model);
            const auto end = endOf(args, model);
            if (!end) return end.error();
            auto tool = toolFor(args, filled->outline(), filled->areas, way, *law, *end);
            if (!tool) return tool.error();
            return become(*becoming, *tool, filled->areas.size(), args, model);
        });
    if (made) made->notes.insert(made->notes.begin(), filled->notes.begin(), filled->notes.end());
    return made;
}

} // namespace gc
