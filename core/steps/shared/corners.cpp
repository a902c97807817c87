#include "core/steps/shared/corners.hpp"

#include "core/shape/kernel.hpp"
#include "core/steps/shared/over_face.hpp"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRep_Builder.hxx>
#include <Geom_Line.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Ax3.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

using Run = SmoothRun;

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

/// Where a section stands that was carried from one frame to another, and as large as there.
gp_Trsf between(const PathFrame& from, const PathFrame& to) {
    const auto place = [](const PathFrame& f) { return gp_Ax3(f.at, gp_Dir(f.along), gp_Dir(f.across)); };
    gp_Trsf t, grown;
    t.SetDisplacement(place(from), place(to));
    grown.SetScale(to.at, to.across.Magnitude() / from.across.Magnitude());
    return grown * t;
}

double lengthOf(const Run& run) {
    double sum = 0;
    for (const PathPiece& p : run.pieces) sum += p.curve.length();
    return sum;
}

/// What of a law falls to each run.
std::vector<SweepLaw> sharedOut(const SweepLaw& law, const std::vector<Run>& runs) {
    double whole = 0, before = 0;
    for (const Run& r : runs) whole += lengthOf(r);
    std::vector<SweepLaw> out;
    for (const Run& r : runs) {
        SweepLaw part = law;
        part.from = before / whole;
        before += lengthOf(r);
        part.to = before / whole;
        out.push_back(std::move(part));
    }
    return out;
}

double largest(const SweepLaw& law) {
    constexpr int kLooks = 100;
    double most = std::max(1.0, law.size);
    for (int i = 0; law.sizes && i <= kLooks; ++i) most = std::max(most, law.sizes(double(i) / kLooks));
    return most;
}

std::optional<Error> cannotGoRound(const std::vector<Run>& runs, double reach) {
    constexpr double kSharp = std::numbers::pi * 150 / 180;
    for (const Run& r : runs) {
        const double length = lengthOf(r);
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

} // namespace

CornerSweep::CornerSweep(const Profile& profile, std::vector<SmoothRun> runs, bool closed,
                         const gp_Vec& start, const SweepLaw& law, const std::optional<SweepEnd>& end,
                         int step, const Plane& frame)
    : m_profile(profile), m_runs(std::move(runs)), m_closed(closed), m_end(end), m_step(step), m_frame(frame),
      m_first(m_runs.front().pieces, false, start, {}) {
    m_laws = sharedOut(law, m_runs);
    gp_Vec across = start;
    for (std::size_t r = 0; r < m_runs.size(); ++r) {
        m_runs[r].across = across;
        const PathFrame last = Frames(m_runs[r].pieces, false, across, {}).end();
        across = roundCorner(last.across, last.along, after(r).pieces.front().curve.tangent(0));
    }
    m_reach = reachOf(sectionOf(profile), m_first) * largest(law);
    if (const auto inside = placesOver(profile.face, 9); !inside.empty())
        m_within = m_first.local(inside[inside.size() / 2]);
}

Frames CornerSweep::framesOf(std::size_t r) const {
    return {m_runs[r].pieces, false, m_runs[r].across, m_laws[r]};
}

Profile CornerSweep::at(const PathFrame& frame) const {
    return moved(m_profile, between(m_first.start(), frame));
}

Result<NamedTool> CornerSweep::made(bool rounded) {
    if (auto wrong = cannotGoRound(m_runs, m_reach)) return *wrong;
    if (const auto near = meetingOf(sectionOf(m_profile), m_runs, m_closed, m_first)) return folded(*near);
    for (std::size_t r = 0; r < m_runs.size(); ++r) {
        if (auto wrong = rounded ? addPlain(r) : addMitred(r)) return *wrong;
        if (rounded && m_runs[r].turnAfter > 0)
            if (auto wrong = addTurn(r)) return *wrong;
    }
    NamedTool out = toolOf(*m_joined, m_step);
    out.frame = m_frame;
    return out;
}

std::optional<Error> CornerSweep::join(const NamedTool& tool) {
    auto now = m_joined ? combine(*m_joined, tool, Combine::Add) : bodyOf(tool);
    if (!now) return now.error();
    m_joined = std::move(*now);
    return std::nullopt;
}

std::optional<Error> CornerSweep::addMitred(std::size_t r) {
    const Run& run = m_runs[r];
    const Frames own(run.pieces, false, run.across, {});
    const Run longer = extended(run, m_reach);
    const Frames stretched(longer.pieces, false, run.across, {});
    auto swept =
        sweptRun(moved(m_profile, between(m_first.start(), stretched.start())), longer, run.across, {});
    if (!swept) return swept.error();
    std::vector<TopoDS_Shape> planes;
    if (run.turnBefore > 0) {
        const LengthCurve& c = before(r).pieces.back().curve;
        planes.push_back(mitrePlane(own.start().at, c.tangent(c.length()), own.start().along, m_reach));
    }
    if (run.turnAfter > 0)
        planes.push_back(
            mitrePlane(own.end().at, own.end().along, after(r).pieces.front().curve.tangent(0), m_reach));
    const std::size_t middle = run.pieces.size() / 2;
    const gp_Pnt kept = own.at(middle, run.pieces[middle].curve.length() / 2).place(m_within);
    EndedSolid solid(std::move(*swept));
    if (!solid.cutAround(planes, {kept})) return sweepUnsound();
    const Swept whole = solid.whole();
    auto wrong = join(sweptTool(m_step, m_frame, [&](TopoDS_Compound& solids, NamedTool& tool) {
        solid.addKept(m_step, solids, tool);
    }));
    return wrong || r + 1 < m_runs.size() ? wrong : addEnd(whole);
}

std::optional<Error> CornerSweep::addPlain(std::size_t r) {
    auto swept = sweptRun(at(framesOf(r).start()), m_runs[r], m_runs[r].across, m_laws[r]);
    if (!swept) return swept.error();
    auto wrong = join(sweptTool(m_step, m_frame, [&](TopoDS_Compound& solids, NamedTool& tool) {
        EndedSolid(*swept).addWhole(m_step, solids, tool);
    }));
    return wrong || r + 1 < m_runs.size() ? wrong : addEnd(*swept);
}

std::optional<Error> CornerSweep::addEnd(const Swept& last) {
    if (!m_end) return std::nullopt;
    const std::vector<PathPiece>& pieces = m_runs.back().pieces;
    const LengthCurve& way = pieces.back().curve;
    auto more = goneOnTo(last, way.end(), way.tangent(way.length()), *m_end, m_reach, m_step, m_frame);
    if (!more) return more.error();
    if (!*more) {
        Error e = errorOf("sweep.end-before",
                          phrase("%1 does not lie ahead of where the path ends, and behind a corner the "
                                 "sweep cannot be ended earlier. Let the path end before it.",
                                 marked(m_end->said)));
        e.place = toVec(way.end());
        return e;
    }
    return join(**more);
}

std::optional<Error> CornerSweep::addTurn(std::size_t r) {
    const PathFrame at = framesOf(r).end();
    const gp_Vec next = after(r).pieces.front().curve.tangent(0);
    const gp_Vec axis = at.along.Crossed(next).Normalized(), outward = axis.Crossed(at.along) * -1;
    const Profile here = this->at(at);
    // What of the section lies outside of the corner.
    const gp_Pln plane(gp_Ax3(at.at, gp_Dir(at.along), gp_Dir(outward)));
    const double wide = 2 * m_reach + 1;
    BRepAlgoAPI_Common outer(here.face, BRepBuilderAPI_MakeFace(plane, 0, wide, -wide, wide).Face());
    if (!outer.IsDone() || !TopExp_Explorer(outer.Shape(), TopAbs_FACE).More()) return std::nullopt;
    BRepPrimAPI_MakeRevol turn(outer.Shape(), gp_Ax1(at.at, gp_Dir(axis)), at.along.Angle(next));
    const int item = m_runs[r].pieces.back().item;
    return join(sweptTool(m_step, m_frame, [&](TopoDS_Compound& solids, NamedTool& tool) {
        TopTools_IndexedMapOfShape named;
        const auto name = [&](const TopoDS_Shape& face, const std::string& role) {
            if (face.ShapeType() != TopAbs_FACE) return;
            named.Add(face);
            tool.names.emplace_back(face, internName(m_step, role));
        };
        for (const ProfileEdge& e : here.edges) {
            auto images = toVector(outer.Modified(e.edge));
            if (images.empty() && !outer.IsDeleted(e.edge)) images.push_back(e.edge);
            for (const TopoDS_Shape& image : images)
                for (const TopoDS_Shape& face : toVector(turn.Generated(image)))
                    for (const std::string& role : e.roles) name(face, sweptRole(role, item) + " round");
        }
        for (TopExp_Explorer x(turn.Shape(), TopAbs_SOLID); x.More(); x.Next())
            BRep_Builder().Add(solids, x.Current());
        // The flat ones lie within the runs, and vanish when it is joined with them.
        for (TopExp_Explorer x(turn.Shape(), TopAbs_FACE); x.More(); x.Next())
            if (!named.Contains(x.Current())) name(x.Current(), "end");
    }));
}

} // namespace gc
