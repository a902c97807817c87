// What is asked before something is lost or overwritten, and what happens to work that was left behind.

#include "core/base/file.hpp"
#include "core/document/part_file.hpp"
#include "tests/support/stl_volume.hpp"
#include "tests/window/answers.hpp"
#include "tests/window/open_pot.hpp"

#include <QApplication>
#include <QFile>
#include <QMessageBox>
#include <QPushButton>
#include <QTimer>

#include <csignal>

using namespace gc;
using namespace gc::app;
using gc::test::Answers;
using gc::test::Hand;
using gc::test::OpenPot;

namespace {

void edit(MainWindow& window, const char* wall) {
    Part p = window.session()->part();
    p.values[0].expression = wall;
    REQUIRE(window.session()->commit(p, QStringLiteral("wall")));
}

} // namespace

TEST_CASE("A file that somebody else has changed is not overwritten without a word") {
    OpenPot pot;
    const std::string file = pot.file.toStdString();
    edit(pot.window, "2.6 mm");
    Part other = pot.window.session()->part();
    other.name = "Of somebody else";
    REQUIRE(savePart(other, file).ok());
    SECTION("left alone") {
        Answers answers(*pot.hand, {QStringLiteral("Do not save")});
        pot.window.files()->save(false);
        CHECK(answers.asked() == QStringList{"conflict"});
        CHECK(loadPart(file)->name == "Of somebody else");
        CHECK(pot.window.session()->changed());
    }
    SECTION("Esc leaves it alone, too") {
        Answers answers(*pot.hand, {QString()});
        pot.window.files()->save(false);
        CHECK(loadPart(file)->name == "Of somebody else");
    }
    SECTION("overwritten, knowingly, and not asked again") {
        Answers answers(*pot.hand, {QStringLiteral("Overwrite it")});
        pot.window.files()->save(false);
        CHECK(loadPart(file)->name == pot.window.session()->part().name);
        edit(pot.window, "2.7 mm");
        pot.window.files()->save(false);
        CHECK(answers.asked() == QStringList{"conflict"});
        CHECK(loadPart(file)->values[0].expression == "2.7 mm");
    }
}

TEST_CASE("A file that another window has open is opened only when that is said") {
    OpenPot pot;
    MainWindow second;
    second.move(0, 0);
    second.show();
    second.session()->startNew();
    Hand hand(&second);
    {
        Answers answers(hand, {QStringLiteral("Leave it")});
        second.files()->open(pot.file);
        CHECK(answers.asked() == QStringList{"heldFile"});
        CHECK(second.session()->file().isEmpty());
    }
    {
        Answers answers(hand, {QStringLiteral("Open it all the same")});
        second.files()->open(pot.file);
        CHECK(second.session()->file() == pot.file);
    }
    second.session()->endCleanly();
}

TEST_CASE("A part with no more than a brief is not left unasked") {
    OpenPot pot;
    pot.window.session()->startNew();
    CHECK(pot.window.files()->mayLeave()); // nothing was done
    Part p = pot.window.session()->part();
    p.brief.purpose = "A lamp for the desk.";
    REQUIRE(pot.window.session()->commit(p, QStringLiteral("purpose")));
    Answers answers(*pot.hand, {QStringLiteral("Stay here"), QStringLiteral("Let them go")});
    CHECK_FALSE(pot.window.files()->mayLeave());
    CHECK(pot.window.files()->mayLeave());
    CHECK(answers.asked() == QStringList{"unsaved", "unsaved"});
}

TEST_CASE(
    "Lost work waits: Esc puts it off and the file that was asked for is opened; letting go asks once more") {
    const test::TemporaryFolder state; // of no other test, nor of a window that was killed
    const QByteArray before = qgetenv("XDG_STATE_HOME");
    qputenv("XDG_STATE_HOME", QByteArray::fromStdString(state.path().string()));
    OpenPot pot;
    const auto leave = [&](const char* name) { // what a killed window leaves behind
        Part p = pot.window.session()->part();
        auto journal = Journal::start(journalFolder(), p, "");
        p.name = name;
        REQUIRE((*journal)->append(p, "renamed").ok());
    };
    leave("First");
    leave("Second");
    MainWindow next;
    next.move(0, 0);
    next.show();
    Hand hand(&next);
    const QString other = pot.inFolder("other.goodcurve");
    REQUIRE(savePart(pot.window.session()->part(), other.toStdString()).ok());
    {
        Answers answers(hand, {QString(), QString()});
        next.files()->begin(other);
        CHECK(answers.asked() == QStringList{"lostWork", "lostWork"});
        CHECK(next.session()->file() == other);
        CHECK(findLostWork(journalFolder()).size() == 2);
    }
    {
        Answers answers(hand, {QStringLiteral("Let it go"), QStringLiteral("Keep them for later"),
                               QStringLiteral("Let it go"), QStringLiteral("Let them go")});
        CHECK_FALSE(next.files()->offerLostWork());
        CHECK(findLostWork(journalFolder()).size() == 1);
    }
    {
        Answers answers(hand, {QStringLiteral("Go on with it")});
        next.files()->begin(other);
        CHECK(next.session()->changed());
        CHECK(next.session()->worthKeeping());
        CHECK(next.bar()->message().contains(QStringLiteral("was not opened")));
        CHECK(findLostWork(journalFolder()).empty()); // it is in the journal of this window now
    }
    next.session()->endCleanly();
    qputenv("XDG_STATE_HOME", before);
}

TEST_CASE("What could not be read back is refused in words, and everything stays as it was") {
    OpenPot pot;
    const Part before = pot.window.session()->part();
    Part p = before;
    p.name = "broken \xE9 name";
    CHECK_FALSE(pot.window.session()->commit(p, QStringLiteral("renamed")));
    CHECK(pot.window.session()->part().name == before.name);
    CHECK(pot.window.bar()->message().contains(QStringLiteral("cannot be kept")));
    Drawing far;
    far.draw(StrokeKind::Circle, {{0, 0}}, {1.5e6});
    Step draw = newStep(p = before, "draw");
    draw.slots["drawing"] = DrawingSlot(std::move(far));
    p.steps.push_back(draw);
    CHECK_FALSE(pot.window.session()->commit(p, QStringLiteral("drawn")));
    CHECK(pot.window.session()->part().steps.size() == before.steps.size());
    edit(pot.window, "2.6 mm");
    CHECK(pot.window.session()->journalled());
}

TEST_CASE("Problems stay until they are clicked away, and can be read again") {
    OpenPot pot;
    SentenceBar* bar = pot.window.bar();
    bar->say(QStringLiteral("■ Something went wrong."));
    Hand::wait([] { return false; }, 7600); // longer than what went well is shown
    CHECK(bar->message().contains(QStringLiteral("went wrong")));
    pot.hand->click(bar, QRectF(bar->messageRect()).center());
    REQUIRE(Hand::wait([&] { return bar->message().isEmpty(); }));
    bar->say(QStringLiteral("✓ Something went well."));
    CHECK(bar->said().size() >= 2);
    CHECK(bar->said()[1].contains(QStringLiteral("went wrong")));
    pot.hand->click(bar, QRectF(bar->saidRect()).center());
    REQUIRE(Hand::wait([&] { return QApplication::activePopupWidget() != nullptr; }));
    QApplication::activePopupWidget()->close();
}

TEST_CASE("With the bookmark before the end an export asks what is meant, and writes that") {
    OpenPot pot;
    const double whole = *pot.target("mass").value / 0.905e-3;
    Part p = pot.window.session()->part();
    p.bookmark = 3; // before the shell
    REQUIRE(pot.window.session()->commit(p, QStringLiteral("bookmark")));
    REQUIRE(pot.measured());
    const auto written = [&](const char* name, const QString& answer) {
        const QString path = pot.inFolder(name);
        Answers answers(*pot.hand, {answer});
        pot.window.release()->exportTo(path);
        CHECK(answers.asked() == QStringList{"bookmark"});
        Hand::wait([&] { return QFile::exists(path); }, answer.isEmpty() ? 1500 : 30000);
        return QFile::exists(path) ? test::stlVolume(*readFile(path.toStdString())) : 0;
    };
    CHECK(written("nothing.stl", QString()) == 0);
    CHECK(written("whole.stl", QStringLiteral("Write the whole part")) == Approx(whole).epsilon(0.003));
    CHECK(written("there.stl", QStringLiteral("Write it as it is there")) > 5 * whole);
}

TEST_CASE("A proof sheet holds no measures of another part than its own") {
    OpenPot pot;
    const QString path = pot.inFolder("sheet.html");
    REQUIRE(pot.window.release()->writeProofSheet(path));
    const std::string whole = *readFile(path.toStdString());
    CHECK(whole.find("not measured") == std::string::npos);
    CHECK(whole.find("76.1 g") != std::string::npos);
    // The worker is stopped: what it measured is of the wall before.
    REQUIRE(::kill(static_cast<pid_t>(pot.window.forge()->processId()), SIGSTOP) == 0);
    edit(pot.window, "3.1 mm");
    REQUIRE(pot.window.release()->writeProofSheet(path));
    const std::string stale = *readFile(path.toStdString());
    CHECK(stale.find("3.1 mm") != std::string::npos);
    CHECK(stale.find("76.1 g") == std::string::npos);
    CHECK(stale.find("not measured") != std::string::npos);
    ::kill(static_cast<pid_t>(pot.window.forge()->processId()), SIGCONT);
    REQUIRE(pot.measured());
}
