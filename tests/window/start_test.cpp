// How the window begins: without a part, with an example, with a first part in five steps; a material of
// one's own.

#include "app/rooms/start/first_part.hpp"
#include "app/rooms/start/start_card.hpp"
#include "app/rooms/start/start_room.hpp"
#include "core/process/material.hpp"
#include "tests/window/answers.hpp"
#include "tests/window/open_pot.hpp"

#include <QApplication>
#include <QDir>
#include <QFileDialog>
#include <QLineEdit>
#include <QPushButton>

#include <set>

using namespace gc;
using namespace gc::app;
using gc::test::Hand;
using gc::test::OpenPot;

namespace {

/// The window as it comes up without a file.
struct Fresh {
    MainWindow window;
    std::unique_ptr<Hand> hand;
    Fresh() {
        window.move(0, 0);
        window.show();
        window.files()->begin({});
        hand = std::make_unique<Hand>(&window);
        Hand::settle();
    }
    ~Fresh() { window.session()->endCleanly(); }
    void click(const char* key) {
        StartCard* card = window.start()->startPage()->card(QString::fromLatin1(key));
        REQUIRE(card);
        REQUIRE(Hand::wait([&] { return card->isVisible(); }));
        REQUIRE(Hand::steady([&] { return card->mapToGlobal(QPointF(0, 0)); }));
        hand->click(card, QRectF(card->rect()).center());
    }
    bool measured() {
        return Hand::wait([&] { return window.forge()->hasMeasured() && !window.forge()->busy(); }, 60000);
    }
};

} // namespace

TEST_CASE("Without a file the window asks how to begin, and each way leads to where it is done") {
    Fresh fresh;
    CHECK(fresh.window.start()->startPage()->isVisible());
    CHECK_FALSE(fresh.window.sheet()->isVisible());
    CHECK_FALSE(fresh.window.gauges()->isVisible());
    for (const Example& e : examples()) CHECK(fresh.window.start()->startPage()->card(e.key)->isVisible());
    SECTION("from measurements") {
        fresh.click("outline");
        REQUIRE(Hand::wait([&] { return fresh.window.stages()->stage() == "Outline"; }));
        CHECK(fresh.window.session()->part().steps.at(0).kind == "outline");
        CHECK(Hand::wait([&] { return fresh.window.outline()->stationsPage()->isVisible(); }));
    }
    SECTION("from a drawing") {
        fresh.click("draw");
        REQUIRE(Hand::wait([&] { return fresh.window.table()->isVisible(); }));
        CHECK(fresh.window.session()->part().steps.at(0).kind == "draw");
        CHECK(fresh.window.sheet()->isVisible());
    }
    SECTION("a new part begins in its brief") {
        fresh.hand->press("n", true);
        REQUIRE(Hand::wait([&] { return fresh.window.stages()->stage() == "Brief"; }));
        CHECK(fresh.window.brief()->page()->isVisible());
    }
    SECTION("by keys alone: Tab to a card, Enter takes it") {
        StartCard* card = fresh.window.start()->startPage()->card("saucer");
        for (int k = 0; k < 30 && !card->hasFocus(); ++k) {
            fresh.hand->press("Tab");
            Hand::settle();
        }
        REQUIRE(card->hasFocus());
        fresh.hand->press("space");
        REQUIRE(Hand::wait([&] { return fresh.window.session()->part().name == "Saucer"; }));
    }
}

TEST_CASE("Every example opens as a copy, fitted, where it belongs") {
    for (const Example& e : examples()) {
        INFO(e.key.toStdString());
        Fresh fresh;
        fresh.click(e.key.toLatin1().constData());
        REQUIRE(Hand::wait([&] { return fresh.window.session()->part().name == e.name.toStdString(); }));
        CHECK(fresh.window.session()->file().isEmpty()); // Save asks where
        CHECK_FALSE(fresh.window.session()->worthKeeping());
        CHECK(fresh.window.stages()->stage() == "Finish");
        REQUIRE(fresh.measured());
        REQUIRE(Hand::wait([&] { return !fresh.window.forge()->meshes().empty(); }));
        Hand::settle();
        // All of it is in view, and a good part of the view is it.
        QRectF seen;
        for (const auto& [id, mesh] : fresh.window.forge()->meshes())
            for (const QVector3D& p : mesh.lines) {
                const QPointF at = fresh.window.stand()->screenOf(p);
                seen = seen.united(QRectF(at - QPointF(0.5, 0.5), QSizeF(1, 1)));
            }
        CHECK(QRectF(fresh.window.stand()->rect()).contains(seen));
        CHECK(std::max(seen.width() / fresh.window.stand()->width(),
                       seen.height() / fresh.window.stand()->height()) > 0.4);
    }
}

TEST_CASE("The first part in five steps sees what was done in the real window") {
    Fresh fresh;
    FirstPart* guide = fresh.window.firstPart();
    fresh.click("guide");
    REQUIRE(Hand::wait([&] { return guide->step() == 1 && guide->isVisible(); }));
    REQUIRE(fresh.measured());
    SentenceFlow* shell = fresh.window.sheet()->row(4)->sentence();
    REQUIRE(Hand::steady([&] { return shell->mapToGlobal(QPointF(0, 0)); }));
    fresh.hand->click(shell, QRectF(shell->slotRect("wall")).center());
    fresh.hand->press("a", true);
    fresh.hand->type("1.6");
    fresh.hand->press("Return");
    REQUIRE(Hand::wait([&] { return guide->step() == 2; }, 60000));
    Gauges* gauges = fresh.window.gauges();
    int thinnest = 0;
    while (!gauges->words(thinnest).startsWith("Thinnest wall")) ++thinnest;
    CHECK(gauges->words(thinnest).contains("■"));
    bool solved = false;
    QObject::connect(fresh.window.forge(), &ForgeLink::solved, &fresh.window,
                     [&](int, const std::vector<RemedyView>& r) { solved = !r.empty(); });
    fresh.hand->click(gauges, QRectF(gauges->gaugeRect(thinnest)).center());
    REQUIRE(Hand::wait([&] { return guide->step() == 3; }));
    ProofPage* board = fresh.window.prove()->board();
    REQUIRE(Hand::wait([&] { return solved; }, 160000));
    Hand::settle();
    fresh.hand->click(board, QRectF(board->remedyRect(0)).center());
    REQUIRE(Hand::wait([&] { return guide->step() == 4; }, 60000));
    Stand* stand = fresh.window.stand();
    const QPointF beside(stand->width() * 0.5, stand->height() * 0.85);
    fresh.hand->drag(stand, beside, beside + QPointF(40, -30));
    REQUIRE(Hand::wait([&] { return guide->step() == 5; }));
    const gc::test::TemporaryFolder folder;
    fresh.window.release()->exportTo(QString::fromStdString(folder.file("pot.3mf")));
    REQUIRE(Hand::wait([&] { return guide->step() == 6; }, 60000));
    guide->end();
    CHECK_FALSE(guide->isVisible());
}

TEST_CASE("A material of one's own is kept with its density and where that is from, and weighs the part") {
    OpenPot pot;
    pot.window.setStage("Brief");
    Hand::settle();
    BriefPage* page = pot.window.findChild<BriefPage*>();
    REQUIRE(page);
    const double before = *pot.target("mass").value;
    QComboBox* list = page->materials();
    list->setFocus();
    pot.hand->press("End"); // the last entry, by the keyboard as a person may
    REQUIRE(Hand::wait([&] { return page->ownMaterial()->isVisible(); }, 5000));
    OwnMaterial* own = page->ownMaterial();
    Hand::settle();
    const auto fill = [&](QLineEdit* field, const char* text) {
        pot.hand->click(field, QRectF(field->rect()).center());
        pot.hand->type(QString::fromLatin1(text));
    };
    fill(own->name(), "corn blend");
    fill(own->density(), "heavy");
    fill(own->source(), "weighed");
    pot.hand->click(own->keepButton(), QRectF(own->keepButton()->rect()).center());
    CHECK(Hand::wait([&] { return pot.window.bar()->message().contains("between 0 and 30"); }, 5000));
    own->density()->clear();
    fill(own->density(), "1810 kg/m3");
    pot.hand->click(own->keepButton(), QRectF(own->keepButton()->rect()).center());
    REQUIRE(Hand::wait([&] { return pot.window.session()->part().brief.material == "corn blend"; }, 5000));
    CHECK_FALSE(own->isVisible());
    REQUIRE(pot.measured());
    REQUIRE(Hand::wait([&] { return pot.window.forge()->hasMeasured(); }, 60000));
    CHECK(*pot.target("mass").value == Approx(before * 1.81 / 0.905).epsilon(1e-9));
    const auto all = loadMaterials();
    REQUIRE(all.ok());
    CHECK(findMaterial(*all, "corn blend")->source == "weighed");
}

TEST_CASE("Stages, verbs, steps and gauges are walked by keys, with the place that is reached marked") {
    OpenPot pot;
    const auto tabTo = [&](QWidget* widget) {
        for (int k = 0; k < 40 && !widget->hasFocus(); ++k) {
            pot.hand->press("Tab");
            Hand::settle();
        }
        REQUIRE(widget->hasFocus());
    };
    const auto differs = [](QWidget* widget, const char* state, const QImage& before) {
        INFO(state);
        CHECK(widget->grab().toImage() != before);
    };
    if (QWidget* first = QApplication::focusWidget()) first->clearFocus();
    Hand::settle();
    const QImage plain = pot.window.stages()->grab().toImage();
    tabTo(pot.window.stages());
    differs(pot.window.stages(), "a focused stage is seen", plain);
    pot.hand->press("Home");
    for (int k = 0; k < 3; ++k) pot.hand->press("Right"); // the menu, Brief, Outline, Form
    pot.hand->press("Return");
    CHECK(Hand::wait([&] { return pot.window.stages()->stage() == "Form"; }, 5000));
    const QImage verbs = pot.window.verbs()->grab().toImage();
    tabTo(pot.window.verbs());
    differs(pot.window.verbs(), "a focused verb is seen", verbs);
    pot.hand->press("End");
    pot.hand->press("Return");
    CHECK(Hand::wait([&] { return pot.window.bar()->active() || pot.window.stages()->stage() == "Outline"; },
                     5000));
    pot.hand->press("Escape");
    Hand::settle();
    const QImage gauges = pot.window.gauges()->grab().toImage();
    tabTo(pot.window.gauges());
    differs(pot.window.gauges(), "a focused gauge is seen", gauges);
    pot.hand->press("Home");
    pot.hand->press("Right");
    pot.hand->press("Right");
    pot.hand->press("Return");
    CHECK(Hand::wait([&] { return pot.window.stages()->stage() == "Prove"; }, 5000));
    StepRow* row = pot.window.sheet()->row(3);
    tabTo(row);
    pot.hand->press("Down");
    Hand::settle();
    CHECK_FALSE(row->hasFocus());
    // Home fits what the wheel has moved out of view.
    Stand* stand = pot.window.stand();
    REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy(); }, 60000));
    pot.hand->press("Home");
    Hand::settle();
    const float fitted = stand->camera().height;
    pot.hand->drag(stand, QPointF(stand->width() * 0.5, stand->height() * 0.9),
                   QPointF(stand->width() * 0.8, stand->height() * 0.9));
    stand->setFocus();
    pot.hand->press("Home");
    CHECK(Hand::wait([&] { return std::fabs(stand->camera().height - fitted) < 1e-3f; }, 5000));
}

TEST_CASE("At 1024 by 700 pages are whole, buttons stand in one line and sights stay") {
    OpenPot pot;
    pot.window.resize(1024, 700);
    for (const char* stage : {"Brief", "Prove", "Release"}) {
        INFO(stage);
        pot.window.setStage(QString::fromLatin1(stage));
        Hand::settle();
        REQUIRE(Hand::wait([&] { return pot.window.width() == 1024; }));
        REQUIRE(
            Hand::wait([&] { return pot.window.sheet()->row(1)->width() < pot.window.sheet()->width(); }));
        REQUIRE(Hand::steady([&] { return QPointF(pot.window.sheet()->row(1)->width(), 0); }));
        // Nothing of a page lies beside its window.
        for (const QWidget* w : pot.window.findChildren<QWidget*>()) {
            if (!w->isVisible() || w->width() == 0) continue;
            const QPoint left = w->mapTo(&pot.window, QPoint(0, 0));
            INFO(w->metaObject()->className() << " at " << left.x() << ", width " << w->width());
            const bool scrolled =
                w->parentWidget() && w->parentWidget()->objectName().startsWith("qt_scrollarea");
            if (!scrolled) CHECK(left.x() + w->width() <= pot.window.width());
        }
        std::set<int> rows;
        int sights = 0;
        for (const QPushButton* b :
             pot.window.stand()->findChildren<QPushButton*>(Qt::FindDirectChildrenOnly)) {
            if (!b->isVisible()) continue;
            if (b->objectName() == "sight")
                ++sights;
            else
                rows.insert(b->y());
            CHECK(b->x() >= 0);
            CHECK(b->geometry().right() < pot.window.stand()->width());
            CHECK(b->fontMetrics().horizontalAdvance(b->text()) < b->width());
        }
        CHECK(rows.size() == 1);
        CHECK(sights == 7);
    }
}
