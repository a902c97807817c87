// Several bodies in one part, and what every kind of step brings to the window.

#include "core/document/part_file.hpp"
#include "tests/window/open_pot.hpp"
#include "tests/window/sight.hpp"

#include "app/look/pictogram.hpp"
#include "app/rooms/release/export_choice.hpp"
#include "app/stand/bodies_strip.hpp"
#include "app/stand/stand.hpp"
#include "tests/support/stl_volume.hpp"

#include <QAbstractItemView>
#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QFile>
#include <QMenu>
#include <QTimer>
#include <QToolButton>

#include <cstdlib>

using namespace gc;
using namespace gc::app;
using gc::test::Hand;
using gc::test::look;
using gc::test::OpenPot;

namespace {

/// The window on a copy of the seed box, built and measured.
struct OpenBox : OpenPot {
    OpenBox() {
        const auto text = readFile("demo/seed-box.goodcurve");
        REQUIRE(text.ok());
        const QString copy = inFolder("box.goodcurve");
        REQUIRE(writeFileAtomically(copy.toStdString(), *text).ok());
        REQUIRE(window.session()->open(copy));
        REQUIRE(Hand::wait([&] { return window.forge()->meshes().size() == 2; }, 60000));
        REQUIRE(measured());
    }
    const TargetView& of(const QString& measure, const QString& body) {
        for (const TargetView& t : window.forge()->targets())
            if (t.measure == measure && t.ofBody == body) return t;
        FAIL("no target " << measure.toStdString() << " of " << body.toStdString());
        throw 0;
    }
};

} // namespace

TEST_CASE(
    "A box and its lid are two bodies, weighed apart in materials of their own and told apart by colour") {
    OpenBox box;
    for (const auto& [id, s] : box.window.forge()->steps()) CHECK(s.ok);
    for (const TargetView& t : box.window.forge()->targets())
        CHECK((t.verdict == "holds" || t.verdict == "watch"));
    CHECK(*box.of("mass", "box").value == Approx(62.51 * 0.905).epsilon(1e-3));
    CHECK(*box.of("mass", "lid").value == Approx(28.57 * 1.05).epsilon(1e-2)); // ABS
    CHECK(box.of("mass", "lid").label == "Mass of lid");
    // Clay below, another colour above.
    Stand* stand = box.window.stand();
    look(*box.hand, box.window.stand(), 1); // from the front
    Hand::settle();
    const QImage picture = stand->picture();
    const auto at = [&](const QVector3D& p) {
        const QPointF s = stand->screenOf(p) * stand->devicePixelRatio();
        return picture.pixelColor(s.toPoint());
    };
    const QColor below = at({0, -40, 20}), above = at({0, -42, 57});
    CHECK(std::abs(below.hsvHue() - above.hsvHue()) > 40);

    // Made taller, floor, lid and targets follow.
    Part taller = box.window.session()->part();
    for (NamedValue& v : taller.values)
        if (v.name == "tall") v.expression = "75 mm";
    box.window.session()->commit(taller, QStringLiteral("tall"));
    REQUIRE(box.measured());
    for (const auto& [id, s] : box.window.forge()->steps()) CHECK(s.ok);
    CHECK(*box.of("height", "").value == Approx(77.4).margin(1e-6));
    CHECK(*box.of("thinnest wall", "box").value == Approx(2).margin(0.02));
}

TEST_CASE("A body is named anew in the sheet: everything that names it follows, and nothing is built again") {
    OpenBox box;
    box.clickSlot(2, "body");
    box.hand->press("a", true);
    box.hand->type("tub");
    box.hand->press("Return");
    CHECK(box.step(2).text("body") == "tub");
    CHECK(box.step(5).text("body") == "tub"); // the shell
    CHECK(box.window.session()->part().brief.targets[0].body == "tub");
    REQUIRE(box.measured());
    CHECK(box.of("mass", "tub").label == "Mass of tub");
    for (const auto& [id, s] : box.window.forge()->steps()) CHECK(s.cached);
    SECTION("a name that is taken is refused in words, and the old one stays") {
        box.clickSlot(2, "body");
        box.hand->press("a", true);
        box.hand->type("lid");
        box.hand->press("Return");
        CHECK(box.step(2).text("body") == "tub");
    }
}

TEST_CASE("A target is told in the brief which body it is about") {
    OpenBox box;
    box.window.setStage(QStringLiteral("Brief"));
    const auto body = [&] { return box.window.session()->part().brief.targets[0].body; };
    REQUIRE(body() == "box");
    const auto choice = [&] {
        return qobject_cast<QComboBox*>(box.window.brief()->brief()->targets()->cellWidget(0, 2));
    };
    REQUIRE(Hand::wait([&] { return choice() && choice()->isVisible(); }));
    CHECK(choice()->count() == 3); // all of them, box, lid
    CHECK(choice()->currentText() == QStringLiteral("box"));
    REQUIRE(Hand::steady([&] { return QPointF(choice()->mapToGlobal(QPoint())); }));
    box.hand->click(choice(), QPointF(choice()->rect().center()));
    QAbstractItemView* list = choice()->view();
    REQUIRE(Hand::wait([&] { return list->isVisible(); }));
    REQUIRE(Hand::steady([&] { return QPointF(list->viewport()->mapToGlobal(QPoint())); }));
    box.hand->click(list->viewport(), list->visualRect(choice()->model()->index(2, 0)).center());
    REQUIRE(Hand::wait([&] { return body() == "lid"; }));
    REQUIRE(box.measured());
    CHECK(*box.of("mass", "lid").value > 0);
    box.hand->press("z", true);
    CHECK(body() == "box");
}

TEST_CASE("An extrude is typed, seen before it is kept, and kept by Enter") {
    OpenBox box;
    const double before = *box.of("mass", "lid").value;
    box.hand->type("ext");
    box.hand->press("Return");
    REQUIRE(box.window.bar()->active());
    CHECK(box.window.bar()->draft()->text("outline") == "lid rim");
    CHECK(box.window.bar()->draft()->text("does") == "adding to");
    REQUIRE(Hand::wait([&] { return !box.window.forge()->busy(); }, 30000));
    CHECK(*box.of("mass", "lid").value > before + 4); // the preview is weighed
    box.hand->press("Return");
    REQUIRE(Hand::wait([&] { return box.window.session()->part().steps.size() == 11; }, 5000));
    box.hand->press("z", true);
    CHECK(box.window.session()->part().steps.size() == 10);
}

TEST_CASE("A verb is found by what it does, where it is not called so") {
    OpenPot pot;
    for (const auto& [typed, kind] : {std::pair{"gusset", "rib"}, {"bend", "twist"}, {"twi", "twist"}}) {
        pot.hand->type(QString::fromLatin1(typed));
        pot.hand->press("Return");
        INFO(typed);
        REQUIRE(Hand::wait([&] { return pot.window.bar()->active(); }));
        CHECK(pot.window.bar()->draft()->kind == kind);
        pot.hand->press("Escape");
        REQUIRE(Hand::wait([&] { return !pot.window.bar()->active(); }));
    }
}

TEST_CASE("Every kind of step has its pictogram, and every verb is in sight in a low window") {
    OpenPot pot;
    for (const StepKind& kind : allKinds()) {
        INFO(kind.key());
        CHECK(QFile::exists(pictogramFile(QString::fromStdString(kind.key()))));
    }
    for (const ToolKind& tool : allTools())
        CHECK(QFile::exists(pictogramFile(QStringLiteral("tool:") + tool.key)));
    for (const char* other : {"tool:bring", "tool:write", "tool:done", "edit:text"})
        CHECK(QFile::exists(pictogramFile(QLatin1String(other))));
    pot.window.resize(1024, 700);
    Hand::settle();
    for (const StepKind& kind : allKinds()) {
        INFO(kind.key());
        pot.window.setStage(QString::fromStdString(kind.words.stage));
        const QRect r = pot.window.verbs()->verbRect(QString::fromStdString(kind.key()));
        CHECK(!r.isEmpty());
        CHECK(pot.window.verbs()->rect().contains(r));
    }
}

namespace {

/// A disc with six holes, one of which is rounded; then the six are eight.
Part discInQuestion() {
    Part p;
    p.name = "disc";
    Drawing d;
    d.draw(StrokeKind::Circle, {{0, 0}}, {30});
    const auto add = [&](const char* kind, std::initializer_list<std::pair<const char*, SlotValue>> slots) {
        Step s = newStep(p, kind);
        for (const auto& [key, value] : slots) s.slots[key] = value;
        p.steps.push_back(s);
    };
    add("draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(d)}});
    add("extrude", {{"length", std::string("5 mm")}});
    add("hole", {{"face", References{"end of step 2"}},
                 {"count", std::string("8")},
                 {"circle", std::string("40 mm")},
                 {"diameter", std::string("8 mm")}});
    add("fillet", {{"edges", References{"where copy at 60° of bore of step 3 meets end of step 2"}},
                   {"radius", std::string("1 mm")}});
    return p;
}

struct OpenDisc : OpenPot {
    OpenDisc() {
        const QString path = inFolder("disc.goodcurve");
        REQUIRE(savePart(discInQuestion(), path.toStdString()).ok());
        REQUIRE(window.session()->open(path));
        Hand::settle();
        REQUIRE(asks());
    }
    bool asks() {
        return Hand::wait(
            [&] {
                const auto& steps = window.forge()->steps();
                return !window.forge()->busy() && steps.count(4) && steps.at(4).question;
            },
            60000);
    }
    const std::string& rounded() { return step(4).references("edges").front(); }
};

} // namespace

TEST_CASE("Which one? is answered by a click in the stand, or by a line in the sheet") {
    OpenDisc disc;
    StepRow* row = disc.window.sheet()->row(4);
    CHECK(disc.window.forge()->steps().at(4).question->about.toStdString() == disc.rounded());
    CHECK(disc.window.forge()->steps().at(4).error.contains("others are like it. Which one?"));
    SECTION("in the stand, where those that may be meant are marked") {
        disc.hand->click(row, QRectF(row->remedyRect(0)).center());
        Stand* stand = disc.window.stand();
        REQUIRE(Hand::wait([&] { return stand->picking() == Picking::Edges; }));
        REQUIRE(Hand::wait([&] { return disc.window.forge()->halo().size() == 8; }));
        look(*disc.hand, disc.window.stand(), 5); // from above
        Hand::settle();
        // The upper edge of the hole at 90 degrees: on its circle, 4 mm from its middle.
        const QVector3D at(0, 24, 5);
        REQUIRE(Hand::steady([&] { return stand->screenOf(at); }));
        disc.hand->click(stand, stand->screenOf(at));
        REQUIRE(Hand::wait([&] { return disc.rounded().find("90°") != std::string::npos; }));
        CHECK(stand->picking() == Picking::Nothing);
    }
    SECTION("by the likeliest in words") {
        disc.hand->click(row, QRectF(row->remedyRect(1)).center());
        REQUIRE(Hand::wait([&] { return disc.rounded().find("45°") != std::string::npos; }));
    }
    REQUIRE(disc.measured());
    CHECK(disc.window.forge()->steps().at(4).ok);
    disc.hand->press("z", true);
    CHECK(disc.rounded().find("60°") != std::string::npos);
}

TEST_CASE("A body is hidden, coloured and made of something else from the list over the stand") {
    OpenBox box;
    const ThingId lid{8, 0};
    BodiesStrip* strip = box.window.bodies();
    REQUIRE(strip->isVisible());
    REQUIRE(strip->name(lid));
    CHECK(strip->name(lid)->text() == "lid");
    box.hand->click(strip->name(lid), QRectF(strip->name(lid)->rect()).center());
    REQUIRE(Hand::wait([&] { return lookOf(box.window.session()->part(), lid).hidden; }));
    CHECK(strip->name(lid)->text() == "lid, hidden");
    REQUIRE(box.measured());
    CHECK(*box.of("mass", "lid").value > 20); // weighed all the same
    box.hand->press("z", true);
    REQUIRE(Hand::wait([&] { return !lookOf(box.window.session()->part(), lid).hidden; }));

    const auto where = [&] { return QPointF(strip->swatch(lid)->mapToGlobal(QPoint(0, 0))); };
    REQUIRE(Hand::steady(where));
    box.hand->click(strip->swatch(lid), QRectF(strip->swatch(lid)->rect()).center());
    QMenu* menu = nullptr;
    REQUIRE(
        Hand::wait([&] { return (menu = strip->findChild<QMenu*>("bodyChoices")) && menu->isVisible(); }));
    const auto dyes = menu->findChildren<QToolButton*>();
    REQUIRE(dyes.size() == 12);
    box.hand->click(dyes[7], QRectF(dyes[7]->rect()).center());
    REQUIRE(Hand::wait([&] { return !lookOf(box.window.session()->part(), lid).colour.empty(); }));
    CHECK(lookOf(box.window.session()->part(), lid).colour == "#d98c3f");

    REQUIRE(box.measured());
    const double abs = *box.of("mass", "lid").value;
    box.hand->click(strip->swatch(lid), QRectF(strip->swatch(lid)->rect()).center());
    REQUIRE(
        Hand::wait([&] { return (menu = strip->findChild<QMenu*>("bodyChoices")) && menu->isVisible(); }));
    auto* list = menu->findChild<QMenu*>();
    REQUIRE(list);
    CHECK(list->title() == "Material: ABS");
    box.hand->click(menu, QRectF(menu->actionGeometry(list->menuAction())).center());
    REQUIRE(Hand::wait([&] { return list && list->isVisible(); }));
    QAction* brief = list->actions().front();
    CHECK_FALSE(brief->isChecked());
    box.hand->click(list, QRectF(list->actionGeometry(brief)).center());
    REQUIRE(Hand::wait([&] { return lookOf(box.window.session()->part(), lid).material.empty(); }));
    REQUIRE(box.measured());
    CHECK(*box.of("mass", "lid").value == Approx(abs * 0.905 / 1.05).epsilon(1e-6));
}

TEST_CASE("A file of triangles asks which bodies; STEP and 3MF carry names and colours") {
    OpenBox box;
    QStringList written;
    QObject::connect(box.window.forge(), &ForgeLink::exported, &box.window,
                     [&](const QString& p, const QString& e) { written << (e.isEmpty() ? p : e); });
    const auto choose = [&](const std::function<void(ExportChoice*)>& answer) {
        QTimer look; // the question has an event loop of its own: it is answered from within
        bool answered = false;
        QObject::connect(&look, &QTimer::timeout, &look, [&] {
            auto* asked = qobject_cast<ExportChoice*>(QApplication::activeModalWidget());
            if (!asked || answered) return;
            answered = true;
            answer(asked);
        });
        look.start(50);
        box.window.release()->exportTo(box.inFolder("box.stl"));
        CHECK(answered);
    };
    const auto volume = [](const QString& path) {
        return gc::test::stlVolume(*readFile(path.toStdString()));
    };
    choose([](ExportChoice* c) {
        const auto boxes = c->findChildren<QCheckBox*>();
        REQUIRE(boxes.size() == 3);
        CHECK(boxes[0]->text() == "box");
        boxes[1]->click(); // not the lid
        c->accept();
    });
    REQUIRE(Hand::wait([&] { return written.size() == 1; }, 60000));
    CHECK(volume(written[0]) == Approx(62510).epsilon(3e-3));
    choose([](ExportChoice* c) {
        c->findChildren<QCheckBox*>()[2]->click();
        c->accept();
    });
    REQUIRE(Hand::wait([&] { return written.size() == 3; }, 60000));
    CHECK(written[1].endsWith("box-box.stl"));
    CHECK(written[2].endsWith("box-lid.stl"));
    CHECK(volume(written[2]) == Approx(28570).epsilon(1e-2));
    choose([](ExportChoice* c) { c->reject(); });
    CHECK(written.size() == 3);

    box.window.release()->exportTo(box.inFolder("box.step"));
    REQUIRE(Hand::wait([&] { return written.size() == 4; }, 60000));
    const std::string step = *readFile(written[3].toStdString());
    CHECK(step.find("MANIFOLD_SOLID_BREP('box'") != std::string::npos);
    CHECK(step.find("MANIFOLD_SOLID_BREP('lid'") != std::string::npos);
    CHECK(step.find("PRODUCT('lid'") != std::string::npos);
    CHECK(step.find("COLOUR_RGB") != std::string::npos);
    box.window.release()->exportTo(box.inFolder("box.3mf"));
    REQUIRE(Hand::wait([&] { return written.size() == 5; }, 60000));
    const std::string command =
        "python3 tests/support/read_3mf.py " + written[4].toStdString() + " box,lid 91080 '#C98A66,#A9BDB0'";
    CHECK(std::system(command.c_str()) == 0);
}
