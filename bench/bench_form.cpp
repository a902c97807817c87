/// Steps of the stage Form against the kernel's own operations within them, their picture against the
/// kernel's mesh, and how many pictures a second a dragged size gives. Ratios in one run; not a test.
/// Build and run: cmake --build --preset ci --target bench_form && build/release/bin/bench_form

#include "bench/timing.hpp"
#include "core/document/part_file.hpp"
#include "core/regen/engine.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/kernel_clock.hpp"
#include "core/shape/mesh.hpp"
#include "core/steps/step_run.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepTools.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Ellipse.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>
#include <cstdio>
#include <vector>

namespace {

using namespace gc;

/// How long a step takes, how long the kernel's operations within it, and how long the proof that they were
/// right, of the run that took least.
struct Took {
    double step = 1e300, kernel = 0, proof = 0; // ms
};
Took tookBy(const StepArguments& args, const ModelState& before) {
    constexpr int kRuns = 9;
    Took least;
    for (int i = 0; i < kRuns; ++i) {
        const double start = KernelCall::milliseconds(), proofs = KernelProof::milliseconds();
        const double ms = msOf([&] { (void)runStep(args, before); });
        if (ms < least.step)
            least = {ms, KernelCall::milliseconds() - start, KernelProof::milliseconds() - proofs};
    }
    return least;
}

void benchSteps(const char* name, const Part& part, std::vector<double>& ratios) {
    const RegenResult regen = Engine().regenerate(part);
    for (const StepReport& s : regen.steps) {
        if (s.aids.tool.empty() || s.bodies.size() != 1 || s.kind == "vent") continue; // no boolean there
        const ModelState& before = regen.before[std::size_t(s.number - 1)];
        const auto args = Engine::argumentsOf(*part.findStep(s.id), part, valuesOf(part));
        const Took took = tookBy(*args, before);
        ratios.push_back((took.step - took.proof) / took.kernel);
        std::printf("%-13s step %2d %-8s %7.1f ms, the kernel's operations %7.1f ms, ratio %.2f", name,
                    s.number, s.kind.c_str(), took.step - took.proof, took.kernel, ratios.back());
        if (took.proof > 0)
            std::printf("; and %.1f ms to prove it right, %.2f", took.proof, took.step / took.kernel);
        std::printf("\n");
    }
    for (const auto& [id, entity] : regen.state.bodies) {
        const MeshOptions options{0.05, 0.25};
        const double own = leastMs(5, [&] { (void)makeMesh(entity.value, options); });
        const double kernels = leastMs(2, [&] {
            BRepTools::Clean(entity.value.shape().shape);
            (void)makeKernelMesh(entity.value, options);
        });
        std::printf("%-13s mesh of %s %.1f ms, the kernel's %.1f ms, %.0f times faster\n", name,
                    entity.name.c_str(), own, kernels, kernels / own);
    }
}

/// Lofts against the kernel's own through a circle and an oval, which knows neither guides nor threads and
/// looks for no crossings.
void benchLofts(const char* name, const Part& part) {
    const double raw = leastMs(5, [] {
        const auto wire = [](const Handle(Geom_Curve) & curve) {
            return BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(curve).Edge()).Wire();
        };
        BRepOffsetAPI_ThruSections through(true, false);
        through.AddWire(wire(new Geom_Circle(gp_Ax2(gp::Origin(), gp::DZ()), 13)));
        through.AddWire(wire(new Geom_Ellipse(gp_Ax2(gp_Pnt(0, 0, 48), gp::DZ()), 42, 26)));
        through.Build();
    });
    const RegenResult regen = Engine().regenerate(part);
    for (const StepReport& s : regen.steps) {
        if (s.kind != "loft") continue;
        const ModelState& before = regen.before[std::size_t(s.number - 1)];
        const auto args = Engine::argumentsOf(*part.findStep(s.id), part, valuesOf(part));
        const double ours = leastMs(5, [&] { (void)runStep(*args, before); });
        std::printf("%-13s step %2d loft     %7.1f ms, raw through two sections %.1f ms, ratio %.1f\n", name,
                    s.number, ours, raw, ours / raw);
    }
}

/// A length of the last step is dragged: it is built anew and drawn coarsely each time.
void benchDrag(const char* name, Part part) {
    Step& last = part.steps.back();
    const char* slot = last.kind == "revolve" ? "angle" : last.kind == "sweep" ? "turn" : "length";
    if (last.kind == "sweep") last.slots["change"] = std::string("turning by");
    if (last.kind == "revolve") last.slots["end"] = std::string("by");
    if (last.kind == "extrude") last.slots["end"] = std::string("by");
    Engine engine;
    (void)engine.regenerate(part);
    int pictures = 0;
    double size = 20;
    const double ms = msOf([&] {
        for (; pictures < 25; ++pictures) {
            size += 0.37;
            last.slots[slot] = formatNumber(size, 4) + (last.kind == "extrude" ? " mm" : "°");
            RegenHooks hooks;
            hooks.preview = true;
            const RegenResult r = engine.regenerate(part, hooks);
            for (const auto& [id, entity] : r.state.bodies) (void)makeMesh(entity.value, {0.25, 0.5});
        }
    });
    std::printf("%-13s %s dragged: %.0f pictures a second\n", name, last.kind.c_str(), 1000 * pictures / ms);
}

} // namespace

int main() {
    std::vector<double> ratios;
    for (const char* name : {"seed-box", "tap-cover", "ground-spike", "rail-hook"}) {
        const auto part = loadPart(std::string("demo/") + name + ".goodcurve");
        if (!part) return 2;
        benchSteps(name, *part, ratios);
        benchDrag(name, *part);
    }
    for (const char* name : {"sprinkler-rose", "plant-stand"}) {
        const auto part = loadPart(std::string("demo/") + name + ".goodcurve");
        if (!part) return 2;
        benchLofts(name, *part);
        benchSteps(name, *part, ratios);
    }
    std::sort(ratios.begin(), ratios.end());
    std::printf("median ratio of %zu steps %.2f, largest %.2f\n", ratios.size(), ratios[ratios.size() / 2],
                ratios.back());
    return 0;
}
