#include "cli/commands.hpp"

#include "cli/guard.hpp"

#include "core/base/file.hpp"
#include "core/document/aside.hpp"
#include "core/document/part_file.hpp"
#include "core/exchange/export.hpp"
#include "core/regen/measure.hpp"
#include "core/regen/report_json.hpp"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cstdio>
#include <unistd.h>

namespace gc::cli {

namespace {

constexpr int kHolds = 0, kFails = 1, kBadInput = 2;

int complain(const Error& e) {
    std::fprintf(stderr, "%s\n", e.sentence.text().c_str());
    return kBadInput;
}

struct Worked {
    Part part;
    RegenResult regen;
    PartMeasures measures;
};

void sayProgress(const char* text) {
    if (::isatty(STDERR_FILENO) != 0) std::fprintf(stderr, "\r%-40s\r%s", "", text);
}

RegenHooks hooksFor(const Watcher& watcher, std::size_t steps) {
    RegenHooks hooks;
    hooks.cancelled = [&watcher] {
        watcher.alive();
        return false;
    };
    hooks.stepStarted = [&watcher, steps](const StepReport& s) {
        const std::string where = "step " + std::to_string(s.number) + ", " + s.kind;
        watcher.doing(where);
        sayProgress((where + " of " + std::to_string(steps)).c_str());
    };
    return hooks;
}

Result<Worked> work(const Options& options, bool walls, const Watcher& watcher) {
    auto part = loadPart(options.file);
    if (!part) return part.error();
    auto materials = loadMaterials();
    if (!materials) return materials.error();
    Worked w{std::move(*part), {}, {}};
    Engine engine;
    w.regen = engine.regenerate(w.part, hooksFor(watcher, w.part.steps.size()));
    watcher.doing("measuring");
    sayProgress("measuring …");
    Measurer measurer;
    auto measures = measurer.measure(w.part, w.regen.state, *materials, {walls, [&watcher] {
                                                                             watcher.alive();
                                                                             return false;
                                                                         }});
    sayProgress("");
    if (!measures) return measures.error();
    w.measures = std::move(*measures);
    return w;
}

/// What is wrong with the bodies themselves: it counts as bad input, whatever the targets say.
std::vector<std::string> bodyFaults(const PartMeasures& measures) {
    std::vector<std::string> out;
    for (const BodyMeasures& b : measures.bodies) {
        for (const Message& fault : b.check.faults) out.push_back(b.name + ": " + fault.text());
        if (b.error) out.push_back(b.name + ": " + b.error->sentence.text());
    }
    return out;
}

/// What is asked of the part and cannot be understood: "≥ wal" with no value of that name.
std::vector<std::string> targetFaults(const PartMeasures& measures) {
    std::vector<std::string> out;
    for (std::size_t i = 0; i < measures.targets.size(); ++i)
        if (const MeasuredTarget& t = measures.targets[i]; !t.understood)
            out.push_back(std::to_string(i + 1) + ", " + t.label + " \"" + t.target.allowed +
                          "\": " + t.note.text());
    return out;
}

int codeFor(const Worked& w, bool fails) {
    if (!bodyFaults(w.measures).empty() || !targetFaults(w.measures).empty()) return kBadInput;
    return fails ? kFails : kHolds;
}

bool stepsFail(const RegenResult& regen) {
    return std::any_of(regen.steps.begin(), regen.steps.end(), [](const StepReport& s) { return !s.ok; });
}

void printTroubles(const Worked& w, std::FILE* to) {
    for (const StepReport& s : w.regen.steps)
        if (!s.ok)
            std::fprintf(to, "■ step %d, %s: %s\n", s.number, s.kind.c_str(),
                         s.error->sentence.text().c_str());
    for (const StepReport& s : w.regen.steps)
        if (s.doubt)
            std::fprintf(to, "▲ step %d, %s: %s\n", s.number, s.kind.c_str(),
                         s.doubt->sentence.text().c_str());
    for (const StepReport& s : w.regen.steps)
        for (const Message& note : s.notes)
            std::fprintf(to, "▲ step %d, %s: %s\n", s.number, s.kind.c_str(), note.text().c_str());
    for (const std::string& fault : bodyFaults(w.measures)) std::fprintf(to, "■ body %s\n", fault.c_str());
    for (const std::string& fault : targetFaults(w.measures))
        std::fprintf(to, "■ target %s\n", fault.c_str());
}

/// Text padded to a width in characters, not bytes.
std::string padded(const std::string& text, std::size_t width) {
    std::size_t count = 0;
    for (const char c : text) count += (static_cast<unsigned char>(c) & 0xC0) != 0x80;
    return text + std::string(width > count ? width - count : 1, ' ');
}

template <class Verb>
int run(const Options& options, Verb verb) {
    if (!options.guard) {
        const int code = verb(Watcher());
        return saidAll() ? code : kBadInput;
    }
    return guarded(options.file, [&](const Watcher& watcher) { return verb(watcher); });
}

} // namespace

int check(const Options& options) {
    return run(options, [&](const Watcher& watcher) {
        auto w = work(options, true, watcher);
        if (!w) return complain(w.error());
        bool fails = stepsFail(w->regen);
        for (const MeasuredTarget& t : w->measures.targets)
            fails = fails || t.verdict == Verdict::Fails || (t.verdict == Verdict::None && !t.value);
        if (options.json) {
            std::printf("%s\n", targetsJson(w->part, w->measures).dump(1).c_str());
            printTroubles(*w, stderr);
            return codeFor(*w, fails);
        }
        std::printf("%s: proof board, %s %s\n", w->part.name.c_str(), w->part.brief.process.c_str(),
                    w->part.brief.material.c_str());
        printTroubles(*w, stdout);
        for (const MeasuredTarget& t : w->measures.targets) {
            const std::string value =
                t.value ? formatMeasure(*t.value, t.dimension, w->part.brief.units) : "–";
            std::printf("%s %s%s%s%s\n", verdictSign(t.verdict).c_str(), padded(t.label, 24).c_str(),
                        padded(value, 12).c_str(), padded(t.target.allowed, 16).c_str(),
                        (t.where + (t.note.empty() ? "" : "  " + t.note.text())).c_str());
        }
        if (!w->part.brief.caution.empty()) std::printf("Caution: %s\n", w->part.brief.caution.c_str());
        return codeFor(*w, fails);
    });
}

/// In the part's own units.
void printBody(const BodyMeasures& b, const UnitSystem& units) {
    const auto in = [&](double value, Dimension dimension) {
        return formatAmount(value, units.symbolFor(dimension), 2);
    };
    const auto length = [&](double mm) { return in(mm, kLength); };
    const auto wall = [&](const char* begin, const WallField& w, const char* by) {
        if (!w.any) return;
        std::printf("%s%s to %s by %s\n", begin, length(w.thinnest.value).c_str(),
                    length(w.thickest.value).c_str(), by);
    };
    const Vec3 c = b.mass.centre;
    std::printf("%s, %s\n", b.name.c_str(), b.material.c_str());
    std::printf("  mass     %s\n  volume   %.2f cm³\n  area     %.2f cm²\n", in(b.mass.mass, kMass).c_str(),
                b.mass.volume / 1000, b.mass.area / 100);
    std::printf("  centre   %s, %s, %s\n", length(c.x).c_str(), length(c.y).c_str(), length(c.z).c_str());
    if (!b.ray.any && !b.ball.any) std::printf("  wall     none: no two sides face each other\n");
    wall("  wall     ", b.ray, "ray");
    wall("           ", b.ball, "ball");
    if (b.deviation)
        std::printf("  away     %s inside, %s outside of %s at most; 95 %% of the area within %s\n",
                    length(-b.deviation->inside.value).c_str(), length(b.deviation->outside.value).c_str(),
                    b.deviation->from.c_str(), length(b.deviation->within).c_str());
    if (b.brim.holdsAnything) std::printf("  holds    %s to the brim\n", in(b.brim.volume, kVolume).c_str());
}

int measure(const Options& options) {
    return run(options, [&](const Watcher& watcher) {
        auto w = work(options, true, watcher);
        if (!w) return complain(w.error());
        if (options.json) {
            std::printf("%s\n", measuresJson(w->part, w->regen, w->measures).dump(1).c_str());
            return codeFor(*w, stepsFail(w->regen));
        }
        printTroubles(*w, stdout);
        for (const BodyMeasures& b : w->measures.bodies) printBody(b, w->part.brief.units);
        return codeFor(*w, stepsFail(w->regen));
    });
}

int exportPart(const Options& options) {
    return run(options, [&](const Watcher& watcher) {
        auto part = loadPart(options.file);
        if (!part) return complain(part.error());
        if (!options.toBookmark) part->bookmark = -1;
        Engine engine;
        Worked w{*part, engine.regenerate(*part, hooksFor(watcher, part->steps.size())), {}};
        sayProgress("");
        printTroubles(w, stderr);
        if (stepsFail(w.regen) && !options.evenIfStepsFail) {
            std::fprintf(stderr,
                         "Nothing is written, for steps fail. Mend them, or say --even-if-steps-fail.\n");
            return kFails;
        }
        watcher.doing("writing " + options.to);
        std::vector<NamedBody> bodies;
        for (const auto& [id, body] : w.regen.state.bodies) {
            const auto& only = options.bodies;
            if (only.empty() ? !isAside(*part, id)
                             : std::find(only.begin(), only.end(), body.name) != only.end())
                bodies.push_back({body.name, body.value, colourOf(*part, id)});
        }
        for (const std::string& name : options.bodies)
            if (!w.regen.state.bodyNamed(name))
                return complain(errorOf("export.body", phrase("The part has no body called \"%1\".", name)));
        const auto done = exportBodies(bodies, part->name, options.to);
        if (!done) return complain(done.error());
        for (const Message& note : *done) std::fprintf(stderr, "%s\n", spoken(note.text(), *part).c_str());
        return stepsFail(w.regen) ? kFails : kHolds;
    });
}

} // namespace gc::cli
