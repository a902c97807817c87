// Hard days of the window: its worker stopped, killed and garbled at any moment, a disk that is full, two
// windows on one file, part files that are garbled. A few of each in CI, many by tools/check-deep (GC_DEEP).

#include <catch2/catch.hpp>

#include "app/shell/start.hpp"
#include "core/document/part_file.hpp"
#include "tests/hard/garbling_forge.hpp"
#include "tests/hard/small_disk.hpp"
#include "tests/support/catch_session.hpp"
#include "tests/support/seeded.hpp"
#include "tests/window/answers.hpp"
#include "tests/window/open_pot.hpp"

#include <QElapsedTimer>
#include <QProcess>

#include <csignal>
#include <cstring>
#include <iostream>
#include <set>

using namespace gc;
using namespace gc::app;
using namespace gc::test;

namespace {

constexpr qint64 kHang = 10000; // ms

/// The longest time that the window did not turn to its events.
class Heartbeat {
  public:
    Heartbeat() {
        m_timer.setInterval(20);
        m_clock.start();
        QObject::connect(&m_timer, &QTimer::timeout,
                         [this] { m_worst = std::max(m_worst, m_clock.restart()); });
        m_timer.start();
    }
    qint64 worst() const { return std::max(m_worst, m_clock.elapsed()); }

  private:
    QTimer m_timer;
    QElapsedTimer m_clock;
    qint64 m_worst = 0;
};

/// Sets a variable of the environment for as long as it lives.
class Environment {
  public:
    Environment(const char* name, const QByteArray& value)
        : m_name(name), m_was(qgetenv(name)), m_wasSet(qEnvironmentVariableIsSet(name)) {
        qputenv(name, value);
    }
    ~Environment() { m_wasSet ? qputenv(m_name, m_was) : qunsetenv(m_name); }
    Environment(const Environment&) = delete;
    Environment& operator=(const Environment&) = delete;

  private:
    const char* m_name;
    QByteArray m_was;
    bool m_wasSet;
};

/// Types another wall, as a person would. \return what was typed
std::string typeWall(OpenPot& pot, int k) {
    const QString text = QString::number(2.5 + 0.0001 * k, 'f', 4);
    pot.clickSlot(4, "wall");
    pot.hand->press("a", true);
    pot.hand->type(text);
    pot.hand->press("Return");
    REQUIRE(Hand::wait(
        [&] { return pot.window.session()->part().values[0].expression == text.toStdString(); }, 5000));
    return text.toStdString();
}

void settled(OpenPot& pot) {
    REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy(); }, 60000));
}

/// Everything is built and measured again, with the wall that was typed last.
void sound(OpenPot& pot, const std::string& wall) {
    REQUIRE(pot.measured());
    for (const auto& [id, s] : pot.window.forge()->steps()) CHECK(s.ok);
    CHECK(*pot.target("thinnest wall").value == Approx(std::stod(wall)).margin(0.01));
}

/// What would be found if the window were killed now: of a copy, as its own journal is locked.
std::vector<RecoveredWork> ifKilledNow(const std::filesystem::path& state) {
    const TemporaryFolder copy;
    std::filesystem::copy(state, copy.path(), std::filesystem::copy_options::recursive);
    std::vector<RecoveredWork> found;
    std::set<std::filesystem::path> folders;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(copy.path()))
        if (entry.path().extension() == ".journal") folders.insert(entry.path().parent_path());
    for (const auto& folder : folders)
        for (RecoveredWork& w : findLostWork(folder)) found.push_back(std::move(w));
    return found;
}

} // namespace

TEST_CASE("A worker that is stopped or killed at any moment costs no edit and hangs nothing") {
    auto random = seeded(31U);
    OpenPot pot;
    const Heartbeat heart;
    std::string wall;
    int deaths = 0;
    for (int k = 1; k <= rounds(2); ++k) {
        INFO("round " << k);
        wall = typeWall(pot, k);
        Hand::wait([] { return false; }, static_cast<int>(random() % 400));
        const auto id = static_cast<pid_t>(pot.window.forge()->processId());
        if (id == 0) continue; // it rests between two starts
        REQUIRE(::kill(id, random() % 2 ? SIGSTOP : SIGKILL) == 0);
        // Nobody waits for the last one: edits go on while it is stopped.
        if (random() % 2) wall = typeWall(pot, 1000 + k);
        REQUIRE(Hand::wait(
            [&] { return pot.window.forge()->processId() != id || !pot.window.forge()->waiting(); }, kHang));
        ++deaths;
        settled(pot);
        if (deaths % 4 == 0) Hand::wait([] { return false; }, 60000); // five starts a minute are allowed
    }
    wall = typeWall(pot, 999);
    sound(pot, wall);
    CHECK(heart.worst() < kHang);
}

TEST_CASE("A worker whose words are garbled on the way is started again, and the window goes on") {
    auto random = seeded(32U);
    OpenPot pot;
    const Heartbeat heart;
    std::string wall;
    for (int k = 1; k <= rounds(2); ++k) {
        const unsigned seed = random();
        INFO("garbled by " << seed);
        {
            const Environment garbling("GOOD_CURVE_FORGE", garblingForge(pot.folder.file("forge"), seed));
            ::kill(static_cast<pid_t>(pot.window.forge()->processId()), SIGKILL);
            wall = typeWall(pot, k);
            Hand::wait([&] { return !pot.window.forge()->waiting(); }, static_cast<int>(kHang));
        }
        if (const auto id = static_cast<pid_t>(pot.window.forge()->processId())) ::kill(id, SIGKILL);
        wall = typeWall(pot, 1000 + k);
        sound(pot, wall);
        if (k % 2 == 0) Hand::wait([] { return false; }, rounds(1) > 1 ? 60000 : 0); // five starts a minute
    }
    CHECK(heart.worst() < kHang);
}

TEST_CASE("On a disk that is full by turns no edit is lost that was said to be kept, and no file is torn") {
    SmallDisk disk(2048);
    if (!disk.mounted()) {
        WARN("no disk of its own can be mounted here");
        return;
    }
    auto random = seeded(33U);
    const Environment state("XDG_STATE_HOME", QByteArray::fromStdString((disk.path() / "state").string()));
    std::filesystem::create_directories(disk.path() / "state");
    MainWindow window;
    window.move(0, 0);
    window.show();
    const std::string file = (disk.path() / "part.goodcurve").string();
    REQUIRE(writeFileAtomically(file, *readFile("demo/saucer.goodcurve")).ok());
    REQUIRE(window.session()->open(QString::fromStdString(file)));
    std::string kept, saved = window.session()->part().name;
    int told = 0;
    for (int k = 1; k <= rounds(30); ++k) {
        INFO("round " << k);
        if (random() % 3 == 0) disk.full() ? disk.free() : disk.fill();
        Part p = window.session()->part();
        p.name = "edit " + std::to_string(k);
        p.brief.purpose = std::string(random() % 3000, 'x');
        REQUIRE(window.session()->commit(p, QStringLiteral("name")));
        if (window.session()->journalled()) {
            kept = p.name;
        } else {
            ++told;
            CHECK(disk.full());
            CHECK(window.session()->savedWords().contains(QStringLiteral("not")));
        }
        const auto found = ifKilledNow(disk.path() / "state");
        if (!kept.empty() && kept != saved) {
            REQUIRE(found.size() == 1);
            // The last that was said to be kept, or a later one.
            CHECK(std::stoi(found.front().part.name.substr(5)) >= std::stoi(kept.substr(5)));
            CHECK(found.front().skipped == 0);
        }
        if (random() % 5 == 0) {
            if (window.session()->save(QString::fromStdString(file))) saved = kept = p.name;
            const auto there = loadPart(file);
            REQUIRE(there);
            CHECK(there->name == saved);
        }
    }
    CHECK(told > 0);
    disk.free();
    Part p = window.session()->part();
    p.name = "edit 99999";
    REQUIRE(window.session()->commit(p, QStringLiteral("name")));
    CHECK(window.session()->journalled());
    REQUIRE(ifKilledNow(disk.path() / "state").size() == 1);
    CHECK(ifKilledNow(disk.path() / "state").front().part.name == "edit 99999");
    window.session()->endCleanly();
}

TEST_CASE("Going on with lost work on a full disk leaves the only copy where it is") {
    SmallDisk disk(1024);
    if (!disk.mounted()) {
        WARN("no disk of its own can be mounted here");
        return;
    }
    const Environment state("XDG_STATE_HOME", QByteArray::fromStdString((disk.path() / "state").string()));
    Part part = *readPart(*readFile("demo/saucer.goodcurve"));
    {
        auto journal = Journal::start(journalFolder(), part, "");
        REQUIRE(journal);
        part.name = "the only copy";
        REQUIRE((*journal)->append(part, "name").ok());
    } // its window died
    disk.fill();
    MainWindow window;
    window.move(0, 0);
    window.show();
    Hand hand(&window);
    {
        Answers answers(hand, {QStringLiteral("Go on with it")});
        window.files()->begin({});
    }
    CHECK(window.session()->part().name == "the only copy");
    CHECK_FALSE(window.session()->journalled());
    const auto names = [&] {
        std::vector<std::string> out;
        for (const RecoveredWork& w : ifKilledNow(disk.path() / "state")) out.push_back(w.part.name);
        return out;
    };
    CHECK(names() == std::vector<std::string>{"the only copy"});
    disk.free();
    Part p = window.session()->part();
    p.name = "and its next edit";
    REQUIRE(window.session()->commit(p, QStringLiteral("name")));
    CHECK(window.session()->journalled());
    CHECK(names() == std::vector<std::string>{"and its next edit"}); // the older one is not offered besides
    window.session()->endCleanly();
}

TEST_CASE(
    "Two windows on one file: whoever comes second is asked, and nothing is overwritten without a word") {
    auto random = seeded(34U);
    OpenPot pot;
    for (int k = 1; k <= rounds(1); ++k) {
        QProcess other; // a real one
        other.start(QCoreApplication::applicationFilePath(),
                    {QStringLiteral("--hold"), pot.inFolder("shared.goodcurve")});
        REQUIRE(writeFileAtomically(pot.folder.file("shared.goodcurve"), *readFile("demo/saucer.goodcurve"))
                    .ok());
        other.write("open\n");
        QByteArray said;
        const auto hears = [&](const char* what) {
            return Hand::wait([&] {
                said += other.readAllStandardOutput();
                return said.contains(what);
            });
        };
        REQUIRE(hears("opened"));
        const QString shared = pot.inFolder("shared.goodcurve");
        {
            Answers answers(*pot.hand, {QStringLiteral("Leave it")});
            pot.window.files()->open(shared);
            CHECK(answers.asked() == QStringList{"heldFile"});
            CHECK(pot.window.session()->file() == pot.file);
        }
        {
            Answers answers(*pot.hand, {QStringLiteral("Open it all the same")});
            pot.window.files()->open(shared);
            REQUIRE(pot.window.session()->file() == shared);
        }
        other.write("save\n");
        REQUIRE(hears("saved"));
        const std::string theirs = *readFile(shared.toStdString());
        Part p = pot.window.session()->part();
        p.name = "mine";
        REQUIRE(pot.window.session()->commit(p, QStringLiteral("name")));
        const bool overwrite = random() % 2;
        {
            Answers answers(*pot.hand,
                            {overwrite ? QStringLiteral("Overwrite it") : QStringLiteral("Do not save")});
            pot.window.files()->save(false);
            CHECK(answers.asked() == QStringList{"conflict"});
        }
        CHECK((*readFile(shared.toStdString()) == theirs) == !overwrite);
        other.write("end\n");
        REQUIRE(other.waitForFinished(10000));
        CHECK(other.exitCode() == 0);
        REQUIRE(pot.window.session()->open(pot.file));
        settled(pot);
    }
}

TEST_CASE("Part files that are garbled open or are refused in a sentence, and the window lives on") {
    auto random = seeded(35U);
    OpenPot pot;
    const Heartbeat heart;
    const QString path = pot.inFolder("garbled.goodcurve");
    const char* originals[] = {"demo/herb-pot.goodcurve", "demo/seed-box.goodcurve",
                               "demo/plant-label.goodcurve", "demo/saucer.goodcurve"};
    int opened = 0, refused = 0;
    for (int k = 1; k <= rounds(12); ++k) {
        std::string text = *readFile(originals[k % 4]);
        // Mostly what still reads: figures, words and ids that nobody meant.
        for (unsigned n = 1 + random() % 6; n > 0; --n) {
            std::size_t at = random() % text.size();
            while (at < text.size() && !std::isdigit(static_cast<unsigned char>(text[at]))) ++at;
            if (at < text.size()) text[at] = "0123456789.-"[random() % (random() % 4 ? 10 : 12)];
        }
        if (k % 6 == 0) text.erase(random() % text.size(), random() % 200);
        REQUIRE(writeFileAtomically(path.toStdString(), text).ok());
        INFO("round " << k << ", file " << originals[k % 4]);
        const QString before = pot.window.session()->file();
        pot.window.bar()->say({});
        pot.window.files()->open(path);
        const bool taken = readPart(text).ok();
        taken ? ++opened : ++refused;
        if (!taken) {
            CHECK(pot.window.session()->file() == before);
            CHECK(pot.window.bar()->message().size() > 20);
        }
        const auto id = pot.window.forge()->processId();
        CHECK(Hand::wait([&] { return !pot.window.forge()->busy(); }, 60000));
        CHECK(pot.window.forge()->processId() == id); // the kernel survived it
    }
    CHECK(opened > 0);
    CHECK(refused > 0);
    REQUIRE(pot.window.session()->open(pot.file));
    sound(pot, "2.4");
    CHECK(heart.worst() < kHang);
}

namespace {

/// The other side of "two windows": does what its standard input says.
int hold(const QString& path) {
    MainWindow window;
    window.show();
    std::string word;
    while (std::cin >> word) {
        if (word == "open") {
            if (!window.session()->open(path)) return 3;
            std::puts("opened");
        } else if (word == "save") {
            Part p = window.session()->part();
            p.name = "theirs";
            if (!window.session()->commit(p, QStringLiteral("name")) || !window.session()->save(path))
                return 4;
            std::puts("saved");
        } else {
            break;
        }
        std::fflush(stdout);
        QApplication::processEvents();
    }
    window.session()->endCleanly();
    return 0;
}

} // namespace

int main(int argc, char** argv) {
    if (argc > 2 && std::strcmp(argv[1], "--garble") == 0)
        return garble(static_cast<unsigned>(std::atol(argv[2])));
    setSurfaceFormat();
    QApplication app(argc, argv);
    dressApplication();
    if (argc > 2 && std::strcmp(argv[1], "--hold") == 0) return hold(QString::fromLocal8Bit(argv[2]));
    return gc::test::runTests(argc, argv);
}
