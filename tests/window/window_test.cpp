// The real window under a real X server, with the real forge, driven by real mouse and key events.

#include <catch2/catch.hpp>

#include "app/shell/main_window.hpp"
#include "app/shell/start.hpp"
#include "core/base/file.hpp"
#include "core/document/part_file.hpp"
#include "tests/support/catch_session.hpp"
#include "tests/support/stl_volume.hpp"
#include "tests/window/hand.hpp"
#include "tests/window/open_pot.hpp"
#include "tests/window/sight.hpp"

#include <QApplication>
#include <QElapsedTimer>
#include <QProcess>
#include <QTemporaryDir>
#include <QTimer>

#include <csignal>
#include <cstdio>
#include <cstring>
#include <memory>
#include <random>

using namespace gc;
using namespace gc::app;
using gc::test::Hand;
using gc::test::look;
using gc::test::OpenPot;

namespace {

QByteArray stateHome; // of the tests' own windows

} // namespace

TEST_CASE("The window opens with the demo part on the stand, its sheet and its gauges") {
    OpenPot pot;
    CHECK(pot.window.forge()->meshes().size() == 1);
    CHECK(pot.window.forge()->targets().size() == 7);
    for (const TargetView& t : pot.window.forge()->targets())
        CHECK((t.verdict == "holds" || t.verdict == "watch"));
    for (const auto& [id, s] : pot.window.forge()->steps()) CHECK(s.ok);
    // The stand shows the clay in its middle and paper in its corner.
    const QImage picture = pot.window.stand()->picture();
    CHECK(picture.pixelColor(picture.width() / 2, picture.height() / 2).saturationF() >
          picture.pixelColor(4, picture.height() / 2).saturationF() + 0.1);
}

TEST_CASE("A number is clicked, typed over and everything follows; undo goes back to the start") {
    OpenPot pot;
    const double mass = *pot.target("mass").value;
    pot.clickSlot(4, "wall");
    pot.hand->press("a", true);
    pot.hand->type("2.8");
    pot.hand->press("Return");
    CHECK(pot.window.session()->part().values[0].expression == "2.8");
    REQUIRE(pot.measured());
    CHECK(*pot.target("thinnest wall").value == Approx(2.8).margin(0.01));
    CHECK(*pot.target("mass").value > mass * 1.1);
    CHECK(pot.target("mass").verdict == "fails");

    SECTION("fractions and names work, and a mistake loses nothing") {
        pot.clickSlot(4, "wall");
        pot.hand->press("a", true);
        pot.hand->type("wall + 7/64 in");
        pot.hand->press("Return");
        CHECK(pot.step(4).text("wall") == "wall + 7/64 in");
        pot.clickSlot(5, "radius");
        pot.hand->press("a", true);
        pot.hand->type("2 +");
        pot.hand->press("Return");
        CHECK(pot.step(5).text("radius") == "wall * 0.45");
        pot.hand->press("Escape");
    }
    for (int k = 0; k < 10 && pot.window.session()->history().canUndo(); ++k) pot.hand->press("z", true);
    CHECK_FALSE(pot.window.session()->history().canUndo());
    CHECK(pot.window.session()->part().values[0].expression == "2.4 mm");
    REQUIRE(pot.measured());
    CHECK(*pot.target("mass").value == Approx(mass));
    pot.hand->press("y", true);
    CHECK(pot.window.session()->part().values[0].expression == "2.8");
}

TEST_CASE("A number is scrubbed by dragging it") {
    OpenPot pot;
    const QPointF at = QRectF(pot.sentence(3)->slotRect("radius")).center();
    pot.hand->drag(pot.sentence(3), at, at + QPointF(60, 0));
    const std::string now = pot.step(3).text("radius");
    CHECK(now == "6 mm");
    CHECK(pot.window.session()->history().canUndo());
    REQUIRE(pot.measured());
    CHECK(pot.window.forge()->steps().at(3).ok);
}

TEST_CASE("A gauge that fails leads to the place and to a remedy that was tried") {
    OpenPot pot;
    pot.clickSlot(4, "wall");
    pot.hand->press("a", true);
    pot.hand->type("1.8");
    pot.hand->press("Return");
    REQUIRE(pot.measured());
    REQUIRE(pot.target("thinnest wall").verdict == "fails");
    CHECK(pot.target("thinnest wall").since == 4); // the shell
    CHECK(pot.target("mass").since == 4);          // too heavy before it, too light after
    CHECK(pot.target("height").since == 0);
    const QVector3D before = pot.window.stand()->camera().centre;
    pot.hand->click(pot.window.gauges(), QRectF(pot.window.gauges()->gaugeRect(2)).center());
    CHECK(pot.window.stages()->stage() == "Prove");
    CHECK(pot.window.stand()->overlay() == Overlay::WallRay);
    CHECK(Hand::wait([&] { return (pot.window.stand()->camera().centre - before).length() > 1; }, 5000));
    std::vector<RemedyView> remedies;
    QObject::connect(pot.window.forge(), &ForgeLink::solved, &pot.window,
                     [&](int, const std::vector<RemedyView>& r) { remedies = r; });
    REQUIRE(Hand::wait([&] { return !remedies.empty(); }, 160000));
    Hand::settle();
    pot.hand->click(pot.window.prove()->board(), QRectF(pot.window.prove()->board()->remedyRect(0)).center());
    REQUIRE(pot.measured());
    CHECK(pot.target("thinnest wall").verdict != "fails");
}

TEST_CASE("A fillet is added by a typed verb and a picked edge") {
    OpenPot pot;
    look(*pot.hand, pot.window.stand(), 1); // look from the front: the wall's lower edge is below
    look(*pot.hand, pot.window.stand(), 6); // from below
    pot.hand->type("fil");
    pot.hand->press("Return");
    REQUIRE(pot.window.bar()->active());
    REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy(); }));
    // The mouth of the first drain hole: 24 mm from the axis along x, 4.5 mm further to its edge.
    const QPointF edge = pot.window.stand()->screenOf({28.5f, 0, 0});
    pot.hand->moveTo(pot.window.stand(), edge);
    pot.hand->click(pot.window.stand(), edge);
    REQUIRE(pot.window.bar()->draft()->references("edges").size() == 1);
    // The same pick in other words, and back.
    const References said = pot.window.bar()->draft()->references("edges");
    auto* ways = pot.window.stand()->findChild<QFrame*>(QStringLiteral("waysStrip"));
    REQUIRE(ways);
    REQUIRE(ways->isVisible());
    const auto buttons = ways->findChildren<QPushButton*>();
    REQUIRE(buttons.size() >= 2);
    pot.hand->click(buttons.back(), QPointF(buttons.back()->rect().center()));
    CHECK(Hand::wait([&] { return pot.window.bar()->draft()->references("edges") != said; }, 5000));
    CHECK(pot.window.bar()->draft()->references("edges").size() == 1);
    pot.hand->click(buttons.front(), QPointF(buttons.front()->rect().center()));
    CHECK(Hand::wait([&] { return pot.window.bar()->draft()->references("edges") == said; }, 5000));
    REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy(); }));
    pot.hand->press("Return");
    CHECK_FALSE(ways->isVisible());
    REQUIRE_FALSE(pot.window.bar()->active());
    REQUIRE(pot.window.session()->part().steps.size() == 7);
    REQUIRE(pot.measured());
    const int id = pot.window.session()->part().steps.back().id;
    INFO(pot.window.forge()->steps().at(id).error.toStdString());
    CHECK(pot.window.forge()->steps().at(id).known);
}

TEST_CASE("Steps are reordered by dragging and the bookmark is dragged up") {
    OpenPot pot;
    StepRow* hole = pot.window.sheet()->row(6);
    StepRow* rim = pot.window.sheet()->row(5);
    pot.hand->drag(hole, QPointF(12, 12), hole->mapFrom(&pot.window, rim->mapTo(&pot.window, QPoint(12, 2))));
    std::vector<int> ids;
    for (const Step& s : pot.window.session()->part().steps) ids.push_back(s.id);
    CHECK(ids == std::vector<int>{1, 2, 3, 4, 6, 5});
    REQUIRE(pot.measured());
    for (const auto& [id, s] : pot.window.forge()->steps()) CHECK(s.ok);

    BookmarkRow* mark = pot.window.sheet()->bookmark();
    StepRow* shell = pot.window.sheet()->row(4);
    pot.hand->drag(mark, QPointF(60, 10),
                   mark->mapFrom(&pot.window, shell->mapTo(&pot.window, QPoint(60, 4))));
    CHECK(pot.window.session()->part().bookmark == 3);
    REQUIRE(
        Hand::wait([&] { return !pot.window.forge()->busy() && pot.window.forge()->wallsKnown(); }, 90000));
    CHECK(pot.window.forge()->steps().at(4).later);
    CHECK(*pot.target("mass").value > 500); // a solid pot
}

TEST_CASE("The companion is changed by a click on its name, and comes back after the last") {
    OpenPot pot;
    const auto picture = [&] { return pot.window.stand()->picture(); };
    // Where the hand was before, a step may light up.
    pot.hand->moveTo(pot.window.stand(), {6, 240});
    REQUIRE(Hand::wait([&] { return pot.window.forge()->halo().empty(); }, 5000));
    const QImage first = picture();
    for (int k = 0; k < 3; ++k) {
        const QImage before = picture();
        pot.hand->click(pot.window.stand(), pot.window.stand()->companionLabel().center());
        CHECK(picture() != before);
    }
    CHECK(picture() == first);
}

TEST_CASE("The cut-away is opened and dragged") {
    OpenPot pot;
    QPushButton* cut = nullptr;
    for (QPushButton* b : pot.window.stand()->findChildren<QPushButton*>())
        if (b->text() == "Cut-away") cut = b;
    REQUIRE(cut);
    pot.hand->click(cut, QPointF(cut->rect().center()));
    REQUIRE(pot.window.stand()->cut());
    double offset = 0;
    QObject::connect(pot.window.stand(), &Stand::cutMoved, &pot.window, [&](double o) { offset = o; });
    const QPointF handle = pot.window.stand()->cutHandle();
    pot.hand->drag(pot.window.stand(), handle, handle + QPointF(14, 34));
    CHECK(std::fabs(offset) > 2);
}

TEST_CASE("Every format is exported and read back by other means") {
    OpenPot pot;
    const double volume = *pot.target("mass").value / 0.905e-3;
    for (const char* ending : {".stl", ".3mf", ".step"}) {
        const QString path = pot.inFolder("part") + ending;
        QString written, error;
        QObject::connect(pot.window.forge(), &ForgeLink::exported, &pot.window,
                         [&](const QString& p, const QString& e) {
                             written = p;
                             error = e;
                         });
        pot.window.release()->exportTo(path);
        REQUIRE(Hand::wait([&] { return written == path; }, 60000));
        CHECK(error.isEmpty());
        const std::string content = *readFile(path.toStdString());
        if (path.endsWith(".stl")) {
            CHECK(gc::test::stlVolume(content) == Approx(volume).epsilon(3e-3));
        } else if (path.endsWith(".3mf")) {
            const std::string command =
                "python3 tests/support/read_3mf.py " + path.toStdString() + " pot " + std::to_string(volume);
            CHECK(std::system(command.c_str()) == 0);
        } else {
            CHECK(content.find("ISO-10303-21") == 0);
            CHECK(content.find("MANIFOLD_SOLID_BREP('pot'") != std::string::npos);
            CHECK(content.find("SI_UNIT(.MILLI.,.METRE.)") != std::string::npos);
        }
    }
    for (const char* ending : {".pdf", ".html"}) {
        const QString path = pot.inFolder("proof") + ending;
        REQUIRE(pot.window.release()->writeProofSheet(path));
        const std::string content = *readFile(path.toStdString());
        CHECK(content.size() > 20000); // with its pictures
        if (path.endsWith(".html"))
            CHECK(content.find("76.1 g") != std::string::npos);
        else
            CHECK(content.rfind("%PDF", 0) == 0);
    }
}

TEST_CASE("The forge is killed in the middle of its work and the window goes on") {
    OpenPot pot;
    SECTION("killed from outside while it builds") {
        pot.clickSlot(4, "wall");
        pot.hand->press("a", true);
        pot.hand->type("2.6");
        pot.hand->press("Return");
        const auto first = pot.window.forge()->processId();
        ::kill(static_cast<pid_t>(first), SIGKILL);
        REQUIRE(Hand::wait(
            [&] { return pot.window.forge()->processId() != first && pot.window.forge()->processId() != 0; },
            2000));
        REQUIRE(pot.measured());
        CHECK(pot.window.session()->part().values[0].expression == "2.6");
    }
    SECTION("crashing, hanging and hoarding by itself") {
        for (const char* how : {"crash", "hang", "memory"}) {
            INFO(how);
            const auto first = pot.window.forge()->processId();
            const int restarts = pot.window.forge()->restarts();
            pot.window.forge()->setSilenceLimit(4000);
            pot.window.forge()->misbehave(how);
            pot.window.session()->undo();
            pot.window.forge()->build(pot.window.session()->part());
            // Crashes and hoards are seen at once, a hang when its time is up; then the new forge is there in
            // 2 s.
            QElapsedTimer clock;
            clock.start();
            int ticks = 0; // the window lives on meanwhile
            QTimer alive;
            QObject::connect(&alive, &QTimer::timeout, &alive, [&] { ++ticks; });
            alive.start(20);
            REQUIRE(Hand::wait([&] { return pot.window.forge()->restarts() > restarts; }, 60000));
            const auto noticed = clock.elapsed();
            REQUIRE(Hand::wait(
                [&] {
                    return pot.window.forge()->processId() != first && pot.window.forge()->processId() != 0;
                },
                20000));
            CHECK(clock.elapsed() - noticed < 2000);
            if (clock.elapsed() > 500) CHECK(ticks > 8);
            CHECK(pot.window.session()->part().steps.size() == 6);
            pot.window.forge()->setSilenceLimit(5000);
            REQUIRE(pot.measured());
        }
    }
}

TEST_CASE("A station is typed over in the table, and a bad one is pointed at") {
    OpenPot pot;
    pot.clickSlot(1, "stations");
    REQUIRE(pot.window.stages()->stage() == "Outline");
    Hand::settle();
    QTableWidget* table = pot.window.outline()->stationsPage()->table();
    auto typeInto = [&](const QString& text) {
        const QRect cell = table->visualItemRect(table->item(2, 1));
        pot.hand->click(table->viewport(), cell.center());
        REQUIRE(table->currentRow() == 2);
        REQUIRE(table->currentColumn() == 1);
        pot.hand->press("F2");
        pot.hand->press("a", true);
        pot.hand->type(text);
        pot.hand->press("Return");
    };
    typeInto("94 mm");
    CHECK(pot.step(1).stations("stations")[2].diameter == "94 mm");
    REQUIRE(pot.measured());
    typeInto("-3");
    REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy(); }));
    CHECK_FALSE(pot.window.forge()->steps().at(1).ok);
    CHECK(pot.window.forge()->steps().at(1).errorPosition == 2);
    CHECK(table->item(2, 4)->text() == QStringLiteral("■"));
    pot.hand->press("z", true);
    REQUIRE(pot.measured());
    REQUIRE(table->item(2, 4)->text() != QStringLiteral("■"));

    SECTION("and a station is dragged in the drawing") {
        ProfilePlot* plot = pot.window.outline()->stationsPage()->plot();
        REQUIRE(Hand::steady([&] { return plot->stationAt(3); }));
        const std::string before = pot.step(1).stations("stations")[3].diameter;
        const QPointF at = plot->stationAt(3);
        pot.hand->drag(plot, at, at + QPointF(12, 0));
        CHECK(Hand::wait([&] { return pot.step(1).stations("stations")[3].diameter != before; }, 5000));
        REQUIRE(pot.measured());
        CHECK(pot.window.forge()->steps().at(1).ok);
    }
}

namespace {

/// Kills a window that edits after some edits, at any moment, and gives what it had said.
QByteArray saidUntilKilled(QProcess& editor, std::mt19937& random) {
    QByteArray said;
    const int atLeast = 1 + static_cast<int>(random() % 8);
    REQUIRE(Hand::wait(
        [&] {
            said += editor.readAllStandardOutput();
            return said.count("edit ") >= atLeast;
        },
        20000));
    QElapsedTimer moment;
    moment.start();
    const int microseconds = static_cast<int>(random() % 20000);
    while (moment.nsecsElapsed() < microseconds * 1000LL) {
    }
    ::kill(static_cast<pid_t>(editor.processId()), SIGKILL);
    REQUIRE(editor.waitForFinished(5000));
    return said + editor.readAllStandardOutput();
}

} // namespace

TEST_CASE("A window killed at any moment leaves every committed edit to the next start") {
    std::mt19937 random(20);
    QString last;
    const int rounds = std::getenv("GC_DEEP") ? 200 : 20;
    for (int round = 0; round < rounds; ++round) {
        INFO("round " << round);
        QTemporaryDir state;
        REQUIRE(state.isValid());
        QProcess editor;
        QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
        environment.insert(QStringLiteral("XDG_STATE_HOME"), state.path());
        editor.setProcessEnvironment(environment);
        editor.start(QCoreApplication::applicationFilePath(), {QStringLiteral("--keep-editing")});
        const QByteArray said = saidUntilKilled(editor, random);
        const auto lines = said.split('\n');
        const auto forge = lines.front().mid(6).toInt();
        int reported = 0;
        for (const QByteArray& line : lines)
            if (line.startsWith("edit ") && said.endsWith('\n')) reported = line.mid(5).toInt();
        qputenv("XDG_STATE_HOME", state.path().toUtf8());
        const auto lost = findLostWork(journalFolder());
        REQUIRE(lost.size() == 1);
        // The last edit that was reported done, or the one that was written when the window died.
        const int kept =
            QString::fromStdString(lost.front().part.values[0].expression).section(' ', 0, 0).toInt();
        CHECK(kept >= reported);
        CHECK(kept <= reported + 1);
        // Its forge does not live on without it.
        CHECK(Hand::wait([&] { return !QFile::exists(QStringLiteral("/proc/%1/fd/0").arg(forge)); }, 3000));
        if (round == rounds - 1) { // and once through the window's own question
            MainWindow next;
            next.move(0, 0);
            next.show();
            Hand hand(&next);
            QTimer::singleShot(0, &next, [&] {
                REQUIRE(Hand::wait([&] { return QApplication::activeModalWidget() != nullptr; }, 10000));
                for (QPushButton* b : QApplication::activeModalWidget()->findChildren<QPushButton*>())
                    if (b->text() == QStringLiteral("Go on with it"))
                        hand.click(b, QPointF(b->rect().center()));
            });
            CHECK(next.files()->offerLostWork());
            CHECK(next.session()->part().values[0].expression == lost.front().part.values[0].expression);
            CHECK(next.session()->changed());
            next.session()->endCleanly();
        }
    }
    qputenv("XDG_STATE_HOME", stateHome);
}

/// The other side of the test above: a window that commits edit after edit and says so, until it is killed.
int keepEditing() {
    MainWindow window;
    window.show();
    if (!window.session()->open(QStringLiteral("demo/herb-pot.goodcurve"))) return 2;
    Hand::wait([&] { return window.forge()->processId() != 0; }, 5000);
    std::printf("forge %lld\n", static_cast<long long>(window.forge()->processId()));
    std::fflush(stdout);
    for (int k = 1;; ++k) {
        Part part = window.session()->part();
        part.values[0].expression = std::to_string(k) + " mm / 1000 + 2 mm";
        window.session()->commit(part, QStringLiteral("wall"));
        std::printf("edit %d\n", k);
        std::fflush(stdout);
        QApplication::processEvents(QEventLoop::AllEvents, 5);
    }
}

int main(int argc, char** argv) {
    const bool edits = argc > 1 && std::strcmp(argv[1], "--keep-editing") == 0;
    QTemporaryDir home; // what runs beside this one has one of its own
    if (qEnvironmentVariableIsSet("GC_SHARE") && !edits) {
        qputenv("XDG_CONFIG_HOME", home.filePath(QStringLiteral("config")).toUtf8());
        qputenv("XDG_STATE_HOME", home.filePath(QStringLiteral("state")).toUtf8());
    }
    setSurfaceFormat();
    QApplication app(argc, argv);
    dressApplication();
    if (edits) return keepEditing();
    stateHome = qgetenv("XDG_STATE_HOME");
    return gc::test::runTests(argc, argv);
}
