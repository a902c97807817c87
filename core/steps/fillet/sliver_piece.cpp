#include "core/steps/fillet/sliver_piece.hpp"

#include "core/shape/extended_face.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

std::vector<SliverPiece> partedSliver(const SliverPiece& whole, const std::vector<SliverParting>& by) {
    if (by.empty()) return {whole};
    std::vector<TopoDS_Shape> tools;
    for (const SliverParting& p : by) tools.push_back(p.face);
    const auto splitter = splitBy(whole.solid, tools);
    if (!splitter) return {};
    const auto became = [&](const TopoDS_Shape& face) {
        auto now = toVector(splitter->Modified(face));
        if (now.empty()) now.push_back(face);
        return now;
    };
    std::vector<SliverPiece> out;
    for (TopExp_Explorer x(splitter->Shape(), TopAbs_SOLID); x.More(); x.Next()) {
        SliverPiece piece{x.Current(), {}, {}, {}};
        TopTools_IndexedMapOfShape faces;
        TopExp::MapShapes(piece.solid, TopAbs_FACE, faces);
        const auto keep = [&](const std::vector<TopoDS_Shape>& of, std::vector<TopoDS_Shape>& in) {
            for (const TopoDS_Shape& f : of)
                for (const TopoDS_Shape& g : became(f))
                    if (faces.Contains(g)) in.push_back(g);
        };
        keep(whole.ends, piece.ends);
        for (int i : {0, 1}) keep(whole.walls[i], piece.walls[i]);
        for (const auto& [f, names] : whole.called)
            for (const TopoDS_Shape& g : became(f))
                if (faces.Contains(g)) piece.called.emplace_back(g, names);
        for (const SliverParting& p : by)
            for (const TopoDS_Shape& g : became(p.face))
                if (faces.Contains(g)) piece.called.emplace_back(g, p.names);
        out.push_back(std::move(piece));
    }
    return out;
}

NamedTool sliverTool(const SliverPiece& piece, int step) {
    NamedTool tool;
    tool.shape = piece.solid;
    tool.step = step;
    for (const auto& [face, names] : piece.called)
        for (const NamePtr name : names) tool.names.emplace_back(face, name);
    return tool;
}

NamePtr sliverJoint(int step) {
    return internName(step, "fillet joint", {});
}

int facesNamed(const Body& body, NamePtr name) {
    const NamedShape& s = body.shape();
    int out = 0;
    for (int i = 1; i <= s.faces.Extent(); ++i) {
        const auto& names = s.namesOf(s.faces(i));
        out += std::find(names.begin(), names.end(), name) != names.end();
    }
    return out;
}

std::optional<SliverParting> continuedFace(const NamedShape& shape, const TopoDS_Shape& face, double by) {
    if (face.IsNull() || BRepAdaptor_Surface(TopoDS::Face(face), false).GetType() > GeomAbs_Torus)
        return std::nullopt;
    return SliverParting{extendedFace(TopoDS::Face(face), by), shape.namesOf(face)};
}

} // namespace gc
