#pragma once
/// \file A hand that does whole jobs from an empty part and counts its clicks and keys beyond typed figures.

#include "core/sketch/stroke_run.hpp"
#include "tests/window/table_hand.hpp"

#include <QApplication>

namespace gc::test {

struct Job : Editing {
    Job() { used = 0; }

    /// Toward a place, so long: the typed length is a size.
    void toward(Vec2 p, const char* length) {
        const std::size_t before = strokes();
        hand->moveTo(table(), table()->toScreen(p));
        hand->type(QString::fromLatin1(length));
        key("Return");
        REQUIRE(Hand::wait([&] { return strokes() == before + 1 && !table()->editor()->isVisible(); }));
    }
    void click(const char* label) {
        chip(label);
        ++used;
    }
    void put(const char* name, const char* text) {
        slot(name, text);
        used += 2;
    }
    void still() {
        REQUIRE(Hand::steady([&] { return table()->toScreen({0, 0}); }));
    }
    /// With the dimension tool at hand: things, the place of the figure, the typed size.
    void dimension(const std::vector<Vec2>& things, Vec2 figure, const char* text) {
        size(things, figure, text);
        still();
    }
    /// What is loose is pinned as it is, a click each.
    void pinRest() {
        while (const int left = window.drawingModel()->freedoms().count) {
            const auto& motions = window.drawingModel()->freedoms().motions;
            REQUIRE_FALSE(motions.empty());
            const QString pin = QString::fromStdString(motions[0].pins.at(0).words);
            card(pin);
            INFO(left << " loose, pinned by " << pin.toStdString() << ", then "
                      << window.drawingModel()->freedoms().count);
            REQUIRE(Hand::wait([&] { return window.drawingModel()->freedoms().count < left; }, 4000));
        }
    }
    bool built() {
        Hand::settle();
        return Hand::wait([&] { return !window.forge()->busy() && !window.forge()->meshes().empty(); },
                          60000);
    }
    /// The last step's change, mm³.
    double change() {
        const int last = window.session()->part().steps.back().id;
        const StepView view = window.forge()->steps().at(last);
        INFO(view.error.toStdString());
        REQUIRE(view.ok);
        REQUIRE(view.volumeChange);
        return *view.volumeChange;
    }
    double turnedVolume() {
        tool("done");
        verb(QStringLiteral("revolve"));
        key("Return");
        REQUIRE(built());
        return change();
    }
    double lengthOf(std::size_t i) { return StrokeRun(drawing(), drawing().strokes[i]).length(); }
    void told(const char* job, int most) {
        WARN(job << ": " << used << " clicks and keys, at most " << most);
        CHECK(used <= most);
    }
};

} // namespace gc::test
