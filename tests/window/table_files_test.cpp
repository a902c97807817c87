/// \file Drawings from and to files, letters, and drawings that are large, on the table of the real window.

#include "core/document/part_file.hpp"
#include "tests/window/table_hand.hpp"

using namespace gc;
using namespace gc::test;

TEST_CASE("A drawing is written as SVG and DXF and brought in again; a broken file is told") {
    Editing t;
    t.rectangle({10, 5}, {50, 30});
    const double area = t.area();
    const TemporaryFolder folder;
    const QString svg = QString::fromStdString(folder.file("table.svg"));
    for (const QString& name : {svg, QString::fromStdString(folder.file("table.dxf"))}) {
        INFO(name.toStdString());
        t.window.outline()->writeOut(name);
        const std::size_t before = t.strokes();
        t.window.outline()->bringIn(name);
        REQUIRE(Hand::wait([&] { return t.strokes() == 2 * before; }));
        CHECK(t.table()->chosen().size() == before);
        t.hand->press("Delete");
        REQUIRE(Hand::wait([&] { return t.strokes() == before; }));
        CHECK(t.area() == Approx(area));
    }
    REQUIRE(writeFileAtomically(svg.toStdString(), "<svg").ok());
    const Drawing before = t.drawing();
    t.window.outline()->bringIn(svg);
    REQUIRE(Hand::wait([&] { return !t.window.outline()->bringingIn(); }));
    CHECK(t.drawing() == before);
}

TEST_CASE("A large drawing file is read beside the window, and Escape leaves it") {
    Editing t;
    t.rectangle({10, 5}, {50, 30});
    t.key("Escape");
    t.at({30, 5});
    REQUIRE(t.table()->chosen().size() == 1);
    const Drawing before = t.drawing();
    const TemporaryFolder folder;
    std::string svg = "<svg xmlns='http://www.w3.org/2000/svg'>";
    for (int i = 0; i < 1'000'000; ++i) svg += "<g><rect/></g>";
    REQUIRE(writeFileAtomically(folder.file("large.svg"), svg + "</svg>").ok());
    const auto started = std::chrono::steady_clock::now();
    t.window.outline()->bringIn(QString::fromStdString(folder.file("large.svg")));
    CHECK(std::chrono::steady_clock::now() - started < std::chrono::milliseconds(50));
    t.hand->press("Escape");
    REQUIRE(Hand::wait([&] { return !t.window.outline()->bringingIn(); }));
    CHECK_THAT(t.window.bar()->message().toStdString(), Catch::Matchers::Contains("as it was"));
    CHECK(t.drawing() == before);
    CHECK(t.table()->chosen().size() == 1); // it was the reading that Escape left, nothing else
}

TEST_CASE("Letters are written as strokes, and an area of them is chosen by a click inside") {
    Editing t;
    t.key("Escape");
    t.verb(QStringLiteral("edit:text"));
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.slot("text", "IO");
    t.slot("height", "20 mm");
    t.slot("font", "No such font");
    t.hand->press("Return");
    Hand::settle();
    CHECK(t.window.bar()->editing()); // it says that there is none
    t.slot("font", "Manrope");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() > 8; }));
    CHECK(t.count(K::Together) == 1);
    const auto regions = t.window.drawingModel()->closedness().regions;
    REQUIRE(regions.size() == 3); // the bar of the I, the O, and what the O encloses
    const Region* bar = nullptr;
    for (const Region& r : regions)
        if (r.outer.sides.size() == 4) bar = &r;
    REQUIRE(bar);
    double top = 0;
    for (const Side& s : bar->outer.sides) top = std::max(top, s.curve.at(0).y);
    CHECK(top == Approx(20).epsilon(1e-3));
    // A click on one of them takes all that move as one; the next one takes it alone.
    t.key("Escape");
    REQUIRE(Hand::steady([&] { return t.table()->toScreen({0, 0}); }));
    const auto upright =
        std::max_element(bar->outer.sides.begin(), bar->outer.sides.end(),
                         [](const Side& a, const Side& b) { return a.curve.length() < b.curve.length(); });
    const Vec2 edge = upright->curve.at(0.5);
    t.at(edge);
    CHECK(t.table()->chosen().size() == t.strokes());
    t.at(edge);
    CHECK(t.table()->chosen().size() == 1);
    t.key("Escape");
    const Region* hole = nullptr; // what the O encloses
    for (const Region& r : regions)
        if (r.depth == 1) hole = &r;
    REQUIRE(hole);
    Vec2 low{1e9, 1e9}, high{-1e9, -1e9};
    for (const Side& s : hole->outer.sides) {
        const Vec2 p = s.curve.at(0);
        low = {std::min(low.x, p.x), std::min(low.y, p.y)},
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
    t.at((low + high) * 0.5);
    t.chip("Revolve this area");
    REQUIRE(Hand::wait([&] { return t.window.bar()->active(); }));
    CHECK(t.window.bar()->draft()->text("area").size() > 3);
    t.hand->press("Return");
    REQUIRE(
        Hand::wait([&] { return !t.window.forge()->busy() && !t.window.forge()->meshes().empty(); }, 60000));
    for (const auto& [id, view] : t.window.forge()->steps()) CHECK(view.ok);
}

TEST_CASE(
    "What is written stays a text: its sentence writes it anew, the letters that stay are the same strokes") {
    Editing t;
    t.key("Escape");
    t.verb(QStringLiteral("edit:text"));
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.slot("text", "IO");
    t.slot("height", "20 mm");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() > 8; }));
    const auto before = t.drawing().texts.front().letters;
    t.chip("Change \"IO\""); // what was made is chosen
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.slot("text", "IOI");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.drawing().texts.front().letters.size() == 3; }));
    CHECK(t.drawing().texts.front().letters[0] == before[0]);
    CHECK(t.drawing().texts.front().letters[1] == before[1]);
    CHECK(t.count(K::Together) == 1);
    t.hand->press("z", true);
    REQUIRE(Hand::wait([&] { return t.drawing().texts.front().letters.size() == 2; }));
}

TEST_CASE("A part of a drawing alone opens on its table") {
    MainWindow window;
    window.move(0, 0);
    window.show();
    const auto text = readFile("demo/saucer.goodcurve");
    REQUIRE(text.ok());
    const TemporaryFolder folder;
    const std::string file = folder.file("saucer.goodcurve");
    REQUIRE(writeFileAtomically(file, *text).ok());
    REQUIRE(window.session()->open(QString::fromStdString(file)));
    Hand hand(&window);
    window.setStage(QStringLiteral("Outline"));
    REQUIRE(Hand::wait([&] { return window.table()->isVisible(); }));
    CHECK(window.drawingModel()->drawing().strokes.size() == 9);
    CHECK(window.drawingModel()->freedoms().count == 0);
    window.session()->endCleanly();
}

TEST_CASE("A large drawing is looked at beside the window, and a clash in it is told all the same") {
    Editing t;
    Drawing many;
    for (int i = 0; i < 14; ++i)
        for (int j = 0; j < 14; ++j) many.draw(StrokeKind::Circle, {{10.0 + 10 * i, 10.0 + 10 * j}}, {3});
    t.table()->bringIn(many);
    CHECK(t.window.drawingModel()->learning()); // not before the window goes on
    REQUIRE(Hand::wait([&] { return t.window.drawingModel()->closedness().regions.size() == 196; }));
    CHECK_FALSE(t.window.drawingModel()->learning());
    REQUIRE(Hand::steady([&] { return t.table()->toScreen({0, 0}); }));
    t.tool("dimension");
    const Vec2 rim = Vec2{10, 10} + Vec2{-3, 0};
    t.size({rim}, rim + Vec2{-4, -4}, "7 mm");
    REQUIRE(Hand::wait([&] { return std::fabs(t.drawing().strokes[0].sizes[0] - 3.5) < 1e-9; }));
    t.tool("dimension");
    t.size({Vec2{10, 10} + Vec2{0, 3.5}}, {4, 18}, "9 mm");
    REQUIRE(Hand::wait([&] { return !t.window.drawingModel()->diagnosis().sound(); }));
    CHECK(t.window.drawingModel()->diagnosis().clashes.at(0).relations.size() == 2);
    // Taken back while it is looked at, it is sound again.
    t.key("Escape");
    for (int k = 0; k < 2; ++k) t.hand->press("z", true);
    REQUIRE(Hand::wait([&] {
        return t.window.drawingModel()->diagnosis().sound() && !t.window.drawingModel()->learning();
    }));
}

TEST_CASE("What is larger than a part can hold is refused in words: typed, sized or brought in") {
    Editing t;
    t.tool("line");
    t.at({10, 10});
    t.at({30, 10});
    REQUIRE(Hand::wait([&] { return t.strokes() == 1; }));
    SECTION("a place a thousand kilometres away, in the middle of a chain") {
        t.hand->type("1e9, 5");
        t.hand->press("Return");
        REQUIRE(Hand::wait([&] { return t.window.bar()->message().startsWith(QStringLiteral("■")); }));
        CHECK(t.strokes() == 1);
        t.at({30, 40}); // the chain goes on from where it was
        REQUIRE(Hand::wait([&] { return t.strokes() == 2; }));
    }
    SECTION("a drawing in metres") {
        const test::TemporaryFolder folder;
        const std::string file = folder.file("plan.dxf");
        REQUIRE(writeFileAtomically(file,
                                    "0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n6\n0\nENDSEC\n0\nSECTION\n2\n"
                                    "ENTITIES\n0\nCIRCLE\n10\n0\n20\n0\n40\n1500\n0\nENDSEC\n0\nEOF\n")
                    .ok());
        t.window.outline()->bringIn(QString::fromStdString(file));
        REQUIRE(Hand::wait([&] { return !t.window.outline()->bringingIn(); }));
        CHECK(t.window.bar()->message().startsWith(QStringLiteral("■")));
        CHECK(t.strokes() == 1);
        CHECK(t.window.session()->journalled());
    }
    CHECK(readPart(writePart(t.window.session()->part())).ok());
}
