#include "core/steps/shared/rim_ring.hpp"

#include "core/shape/places.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/exchanged.hpp"

#include <BRepBuilderAPI_Copy.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

namespace {

NamePtr wallBeside(const Body& body, const TopoDS_Face& rim, const TopoDS_Edge& edge) {
    for (const TopoDS_Shape& f : facesBeside(body.shape(), edge))
        if (!f.IsSame(rim) && !body.shape().namesOf(f).empty()) return body.shape().namesOf(f).front();
    return body.shape().namesOf(rim).front();
}

} // namespace

Result<FoundItems> onOwnEdges(const FoundItems& picked) {
    BRepBuilderAPI_Copy copy(picked.body.shape().shape, false, false);
    NameBuilder names(copy.Shape());
    names.carry(picked.body.shape(), copy);
    auto body = names.finish();
    if (!body) return body.error();
    FoundItems out = picked;
    out.body = std::move(*body);
    return out;
}

Result<Rim> rimOf(const FoundItems& picked) {
    if (picked.items.size() != 1)
        return errorOf("rim.one", "The rim that was picked is several faces. Pick one of them.");
    const auto plane = planeOfFace(picked.body, picked.items.front());
    if (!plane) return errorOf("rim.flat", "The rim that was picked is not flat. Pick a flat one.");
    Rim out;
    out.face = TopoDS::Face(picked.body.shape().faces(picked.items.front() + 1));
    out.plane = *plane;
    out.outer = BRepTools::OuterWire(out.face);
    for (TopExp_Explorer x(out.face, TopAbs_WIRE); x.More(); x.Next())
        if (!x.Current().IsSame(out.outer)) out.inner.push_back(TopoDS::Wire(x.Current()));
    return out;
}

NamePtr ringName(const FoundItems& picked, const Rim& rim, int step, const std::string& kind,
                 const RingSolid::Face& face) {
    const NamePtr by = face.along.IsNull() ? picked.body.shape().namesOf(rim.face).front()
                                           : wallBeside(picked.body, rim.face, face.along);
    const char* role = " corner";
    switch (face.part) {
    case RingPart::Foot:
        role = " foot";
        break;
    case RingPart::Top:
        role = " top";
        break;
    case RingPart::Wall:
        role = " wall";
        break;
    case RingPart::Side:
        role = " side";
        break;
    case RingPart::Corner:
        break;
    }
    return internName(step, kind + role, {by});
}

RingTool::RingTool(const FoundItems& picked, const Rim& rim, int step, std::string kind)
    : m_picked(picked), m_rim(rim), m_kind(std::move(kind)), m_made(step, rim.plane) {}

Result<Done> RingTool::add(const TopoDS_Wire& border, const RingWish& wish) {
    auto ring = ringSolid(border, m_rim.plane, wish);
    if (!ring) return ring.error();
    m_leans &= ring->leans;
    BRep_Builder().Add(m_made.solids, ring->solid);
    for (const auto& f : ring->faces) m_made.tool.names.emplace_back(f.face, nameOf(f));
    m_set.push_back({border, std::move(*ring)});
    return Done{};
}

std::optional<Body> RingTool::setOntoRim() const {
    const Body& body = m_picked.body;
    NamedTool out = toolOf(body, m_made.tool.step);
    const NamePtr rimName = body.shape().namesOf(m_rim.face).front();
    std::vector<TopoDS_Shape> instead;
    std::vector<std::pair<TopoDS_Shape, NamePtr>> names;
    TopoDS_Wire outer = m_rim.outer;
    std::vector<TopoDS_Wire> inner = m_rim.inner;
    for (const Set& set : m_set) {
        for (const auto& f : set.ring.faces)
            if (f.part != RingPart::Foot) instead.push_back(f.face), names.emplace_back(f.face, nameOf(f));
        if (set.border.IsSame(outer)) outer = set.ring.farLine;
        std::replace_if(
            inner.begin(), inner.end(), [&](const TopoDS_Wire& w) { return w.IsSame(set.border); },
            set.ring.farLine);
    }
    const TopoDS_Face rest = flatFace(m_rim.plane, outer, inner);
    instead.push_back(rest), names.emplace_back(rest, rimName);
    const auto solid = withInstead(body.shape().shape, m_rim.face, instead);
    if (!solid || !BRepCheck_Analyzer(*solid).IsValid()) return std::nullopt;
    out.shape = *solid;
    std::erase_if(out.names, [&](const auto& n) { return n.first.IsSame(m_rim.face); });
    out.names.insert(out.names.end(), names.begin(), names.end());
    const auto made = bodyOf(out);
    return made ? std::optional(*made) : std::nullopt;
}

Result<Body> RingTool::combined(Combine how) const {
    const bool onRim =
        std::all_of(m_set.begin(), m_set.end(), [](const Set& s) { return !s.ring.farLine.IsNull(); });
    if (how == Combine::Add && onRim)
        if (auto set = setOntoRim()) return *set;
    return combine(m_picked.body, whole(), how);
}

} // namespace gc
