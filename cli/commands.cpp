#include "cli/commands.hpp"

#include "core/base/file.hpp"
#include "core/document/part_file.hpp"
#include "core/exchange/export.hpp"
#include "core/regen/measure.hpp"
#include "core/regen/report_json.hpp"

#include <nlohmann/json.hpp>

#include <cstdio>
#include <cstring>
#include <filesystem>
#include <functional>
#include <sys/wait.h>
#include <unistd.h>

namespace gc::cli {

namespace {

constexpr int kHolds = 0, kFails = 1, kBadInput = 2;

int complain(const Error& e) {
    std::fprintf(stderr, "%s\n", e.sentence.c_str());
    return kBadInput;
}

struct Worked {
    Part part;
    RegenResult regen;
    PartMeasures measures;
};

Result<Worked> work(const Options& options, bool walls) {
    auto part = loadPart(options.file);
    if (!part) return part.error();
    auto materials = loadMaterials();
    if (!materials) return materials.error();
    Worked w{std::move(*part), {}, {}};
    const bool talk = ::isatty(STDERR_FILENO) != 0;
    Engine engine;
    RegenHooks hooks;
    hooks.stepStarted = [&](const StepReport& s) {
        if (talk)
            std::fprintf(stderr, "\rstep %d of %zu: %s   ", s.number, w.part.steps.size(), s.kind.c_str());
    };
    w.regen = engine.regenerate(w.part, hooks);
    if (talk) std::fprintf(stderr, "\rmeasuring …            ");
    Measurer measurer;
    auto measures = measurer.measure(w.part, w.regen.state, *materials, {walls, {}});
    if (talk) std::fprintf(stderr, "\r                        \r");
    if (!measures) return measures.error();
    w.measures = std::move(*measures);
    return w;
}

bool stepsFail(const RegenResult& regen) {
    return std::any_of(regen.steps.begin(), regen.steps.end(), [](const StepReport& s) { return !s.ok; });
}

void printFailedSteps(const Worked& w, std::FILE* to) {
    for (const StepReport& s : w.regen.steps)
        if (!s.ok)
            std::fprintf(to, "■ step %d, %s: %s\n", s.number, s.kind.c_str(), s.error->sentence.c_str());
}

/// Text padded to a width in characters, not bytes.
std::string padded(const std::string& text, std::size_t width) {
    std::size_t count = 0;
    for (const char c : text) count += (static_cast<unsigned char>(c) & 0xC0) != 0x80;
    return text + std::string(width > count ? width - count : 1, ' ');
}

/// Runs the verb again in a process of its own: a crash of the kernel is then only an error.
int guarded(const Options& options, const std::function<int()>& verb) {
    std::fflush(nullptr);
    const pid_t child = ::fork();
    if (child < 0) return complain({"guard.fork", "No second process could be started.", {}, {}, -1});
    if (child == 0) {
        ::alarm(600);
        const int code = verb();
        std::fflush(nullptr);
        ::_exit(code);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    if (WIFEXITED(status)) return WEXITSTATUS(status);
    std::fprintf(stderr, "The geometry kernel crashed or took over ten minutes on \"%s\".\n",
                 options.file.c_str());
    return kBadInput;
}

template <class Verb>
int run(const Options& options, Verb verb) {
    return options.guard ? guarded(options, verb) : verb();
}

} // namespace

int check(const Options& options) {
    return run(options, [&] {
        auto w = work(options, true);
        if (!w) return complain(w.error());
        bool fails = stepsFail(w->regen);
        for (const MeasuredTarget& t : w->measures.targets)
            fails = fails || t.verdict == Verdict::Fails || (t.verdict == Verdict::None && !t.value);
        if (options.json) {
            std::printf("%s\n", targetsJson(w->part, w->measures).dump(1).c_str());
            printFailedSteps(*w, stderr);
            return fails ? kFails : kHolds;
        }
        std::printf("%s: proof board, %s %s\n", w->part.name.c_str(), w->part.brief.process.c_str(),
                    w->part.brief.material.c_str());
        printFailedSteps(*w, stdout);
        for (const MeasuredTarget& t : w->measures.targets) {
            const std::string value =
                t.value ? formatMeasure(*t.value, t.dimension, w->part.brief.units) : "–";
            std::printf("%s %s%s%s%s\n", verdictSign(t.verdict).c_str(), padded(t.label, 18).c_str(),
                        padded(value, 12).c_str(), padded(t.target.allowed, 16).c_str(),
                        (t.where + (t.note.empty() ? "" : "  " + t.note)).c_str());
        }
        if (!w->part.brief.caution.empty()) std::printf("Caution: %s\n", w->part.brief.caution.c_str());
        return fails ? kFails : kHolds;
    });
}

int measure(const Options& options) {
    return run(options, [&] {
        auto w = work(options, true);
        if (!w) return complain(w.error());
        if (options.json) {
            std::printf("%s\n", measuresJson(w->part, w->regen, w->measures).dump(1).c_str());
            return stepsFail(w->regen) ? kFails : kHolds;
        }
        printFailedSteps(*w, stdout);
        for (const BodyMeasures& b : w->measures.bodies) {
            std::printf("%s, %s\n", b.name.c_str(), b.material.c_str());
            std::printf("  mass     %.2f g\n  volume   %.2f cm³\n  area     %.2f cm²\n", b.mass.mass,
                        b.mass.volume / 1000, b.mass.area / 100);
            std::printf("  centre   %.2f, %.2f, %.2f mm\n", b.mass.centre.x, b.mass.centre.y,
                        b.mass.centre.z);
            if (b.ray.any)
                std::printf("  wall     %.2f to %.2f mm by ray\n", b.ray.thinnest.value,
                            b.ray.thickest.value);
            if (b.ball.any)
                std::printf("           %.2f to %.2f mm by ball\n", b.ball.thinnest.value,
                            b.ball.thickest.value);
            if (b.brim.holdsAnything) std::printf("  holds    %.1f ml to the brim\n", b.brim.volume / 1000);
        }
        return stepsFail(w->regen) ? kFails : kHolds;
    });
}

int exportPart(const Options& options) {
    return run(options, [&] {
        auto part = loadPart(options.file);
        if (!part) return complain(part.error());
        Engine engine;
        const auto regen = engine.regenerate(*part);
        std::vector<NamedBody> bodies;
        for (const auto& [id, body] : regen.state.bodies) bodies.push_back({body.name, body.value});
        const auto done = exportBodies(bodies, part->name, options.to);
        if (!done) return complain(done.error());
        Worked w{*part, regen, {}};
        printFailedSteps(w, stderr);
        return stepsFail(regen) ? kFails : kHolds;
    });
}

} // namespace gc::cli
