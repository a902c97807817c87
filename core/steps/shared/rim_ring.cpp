#include "core/steps/shared/rim_ring.hpp"

#include "core/shape/places.hpp"
#include "core/steps/shared/beside_line.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/exchanged.hpp"

#include <BRepBuilderAPI_Copy.hxx>
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
    bool plain = true;
    for (const int item : picked.items)
        for (TopExp_Explorer x(picked.body.shape().faces(item + 1), TopAbs_WIRE); x.More(); x.Next())
            plain &= isPlain(TopoDS::Wire(x.Current()));
    if (plain) return picked;
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
    static constexpr const char* kRoles[] = {" foot", " top", " wall", " side", " corner"};
    const char* role = kRoles[static_cast<int>(face.part)];
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

TopoDS_Face restOf(const Rim& rim, const std::vector<std::pair<TopoDS_Wire, TopoDS_Wire>>& lines) {
    const auto nowOf = [&](const TopoDS_Wire& border) {
        for (const auto& [was, now] : lines)
            if (was.IsSame(border)) return now;
        return border;
    };
    std::vector<TopoDS_Wire> inner;
    for (const TopoDS_Wire& w : rim.inner) inner.push_back(nowOf(w));
    return flatFace(rim.plane, nowOf(rim.outer), inner);
}

std::optional<Body> RingTool::setOntoRim() const {
    const Body& body = m_picked.body;
    FacesInstead instead{m_rim.face, {}};
    std::vector<std::pair<TopoDS_Wire, TopoDS_Wire>> lines;
    for (const Set& set : m_set) {
        lines.emplace_back(set.border, set.ring.farLine);
        for (const auto& f : set.ring.faces)
            if (f.part != RingPart::Foot) instead.faces.emplace_back(f.face, NameList{nameOf(f)});
    }
    instead.faces.emplace_back(restOf(m_rim, lines), body.shape().namesOf(m_rim.face));
    auto made = exchanged(body, {instead}, m_made.tool.step, m_rim.plane);
    return made && isCombined(body, whole(), *made, Combine::Add) ? made : std::nullopt;
}

Result<Body> RingTool::combined(Combine how) const {
    const bool onRim =
        std::all_of(m_set.begin(), m_set.end(), [](const Set& s) { return !s.ring.farLine.IsNull(); });
    if (how == Combine::Add && onRim)
        if (auto set = setOntoRim()) return *set;
    return combine(m_picked.body, whole(), how);
}

} // namespace gc
