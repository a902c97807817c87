#include "core/model/model.hpp"

#include "core/base/hash.hpp"

#include <algorithm>
#include <cassert>

namespace gc {

std::vector<int> Outline::lineage(int stroke) const {
    std::vector<int> out{stroke};
    for (auto from = cutFrom.find(stroke); from != cutFrom.end(); from = cutFrom.find(out.back()))
        out.push_back(from->second); // older each time
    return out;
}

std::vector<std::string> Outline::rolesOf(int stroke) const {
    if (const auto made = madeRoles.find(stroke); made != madeRoles.end()) return {made->second};
    std::vector<std::string> out;
    for (const int s : lineage(stroke)) out.push_back("side " + std::to_string(s));
    return out;
}

namespace {

template <class T>
std::optional<ThingId> named(const Entities<T>& things, const std::string& name) {
    const auto it =
        std::find_if(things.begin(), things.end(), [&](const auto& t) { return t.second.name == name; });
    return it == things.end() ? std::nullopt : std::optional<ThingId>(it->first);
}

void add(Hasher& h, Vec3 v) {
    h.real(v.x).real(v.y).real(v.z);
}

/// Planes and axes are their numbers: made anew as they were, they change nothing behind them.
std::uint64_t contentOf(const Plane& p) {
    Hasher h;
    for (const Vec3 v : {p.origin, p.across, p.up}) add(h, v);
    return h.value();
}
std::uint64_t contentOf(const Axis& a) {
    Hasher h;
    for (const Vec3 v : {a.origin, a.direction}) add(h, v);
    return h.value();
}

/// The things of one step's result are told apart by their place in it.
std::uint64_t partOf(std::uint64_t content, std::size_t place) {
    return Hasher().number(content).number(place).value();
}

struct Applier {
    const Step& step;
    const Part& part;
    std::uint64_t content;
    ModelState& state;
    std::vector<ThingId> touched{};
    std::size_t place = 0;
    int outlines = 0, planes = 0, axes = 0, curves = 0, bodies = 0;

    std::string called(Thing thing, int ordinal) const {
        const std::string name = nameGiven(step, thing);
        return ordinal == 0 ? name : name + " " + std::to_string(ordinal + 1);
    }
    void operator()(const MadeOutline& m) {
        const int k = outlines++;
        state.outlines[{step.id, k}] = {m.outline, called(Thing::Outline, k), partOf(content, place)};
    }
    void operator()(const MadePlane& m) {
        const int k = planes++;
        state.planes[{step.id, k}] = {m.plane, called(Thing::Plane, k), contentOf(m.plane)};
    }
    void operator()(const MadeAxis& m) {
        const int k = axes++;
        state.axes[{step.id, k}] = {m.axis, called(Thing::Axis, k), contentOf(m.axis)};
    }
    void operator()(const MadeCurve& m) {
        const int k = curves++;
        state.curves[{step.id, k}] = {m.curve, called(Thing::Curve, k), partOf(content, place)};
    }
    void operator()(const MadeBody& m) {
        const ThingId id{step.id, m.ordinal.value_or(bodies)};
        bodies = id.ordinal + 1;
        const std::uint64_t c = partOf(content, place);
        state.bodies[id] = {m.body.withContent(c), nameOfBody(part, id), c};
        if (m.offer != BodyOffer()) state.offers[id] = m.offer;
        touched.push_back(id);
    }
    void operator()(const ChangedBody& m) {
        const std::uint64_t c = partOf(content, place);
        const auto it = state.bodies.find(m.id);
        assert(it != state.bodies.end());
        it->second.value = m.body.withContent(c);
        it->second.content = c;
        touched.push_back(m.id);
    }
    void operator()(const EndedBody& m) {
        state.bodies.erase(m.id);
        touched.push_back(m.id);
    }
};

} // namespace

std::optional<ThingId> ModelState::outlineNamed(const std::string& name) const {
    return named(outlines, name);
}
std::optional<ThingId> ModelState::planeNamed(const std::string& name) const {
    return named(planes, name);
}
std::optional<ThingId> ModelState::axisNamed(const std::string& name) const {
    return named(axes, name);
}
std::optional<ThingId> ModelState::bodyNamed(const std::string& name) const {
    return named(bodies, name);
}

const Body& ModelState::body(const std::string& name) const {
    return bodies.at(bodyNamed(name).value()).value;
}

const Outline& ModelState::outline(const std::string& name) const {
    return *outlines.at(outlineNamed(name).value()).value;
}

std::vector<ThingId> apply(const StepChange& change, const Step& step, const Part& part,
                           std::uint64_t content, ModelState& state) {
    Applier applier{step, part, content, state};
    for (const Change& c : change.list) {
        std::visit(applier, c);
        ++applier.place;
    }
    return applier.touched;
}

} // namespace gc
