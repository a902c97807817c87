#include "core/steps/loft/tie.hpp"

#include "core/document/drawing_hold.hpp"
#include "core/document/trace_source.hpp"
#include "core/shape/kernel.hpp"
#include "core/sketch/chain.hpp"
#include "core/steps/shared/find_traces.hpp"

namespace gc {

namespace {

/// The point of a chain of strokes that is nearest to a place, and how far that is.
std::pair<int, double> nearestPoint(const Outline& drawn, int stroke, const Vec3& place) {
    std::pair<int, double> best{0, 1e300};
    for (const ChainLink& l : chainOf(drawn.strokes, drawn.helpers, stroke).links) {
        const Stroke* s = drawn.drawing->findStroke(l.stroke);
        if (!s) continue;
        for (const int id : s->points) {
            const auto point = drawn.points.find(id);
            if (point == drawn.points.end()) continue;
            if (const double away = length(drawn.plane.at(point->second) - place); away < best.second)
                best = {id, away};
        }
    }
    return best;
}

} // namespace

std::optional<Remedy> tieFor(const std::string& guide, const gp_Pnt& at, double gap,
                             const LoftSection& section, int number, ModelReader& model) {
    const auto ref = parseEdgeRef(guide);
    if (!ref || ref->kind != EdgeRef::Kind::Chain || section.isPoint() || section.maker() == 0)
        return std::nullopt;
    const Outline* drawn = model.outline({ref->step, 0});
    if (!drawn || !drawn->drawing) return std::nullopt;
    const double near = 3 * gap + 1e-3;
    const auto [point, away] = nearestPoint(*drawn, ref->item, toVec(at));
    if (away > near) return std::nullopt;
    const double share = section.nearest(at).first;
    EdgeRef stroke;
    stroke.kind = EdgeRef::Kind::Stroke;
    stroke.step = section.maker();
    stroke.item = section.pieces()[section.pieceAt(share)].item;
    const auto traces =
        tracesOf(toText(TraceSource{TraceSource::Kind::Meeting, toText(stroke), {}}), drawn->plane, model);
    if (!traces) return std::nullopt;
    const Trace* best = nullptr;
    double least = near;
    for (const Trace& t : *traces)
        if (const double d = length(drawn->plane.at(t.at.front()) - toVec(at)); d < least)
            least = d, best = &t;
    if (!best) return std::nullopt;
    Remedy out;
    out.step = ref->step;
    out.slot = "drawing";
    out.value = toText(PointHold{point, *best});
    out.sentence = phrase("Meet section %1 here", std::to_string(number));
    out.tried = false;
    return out;
}

} // namespace gc
