#pragma once
/// \file The real window on a slab over a drawing, for what is done in the stand.

#include "app/shell/main_window.hpp"
#include "core/document/part_file.hpp"
#include "tests/support/probe.hpp"
#include "tests/support/temporary_folder.hpp"
#include "tests/window/hand.hpp"

#include <QApplication>
#include <QMenu>
#include <catch2/catch.hpp>

namespace gc::test {

using namespace gc::app;

/// A slab 30 to 40 over the ground, and a foot drawn on the ground.
struct Roof {
    TemporaryFolder folder;
    MainWindow window;
    std::unique_ptr<Hand> hand;

    /// \param more steps that come after
    explicit Roof(const std::function<void(Part&)>& more = {}) {
        Part p;
        p.name = "roof";
        add(p, "draw",
            {{"plane", std::string("front")}, {"drawing", DrawingSlot(rectangle({-30, 30}, {30, 40}))}});
        add(p, "extrude",
            {{"length", std::string("40 mm")},
             {"way", std::string("both ways together")},
             {"body", std::string("roof")}});
        add(p, "draw",
            {{"plane", std::string("ground")},
             {"name", std::string("foot")},
             {"drawing", DrawingSlot(rectangle({-8, -6}, {8, 6}))}});
        if (more) more(p);
        const std::string file = folder.file("roof.goodcurve");
        REQUIRE(savePart(p, file).ok());
        window.move(0, 0);
        window.show();
        REQUIRE(window.session()->open(QString::fromStdString(file)));
        window.setStage(QStringLiteral("Form"));
        REQUIRE(
            Hand::wait([&] { return !window.forge()->busy() && !window.forge()->steps().empty(); }, 60000));
        hand = std::make_unique<Hand>(&window);
    }
    ~Roof() { window.session()->endCleanly(); }

    /// One of the choices of a slot, by its place in the list that opens.
    void choose(const char* slot, int place) {
        SentenceFlow* flow = window.bar()->sentence();
        const auto where = [&] { return QRectF(flow->slotRect(QString::fromLatin1(slot))).center(); };
        REQUIRE(Hand::steady([&] { return flow->mapTo(&window, where()); }));
        hand->click(flow, where());
        REQUIRE(Hand::wait([] { return QApplication::activePopupWidget() != nullptr; }, 5000));
        for (int k = 0; k <= place; ++k) hand->press("Down");
        hand->press("Return");
        REQUIRE(Hand::wait([] { return QApplication::activePopupWidget() == nullptr; }, 5000));
    }
    void begin(const char* verb) {
        hand->type(QString::fromLatin1(verb));
        hand->press("Return");
        REQUIRE(Hand::wait([&] { return window.bar()->active(); }, 5000));
    }
    const Step& draft() { return *window.bar()->draft(); }
    bool quiet() {
        Hand::settle();
        return Hand::wait([&] { return !window.forge()->busy(); }, 160000); // on a busy machine
    }
    /// A place of the part on the screen, once the view rests.
    QPointF at(QVector3D p) {
        REQUIRE(Hand::steady([&] { return window.stand()->screenOf(p); }));
        return window.stand()->screenOf(p);
    }
    double change() {
        const auto& view = window.forge()->steps().at(window.session()->part().steps.back().id);
        INFO(view.error.toStdString());
        REQUIRE(view.ok);
        REQUIRE(view.volumeChange);
        return *view.volumeChange;
    }
};

} // namespace gc::test
