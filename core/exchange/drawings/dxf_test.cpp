#include "core/exchange/drawings/drawing_files.hpp"
#include "core/sketch/bspline2.hpp"
#include "tests/support/imported.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <sstream>

using namespace gc;
using namespace gc::test;

namespace {

/// "0 LINE 10 3 …" with blanks for line ends, within the sections of a file.
std::string file(const std::string& entities, const std::string& before = "") {
    std::istringstream words("0 SECTION " + before + "2 ENTITIES " + entities + " 0 ENDSEC 0 EOF");
    std::string out;
    for (std::string w; words >> w;) out += w + "\n";
    return out;
}

Drawing read(const std::string& entities, const std::string& before = "") {
    const auto r = readDxf(file(entities, before));
    REQUIRE(r);
    return r->drawing;
}

} // namespace

TEST_CASE("Every entity draws what it says, by length and by area") {
    CHECK(wholeLength(read("0 LINE 8 0 10 1 20 2 11 4 21 6")) == Approx(5));
    CHECK(solidArea(read("0 CIRCLE 10 5 20 5 40 3")) == Approx(9 * kPi).epsilon(1e-9));
    CHECK(wholeLength(read("0 ARC 10 5 20 5 40 3 50 350 51 80")) == Approx(3 * kPi / 2).epsilon(1e-9));
    CHECK(solidArea(read("0 ELLIPSE 10 0 20 0 11 6 21 8 40 0.5 41 0 42 6.283185307179586")) ==
          Approx(50 * kPi).epsilon(1e-9));
    const Drawing quarter = read("0 ELLIPSE 10 0 20 0 11 10 21 0 40 0.4 41 0 42 1.5707963267948966");
    CHECK(quarter.strokes.at(0).kind == StrokeKind::EllipseArc);
    CHECK(length(quarter.at(quarter.strokes[0].points[3]) - Vec2{0, 4}) < 1e-9);
    // A square with one side bulged to half a circle: bulge 1.
    CHECK(solidArea(read("0 LWPOLYLINE 90 4 70 1 10 0 20 0 10 20 20 0 42 1 10 20 20 20 10 0 20 20")) ==
          Approx(400 + 50 * kPi).epsilon(1e-9));
    CHECK(solidArea(read("0 LWPOLYLINE 90 4 70 1 10 0 20 0 10 20 20 0 42 -1 10 20 20 20 10 0 20 20")) ==
          Approx(400 - 50 * kPi).epsilon(1e-9));
    CHECK(wholeLength(read("0 POLYLINE 70 0 0 VERTEX 10 0 20 0 42 0.41421356237309503 0 VERTEX 10 10 20 10 "
                           "0 VERTEX 10 10 20 30 0 SEQEND")) == Approx(5 * kPi + 20).epsilon(1e-9));
    // Seen from behind, x runs the other way.
    const Drawing behind = read("0 CIRCLE 10 5 20 5 40 3 230 -1");
    CHECK(behind.points.at(0).at.x == Approx(-5));
}

TEST_CASE("Splines are exact up to degree three and for conics") {
    // A cubic with uneven knots and an inner double knot, held against the program's other evaluation of it.
    BSpline2 b;
    b.degree = 3;
    b.knots = {0, 0, 0, 0, 0.25, 0.625, 0.625, 1, 1, 1, 1};
    b.poles = {{0, 0}, {10, 20}, {20, -5}, {32, 12}, {45, 3}, {50, 18}, {62, 8}};
    std::string text = "0 SPLINE 70 8 71 3";
    for (const double k : b.knots) text += " 40 " + std::to_string(k);
    for (const Vec2 p : b.poles)
        text += " 10 " + std::to_string(p.x) + " 20 " + std::to_string(p.y) + " 30 0";
    const Drawing d = read(text);
    REQUIRE(d.strokes.size() == 1);
    const StrokeRun run(d, d.strokes[0]);
    for (int i = 0; i <= 40; ++i) {
        const Vec2 p = b.at(i / 40.0);
        CHECK(length(run.at(run.nearest(p)) - p) < 1e-8);
    }
    // A quarter of a circle as a rational quadratic.
    const Drawing round =
        read("0 SPLINE 70 12 71 2 40 0 40 0 40 0 40 1 40 1 40 1 41 1 41 0.70710678118654757 41 1 "
             "10 10 20 0 10 10 20 10 10 0 20 10");
    REQUIRE(round.strokes.at(0).kind == StrokeKind::Conic);
    CHECK(wholeLength(round) == Approx(5 * kPi).epsilon(1e-9));
    // A rational cubic and one of degree five are fitted, and it is said.
    const auto fitted =
        readDxf(file("0 SPLINE 71 3 40 0 40 0 40 0 40 0 40 1 40 1 40 1 40 1 41 1 41 0.5 41 2 41 1 "
                     "10 0 20 0 10 10 20 20 10 30 20 20 10 40 20 0"));
    REQUIRE(fitted);
    REQUIRE(fitted->notes.size() == 1);
    const auto at = [](double t) {
        const double s = 1 - t, w[] = {s * s * s, 3 * s * s * t * 0.5, 3 * s * t * t * 2, t * t * t};
        const Vec2 p[] = {{0, 0}, {10, 20}, {30, 20}, {40, 0}};
        Vec2 sum;
        double all = 0;
        for (int i = 0; i < 4; ++i) sum = sum + p[i] * w[i], all += w[i];
        return sum * (1 / all);
    };
    Drawing polygon;
    for (int i = 0; i < 200; ++i) polygon.draw(StrokeKind::Line, {at(i / 200.0), at((i + 1) / 200.0)});
    checkSamePlace(fitted->drawing, polygon, 0.004); // within the fit and the chords' sag
    CHECK(wholeLength(read("0 SPLINE 70 8 71 3 74 3 11 0 21 0 11 10 21 0 11 20 21 0")) == Approx(20));
}

TEST_CASE("Units, blocks and what is left out") {
    CHECK(wholeLength(read("0 LINE 10 0 20 0 11 2 21 0", "2 HEADER 9 $INSUNITS 70 1 0 ENDSEC 0 SECTION ")) ==
          Approx(50.8));
    const std::string blocks =
        "2 BLOCKS 0 BLOCK 2 PEG 10 1 20 0 0 CIRCLE 10 1 20 0 40 2 0 ENDBLK 0 ENDSEC 0 SECTION ";
    const Drawing d = read("0 INSERT 2 PEG 10 20 20 5 41 3 42 3 50 90 0 INSERT 2 PEG 10 50 20 5", blocks);
    REQUIRE(d.strokes.size() == 2);
    CHECK(d.strokes[0].sizes[0] == Approx(6));
    CHECK(length(d.points[0].at - Vec2{20, 5}) < 1e-9);
    const auto r = readDxf(file("0 LINE 10 0 20 0 11 2 21 0 0 HATCH 2 X 0 HATCH 2 X 0 CIRCLE 40 -3"));
    REQUIRE(r);
    REQUIRE(r->notes.size() == 2);
    CHECK(r->notes[1].text().find("2 of the kind HATCH") != std::string::npos);
}

TEST_CASE("Figures beyond a whole number's range are no numbers of units, flags or degrees") {
    for (const char* figure : {"99999999999999999999", "-3000000000", "1e300", "nan", "inf", "2147483648"}) {
        INFO(figure);
        const std::string f = figure;
        CHECK(wholeLength(read("0 LINE 10 0 20 0 11 2 21 0",
                               "2 HEADER 9 $INSUNITS 70 " + f + " 0 ENDSEC 0 SECTION ")) == Approx(2));
        CHECK(wholeLength(read("0 LWPOLYLINE 70 " + f + " 10 0 20 0 10 3 20 0 10 3 20 4")) == Approx(7));
        CHECK_FALSE(readDxf(file("0 SPLINE 71 " + f + " 10 0 20 0 10 1 20 1")).ok());
    }
}

TEST_CASE("What is written comes back the same, exactly") {
    const Drawing d = oneOfEach();
    const auto back = readDxf(writeDxf(d));
    REQUIRE(back);
    CHECK(back->notes.empty());
    CHECK(back->drawing.strokes.size() == d.strokes.size());
    CHECK(wholeLength(back->drawing) == Approx(wholeLength(d)).epsilon(1e-9));
    CHECK(solidArea(back->drawing) == Approx(solidArea(d)).epsilon(1e-9));
    checkSamePlace(d, back->drawing, 1e-6);
}

TEST_CASE("Broken DXF files are told in a sentence") {
    for (const std::string& bad :
         {std::string(), std::string("hello"), std::string("0\nSECTION\n"), std::string("0\nEOF\n"),
          std::string("Binary\0file", 11), file("0 LINE 10"), file("0 HATCH 2 X")}) {
        const auto r = readDxf(bad);
        REQUIRE(!r);
        CHECK(r.error().sentence.text().size() > 20);
        CHECK(r.error().sentence.text().back() == '.');
    }
    CHECK(readDrawingFile("a.PDF", "x").error().code == "file.kind");
    CHECK(readDrawingFile("a.DXF", "x").error().code == "dxf.syntax");
}

TEST_CASE("Garbled and cut DXF files never do harm") {
    garble(writeDxf(oneOfEach()), 3000, [](const std::string& text) { return readDxf(text); });
    garble(
        file(
            "0 INSERT 2 PEG 10 20 20 5 41 3 0 POLYLINE 70 1 0 VERTEX 10 0 20 0 42 0.4 0 VERTEX 10 10 20 10 0 "
            "SEQEND 0 SPLINE 71 3 74 3 11 0 21 0 11 10 21 0 11 20 21 0",
            "2 BLOCKS 0 BLOCK 2 PEG 10 1 20 0 0 CIRCLE 10 1 20 0 40 2 0 INSERT 2 PEG 0 ENDBLK 0 ENDSEC 0 "
            "SECTION "),
        3000, [](const std::string& text) { return readDxf(text); });
}

TEST_CASE("Blocks that insert each other without end are told, and soon") {
    for (const char* leaf : {"0\nLINE\n10\n0\n20\n0\n11\n5\n21\n5\n", "0\nTEXT\n1\nha\n"}) {
        std::string dxf = "0\nSECTION\n2\nBLOCKS\n";
        for (int level = 0; level <= 12; ++level) {
            dxf += "0\nBLOCK\n2\nl" + std::to_string(level) + "\n10\n0\n20\n0\n";
            if (level == 0) dxf += leaf;
            for (int k = 0; k < 10 && level > 0; ++k)
                dxf += "0\nINSERT\n2\nl" + std::to_string(level - 1) + "\n10\n0\n20\n0\n";
            dxf += "0\nENDBLK\n";
        }
        dxf += "0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nINSERT\n2\nl12\n10\n0\n20\n0\n0\nENDSEC\n0\nEOF\n";
        const auto read = readDxf(dxf);
        REQUIRE_FALSE(read.ok());
        const std::string code = read.error().code;
        CHECK((code == "dxf.endless" || code == "dxf.large"));
    }
}

TEST_CASE("A spline of thousands of poles costs no more than its poles, and lies on what it was") {
    // y = sin x from a cubic through even knots; and one given by its points alone.
    const auto group = [](int code, double v) {
        return std::to_string(code) + "\n" + std::to_string(v) + "\n";
    };
    constexpr int kPoles = 9000;
    for (const int degree : {3, 5}) {
        std::string dxf = "0\nSECTION\n2\nENTITIES\n0\nSPLINE\n70\n8\n" + group(71, degree);
        for (int i = 0; i < kPoles + degree + 1; ++i)
            dxf += group(40, std::clamp(i - degree, 0, kPoles - degree));
        for (int i = 0; i < kPoles; ++i) dxf += group(10, i * 0.01) + group(20, std::sin(i * 0.01));
        dxf += "0\nENDSEC\n0\nEOF\n";
        const auto read = readDxf(dxf);
        if (degree == 5) { // each of its pieces is a stroke: more than are taken
            CHECK(read.error().code == "dxf.large");
            continue;
        }
        REQUIRE(read.ok());
        for (const Stroke& s : read->drawing.strokes)
            for (const Curve2& c : curvesOf(read->drawing, s))
                for (const double t : {0.0, 0.5}) CHECK(std::fabs(c.at(t).y - std::sin(c.at(t).x)) < 2e-3);
    }
    std::string through = "0\nSECTION\n2\nENTITIES\n0\nSPLINE\n71\n3\n";
    for (int i = 0; i < kPoles; ++i) through += group(11, i * 0.01) + group(21, std::sin(i * 0.01));
    const auto read = readDxf(through + "0\nENDSEC\n0\nEOF\n");
    REQUIRE(read.ok());
    for (const Curve2& c : curvesOf(read->drawing, read->drawing.strokes[0]))
        CHECK(std::fabs(c.at(0.5).y - std::sin(c.at(0.5).x)) < 1e-5);
}
