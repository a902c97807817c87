/// A pocket with a rounded floor, repeated on a flat face and around a round wall, against one boolean of the
/// kernel with as many tools. Ratios in one run; not a test. Build and run: cmake --build --preset ci
/// --target bench_repeat && build/release/bin/bench_repeat

#include "bench/timing.hpp"
#include "core/regen/engine.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/mesh.hpp"
#include "core/steps/repeat/surgery.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/step_run.hpp"
#include "tests/support/sections.hpp"

#include <algorithm>
#include <cstdio>

namespace {

using namespace gc;
using Slots = std::map<std::string, SlotValue>;

Step& add(Part& p, const char* kind, const Slots& slots) {
    Step s = newStep(p, kind);
    for (const auto& [key, value] : slots) s.slots[key] = value;
    p.steps.push_back(s);
    return p.steps.back();
}
Drawing rectangle(double a, double b) {
    Drawing d;
    const Vec2 c[] = {{-a / 2, -b / 2}, {a / 2, -b / 2}, {a / 2, b / 2}, {-a / 2, b / 2}};
    for (int i = 0; i < 4; ++i) d.draw(StrokeKind::Line, {c[i], c[(i + 1) % 4]});
    return d;
}
Drawing circle(Vec2 at, double radius) {
    Drawing d;
    d.draw(StrokeKind::Circle, {at}, {radius});
    return d;
}
void addPocket(Part& p, const std::string& plane, Vec2 at, const char* way, double depth,
               const char* does = "taking from") {
    add(p, "draw", {{"plane", plane}, {"drawing", DrawingSlot(circle(at, 2))}});
    add(p, "extrude",
        {{"length", formatNumber(depth, 3) + " mm"}, {"way", std::string(way)}, {"does", std::string(does)}});
    const std::string end = "end of step " + std::to_string(p.steps.back().id);
    add(p, "fillet", {{"edges", References{"rim of " + end}}, {"radius", std::string("0.8 mm")}});
}

/// A barrel of ovals, bent differently everywhere, with a post on its front or a pocket in it.
Part barrel(bool raised) {
    Part p = test::lofted({{test::ellipseLine(120, 90), 0},
                           {test::ellipseLine(140, 105), 110},
                           {test::ellipseLine(115, 85), 220}});
    add(p, "plane",
        {{"name", std::string("before")},
         {"from", std::string("front")},
         {"distance", std::string("150 mm")}});
    if (raised)
        addPocket(p, "front", {-89, 20}, "forward", 70, "adding to");
    else
        addPocket(p, "before", {-89, 20}, "backward", 87);
    return p;
}

void bench(const char* where, Part part, int detail, const Slots& slots, int count) {
    const std::string everything = "everything of step " + std::to_string(detail);
    add(part, "repeat", {{"what", References{everything}}});
    for (const auto& [key, value] : slots) part.steps.back().slots[key] = value;
    const RegenResult built = Engine().regenerate(part);
    const StepReport& last = built.steps.back();
    if (!last.ok) {
        std::printf("%-9s %4d: %s\n", where, count, last.error->sentence.text().c_str());
        return;
    }
    const ModelState& before = built.before[part.steps.size() - 1];
    const auto args = Engine::argumentsOf(part.steps.back(), part, valuesOf(part));
    const double ours = leastMs(3, [&] { (void)runStep(*args, before); });
    std::printf("%-9s %4d copies: %7.1f ms, %.2f ms each", where, count, ours, ours / count);
    if (count <= 24) { // more take minutes on free forms
        FreeReader reader(before);
        const auto found = findFaces({everything}, reader);
        const NamedShape& s = found->body.shape();
        const auto standing = detailOf(s, found->items);
        StepInputs inputs(*args, before);
        ModelReader model(inputs);
        const auto layout = layoutBy(Arguments(inputs), model, [](const Vec3&) { return 4.0; }, {}, {});
        const double kernel = msOf([&] { (void)addedOrTaken(s, *standing, placementsOf(*layout), 9); });
        std::printf(", one boolean %7.1f ms: %.0f times faster", kernel, kernel / ours);
    }
    std::printf("\n");
}

/// A count is pulled from one number to another and back: built anew and meshed coarsely each time, as while
/// a hand holds it.
void benchPull(const char* where, Part part, int detail, const Slots& slots, int low, int high) {
    add(part, "repeat", {{"what", References{"everything of step " + std::to_string(detail)}}});
    for (const auto& [key, value] : slots) part.steps.back().slots[key] = value;
    Engine engine;
    (void)engine.regenerate(part);
    int pictures = 0, refused = 0;
    double slowest = 0;
    const auto show = [&](int count) {
        part.steps.back().slots["count"] = std::to_string(count);
        RegenHooks hooks;
        hooks.preview = true;
        const RegenResult r = engine.regenerate(part, hooks);
        refused += !r.steps.back().ok;
        for (const auto& [id, entity] : r.state.bodies) (void)makeMesh(entity.value, {0.25, 0.5});
        ++pictures;
    };
    const double ms = msOf([&] {
        for (int n = low; n <= high; ++n) slowest = std::max(slowest, msOf([&] { show(n); }));
        for (int n = high; n >= low; --n) slowest = std::max(slowest, msOf([&] { show(n); }));
    });
    std::printf("%-9s pulled from %d to %d and back: %.0f pictures a second, the slowest after %.0f ms, "
                "%d refused\n",
                where, low, high, 1000 * pictures / ms, slowest, refused);
}

} // namespace

int main() {
    Part plate;
    add(plate, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle(200, 160))}});
    add(plate, "extrude", {{"length", std::string("10 mm")}});
    addPocket(plate, "end of step 2", {-95, -75}, "backward", 4);
    for (const auto& [a, b] : {std::pair{6, 4}, {10, 6}, {20, 10}, {25, 20}})
        bench("flat", plate, 4,
              {{"way", std::string("in rows along")},
               {"count", std::to_string(a)},
               {"count 2", std::to_string(b)},
               {"pitch", std::string("7.4 mm")},
               {"pitch 2", std::string("7.4 mm")}},
              a * b);
    const Slots rows{{"way", std::string("in rows along")},
                     {"count 2", std::string("10")},
                     {"pitch", std::string("7.4 mm")},
                     {"pitch 2", std::string("7.4 mm")}};
    benchPull("flat", plate, 4, rows, 2, 16);
    Part can;
    add(can, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(circle({0, 0}, 380))}});
    add(can, "extrude", {{"length", std::string("30 mm")}});
    add(can, "plane",
        {{"name", std::string("beside")},
         {"from", std::string("front")},
         {"distance", std::string("385 mm")}});
    addPocket(can, "beside", {0, 15}, "backward", 9);
    for (const int n : {24, 60, 200, 500})
        bench("round", can, 5, {{"way", std::string("around")}, {"count", std::to_string(n)}}, n);
    benchPull("round", can, 5, {{"way", std::string("around")}}, 20, 60);
    for (const bool raised : {true, false}) {
        const Part p = barrel(raised);
        benchPull(raised ? "posts" : "pockets", p, p.steps[p.steps.size() - 2].id,
                  {{"way", std::string("in rows along")},
                   {"line 2", std::string("upright axis")},
                   {"count 2", std::string("6")},
                   {"pitch", std::string("7.4 mm")},
                   {"pitch 2", std::string("9 mm")}},
                  2, 12);
    }
    for (const bool raised : {true, false})
        for (const auto& [a, b] : {std::pair{6, 4}, {10, 6}, {20, 10}, {25, 20}}) {
            const Part p = barrel(raised);
            bench(raised ? "posts" : "pockets", p, p.steps[p.steps.size() - 2].id,
                  {{"way", std::string("in rows along")},
                   {"line 2", std::string("upright axis")},
                   {"count", std::to_string(a)},
                   {"count 2", std::to_string(b)},
                   {"pitch", std::string("7.4 mm")},
                   {"pitch 2", std::string("9 mm")}},
                  a * b);
        }
    return 0;
}
