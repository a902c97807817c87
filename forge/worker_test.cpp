// The forge's work as the window sees it: what is asked, in which order it is answered, and by what.

#include "core/base/file.hpp"
#include "core/document/part_file.hpp"
#include "forge/worker.hpp"
#include "tests/support/forge_hand.hpp"
#include "tests/support/stl_volume.hpp"
#include "tests/support/temporary_folder.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <chrono>
#include <condition_variable>
#include <cstring>
#include <filesystem>
#include <thread>
#include <unistd.h>

using Forge = gc::test::ForgeHand;
using gc::test::TemporaryFolder;
using namespace gc;
using namespace std::chrono_literals;

namespace {

Part herbPot() {
    return *loadPart("demo/herb-pot.goodcurve");
}

std::filesystem::path scratch(const std::string& name) {
    static const TemporaryFolder own;
    return own.path() / name;
}

} // namespace

TEST_CASE("An export between two parts is of the part that it names, whole") {
    Forge forge;
    const Part pot = herbPot();
    Part thick = pot;
    thick.values[0].expression = "2.9 mm";
    const auto path = scratch("named.stl");
    forge.build(pot, 1);
    say::ExportBodies ask{7, 1, path.string(), false, {}};
    forge.post(ask);
    forge.build(thick, 2);
    const auto answer = forge.wait<say::Exported>();
    REQUIRE(answer);
    CHECK(answer->ask == 7);
    REQUIRE_FALSE(answer->stopped);
    REQUIRE_FALSE(answer->fault);
    CHECK(test::stlVolume(*readFile(path)) ==
          Approx(84000).epsilon(0.02)); // 76.1 g of 0.905 g/cm³, not the solid 750 cm³
    REQUIRE(forge.done(2));
    CHECK(forge.done(1));
    // Of a part that is gone nothing is written.
    std::filesystem::remove(path);
    forge.post(say::ExportBodies{8, 1, path.string(), false, {}});
    const auto late = forge.wait<say::Exported>([](const say::Exported& e) { return e.ask == 8; });
    REQUIRE(late);
    CHECK(late->stopped);
    CHECK_FALSE(std::filesystem::exists(path));
}

TEST_CASE("An export says which steps fail and writes only when it is told to") {
    Forge forge;
    Part p = herbPot();
    p.findStep(6)->slots["face"] = References{"lid of step 2"};
    const auto path = scratch("failing.stl");
    forge.build(p, 1);
    forge.post(say::ExportBodies{1, 1, path.string(), false, {}});
    const auto asked = forge.wait<say::Exported>();
    REQUIRE(asked);
    CHECK(asked->failingSteps == std::vector<int>{6});
    CHECK_FALSE(std::filesystem::exists(path));
    forge.post(say::ExportBodies{2, 1, path.string(), true, {}});
    const auto written = forge.wait<say::Exported>([](const say::Exported& e) { return e.ask == 2; });
    REQUIRE(written);
    CHECK(written->failingSteps.empty());
    CHECK(std::filesystem::exists(path));
    std::filesystem::remove(path);
}

TEST_CASE("Every part is answered once, however fast they come, and only the last is measured") {
    Forge forge;
    Part p = herbPot();
    constexpr int kParts = 12;
    for (int k = 1; k <= kParts; ++k) {
        p.values[0].expression = std::to_string(2.0 + 0.05 * k) + " mm";
        forge.build(p, k);
        std::this_thread::sleep_for(7ms);
    }
    REQUIRE(forge.done(kParts));
    for (int k = 1; k <= kParts; ++k)
        CHECK(forge.count<say::Done>([=](const say::Done& d) { return d.revision == k; }) == 1);
    CHECK(forge.count<say::MeasuresTaken>([](const say::MeasuresTaken& m) { return m.walls; }) == 1);
}

TEST_CASE("What is asked is answered, even where a newer part makes it pointless") {
    Forge forge;
    Part p = herbPot();
    p.values[0].expression = "1.8 mm"; // the thinnest wall fails
    forge.build(p, 1);
    REQUIRE(forge.done(1));
    forge.post(say::SolveTarget{3, 1, 2});
    forge.post(say::SolveTarget{4, 1, 2});
    forge.build(herbPot(), 2);
    REQUIRE(forge.done(2));
    for (const int ask : {3, 4}) {
        const auto s = forge.wait<say::Solved>([=](const say::Solved& m) { return m.ask == ask; }, 2s);
        REQUIRE(s);
        CHECK(s->stopped);
        CHECK(forge.count<say::Solved>([=](const say::Solved& m) { return m.ask == ask; }) == 1);
    }
    // And one that is let run finds a way; asked to stop, it stops.
    forge.build(p, 3);
    REQUIRE(forge.done(3));
    forge.post(say::SolveTarget{5, 3, 2});
    const auto found = forge.wait<say::Solved>([](const say::Solved& m) { return m.ask == 5; });
    REQUIRE(found);
    CHECK_FALSE(found->stopped);
    CHECK_FALSE(found->remedies.empty());
    forge.post(say::SolveTarget{6, 3, 2});
    forge.post(say::StopAsking{6});
    const auto stopped = forge.wait<say::Solved>([](const say::Solved& m) { return m.ask == 6; }, 5s);
    REQUIRE(stopped);
    CHECK(stopped->stopped);
}

TEST_CASE("Pointing at things is answered at once while the part is measured") {
    Forge forge;
    const Part pot = herbPot();
    forge.build(pot, 1);
    const auto surface = forge.wait<say::BodySurface>();
    REQUIRE(surface);
    REQUIRE(forge.wait<say::BodiesShown>());
    double worst = 0;
    int answers = 0;
    for (int item = 0; !forge.wait<say::Done>({}, 0ms) && item < 200; ++item) {
        const auto asked = Forge::Clock::now();
        forge.post(say::NameItem{100 + item, surface->body, surface->content, item % 2 == 1,
                                 item % static_cast<int>(surface->edgeSizes.size())});
        REQUIRE(forge.wait<say::ItemNamed>([=](const say::ItemNamed& n) { return n.ask == 100 + item; }, 5s));
        worst =
            std::max(worst, std::chrono::duration<double, std::milli>(Forge::Clock::now() - asked).count());
        ++answers;
        std::this_thread::sleep_for(3ms);
    }
    INFO(answers << " answers, the slowest after " << worst << " ms");
    CHECK(answers > 5);  // there was something to wait for
    CHECK(worst < 5000); // 50 ms are wanted; a loaded machine must not fail here
}

TEST_CASE("A face that did not change is not sent again") {
    Forge forge;
    Part pot = herbPot();
    forge.build(pot, 1);
    REQUIRE(forge.done(1));
    const auto sizes = [&](int revision) {
        std::size_t vertices = 0, patches = 0;
        for (const auto& s : forge.said())
            if (const auto* m = std::get_if<say::BodySurface>(&s.message); m && m->revision == revision) {
                vertices += m->faces.vertices();
                patches += m->faces.keys.size();
            }
        return std::pair{vertices, patches};
    };
    const auto first = sizes(1);
    pot.findStep(6)->slots["diameter"] = std::string("8 mm"); // the bores and the floor's two sides
    forge.build(pot, 2);
    REQUIRE(forge.done(2));
    const auto second = sizes(2);
    CHECK(second.second >= first.second / 2);
    CHECK(second.first > 0);
    CHECK(second.first < first.first / 2);
}

TEST_CASE("Work that takes long gives signs of life") {
    Forge forge;
    forge.build(herbPot(), 1);
    REQUIRE(forge.done(1));
    const auto said = forge.said();
    for (std::size_t i = 1; i < said.size(); ++i) CHECK(said[i].at - said[i - 1].at < 5s);
    // A part of another version is refused in words.
    say::PartToBuild other;
    other.version = say::kVersion + 1;
    other.revision = 2;
    forge.post(other);
    REQUIRE(forge.done(2));
    CHECK(forge.count<say::Failed>() == 1);
}

TEST_CASE("A part with an attached file is built from it, and the file is sent once") {
    Forge forge;
    Part pot = herbPot();
    const auto path = scratch("attached.step");
    forge.build(pot, 1);
    forge.post(say::ExportBodies{1, 1, path.string(), false, {}});
    REQUIRE(forge.wait<say::Exported>());
    Part p;
    p.attachments.push_back({"pot.step", *readFile(path)});
    std::filesystem::remove(path);
    p.steps.push_back(newStep(p, "import"));
    p.steps.back().slots["file"] = std::string("pot.step");
    forge.build(p, 2);
    REQUIRE(forge.done(2));
    say::PartToBuild again; // by its hash alone
    again.revision = 3;
    again.files = {{"pot.step", p.attachments[0].content.hash()}};
    Part bare = p;
    bare.attachments.clear();
    again.text = writePart(bare);
    forge.forget();
    forge.post(again);
    REQUIRE(forge.done(3));
    const auto step = forge.wait<say::StepFared>();
    REQUIRE(step);
    CHECK(step->ok);
    CHECK(step->cached);
}
