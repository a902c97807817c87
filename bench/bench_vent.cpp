/// Some sixty holes through walls of several forms: how long the step takes, with the body's check, against
/// one boolean of the kernel with as many cylinders. Not a test. Build and run from the project's root: cmake
/// --build --preset ci --target bench_vent && build/release/bin/bench_vent

#include "bench/timing.hpp"
#include "core/document/part_file.hpp"
#include "core/regen/engine.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/step_run.hpp"
#include "tests/support/dome.hpp"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>

#include <cstdio>

namespace {

using namespace gc;
using namespace gc::test;

/// One boolean with a grid of cylinders along z through the middle of the body. ms
double byBoolean(const Body& body, int count, double radius, double pitch) {
    TopTools_ListOfShape bodies, tools;
    bodies.Append(body.shape().shape);
    const int row = static_cast<int>(std::ceil(std::sqrt(count)));
    for (int k = 0; k < count; ++k) {
        const gp_Pnt at((k % row - row / 2.0) * pitch, (k / row - row / 2.0) * pitch, 15);
        tools.Append(BRepPrimAPI_MakeCylinder(gp_Ax2(at, gp::DZ()), radius, 80).Solid());
    }
    return leastMs(1, [&] {
        BRepAlgoAPI_Cut cut;
        cut.SetArguments(bodies);
        cut.SetTools(tools);
        cut.SetNonDestructive(true);
        cut.SetRunParallel(false);
        cut.Build();
    });
}

/// \param vent the number of that step, from 1
void bench(const char* wall, const Part& p, std::size_t vent) {
    const RegenResult built = Engine().regenerate(p);
    const StepReport& last = built.steps[vent - 1];
    if (!last.ok) {
        std::printf("%-9s %s\n", wall, last.error->sentence.text().c_str());
        return;
    }
    int holes = 0;
    const Body& body = built.state.bodies.begin()->second.value;
    for (int f = 0; f < faceCount(body); ++f)
        for (const std::string& ref : referencesForFace(body, f))
            if (ref.starts_with("opening ")) {
                ++holes;
                break;
            }
    const ModelState& before = built.before[vent - 1];
    const auto args = Engine::argumentsOf(p.steps[vent - 1], p, valuesOf(p));
    const double ours = leastMs(3, [&] { (void)runStep(*args, before); });
    const double theirs = byBoolean(before.bodies.begin()->second.value, holes, 0.6, 4);
    std::printf("%-9s %3d holes %8.1f ms, one boolean %8.1f ms: %5.1f times\n", wall, holes, ours, theirs,
                theirs / ours);
}

Part flat() {
    Part p = block();
    add(p, "shell", {{"open", References{"start of step 2"}}, {"wall", std::string("2 mm")}});
    return p;
}

void vent(Part& p, double radius) {
    add(p, "plane", {{"name", std::string("before")}, {"distance", std::string("60 mm")}});
    Drawing d;
    d.draw(StrokeKind::Circle, {{0, 0}}, {radius});
    add(p, "draw",
        {{"plane", std::string("before")}, {"name", std::string("places")}, {"drawing", DrawingSlot(d)}});
    add(p, "vent",
        {{"outline", std::string("places")},
         {"shape", std::string("rings")},
         {"width", std::string("1.2 mm")},
         {"bar", formatNumber(radius / 7) + " mm"},
         {"rim", std::string("0 mm")}});
}

} // namespace

int main() {
    Part a = flat(), b = dome();
    vent(a, 12);
    vent(b, 18);
    bench("flat", a, a.steps.size());
    bench("dome", b, b.steps.size());
    if (const auto rose = loadPart("demo/sprinkler-rose.goodcurve")) bench("loft", *rose, rose->steps.size());
    return 0;
}
