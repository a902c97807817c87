#include "core/steps/shared/runs.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/extended_face.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/corners.hpp"
#include "core/steps/shared/over_face.hpp"
#include "core/steps/shared/plain.hpp"

#include <BRepCheck_Analyzer.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

using Run = SmoothRun;

std::vector<Run> runsOf(const Path& path) {
    const auto& pieces = path.pieces();
    std::vector<std::size_t> corners; // after these pieces
    for (std::size_t i = 0; i + (path.closed() ? 0 : 1) < pieces.size(); ++i)
        if (path.turnAfter(i) > kCorner) corners.push_back(i);
    if (corners.empty()) return {{pieces, path.closed(), 0, 0, {}}};
    // The section stands where the path begins, so the first run begins there, in a corner or not.
    std::vector<Run> out;
    const auto turnAt = [&](std::size_t i) {
        return std::find(corners.begin(), corners.end(), i) == corners.end() ? 0 : path.turnAfter(i);
    };
    Run now;
    now.turnBefore = turnAt(pieces.size() - 1);
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        now.pieces.push_back(pieces[i]);
        now.turnAfter = turnAt(i);
        if (i + 1 < pieces.size() && now.turnAfter == 0) continue;
        out.push_back(now);
        now = Run();
        now.turnBefore = out.back().turnAfter;
    }
    return out;
}

} // namespace

Error folded(const Fold& fold) {
    // A hair less than what just fits, so that it does.
    const std::string share = formatNumber(std::floor(fold.fits * 99), 0) + " %";
    Error e =
        fold.bend > 0
            ? errorOf(
                  "sweep.fold",
                  phrase("The section would run into itself in a bend of the path: it is bent to a radius "
                         "of %1 there. A section of at most %2 of this size fits, or a wider bend.",
                         formatAmount(fold.bend, "mm", 2), share))
            : errorOf(
                  "sweep.near",
                  phrase("Two turns of the path lie so near to each other that the section would run into "
                         "itself. A section of at most %1 of this size fits.",
                         share));
    e.place = toVec(fold.at);
    return e;
}

namespace {

/// Lying against its way, a section kept parallel would be folded flat.
std::optional<Error> liesFlat(const Run& run, const Frames& frames) {
    for (std::size_t k = 0; k < run.pieces.size(); ++k) {
        const LengthCurve& c = run.pieces[k].curve;
        for (int i = 0; i <= 60; ++i) {
            const double s = c.length() * i / 60;
            if (c.tangent(s).Dot(frames.at(k, s).along) > 0.05) continue;
            Error e = errorOf("sweep.flat",
                              "Kept parallel, the section would lie flat along the path here. Keep it "
                              "square to the path, or end the path before.");
            e.place = toVec(c.at(s));
            return e;
        }
    }
    return std::nullopt;
}

} // namespace

Error sweepUnsound() {

    return errorOf("sweep.invalid",
                   "What the section sweeps over does not close up. Make the section smaller, or the "
                   "path smoother.");
}

namespace {

bool changes(const SweepLaw& law) {
    return law.parallel || law.turn != 0 || law.size != 1 || law.sizes || law.leads;
}

} // namespace

Result<Swept> sweptRun(const Profile& profile, const Run& run, const gp_Vec& across, const SweepLaw& law) {
    const Frames frames(run.pieces, run.closed, across, law);
    const gp_Vec along = run.pieces.front().curve.tangent(0);
    const Section section = facing(sectionOf(profile), along);
    if (law.parallel) {
        if (auto flat = liesFlat(run, frames)) return *flat;
    } else if (const auto fold = foldOf(section, run.pieces, run.closed, frames)) {
        return folded(*fold);
    }
    if (isPlain(run.pieces) && !changes(law))
        if (auto plain = plainSweep(profile, run.pieces, run.closed)) return std::move(*plain);
    auto swept = sweptFaces(section, run.pieces, run.closed, frames);
    if (swept && !BRepCheck_Analyzer(swept->solid).IsValid()) return sweepUnsound();
    return swept;
}

NamedTool sweptTool(int step, const Plane& frame,
                    const std::function<void(TopoDS_Compound&, NamedTool&)>& fill) {
    TopoDS_Compound solids;
    BRep_Builder().MakeCompound(solids);
    NamedTool tool;
    tool.step = step;
    tool.frame = frame;
    fill(solids, tool);
    tool.shape = onlySolid(solids);
    return tool;
}

namespace {

Error notEnded(const SweepEnd& end) {
    return errorOf("sweep.no-end",
                   phrase("%1 does not end the sweep on all of the section, even if continued. Choose "
                          "another face, or let the path end nearer to it.",
                          marked(end.said)));
}

/// A prism on the far cap of what was swept, its sides called like those that they go on from.
Swept goneOn(const Swept& swept, const gp_Vec& by) {
    BRepPrimAPI_MakePrism prism(swept.end, by);
    Swept out;
    out.solid = prism.Shape();
    out.start = TopoDS::Face(prism.FirstShape());
    out.end = TopoDS::Face(prism.LastShape());
    out.along = by;
    TopTools_IndexedMapOfShape rim;
    TopExp::MapShapes(swept.end, TopAbs_EDGE, rim);
    for (const auto& [face, role] : swept.sides)
        for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next())
            if (rim.Contains(x.Current()))
                for (const TopoDS_Shape& side : toVector(prism.Generated(x.Current())))
                    out.sides.emplace_back(side, role);
    return out;
}

/// Until the face ends it, which need not cover the section.
Result<NamedTool> cutAt(Swept swept, const SweepEnd& end, double reach, int step, const Plane& frame) {
    EndedSolid solid(std::move(swept));
    auto open = solid.cut({end.face});
    if (!open || *open > kCovered) open = solid.cut({extendedFace(end.face, 4 * reach)});
    if (!open || *open > kCovered) return notEnded(end);
    return sweptTool(step, frame,
                     [&](TopoDS_Compound& solids, NamedTool& tool) { solid.addKept(step, solids, tool); });
}

} // namespace

Result<std::optional<NamedTool>> goneOnTo(const Swept& swept, const gp_Pnt& at, const gp_Vec& along,
                                          const SweepEnd& end, double reach, int step, const Plane& frame) {
    constexpr double kFar = 1e4;
    Crossings crossings({extendedFace(end.face, 4 * reach)});
    const auto met = crossings.of(gp_Lin(at, gp_Dir(along)), kFar);
    if (met.empty()) return std::optional<NamedTool>();
    auto more = cutAt(goneOn(swept, along * (met.front() + 3 * reach + 1)), end, reach, step, frame);
    if (!more) return more.error();
    return std::optional(std::move(*more));
}

namespace {

/// Straight on from the end of the path to the face, or, where that lies behind it, less far than the path
/// goes.
Result<NamedTool> endedAt(const Profile& profile, const Run& run, const gp_Vec& across, const SweepLaw& law,
                          const SweepEnd& end, int step, const Plane& frame) {
    const Frames frames(run.pieces, run.closed, across, law);
    double reach = 0;
    for (const gp_Pnt& p : sectionOf(profile).border(12))
        reach = std::max(reach, p.Distance(frames.start().at));
    reach *= std::max(1.0, law.sizes ? law.sizes(1) : law.size);
    auto swept = sweptRun(profile, run, across, law);
    if (!swept) return swept.error();
    const PathFrame last = frames.end();
    const gp_Vec along = run.pieces.back().curve.tangent(run.pieces.back().curve.length());
    auto more = goneOnTo(*swept, last.at, along, end, reach, step, frame);
    if (!more) return more.error();
    if (!*more) return cutAt(std::move(*swept), end, reach, step, frame);
    const auto own = bodyOf(sweptTool(step, frame, [&](TopoDS_Compound& solids, NamedTool& tool) {
        EndedSolid(std::move(*swept)).addWhole(step, solids, tool);
    }));
    if (!own) return own.error();
    const auto both = combine(*own, **more, Combine::Add);
    if (!both) return both.error();
    NamedTool tool = toolOf(*both, step);
    tool.frame = frame;
    return tool;
}

} // namespace

namespace {

/// Why a section cannot change on a way round corners.
std::optional<Error> cannotChange(const SweepLaw& law, bool closed, bool roundCorners) {
    if (law.leads)
        return errorOf("sweep.corners",
                       "A section that is led needs a path without corners. Round them in the drawing, or "
                       "keep the section square to the path.");
    const bool turnsOrGrows = law.turn != 0 || law.size != 1 || law.sizes;
    if (turnsOrGrows && closed)
        return errorOf("sweep.corners",
                       "Round a closed path with corners a section cannot turn or grow: it would not meet "
                       "itself. Leave it unchanged, or leave the path open.");
    if (turnsOrGrows && !roundCorners)
        return errorOf("sweep.corners", "A section that turns or grows cannot be mitred: what comes to the "
                                        "corner and what leaves it would not meet. Choose rounded corners.");
    return std::nullopt;
}

/// A way round with a single corner, as two: the second begins half way.
std::vector<Run> halved(const Run& run) {
    std::vector<PathPiece> pieces = run.pieces;
    if (pieces.size() == 1) {
        const LengthCurve& c = pieces.front().curve;
        const double middle = c.parameterAt(c.length() / 2);
        pieces = {{LengthCurve(c.curve(), c.from(), middle), pieces.front().item},
                  {LengthCurve(c.curve(), middle, c.to()), pieces.front().item}};
    }
    const auto half = pieces.begin() + static_cast<std::ptrdiff_t>(pieces.size() / 2);
    Run first, second;
    first.pieces = {pieces.begin(), half};
    second.pieces = {half, pieces.end()};
    first.turnBefore = run.turnBefore;
    second.turnAfter = run.turnAfter;
    return {first, second};
}

} // namespace

Result<NamedTool> sweepAlong(const Profile& profile, const Path& path, const gp_Vec& across,
                             const SweepLaw& law, bool roundCorners, const std::optional<SweepEnd>& end,
                             int step, const Plane& frame) {
    // Kept parallel, a section goes round a corner as it stands.
    auto runs = law.parallel ? std::vector<Run>{{path.pieces(), path.closed(), 0, 0, {}}} : runsOf(path);
    if (end && path.closed())
        return errorOf("sweep.end-closed",
                       "The path closes in itself, so the section cannot go on to a face. Let it end where "
                       "the path ends.");
    if (end && runs.size() == 1) return endedAt(profile, runs.front(), across, law, *end, step, frame);
    if (runs.size() == 1 && runs.front().turnBefore == 0 && runs.front().turnAfter == 0) {
        auto swept = sweptRun(profile, runs.front(), across, law);
        if (!swept) return swept.error();
        return sweptTool(step, frame, [&](TopoDS_Compound& solids, NamedTool& tool) {
            EndedSolid(std::move(*swept)).addWhole(step, solids, tool);
        });
    }
    if (auto cannot = cannotChange(law, path.closed(), roundCorners)) return *cannot;
    if (runs.size() == 1) runs = halved(runs.front());
    return CornerSweep(profile, runs, path.closed(), across, law, end, step, frame).made(roundCorners);
}

} // namespace gc
