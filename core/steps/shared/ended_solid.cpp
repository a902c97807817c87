#include "core/steps/shared/ended_solid.hpp"

#include "core/steps/shared/area_of.hpp"

#include <BRep_Builder.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_MapOfShape.hxx>

#include <algorithm>

namespace gc {

bool EndedSolid::split(const std::vector<TopoDS_Shape>& tools) {
    m_kept.clear();
    m_cut = splitBy(m_whole.solid, tools);
    return m_cut != nullptr;
}

bool EndedSolid::cutAround(const std::vector<TopoDS_Shape>& tools, const std::vector<gp_Pnt>& places) {
    if (!split(tools)) return false;
    for (TopExp_Explorer x(m_cut->Shape(), TopAbs_SOLID); x.More(); x.Next())
        if (holdsAny(x.Current(), places)) m_kept.push_back(x.Current());
    return !m_kept.empty();
}

std::optional<double> EndedSolid::cut(const std::vector<TopoDS_Shape>& tools) {
    if (!split(tools)) return std::nullopt;
    double open = 0;
    const auto starts = imagesOf(m_whole.start), fars = imagesOf(m_whole.end);
    TopTools_IndexedMapOfShape solids;
    TopExp::MapShapes(m_cut->Shape(), TopAbs_SOLID, solids);
    for (int i = 1; i <= solids.Extent(); ++i) {
        TopTools_IndexedMapOfShape faces;
        TopExp::MapShapes(solids(i), TopAbs_FACE, faces);
        const auto has = [&](const TopoDS_Shape& f) { return faces.Contains(f); };
        if (std::none_of(starts.begin(), starts.end(), has)) continue;
        m_kept.push_back(solids(i));
        for (const TopoDS_Shape& f : fars)
            if (has(f)) open += areaOf(f);
    }
    return open / areaOf(m_whole.end);
}

bool EndedSolid::keepsEnd() {
    TopTools_MapOfShape kept;
    for (const TopoDS_Shape& solid : m_kept) TopExp::MapShapes(solid, kept);
    for (const TopoDS_Shape& f : imagesOf(m_whole.end))
        if (kept.Contains(f)) return true;
    return false;
}

void EndedSolid::addWhole(int step, TopoDS_Compound& solids, NamedTool& tool) const {
    BRep_Builder().Add(solids, m_whole.solid);
    if (!m_whole.start.IsNull()) tool.names.emplace_back(m_whole.start, internName(step, "start"));
    if (!m_whole.end.IsNull()) tool.names.emplace_back(m_whole.end, internName(step, "end"));
    for (const auto& [face, role] : m_whole.sides) tool.names.emplace_back(face, internName(step, role));
}

void EndedSolid::addKept(int step, TopoDS_Compound& solids, NamedTool& tool,
                         const std::vector<TopoDS_Shape>& starts) {
    TopTools_MapOfShape kept, named;
    for (const TopoDS_Shape& solid : m_kept) {
        BRep_Builder().Add(solids, solid);
        TopExp::MapShapes(solid, kept);
    }
    const auto name = [&](const TopoDS_Shape& face, const std::string& role) {
        for (const TopoDS_Shape& now : imagesOf(face)) {
            if (!kept.Contains(now)) continue;
            named.Add(now);
            tool.names.emplace_back(now, internName(step, role));
        }
    };
    if (!m_whole.start.IsNull()) name(m_whole.start, "start");
    for (const auto& [face, role] : m_whole.sides) name(face, role);
    for (const TopoDS_Shape& start : starts)
        for (TopExp_Explorer x(start, TopAbs_FACE); x.More(); x.Next()) name(x.Current(), "start");
    for (const TopoDS_Shape& solid : m_kept)
        for (TopExp_Explorer x(solid, TopAbs_FACE); x.More(); x.Next())
            if (!named.Contains(x.Current())) tool.names.emplace_back(x.Current(), internName(step, "end"));
}

std::vector<TopoDS_Shape> EndedSolid::imagesOf(const TopoDS_Shape& face) {
    auto images = toVector(m_cut->Modified(face));
    if (images.empty() && !m_cut->IsDeleted(face)) images.push_back(face);
    return images;
}

} // namespace gc
