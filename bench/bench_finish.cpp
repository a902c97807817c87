/// Steps of the stage Finish against the kernel's own calls for the same edges and faces, and how long a
/// failing step's ways out take. Ratios in one run; not a test. Build and run: cmake --build --preset ci
/// --target bench_finish && build/release/bin/bench_finish

#include "bench/timing.hpp"
#include "core/document/part_file.hpp"
#include "core/regen/engine.hpp"
#include "core/regen/orders.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/step_run.hpp"

#include <BRepFilletAPI_MakeChamfer.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepOffsetAPI_MakeThickSolid.hxx>
#include <TopoDS.hxx>

#include <cstdio>

namespace {

using namespace gc;

const char* const kParts[] = {"herb-pot",       "seed-box",    "tap-cover",
                              "sprinkler-rose", "trowel-grip", "former-and-skin"};

/// What the kernel needs for the step by itself, without a look at what comes of it, and whether it says that
/// it made it. Nothing for what it has no call for.
struct Raw {
    bool known = false, made = false;
    double ms = 0;
};
Raw rawOf(const StepArguments& args, const ModelState& state) {
    StepInputs inputs(args, state);
    const Arguments values(inputs);
    ModelReader model(inputs);
    const auto ofEdges = [&]<class Operation>(std::optional<Operation>& work, const char* size) {
        const auto found = findEdges(values.references("edges"), model);
        if (!found) return Raw();
        const double ms = leastMs(5, [&] {
            work.emplace(found->body.shape().shape);
            for (const int i : found->items)
                work->Add(values.number(size), TopoDS::Edge(found->body.shape().edges(i + 1)));
            work->Build();
        });
        return Raw{true, work->IsDone(), ms};
    };
    std::optional<BRepFilletAPI_MakeFillet> fillet;
    std::optional<BRepFilletAPI_MakeChamfer> chamfer;
    if (args.kind == "fillet" && values.text("how") == "by" && values.text("rest") == "only")
        return ofEdges(fillet, "radius");
    if (args.kind == "chamfer") return ofEdges(chamfer, "size");
    if (args.kind == "shell") {
        const auto found = findFaces(values.references("open"), model);
        if (!found) return {};
        const double wall = values.number("wall") * (values.text("side") == "outward" ? 1 : -1);
        bool made = false;
        const double ms = leastMs(3, [&] {
            TopTools_ListOfShape open;
            for (const int i : found->items) open.Append(found->body.shape().faces(i + 1));
            BRepOffsetAPI_MakeThickSolid work;
            work.MakeThickSolidByJoin(found->body.shape().shape, open, wall, 1e-6, BRepOffset_Skin, true,
                                      false, GeomAbs_Arc);
            made = work.IsDone();
        });
        return {true, made, ms};
    }
    return {};
}

void benchSteps(const char* name, const Part& part, std::vector<double>& ratios) {
    const RegenResult built = Engine().regenerate(part);
    for (const StepReport& s : built.steps) {
        const auto& words = *findStepWords(s.kind);
        if (words.stage != "Finish" || !s.ok) continue;
        const ModelState& before = built.before[std::size_t(s.number - 1)];
        const auto args = Engine::argumentsOf(*part.findStep(s.id), part, valuesOf(part));
        if (!args) continue;
        const double ours = leastMs(5, [&] { (void)runStep(*args, before); });
        const Raw raw = rawOf(*args, before);
        if (!raw.made) {
            std::printf("%-15s step %2d %-8s %7.1f ms, raw %s\n", name, s.number, s.kind.c_str(), ours,
                        raw.known ? "fails" : "not there");
            continue;
        }
        ratios.push_back(ours / raw.ms);
        std::printf("%-15s step %2d %-8s %7.1f ms, raw %7.1f ms, ratio %.2f\n", name, s.number,
                    s.kind.c_str(), ours, raw.ms, ours / raw.ms);
    }
}

/// The deciding size of each step made six times larger: what does not work then gets its ways out.
void benchRemedies(const char* name, const Part& part, std::vector<double>& times) {
    const std::vector<Material> materials = *loadMaterials();
    for (std::size_t k = 0; k < part.steps.size(); ++k) {
        const StepKind* kind = findKind(part.steps[k].kind);
        if (kind->words.stage != "Finish" || kind->decidingSlot.empty()) continue;
        const std::string text = part.steps[k].text(kind->decidingSlot);
        if (text.empty()) continue;
        Part broken = part;
        broken.steps[k].slots[kind->decidingSlot] = "(" + text + ") * 6";
        Engine engine;
        Measurer measurer;
        const RegenResult built = engine.regenerate(broken);
        if (built.steps[k].ok && !built.steps[k].doubt) continue;
        const auto args = Engine::argumentsOf(broken.steps[k], broken, valuesOf(broken));
        if (!args) continue;
        double first = 0;
        const double all = msOf([&] {
            first = msOf([&] { (void)findLargestThatWorks(*args, built.before[k], broken.brief.units); });
            (void)findOrders(broken, broken.steps[k].id, engine, measurer, materials, {});
        });
        times.push_back(all);
        std::printf("%-15s step %2zu %-8s too large: size after %6.0f ms, orders after %6.0f ms\n", name,
                    k + 1, broken.steps[k].kind.c_str(), first, all);
    }
}

double medianOf(std::vector<double> v) {
    std::sort(v.begin(), v.end());
    return v.empty() ? 0 : v[v.size() / 2];
}

} // namespace

/// Names of parts may follow; else all that have steps of this stage. STEPS_ONLY=1: no ways out.
int main(int count, char** names) {
    std::vector<double> ratios, times;
    const std::vector<const char*> named(names + 1, names + count), all(std::begin(kParts), std::end(kParts));
    for (const char* name : named.empty() ? all : named) {
        const auto part = loadPart(std::string("demo/") + name + ".goodcurve");
        if (!part) return 2;
        benchSteps(name, *part, ratios);
        if (!std::getenv("STEPS_ONLY")) benchRemedies(name, *part, times);
    }
    std::printf("median ratio of %zu steps %.2f; median of %zu ways out %.0f ms\n", ratios.size(),
                medianOf(ratios), times.size(), medianOf(times));
    return 0;
}
