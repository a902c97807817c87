/// \file Planes in the stand, drawings on them, what they follow, and pictures to draw over: by hand.

#include "core/document/part_file.hpp"
#include "core/document/planes.hpp"
#include "tests/window/table_hand.hpp"

#include <QApplication>
#include <QDir>
#include <QMenu>
#include <QTemporaryDir>

using namespace gc;
using namespace gc::test;

namespace {

/// The pot, with ways to say what is done.
struct Pot : OpenPot {
    void typeVerb(const char* verb) {
        hand->moveTo(window.stand(), QPointF(window.stand()->width() / 2.0, window.stand()->height() / 2.0));
        hand->type(QString::fromLatin1(verb));
        hand->press("Return");
        REQUIRE(Hand::wait([&] { return window.bar()->active(); }));
    }
    void clickBarSlot(const char* slot) {
        SentenceFlow* flow = window.bar()->sentence();
        REQUIRE(Hand::wait([&] { return !flow->slotRect(QString::fromLatin1(slot)).isEmpty(); }));
        hand->click(flow, QRectF(flow->slotRect(QString::fromLatin1(slot))).center());
    }
    /// The entry of the menu that is open, counted from 0; from the end when negative.
    void takeFromMenu(int entry) {
        REQUIRE(Hand::wait([&] { return QApplication::activePopupWidget() != nullptr; }));
        Hand::settle();
        for (int i = 0; i <= entry; ++i) hand->press("Down");
        for (int i = 0; i > entry; --i) hand->press("Up");
        hand->press("Return");
        REQUIRE(Hand::wait([&] { return QApplication::activePopupWidget() == nullptr; }));
        Hand::settle();
    }
    /// An empty drawing on the table.
    DrawingTable* newDrawing() {
        window.setStage(QStringLiteral("Outline"));
        Hand::settle();
        clickVerb("draw");
        REQUIRE(Hand::wait([&] { return window.table()->isVisible(); }));
        return window.table();
    }
    void clickVerb(const char* kind) {
        hand->click(window.verbs(), QRectF(window.verbs()->verbRect(QString::fromLatin1(kind))).center());
    }
    bool built() {
        Hand::settle();
        return Hand::wait([&] { return !window.forge()->busy(); }, 60000);
    }
    const Plane* plane(const char* name) {
        for (const PlaneView& p : window.forge()->planes())
            if (p.name == QLatin1String(name)) return &p.plane;
        return nullptr;
    }
    QPointF at(QVector3D p) { return window.stand()->screenOf(p); }
    const Step& last() { return window.session()->part().steps.back(); }
};

QString chipIn(DrawingTable* table, const char* label) {
    const QString text = QString::fromLatin1(label);
    REQUIRE(Hand::wait([&] { return !table->chipRect(text).isEmpty(); }));
    return text;
}

} // namespace

TEST_CASE("A plane is a sentence; its arrow is dragged; a drawing lies on it and follows the part") {
    Pot pot;
    pot.typeVerb("plane");
    REQUIRE(Hand::wait([&] {
        return pot.plane("datum") && !pot.window.stand()->handleTip(QStringLiteral("distance")).isNull();
    }));
    CHECK(pot.plane("datum")->origin.z == Approx(10));
    REQUIRE(Hand::steady([&] { return pot.window.stand()->handleTip(QStringLiteral("distance")); }));
    const QPointF tip = pot.window.stand()->handleTip(QStringLiteral("distance"));
    const QPointF up = pot.at({0, 0, 1}) - pot.at({0, 0, 0}); // pixels a millimetre
    pot.hand->drag(pot.window.stand(), tip, tip + up * 40);
    REQUIRE(Hand::wait([&] { return std::fabs(pot.plane("datum")->origin.z - 50) < 2; }));
    pot.hand->press("Return");
    REQUIRE(Hand::wait([&] { return pot.last().kind == "plane"; }));
    const int plane = pot.last().id;

    DrawingTable* table = pot.newDrawing();
    REQUIRE(Hand::wait([&] { return table->traces().size() > 4; }));
    CHECK(pot.last().text("plane") == "datum");
    CHECK(Hand::wait([&] { return table->ghost().isSeen(); }));
    REQUIRE(Hand::steady([&] { return table->toScreen({0, 0}); }));

    // The cut through the outside of the wall, to the right of the axis.
    const Trace* wall = nullptr;
    for (const Trace& t : pot.window.forge()->traces())
        if (t.source == "cut of wall of step 2") wall = &t;
    REQUIRE(wall);
    REQUIRE(wall->kind == StrokeKind::Circle);
    const double before = wall->sizes[0];
    pot.clickVerb("tool:follow");
    pot.hand->click(table, table->toScreen(Vec2{std::cos(1.0), std::sin(1.0)} * before));
    const auto& drawing = pot.window.drawingModel()->drawing();
    REQUIRE(Hand::wait([&] { return drawing.strokes.size() == 1; }));
    CHECK(drawing.relations.at(0).kind == RelationKind::Follows);
    CHECK(drawing.relations.at(0).source == "cut of wall of step 2");
    // The plane goes up; what is followed is wider there, on the table and in the sheet.
    pot.clickSlot(plane, "distance");
    pot.hand->press("a", true);
    pot.hand->type("90 mm");
    pot.hand->press("Return");
    REQUIRE(Hand::wait([&] { return drawing.strokes.at(0).sizes.at(0) > before + 5; }));
    REQUIRE(pot.built());
    for (const auto& [id, s] : pot.window.forge()->steps()) CHECK(s.ok);
}

TEST_CASE("A point is held where an edge of the part runs through the table, and stays there") {
    Pot pot;
    DrawingTable* table = pot.newDrawing();
    REQUIRE(Hand::wait([&] { return table->traces().size() > 4; }));
    REQUIRE(Hand::steady([&] { return table->toScreen({0, 0}); }));
    pot.clickVerb("tool:point");
    pot.hand->click(table, table->toScreen({70, 100}));
    const auto& drawing = pot.window.drawingModel()->drawing();
    REQUIRE(Hand::wait([&] { return drawing.strokes.size() == 1; }));
    pot.hand->press("Escape");
    REQUIRE(Hand::steady([&] { return table->toScreen({0, 0}); }));
    const int point = drawing.strokes[0].points[0];
    pot.hand->click(table, table->toScreen(drawing.at(point)));
    pot.hand->click(table, table->chipRect(chipIn(table, "Meets the nearest edge")).center());
    REQUIRE(Hand::wait([&] {
        return !drawing.relations.empty() && drawing.relations.back().kind == RelationKind::OnTrace;
    }));
    // On the rim: as far out as the pot is wide at the top, less what its rounding takes.
    REQUIRE(Hand::wait([&] { return std::fabs(drawing.at(point).x - 55) < 1.5; }));
    const Vec2 before = drawing.at(point);
    // Another rounding of the rim moves that edge, and the point with it.
    pot.clickSlot(5, "radius");
    pot.hand->press("a", true);
    pot.hand->type("0.6 mm");
    pot.hand->press("Return");
    REQUIRE(Hand::wait([&] { return length(drawing.at(point) - before) > 0.2; }));
    REQUIRE(pot.built());
    for (const auto& [id, s] : pot.window.forge()->steps()) {
        CHECK(s.ok);
        CHECK(s.notes.isEmpty());
    }
}

TEST_CASE("The table is laid on a flat face that is picked in the stand, flipped, and turned") {
    Pot pot;
    DrawingTable* table = pot.newDrawing();
    REQUIRE(Hand::wait([&] { return !table->stripRect("On ").isEmpty(); }));
    CHECK(pot.last().text("plane") == "front");
    Hand::settle();
    pot.hand->click(table, table->stripRect("On ").center());
    pot.takeFromMenu(-1);
    REQUIRE(Hand::wait([&] { return pot.window.stand()->isVisible(); }));
    CHECK(pot.window.stand()->picking() == Picking::Planes);
    pot.window.stand()->lookFrom(5); // from above: the floor is seen, and the rim
    REQUIRE(pot.built());
    REQUIRE(Hand::steady([&] { return pot.at({0, 0, 0}); }));
    pot.hand->click(pot.window.stand(), pot.at({4, 3, 2.4f}));
    REQUIRE(Hand::wait([&] { return pot.last().text("plane") != "front"; }));
    CHECK(pot.last().text("plane") == "inside of floor of step 2");
    REQUIRE(Hand::wait([&] { return table->isVisible(); }));
    REQUIRE(Hand::wait([&] { return std::fabs(table->plane().normal().z - 1) < 1e-9; }));
    CHECK(table->plane().origin.z == Approx(2.4));
    REQUIRE(Hand::wait([&] { return !table->stripRect("Seen from before").isEmpty(); }));
    Hand::settle();
    pot.hand->click(table, table->stripRect("Seen from before").center());
    REQUIRE(Hand::wait([&] { return table->plane().normal().z < -0.99; }));
    REQUIRE(Hand::wait([&] { return !table->stripRect("Upright").isEmpty(); }));
    pot.hand->click(table, table->stripRect("Upright").center());
    REQUIRE(Hand::wait([&] { return std::fabs(table->plane().up.x) > 0.99; }));
    // Undone, it lies as it did.
    pot.hand->press("z", true);
    pot.hand->press("z", true);
    REQUIRE(Hand::wait([&] { return table->plane().normal().z > 0.99; }));
    CHECK(pot.last().text("seen") == seenChoices()[0]);
}

TEST_CASE("A plane touches the wall where it is clicked; another goes through picked points") {
    Pot pot;
    pot.typeVerb("plane");
    pot.clickBarSlot("way");
    pot.takeFromMenu(4); // touching
    REQUIRE(Hand::wait([&] { return pot.window.stand()->picking() == Picking::Faces; }));
    REQUIRE(pot.built());
    pot.window.stand()->lookFrom(1);
    REQUIRE(Hand::steady([&] { return pot.at({0, 0, 0}); }));
    pot.hand->click(pot.window.stand(), pot.at({10, -45, 60}));
    REQUIRE(Hand::wait([&] { return pot.plane("datum") && pot.plane("datum")->normal().y < -0.9; }));
    const Step& draft = *pot.window.bar()->draft();
    CHECK(draft.references("face") == References{"wall of step 2"});
    REQUIRE(draft.references("point").size() == 1);
    // It touches: its place is on the wall, as far out as the pot is there.
    const Plane& p = *pot.plane("datum");
    CHECK(p.origin.z == Approx(60).margin(2));
    CHECK(std::hypot(p.origin.x, p.origin.y) == Approx(46.5).margin(1.5));
    pot.hand->press("Return");
    REQUIRE(Hand::wait([&] { return pot.last().kind == "plane"; }));

    pot.typeVerb("plane");
    pot.clickBarSlot("way");
    pot.takeFromMenu(1); // through points
    REQUIRE(Hand::wait([&] { return pot.window.stand()->picking() == Picking::Points; }));
    REQUIRE(Hand::wait([&] { return pot.window.forge()->places().size() > 4; }));
    REQUIRE(pot.built());
    // Spots of the wall, well apart.
    for (const QVector3D v : {QVector3D(-20, -45, 40), {20, -45, 40}, {0, -50, 80}}) {
        const auto before = pot.window.bar()->references().size();
        pot.hand->click(pot.window.stand(), pot.at(v));
        REQUIRE(Hand::wait([&] { return pot.window.bar()->references().size() == before + 1; }));
    }
    REQUIRE(Hand::wait([&] { return pot.plane("datum 2") != nullptr; }));
    CHECK(std::fabs(pot.plane("datum 2")->normal().y) > 0.8);
    pot.hand->press("Return");
    REQUIRE(Hand::wait([&] { return pot.last().text("name") == "datum 2"; }));
}

TEST_CASE("A picture is set to scale by two places and a length, moved, and made paler") {
    Table t;
    QTemporaryDir folder;
    QImage image(300, 450, QImage::Format_RGB32);
    image.fill(Qt::darkGreen);
    const QString path = folder.filePath(QStringLiteral("leaf.png"));
    REQUIRE(image.save(path));
    t.window.outline()->layPicture(path);
    const auto& placed = t.drawing().picture;
    REQUIRE(placed);
    CHECK(placed->height == Approx(placed->width * 1.5));
    REQUIRE(Hand::steady([&] { return t.window.table()->toScreen({0, 0}); }));
    // Its lower left and lower right corners lie 40 mm apart in truth.
    const Vec2 corner = placed->at;
    t.at(corner);
    t.at(corner + Vec2{placed->width, 0});
    REQUIRE(Hand::wait([&] { return t.window.table()->editor()->isVisible(); }));
    t.hand->type(QStringLiteral("4 cm"));
    t.key("Return");
    REQUIRE(Hand::wait([&] { return std::fabs(placed->width - 40) < 0.5; }));
    CHECK(placed->height == Approx(placed->width * 1.5));
    CHECK(t.drawing().sized); // what is drawn over it is true to size
    REQUIRE(Hand::steady([&] { return t.window.table()->toScreen({0, 0}); }));
    DrawingTable* table = t.window.table();
    t.hand->click(table, table->chipRect(chipIn(table, "move it")).center());
    const Vec2 low = placed->at;
    t.at(low);
    t.at({0, 0});
    REQUIRE(Hand::wait([&] { return length(placed->at) < 0.5; }));
    t.hand->click(table, table->chipRect(chipIn(table, "paler")).center());
    REQUIRE(Hand::wait([&] { return std::fabs(placed->strength - 0.4) < 1e-9; }));
    // Another picture of the same name, from elsewhere, is another picture.
    REQUIRE(QDir(folder.path()).mkdir(QStringLiteral("other")));
    image.fill(Qt::darkRed);
    REQUIRE(image.save(folder.filePath(QStringLiteral("other/leaf.png"))));
    t.window.outline()->layPicture(folder.filePath(QStringLiteral("other/leaf.png")));
    CHECK(placed->file == "leaf 2.png");
    CHECK(t.window.session()->part().attachments.size() == 1); // the first is used no more
    t.hand->press("z", true);
    REQUIRE(Hand::wait([&] { return placed->file == "leaf.png"; }));
    // A file that is no picture is told, and nothing is lost.
    REQUIRE(
        writeFileAtomically((folder.path() + QStringLiteral("/bad.png")).toStdString(), "no picture").ok());
    t.window.outline()->layPicture(folder.filePath(QStringLiteral("bad.png")));
    CHECK(placed->file == "leaf.png");
    // The picture travels with the part.
    const auto again = readPart(writePart(t.window.session()->part()));
    REQUIRE(again.ok());
    REQUIRE(again->attachments.size() == 1);
    CHECK_FALSE(t.window.drawingModel()->picture().isNull());
    for (int k = 0; k < 8; ++k) t.key("Escape");
    for (int k = 0; k < 5; ++k) t.hand->press("z", true);
    CHECK(Hand::wait([&] { return !t.drawing().picture; }));
}

TEST_CASE("A fair curve is drawn through stations and told how near it keeps; a spline how wide it is") {
    Table t;
    DrawingTable* table = t.window.table();
    t.tool("spline");
    t.hand->click(table, table->chipRect(chipIn(table, "fair, near stations")).center());
    for (const Vec2 p : {Vec2{20, 5}, {26, 20}, {24, 35}, {30, 50}}) t.at(p);
    t.key("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() == 1; }));
    CHECK(t.drawing().strokes[0].kind == StrokeKind::Fair);
    t.key("Escape");
    t.at(curvesOf(t.drawing(), t.drawing().strokes[0])[1].at(0.5));
    t.hand->click(table, table->chipRect(chipIn(table, "Fairness")).center());
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    SentenceFlow* flow = t.window.bar()->sentence();
    t.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("within"))).center());
    t.hand->type(QStringLiteral("0.5 mm"));
    t.hand->press("Return");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return std::fabs(t.drawing().strokes[0].sizes[0] - 0.5) < 1e-12; }));

    for (int k = 0; k < 3; ++k) t.key("Escape");
    t.tool("spline");
    t.hand->click(table, table->chipRect(chipIn(table, "through points")).center());
    for (const Vec2 p : {Vec2{40, 5}, {46, 25}, {42, 50}}) t.at(p);
    t.key("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() == 2; }));
    t.key("Escape");
    t.tool("dimension");
    t.at(curvesOf(t.drawing(), t.drawing().strokes[1])[0].at(0.5));
    t.at({52, 15});
    REQUIRE(Hand::wait([&] { return table->editor()->isVisible(); }));
    t.hand->type(QStringLiteral("96 mm"));
    t.key("Return");
    REQUIRE(Hand::wait([&] { return t.sized() == 2 && !table->editor()->isVisible(); }));
    const Drawing& d = t.drawing();
    CHECK(d.sized);
    const int point = d.strokes.back().points[0];
    CHECK(d.at(point).x == Approx(48));
}
