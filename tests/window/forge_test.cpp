// The window and its worker when things go wrong: frozen, speaking nonsense, asked for what is not whole.

#include "core/document/part_file.hpp"
#include "tests/support/stl_volume.hpp"
#include "tests/window/open_pot.hpp"

#include <QApplication>
#include <QElapsedTimer>
#include <QFile>
#include <QMessageBox>
#include <QPushButton>
#include <QTimer>

#include <csignal>
#include <filesystem>

using namespace gc;
using namespace gc::app;
using gc::test::Hand;
using gc::test::OpenPot;

namespace {

/// Types another wall, as a person would.
void typeWall(OpenPot& pot, const QString& text) {
    pot.clickSlot(4, "wall");
    pot.hand->press("a", true);
    pot.hand->type(text);
    pot.hand->press("Return");
}

} // namespace

TEST_CASE("A frozen worker is noticed while a person goes on editing, and every edit is kept") {
    OpenPot pot;
    const auto first = pot.window.forge()->processId();
    REQUIRE(::kill(static_cast<pid_t>(first), SIGSTOP) == 0);
    QElapsedTimer clock;
    clock.start();
    int edits = 0;
    while (pot.window.forge()->processId() == first && clock.elapsed() < 30000) {
        typeWall(pot, QString::number(2.5 + 0.01 * ++edits)); // an edit starts no clock anew
        Hand::wait([&] { return pot.window.forge()->processId() != first; }, 1500);
    }
    CHECK(pot.window.forge()->processId() != first);
    CHECK(clock.elapsed() < 20000); // 5 s of silence, and what a loaded machine adds
    CHECK(edits > 1);
    REQUIRE(pot.measured());
    CHECK(pot.window.session()->part().values[0].expression ==
          std::to_string(2.5 + 0.01 * edits).substr(0, 4));
    for (const auto& [id, s] : pot.window.forge()->steps()) CHECK(s.ok);
}

TEST_CASE("A worker that says nonsense is started again, and the window goes on") {
    OpenPot pot;
    QString told;
    QObject::connect(pot.window.forge(), &ForgeLink::restarted, &pot.window,
                     [&](const QString& why) { told = why; });
    pot.window.forge()->misbehave("nonsense");
    REQUIRE(Hand::wait([&] { return pot.window.forge()->restarts() == 1; }, 10000));
    CHECK(told.contains("not understood"));
    typeWall(pot, "2.6");
    REQUIRE(pot.measured());
    CHECK(*pot.target("thinnest wall").value == Approx(2.6).margin(0.01));
}

TEST_CASE("A part that kills the worker while it is measured is built and shown, and its gauges say why they "
          "stay empty") {
    OpenPot pot;
    QString told;
    QObject::connect(pot.window.forge(), &ForgeLink::problem, &pot.window,
                     [&](const QString& s) { told = s; });
    pot.window.forge()->setSilenceLimit(1500);
    qputenv("GOOD_CURVE_HANG_AT", "measure");
    ::kill(static_cast<pid_t>(pot.window.forge()->processId()), SIGKILL); // the next one hangs
    REQUIRE(Hand::wait([&] { return pot.window.forge()->restarts() == 1; }, 5000));
    typeWall(pot, "2.7");
    REQUIRE(Hand::wait([&] { return told.contains("not measured"); }, 60000));
    CHECK(pot.window.forge()->restarts() == 3); // twice, and not without end
    CHECK_FALSE(pot.window.forge()->busy());
    CHECK_FALSE(pot.window.forge()->meshes().empty());
    for (const auto& [id, s] : pot.window.forge()->steps()) CHECK(s.ok);
    for (const TargetView& t : pot.window.forge()->targets()) {
        CHECK(t.text.isEmpty());
        CHECK(t.note.contains("stopped twice while it was measured"));
    }
    qunsetenv("GOOD_CURVE_HANG_AT");
    ::kill(static_cast<pid_t>(pot.window.forge()->processId()), SIGKILL); // the next one is well
    REQUIRE(Hand::wait([&] { return pot.window.forge()->restarts() == 4; }, 5000));
    pot.window.forge()->setSilenceLimit(5000);
    typeWall(pot, "2.6"); // another part is tried again
    REQUIRE(pot.measured());
    CHECK(*pot.target("thinnest wall").value == Approx(2.6).margin(0.01));
}

TEST_CASE("While a sentence is open gauges keep what was measured, and say when it will be measured") {
    OpenPot pot;
    const QString mass = pot.target("mass").text;
    int pictures = 0;
    QObject::connect(pot.window.forge(), &ForgeLink::meshesChanged, &pot.window, [&] { ++pictures; });
    pot.hand->type("she"); // a second shell would change everything
    pot.hand->press("Return");
    REQUIRE(pot.window.bar()->active());
    REQUIRE(Hand::wait([&] { return pictures > 0 && !pot.window.forge()->busy(); }, 40000));
    CHECK(pot.window.gauges()->words(0) == "Mass " + mass + " after Enter");
    pot.hand->press("Escape");
    REQUIRE(pot.measured());
    CHECK(pot.window.gauges()->words(0) == "Mass " + mass + " ✓ holds");
}

TEST_CASE("What is exported is the part as the sheet says, even while a sentence is being tried") {
    OpenPot pot;
    const double kept = *pot.target("mass").value / 0.905e-3;
    pot.hand->type("she"); // a second shell would change everything
    pot.hand->press("Return");
    REQUIRE(pot.window.bar()->active());
    const QString path = pot.inFolder("draft.stl");
    QString written, error;
    QObject::connect(pot.window.forge(), &ForgeLink::exported, &pot.window,
                     [&](const QString& p, const QString& e) { written = p, error = e; });
    pot.window.release()->exportTo(path);
    REQUIRE(Hand::wait([&] { return !written.isEmpty(); }, 60000));
    CHECK(error.isEmpty());
    CHECK(gc::test::stlVolume(*readFile(path.toStdString())) == Approx(kept).epsilon(3e-3));
}

TEST_CASE("An export with a failing step asks first, and names the step") {
    OpenPot pot;
    pot.clickSlot(5, "radius");
    pot.hand->press("a", true);
    pot.hand->type("1.6 mm");
    pot.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy(); }, 60000));
    REQUIRE_FALSE(pot.window.forge()->steps().at(5).ok);
    const QString path = pot.inFolder("failing.stl");
    std::filesystem::remove(path.toStdString());
    bool said = false;
    QObject::connect(pot.window.forge(), &ForgeLink::exported, &pot.window, [&] { said = true; });
    QString question;
    const auto ask = [&](const QString& button) {
        question.clear();
        QTimer look; // the question has an event loop of its own: it is answered from within
        QObject::connect(&look, &QTimer::timeout, &look, [&] {
            auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
            if (!box || !question.isEmpty()) return;
            question = box->text();
            look.stop();
            for (QPushButton* b : box->findChildren<QPushButton*>())
                if (b->text() == button) pot.hand->click(b, QPointF(b->rect().center()));
        });
        look.start(20);
        pot.window.release()->exportTo(path);
        REQUIRE(Hand::wait([&] { return !question.isEmpty() && !QApplication::activeModalWidget(); }, 30000));
    };
    ask("Mend it first");
    CHECK(question.contains("Step 5 fails"));
    CHECK_FALSE(said);
    CHECK_FALSE(std::filesystem::exists(path.toStdString()));
    ask("Write it all the same");
    REQUIRE(Hand::wait([&] { return said; }, 30000));
    CHECK(std::filesystem::exists(path.toStdString()));
}

TEST_CASE("A worker that dies at every start is started five times a minute at most, then rests until the "
          "next edit") {
    OpenPot pot;
    QString told;
    QObject::connect(pot.window.forge(), &ForgeLink::problem, &pot.window,
                     [&](const QString& why) { told = why; });
    const QString good = qEnvironmentVariable("GOOD_CURVE_FORGE");
    qputenv("GOOD_CURVE_FORGE", "/bin/false");
    ::kill(static_cast<pid_t>(pot.window.forge()->processId()), SIGKILL);
    REQUIRE(Hand::wait([&] { return told.contains("five times"); }, 60000));
    const int starts = pot.window.forge()->restarts();
    CHECK(starts <= 6);
    CHECK(pot.window.bar()->message().contains("five times")); // it stays until it is seen
    CHECK_FALSE(pot.window.forge()->busy());
    Hand::wait([&] { return pot.window.forge()->restarts() > starts; }, 1500);
    CHECK(pot.window.forge()->restarts() == starts);
    good.isEmpty() ? qunsetenv("GOOD_CURVE_FORGE") : qputenv("GOOD_CURVE_FORGE", good.toUtf8());
    typeWall(pot, "2.6");
    REQUIRE(pot.measured());
    CHECK(*pot.target("thinnest wall").value == Approx(2.6).margin(0.01));
}

TEST_CASE("A worker that cannot be started is told, and the window keeps every edit") {
    const QString good = qEnvironmentVariable("GOOD_CURVE_FORGE");
    OpenPot pot;
    qputenv("GOOD_CURVE_FORGE", "/nowhere/forge");
    ::kill(static_cast<pid_t>(pot.window.forge()->processId()), SIGKILL);
    REQUIRE(Hand::wait([&] { return pot.window.bar()->message().contains("cannot be started"); }, 60000));
    CHECK_FALSE(pot.window.forge()->busy());
    good.isEmpty() ? qunsetenv("GOOD_CURVE_FORGE") : qputenv("GOOD_CURVE_FORGE", good.toUtf8());
    typeWall(pot, "2.7");
    REQUIRE(pot.measured());
    CHECK(*pot.target("thinnest wall").value == Approx(2.7).margin(0.01));
}

TEST_CASE("An export to a worker that was stopped while idle is told, and done by the next one") {
    OpenPot pot;
    const QString path = pot.inFolder("stopped.stl");
    const auto first = pot.window.forge()->processId();
    REQUIRE(::kill(static_cast<pid_t>(first), SIGSTOP) == 0);
    pot.window.release()->exportTo(path);
    REQUIRE(Hand::wait([&] { return pot.window.forge()->processId() != first; }, 15000));
    REQUIRE(Hand::wait([&] { return pot.window.bar()->said().join(' ').contains("Export it again"); }, 5000));
    CHECK_FALSE(QFile::exists(path));
    REQUIRE(pot.measured());
    pot.window.release()->exportTo(path);
    REQUIRE(Hand::wait([&] { return QFile::exists(path); }, 60000));
}
