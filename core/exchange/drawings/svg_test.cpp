#include "core/exchange/drawings/drawing_files.hpp"

#include "tests/support/imported.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// Read with one unit of the drawing as a millimetre, on a page of 200 by 100.
Drawing read(const std::string& inner) {
    const auto r =
        readSvg("<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' "
                "width='200mm' height='100mm' viewBox='0 0 200 100'>" +
                inner + "</svg>");
    REQUIRE(r);
    return r->drawing;
}

std::string path(const std::string& d) {
    return "<path d='" + d + "'/>";
}

} // namespace

TEST_CASE("Every path command draws what the standard says, by length and by area") {
    // A rectangle of 30 by 20 in every way of saying lines.
    for (const char* d :
         {"M10 10 L40 10 L40 30 L10 30 Z", "m10,10 30,0 0,20 -30,0z", "M10 10H40V30H10V10",
          "M 10 10 h 30 v 20 h -30 z", "M10 10L40 10 40 30 10 30z", "M10-0 m0 10h3e1v2.0e1h-30z"}) {
        INFO(d);
        const Drawing r = read(path(d));
        CHECK(wholeLength(r) == Approx(100));
        CHECK(solidArea(r) == Approx(600));
    }
    // Half a circle of radius 10 and its chord: both sweeps, relative and absolute, flags without blanks.
    for (const char* d :
         {"M20 50 A10 10 0 0 1 40 50 Z", "M20 50a10,10 0 01 20 0z", "M40 50A10 10 0 1 0 20 50z",
          "M20 50 A1 1 0 0 1 40 50 Z"}) { // too small: grown to fit
        INFO(d);
        const Drawing r = read(path(d));
        CHECK(wholeLength(r) == Approx(10 * kPi + 20).epsilon(1e-9));
        CHECK(solidArea(r) == Approx(50 * kPi).epsilon(1e-9));
    }
    // Three quarters of a tilted ellipse of 12 by 5: the sector's area is three quarters of the whole.
    const double c = std::cos(0.5), s = std::sin(0.5);
    char d[200];
    std::snprintf(d, sizeof d, "M%.12f %.12f A12 5 %.12f 1 1 %.12f %.12f L60 50 Z", 60 + 12 * c, 50 + 12 * s,
                  0.5 * 180 / kPi, 60 + 5 * s, 50 - 5 * c);
    CHECK(solidArea(read(path(d))) == Approx(0.75 * kPi * 60).epsilon(1e-8));
    // A parabola under its chord is two thirds of the triangle; T goes on smoothly, S as well.
    CHECK(solidArea(read(path("M10 50Q30 10 50 50Z"))) == Approx(2.0 / 3 * 0.5 * 40 * 40).epsilon(1e-9));
    const Drawing wave = read(path("M10 50Q20 30 30 50T50 50"));
    REQUIRE(wave.strokes.size() == 2);
    const auto slopeAt = [&](std::size_t i, double t) { return curvesOf(wave, wave.strokes[i])[0].slope(t); };
    CHECK(std::fabs(cross(unit(slopeAt(0, 1)), unit(slopeAt(1, 0)))) < 1e-12);
    // A cubic's area from its poles in closed form: 3/20 of sums of cross products.
    const Drawing cubic = read(path("M10 50C20 20 40 20 50 50Z"));
    const Vec2 p[] = {{10, 50}, {20, 20}, {40, 20}, {50, 50}};
    double area = 0;
    const double k[4][4] = {{0, 6, 3, 1}, {-6, 0, 3, 3}, {-3, -3, 0, 6}, {-1, -3, -6, 0}};
    for (int i = 0; i < 4; ++i)
        for (int j = i + 1; j < 4; ++j) area += k[i][j] * cross(p[i], p[j]);
    area = area / 20 + 0.5 * cross(p[3], p[0]);
    CHECK(solidArea(cubic) == Approx(std::fabs(area)).epsilon(1e-9));
    const Drawing smooth = read(path("M10 50C10 40 20 40 20 50S30 60 30 50"));
    CHECK(wholeLength(smooth) == Approx(2 * StrokeRun(smooth, smooth.strokes[0]).length()).epsilon(1e-9));
}

TEST_CASE("Shapes, groups, reused elements and transforms") {
    CHECK(solidArea(read("<rect x='5' y='5' width='30' height='20' rx='4'/>")) ==
          Approx(600 - (4 - kPi) * 16).epsilon(1e-9));
    CHECK(solidArea(read("<circle cx='50' cy='50' r='7'/>")) == Approx(49 * kPi).epsilon(1e-9));
    CHECK(solidArea(read("<ellipse cx='50' cy='50' rx='9' ry='4'/>")) == Approx(36 * kPi).epsilon(1e-9));
    CHECK(solidArea(read("<polygon points='0,0 10,0 10,10'/>")) == Approx(50));
    CHECK(wholeLength(read("<polyline points='0,0 10,0 10,10'/>")) == Approx(20));
    CHECK(wholeLength(read("<line x1='0' y1='0' x2='3' y2='4'/>")) == Approx(5));
    // A matrix scales areas by its determinant; a circle becomes a tilted ellipse.
    const Drawing skewed = read("<g transform='translate(40 30) matrix(2 0.5 -0.4 1.5 0 0)'>"
                                "<circle r='5' transform='rotate(30)'/></g>");
    CHECK(skewed.strokes.at(0).kind == StrokeKind::Ellipse);
    CHECK(solidArea(skewed) == Approx(25 * kPi * (3 + 0.2)).epsilon(1e-9));
    CHECK(wholeLength(read("<g transform='rotate(37 10 10) scale(2)'><line x2='3' y2='4'/></g>")) ==
          Approx(10));
    CHECK(wholeLength(read("<g transform='skewX(45)'><line x2='0' y2='4'/></g>")) ==
          Approx(4 * std::sqrt(2)));
    const Drawing reused = read("<defs><g id='two'><circle r='3'/></g></defs>"
                                "<use href='#two' x='20' y='20'/><use xlink:href='#two' x='40' y='20'/>"
                                "<use href='#none'/><g id='own'><use href='#own'/></g>");
    CHECK(reused.strokes.size() == 2);
    CHECK(read("<circle r='3'/><circle r='4' display='none'/><g style='display:none'><circle r='9'/></g>")
              .strokes.size() == 1);
    // y runs up here: what stands high on the page stands high.
    CHECK(read("<circle cx='10' cy='90' r='2'/>").points.at(0).at.y == Approx(10));
}

TEST_CASE("Units: a page in millimetres, in pixels, in inches") {
    const auto length = [](const std::string& head) {
        const auto r = readSvg("<svg " + head + "><line x2='48' y2='0'/></svg>");
        REQUIRE(r);
        return wholeLength(r->drawing);
    };
    CHECK(length("width='100mm' height='100mm' viewBox='0 0 200 200'") == Approx(24));
    CHECK(length("") == Approx(12.7)); // 48 pixels of 1/96 inch
    CHECK(length("width='2in' height='2in' viewBox='0 0 96 96'") == Approx(25.4));
    CHECK(length("viewBox='0 0 96 96'") == Approx(12.7));
}

TEST_CASE("What is written comes back the same") {
    const Drawing d = oneOfEach();
    const auto back = readSvg(writeSvg(d));
    REQUIRE(back);
    CHECK(wholeLength(back->drawing) == Approx(wholeLength(d)).epsilon(1e-6));
    CHECK(solidArea(back->drawing) == Approx(solidArea(d)).epsilon(1e-6));
    checkSamePlace(d, back->drawing, 0.00012);
}

TEST_CASE("Broken SVG files are told in a sentence") {
    for (const char* bad : {"", "hello", "<svg", "<html></html>", "<svg></svg>", "<svg><text>hi</text></svg>",
                            "<svg><path d='zz'/></svg>"}) {
        const auto r = readSvg(bad);
        INFO(bad);
        REQUIRE(!r);
        CHECK(r.error().sentence.text().size() > 20);
        CHECK(r.error().sentence.text().back() == '.');
    }
    CHECK(readSvg("<svg><text>hi</text></svg>").error().sentence.text().find("Text was left out") !=
          std::string::npos);
    std::string many = "<svg>";
    for (int i = 0; i < 6000; ++i) many += "<line x2='" + std::to_string(i + 1) + "'/>";
    const auto large = readSvg(many + "</svg>");
    REQUIRE(!large);
    CHECK(large.error().code == "svg.large");
}

TEST_CASE("Garbled and cut SVG files never do harm") {
    const std::string whole =
        "<svg width='9cm' height='100%' viewBox='0 0 9e0 9'><g transform='rotate(3) scale(2,3)'>"
        "<path d='M1 2a3 4 5 1 0 6 7C1 2 3 4 5 6s7 8 9 1q2 3 4 5t6 7zm3-4.5.5l9 9h3v4'/>"
        "<use href='#a'/><rect id='a' rx='2' width='9' height='8'/></g></svg>";
    garble(whole, 4000, [](const std::string& text) { return readSvg(text); });
}

TEST_CASE("Pieces that reuse each other without end are told, and soon") {
    for (const char* leaf : {"<line x1='0' y1='0' x2='5' y2='5'/>", "<text>ha</text>", "<g/>"}) {
        std::string svg =
            "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' "
            "width='10mm' height='10mm'><defs><g id='l0'>" +
            std::string(leaf) + "</g>";
        for (int level = 1; level <= 12; ++level) {
            svg += "<g id='l" + std::to_string(level) + "'>";
            for (int k = 0; k < 10; ++k) svg += "<use xlink:href='#l" + std::to_string(level - 1) + "'/>";
            svg += "</g>";
        }
        svg += "</defs><use xlink:href='#l12'/></svg>";
        const auto read = readSvg(svg);
        REQUIRE_FALSE(read.ok());
        const std::string code = read.error().code;
        CHECK((code == "svg.endless" || code == "svg.large"));
    }
}
