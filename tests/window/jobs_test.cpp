/// \file Whole jobs from an empty part, by a hand that counts its clicks and keys beyond typed figures. What
/// comes out is checked against closed forms, or against an integral of the drawing's own curves.

#include "tests/support/pen.hpp"
#include "tests/window/job_hand.hpp"
#include "tests/window/sight.hpp"

#include <QComboBox>
#include <QImage>
#include <QTemporaryDir>

using namespace gc;
using namespace gc::test;

namespace {

/// Pappus over the closed curves of an area: 2 pi times the integral of x over it, by Green's theorem with
/// sampled curves (trapezoids over a fine polyline, extrapolated to none of its error).
double turnedAbout(const Region& r) {
    const auto sum = [&](int n) {
        double v = 0;
        for (const auto* ring : {&r.outer})
            for (const Side& s : ring->sides)
                for (int k = 0; k < n; ++k) {
                    const Vec2 a = s.curve.at(double(k) / n), b = s.curve.at(double(k + 1) / n);
                    v += (b.y - a.y) * (a.x * a.x + a.x * b.x + b.x * b.x) / 3;
                }
        return v * kPi;
    };
    const double coarse = sum(2000), fine = sum(4000);
    return std::fabs(fine + (fine - coarse) / 3);
}

} // namespace

TEST_CASE("Job: a mug by stations") {
    Job t;
    t.window.session()->startNew();
    t.window.setStage(QStringLiteral("Outline"));
    Hand::settle();
    t.used = 0;
    t.verb(QStringLiteral("outline"));
    QTableWidget* rows = t.window.outline()->stationsPage()->table();
    REQUIRE(Hand::wait([&] { return rows->isVisible() && rows->rowCount() == 3; }));
    REQUIRE(Hand::steady([&] { return QPointF(rows->viewport()->mapToGlobal(QPoint())); }));
    t.hand->click(rows->viewport(), rows->visualItemRect(rows->item(0, 0)).center());
    ++t.used;
    // A cone as a caliper found it: 70 mm wide at the foot, 0.2 mm more with each mm.
    const std::vector<std::pair<const char*, const char*>> measured{
        {"0", "70"}, {"12.5", "72.5"}, {"31", "76.2"}, {"55", "81"}, {"78", "85.6"}, {"95", "89"}};
    for (const auto& [height, diameter] : measured) {
        t.hand->type(QString::fromLatin1(height));
        t.key("Return");
        t.hand->type(QString::fromLatin1(diameter));
        t.key("Return");
    }
    REQUIRE(Hand::wait([&] { return rows->rowCount() == 7; })); // one more was begun
    t.key("Escape");
    REQUIRE(Hand::wait([&] { return rows->rowCount() == 6; }));
    t.window.setStage(QStringLiteral("Form")); // a click on its name
    ++t.used;
    Hand::settle();
    t.verb(QStringLiteral("revolve"));
    t.key("Return");
    REQUIRE(t.built());
    const auto frustum = [](double r0, double r1, double h) {
        return kPi * h / 3 * (r0 * r0 + r0 * r1 + r1 * r1);
    };
    CHECK(t.change() == Approx(frustum(35, 44.5, 95)).epsilon(1e-6));
    // Hollow, open at the top: 3 mm of wall all round.
    t.window.setStage(QStringLiteral("Finish"));
    ++t.used;
    Hand::settle();
    look(*t.hand, t.window.stand(), 5); // seen from above
    ++t.used;
    t.verb(QStringLiteral("shell"));
    REQUIRE(Hand::wait([&] { return t.window.bar()->active(); }));
    Stand* stand = t.window.stand();
    REQUIRE(Hand::steady([&] { return stand->screenOf({0, 0, 95}); }));
    REQUIRE(t.built());
    t.hand->click(stand, stand->screenOf({0, 0, 95}));
    ++t.used;
    REQUIRE(Hand::wait([&] { return t.window.bar()->draft()->references("open").size() == 1; }));
    t.put("wall", "3 mm");
    t.key("Return");
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.size() == 3; }));
    REQUIRE(t.built());
    // The inner cone: the same slope, its wall 3 mm off square to it, from the floor at 3 mm.
    const double slope = 0.1, off = 3 * std::sqrt(1 + slope * slope);
    const double inner = frustum(35 + slope * 3 - off, 44.5 - off, 92);
    CHECK(-t.change() == Approx(inner).epsilon(1e-6));
    t.told("mug by stations", 45);
}

TEST_CASE("Job: a mug by a drawn spline with an offset wall") {
    Job t;
    t.at({0, 0});
    t.at({30, 0});
    t.key("Escape");
    t.tool("spline");
    for (const Vec2 p : {Vec2{30, 0}, {38, 18}, {35, 36}, {41, 54}}) t.at(p);
    t.key("Return");
    t.key("Escape");
    REQUIRE(t.strokes() == 2);
    t.tool("dimension");
    t.dimension({t.end(0, 1), {0, 40}}, {15, -9}, "60"); // the foot, and with it the scale
    const auto node = [&](std::size_t i) { return t.drawing().at(t.drawing().strokes[1].points.at(2 * i)); };
    t.dimension({node(3), {0, 40}}, node(3) + Vec2{-12, 8}, "84");
    t.tool("choose");
    t.box({-4, -6}, {60, 100});
    ++t.used;
    REQUIRE(Hand::wait([&] { return t.table()->chosen().size() == 2; }));
    t.click("Offset");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.put("distance", "3.5 mm");
    SentenceFlow* flow = t.window.bar()->sentence();
    t.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("ends"))).center());
    t.key("Down"); // of the list: open, closed flat, closed round
    t.key("Down");
    t.key("Return");
    ++t.used;
    REQUIRE(Hand::wait([&] { return t.window.bar()->draft()->text("ends") == "closed flat"; }));
    t.key("Return");
    REQUIRE(Hand::wait([&] { return !t.window.bar()->editing() && t.strokes() > 4; }));
    t.pinRest();
    const auto& regions = t.window.drawingModel()->closedness().regions;
    REQUIRE(regions.size() == 1);
    const double volume = turnedAbout(regions[0]);
    CHECK(t.turnedVolume() == Approx(volume).epsilon(1e-6));
    t.told("mug by drawing", 55);
}

TEST_CASE("Job: a profile with sizes in inches") {
    Job t;
    t.window.setStage(QStringLiteral("Brief"));
    ++t.used;
    Hand::settle();
    QComboBox* lengths = t.window.brief()->brief()->lengths();
    REQUIRE(Hand::steady([&] { return QPointF(lengths->mapToGlobal(QPoint())); }));
    t.hand->click(lengths, QPointF(lengths->rect().center()));
    t.key("End"); // in
    t.key("Return");
    ++t.used;
    REQUIRE(Hand::wait([&] { return t.window.session()->part().brief.units.length == "in"; }));
    t.window.setStage(QStringLiteral("Outline"));
    ++t.used;
    Hand::settle();
    REQUIRE(Hand::wait([&] { return t.table()->isVisible(); }));
    t.still();
    t.tool("line");
    // A turned foot: from the axis out, up in two steps, and back to the axis.
    t.at({0, 0});
    t.toward({20, 0}, "5/8");
    t.toward({15.875, 20}, "1 1/4");
    t.toward({0, 31.75}, "0.125");
    t.toward({12.7, 60}, "0.421");
    t.at({0, 31.75 + 0.421 * 25.4});
    t.at({0, 0});
    REQUIRE(t.strokes() == 6);
    CHECK(t.window.drawingModel()->freedoms().count == 0);
    const double r0 = 0.625, r1 = 0.5;
    CHECK(t.turnedVolume() ==
          Approx(kPi * (r0 * r0 * 1.25 + r1 * r1 * 0.421) * 25.4 * 25.4 * 25.4).epsilon(1e-6));
    t.told("profile in inches", 45);
}

TEST_CASE("Job: a wire outline") {
    Job t;
    // A hook: up, a half turn, down, a quarter, out.
    t.at({12, 0});
    t.toward({12, 50}, "60");
    t.still();
    t.key("Tab");
    t.at({36, 60});
    t.toward({36, 20}, "34");
    t.key("Tab");
    t.at({44, 18});
    t.toward({90, 18}, "25");
    t.key("Escape");
    REQUIRE(t.strokes() == 5);
    t.tool("dimension");
    t.key("Home");
    t.still();
    t.dimension({curvesOf(t.drawing(), t.drawing().strokes[1]).at(0).at(0.5)}, {24, 50}, "12");
    t.dimension({curvesOf(t.drawing(), t.drawing().strokes[3]).at(0).at(0.5)}, {50, 30}, "8");
    t.pinRest();
    CHECK(t.lengthOf(0) == Approx(60).epsilon(1e-9));
    CHECK(t.lengthOf(1) == Approx(kPi * 12).epsilon(1e-9));
    CHECK(t.lengthOf(2) == Approx(34).epsilon(1e-9));
    CHECK(t.lengthOf(3) == Approx(kPi / 2 * 8).epsilon(1e-9));
    CHECK(t.lengthOf(4) == Approx(25).epsilon(1e-9));
    t.told("wire outline", 50);
}

TEST_CASE("Job: a comb outline") {
    Job t;
    // One tooth, five times; the back round them.
    t.at({10, 20});
    t.toward({30, 20}, "4");
    t.still();
    t.toward({14, 50}, "15");
    t.toward({40, 35}, "6");
    t.toward({20, 0}, "15");
    t.key("Escape");
    t.key("Escape");
    REQUIRE(t.strokes() == 4);
    t.box({7, 18.5}, {30, 40});
    ++t.used;
    REQUIRE(Hand::wait([&] { return t.table()->chosen().size() == 4; }));
    t.click("Rows");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.put("columns", "5");
    t.put("across", "10 mm");
    t.key("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() == 20; }));
    t.hand->press("Home");
    ++t.used;
    t.still();
    t.tool("line");
    const Vec2 first = t.end(0, 0);
    Vec2 last = first;
    for (std::size_t i = 0; i < 20; ++i)
        for (const std::size_t e : {0u, 1u})
            if (t.end(i, e).x > last.x + 1e-6 && std::fabs(t.end(i, e).y - first.y) < 1e-6)
                last = t.end(i, e);
    t.at(first);
    t.toward(first + Vec2{0, -12}, "8");
    t.at({last.x, first.y - 8}); // straight under the last
    t.at(last);
    t.key("Escape");
    t.key("Escape");
    t.pinRest();
    const auto& regions = t.window.drawingModel()->closedness().regions;
    REQUIRE(regions.size() == 1);
    CHECK(regions[0].area() == Approx(50 * 8 + 5 * 6 * 15).epsilon(1e-6));
    t.told("comb outline", 55);
}

TEST_CASE("Job: a traced crest") {
    Job t;
    QTemporaryDir folder;
    QImage image(400, 400, QImage::Format_RGB32);
    image.fill(Qt::darkCyan);
    const QString path = folder.filePath(QStringLiteral("crest.png"));
    REQUIRE(image.save(path));
    t.window.outline()->layPicture(path); // a file chosen in the system's dialog
    t.used += 2;
    REQUIRE(t.drawing().picture);
    t.still();
    const Vec2 corner = t.drawing().picture->at;
    const double wide = t.drawing().picture->width;
    t.at(corner);
    t.at(corner + Vec2{wide, 0});
    REQUIRE(Hand::wait([&] { return t.table()->editor()->isVisible(); }));
    t.hand->type(QStringLiteral("80"));
    t.key("Return");
    REQUIRE(Hand::wait([&] { return std::fabs(t.drawing().picture->width - 80) < 0.5; }));
    t.still();
    // Half of it, traced from the axis to the axis, and its image.
    t.tool("spline");
    for (const Vec2 p : {Vec2{0, 10}, {16, 14}, {28, 30}, {22, 48}, {12, 58}, {0, 70}}) t.at(p);
    t.key("Return");
    t.key("Escape");
    t.key("Escape");
    REQUIRE(t.strokes() == 1);
    t.at(curvesOf(t.drawing(), t.drawing().strokes[0]).at(1).at(0.5));
    REQUIRE(Hand::wait([&] { return t.table()->chosen().size() == 1; }));
    t.click("Mirror");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.key("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() == 2 && !t.window.bar()->editing(); }));
    t.pinRest();
    const auto& regions = t.window.drawingModel()->closedness().regions;
    REQUIRE(regions.size() == 1);
    // Twice the half: its area by Green's theorem along the curve, closed by the axis.
    double half = 0;
    for (const Curve2& c : curvesOf(t.drawing(), t.drawing().strokes[0])) half += c.areaShare();
    CHECK(regions[0].area() == Approx(2 * std::fabs(half)).epsilon(1e-6));
    for (const Vec2 p : {t.end(0, 0), t.end(0, 1)}) CHECK(std::fabs(p.x) < 40);
    t.told("traced crest", 40);
}
