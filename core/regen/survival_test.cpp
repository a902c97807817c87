// What references mean after edits of the shipped parts: steps switched off, put in between and swapped,
// strokes added. Each is right, or somebody is asked or told; none means something else in silence.

#include "core/document/part_file.hpp"
#include "core/document/slot_trait.hpp"
#include "core/steps/shared/find_items.hpp"
#include "tests/support/probe.hpp"
#include "tests/support/seeded.hpp"
#include "tests/support/shipped.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <map>
#include <set>

using namespace gc;
using namespace gc::test;

namespace {

/// Where a reference's faces or edges are; nothing where it does not resolve.
std::optional<std::vector<Vec3>> placesOf(const std::string& reference, bool edges, const ModelState& state) {
    FreeReader reader(state);
    const auto found = edges ? findEdges({reference}, reader) : findFaces({reference}, reader);
    if (!found) return std::nullopt;
    std::vector<Vec3> out;
    for (const int i : found->items) out.push_back(found->body.shape().middleOf({i}, edges));
    return out;
}

/// Every place of one is a place of the other, to a distance.
bool within(const std::vector<Vec3>& a, const std::vector<Vec3>& b, double far) {
    return std::all_of(a.begin(), a.end(), [&](Vec3 p) {
        return std::any_of(b.begin(), b.end(), [&](Vec3 q) { return length(p - q) <= far; });
    });
}

struct Tally {
    int same = 0, moved = 0, refused = 0, told = 0;
    std::vector<std::string> wrong;
    double far = 0.25; ///< of the part's size: how far what is meant may move along

    /// \param strict no geometry before the step is another than before
    void add(const std::string& what, const Part& was, const RegenResult& before, const Part& now,
             const RegenResult& after, bool strict) {
        for (std::size_t k = 0; k < now.steps.size(); ++k) {
            const Step& step = now.steps[k];
            const int place = was.placeOf(step.id);
            const StepReport& report = after.steps[k];
            const StepWords* words = findStepWords(step.kind);
            if (place == 0 || report.off || !words) continue;
            const auto k0 = static_cast<std::size_t>(place - 1);
            if (!before.steps[k0].ok) continue;
            for (const SlotWords& s : words->slots) {
                const auto picks = traitOf(s.type).picks;
                const bool edges = picks == SlotTrait::Picks::Edges;
                if (!edges && picks != SlotTrait::Picks::Faces) continue;
                for (const std::string& r : step.references(s.key)) {
                    const auto then = placesOf(r, edges, before.before[k0]);
                    if (!then) continue;
                    if (!report.ok) {
                        ++refused;
                        continue;
                    }
                    const auto here = placesOf(r, edges, after.before[k]);
                    if (here && here->size() == then->size() && within(*here, *then, 1e-3)) {
                        ++same;
                        continue;
                    }
                    const double size = [&] {
                        Box all;
                        for (const auto& [id, b] : before.before[k0].bodies) {
                            const Box box = looseEnvelope(b.value);
                            all.add(box.low), all.add(box.high);
                        }
                        return length(all.size());
                    }();
                    if (!report.notes.empty())
                        ++told;
                    else if (!strict && here && within(*here, *then, far * size))
                        ++moved;
                    else
                        wrong.push_back(what + ": " + r + " of step " + std::to_string(place));
                }
            }
        }
    }
};

Drawing withStroke(Drawing d, bool helper) {
    const int line = d.draw(StrokeKind::Line, {{1, 1}, {2.5, 3}});
    for (Stroke& s : d.strokes)
        if (s.id == line) s.helper = helper;
    return d;
}

/// Every number of a part, each by a factor: sizes in sentences, named values, dimensions of drawings.
std::vector<std::pair<std::string, Part>> scaledNumbers(const Part& p, const std::string& factor) {
    std::vector<std::pair<std::string, Part>> out;
    const auto scaled = [&](const std::string& text) { return "(" + text + ") * " + factor; };
    for (std::size_t v = 0; v < p.values.size(); ++v) {
        Part q = p;
        q.values[v].expression = scaled(q.values[v].expression);
        out.emplace_back(p.values[v].name + " by " + factor, std::move(q));
    }
    for (std::size_t k = 0; k < p.steps.size(); ++k) {
        const std::string place = "step " + std::to_string(k + 1) + " ";
        for (const SlotWords& s : findStepWords(p.steps[k].kind)->slots) {
            const std::string text = p.steps[k].text(s.key);
            if (text.empty() || (s.type != SlotType::Quantity && s.type != SlotType::Count)) continue;
            Part q = p;
            q.steps[k].slots[s.key] = s.type == SlotType::Count ? "(" + text + ") + 1" : scaled(text);
            out.emplace_back(place + s.key + " by " + factor, std::move(q));
        }
        const Drawing* drawing = drawingOf(p.steps[k]);
        for (std::size_t r = 0; drawing && r < drawing->relations.size(); ++r) {
            const Relation& relation = drawing->relations[r];
            if (!wordsOf(relation.kind).sized || relation.readOnly) continue;
            Drawing changed = *drawing;
            changed.relations[r].expression = scaled(relation.expression);
            Part q = p;
            for (auto& [key, value] : q.steps[k].slots.own())
                if (std::holds_alternative<DrawingSlot>(value)) value = DrawingSlot(changed);
            out.emplace_back(place + relation.expression + " by " + factor, std::move(q));
        }
    }
    return out;
}

} // namespace

TEST_CASE("References of the shipped parts survive every number made smaller and larger") {
    std::mt19937 random = seeded(97);
    std::vector<std::pair<const char*, std::pair<std::string, Part>>> edits;
    for (const char* name : kDemos)
        for (const char* factor : {"0.7", "0.9", "1.1", "1.3"})
            for (auto& edit : scaledNumbers(demo(name), factor)) edits.emplace_back(name, std::move(edit));
    const std::size_t all = edits.size();
    if (!std::getenv("GC_DEEP")) {
        std::shuffle(edits.begin(), edits.end(), random);
        edits.resize(24);
    }
    std::map<std::string, RegenResult> before;
    std::map<std::string, Engine> engines;
    for (const char* name : kDemos) before.emplace(name, engines[name].regenerate(demo(name)));
    Tally tally;
    tally.far = 0.45;
    for (const auto& [name, edit] : edits)
        tally.add(std::string(name) + ", " + edit.first, demo(name), before.at(name), edit.second,
                  engines[name].regenerate(edit.second), false);
    WARN(edits.size() << " of " << all << " edits: " << tally.same << " references the same, " << tally.moved
                      << " moved along, " << tally.told << " told, " << tally.refused
                      << " of steps that refuse, " << tally.wrong.size() << " silently wrong");
    for (const std::string& w : tally.wrong) UNSCOPED_INFO(w);
    CHECK(tally.wrong.empty());
    CHECK(tally.same + tally.moved > 40);
}

TEST_CASE("References of the shipped parts survive edits of other steps, or say that they do not") {
    // Each takes a third of a second: here a third of them, others from seed to seed.
    const bool deep = std::getenv("GC_DEEP");
    std::mt19937 random = seeded(98);
    Tally tally;
    int edits = 0;
    for (const char* name : kDemos) {
        const auto loaded = loadPart(std::string("demo/") + name + ".goodcurve");
        REQUIRE(loaded.ok());
        const Part& p = *loaded;
        Engine engine;
        const auto before = engine.regenerate(p);
        REQUIRE(allFine(before));
        const auto judge = [&](const std::string& what, const Part& q, bool strict) {
            if (!deep && random() % 3 != 0) return;
            ++edits;
            tally.add(std::string(name) + ", " + what, p, before, q, engine.regenerate(q), strict);
        };
        for (std::size_t k = 0; k < p.steps.size(); ++k) {
            const std::string place = std::to_string(k + 1);
            Part off = p;
            off.steps[k].off = true;
            judge("step " + place + " off", off, false);
            Part more = p;
            Step plane = newStep(more, "plane");
            more.steps.insert(more.steps.begin() + static_cast<std::ptrdiff_t>(k), plane);
            judge("a plane before step " + place, more, true);
            if (k + 1 < p.steps.size()) {
                Part swapped = p;
                std::swap(swapped.steps[k], swapped.steps[k + 1]);
                judge("steps " + place + " and the next swapped", swapped, false);
            }
            if (drawingOf(p.steps[k]))
                for (const bool helper : {true, false}) {
                    Part drawn = p;
                    for (auto& [key, value] : drawn.steps[k].slots.own())
                        if (auto* held = std::get_if<DrawingSlot>(&value))
                            value = DrawingSlot(withStroke(**held, helper));
                    judge("a stroke more in step " + place, drawn, true);
                }
        }
    }
    WARN(edits << " edits: " << tally.same << " references the same, " << tally.moved << " moved along, "
               << tally.told << " told, " << tally.refused << " of steps that refuse, " << tally.wrong.size()
               << " silently wrong");
    for (const std::string& w : tally.wrong) UNSCOPED_INFO(w);
    CHECK(tally.wrong.empty());
    CHECK(tally.same > 200);
}
