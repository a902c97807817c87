/// Twelve letters with their counters on walls of several forms, raised and sunk: how long the step takes,
/// against the check of its result by the kernel, which it holds. Not a test. Build and run:
/// cmake --build --preset ci --target bench_emboss && build/release/bin/bench_emboss

#include "bench/timing.hpp"
#include "core/regen/engine.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/step_run.hpp"
#include "tests/support/letters.hpp"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepExtrema_DistShapeShape.hxx>

#include <cstdio>

namespace {

using namespace gc;
using namespace gc::test;

/// The face of the last body that lies nearest before the front.
std::string nearestWall(const RegenResult& r) {
    const NamedShape& s = lastBody(r).shape();
    std::string out;
    double best = 1e300;
    for (int i = 1; i <= s.faces.Extent(); ++i) {
        const double far =
            BRepExtrema_DistShapeShape(BRepBuilderAPI_MakeVertex(gp_Pnt(0, -60, 22)), s.faces(i)).Value();
        if (far < best) best = far, out = s.wordsFor(s.faces(i));
    }
    return out;
}

void bench(const char* wall, Part p, const Slots& slots) {
    add(p, "plane",
        {{"name", std::string("before")},
         {"from", std::string("front")},
         {"distance", std::string("60 mm")}});
    const std::string face = nearestWall(Engine().regenerate(p));
    add(p, "draw",
        {{"name", std::string("label")},
         {"plane", std::string("before")},
         {"drawing", DrawingSlot(letters(12, -28, 20))}});
    Step step = newStep(p, "emboss");
    step.slots["outline"] = std::string("label");
    step.slots["wall"] = References{face};
    step.slots["way"] = std::string("back");
    for (const auto& [key, value] : slots) step.slots[key] = value;
    p.steps.push_back(step);
    const RegenResult built = Engine().regenerate(p);
    const StepReport& last = built.steps.back();
    if (!last.ok) {
        std::printf("%-9s %s\n", wall, last.error->sentence.text().c_str());
        return;
    }
    const ModelState& before = built.before[p.steps.size() - 1];
    const auto args = Engine::argumentsOf(p.steps.back(), p, valuesOf(p));
    const double ours = leastMs(3, [&] { (void)runStep(*args, before); });
    const TopoDS_Shape result = lastBody(built).shape().shape;
    const double raw = leastMs(3, [&] { (void)BRepCheck_Analyzer(result).IsValid(); });
    std::printf("%-9s %-8s %-8s %7.1f ms, %.1f x its check\n", wall,
                std::get<std::string>(step.slots["lay"]).c_str(),
                std::get<std::string>(step.slots["does"]).c_str(), ours, ours / raw);
}

} // namespace

int main(int count, char** words) { // the name of one wall, or all of them
    struct Wall {
        const char* called;
        Part part;
    };
    const auto solid = [](const Drawing& d, const Slots& more) {
        Part p;
        add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(d)}});
        add(p, "extrude", {{"length", std::string("46 mm")}});
        for (const auto& [key, value] : more) p.steps.back().slots[key] = value;
        return p;
    };
    for (const Wall& w :
         {Wall{"flat", solid(roundedLine(80, 30, 4), {})}, Wall{"cylinder", solid(circleLine(36), {})},
          Wall{"cone", solid(circleLine(40),
                             {{"sides", std::string("leaning inward by")}, {"lean", std::string("6°")}})},
          Wall{"turned", vaseOf(1.4)},
          Wall{"loft",
               lofted({{ellipseLine(36, 30), 0}, {ellipseLine(33, 26), 24}, {ellipseLine(36, 31), 50}})}}) {
        if (count > 1 && std::string(words[1]) != w.called) continue;
        for (const char* lay : {"straight", "wrapped"})
            for (const char* does : {"raised", "sunk"})
                bench(w.called, w.part,
                      {{"lay", std::string(lay)},
                       {"does", std::string(does)},
                       {"sides", std::string("leaning")}});
    }
    return 0;
}
