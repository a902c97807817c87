/// \file Bringing files in, by hand.

#include "app/sentence/file_bodies_panel.hpp"
#include "core/base/file.hpp"
#include "tests/support/stl_text.hpp"
#include "tests/window/file_hand.hpp"
#include "tests/window/finish_hand.hpp"

#include <QListWidget>

using namespace gc;
using namespace gc::app;
using gc::test::answerFile;
using gc::test::FinishHand;
using gc::test::Hand;

TEST_CASE("A file of several bodies is brought in: each is seen in a list, and left out by a click") {
    FinishHand t([](Part& p) { p.steps.pop_back(); });
    t.window.setStage(QStringLiteral("Form"));
    const auto file = t.folder.path() / "set.stl";
    const std::string boxes = gc::test::stlText(
        {{{0, 0, 0}, {40, 30, 10}}, {{0, 50, 0}, {40, 80, 20}}, {{0, 100, 0}, {40, 130, 30}}});
    REQUIRE(writeFileAtomically(file, boxes).ok());
    QTimer look;
    answerFile(look, QString::fromStdString(file.string()));
    t.begin("imp");
    auto* panel = t.window.stand()->findChild<FileBodiesPanel*>();
    REQUIRE(panel);
    REQUIRE(Hand::wait([&] { return panel->isVisible() && panel->list()->count() == 3; }, 30000));
    CHECK(panel->list()->item(1)->text().startsWith("body 2"));
    CHECK(panel->list()->item(1)->text().contains("40 × 30 × 20 mm"));
    CHECK_FALSE(panel->list()->item(1)->icon().isNull());
    REQUIRE(t.quiet());

    // The box before the picture of the first.
    const auto tick = [&](int row) {
        const QRect r = panel->list()->visualItemRect(panel->list()->item(row));
        t.hand->click(panel->list()->viewport(), QPointF(r.left() + 12, r.center().y()));
    };
    tick(0);
    REQUIRE(Hand::wait([&] { return t.draft().text("which") == "body 2 | body 3"; }, 5000));
    REQUIRE(t.quiet());
    CHECK(Hand::wait([&] { return panel->list()->item(0)->checkState() == Qt::Unchecked; }, 5000));
    const QRect third = panel->list()->visualItemRect(panel->list()->item(2));
    t.hand->click(panel->list()->viewport(), QPointF(third.center())); // all of a row is its box
    REQUIRE(Hand::wait([&] { return t.draft().text("which") == "body 2"; }, 5000));
    tick(1); // the last one stays
    CHECK(panel->list()->item(1)->checkState() == Qt::Checked);
    t.keep();
    CHECK(t.said().find("body 2") != std::string::npos);
    CHECK_FALSE(panel->isVisible());
}

TEST_CASE("Another file takes the place of the one that a sentence has, by its list") {
    FinishHand t([](Part& p) { p.steps.pop_back(); });
    t.window.setStage(QStringLiteral("Form"));
    const auto first = t.folder.path() / "first.stl", newer = t.folder.path() / "newer.stl";
    REQUIRE(writeFileAtomically(first, gc::test::stlText({{{0, 0, 0}, {40, 30, 10}}})).ok());
    REQUIRE(writeFileAtomically(newer, gc::test::stlText({{{0, 0, 0}, {40, 30, 16}}})).ok());
    QTimer look;
    answerFile(look, QString::fromStdString(first.string()));
    t.begin("imp");
    REQUIRE(t.quiet());
    CHECK(t.draft().text("file") == "first.stl");
    QTimer again;
    answerFile(again, QString::fromStdString(newer.string()));
    t.choose("file", 1); // what comes after those that the part holds
    REQUIRE(Hand::wait([&] { return t.draft().text("file") == "newer.stl"; }, 10000));
    t.keep();
    CHECK(t.change() == Approx(40 * 30 * 16));
    // In the sheet the first one is still to be had.
    const int step = t.window.session()->part().steps.back().id;
    SentenceFlow* flow = t.window.sheet()->row(step)->sentence();
    t.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("file"))).center());
    REQUIRE(Hand::wait([] { return QApplication::activePopupWidget() != nullptr; }, 5000));
    t.hand->press("Down");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.back().text("file") == "first.stl"; },
                       5000));
    REQUIRE(t.quiet());
    CHECK(t.change() == Approx(40 * 30 * 10));
}
