/// Turning a part of 500 copies in the real window, against the bare renderer with the same triangles and a
/// bare window of the same size around an empty view. Build and run: cmake --build --preset release --target
/// bench_orbit && xvfb-run -a -s "-screen 0 1280x800x24" build/release/bin/bench_orbit

#include "app/shell/main_window.hpp"
#include "app/shell/start.hpp"
#include "app/stand/renderer.hpp"
#include "bench/timing.hpp"
#include "core/document/part_file.hpp"
#include "tests/support/wait.hpp"

#include <QApplication>
#include <QMouseEvent>
#include <QOpenGLFramebufferObject>
#include <QOpenGLFunctions>
#include <QOpenGLWidget>
#include <QTemporaryDir>
#include <QWindow>

#include <algorithm>
#include <cstdio>
#include <vector>

using namespace gc;
using namespace gc::app;

namespace {

constexpr int kFrames = 40;

/// Blind holes in rows of 25 by 20, in a plate.
Part plateOf500() {
    Part p;
    const auto add = [&](const char* kind, const std::map<std::string, SlotValue>& slots) {
        Step s = newStep(p, kind);
        for (const auto& [key, value] : slots) s.slots[key] = value;
        p.steps.push_back(s);
    };
    Drawing plate, hole;
    plate.draw(StrokeKind::Line, {{0, 0}, {250, 0}});
    plate.draw(StrokeKind::Line, {{250, 0}, {250, 200}});
    plate.draw(StrokeKind::Line, {{250, 200}, {0, 200}});
    plate.draw(StrokeKind::Line, {{0, 200}, {0, 0}});
    hole.draw(StrokeKind::Circle, {{5, 5}}, {3});
    add("draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(plate)}});
    add("extrude", {{"length", std::string("10 mm")}});
    add("draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(hole)}});
    add("extrude", {{"length", std::string("6 mm")}, {"does", std::string("taking from")}});
    add("repeat", {{"what", References{"everything of step 4"}},
                   {"way", std::string("in rows along")},
                   {"count", std::string("25")},
                   {"pitch", std::string("10 mm")},
                   {"count 2", std::string("20")},
                   {"pitch 2", std::string("10 mm")}});
    return p;
}

double median(std::vector<double> v) {
    std::sort(v.begin(), v.end());
    return v[v.size() / 2];
}

class EmptyStand : public QOpenGLWidget {
  protected:
    void paintGL() override {
        context()->functions()->glClearColor(1, 1, 1, 1);
        context()->functions()->glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    }
};

/// A frame of a window with nothing but an empty view: what the window system takes here.
double bareFrame(QSize stand) {
    QWidget window;
    window.resize(1280, 800);
    EmptyStand view;
    view.setParent(&window);
    view.resize(stand);
    window.show();
    test::waitFor(
        [&] { return view.isValid() && window.windowHandle() && window.windowHandle()->isExposed(); }, 20000);
    QApplication::processEvents();
    std::vector<double> times;
    for (int k = 0; k < kFrames; ++k) times.push_back(msOf([&] { view.repaint(); }));
    return median(times);
}

/// The renderer alone, with the same triangles, from as many sides.
double rawFrame(Stand& stand, const std::map<ThingId, BodyMesh>& meshes) {
    stand.makeCurrent();
    std::vector<double> times;
    {
        Renderer renderer;
        renderer.initialise();
        renderer.setMeshes(meshes);
        QOpenGLFramebufferObject target(stand.size(), QOpenGLFramebufferObject::CombinedDepthStencil);
        Camera camera = stand.camera();
        for (int k = 0; k < kFrames; ++k)
            times.push_back(msOf([&] {
                camera.orbit(-3, 1, {125, 100, 5});
                renderer.draw(target.handle(), stand.size(), camera, {}, false);
                QOpenGLContext::currentContext()->functions()->glFinish();
            }));
    }
    stand.doneCurrent();
    return median(times);
}

double standFrame(Stand& stand) {
    const auto send = [&](QEvent::Type type, QPoint at, Qt::MouseButton button) {
        QMouseEvent e(type, at, stand.mapToGlobal(at), button, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(&stand, &e);
    };
    QPoint at(200, 200);
    send(QEvent::MouseButtonPress, at, Qt::LeftButton);
    std::vector<double> times;
    for (int k = 0; k < kFrames; ++k)
        times.push_back(msOf([&] {
            at += QPoint(7, 2);
            send(QEvent::MouseMove, at, Qt::NoButton);
            stand.repaint();
        }));
    send(QEvent::MouseButtonRelease, at, Qt::LeftButton);
    return median(times);
}

} // namespace

int main(int argc, char** argv) {
    setSurfaceFormat();
    QApplication app(argc, argv);
    dressApplication();
    QTemporaryDir state;
    qputenv("XDG_STATE_HOME", state.path().toUtf8());
    const std::string file = state.filePath(QStringLiteral("plate.goodcurve")).toStdString();
    if (!savePart(plateOf500(), file)) return 2;
    MainWindow window;
    window.resize(1280, 800);
    window.show();
    if (!window.session()->open(QString::fromStdString(file))) return 2;
    window.setStage(QStringLiteral("Finish"));
    if (!test::waitFor([&] { return !window.forge()->busy() && !window.forge()->meshes().empty(); }, 120000))
        return 2;
    test::waitFor([&] { return window.stand()->paints() > 3; }, 5000);
    Stand& stand = *window.stand();
    const double raw = rawFrame(stand, window.forge()->meshes()), bare = bareFrame(stand.size()),
                 ours = standFrame(stand);
    std::printf(
        "500 copies, %d x %d: the renderer alone %.1f ms, a window around an empty view %.1f ms; turned in "
        "the window %.1f ms, %.2f x both\n",
        stand.width(), stand.height(), raw, bare, ours, ours / (raw + bare));
    window.session()->endCleanly();
    return 0;
}
