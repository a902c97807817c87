#include "core/steps/sweep/runs.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/over_face.hpp"
#include "core/steps/sweep/fold.hpp"
#include "core/steps/sweep/plain.hpp"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRep_Builder.hxx>
#include <Geom_Line.hxx>
#include <TopoDS_Compound.hxx>
#include <gp_Ax3.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

/// Pieces that run on smoothly, and by how much the path turns at either end.
struct Run {
    std::vector<PathPiece> pieces;
    bool closed = false;
    double turnBefore = 0, turnAfter = 0; ///< rad
};

std::vector<Run> runsOf(const Path& path) {
    const auto& pieces = path.pieces();
    std::vector<std::size_t> corners; // after these pieces
    for (std::size_t i = 0; i + (path.closed() ? 0 : 1) < pieces.size(); ++i)
        if (path.turnAfter(i) > kCorner) corners.push_back(i);
    if (corners.empty()) return {{pieces, path.closed(), 0, 0}};
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

Error unsound() {
    return errorOf("sweep.invalid",
                   "What the section sweeps over does not close up. Make the section smaller, or the "
                   "path smoother.");
}

bool changes(const SweepLaw& law) {
    return law.parallel || law.turn != 0 || law.size != 1 || law.leads;
}

/// One run, from its own start on.
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
    if (swept && !BRepCheck_Analyzer(swept->solid).IsValid()) return unsound();
    return swept;
}

// ---- corners

double reachOf(const Section& section, const Frames& frames) {
    double reach = 0;
    for (const gp_Pnt& p : section.border(12)) {
        const gp_Vec l = frames.local(p);
        reach = std::max(reach, std::hypot(l.X(), l.Y()));
    }
    return reach;
}

/// The run with straight pieces on its ends, so long that the mitre lies within them.
Run extended(Run run, double reach) {
    const auto by = [&](double turn) { return reach * std::tan(turn / 2) * 1.05 + 0.5; };
    const auto line = [](const gp_Pnt& from, const gp_Vec& way, double length) {
        return LengthCurve(new Geom_Line(from, gp_Dir(way)), 0, length);
    };
    if (run.turnBefore > 0) {
        const LengthCurve& c = run.pieces.front().curve;
        const gp_Vec way = c.tangent(0);
        const double length = by(run.turnBefore);
        const PathPiece piece{line(c.start().Translated(way * -length), way, length),
                              run.pieces.front().item};
        run.pieces.insert(run.pieces.begin(), piece);
    }
    if (run.turnAfter > 0) {
        const LengthCurve c = run.pieces.back().curve;
        run.pieces.push_back(
            {line(c.end(), c.tangent(c.length()), by(run.turnAfter)), run.pieces.back().item});
    }
    return run;
}

TopoDS_Shape mitrePlane(const gp_Pnt& at, const gp_Vec& before, const gp_Vec& after, double reach) {
    const double wide = reach / std::cos(before.Angle(after) / 2) * 1.2 + 1;
    return BRepBuilderAPI_MakeFace(gp_Pln(at, gp_Dir(before + after)), -wide, wide, -wide, wide).Shape();
}

gp_Vec roundCorner(const gp_Vec& v, const gp_Vec& before, const gp_Vec& after) {
    const gp_Vec axis = before.Crossed(after);
    return axis.Magnitude() < 1e-12 ? v : v.Rotated(gp_Ax1(gp_Pnt(), gp_Dir(axis)), before.Angle(after));
}

/// Where a section stands that was carried from one frame to another.
gp_Trsf between(const Frame& from, const Frame& to) {
    const auto place = [](const Frame& f) { return gp_Ax3(f.at, gp_Dir(f.along), gp_Dir(f.across)); };
    gp_Trsf t;
    t.SetDisplacement(place(from), place(to));
    return t;
}

Profile moved(const Profile& profile, const gp_Trsf& by) {
    Profile out = profile;
    const TopLoc_Location place(by);
    out.face.Move(place);
    for (ProfileEdge& e : out.edges) e.edge.Move(place);
    return out;
}

std::optional<Error> cannotBeMitred(const std::vector<Run>& runs, double reach) {
    constexpr double kSharp = std::numbers::pi * 150 / 180;
    for (const Run& r : runs) {
        double length = 0;
        for (const PathPiece& p : r.pieces) length += p.curve.length();
        const double needs = reach * (std::tan(r.turnBefore / 2) + std::tan(r.turnAfter / 2));
        Error e;
        if (std::max(r.turnBefore, r.turnAfter) > kSharp)
            e = errorOf("sweep.back",
                        "The path turns back on itself in a corner, so the section cannot go round it. "
                        "Round the corner.");
        else if (length < needs)
            e = errorOf(
                "sweep.corner",
                phrase("Between two corners the path is %1 long; with a section of this size %2 are needed. "
                       "Make the section smaller, or round the corners.",
                       formatAmount(length, "mm", 2), formatAmount(needs, "mm", 2)));
        else
            continue;
        e.place = toVec(r.pieces.front().curve.start());
        return e;
    }
    return std::nullopt;
}

NamedTool asTool(int step, const Plane& frame,
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

Result<SweepMade> mitred(const Profile& profile, const std::vector<Run>& runs, gp_Vec across, int step,
                         const Plane& frame) {
    SweepMade made{{}, true};
    std::optional<Body> joined;
    const Frames first(runs.front().pieces, false, across, {});
    const double reach = reachOf(sectionOf(profile), first);
    if (auto wrong = cannotBeMitred(runs, reach)) return *wrong;
    const auto inside = placesOver(profile.face, 9);
    if (inside.empty()) return unsound();
    const gp_Vec within = first.local(inside[inside.size() / 2]);
    for (std::size_t r = 0; r < runs.size(); ++r) {
        const Frames own(runs[r].pieces, false, across, {});
        const Run longer = extended(runs[r], reach);
        const Frames stretched(longer.pieces, false, across, {});
        auto swept = sweptRun(moved(profile, between(first.start(), stretched.start())), longer, across, {},
                              made.exact);
        if (!swept) return swept.error();
        std::vector<TopoDS_Shape> planes;
        const auto next = [&](std::size_t k) -> const Run& { return runs[(k + runs.size()) % runs.size()]; };
        if (runs[r].turnBefore > 0) {
            const LengthCurve& c = next(r + runs.size() - 1).pieces.back().curve;
            planes.push_back(mitrePlane(own.start().at, c.tangent(c.length()), own.start().along, reach));
        }
        const gp_Vec after = next(r + 1).pieces.front().curve.tangent(0);
        if (runs[r].turnAfter > 0) planes.push_back(mitrePlane(own.end().at, own.end().along, after, reach));
        const std::size_t middle = runs[r].pieces.size() / 2;
        const gp_Pnt kept = own.at(middle, runs[r].pieces[middle].curve.length() / 2).place(within);
        EndedSolid solid(std::move(*swept));
        if (!solid.cutAround(planes, {kept})) return unsound();
        NamedTool tool = asTool(
            step, frame, [&](TopoDS_Compound& solids, NamedTool& t) { solid.addKept(step, solids, t); });
        if (!joined) {
            auto body = bodyOf(tool);
            if (!body) return body.error();
            joined = std::move(*body);
        } else {
            auto both = combine(*joined, tool, Combine::Add);
            if (!both) return both.error();
            joined = std::move(*both);
        }
        across = roundCorner(own.end().across, own.end().along, after);
    }
    made.tool = toolOf(*joined, step);
    made.tool.frame = frame;
    return made;
}

} // namespace

Result<SweepMade> sweepAlong(const Profile& profile, const Path& path, const gp_Vec& across,
                             const SweepLaw& law, int step, const Plane& frame) {
    const auto runs = runsOf(path);
    if (runs.size() == 1 && runs.front().turnBefore == 0 && runs.front().turnAfter == 0) {
        SweepMade made{{}, true};
        auto swept = sweptRun(profile, runs.front(), across, law, made.exact);
        if (!swept) return swept.error();
        made.tool = asTool(step, frame, [&](TopoDS_Compound& solids, NamedTool& tool) {
            EndedSolid(std::move(*swept)).addWhole(step, solids, tool);
        });
        return made;
    }
    if (changes(law))
        return errorOf("sweep.corners",
                       "A section that turns, grows, is led or is kept parallel needs a path without "
                       "corners. Round them, or leave the section square to the path and unchanged.");
    return mitred(profile, runs, across, step, frame);
}

} // namespace gc
