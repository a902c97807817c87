// The wires of moved faces: every edge where the one was that became it, and between them those that were not
// there before.

#include "core/steps/shell/followed.hpp"

#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>

#include <algorithm>

namespace gc {

std::vector<TopoDS_Edge> Followed::piecesFrom(const FollowedBorder& border, const MovedFace& face,
                                              bool forward) const {
    std::vector<TopoDS_Edge> out = border.now;
    const auto endsAt = [&](const TopoDS_Vertex& v) {
        return std::any_of(m_borders.begin(), m_borders.end(), [&](const FollowedBorder& seam) {
            return seam.faces[0] == seam.faces[1] && &faceOf(seam, 0) == &face &&
                   (seam.ends[0].IsSame(v) || seam.ends[1].IsSame(v));
        });
    };
    if (!border.via.empty() && endsAt(border.via.front()))
        std::rotate(out.begin(), out.begin() + 1, out.end());
    if (!forward) std::reverse(out.begin(), out.end());
    return out;
}

void Followed::addNewFrom(TopoDS_Vertex here, const MovedFace& face, TopoDS_Wire& wire) const {
    struct Fresh {
        TopoDS_Edge edge;
        TopoDS_Vertex ends[2];
    };
    std::vector<Fresh> left;
    for (const ApartCorner& a : m_apart)
        if (a.faces[0] == &face || a.faces[1] == &face) left.push_back({a.between, {a.at[0], a.at[1]}});
    for (const FollowedBorder& b : m_borders)
        if (b.edge.IsNull() && !b.gone && (&faceOf(b, 0) == &face || &faceOf(b, 1) == &face))
            left.push_back({b.now.front(), {b.ends[0], b.ends[1]}});
    while (true) {
        const auto next = std::find_if(left.begin(), left.end(), [&](const Fresh& f) {
            return f.ends[0].IsSame(here) || f.ends[1].IsSame(here);
        });
        if (next == left.end()) return;
        const bool forward = next->ends[0].IsSame(here);
        m_build.Add(wire, next->edge.Oriented(forward ? TopAbs_FORWARD : TopAbs_REVERSED));
        here = next->ends[forward ? 1 : 0];
        left.erase(next);
    }
}

TopoDS_Shape Followed::movedWire(const TopoDS_Wire& before, const MovedFace& face) const {
    TopoDS_Wire wire;
    m_build.MakeWire(wire);
    for (TopoDS_Iterator e(before.Oriented(TopAbs_FORWARD)); e.More(); e.Next()) {
        const FollowedBorder& border =
            *std::find_if(m_borders.begin(), m_borders.end(),
                          [&](const FollowedBorder& b) { return b.edge.IsSame(e.Value()); });
        if (border.gone) continue;
        const bool forward = e.Value().Orientation() == TopAbs_FORWARD;
        for (const TopoDS_Edge& piece : piecesFrom(border, face, forward))
            m_build.Add(wire, piece.Oriented(e.Value().Orientation()));
        addNewFrom(border.ends[forward ? 1 : 0], face, wire);
    }
    wire.Closed(true);
    return wire.Oriented(before.Orientation());
}

} // namespace gc
