#include "app/look/keys_in_use.hpp"

#include <QApplication>
#include <QEvent>
#include <QWidget>

namespace gc::app {

namespace {

class Watch : public QObject {
  public:
    using QObject::QObject;
    bool keys = false;

  protected:
    bool eventFilter(QObject* o, QEvent* e) override {
        const bool key = e->type() == QEvent::KeyPress, mouse = e->type() == QEvent::MouseButtonPress;
        if ((key || mouse) && keys != key) {
            keys = key;
            if (QWidget* focus = QApplication::focusWidget()) focus->update();
        }
        return QObject::eventFilter(o, e);
    }
};

Watch* watch = nullptr;

} // namespace

void watchKeys() {
    if (watch || !qApp) return;
    watch = new Watch(qApp);
    qApp->installEventFilter(watch);
}

bool keysInUse() {
    return watch && watch->keys;
}

} // namespace gc::app
