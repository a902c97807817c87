#pragma once
/// \file A hand that does the jobs of the stage Form.

#include "app/rooms/prove/prove_room.hpp"
#include "core/base/angles.hpp"
#include "tests/window/job_hand.hpp"

#include <QComboBox>
#include <QTableWidget>

namespace gc::test {

struct FormJob : Job {
    Stand* stand() { return window.stand(); }
    const Step& draft() { return *window.bar()->draft(); }
    SentenceFlow* flow() { return window.bar()->sentence(); }
    int last() { return window.session()->part().steps.back().id; }
    std::size_t steps() { return window.session()->part().steps.size(); }

    void stage(const char* name) {
        const QString stage = QString::fromLatin1(name);
        hand->click(window.stages(), QRectF(window.stages()->stageRect(stage)).center());
        ++used;
        Hand::settle();
    }
    void open(SentenceFlow* sentence, const char* key) {
        INFO(key);
        const QString slot = QString::fromLatin1(key);
        REQUIRE(Hand::wait([&] { return !sentence->slotRect(slot).isEmpty(); }));
        hand->click(sentence, QRectF(sentence->slotRect(slot)).center());
        ++used;
    }
    /// An entry of the list that a slot opens, by its place.
    void choose(SentenceFlow* sentence, const char* key, int place) {
        open(sentence, key);
        REQUIRE(Hand::wait([] { return QApplication::activePopupWidget() != nullptr; }, 5000));
        for (int k = 0; k <= place; ++k) hand->press("Down"), ++used;
        this->key("Return");
        REQUIRE(Hand::wait([] { return QApplication::activePopupWidget() == nullptr; }, 5000));
    }
    void begin(const char* kind) {
        verb(QString::fromLatin1(kind));
        REQUIRE(Hand::wait([&] { return window.bar()->active(); }, 5000));
    }
    bool quiet() {
        Hand::settle();
        return Hand::wait([&] { return !window.forge()->busy(); }, 60000);
    }
    void pick(QVector3D place) {
        REQUIRE(quiet());
        REQUIRE(Hand::steady([&] { return stand()->screenOf(place); }));
        hand->click(stand(), stand()->screenOf(place));
        ++used;
    }
    /// Another sight: a digit over the stand.
    void look(const char* sight) {
        const Camera before = stand()->camera();
        hand->moveTo(stand(), {stand()->width() / 2.0, stand()->height() / 2.0});
        REQUIRE(Hand::wait([&] { return stand()->underMouse(); }, 5000));
        key(sight);
        REQUIRE(Hand::wait([&] { return stand()->camera().direction() != before.direction(); }, 5000));
        REQUIRE(quiet());
    }
    void keep() {
        const std::size_t before = steps();
        key("Return");
        INFO(window.bar()->message().toStdString() << " " << window.bar()->fault().toStdString());
        REQUIRE(Hand::wait([&] { return steps() == before + 1; }, 5000));
        REQUIRE(quiet());
        const StepView view = window.forge()->steps().at(last());
        INFO(view.error.toStdString());
        REQUIRE(view.ok);
    }
    /// Asks for a measure of one body.
    void ask(int measure, int body, const char* allowed) {
        BriefPage* page = window.brief()->brief();
        QComboBox* add = page->asked();
        const int before = page->targets()->rowCount();
        hand->click(add, QRectF(add->rect()).center());
        for (int k = 0; k < measure; ++k) key("Down");
        key("Return");
        ++used;
        REQUIRE(Hand::wait([&] { return page->targets()->rowCount() == before + 1; }, 5000));
        auto* of = qobject_cast<QComboBox*>(page->targets()->cellWidget(before, 2));
        REQUIRE(of);
        REQUIRE(Hand::steady([&] { return QPointF(of->mapToGlobal(QPoint())); }));
        hand->click(of, QRectF(of->rect()).center());
        ++used;
        for (int k = 0; k < body; ++k) key("Down");
        key("Return");
        REQUIRE(
            Hand::wait([&] { return !window.session()->part().brief.targets.back().body.empty(); }, 5000));
        QTableWidget* rows = page->targets();
        REQUIRE(Hand::steady([&] { return QPointF(rows->viewport()->mapToGlobal(QPoint())); }));
        hand->click(rows->viewport(), rows->visualItemRect(rows->item(before, 1)).center());
        ++used;
        hand->type(QString::fromLatin1(allowed));
        key("Return");
    }
    double massOf(const char* body) {
        for (const TargetView& t : window.forge()->targets())
            if (t.ofBody == QLatin1String(body) && t.value) return *t.value;
        return 0;
    }
};

} // namespace gc::test
