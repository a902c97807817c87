#pragma once
/// \file The stage Finish in the real window, worked by hand.

#include "tests/window/roof.hpp"
#include "tests/window/sight.hpp"

#include <QPushButton>

namespace gc::test {

struct FinishHand : Roof {
    /// \param change what stands in the sheet at first: of a slab over a drawing
    explicit FinishHand(const std::function<void(Part&)>& change) : Roof(change) {
        window.setStage(QStringLiteral("Finish"));
    }
    void pick(const char* slot, QVector3D where, std::size_t then) {
        hand->click(window.stand(), at(where));
        const bool picked = Hand::wait([&] { return draft().references(slot).size() == then; }, 10000);
        INFO(slot << " " << then << " at " << where.x() << ", " << where.y() << ", " << where.z() << ": "
                  << window.stand()->reading().toStdString());
        REQUIRE(picked);
        REQUIRE(quiet());
    }
    /// A click on a slot of the sentence; of two choices it takes the other.
    void click(const char* slot) {
        SentenceFlow* flow = window.bar()->sentence();
        const auto where = [&] { return QRectF(flow->slotRect(QString::fromLatin1(slot))).center(); };
        REQUIRE(Hand::wait([&] { return !flow->slotRect(QString::fromLatin1(slot)).isEmpty(); }, 5000));
        REQUIRE(Hand::steady([&] { return flow->mapTo(&window, where()); }));
        hand->click(flow, where());
    }
    void figure(const char* slot, const char* text) {
        click(slot);
        hand->press("a", true);
        hand->type(QString::fromLatin1(text));
        hand->press("Return");
        REQUIRE(Hand::wait([&] { return draft().text(slot).starts_with(text); }, 5000));
        REQUIRE(quiet());
    }
    /// One of the buttons of the stand.
    void press(const char* name) {
        QPushButton* button = nullptr;
        for (QPushButton* b : window.stand()->findChildren<QPushButton*>())
            if (b->accessibleName() == QString::fromLatin1(name)) button = b;
        REQUIRE(button);
        hand->click(button, {20, 12});
    }
    /// A shell outward by 2 mm without the floor, seen from below, left open in the bar.
    void beginSkin() {
        look(*hand, window.stand(), 6);
        begin("shell");
        click("open");
        pick("open", {0, 0, 0}, 1);
        figure("wall", "2 mm");
        hand->alt("r");
        REQUIRE(Hand::wait([&] { return draft().text("side") == "outward"; }, 5000));
    }
    void keep() {
        REQUIRE(quiet());
        CHECK(window.bar()->fault().toStdString().empty());
        hand->press("Return");
        REQUIRE(Hand::wait([&] { return !window.bar()->active(); }, 5000));
        REQUIRE(quiet());
    }
    std::string said() {
        return sentenceText(window.session()->part().steps.back(), window.session()->part());
    }
};

/// A slot that has two choices says the other.
inline void other(FinishHand& t, const char* slot, const char* now) {
    t.click(slot);
    const bool says = Hand::wait([&] { return t.draft().text(slot) == now; }, 5000);
    INFO(slot << " is " << t.draft().text(slot) << ", not " << now);
    REQUIRE(says);
}
/// The one at a place of the list that opens.
inline void chosen(FinishHand& t, const char* slot, int place, const char* now) {
    t.choose(slot, place);
    const bool says = Hand::wait([&] { return t.draft().text(slot) == now; }, 5000);
    INFO(slot << " is " << t.draft().text(slot) << ", not " << now);
    REQUIRE(says);
    REQUIRE(t.quiet());
}

/// 60 by 40 about the upright axis, 30 high.
inline void largeBlock(Part& p) {
    add(p, "draw",
        {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({-30, -20}, {30, 20}))}});
    add(p, "extrude", {{"length", std::string("30 mm")}, {"body", std::string("block")}});
}

/// On a part of its own.
struct FinishBench : FinishHand {
    explicit FinishBench(const std::function<void(Part&)>& steps)
        : FinishHand([&](Part& p) {
              p.steps.clear();
              steps(p);
          }) {}
    const StepView& last() { return window.forge()->steps().at(window.session()->part().steps.back().id); }
};

} // namespace gc::test
