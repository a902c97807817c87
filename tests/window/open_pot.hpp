#pragma once
/// \file The real window on the demo part, for the window tests.

#include "app/rooms/brief/brief_room.hpp"
#include "app/rooms/prove/prove_room.hpp"
#include "app/rooms/release/release_room.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/part_files.hpp"
#include "core/base/file.hpp"
#include "tests/support/temporary_folder.hpp"
#include "tests/window/hand.hpp"

#include <catch2/catch.hpp>

#include <memory>

namespace gc::test {

using namespace gc::app;

/// The window on a copy of the herb pot, built and measured.
struct OpenPot {
    TemporaryFolder folder;
    QString file = inFolder("part.goodcurve");
    MainWindow window;
    std::unique_ptr<Hand> hand;

    OpenPot() {
        const auto text = readFile("demo/herb-pot.goodcurve");
        REQUIRE(text.ok());
        REQUIRE(writeFileAtomically(file.toStdString(), *text).ok());
        window.move(0, 0);
        window.show();
        REQUIRE(window.session()->open(file));
        REQUIRE(measured());
        hand = std::make_unique<Hand>(&window);
    }
    ~OpenPot() { window.session()->endCleanly(); }

    QString inFolder(const char* name) const { return QString::fromStdString(folder.file(name)); }

    /// Waits for the forge to have built and measured everything.
    bool measured() {
        Hand::settle();
        return Hand::wait(
            [&] {
                return !window.forge()->busy() && window.forge()->wallsKnown() &&
                       !window.forge()->meshes().empty();
            },
            90000);
    }
    const TargetView& target(const QString& measure) {
        for (const TargetView& t : window.forge()->targets())
            if (t.measure == measure) return t;
        FAIL("no target " << measure.toStdString());
        throw 0;
    }
    SentenceFlow* sentence(int step) { return window.sheet()->row(step)->sentence(); }
    void clickSlot(int step, const QString& slot) {
        hand->click(sentence(step), QRectF(sentence(step)->slotRect(slot)).center());
    }
    const Step& step(int id) { return *window.session()->part().findStep(id); }
};

} // namespace gc::test
