// Several bodies in one part, and what every kind of step brings to the window.

#include "core/document/part_file.hpp"
#include "tests/window/open_pot.hpp"

#include <QFile>

using namespace gc;
using namespace gc::app;
using gc::test::Hand;
using gc::test::OpenPot;

namespace {

/// The window on a copy of the seed box, built and measured.
struct OpenBox : OpenPot {
    OpenBox() {
        const auto text = readFile("demo/seed-box.goodcurve");
        REQUIRE(text.ok());
        const QString copy = QStringLiteral("/tmp/good-curve-window-test-box.goodcurve");
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
    box.hand->press("1"); // from the front
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

TEST_CASE("Every kind of step has its pictogram, and every verb is in sight in a low window") {
    OpenPot pot;
    for (const StepKind& kind : allKinds()) {
        INFO(kind.key());
        CHECK(QFile::exists(QStringLiteral(":/kinds/%1.svg").arg(QString::fromStdString(kind.key()))));
    }
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
