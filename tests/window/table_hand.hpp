#pragma once
/// \file A hand at the drawing table of the real window.

#include "core/sketch/drawing_words.hpp"
#include "tests/window/open_pot.hpp"

#include <catch2/catch.hpp>

namespace gc::test {

using namespace gc::app;
using K = RelationKind;

/// A new part with an empty drawing on the table.
struct Table {
    MainWindow window;
    std::unique_ptr<Hand> hand;
    int used = 0; ///< clicks and key strokes beyond typed figures

    Table() {
        window.move(0, 0);
        window.show();
        window.session()->startNew();
        hand = std::make_unique<Hand>(&window);
        window.setStage(QStringLiteral("Outline"));
        Hand::settle();
        verb(QStringLiteral("draw"));
        REQUIRE(Hand::wait([&] { return window.table()->isVisible() && window.table()->width() > 500; }));
        REQUIRE(Hand::steady([&] { return window.table()->toScreen({0, 0}); }));
    }
    ~Table() { window.session()->endCleanly(); }

    const Drawing& drawing() { return window.drawingModel()->drawing(); }
    void verb(const QString& kind) {
        hand->click(window.verbs(), QRectF(window.verbs()->verbRect(kind)).center());
        ++used;
    }
    void tool(const char* key) { verb(QStringLiteral("tool:") + QLatin1String(key)); }
    void at(Vec2 p) {
        hand->click(window.table(), window.table()->toScreen(p));
        ++used;
    }
    /// A line of its own; the tool stays at hand.
    void line(Vec2 a, Vec2 b) {
        at(a);
        at(b);
        key("Escape");
    }
    void key(const char* keysym) {
        hand->press(keysym);
        ++used;
    }
    /// A line of the card, which opens when it is pointed at.
    void card(const QString& words) {
        if (window.table()->cardFolded()) hand->moveTo(window.table(), window.table()->cardRect().center());
        REQUIRE(Hand::wait([&] { return !window.table()->cardRect(words).isEmpty(); }));
        hand->click(window.table(), window.table()->cardRect(words).center());
        ++used;
    }
    std::size_t strokes() { return drawing().strokes.size(); }
    int count(K kind) {
        return static_cast<int>(std::count_if(drawing().relations.begin(), drawing().relations.end(),
                                              [&](const Relation& r) { return r.kind == kind; }));
    }
    /// With the dimension tool at hand: things, the place of the figure, the typed size.
    void size(const std::vector<Vec2>& things, Vec2 figure, const char* text) {
        INFO("size " << text << " at " << figure.x << " " << figure.y);
        const int before = sized();
        for (const Vec2 t : things) at(t);
        at(figure);
        REQUIRE(Hand::wait([&] { return window.table()->editor()->isVisible(); }));
        hand->type(QString::fromLatin1(text));
        key("Return");
        REQUIRE(Hand::wait([&] { return !window.table()->editor()->isVisible(); }));
        CHECK(sized() == before + 1);
    }
    int sized() {
        return static_cast<int>(std::count_if(drawing().relations.begin(), drawing().relations.end(),
                                              [](const Relation& r) { return wordsOf(r.kind).sized; }));
    }
    Vec2 middle(std::size_t stroke) {
        const Stroke& s = drawing().strokes[stroke];
        return (drawing().at(s.points[0]) + drawing().at(s.points[1])) * 0.5;
    }
    Vec2 end(std::size_t stroke, std::size_t which) {
        return drawing().at(drawing().strokes[stroke].points[which]);
    }
};

/// A hand that changes what is drawn.
struct Editing : Table {
    DrawingTable* table() { return window.table(); }
    void chip(const char* label) {
        INFO(label);
        const QString text = QString::fromLatin1(label);
        REQUIRE(Hand::wait([&] { return !table()->chipRect(text).isEmpty(); }));
        hand->click(table(), table()->chipRect(text).center());
    }
    void box(Vec2 a, Vec2 b) { hand->drag(table(), table()->toScreen(a), table()->toScreen(b)); }
    /// A figure in the sentence, typed over.
    void slot(const char* key, const char* text) {
        SentenceFlow* flow = window.bar()->sentence();
        REQUIRE(Hand::wait([&] { return !flow->slotRect(QString::fromLatin1(key)).isEmpty(); }));
        hand->click(flow, QRectF(flow->slotRect(QString::fromLatin1(key))).center());
        hand->type(QString::fromLatin1(text));
        hand->press("Return");
    }
    double area() {
        double sum = 0;
        for (const Region& r : window.drawingModel()->closedness().regions)
            if (r.depth % 2 == 0) sum += r.area();
        return sum;
    }
    void rectangle(Vec2 a, Vec2 b) {
        tool("rectangle");
        at(a);
        at(b);
        REQUIRE(Hand::wait([&] { return strokes() == 4; }));
        key("Escape");
    }
};

} // namespace gc::test
