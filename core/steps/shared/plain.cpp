#include "core/steps/shared/plain.hpp"

#include "core/shape/kernel.hpp"
#include "core/steps/shared/swept_faces.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepOffsetAPI_MakePipe.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

namespace {

/// In the direction of the walk, from vertex to vertex.
TopoDS_Edge edgeOfPiece(const LengthCurve& c, const TopoDS_Vertex& from, const TopoDS_Vertex& to) {
    if (c.to() > c.from()) return BRepBuilderAPI_MakeEdge(c.curve(), from, to, c.from(), c.to()).Edge();
    const Handle(Geom_Curve) back = c.curve()->Reversed();
    return BRepBuilderAPI_MakeEdge(back, from, to, c.curve()->ReversedParameter(c.from()),
                                   c.curve()->ReversedParameter(c.to()))
        .Edge();
}

} // namespace

bool isPlain(const std::vector<PathPiece>& pieces) {
    return std::all_of(pieces.begin(), pieces.end(),
                       [](const PathPiece& p) { return p.curve.isStraight() || p.curve.isRound(); });
}

std::optional<Swept> plainSweep(const Profile& profile, const std::vector<PathPiece>& pieces, bool closed) {
    std::vector<TopoDS_Vertex> corners;
    BRep_Builder builder;
    for (std::size_t i = 0; i < pieces.size() + (closed ? 0 : 1); ++i) {
        TopoDS_Vertex v;
        const gp_Pnt at = i < pieces.size() ? pieces[i].curve.start() : pieces.back().curve.end();
        builder.MakeVertex(v, at, 1e-5);
        corners.push_back(v);
    }
    BRepBuilderAPI_MakeWire wire;
    std::vector<TopoDS_Edge> spine;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        wire.Add(edgeOfPiece(pieces[i].curve, corners[i], corners[(i + 1) % corners.size()]));
        spine.push_back(wire.Edge());
    }
    BRepOffsetAPI_MakePipe pipe(wire.Wire(), profile.face);
    if (!pipe.IsDone()) return std::nullopt;
    Swept out;
    out.solid = onlySolid(pipe.Shape());
    if (out.solid.ShapeType() != TopAbs_SOLID || !BRepCheck_Analyzer(out.solid).IsValid())
        return std::nullopt;
    int faces = 0, named = 0;
    for (TopExp_Explorer x(out.solid, TopAbs_FACE); x.More(); x.Next()) ++faces;
    for (const ProfileEdge& e : profile.edges)
        for (std::size_t i = 0; i < spine.size(); ++i) {
            const TopoDS_Shape face = pipe.Generated(spine[i], e.edge);
            if (face.IsNull() || face.ShapeType() != TopAbs_FACE) continue;
            ++named;
            for (const std::string& role : e.roles)
                out.sides.emplace_back(face, sweptRole(role, pieces[i].item));
        }
    if (!closed) {
        if (pipe.FirstShape().ShapeType() != TopAbs_FACE || pipe.LastShape().ShapeType() != TopAbs_FACE)
            return std::nullopt;
        out.start = TopoDS::Face(pipe.FirstShape());
        out.end = TopoDS::Face(pipe.LastShape());
        named += 2;
    }
    if (named != faces) return std::nullopt;
    return out;
}

} // namespace gc
