#include "core/inspect/deviation.hpp"
#include "tests/support/block.hpp"
#include "tests/support/measured.hpp"
#include "tests/support/sections.hpp"

#include <array>
#include <cmath>
#include <map>

using namespace gc;
using namespace gc::test;

namespace {

/// A body's triangles as a file holds them, each corner moved.
std::string stlOf(const Body& body, const std::function<Vec3(Vec3)>& moved) {
    const auto mesh = makeMesh(body, {0.06, 0.4, {}});
    REQUIRE(mesh);
    std::string out = "solid scan\n";
    const auto line = [](const char* word, Vec3 p) {
        return std::string(word) + " " + formatNumber(p.x, 9) + " " + formatNumber(p.y, 9) + " " +
               formatNumber(p.z, 9) + "\n";
    };
    for (const auto& t : mesh->triangles) {
        out += line("facet normal", {0, 0, 1}) + "outer loop\n";
        for (const std::uint32_t i : t) out += line("vertex", moved(mesh->points[i]));
        out += "endloop\nendfacet\n";
    }
    return out + "endsolid scan\n";
}
void addScan(Part& p, const std::string& stl) {
    p.attachments.push_back({"scan.stl", SharedText(stl)});
    add(p, "import", {{"file", std::string("scan.stl")}, {"body", std::string("scan")}});
}

} // namespace

TEST_CASE("A ball lies from a larger one by what it is smaller, and on which side is known") {
    const auto ball = [](double r) {
        Part p;
        Drawing d;
        d.draw(StrokeKind::Line, {{0, -r}, {0, r}});
        drawArcThrough(d, {0, -r}, {r, 0}, {0, r});
        add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(d)}});
        add(p, "revolve", {});
        return p;
    };
    for (const double off : {-0.4, 0.7}) {
        Part p = ball(10);
        const auto whole = Engine().regenerate(p);
        REQUIRE(allFine(whole));
        addScan(p, stlOf(whole.state.bodies.begin()->second.value,
                         [&](Vec3 v) { return v * ((10 + off) / 10); }));
        const auto targets = measuredTargets(p, {{"deviation", "≤ 0.5 mm"}});
        REQUIRE(targets[0].value);
        // The triangles of the scan lie within 0.06 of its ball, those measured on within 0.05 of theirs.
        CHECK(*targets[0].value == Approx(std::fabs(off)).margin(0.11));
        CHECK((targets[0].verdict == Verdict::Fails) == (off > 0.5));
    }
}

TEST_CASE("Each place of a plate lies from a scan that is bent up by as much as it was bent") {
    Part p = block(rectangle({-30, -20}, {30, 20}), "6 mm");
    const auto r = Engine().regenerate(p);
    REQUIRE(allFine(r));
    const Body& body = r.state.bodies.begin()->second.value;
    auto mesh = makeMesh(body, {0.01, 0.1, {}});
    REQUIRE(mesh);
    const SampledSurface surface = sampleSurface(*mesh, 1);
    // The scan: the same plate in small triangles, its top moved by a wave.
    TriangleMesh scan = surface.mesh;
    const auto wave = [](Vec3 v) { return 0.3 * std::sin(v.x / 8) * std::cos(v.y / 7); };
    for (Vec3& v : scan.points)
        if (v.z > 5.9) v.z += wave(v);
    std::map<std::array<long, 3>, std::uint32_t> known;
    scan.shared.clear();
    for (const Vec3& v : scan.points)
        scan.shared.push_back(
            known
                .emplace(std::array{std::lround(v.x * 1e6), std::lround(v.y * 1e6), std::lround(v.z * 1e6)},
                         static_cast<std::uint32_t>(known.size()))
                .first->second);
    const DeviationField field = deviationFrom(surface, scan);
    REQUIRE(field.away.size() == surface.mesh.points.size());
    int seen = 0;
    for (std::size_t i = 0; i < field.away.size(); ++i) {
        const Vec3 v = surface.mesh.points[i];
        if (v.z < 5.9 || std::fabs(v.x) > 28 || std::fabs(v.y) > 18) continue;
        // Square to the wave it is a little less than straight up.
        const double up = -wave(v), steep = 0.3 * std::hypot(1. / 8, 1. / 7);
        CHECK(static_cast<double>(field.away[i]) == Approx(up).margin(std::fabs(up) * steep * steep + 0.004));
        ++seen;
    }
    CHECK(seen > 500);
    CHECK(field.inside.value < -0.25);
    CHECK(field.outside.value > 0.25);
    CHECK(field.within < 0.3);
    CHECK(field.within > 0.05);
}

TEST_CASE("What is only there to compare with counts in no target about all bodies") {
    Part p = block(rectangle({-30, -20}, {30, 20}), "6 mm");
    const auto r = Engine().regenerate(p);
    addScan(p, stlOf(r.state.bodies.begin()->second.value, [](Vec3 v) { return v * 1.05; }));
    const std::vector<Target> asked{{"pieces", "1"}, {"width", "≤ 61 mm"}, {"deviation", "≤ 0.1 mm"}};
    auto targets = measuredTargets(p, asked);
    CHECK(*targets[0].value == Approx(2));
    CHECK(*targets[1].value == Approx(63).epsilon(1e-5));
    p.steps.back().slots["counts"] = std::string("only to compare with");
    CHECK(sentenceText(p.steps.back(), p) == "Import scan.stl as new body scan, only to compare with.");
    targets = measuredTargets(p, asked);
    CHECK(*targets[0].value == Approx(1));
    CHECK(*targets[1].value == Approx(60).epsilon(1e-9));
    // Half of what is more: a corner lies (1.5, 1, 0.3) away, of the top no more than 0.3.
    CHECK(*targets[2].value > 0.29);
}

TEST_CASE("Without an imported body the target says what is needed") {
    Part p = block(rectangle({-30, -20}, {30, 20}), "6 mm");
    const auto targets = measuredTargets(p, {{"deviation", "≤ 0.5 mm"}});
    CHECK_FALSE(targets[0].value);
    CHECK(targets[0].note.text().find("import a scan") != std::string::npos);
}
