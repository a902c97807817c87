#include "forge/protocol/messages.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

#include <chrono>
#include <cmath>
#include <functional>

using namespace gc;

namespace {

say::BodySurface twoFaces() {
    say::BodySurface m;
    m.revision = 7;
    m.body = ThingId{3, 1};
    m.content = 0xfedcba9876543210ull;
    m.faces.keys = {11, 22};
    m.faces.counts = {1, 3, 1, 0, 0, 0};
    m.faces.points = {0, 0, 0, 1, 0, 0, 0, 1, 0};
    m.faces.normals = {0, 0, 1, 0, 0, 1, 0, 0, 1};
    m.faces.triangles = {0, 1, 2};
    m.flat = {1, 0};
    m.edgeSizes = {2, 0};
    m.edgeSmooth = {0, 1};
    m.lines = {0, 0, 0, 1, 0, 0};
    m.bends = {0, 0.5f, -0.25f};
    m.lineBends = {0, 0, 0, 0, 1, 0};
    return m;
}

/// One of every message, with something in every field.
std::vector<say::ToWindow> everyAnswer() {
    const say::Fault fault{"a.b",
                           Message("A sentence of %1.", {Message("its own")}),
                           {"wall"},
                           {{3, "radius", "1 mm", Message("1 mm works"), true, {}}},
                           4,
                           say::WhichOne{"a", {"b", "c"}},
                           Vec3{1, 2, 3}};
    say::BodyValues values;
    values.body = ThingId{3, 0};
    values.faces = twoFaces().faces;
    values.ray = {1, 2, 3}, values.ball = {1, 2, 3}, values.lean = {0, std::nanf(""), 2};
    values.away = {-0.1f, 0, 0.2f}, values.awayFrom = ThingId{2, 1}, values.outside = 0.2;
    values.rayBars = {true, 1, 2, 0, 3, {1, 2, 3}};
    say::GuidesShown guides;
    guides.planes = {{"ground", planeFacing({}, {0, 0, 1})}};
    guides.axes = {{"spindle", {0, 0, -1}, {0, 0, 9}}};
    guides.drawings = {
        {4, Plane(), {{"stroke 1 of step 4", "chain of stroke 1 of step 4", 0, 2}}, {{"1 2", {0, 1, 1, 1}}}}};
    guides.points = {0, 0, 0, 1, 1, 1};
    say::AidsShown aids;
    aids.step = 3, aids.takes = true;
    aids.handles = {{"length", false, {1, 2, 3}, {0, 0, 1}, {}, 5, 0.5, true, "way", "back"}};
    aids.points = {0, 0, 0, 1, 0, 0, 0, 1, 0}, aids.normals = {0, 0, 1, 0, 0, 1, 0, 0, 1};
    aids.triangles = {0, 1, 2};
    aids.edgeSizes = {2}, aids.lines = {0, 0, 0, 1, 0, 0};
    aids.fileBodies = {{"lid", "2 × 3 × 1 mm", false, 3, 1}, {"pin", "1 × 1 × 9 mm", true, 0, 0}};
    aids.bodyPoints = {0, 0, 0, 2, 0, 0, 0, 3, 1}, aids.bodyTriangles = {0, 1, 2};
    say::TargetFared target;
    target.measure = "mass";
    target.value = 2.5;
    target.at = Vec3{1, 2, 3};
    return {
        say::Alive{"build"},
        say::StepStarted{1, 2, true},
        say::StepFared{1, 2, 3, false, true, false, true, 1.5, {Message("a note")}, fault},
        say::StationsFared{1, 2, {0.1, 0.2}, 3, {1, 2}},
        twoFaces(),
        values,
        say::BodiesShown{1, {{ThingId{3, 1}, "lid", "LID-04", "#cc1919"}}},
        guides,
        say::LookShown{1, 4, {{{1, 2, 3}, {"corner"}}}, {{"cut of x", "line", 0, 1, {{0, 1}}, {2}}}},
        aids,
        say::MeasuresTaken{1, true, {target}, 2, 3, {{ThingId{3, 0}, 2.5, "polypropylene"}}},
        say::MarginsTaken{1, {{2, -3.5}}},
        say::RemedyTried{1,
                         2,
                         say::RemedyWords{2, "radius", "1 mm", Message("works"), true, {}},
                         {say::RemedyWords{2, "", "", Message("put before 3"), true, 3}}},
        say::SinceFound{1, {0, 4}},
        say::Failed{1, fault},
        say::Done{1, true},
        say::ItemNamed{5, {"wall of step 2"}, true},
        say::ItemsFound{5, {{ThingId{1, 0}, true, 4}}},
        say::Exported{5, "/tmp/x.stl", std::nullopt, {"a note"}, {3}, false},
        say::Solved{5, 1, {{{2, "wall", "2 mm", Message("Set it"), true, {}}, {{"Mass", "3 g"}}, 1}}, false},
        say::ReadingsTaken{5, {{"distance", "3 mm", 3, Vec3{1, 2, 3}, Vec3{1, 2, 6}}}, fault}};
}

std::vector<say::ToForge> everyQuestion() {
    say::PartToBuild part;
    part.revision = 3;
    part.text = "{}";
    part.files = {{"a.step", 0xffffffffffffffffull}};
    return {say::FileContent{9, std::string("\0binary\xff", 8)},
            part,
            say::LookFor{true, 4, 7},
            say::NameItem{1, ThingId{2, 0}, 99, true, 5, 7},
            say::FindItems{2, {"wall of step 2"}},
            say::ExportBodies{3, 4, "/tmp/x.step", true, {ThingId{2, 1}}},
            say::SolveTarget{4, 5, 6},
            say::TakeReadings{5, {"face: top of step 2", "body: lid"}},
            say::StopAsking{4},
            say::Misbehave{"hang"}};
}

} // namespace

TEST_CASE("Frames come through whole however the pipe cuts them") {
    std::string stream;
    for (int i = 0; i < 20; ++i)
        stream += encodeFrame(
            {{{"type", "mesh"}, {"n", i}}, {std::string(std::size_t(i) * 37, char('a' + i)), ""}});
    auto random = test::seeded(4U);
    FrameReader reader;
    int seen = 0;
    for (std::size_t at = 0; at < stream.size();) {
        const std::size_t n = std::min<std::size_t>(1 + random() % 90, stream.size() - at);
        reader.feed(stream.data() + at, n);
        at += n;
        for (;;) {
            const auto f = reader.next();
            REQUIRE(f.ok());
            if (!f->has_value()) break;
            CHECK((*f)->header["n"] == seen);
            CHECK((*f)->blobs[0] == std::string(std::size_t(seen) * 37, char('a' + seen)));
            ++seen;
        }
    }
    CHECK(seen == 20);
}

TEST_CASE("A frame is looked at once, however many pieces it comes in") {
    // A header of 2,000 faces' references before 20 MB: parsed anew at each piece it took a hundred times as
    // long.
    Frame frame{{{"type", "mesh"}, {"faces", nlohmann::json::array()}}, {std::string(20u << 20, 'x')}};
    for (int i = 0; i < 2000; ++i)
        frame.header["faces"].push_back(
            {"fillet between wall of step 2 and floor of step 2", "all edges of it"});
    const std::string stream = encodeFrame(frame);
    const auto timed = [&](std::size_t piece) {
        const auto start = std::chrono::steady_clock::now();
        FrameReader reader;
        int whole = 0;
        for (std::size_t at = 0; at < stream.size(); at += piece) {
            reader.feed(stream.data() + at, std::min(piece, stream.size() - at));
            const auto f = reader.next();
            REQUIRE(f.ok());
            whole += f->has_value();
        }
        CHECK(whole == 1);
        return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    };
    const double once = timed(stream.size()), pieces = timed(4096);
    CHECK(pieces < 10 * once + 0.2);
}

TEST_CASE("Every message comes out as it went in") {
    const auto answers = everyAnswer();
    CHECK(answers.size() == std::variant_size_v<say::ToWindow>);
    for (std::size_t i = 0; i < answers.size(); ++i) {
        CHECK(answers[i].index() == i);
        const Frame frame = say::encode(answers[i]);
        INFO(frame.type());
        const auto back = say::decodeToWindow(frame);
        REQUIRE(back.ok());
        CHECK(encodeFrame(say::encode(*back)) == encodeFrame(frame));
    }
    const auto questions = everyQuestion();
    CHECK(questions.size() == std::variant_size_v<say::ToForge>);
    for (const auto& q : questions) {
        const Frame frame = say::encode(q);
        const auto back = say::decodeToForge(frame);
        REQUIRE(back.ok());
        CHECK(encodeFrame(say::encode(*back)) == encodeFrame(frame));
    }
}

TEST_CASE("Messages that say less or other than they should are errors in words, never nonsense") {
    const auto refused = [](const Frame& frame) {
        const auto r = say::decodeToWindow(frame);
        REQUIRE_FALSE(r.ok());
        CHECK(r.error().sentence.text().size() > 30);
    };
    Frame guides = say::encode(everyAnswer()[7]);
    guides.header["planes"][0]["frame"] = {1, 2, 3};
    refused(guides);
    guides.header["planes"][0]["frame"] = "ground";
    refused(guides);
    Frame measures = say::encode(everyAnswer()[10]);
    measures.header["mass"] = "heavy";
    refused(measures);
    Frame step = say::encode(everyAnswer()[2]);
    step.header["id"] = 1ull << 40;
    refused(step);
    step = say::encode(everyAnswer()[2]);
    step.header.erase("notes");
    refused(step);
    refused(Frame{{{"type", "no such thing"}}, {}});
    refused(Frame{{{"type", 3}}, {}});
    for (const auto& spoil : std::vector<std::function<void(say::BodySurface&)>>{
             [](auto& m) { m.faces.triangles[1] = 3; }, [](auto& m) { m.faces.points.pop_back(); },
             [](auto& m) { m.faces.counts[3] = 2; }, [](auto& m) { m.faces.counts.pop_back(); },
             [](auto& m) { m.flat.pop_back(); }, [](auto& m) { m.edgeSizes[0] = 0xffffffffu; },
             [](auto& m) { m.edgeSmooth.clear(); }, [](auto& m) { m.faces.counts[2] = 0xffffffffu; },
             [](auto& m) { m.faces.counts[1] = 4; }, [](auto& m) { m.bends.pop_back(); },
             [](auto& m) { m.lineBends.clear(); }}) {
        say::BodySurface m = twoFaces();
        spoil(m);
        refused(say::encode(say::ToWindow(m)));
    }
}

TEST_CASE("A frame that is nested without end is refused before it is read") {
    const auto framed = [](const std::string& header) {
        std::string out;
        const auto size = static_cast<std::uint32_t>(header.size()), mark = 0x32464347U;
        const std::uint64_t blobs = 0;
        out.append(reinterpret_cast<const char*>(&size), sizeof size);
        out.append(reinterpret_cast<const char*>(&blobs), sizeof blobs);
        out.append(reinterpret_cast<const char*>(&mark), sizeof mark);
        return out + header;
    };
    const auto refused = [&](const std::string& header) {
        FrameReader reader;
        const std::string bytes = framed(header);
        reader.feed(bytes.data(), bytes.size());
        return !reader.next().ok();
    };
    const std::string lists(4u << 20, '\x81'), endless(4u << 20, '\x9f'), tags(4u << 20, '\xc1');
    CHECK(refused(lists + '\x01'));
    CHECK(refused(endless + std::string(4u << 20, '\xff')));
    CHECK(refused(tags + '\x01'));
    std::string maps;
    for (int i = 0; i < 1000000; ++i) maps += "\xa1\x61\x61";
    CHECK(refused(maps + '\x01'));
    CHECK(refused(std::string("\xa1\x61\x61\x9b\x7f\xff\xff\xff\xff\xff\xff\xff", 12))); // a list of 2^63
    // As deep as our own messages go is fine.
    nlohmann::json deep = 1;
    for (int i = 0; i < 20; ++i) deep = nlohmann::json::array({deep});
    Frame frame{{{"type", "x"}, {"deep", deep}}, {}};
    FrameReader reader;
    const std::string bytes = encodeFrame(frame);
    reader.feed(bytes.data(), bytes.size());
    const auto read = reader.next();
    REQUIRE(read.ok());
    REQUIRE(read->has_value());
    CHECK((*read)->header["deep"] == deep);
}

TEST_CASE("Garbled streams end in an error or in silence, never in nonsense") {
    auto random = test::seeded(8U);
    std::vector<std::string> good;
    for (const auto& m : everyAnswer()) good.push_back(encodeFrame(say::encode(m)));
    for (int k = 0; k < test::rounds(20000); ++k) {
        std::string bad = good[random() % good.size()];
        switch (k % 3) {
        case 0:
            for (int i = 0; i < 3; ++i) bad[random() % bad.size()] = char(random());
            break;
        case 1:
            bad.resize(random() % bad.size());
            break;
        default:
            bad.insert(random() % bad.size(), 1, char(random()));
        }
        FrameReader reader;
        reader.feed(bad.data(), bad.size());
        for (int frames = 0; frames < 4; ++frames) {
            const auto f = reader.next();
            if (!f || !f->has_value()) break;
            const auto m = say::decodeToWindow(**f);
            if (!m) {
                CHECK_FALSE(m.error().sentence.empty());
                break;
            }
            if (const auto* surface = std::get_if<say::BodySurface>(&*m)) CHECK(surface->wrong().empty());
        }
    }
}
