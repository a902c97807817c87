#include "core/steps/loft/wall.hpp"

#include "core/sketch/chain.hpp"
#include "core/steps/shared/filling.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/profile.hpp"

#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>

namespace gc {

namespace {

/// The number at the end of "side 12"; whether the role says that it runs beside the stroke.
std::pair<int, bool> strokeOf(const std::vector<std::string>& roles) {
    if (roles.empty()) return {0, false};
    const std::string& role = roles.front();
    const auto space = role.rfind(' ');
    return {space == std::string::npos ? 0 : std::atoi(role.c_str() + space + 1), role.starts_with("far")};
}

LoftSection lineOf(const TopoDS_Wire& wire, const Profile& profile, const std::string& said, int maker) {
    std::vector<PathPiece> pieces;
    bool far = false;
    for (BRepTools_WireExplorer x(wire, TopoDS::Face(profile.face.Oriented(TopAbs_FORWARD))); x.More();
         x.Next()) {
        int item = 0;
        for (const ProfileEdge& e : profile.edges)
            if (e.edge.IsSame(x.Current())) std::tie(item, far) = strokeOf(e.roles);
        pieces.push_back({LengthCurve::of(x.Current()), item});
    }
    LoftSection out(said, maker, std::move(pieces), {});
    return far ? out.besideDrawing() : out;
}

} // namespace

Result<std::vector<LoftSection>> wallSection(const std::string& reference, int number, double thickness,
                                             WallSide side, ModelReader& model) {
    const auto ref = parseEdgeRef(reference);
    const Outline* drawn = ref ? model.outline({ref->step, 0}) : nullptr;
    if (ref && !drawn && ref->kind == EdgeRef::Kind::Chain) return notDrawn(reference, ref->step);
    const Chain chain = drawn ? chainOf(drawn->strokes, drawn->helpers, ref->item) : Chain();
    const auto no = [&](Message sentence) {
        Error e = errorOf("loft.wall", std::move(sentence));
        e.culprits = {reference};
        return e;
    };
    if (!drawn || !drawn->drawing || ref->kind != EdgeRef::Kind::Chain || !chain.closed)
        return no(
            phrase("Section %1 is no closed drawing, so no wall runs along it. Loft it filled, and hollow it "
                   "with a shell.",
                   std::to_string(number)));
    Drawing only = *drawn->drawing;
    for (Stroke& s : only.strokes)
        s.helper = s.helper || std::none_of(chain.links.begin(), chain.links.end(),
                                            [&](const ChainLink& l) { return l.stroke == s.id; });
    const auto wall = thinWallOf(only, thickness, side);
    if (!wall) return wall.error();
    if (wall->regions.size() != 1 || wall->regions.front().holes.size() != 1)
        return no(phrase("A wall of this thickness has no inside at section %1. Make it thinner.",
                         std::to_string(number)));
    const Outline walled = withWall(*drawn, *wall, side);
    const auto made = guarded("loft.wall",
                              phrase("A wall of this thickness cannot be laid along section %1. Make it "
                                     "thinner, or its corners rounder.",
                                     std::to_string(number)),
                              [&]() -> Result<Profile> { return profileOf(walled, walled.regions.front()); });
    if (!made) return made.error();
    const Profile& profile = *made;
    const TopoDS_Face ahead = TopoDS::Face(profile.face.Oriented(TopAbs_FORWARD));
    const TopoDS_Wire outer = BRepTools::OuterWire(ahead);
    std::vector<LoftSection> out{lineOf(outer, profile, reference, ref->step)};
    for (TopExp_Explorer x(ahead, TopAbs_WIRE); x.More(); x.Next())
        if (!x.Current().IsSame(outer))
            out.push_back(lineOf(TopoDS::Wire(x.Current()), profile, reference, ref->step));
    return out;
}

} // namespace gc
