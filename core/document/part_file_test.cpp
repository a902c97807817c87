#include "core/base/file.hpp"
#include "core/document/part_file.hpp"
#include "tests/support/seeded.hpp"
#include "tests/support/temporary_folder.hpp"

#include <catch2/catch.hpp>

#include <unistd.h>

using namespace gc;

namespace {

std::string demoText() {
    auto text = readFile("demo/herb-pot.goodcurve");
    REQUIRE(text.ok());
    return *text;
}

} // namespace

TEST_CASE("A part survives being written and read, and its text is stable") {
    const auto part = readPart(demoText());
    REQUIRE(part.ok());
    const std::string once = writePart(*part);
    const auto again = readPart(once);
    REQUIRE(again.ok());
    CHECK(writePart(*again) == once);
    CHECK(again->steps == part->steps);
    CHECK(again->values == part->values);
    CHECK(again->brief.targets == part->brief.targets);
    CHECK(again->nextId == 7);
    // One station a line, one short step a line: a difference reads like the sheet.
    CHECK_THAT(once,
               Catch::Matchers::Contains("\n  {\"id\": 4,") || Catch::Matchers::Contains("\n  {\"id\":4,"));
}

TEST_CASE("Faults of a part file are named by their place") {
    struct Row {
        const char* text;
        const char* code;
        const char* says;
    };
    const Row rows[] = {
        {"", "part.syntax", "empty"},
        {"{\"format\": \"good-curve part\", \"version\": 1, \"na", "part.syntax", "cut off"},
        {"hello", "part.syntax", "damaged"},
        {"[]", "part.format", "not a Good Curve part"},
        {R"({"format":"good-curve part","version":9})", "part.newer", "newer"},
        {R"({"format":"good-curve part"})", "part.format", "version"},
        {R"({"format":"good-curve part","version":1,"steps":5})", "part.content", "list"},
        {R"({"format":"good-curve part","version":1,"steps":[{"id":1,"kind":"melt"}]})", "part.content",
         "melt"},
        {R"({"format":"good-curve part","version":1,"steps":[{"kind":"shell"}]})", "part.content", "step 1"},
        {R"({"format":"good-curve part","version":1,"steps":[{"id":1,"kind":"fillet","edges":["edge 7"]}]})",
         "part.content", "edge 7"},
        {R"({"format":"good-curve part","version":1,"steps":[{"id":1,"kind":"shell"},{"id":1,"kind":"shell"}]})",
         "part.content", "same id"},
        {R"({"format":"good-curve part","version":1,"brief":{"targets":[{"measure":"beauty","allowed":"1"}]}})",
         "part.content", "beauty"},
        {R"({"format":"good-curve part","version":1,"brief":{"units":{"length":"g"}}})", "part.content",
         "unit"},
        {R"({"format":"good-curve part","version":1,"steps":[{"id":1,"kind":"outline","stations":[{"height":3}]}]})",
         "part.content", "station row 1"},
    };
    for (const Row& row : rows) {
        INFO(row.text);
        const auto r = readPart(row.text);
        REQUIRE_FALSE(r.ok());
        CHECK(r.error().code == row.code);
        CHECK_THAT(r.error().sentence, Catch::Matchers::Contains(row.says));
    }
    CHECK_FALSE(readPart(std::string(100000, '[')).ok());
    CHECK(loadPart("/nonexistent.goodcurve").error().code == "file.missing");
}

TEST_CASE("Two seconds of truncated and garbled part files never do more than fail politely") {
    const std::string good = demoText();
    for (std::size_t n = 0; n + 2 < good.size(); n += 7) CHECK_FALSE(readPart(good.substr(0, n)).ok());
    auto random = test::seeded(11U);
    for (int trial = 0; trial < test::rounds(400); ++trial) {
        std::string bad = good;
        for (int k = 1 + static_cast<int>(random() % 6); k > 0; --k) {
            const std::size_t at = random() % bad.size();
            switch (random() % 4) {
            case 0:
                bad[at] = static_cast<char>(random());
                break;
            case 1:
                bad.erase(at, random() % 20);
                break;
            case 2:
                bad.insert(at, std::string(random() % 4, "{}[]\",:0"[random() % 8]));
                break;
            default:
                std::swap(bad[at], bad[random() % bad.size()]);
                break;
            }
            if (bad.empty()) bad = " ";
        }
        const auto r = readPart(bad);
        if (r)
            CHECK_FALSE(writePart(*r).empty());
        else
            CHECK_FALSE(r.error().sentence.empty());
    }
}

TEST_CASE("Saving replaces the file whole or leaves the old one") {
    const test::TemporaryFolder own;
    const auto& folder = own.path();
    const auto path = folder / "pot.goodcurve";
    const auto part = readPart(demoText());
    REQUIRE(savePart(*part, path).ok());
    CHECK(loadPart(path)->name == "Herb pot");
    CHECK(std::distance(std::filesystem::directory_iterator(folder), {}) == 1);
    const auto refused = savePart(*part, folder / "missing" / "pot.goodcurve");
    REQUIRE_FALSE(refused.ok());
    CHECK(refused.error().code == "file.unwritable");
}

TEST_CASE("A file with keys or values without number is told at once") {
    std::string keys = R"({"format": "good-curve part", "version": 1)";
    for (int i = 0; i < 60000; ++i) keys += ", \"key" + std::to_string(i) + "\": 1";
    CHECK_FALSE(readPart(keys + "}").ok());
    std::string values = R"({"format": "good-curve part", "version": 1, "values": [0)";
    for (int i = 0; i < 4000000; ++i) values += ",1";
    CHECK_FALSE(readPart(values + "]}").ok());
}

TEST_CASE("Whatever is taken as an edit can be saved and opened again, to the letter") {
    auto random = test::seeded(41U);
    const test::TemporaryFolder folder;
    const std::string file = folder.file("a.goodcurve");
    const auto between = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    const auto word = [&] {
        static const char* const kWords[] = {"wall",        "Ümlaut", "a\"b", "x\\y",  "<&>",  "\xE9 latin",
                                             "tab\there",   "",       "\x01", "😀 pot", "1 mm", "no\0thing",
                                             "line\nbreak", "⟦step⟧"};
        return std::string(kWords[random() % std::size(kWords)]);
    };
    int taken = 0, refused = 0;
    for (int round = 0; round < test::rounds(400); ++round) {
        Part before = *loadPart(random() % 2 ? "demo/saucer.goodcurve" : "demo/seed-box.goodcurve");
        Part now = before;
        switch (random() % 6) {
        case 0:
            now.name = word();
            break;
        case 1:
            now.values.push_back({word(), word(), word()});
            break;
        case 2:
            now.brief.purpose = word();
            now.brief.targets.push_back({"mass", word(), word()});
            break;
        case 3: {
            Drawing d = *drawingOf(now.steps[0]);
            const double far = std::pow(10, between(0, 8));
            for (DrawnPoint& p : d.points) p.at = p.at * far;
            if (random() % 4 == 0) d.points[0].at.x = std::nan("");
            now.steps[0].slots["drawing"] = DrawingSlot(d);
            break;
        }
        case 4:
            attach(now, word() + ".step", SharedText(word() + std::string(random() % 1000, 'x')));
            break;
        default:
            now.steps[random() % now.steps.size()].slots["name"] = word();
        }
        if (whyNotReadable(now, before)) {
            ++refused;
            continue;
        }
        ++taken;
        const auto done = savePart(now, file);
        INFO(writePart(now).substr(0, 400));
        REQUIRE(done.ok());
        const auto back = loadPart(file);
        REQUIRE(back.ok());
        CHECK(writePart(*back) == writePart(now));
    }
    CHECK(taken > 100);
    CHECK(refused > 20);
}
