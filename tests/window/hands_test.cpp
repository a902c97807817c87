/// \file Small things that made a person sigh, each by a real hand.

#include "core/document/part_file.hpp"
#include "tests/window/file_hand.hpp"
#include "tests/window/table_hand.hpp"

#include <QApplication>
#include <QLineEdit>
#include <QTemporaryDir>
#include <QTimer>

using namespace gc;
using namespace gc::test;

TEST_CASE("An area that a new stroke divides says so at the step that was given it") {
    Editing t;
    t.rectangle({10, 5}, {50, 30});
    t.tool("rectangle");
    t.at({60, 5});
    t.at({70, 30});
    REQUIRE(Hand::wait([&] { return t.strokes() == 8; }));
    t.key("Escape");
    t.key("Escape");
    t.at({30, 18});
    t.chip("Extrude this area");
    REQUIRE(Hand::wait([&] { return t.window.bar()->active(); }));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.size() == 2; }));
    const int step = t.window.session()->part().steps.back().id;
    const auto notes = [&] { return t.window.forge()->steps().at(step).notes; };
    REQUIRE(
        Hand::wait([&] { return !t.window.forge()->busy() && t.window.forge()->steps().at(step).known; }));
    CHECK(notes().isEmpty());
    // Back on the table: a line cuts a corner off, so that the rest has most of the outline.
    t.window.outline()->showOutline(t.window.session()->part().steps.front().id);
    REQUIRE(Hand::steady([&] { return t.table()->toScreen({0, 0}); }));
    const double low = t.end(0, 0).y, right = t.end(0, 1).x;
    t.tool("line");
    t.at({right - 10, low});
    t.at({right, low + 12});
    t.key("Escape");
    REQUIRE(Hand::wait([&] { return t.window.drawingModel()->closedness().regions.size() == 3; }));
    REQUIRE(Hand::wait([&] { return !t.window.forge()->busy() && !notes().isEmpty(); }));
    CHECK(notes().join(QLatin1Char(' ')).contains(QStringLiteral("divided")));
}

TEST_CASE("In a part in inches figures stay as they were typed, and reasons are in inches") {
    OpenPot pot;
    Part p = pot.window.session()->part();
    p.brief.units.length = "in";
    REQUIRE(pot.window.session()->commit(p, QStringLiteral("inches")));
    REQUIRE(pot.measured());
    pot.clickSlot(3, QStringLiteral("radius"));
    pot.hand->press("a", true);
    pot.hand->type(QStringLiteral("7/32"));
    pot.hand->press("Return");
    REQUIRE(pot.measured());
    CHECK(pot.step(3).text("radius") == "7/32");
    CHECK(pot.window.forge()->steps().at(3).ok);
    pot.clickSlot(3, QStringLiteral("radius")); // far more than fits
    pot.hand->press("a", true);
    pot.hand->type(QStringLiteral("4 1/2"));
    pot.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy() && !pot.window.forge()->steps().at(3).ok; }));
    const QString why = pot.window.forge()->steps().at(3).error;
    INFO(why.toStdString());
    CHECK(why.contains(QStringLiteral("4.5 in")));
    CHECK_FALSE(why.contains(QStringLiteral(" mm")));
}

TEST_CASE("What is written out gets its ending by itself") {
    Editing t;
    t.rectangle({10, 5}, {50, 30});
    t.key("Escape");
    QTemporaryDir folder;
    const QString name = folder.filePath(QStringLiteral("plate"));
    QTimer look;
    gc::test::answerFile(look, name, [](const QFileDialog& dialog) {
        CHECK(dialog.nameFilters().join(QLatin1Char(' ')).contains(QStringLiteral("*.svg")));
    });
    t.tool("write");
    CHECK(Hand::wait([&] { return QFile::exists(name + QStringLiteral(".svg")); }));
    CHECK_FALSE(QFile::exists(name));
}

TEST_CASE("While a number is scrubbed, verdicts say that they are being measured") {
    OpenPot pot;
    const QPointF at = QRectF(pot.sentence(3)->slotRect(QStringLiteral("radius"))).center();
    const auto said = [&] {
        QStringList all;
        for (int i = 0; i < 3; ++i) all << pot.window.gauges()->words(i);
        return all.join(QLatin1Char(' '));
    };
    CHECK(said().contains(QStringLiteral("✓")));
    QString during;
    pot.hand->drag(pot.sentence(3), {at, at + QPointF(60, 0)}, false, [&] { during = said(); });
    CHECK(during.contains(QStringLiteral("measuring")));
    CHECK_FALSE(during.contains(QStringLiteral("✓")));
    REQUIRE(pot.measured());
    CHECK(said().contains(QStringLiteral("✓")));
    // Let go where it began, nothing has changed: the verdicts are back.
    pot.hand->drag(pot.sentence(3), {at, at + QPointF(30, 0), at}, false, [&] { during = said(); });
    CHECK(during.contains(QStringLiteral("measuring")));
    CHECK(Hand::wait([&] { return !said().contains(QStringLiteral("measuring")); }));
}

TEST_CASE("An overlay without values says so, and a new part clears the stand at once") {
    OpenPot pot;
    Stand* stand = pot.window.stand();
    const QColor clay = stand->picture().pixelColor(stand->screenOf({0, 0, 50}).toPoint());
    stand->setOverlay(Overlay::WallRay, nullptr);
    CHECK(stand->legendNote().isEmpty());
    REQUIRE(pot.window.files()->startNew());
    CHECK(stand->corners().empty());
    const QColor now = stand->picture().pixelColor(stand->rect().center());
    CHECK(std::abs(now.red() - clay.red()) + std::abs(now.blue() - clay.blue()) > 60);
    CHECK_FALSE(stand->legendNote().isEmpty());
}

TEST_CASE("A part that is opened on its table can be seen behind its drawing at once") {
    const TemporaryFolder folder;
    const std::string file = folder.file("saucer.goodcurve");
    REQUIRE(savePart(*loadPart("demo/saucer.goodcurve"), file).ok());
    MainWindow window;
    window.move(0, 0);
    window.show();
    REQUIRE(window.session()->open(QString::fromStdString(file)));
    window.setStage(QStringLiteral("Outline"));
    CHECK(Hand::wait([&] { return !window.table()->stripRect(QStringLiteral("Part behind")).isEmpty(); },
                     20000));
    window.session()->endCleanly();
}
