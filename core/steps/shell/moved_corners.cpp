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

struct Corner {
    TopoDS_Vertex old;
    std::vector<const MovedFace*> faces;
    std::vector<std::pair<FollowedBorder*, bool>> ends;
};

Corner cornerOf(const TopoDS_Vertex& old, const NamedShape& shape, const std::vector<MovedFace>& faces,
                std::deque<FollowedBorder>& borders) {
    Corner out{old, {}, {}};
    for (const TopoDS_Shape& f : toVector(shape.facesOfVertex.FindFromKey(old))) {
        const MovedFace* face = &faces[static_cast<std::size_t>(shape.faces.FindIndex(f)) - 1];
        if (std::find(out.faces.begin(), out.faces.end(), face) == out.faces.end()) out.faces.push_back(face);
    }
    for (FollowedBorder& b : borders)
        for (const bool end : {false, true})
            if ((end ? TopExp::LastVertex(b.edge) : TopExp::FirstVertex(b.edge)).IsSame(old))
                out.ends.emplace_back(&b, end);
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
    std::vector<std::pair<const MovedBorder*, bool>> ends;
    for (const auto& [border, end] : corner.ends)
        if (among(border->moves->faces()[0]) && among(border->moves->faces()[1]))
            ends.emplace_back(&*border->moves, end);
    if (ends.empty()) return std::nullopt;
    return movedCorner(corner.old, faces, ends);
}

/// Two walls that close up, one on top of the other: moved, their seams no longer meet. Then one of them
/// ends on the border between the walls. \param least mm
bool seamsComeApart(const Corner& corner, double least) {
    if (corner.faces.size() != 2) return false;
    std::vector<std::pair<FollowedBorder*, bool>> seams;
    FollowedBorder* round = nullptr;
    for (const auto& end : corner.ends)
        if (end.first->faces[0] == end.first->faces[1])
            seams.push_back(end);
        else
            round = end.first;
    if (!round || seams.size() != 2 || seams[0].first->faces[0] == seams[1].first->faces[0]) return false;
    std::optional<MovedCorner> ends[2];
    for (std::size_t i = 0; i < 2; ++i) {
        ends[i] = movedCorner(corner.old, corner.faces, {{&*seams[i].first->moves, seams[i].second}});
        if (!ends[i]) return false;
    }
    if (ends[0]->at.Distance(ends[1]->at) < least) return false;
    for (std::size_t i = 0; i < 2; ++i) seams[i].first->ends[seams[i].second ? 1 : 0] = vertexAt(*ends[i]);
    round->ends[0] = round->ends[1] = seams[0].first->ends[seams[0].second ? 1 : 0];
    round->via.push_back(seams[1].first->ends[seams[1].second ? 1 : 0]);
    return true;
}

/// The way along a border at a corner where it ends, away from the corner.
gp_Vec awayAlong(const std::pair<FollowedBorder*, bool>& end) {
    gp_Pnt place;
    gp_Vec way;
    const MovedBorder& b = *end.first->moves;
    b.along(end.second ? b.last() : b.first(), place, way);
    return way.Normalized() * (end.second ? -1 : 1);
}

/// Four faces round a corner, moved, meet in one place only by chance: two that lay across from each
/// other meet, the other two no more. Which of the two pairs it is, is told by the new border: in both of
/// its faces it goes on from one old border to the other rather than back. \param least mm: nearer places
/// are taken for one
bool comesApart(const Corner& corner, double least, std::deque<ApartCorner>& apart) {
    if (corner.faces.size() != 4 || corner.ends.size() != 4) return false;
    const auto between = [&](const MovedFace* f,
                             const MovedFace* g) -> const std::pair<FollowedBorder*, bool>* {
        for (const auto& end : corner.ends) {
            const auto& beside = end.first->moves->faces();
            if ((beside[0] == f && beside[1] == g) || (beside[0] == g && beside[1] == f)) return &end;
        }
        return nullptr;
    };
    // In their order round the corner.
    std::vector<const MovedFace*> round{corner.faces[0]};
    while (round.size() < 4) {
        const auto next = std::find_if(corner.faces.begin(), corner.faces.end(), [&](const MovedFace* f) {
            return std::find(round.begin(), round.end(), f) == round.end() && between(round.back(), f);
        });
        if (next == corner.faces.end()) return false;
        round.push_back(*next);
    }
    if (!between(round[3], round[0])) return false;
    struct Way {
        const MovedFace *one, *left, *other, *right;
        MovedCorner a, b;
    };
    std::optional<Way> best;
    double most = 0;
    for (std::size_t k = 0; k < 2; ++k) {
        const MovedFace *one = round[k], *left = round[k + 1], *other = round[k + 2],
                        *right = round[(k + 3) % 4];
        const auto a = meet(corner, {one, left, other}), b = meet(corner, {one, other, right});
        if (!a || !b) continue;
        const gp_Vec goes(a->at, b->at);
        // goes = x in + y out in a face, as nearly as can be: how far it goes on.
        const auto goesOn = [&](const MovedFace* f) {
            const gp_Vec in = -awayAlong(*between(f, left)), out = awayAlong(*between(f, right));
            return goes * (in + out) / (1 + std::max(in * out, -0.9));
        };
        const double on = std::min(goesOn(one), goesOn(other));
        if (best && on <= most) continue;
        most = on;
        best = Way{one, left, other, right, *a, *b};
    }
    if (!best) return false;
    if (best->a.at.Distance(best->b.at) < least) {
        const TopoDS_Vertex one = vertexAt(best->a);
        for (const auto& [border, end] : corner.ends) border->ends[end ? 1 : 0] = one;
        return true;
    }
    ApartCorner parts{corner.old, {vertexAt(best->a), vertexAt(best->b)}, {best->one, best->other}, {}};
    for (const MovedFace* f : {best->one, best->other})
        for (const bool second : {false, true}) {
            const auto& end = *between(f, second ? best->right : best->left);
            end.first->ends[end.second ? 1 : 0] = parts.at[second ? 1 : 0];
        }
    apart.push_back(parts);
    return true;
}

} // namespace

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
        for (const auto& [border, end] : corner.ends) border->ends[end ? 1 : 0] = now;
    }
    return true;
}

} // namespace gc
