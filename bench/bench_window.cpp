/// Timings and memory of the real window with the real forge, against an empty window with a GL view.
/// Build and run: cmake --build --preset release --target bench_window && xvfb-run -a -s "-screen 0
/// 1280x800x24"
///   build/release/bin/bench_window [edits | --steps]

#include "app/shell/main_window.hpp"
#include "app/shell/start.hpp"
#include "core/document/part_file.hpp"
#include "tests/support/wait.hpp"

#include <QApplication>
#include <QElapsedTimer>
#include <QFile>
#include <QOpenGLFunctions>
#include <QOpenGLWidget>
#include <QProcess>
#include <QTemporaryDir>
#include <QTimer>

#include <algorithm>
#include <cstdio>
#include <cstring>
#include <functional>
#include <random>
#include <unistd.h>

using namespace gc;
using namespace gc::app;

namespace {

bool wait(const std::function<bool()>& condition) {
    return test::waitFor(condition, 60000);
}

qint64 now() {
    QElapsedTimer clock;
    clock.start();
    return clock.msecsSinceReference();
}

class EmptyView : public QOpenGLWidget {
  public:
    int paints = 0;

  protected:
    void paintGL() override {
        context()->functions()->glClearColor(1, 1, 1, 1);
        context()->functions()->glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
        ++paints;
    }
};

int emptyWindow() {
    EmptyView view;
    view.resize(1280, 800);
    view.show();
    wait([&] { return view.paints > 0; });
    std::printf("%lld\n", static_cast<long long>(now()));
    return 0;
}

int fullWindow() {
    MainWindow window;
    window.resize(1280, 800);
    window.show();
    window.session()->open(QStringLiteral("demo/herb-pot.goodcurve"));
    wait([&] { return window.stand()->paints() > 0; });
    std::printf("%lld ", static_cast<long long>(now()));
    wait([&] { return !window.forge()->meshes().empty(); });
    const int before = window.stand()->paints();
    wait([&] { return window.stand()->paints() > before; });
    std::printf("%lld\n", static_cast<long long>(now()));
    window.session()->endCleanly();
    return 0;
}

/// Monotonic milliseconds that a fresh process of ours prints, from its start. Least of three starts.
std::vector<double> startTimes(const char* mode) {
    std::vector<double> best;
    for (int run = 0; run < 3; ++run) {
        QProcess p;
        const qint64 start = now();
        p.start(QCoreApplication::applicationFilePath(), {QString::fromLatin1(mode)});
        p.waitForFinished(60000);
        const auto words = p.readAllStandardOutput().trimmed().split(' ');
        best.resize(static_cast<std::size_t>(words.size()), 1e9);
        for (int i = 0; i < words.size(); ++i)
            best[static_cast<std::size_t>(i)] = std::min(best[static_cast<std::size_t>(i)],
                                                         static_cast<double>(words[i].toLongLong() - start));
    }
    return best;
}

double residentMb(qint64 pid) {
    QFile file(QStringLiteral("/proc/%1/statm").arg(pid));
    if (!file.open(QIODevice::ReadOnly)) return 0;
    return file.readAll().split(' ').value(1).toDouble() * static_cast<double>(::sysconf(_SC_PAGESIZE)) /
           1048576;
}

struct Pot {
    MainWindow window;
    Pot() {
        window.resize(1280, 800);
        window.show();
        window.session()->open(QStringLiteral("demo/herb-pot.goodcurve"));
        measured();
    }
    ~Pot() { window.session()->endCleanly(); }
    bool measured() {
        return wait([&] { return !window.forge()->busy() && window.forge()->wallsKnown(); });
    }
    void setWall(double wall) {
        Part part = window.session()->part();
        part.values[0].expression = QString::number(wall).toStdString() + " mm";
        window.session()->commit(part, QStringLiteral("wall"));
    }
};

void editToPicture(Pot& pot) {
    double least = 1e9, steps = 0;
    for (const double wall : {2.5, 2.45, 2.55, 2.6, 2.4}) {
        QElapsedTimer clock;
        int meshes = 0;
        const auto link = QObject::connect(pot.window.forge(), &ForgeLink::meshesChanged, [&] { ++meshes; });
        clock.start();
        pot.setWall(wall);
        wait([&] { return meshes > 0; });
        const int before = pot.window.stand()->paints();
        wait([&] { return pot.window.stand()->paints() > before; });
        const double ms = static_cast<double>(clock.nsecsElapsed()) / 1e6;
        const double arrived = pot.window.forge()->lastPictureMs();
        QObject::disconnect(link);
        pot.measured();
        double changed = 0;
        for (const auto& [id, s] : pot.window.forge()->steps())
            if (!s.cached) changed += s.milliseconds;
        std::printf("  steps %.0f ms, mesh there after %.0f ms, painted after %.0f ms\n", changed, arrived,
                    ms);
        if (ms - changed < least - steps) least = ms, steps = changed;
    }
    std::printf("edit to picture: %.0f ms, of which the changed steps %.0f ms: %.0f ms beyond them\n", least,
                steps, least - steps);
}

void endurance(Pot& pot, int edits) {
    std::mt19937 random(7);
    const auto report = [&](int k) {
        pot.measured();
        std::printf("after %4d edits: window %.1f MB, forge %.1f MB\n", k, residentMb(::getpid()),
                    residentMb(pot.window.forge()->processId()));
        std::fflush(stdout);
    };
    report(0);
    for (int k = 1; k <= edits; ++k) {
        switch (random() % 4) {
        case 0:
            pot.window.session()->undo();
            break;
        case 1:
            pot.window.session()->redo();
            break;
        default:
            pot.setWall(2 + (random() % 100) / 100.0);
        }
        // Half of the edits come while the forge is still busy with the one before.
        if (random() % 2) pot.measured();
        if (k == 50 || k % 100 == 0) report(k);
    }
}

/// Times every event that the window handles: the longest is what a person feels as a stutter.
class TimedApplication : public QApplication {
  public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override {
        if (m_depth > 0) return QApplication::notify(receiver, event);
        const QString what = QStringLiteral("%1, event %2")
                                 .arg(QLatin1String(receiver->metaObject()->className()))
                                 .arg(event->type());
        QElapsedTimer clock;
        clock.start();
        ++m_depth;
        const bool done = QApplication::notify(receiver, event);
        --m_depth;
        m_times.emplace_back(static_cast<double>(clock.nsecsElapsed()) / 1e6, what);
        return done;
    }
    void forget() { m_times.clear(); }
    void report(const char* what) {
        std::sort(m_times.begin(), m_times.end());
        const auto over =
            std::count_if(m_times.begin(), m_times.end(), [](const auto& t) { return t.first > 16; });
        std::printf("%s: %zu events, longest %.1f ms, %ld over 16 ms\n", what, m_times.size(),
                    m_times.empty() ? 0 : m_times.back().first, static_cast<long>(over));
        for (std::size_t k = 0; k < std::min<std::size_t>(4, m_times.size()); ++k) {
            const auto& [ms, whose] = m_times[m_times.size() - 1 - k];
            if (ms > 8) std::printf("      %.1f ms: %s\n", ms, qPrintable(whose));
        }
        m_times.clear();
    }

  private:
    int m_depth = 0;
    std::vector<std::pair<double, QString>> m_times;
};

TimedApplication* application() {
    return static_cast<TimedApplication*>(QCoreApplication::instance());
}

/// The reference: a window of the same size with nothing in it but a GL view, which is hidden again. What an
/// update of it costs is what the window system costs here, where the processor puts the picture together.
void bareUpdates() {
    QWidget bare;
    bare.resize(1280, 800);
    EmptyView view;
    view.setParent(&bare);
    view.resize(600, 400);
    bare.show();
    wait([&] { return view.paints > 0; });
    view.hide();
    wait([&] { return !view.isVisible(); });
    application()->forget();
    for (int k = 0; k < 20; ++k) {
        bare.update();
        QElapsedTimer clock;
        clock.start();
        wait([&] { return clock.elapsed() > 40; });
    }
    application()->report("an empty window with a hidden GL view, updated 20 times");
}

/// A part of many steps: a pot, then planes. Its stand is hidden where the processor draws it, so that the
/// time of the picture is not taken for the window's.
void manySteps(int count) {
    auto part = loadPart("demo/herb-pot.goodcurve");
    if (!part) return;
    while (static_cast<int>(part->steps.size()) < count) {
        Step plane = newStep(*part, "plane");
        plane.slots["distance"] = std::to_string(part->steps.size()) + " mm";
        part->steps.push_back(plane);
    }
    MainWindow window;
    window.resize(1280, 800);
    window.show();
    window.session()->startNew();
    wait([&] { return !window.forge()->busy(); });
    window.stand()->hide();
    application()->forget();
    // Within the event loop, as every edit of a person is.
    const auto commit = [&](const Part& p) {
        bool done = false;
        QTimer::singleShot(0, &window, [&] {
            window.session()->commit(p, QStringLiteral("edit"));
            done = true;
        });
        wait([&] { return done && !window.forge()->busy(); });
    };
    commit(*part);
    application()->report("  taken over");
    for (int k = 0; k < 20; ++k) {
        Part p = window.session()->part();
        p.steps.back().slots["distance"] = std::to_string(k) + " mm";
        commit(p);
    }
    application()->report("  the last step edited 20 times");
    for (int k = 0; k < 10; ++k) {
        Part p = window.session()->part();
        p.values[0].expression = std::to_string(2.1 + 0.05 * k) + " mm";
        commit(p);
    }
    application()->report("  a value edited 10 times");
    window.session()->endCleanly();
}

} // namespace

int main(int argc, char** argv) {
    setSurfaceFormat();
    TimedApplication app(argc, argv);
    dressApplication();
    if (argc > 1 && std::strcmp(argv[1], "--empty") == 0) return emptyWindow();
    if (argc > 1 && std::strcmp(argv[1], "--full") == 0) return fullWindow();
    QTemporaryDir state;
    qputenv("XDG_STATE_HOME", state.path().toUtf8());
    const auto empty = startTimes("--empty"), full = startTimes("--full");
    if (!empty.empty() && full.size() == 2)
        std::printf("start: empty window %.0f ms; ours complete %.0f ms (%.2f x), with the part built %.0f "
                    "ms (%.2f x)\n",
                    empty[0], full[0], full[0] / empty[0], full[1], full[1] / empty[0]);
    bareUpdates();
    for (const int steps : {6, 300}) {
        std::printf("%d steps\n", steps);
        manySteps(steps);
    }
    if (argc > 1 && std::strcmp(argv[1], "--steps") == 0) return 0;
    Pot pot;
    editToPicture(pot);
    endurance(pot, argc > 1 ? std::atoi(argv[1]) : 200);
    return 0;
}
