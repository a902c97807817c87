// What every kind of step is held to.

#include "core/document/part_file.hpp"
#include "tests/support/probe.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

bool redoes(Engine& engine, const Part& part, int step) {
    const auto r = engine.regenerate(part);
    const StepReport& s = r.steps.at(static_cast<std::size_t>(part.placeOf(step) - 1));
    INFO((s.error ? s.error->sentence.text() : std::string()));
    CHECK(s.ok);
    return !s.cached;
}

} // namespace

TEST_CASE("Of every kind: what the result shows makes it anew, anything else does not") {
    for (const StepKind& kind : allKinds()) {
        INFO(kind.key());
        REQUIRE(probes().count(kind.key()) == 1); // beside its test: see probe.hpp
        const Probe probe = probes().at(kind.key())();
        Engine engine;
        CHECK(redoes(engine, probe.part, probe.step));
        for (const auto& [what, slots] : probe.shows) {
            Part p = probe.part;
            for (const auto& [key, value] : slots) p.findStep(probe.step)->slots[key] = value;
            INFO("changed: " << what);
            CHECK(redoes(engine, p, probe.step));
        }
        for (const auto& [what, slots] : probe.hides) {
            Part p = probe.part;
            for (const auto& [key, value] : slots) p.findStep(probe.step)->slots[key] = value;
            INFO("changed: " << what);
            CHECK_FALSE(redoes(engine, p, probe.step));
        }
        for (const SlotWords& slot : kind.words.slots) {
            if (!slot.names) continue;
            Part p = probe.part;
            INFO("renamed: " << slot.key);
            CHECK(renameThing(p, probe.step, slot.key, "quite another name").empty());
            CHECK_FALSE(redoes(engine, p, probe.step));
        }
        Part p = probe.part; // another body beside it is no business of the step
        addCup(p, 90, "neighbour");
        std::rotate(p.steps.begin(), p.steps.end() - 3, p.steps.end());
        CHECK_FALSE(redoes(engine, p, probe.step));
        p.brief.targets = {{"mass", "≤ 5 g"}};
        p.values.push_back({"unused", "3 mm", ""});
        CHECK_FALSE(redoes(engine, p, probe.step));
        // The same size in other words is the same size.
        for (const SlotWords& slot : kind.words.slots) {
            if (slot.type != SlotType::Quantity || !isPlainNumber(p.findStep(probe.step)->text(slot.key)))
                continue;
            Part q = p;
            Step* s = q.findStep(probe.step);
            s->slots[slot.key] = "(" + s->text(slot.key) + ") * 1";
            INFO("said otherwise: " << slot.key);
            CHECK_FALSE(redoes(engine, q, probe.step));
        }
    }
}

TEST_CASE("Of every kind: its words are whole, its file comes back, its sentence names what it makes") {
    for (const StepKind& kind : allKinds()) {
        INFO(kind.key());
        const StepWords& w = kind.words;
        for (const std::string* s : {&w.verb, &w.purpose, &w.group, &w.stage}) CHECK_FALSE(s->empty());
        for (const SentencePiece& p : w.sentence)
            if (!p.slot.empty()) CHECK(w.slot(p.slot) != nullptr);
        for (const TriedSlot& t : kind.tried) {
            CHECK(w.slot(t.slot) != nullptr);
            for (const std::string& m : t.measures) CHECK(findMeasure(m) != nullptr);
        }
        if (!kind.decidingSlot.empty()) CHECK(w.slot(kind.decidingSlot) != nullptr);
        const Probe probe = probes().at(kind.key())();
        const auto back = readPart(writePart(probe.part));
        REQUIRE(back.ok());
        CHECK(back->steps == probe.part.steps);
        const Step& step = *probe.part.findStep(probe.step);
        CHECK_FALSE(sentenceText(step, probe.part).empty());
        // Every role that its faces have is one that it says it makes.
        const auto r = Engine().regenerate(probe.part);
        for (const auto& [id, body] : r.state.bodies)
            for (int f = 0; f < faceCount(body.value); ++f)
                for (const std::string& text : referencesForFace(body.value, f)) {
                    const auto ref = parseFaceRef(text);
                    if (!ref || (*ref)->kind != FaceRef::Kind::Role || (*ref)->step != probe.step) continue;
                    INFO(text);
                    CHECK((kind.makes((*ref)->role) || (*ref)->role == kEverything));
                }
    }
}
