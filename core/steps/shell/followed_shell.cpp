// A wall between a body and its faces moved one by one.

#include "core/shape/kernel.hpp"
#include "core/steps/shared/parted_at_jumps.hpp"
#include "core/steps/shell/followed.hpp"
#include "core/steps/shell/hollow.hpp"
#include "core/steps/shell/joined_walls.hpp"
#include "core/steps/shell/parted_at_folds.hpp"

#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include <algorithm>
#include <cmath>
#include <functional>

namespace gc {

namespace {

/// The wall between a body and what its faces were moved to, its parts simply put together.
/// \param parts the plan for the body that was moved: the same, perhaps parted \param namesOf its faces
Hollow between(const ShellPlan& plan, const ShellPlan& parts, int step, const Followed& moved,
               const std::function<NameList(const TopoDS_Face&)>& namesOf) {
    BRep_Builder build;
    Hollow out;
    const bool inward = plan.offset < 0, open = !plan.opened.IsEmpty();
    TopoDS_Shell outer, inner;
    build.MakeShell(outer);
    build.MakeShell(inner);
    TopoDS_Shell &old = inward ? outer : inner, &fresh = inward ? inner : outer;
    for (int i = 1; i <= plan.before->faces.Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(plan.before->faces(i));
        if (plan.opened.Contains(face)) continue;
        build.Add(old, inward ? TopoDS_Shape(face) : face.Reversed());
        for (const NamePtr n : plan.before->namesOf(face)) out.names.emplace_back(face, n);
    }
    for (int i = 1; i <= parts.before->faces.Extent(); ++i) {
        if (parts.opened.Contains(parts.before->faces(i))) continue;
        const TopoDS_Face now = moved.face(i);
        build.Add(fresh, inward ? now.Reversed() : TopoDS_Shape(now));
        for (const NamePtr n : namesOf(TopoDS::Face(parts.before->faces(i))))
            out.names.emplace_back(now, internName(step, "inside of", {n}));
        out.insides.push_back(now);
    }
    for (int k = 1; k <= plan.opened.Extent(); ++k) {
        const TopoDS_Face face = TopoDS::Face(plan.opened(k));
        const auto ends = moved.wiresOf(parts.before->faces.FindIndex(parts.opened(k)));
        std::size_t w = 0;
        for (TopoDS_Iterator wire(face.Oriented(TopAbs_FORWARD)); wire.More() && w < ends.size();
             wire.Next(), ++w) {
            TopoDS_Shape rim = face.EmptyCopied().Oriented(TopAbs_FORWARD);
            build.Add(rim, inward ? wire.Value() : wire.Value().Reversed());
            build.Add(rim, inward ? ends[w].Reversed() : ends[w]);
            build.Add(outer, rim.Oriented(face.Orientation()));
            for (const NamePtr n : plan.before->namesOf(face))
                out.names.emplace_back(rim, internName(step, "rim of", {n}));
        }
    }
    TopoDS_Solid solid;
    build.MakeSolid(solid);
    if (open) // one skin goes over into the other
        for (TopoDS_Iterator f(inner); f.More(); f.Next()) build.Add(outer, f.Value());
    outer.Closed(true);
    inner.Closed(true);
    build.Add(solid, outer);
    if (!open) build.Add(solid, inner);
    out.shape = solid;
    return out;
}

/// The same plan for the body with its walls parted; nothing where that cannot be said. \param pieces what
/// a face became, by its number from 1
std::optional<ShellPlan> planFor(const Body& parted, const ShellPlan& plan,
                                 const std::function<std::vector<TopoDS_Face>(int)>& pieces) {
    ShellPlan out = plan;
    out.before = &parted.shape();
    out.opened.Clear();
    out.others.clear();
    for (int k = 1; k <= plan.opened.Extent(); ++k) {
        const auto now = pieces(plan.before->faces.FindIndex(plan.opened(k)));
        if (now.size() != 1) return std::nullopt;
        out.opened.Add(now.front());
    }
    for (const auto& [face, offset] : plan.others)
        for (const TopoDS_Face& piece : pieces(face)) out.others[out.before->faces.FindIndex(piece)] = offset;
    return out;
}

} // namespace

Result<Hollow> followedShell(const ShellPlan& plan, int step, bool inParts) {
    std::optional<Parted> parted;
    std::optional<ShellPlan> parts = plan;
    if (inParts) {
        const auto& faces = plan.before->faces;
        if (std::any_of(faces.cbegin(), faces.cend(), bendJumpsOn)) parted = partedAtJumps(*plan.before);
        parts =
            parted
                ? planFor(parted->body, plan,
                          [&](int face) { return parted->piecesOf(TopoDS::Face(plan.before->faces(face))); })
                : std::nullopt;
    }
    for (const auto& [walls, turning] : {std::pair{0, false}, {2, false}, {2, true}}) {
        if (!parts) break;
        Followed moved(*parts, walls * std::fabs(plan.offset), {}, turning);
        if (moved.follow())
            return between(plan, *parts, step, moved,
                           [&](const TopoDS_Face& face) { return parts->before->namesOf(face); });
    }
    return noWall(plan.offset);
}

Result<Hollow> followedRound(const ShellPlan& plan, int step, double least, const JoinedWalls* joined) {
    const auto whole =
        joined
            ? planFor(joined->body, plan,
                      [&](int face) { return std::vector{joined->now[static_cast<std::size_t>(face) - 1]}; })
            : std::optional(plan);
    if (!whole) return noWall(plan.offset);
    const auto parted = partedAtFolds(*whole, least);
    if (parted && parted->rounds.empty()) return followedShell(plan, step, false);
    const auto piecesOf = [&](int face) { return parted->pieces[static_cast<std::size_t>(face) - 1]; };
    const auto parts = parted ? planFor(parted->body, *whole, piecesOf) : std::nullopt;
    if (!parts) return noWall(plan.offset);
    const auto namesOf = [&](const TopoDS_Face& piece) -> NameList {
        for (std::size_t wall = 0; joined && wall < joined->walls.size(); ++wall) {
            const auto pieces = piecesOf(whole->before->faces.FindIndex(joined->walls[wall]));
            if (std::any_of(pieces.begin(), pieces.end(), [&](const auto& p) { return p.IsSame(piece); }))
                return joined->namesOver(*plan.before, wall, piece);
        }
        return parts->before->namesOf(piece);
    };
    // Farther on a wall may close up on itself where it is bent more and more: then not so far.
    for (const auto& [walls, turning] : {std::pair{2.0, false}, {0.5, false}, {2.0, true}}) {
        Followed moved(*parts, walls * std::fabs(plan.offset), parted->rounds, turning);
        if (!moved.follow()) continue;
        Hollow out = between(plan, *parts, step, moved, namesOf);
        for (const auto& [face, round] : parted->rounds) out.round = std::max(out.round, round->radius());
        return out;
    }
    return noWall(plan.offset);
}

} // namespace gc
