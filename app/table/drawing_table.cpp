#include "app/table/drawing_table.hpp"

#include "app/look/theme.hpp"
#include "app/table/choice_buttons.hpp"
#include "app/table/layers/picture_layer.hpp"
#include "app/table/painters/paper.hpp"
#include "app/table/painters/strokes.hpp"
#include "core/document/edit_words.hpp"
#include "core/document/repeat_figure.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/edit/copy.hpp"
#include "core/units/said_in.hpp"

#include <QPainter>

#include <algorithm>
#include <utility>

namespace gc::app {

DrawingTable::DrawingTable(DrawingModel* model, QWidget* parent)
    : QWidget(parent), m_model(model), m_field(this), m_figures(model, &m_view, &m_field, this),
      m_ghost(this), m_strip(model, &m_ghost, this), m_card(model, &m_figures, this) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(320, 240);
    for (const ToolKind& kind : allTools()) m_tools.push_back(kind.make(*this));
    m_tool = m_tools.front().get();
    connectPieces();
}

DrawingTable::~DrawingTable() = default;

void DrawingTable::connectPieces() {
    connect(m_model, &DrawingModel::changed, this, &DrawingTable::modelChanged);
    connect(&m_figures, &Figures::message, this, &DrawingTable::message);
    connect(&m_figures, &Figures::scaled, this, &DrawingTable::fit);
    connect(&m_figures, &Figures::openedChanged, this, [this] {
        rebuildButtons();
        update();
    });
    connect(&m_card, &Card::swung, this, qOverload<>(&QWidget::update));
    connect(&m_ghost, &GhostLayer::changed, this, [this] {
        m_strip.rebuild();
        update();
    });
    connect(&m_strip, &PlaneStrip::planePickAsked, this, &DrawingTable::planePickAsked);
}

void DrawingTable::modelChanged() {
    m_view.unit = m_model->units().factorFor(kLength);
    std::erase_if(m_chosen, [this](int id) {
        const Drawing& d = m_model->drawing();
        return id > 0 && !d.findPoint(id) && !d.findStroke(id) && !d.findRelation(id);
    });
    if (const int open = m_figures.opened(); open && !m_model->drawing().findRelation(open))
        m_figures.close(false);
    m_card.forget();
    m_areas.clear();
    choose(m_chosen);
    if (!m_fitted) fit();
    m_strip.rebuild();
    m_underCard.forget();
    m_underStrip.forget();
    if (!m_model->dragging()) layFigures(); // while something moves, figures keep their rows
    update();
}

namespace {

struct Box {
    Vec2 low, high;
    void add(Vec2 p) {
        low = {std::min(low.x, p.x), std::min(low.y, p.y)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
};

} // namespace

void DrawingTable::fit() {
    const Drawing& d = m_model->drawing();
    const bool empty = d.strokes.empty();
    Box box = empty ? Box{{-2, 0}, {60, 60}} : Box{{0, 0}, {1, 1}};
    for (const Stroke& s : d.strokes)
        for (const Curve2& c : curvesOf(d, s)) {
            Vec2 low, high;
            c.bounds(low, high);
            box.add(low), box.add(high);
        }
    if (d.picture) {
        const Vec2 far = d.picture->at + Vec2{d.picture->width, d.picture->height};
        if (empty) box = {d.picture->at, far};
        box.add(d.picture->at), box.add(far);
    } else if (empty && m_ghost.corners) { // an empty table shows all of the part
        for (const QVector3D& c : m_ghost.corners())
            box.add(plane().foot({double(c.x()), double(c.y()), double(c.z())}));
    }
    m_view.size = size();
    m_view.fit(box.low, box.high, Card::widthIn(m_view));
    m_fitted = width() > 340;
    layFigures();
    update();
}

void DrawingTable::layFigures() {
    m_figures.keepClearOf({m_card.openRect(m_view), m_strip.rect()});
    m_figures.lay();
    m_underCard.forget();
    m_underStrip.forget();
}

void DrawingTable::resizeEvent(QResizeEvent*) {
    fit();
}

void DrawingTable::setPlane(const Plane& plane) {
    if (plane == m_ghost.plane()) return;
    m_ghost.setPlane(plane);
    if (m_model->drawing().strokes.empty()) fit();
}

void DrawingTable::setTraces(const std::vector<Trace>& traces) {
    m_traces.set(traces);
    m_model->setTraces(traces);
    update();
}

void DrawingTable::setPicture(const QImage& picture) {
    m_picture = picture;
    update();
}

// ---- tools and edits

void DrawingTable::setTool(const QString& key) {
    m_tool->dropDraft();
    const QList<ToolKind>& all = allTools();
    for (qsizetype i = 0; i < all.size(); ++i)
        if (all[i].key == key) m_tool = m_tools[static_cast<std::size_t>(i)].get();
    m_hover = 0;
    choose(m_tool == m_tools.front().get() ? m_chosen : std::vector<int>());
    setFocus();
    Q_EMIT toolChanged(key);
}

QString DrawingTable::tool() const {
    const auto at = std::find_if(m_tools.begin(), m_tools.end(),
                                 [this](const auto& tool) { return tool.get() == m_tool; });
    return allTools()[at - m_tools.begin()].key;
}

bool DrawingTable::bringIn(const Drawing& other) {
    setTool(allTools().front().key);
    std::vector<int> added;
    const bool taken = m_model->edit(tr("brought in"), [&](Drawing& d) {
        added = addDrawing(d, other);
        d.sized = true;
    });
    if (!taken) return false;
    choose(std::move(added));
    fit();
    return true;
}

/// The buttons, and what an edit under way would do, follow what is chosen.
void DrawingTable::choose(std::vector<int> things) {
    m_chosen = std::move(things);
    m_areas.clear();
    rebuildButtons();
    previewEdit(std::exchange(m_edit, std::nullopt));
}

void DrawingTable::chooseArea(const std::vector<int>& strokes, bool more) {
    const bool was = std::erase(m_areas, strokes) > 0;
    if (!more) m_areas.clear();
    if (!was || !more) m_areas.push_back(strokes);
    rebuildButtons();
    update();
}

void DrawingTable::askEdit(const QString& kind) {
    if (m_tool != m_tools.front().get()) setTool(allTools().front().key);
    QString why;
    const Step edit = m_model->newEdit(kind, m_chosen, why);
    if (!why.isEmpty()) return say(QStringLiteral("▲ ") + why);
    if (edit.slots.empty()) { // nothing to ask
        keepEdit(edit);
        return;
    }
    Q_EMIT editAsked(edit);
}

void DrawingTable::changeRepeat(int repeat) {
    if (m_tool != m_tools.front().get()) setTool(allTools().front().key);
    Q_EMIT editAsked(changeOfRepeat(m_model->drawing(), repeat, m_model->units()));
}

void DrawingTable::changeText(int text) {
    if (m_tool != m_tools.front().get()) setTool(allTools().front().key);
    Q_EMIT editAsked(changeOfText(m_model->drawing(), text));
}

void DrawingTable::previewEdit(const std::optional<Step>& edit) {
    m_edit = edit;
    m_preview.reset();
    if (edit) {
        Drawing with;
        const EditOutcome out = m_model->tryEdit(*edit, m_chosen, with);
        if (out.done())
            m_preview = std::move(with);
        else
            sayWhyNot(out);
    }
    update();
}

bool DrawingTable::keepEdit(const Step& edit) {
    Drawing with;
    const EditOutcome out = m_model->tryEdit(edit, m_chosen, with);
    if (!out.done()) {
        sayWhyNot(out);
        return false;
    }
    previewEdit(std::nullopt);
    const std::vector<int> chosen = std::exchange(m_chosen, {});
    if (!m_model->edit(QString::fromStdString(findWords(edit.kind)->verb).toLower(),
                       [&](Drawing& d) { d = with; })) {
        choose(chosen); // the sentence stays, to be mended
        return false;
    }
    choose(out.made);
    sayLost(out);
    setFocus();
    return true;
}

void DrawingTable::sayWhyNot(const EditOutcome& out) {
    say(QStringLiteral("■ ") + QString::fromStdString(saidIn(m_model->units(), out.whyNot)));
}

void DrawingTable::sayLost(const EditOutcome& out) {
    if (out.lost.empty()) return;
    QStringList lost;
    for (const std::string& l : out.lost) lost << QString::fromStdString(l);
    say(tr("▲ Taken away, as it does not hold any more: %1. Ctrl+Z brings it back.")
            .arg(lost.join(QStringLiteral("; "))));
}

void DrawingTable::removeChosen() {
    std::vector<int> ids = std::exchange(m_chosen, {});
    std::erase_if(ids, [](int id) { return id <= 0; });
    if (!ids.empty()) m_model->edit(tr("removed"), [&](Drawing& d) { d.erase(ids); });
}

void DrawingTable::addDimension(Relation dimension) {
    m_model->edit(tr("dimension"), [&](Drawing& d) {
        dimension.id = d.nextId++;
        dimension.expression =
            sizeInWords(measured(d, dimension), wordsOf(dimension.kind).dimension, m_model->units(), 6);
        d.relations.push_back(dimension);
    });
    m_figures.open(dimension.id);
}

// ---- buttons

void DrawingTable::addButton(const QString& label, int row, std::function<void()> action, bool on) {
    m_buttons.push_back({QRectF(), label, std::move(action), {}, row, on});
}

void DrawingTable::addApart(const QString& label, std::function<void()> action) {
    m_buttons.push_back({QRectF(), label, std::move(action), {}, 0, false, true});
}

void DrawingTable::rebuildButtons() {
    m_buttons.clear();
    if (m_figures.opened())
        addFigureButtons(*this);
    else
        m_tool->addButtons();
    keepPlaces();
}

/// While more is chosen, what was offered stays where it was, pale where it does not fit any more; what is
/// new comes behind it. So no button ever stands where another one was a moment ago.
void DrawingTable::keepPlaces() {
    if (m_chosen.empty() || m_figures.opened()) return m_places.clear();
    std::vector<TableButton> kept;
    for (const auto& place : m_places) { // bindings cannot be captured everywhere
        const auto& label = place.first;
        const auto row = place.second;
        const auto at = std::find_if(m_buttons.begin(), m_buttons.end(),
                                     [&](const TableButton& b) { return b.label == label && b.row == row; });
        if (at == m_buttons.end()) {
            kept.push_back({QRectF(), label, {}, {}, row, false, false});
        } else {
            kept.push_back(std::move(*at));
            m_buttons.erase(at);
        }
    }
    for (TableButton& b : m_buttons) kept.push_back(std::move(b));
    m_buttons = std::move(kept);
    m_places.clear();
    for (const TableButton& b : m_buttons)
        if (!b.apart) m_places.emplace_back(b.label, b.row);
}

namespace {

QRectF rectOf(const std::vector<TableButton>& buttons, const std::function<bool(const QString&)>& wanted) {
    for (const TableButton& b : buttons)
        if (wanted(b.label)) return b.rect;
    return {};
}

} // namespace

QRectF DrawingTable::chipRect(const QString& label) const {
    for (const TableButton& b : m_buttons)
        if (b.label == label && b.action) return b.rect;
    return {};
}

QRectF DrawingTable::chipPlace(const QString& label) const {
    return rectOf(m_buttons, [&](const QString& l) { return l == label; });
}

QRectF DrawingTable::cardRect(const QString& words) const {
    return rectOf(m_card.buttons(), [&](const QString& l) { return l.contains(words); });
}

QRectF DrawingTable::stripRect(const QString& words) const {
    return rectOf(m_strip.buttons(), [&](const QString& l) { return l.contains(words); });
}

// ---- painting

TableScene DrawingTable::scene() const {
    TableScene s{*m_model, m_view, {m_chosen.begin(), m_chosen.end()}, m_areas, m_hover, m_pointer};
    for (const int id : m_tool->picked()) s.marked.insert(id);
    s.choosing = m_tool == m_tools.front().get();
    s.chainOpen = m_tool->chainOpen();
    return s;
}

/// Where words at the bottom may stand.
double DrawingTable::bottomOfPaper() const {
    double bottom = height() - 12;
    for (const TableButton& b : m_buttons) bottom = std::min(bottom, b.rect.top() - 10);
    return bottom;
}

void DrawingTable::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), theme().card);
    const TableScene now = scene();
    if (m_model->drawing().picture) paintPicture(p, m_view, *m_model->drawing().picture, m_picture);
    m_ghost.paint(p, m_view);
    paintPaper(p, now, bottomOfPaper());
    m_tool->paintUnder(p);
    paintAreas(p, now);
    paintStrokes(p, now);
    paintHandles(p, now);
    paintNodes(p, now);
    m_marks.paint(p, now);
    m_figures.paint(p);
    if (m_preview) paintPreview(p, now, *m_preview);
    paintTroubles(p, now);
    if (m_card.motion()) paintMotion(p, now, *m_card.motion(), m_card.swing());
    m_tool->paint(p);
    paintKeyPointer(p);
    const Drawing& d = m_model->drawing();
    const bool drawing = m_tool->chainOpen() || m_tool->lastPlace() || m_model->dragging();
    m_card.paint(p, m_view, {m_pointer, drawing, [&](const QRectF& box) {
                                 return m_underCard.covers(d, m_view, m_figures, box);
                             }});
    paintButtons(p);
    m_strip.paint(p, m_card.rect().isEmpty() ? width() - 14 : m_card.rect().left() - 8, m_pointer,
                  [&](const QRectF& box) { // while something moves it stays as it is: a look costs time
                      return m_model->dragging() ? m_strip.isFolded()
                                                 : m_underStrip.covers(d, m_view, m_figures, box);
                  });
}

/// Where the keys have moved the pointer.
void DrawingTable::paintKeyPointer(QPainter& p) const {
    if (!m_byKeys) return;
    p.setPen(QPen(theme().accent, 1.6));
    for (const QPointF way : {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)})
        p.drawLine(m_pointer + way * 5, m_pointer + way * 13);
}

void DrawingTable::paintButtons(QPainter& p) {
    const Theme& t = theme();
    p.setFont(textFont(13, QFont::DemiBold));
    double y = height() - 42;
    for (int row = 0; row < 2; ++row) {
        std::vector<const TableButton*> placed;
        double x = 14, top = 0;
        double right = width() - 14; // what stands apart stands at the right end of the lowest line
        for (TableButton& b : m_buttons) {
            if (b.row != row || !b.apart) continue;
            const double w = p.fontMetrics().horizontalAdvance(b.label) + 18;
            b.rect = QRectF(right - w, y, w, 28);
            right -= w + 24;
        }
        for (TableButton& b : m_buttons) {
            if (b.row != row || b.apart) continue;
            const double w = p.fontMetrics().horizontalAdvance(b.label) + 18;
            if (x + w > (top > 0 ? width() - 14 : right))
                x = 14, top += 34; // upwards: what is there stays there
            b.rect = QRectF(x, y - top, w, 28);
            placed.push_back(&b);
            x += w + 6;
        }
        for (TableButton& b : m_buttons)
            if (b.row == row && b.apart) placed.push_back(&b);
        for (const TableButton* b : placed) {
            const bool hot = b->action && (b->rect.contains(m_pointer) || b->on);
            p.setPen(QPen(hot ? t.accent : t.line, 1.3));
            p.setBrush(hot ? t.accentSoft : t.paper);
            p.drawRoundedRect(b->rect, 7, 7);
            p.setPen(hot ? t.accent : b->action ? t.ink : t.line);
            p.drawText(b->rect, Qt::AlignCenter, b->label);
        }
        if (!placed.empty()) y -= top + 36;
    }
}

} // namespace gc::app
