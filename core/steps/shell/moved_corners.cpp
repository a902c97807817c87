// Where the corners of a body go when its faces are moved: three faces meet again in one place, four as a
// rule do not.

#include "core/steps/shell/followed.hpp"

#include "core/base/tolerance.hpp"

#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

TopoDS_Vertex& vertexOf(const BorderEnd& end) {
    return end.first->ends[end.second ? 1 : 0];
}

struct Corner {
    TopoDS_Vertex old;
    std::vector<const MovedFace*> faces;
    std::vector<BorderEnd> ends;

    /// It, on each of some of its faces.
    std::vector<gp_Pnt2d> on(const std::vector<const MovedFace*>& some) const {
        std::vector<gp_Pnt2d> out;
        for (const MovedFace* f : some) out.push_back(BRep_Tool::Parameters(old, f->face));
        return out;
    }
    /// The end of the border between two faces; null where they have none here.
    const BorderEnd* between(const MovedFace* f, const MovedFace* g) const {
        const auto end = std::find_if(ends.begin(), ends.end(), [&](const BorderEnd& e) {
            const auto& beside = e.first->moves->faces();
            return (beside[0] == f && beside[1] == g) || (beside[0] == g && beside[1] == f);
        });
        return end == ends.end() ? nullptr : &*end;
    }
};

/// Where two of some faces run on from each other, along their border to the others.
std::optional<gp_Pnt> alongSmoothest(const BorderEnd& end, const std::vector<const MovedFace*>& faces,
                                     const std::vector<gp_Pnt2d>& uv) {
    const MovedBorder& border = *end.first->moves;
    gp_XYZ sum;
    int met = 0;
    for (std::size_t i = 0; i < faces.size(); ++i) {
        if (faces[i] == border.faces()[0] || faces[i] == border.faces()[1]) continue;
        const auto there = border.alongTo(*faces[i], end.second, uv[i]);
        if (!there) return std::nullopt;
        sum += there->XYZ();
        ++met;
    }
    if (met > 0) return gp_Pnt(sum / met);
    const auto there = border.place(end.second ? border.last() : border.first());
    return there ? std::optional(there->at) : std::nullopt;
}

/// As near to all of some faces as can be, by Newton's method.
std::optional<gp_Pnt> nearestToAll(const std::vector<const MovedFace*>& faces, gp_Pnt at,
                                   std::vector<gp_Pnt2d> uv) {
    constexpr int kSteps = 40;
    for (int step = 0; step < kSteps; ++step) {
        const auto wanted = wantedBeside(faces, at, uv);
        if (!wanted) return std::nullopt;
        const gp_Vec moves = wanted->leastStep();
        at.Translate(moves);
        if (moves.Magnitude() < kMet / 10) return at;
    }
    return std::nullopt;
}

Corner cornerOf(const TopoDS_Vertex& old, const NamedShape& shape, const std::vector<MovedFace>& faces,
                std::deque<FollowedBorder>& borders) {
    Corner out{old, {}, {}};
    for (const TopoDS_Shape& f : toVector(shape.facesOfVertex.FindFromKey(old))) {
        const MovedFace* face = &faces[static_cast<std::size_t>(shape.faces.FindIndex(f)) - 1];
        if (std::find(out.faces.begin(), out.faces.end(), face) == out.faces.end()) out.faces.push_back(face);
    }
    for (FollowedBorder& b : borders)
        for (const bool end : {false, true})
            if (cornerBefore(b, end).IsSame(old)) out.ends.emplace_back(&b, end);
    return out;
}

TopoDS_Vertex vertexAt(const MovedCorner& moved) {
    TopoDS_Vertex now;
    BRep_Builder().MakeVertex(now, moved.at, kKernelPoint + moved.off);
    return now;
}

/// Where some of the faces of a corner meet.
std::optional<MovedCorner> meet(const Corner& corner, const std::vector<const MovedFace*>& faces) {
    const auto among = [&](const MovedFace* f) {
        return std::find(faces.begin(), faces.end(), f) != faces.end();
    };
    std::vector<BorderEnd> ends;
    for (const BorderEnd& e : corner.ends)
        if (among(e.first->moves->faces()[0]) && among(e.first->moves->faces()[1])) ends.push_back(e);
    if (ends.empty()) return std::nullopt;
    return movedCorner(BRep_Tool::Pnt(corner.old), faces, corner.on(faces), ends);
}

/// Two walls that close up, one on top of the other: moved, their seams no longer meet. Then one of them
/// ends on the border between the walls. \param least mm
bool seamsComeApart(const Corner& corner, double least) {
    if (corner.faces.size() != 2) return false;
    std::vector<BorderEnd> seams;
    FollowedBorder* round = nullptr;
    for (const BorderEnd& end : corner.ends)
        if (end.first->faces[0] == end.first->faces[1])
            seams.push_back(end);
        else
            round = end.first;
    if (!round || seams.size() != 2 || seams[0].first->faces[0] == seams[1].first->faces[0]) return false;
    std::optional<MovedCorner> ends[2];
    for (std::size_t i = 0; i < 2; ++i) {
        ends[i] = movedCorner(BRep_Tool::Pnt(corner.old), corner.faces, corner.on(corner.faces), {seams[i]});
        if (!ends[i]) return false;
    }
    if (ends[0]->at.Distance(ends[1]->at) < least) return false;
    for (std::size_t i = 0; i < 2; ++i) vertexOf(seams[i]) = vertexAt(*ends[i]);
    round->ends[0] = round->ends[1] = vertexOf(seams[0]);
    round->via.push_back(vertexOf(seams[1]));
    return true;
}

/// The way along a border at a corner where it ends, away from the corner.
gp_Vec awayAlong(const BorderEnd& end) {
    gp_Pnt place;
    gp_Vec way;
    const MovedBorder& b = *end.first->moves;
    b.along(end.second ? b.last() : b.first(), place, way);
    return way.Normalized() * (end.second ? -1 : 1);
}

/// The four faces of a corner in their order round it; nothing where it has other than four.
std::vector<const MovedFace*> roundCorner(const Corner& corner) {
    if (corner.faces.size() != 4 || corner.ends.size() != 4) return {};
    std::vector<const MovedFace*> out{corner.faces[0]};
    while (out.size() < 4) {
        const auto next = std::find_if(corner.faces.begin(), corner.faces.end(), [&](const MovedFace* f) {
            return std::find(out.begin(), out.end(), f) == out.end() && corner.between(out.back(), f);
        });
        if (next == corner.faces.end()) return {};
        out.push_back(*next);
    }
    return corner.between(out[3], out[0]) ? out : std::vector<const MovedFace*>{};
}

/// Two faces across a corner that meet, and where that border ends at the other two.
struct Across {
    const MovedFace *one, *left, *other, *right;
    MovedCorner a, b; ///< to the left, to the right

    /// mm. How far the new border goes on from one old border to the other in a face: it is x in + y out, as
    /// nearly as can be, and this is x + y.
    double goesOn(const Corner& corner, const MovedFace* face) const {
        constexpr double kBack = -0.9; // cosine: old borders that nearly turn back
        const gp_Vec in = -awayAlong(*corner.between(face, left)),
                     out = awayAlong(*corner.between(face, right));
        return gp_Vec(a.at, b.at) * (in + out) / (1 + std::max(in * out, kBack));
    }
    double goesOn(const Corner& corner) const { return std::min(goesOn(corner, one), goesOn(corner, other)); }
};

/// Four faces round a corner, moved, meet in one place only by chance: two that lay across from each
/// other meet, the other two no more. Which of the two pairs it is, is told by the new border: in both of
/// its faces it goes on from one old border to the other rather than back. \param least mm: nearer places
/// are taken for one
bool comesApart(const Corner& corner, double least, std::deque<ApartCorner>& apart) {
    const auto round = roundCorner(corner);
    if (round.empty()) return false;
    std::optional<Across> best;
    for (std::size_t k = 0; k < 2; ++k) {
        const MovedFace *one = round[k], *left = round[k + 1], *other = round[k + 2],
                        *right = round[(k + 3) % 4];
        const auto a = meet(corner, {one, left, other}), b = meet(corner, {one, other, right});
        if (!a || !b) continue;
        const Across way{one, left, other, right, *a, *b};
        if (!best || way.goesOn(corner) > best->goesOn(corner)) best = way;
    }
    if (!best) return false;
    const bool isOne = best->a.at.Distance(best->b.at) < least;
    const TopoDS_Vertex a = vertexAt(best->a), b = isOne ? a : vertexAt(best->b);
    for (const MovedFace* f : {best->one, best->other}) {
        vertexOf(*corner.between(f, best->left)) = a;
        vertexOf(*corner.between(f, best->right)) = b;
    }
    if (!isOne) apart.push_back({corner.old, {a, b}, {best->one, best->other}, {}});
    return true;
}

} // namespace

TopoDS_Vertex cornerBefore(const FollowedBorder& border, bool end) {
    return end ? TopExp::LastVertex(border.edge) : TopExp::FirstVertex(border.edge);
}

std::optional<MovedCorner> movedCorner(const gp_Pnt& near, const std::vector<const MovedFace*>& faces,
                                       const std::vector<gp_Pnt2d>& uv, const std::vector<BorderEnd>& ends) {
    constexpr double kFades = 0.1; // rad
    const auto about = faces.size() < 3 ? std::nullopt : nearestToAll(faces, near, uv);
    // Of a border at its corner, and at where that goes: it may fade, or come up, on the way.
    const auto kinkOf = [&](const BorderEnd& e) {
        const MovedBorder& border = *e.first->moves;
        const double here = border.kinkAt(e.second), end = e.second ? border.last() : border.first();
        const auto to = about ? border.parameterAt(*about, end) : std::nullopt;
        if (!to) return here;
        return std::min(here, border.kinkHere(std::clamp(*to, border.first(), border.last())));
    };
    const BorderEnd& smoothest =
        *std::min_element(ends.begin(), ends.end(),
                          [&](const BorderEnd& a, const BorderEnd& b) { return kinkOf(a) < kinkOf(b); });
    const auto at =
        kinkOf(smoothest) < kFades || faces.size() < 3 ? alongSmoothest(smoothest, faces, uv) : about;
    std::vector<gp_Pnt2d> there = uv;
    const auto left = at ? wantedBeside(faces, *at, there) : std::nullopt;
    if (!left || left->aside > kAside) return std::nullopt;
    return MovedCorner{*at, left->most()};
}

bool moveCorners(const NamedShape& shape, const std::vector<MovedFace>& faces,
                 std::deque<FollowedBorder>& borders, std::deque<ApartCorner>& apart, double wall) {
    constexpr double kOne = 0.002; // of the wall: nearer places are taken for one
    for (int i = 1; i <= shape.facesOfVertex.Extent(); ++i) {
        const Corner corner = cornerOf(TopoDS::Vertex(shape.facesOfVertex.FindKey(i)), shape, faces, borders);
        if (seamsComeApart(corner, kOne * wall)) continue;
        if (comesApart(corner, kOne * wall, apart)) continue;
        const auto moved = meet(corner, corner.faces);
        if (!moved || moved->off > kMovedShare * wall) return false;
        const TopoDS_Vertex now = vertexAt(*moved);
        for (const BorderEnd& end : corner.ends) vertexOf(end) = now;
    }
    return true;
}

} // namespace gc
