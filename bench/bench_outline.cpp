/// Timings of the outline solver against one raw sparse factorisation of the same system in the same run.
/// Build and run: cmake --build --preset release --target bench_outline && build/release/bin/bench_outline

#include "core/sketch/solve/elimination.hpp"
#include "core/sketch/solve/freedom.hpp"
#include "tests/support/large_drawings.hpp"

#include <algorithm>
#include <chrono>
#include <cstdio>

using namespace gc;

namespace {

double nowMs() {
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now().time_since_epoch())
        .count();
}

struct Spread {
    std::vector<double> all;
    double median() {
        std::sort(all.begin(), all.end());
        return all.empty() ? 0 : all[all.size() / 2];
    }
    double worst() { return all.empty() ? 0 : *std::max_element(all.begin(), all.end()); }
};

/// One factorisation and nothing else, ms.
double rawFactor(const System& system) {
    Spread s;
    for (Component& part : componentsOf(system)) {
        part.evaluate(part.gather(system.unknowns), true);
        const Eigen::VectorXd w = Eigen::VectorXd::Ones(part.unknowns());
        part.factor(w, 1e-11);
        double least = 1e300;
        for (int i = 0; i < 5; ++i) {
            const double t = nowMs();
            part.factor(w, 1e-11);
            least = std::min(least, nowMs() - t);
        }
        s.all.push_back(least);
    }
    return s.worst();
}

void dragging(test::Large g, const char* how) {
    Settler settler(g.drawing, g.values);
    const double raw = rawFactor(settler.system());
    settler.grab({g.grip});
    Spread times, steps;
    int failed = 0;
    for (int i = 1; i <= 120; ++i) {
        const double a = i * 0.15;
        const Vec2 by{0.05 * i * std::cos(a), 0.05 * i * std::sin(a)};
        const double t = nowMs();
        const Settlement s = settler.drag(by);
        times.all.push_back(nowMs() - t);
        steps.all.push_back(s.steps);
        failed += !s.solved;
    }
    std::printf("  drag %-10s %-6s %5zu strokes: median %.2f ms, worst %.2f ms, %.1f raw factors (%.2f ms); "
                "steps %.0f; waited %d of 120\n",
                g.name.c_str(), how, g.drawing.strokes.size(), times.median(), times.worst(),
                times.median() / std::max(raw, 1e-6), raw, steps.median(), failed);
}

void changing(test::Large g, const char* how) {
    Spread times;
    int failed = 0, steps = 0, tried = 0;
    for (std::size_t k = 0; k < g.lengths.size(); k += std::max<std::size_t>(1, g.lengths.size() / 20)) {
        DimensionValues wanted;
        wanted[g.lengths[k]] = g.values.at(g.lengths[k]) * 1.3;
        Settler settler(g.drawing, g.values);
        const double t = nowMs();
        const Settlement s = settler.change(wanted);
        times.all.push_back(nowMs() - t);
        failed += !s.solved;
        steps += s.steps;
        ++tried;
    }
    std::printf(
        "  change %-10s %-6s %5zu strokes: median %.2f ms, worst %.2f ms, steps %.1f, unsolved %d of %d\n",
        g.name.c_str(), how, g.drawing.strokes.size(), times.median(), times.worst(),
        static_cast<double>(steps) / std::max(1, tried), failed, tried);
}

} // namespace

int main() {
    for (const int n : {200, 2000}) {
        for (const auto& g : test::largeDrawings(n)) {
            double t = nowMs();
            const int count = countFreedoms(g.drawing, g.values);
            std::printf("%s, %zu strokes, %zu relations: %d freedoms, counted in %.2f ms\n", g.name.c_str(),
                        g.drawing.strokes.size(), g.drawing.relations.size(), count, nowMs() - t);
            test::Large loose = g;
            loose.loosen(0.33);
            dragging(g, "whole");
            dragging(loose, "loose");
            changing(g, "whole");
            changing(loose, "loose");
        }
    }
}
