#include "core/regen/guides.hpp"

#include "core/document/areas.hpp"
#include "core/document/planes.hpp"
#include "core/sketch/chain.hpp"
#include "core/steps/shared/find_place.hpp"
#include "core/steps/shared/find_traces.hpp"

namespace gc {

std::vector<PlaneGuide> planeGuides(const ModelState& state) {
    std::vector<PlaneGuide> out;
    for (const char* name : kFixedPlanes) out.push_back({name, *fixedPlane(name)});
    for (const auto& [id, made] : state.planes) out.push_back({made.name, made.value});
    return out;
}

std::vector<AxisGuide> axisGuides(const ModelState& state) {
    constexpr double kBeyond = 0.15, kAlone = 40; // of the length on each side; mm, where there is no body
    std::vector<AxisGuide> out;
    for (const auto& [id, made] : state.axes) {
        const Axis& a = made.value;
        double low = 1e300, high = -1e300;
        for (const auto& [body, entity] : state.bodies) {
            const Box box = looseEnvelope(entity.value);
            for (int k = 0; k < 8; ++k) {
                const Vec3 corner{k & 1 ? box.high.x : box.low.x, k & 2 ? box.high.y : box.low.y,
                                  k & 4 ? box.high.z : box.low.z};
                const double along = dot(corner - a.origin, a.direction);
                low = std::min(low, along), high = std::max(high, along);
            }
        }
        if (low > high) low = -kAlone, high = kAlone;
        const double more = kBeyond * (high - low);
        out.push_back(
            {made.name, a.origin + a.direction * (low - more), a.origin + a.direction * (high + more)});
    }
    return out;
}

namespace {

constexpr double kWithin = 0.02; // mm

std::vector<Vec3> polylineOf(const Loop& loop, const Plane& plane) {
    std::vector<Vec3> out;
    for (const Side& s : loop.sides)
        for (const Vec2 p : s.curve.sampled(kWithin)) out.push_back(plane.at(p));
    return out;
}

AreaGuide areaGuide(const Region& r, const Plane& plane) {
    AreaGuide g{areaText({r.marks}), {polylineOf(r.outer, plane)}};
    for (const Loop& hole : r.holes) g.loops.push_back(polylineOf(hole, plane));
    return g;
}

} // namespace

std::vector<DrawingGuide> drawingGuides(const ModelState& state) {
    std::vector<DrawingGuide> out;
    for (const auto& [made, entity] : state.outlines) {
        const Outline& outline = *entity.value;
        if (!outline.drawn()) continue;
        DrawingGuide g{made.step, outline.plane, {}, {}};
        for (const auto& [id, curves] : outline.strokes) {
            if (outline.helpers.count(id)) continue; // a matter of the table alone
            EdgeRef ref;
            ref.kind = EdgeRef::Kind::Stroke;
            ref.step = made.step;
            ref.item = id;
            StrokeGuide s{toText(ref), {}, {}};
            ref.kind = EdgeRef::Kind::Chain;
            ref.item = chainOf(outline.strokes, outline.helpers, id).key();
            s.chain = toText(ref);
            for (const Curve2& c : curves)
                for (const Vec2 p : c.sampled(kWithin)) s.points.push_back(outline.plane.at(p));
            if (!s.points.empty()) g.strokes.push_back(std::move(s));
        }
        for (const Region& r : outline.faces) g.areas.push_back(areaGuide(r, outline.plane));
        out.push_back(std::move(g));
    }
    for (const auto& [made, entity] : state.curves) {
        EdgeRef ref;
        ref.kind = EdgeRef::Kind::Curve;
        ref.step = made.step;
        const std::string text = toText(ref);
        out.push_back({made.step, {}, {StrokeGuide{text, text, entity.value.polyline(kWithin)}}, {}});
    }
    return out;
}

std::vector<PlaceOnBody> pickablePlaces(const ModelState& state) {
    std::vector<PlaceOnBody> out;
    for (const auto& [made, body] : state.bodies) {
        const auto some = placesOn(body.value);
        out.insert(out.end(), some.begin(), some.end());
    }
    for (const auto& [made, outline] : state.outlines)
        for (const auto& [id, at] : outline.value->points) {
            PointRef ref;
            ref.kind = PointRef::Kind::Drawn;
            ref.step = made.step;
            ref.item = id;
            out.push_back({outline.value->plane.at(at), {toText(ref)}});
        }
    return out;
}

std::vector<Trace> followable(const Part& part, const RegenResult& built, int step) {
    const Step* drawn = part.findStep(step);
    const auto place = static_cast<std::size_t>(part.placeOf(step));
    if (!drawn || !drawingOf(*drawn) || place == 0 || place > built.before.size()) return {};
    StepArguments slots; // of which only the plane is needed
    slots.id = step;
    slots.kind = drawn->kind;
    slots.texts["plane"] = drawn->text("plane");
    StepInputs inputs(slots, built.before[place - 1]);
    ModelReader model(inputs);
    const auto plane = findPlane(Arguments(inputs), "plane", model);
    if (!plane) return {};
    std::vector<ThingId> drawings, curves;
    for (const auto& [id, outline] : built.before[place - 1].outlines) drawings.push_back(id);
    for (const auto& [id, curve] : built.before[place - 1].curves) curves.push_back(id);
    return allTraces(asItLies(*plane, drawn->text("seen"), drawn->text("up")), model, drawings, curves);
}

} // namespace gc
