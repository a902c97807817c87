#include "core/steps/sweep/runs.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/sweep/corners.hpp"
#include "core/steps/sweep/plain.hpp"

#include <BRepCheck_Analyzer.hxx>
#include <BRep_Builder.hxx>
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
    std::vector<Run> out;
    const std::size_t first = path.closed() ? corners.back() + 1 : 0;
    Run now;
    now.turnBefore = path.closed() ? path.turnAfter(corners.back()) : 0;
    for (std::size_t k = 0; k < pieces.size(); ++k) {
        const std::size_t i = (first + k) % pieces.size();
        now.pieces.push_back(pieces[i]);
        const bool last = k + 1 == pieces.size();
        if (!last && std::find(corners.begin(), corners.end(), i) == corners.end()) continue;
        now.turnAfter = last && !path.closed() ? 0 : path.turnAfter(i);
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
    return law.parallel || law.turn != 0 || law.size != 1 || law.leads;
}

} // namespace

Result<Swept> sweptRun(const Profile& profile, const Run& run, const gp_Vec& across, const SweepLaw& law,
                       bool& exact) {
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
    exact = false;
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

Result<SweepMade> sweepAlong(const Profile& profile, const Path& path, const gp_Vec& across,
                             const SweepLaw& law, bool roundCorners, int step, const Plane& frame) {
    const auto runs = runsOf(path);
    if (runs.size() == 1 && runs.front().turnBefore == 0 && runs.front().turnAfter == 0) {
        SweepMade made{{}, true};
        auto swept = sweptRun(profile, runs.front(), across, law, made.exact);
        if (!swept) return swept.error();
        made.tool = sweptTool(step, frame, [&](TopoDS_Compound& solids, NamedTool& tool) {
            EndedSolid(std::move(*swept)).addWhole(step, solids, tool);
        });
        return made;
    }
    if (changes(law))
        return errorOf("sweep.corners",
                       "A section that turns, grows, is led or is kept parallel needs a path without "
                       "corners. Round them, or leave the section square to the path and unchanged.");
    if (runs.size() == 1)
        return errorOf("sweep.lone-corner",
                       "A closed path with a single corner cannot be swept along. Round the corner, or "
                       "leave the path open there.");
    return CornerSweep(profile, runs, path.closed(), across, step, frame).made(roundCorners);
}

} // namespace gc
