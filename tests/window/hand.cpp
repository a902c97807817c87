#include "tests/window/hand.hpp"

#include "tests/support/wait.hpp"

#include <QApplication>
#include <QElapsedTimer>
#include <QKeyEvent>

#include <X11/XKBlib.h>
#include <X11/Xlib.h>
#include <X11/extensions/XTest.h>
#include <X11/keysym.h>
#undef None
#undef KeyPress
#undef KeyRelease
#undef Bool

#include <map>

namespace gc::test {

namespace {

/// Counts the input that reaches the program's windows: a fake event is on its way through the server, Qt's
/// reader and its queue, and only its arrival tells that it was taken.
class Arrivals : public QObject {
  public:
    int presses = 0, releases = 0, keys = 0, moves = 0;

    static bool modifier(int key) {
        return key == Qt::Key_Alt || key == Qt::Key_Shift || key == Qt::Key_Control || key == Qt::Key_Meta;
    }

  protected:
    bool eventFilter(QObject* o, QEvent* e) override {
        if (!o->isWindowType() && !o->isWidgetType()) return false;
        switch (e->type()) {
        case QEvent::MouseButtonPress:
        case QEvent::MouseButtonDblClick:
            ++presses;
            break;
        case QEvent::MouseButtonRelease:
            ++releases;
            break;
        case QEvent::MouseMove:
        case QEvent::HoverMove:
        case QEvent::Enter:
            ++moves;
            break;
        case QEvent::KeyRelease:
            // A modifier that is let go may be on its way while the next key is waited for: it is no answer
            // to it.
            if (!modifier(static_cast<QKeyEvent*>(e)->key())) ++keys;
            break;
        default:
            break;
        }
        return false;
    }
};

} // namespace

struct Hand::Impl {
    Arrivals arrivals;
    /// Gives the window time until the count has risen; some events are rightly swallowed, so not for ever.
    void await(const int& count, int before, int milliseconds) {
        Hand::wait([&] { return count > before; }, milliseconds);
        Hand::settle();
    }
    /// The pointer comes by: nothing waits for what that does before it goes on.
    void passBy(int x, int y) {
        const int before = arrivals.moves;
        XTestFakeMotionEvent(display, -1, x, y, CurrentTime);
        XSync(display, False);
        Hand::wait([&] { return arrivals.moves > before; }, 150);
    }
    /// Down and up again; what it does is not waited for. \return whether there is such a key
    bool strike(KeySym sym) {
        const auto it = keys.find(sym);
        if (it == keys.end()) return false;
        const KeyCode shift = XKeysymToKeycode(display, XK_Shift_L);
        const auto [code, shifted] = it->second;
        if (shifted) XTestFakeKeyEvent(display, shift, True, CurrentTime);
        XTestFakeKeyEvent(display, code, True, CurrentTime);
        XTestFakeKeyEvent(display, code, False, CurrentTime);
        if (shifted) XTestFakeKeyEvent(display, shift, False, CurrentTime);
        XSync(display, False);
        return true;
    }
    Display* display = nullptr;
    QWidget* window = nullptr;
    std::map<KeySym, std::pair<KeyCode, bool>> keys; ///< keysym -> code, with shift
};

Hand::Hand(QWidget* window) : m(new Impl) {
    m->display = XOpenDisplay(nullptr);
    m->window = window;
    qApp->installEventFilter(&m->arrivals);
    int low = 0, high = 0;
    XDisplayKeycodes(m->display, &low, &high);
    for (int code = high; code >= low; --code)
        for (int level = 1; level >= 0; --level) {
            const KeySym sym = XkbKeycodeToKeysym(m->display, static_cast<KeyCode>(code), 0, level);
            if (sym != NoSymbol) m->keys[sym] = {static_cast<KeyCode>(code), level == 1};
        }
    focus();
}

Hand::~Hand() {
    XCloseDisplay(m->display);
    delete m;
}

bool Hand::wait(const std::function<bool()>& condition, int milliseconds) {
    return waitFor(condition, milliseconds);
}

/// Everything that the server has for us is delivered: a round trip, then the event queue.
void Hand::settle() {
    for (int i = 0; i < 4; ++i) {
        QApplication::sync();
        QApplication::processEvents(QEventLoop::AllEvents, 20);
    }
}

bool Hand::steady(const std::function<QPointF()>& place) {
    QPointF last = place();
    QElapsedTimer still;
    still.start();
    return wait(
        [&] {
            if (const QPointF now = place(); now != last) {
                last = now;
                still.restart();
            }
            return still.elapsed() > 100;
        },
        10000);
}

void Hand::focus() {
    XSetInputFocus(m->display, m->window->winId(), RevertToParent, CurrentTime);
    XSync(m->display, False);
    settle();
}

void Hand::moveTo(QWidget* widget, QPointF at) {
    const QPoint p = widget->mapToGlobal(at.toPoint());
    motion(p.x(), p.y());
}

void Hand::motion(int x, int y) {
    const int before = m->arrivals.moves;
    XTestFakeMotionEvent(m->display, -1, x, y, CurrentTime);
    XSync(m->display, False);
    m->await(m->arrivals.moves, before, 150); // a move to where the pointer is already is no event
}

void Hand::button(bool down, unsigned which) {
    const int& count = down ? m->arrivals.presses : m->arrivals.releases;
    const int before = count;
    XTestFakeButtonEvent(m->display, which, down ? True : False, CurrentTime);
    XSync(m->display, False);
    m->await(count, before, 3000);
}

void Hand::click(QWidget* widget, QPointF at, bool shift) {
    const KeyCode code = XKeysymToKeycode(m->display, XK_Shift_L);
    moveTo(widget, at);
    if (shift) XTestFakeKeyEvent(m->display, code, True, CurrentTime);
    button(true);
    button(false);
    if (!shift) return;
    XTestFakeKeyEvent(m->display, code, False, CurrentTime);
    XSync(m->display, False);
    settle();
}

void Hand::rightClick(QWidget* widget, QPointF at) {
    moveTo(widget, at);
    button(true, 3);
    button(false, 3);
}

void Hand::doubleClick(QWidget* widget, QPointF at) {
    moveTo(widget, at);
    const int before = m->arrivals.releases;
    for (int k = 0; k < 4; ++k) XTestFakeButtonEvent(m->display, 1, k % 2 == 0 ? True : False, CurrentTime);
    XSync(m->display, False);
    m->await(m->arrivals.releases, before + 1, 3000);
}

void Hand::drag(QWidget* widget, QPointF from, QPointF to) {
    drag(widget, std::vector<QPointF>{from, to});
}

void Hand::drag(QWidget* widget, const std::vector<QPointF>& way, bool control,
                const std::function<void()>& held) {
    const KeyCode code = XKeysymToKeycode(m->display, XK_Control_L);
    moveTo(widget, way.front());
    if (control) XTestFakeKeyEvent(m->display, code, True, CurrentTime);
    button(true);
    constexpr int kSteps = 12;
    for (std::size_t leg = 1; leg < way.size(); ++leg) {
        const QPoint a = widget->mapToGlobal(way[leg - 1].toPoint()),
                     b = widget->mapToGlobal(way[leg].toPoint());
        for (int i = 1; i <= kSteps; ++i) {
            const QPoint p = a + (b - a) * i / kSteps;
            if (i < kSteps)
                m->passBy(p.x(), p.y());
            else
                motion(p.x(), p.y());
        }
    }
    if (held) held();
    button(false);
    if (control) XTestFakeKeyEvent(m->display, code, False, CurrentTime);
    XSync(m->display, False);
    settle();
}

void Hand::key(unsigned long sym) {
    const int before = m->arrivals.keys;
    if (m->strike(sym)) m->await(m->arrivals.keys, before, 3000);
}

void Hand::alt(const char* keysym) {
    const KeyCode code = XKeysymToKeycode(m->display, XK_Alt_L);
    XTestFakeKeyEvent(m->display, code, True, CurrentTime);
    XSync(m->display, False);
    press(keysym);
    XTestFakeKeyEvent(m->display, code, False, CurrentTime);
    XSync(m->display, False);
    settle();
}

/// As fast as fingers can: the window catches up afterwards.
void Hand::type(const QString& text) {
    const int before = m->arrivals.keys;
    int struck = 0;
    for (const QChar c : text) struck += m->strike(c.unicode()); // Latin-1 characters are their own keysyms
    if (struck > 0) m->await(m->arrivals.keys, before + struck - 1, 3000);
}

void Hand::press(const char* keysym, bool control) {
    const KeyCode code = XKeysymToKeycode(m->display, XK_Control_L);
    if (control) XTestFakeKeyEvent(m->display, code, True, CurrentTime);
    key(XStringToKeysym(keysym));
    if (control) XTestFakeKeyEvent(m->display, code, False, CurrentTime);
    XSync(m->display, False);
    settle();
}

} // namespace gc::test
