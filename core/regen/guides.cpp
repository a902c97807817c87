#include "core/regen/guides.hpp"

#include "core/document/planes.hpp"
#include "core/steps/draw/find_traces.hpp"
#include "core/steps/find_place.hpp"

namespace gc {

std::vector<PlaneGuide> planeGuides(const ModelState& state) {
    std::vector<PlaneGuide> out;
    for (const char* name : kFixedPlanes) out.push_back({name, *fixedPlane(name)});
    for (const auto& [name, made] : state.planes) out.push_back({name, made->plane});
    return out;
}

std::vector<DrawingGuide> drawingGuides(const ModelState& state) {
    constexpr double kWithin = 0.02; // mm
    std::vector<DrawingGuide> out;
    for (const auto& [name, outline] : state.outlines) {
        if (outline->wall.curve.poleCount() > 0) continue; // stations are no drawing
        DrawingGuide g{outline->step, outline->plane, {}};
        for (const auto& [id, curves] : outline->strokes) {
            EdgeRef ref;
            ref.kind = EdgeRef::Kind::Stroke;
            ref.step = outline->step;
            ref.item = id;
            StrokeGuide s{toText(ref), {}};
            for (const Curve2& c : curves)
                for (const Vec2 p : c.sampled(kWithin)) s.points.push_back(outline->plane.at(p));
            if (!s.points.empty()) g.strokes.push_back(std::move(s));
        }
        out.push_back(std::move(g));
    }
    return out;
}

std::vector<PlaceOnBody> pickablePlaces(const ModelState& state) {
    std::vector<PlaceOnBody> out;
    for (const auto& [name, body] : state.bodies) {
        const auto some = placesOn(body);
        out.insert(out.end(), some.begin(), some.end());
    }
    for (const auto& [name, outline] : state.outlines)
        for (const auto& [id, at] : outline->points) {
            PointRef ref;
            ref.kind = PointRef::Kind::Drawn;
            ref.step = outline->step;
            ref.item = id;
            out.push_back({outline->plane.at(at), {toText(ref)}});
        }
    return out;
}

std::vector<Trace> followable(const Part& part, const RegenResult& built, int step) {
    const Step* drawn = part.findStep(step);
    const auto place = static_cast<std::size_t>(part.placeOf(step));
    if (!drawn || drawn->kind != "draw" || place == 0 || place > built.before.size()) return {};
    const ModelState& state = built.before[place - 1];
    const auto plane = findPlane(drawn->text("plane"), state);
    if (!plane) return {};
    return allTraces(asItLies(*plane, drawn->text("seen"), drawn->text("up")), state);
}

} // namespace gc
