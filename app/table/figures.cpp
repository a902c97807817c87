#include "app/table/figures.hpp"

#include "app/look/theme.hpp"
#include "app/table/drawing_model.hpp"
#include "core/sketch/measured.hpp"
#include "core/sketch/stroke_run.hpp"

#include <QPainter>

#include <algorithm>
#include <utility>

namespace gc::app {

namespace {

constexpr double kFirstAway = 34; // pixels from what is measured to its figure

QFont figureFont() {
    return textFont(13, QFont::DemiBold);
}

bool hasFigure(const Relation& r) {
    return wordsOf(r.kind).sized && !r.quiet;
}

} // namespace

Figures::Figures(DrawingModel* model, const TableView* view, TableField* field, QObject* parent)
    : QObject(parent), m_model(model), m_view(view), m_field(field) {}

QString Figures::textOf(const Relation& r) const {
    QString text = m_model->shownFigure(r);
    if (!r.name.empty()) text = QString::fromStdString(r.name) + QStringLiteral(" = ") + text;
    return r.readOnly ? QLatin1Char('(') + text + QLatin1Char(')') : text;
}

QRectF Figures::boxOf(const Relation& r) const {
    const QPointF at = m_view->toScreen(shapeOf(r).figure);
    const double w = QFontMetricsF(figureFont()).horizontalAdvance(textOf(r)) + 10;
    return {at.x() - w / 2, at.y() - 10, w, 20};
}

/// Painted later means on top.
int Figures::under(QPointF at) const {
    const auto& all = m_model->drawing().relations;
    for (auto r = all.rbegin(); r != all.rend(); ++r)
        if (isShown(*r) && boxOf(*r).adjusted(-2, -2, 2, 2).contains(at)) return r->id;
    return 0;
}

bool Figures::anyIn(const QRectF& box) const {
    const auto& all = m_model->drawing().relations;
    return std::any_of(all.begin(), all.end(),
                       [&](const Relation& r) { return isShown(r) && boxOf(r).intersects(box); });
}

/// Is what it measures large enough in the view to carry a figure?
bool Figures::isLarge(const Relation& r) const {
    constexpr double kLeast = 10; // pixels
    const Drawing& d = m_model->drawing();
    const Dimension dimension = wordsOf(r.kind).dimension;
    if (dimension == kLength) return measured(d, r) * m_view->scale >= kLeast;
    double longest = 0; // an angle or a ratio: as large as what it is of
    for (const int id : r.of)
        if (const Stroke* s = d.findStroke(id))
            longest = std::max(longest, StrokeRun(d, *s).length());
        else if (isPoint(d, id))
            longest = std::max(longest, length(d.at(id) - d.at(r.of.back())));
    return longest * m_view->scale >= kLeast;
}

bool Figures::isShown(const Relation& r) const {
    constexpr double kNear = 60; // pixels
    if (!hasFigure(r)) return false;
    if (r.id == m_open || r.id == m_held || isLarge(r)) return true;
    return (m_view->toScreen(shapeOf(r).middle) - m_pointer).manhattanLength() < kNear;
}

QPointF Figures::at(int relation) const {
    const Relation* r = m_model->drawing().findRelation(relation);
    return r ? m_view->toScreen(shapeOf(*r).figure) : QPointF();
}

/// With the figure where it is being dragged.
DimensionShape Figures::shapeOf(const Relation& r) const {
    const Drawing& d = m_model->drawing();
    if (m_heldAt && r.id == m_held) {
        Relation moved = r;
        moved.label = *m_heldAt - dimensionShape(d, r, 1).middle;
        return dimensionShape(d, moved, 1);
    }
    if (const auto aside = m_asideOf.find(r.id); aside != m_asideOf.end()) {
        Relation moved = r;
        moved.label = r.label + Vec2{aside->second.x(), -aside->second.y()} * (1 / m_view->scale);
        return dimensionShape(d, moved, 1);
    }
    const auto away = m_awayOf.find(r.id);
    return dimensionShape(d, r, (away == m_awayOf.end() ? kFirstAway : away->second) / m_view->scale);
}

void Figures::layOne(const Relation& r, std::vector<QRectF>& taken) {
    constexpr int kMostRows = 5;
    constexpr double kRow = 24; // pixels
    const auto isFree = [&] {
        const QRectF box = boxOf(r);
        return std::none_of(taken.begin(), taken.end(), [&](const QRectF& b) { return b.intersects(box); });
    };
    if (r.label == Vec2{}) {
        for (int row = 0; row < kMostRows; ++row) {
            m_awayOf[r.id] = kFirstAway + kRow * row;
            if (isFree()) break;
            if (row + 1 == kMostRows) m_awayOf[r.id] = kFirstAway; // nowhere better
        }
    } else if (!isFree()) { // it was put there: as near to that as there is room
        bool found = false;
        for (int row = 1; row < kMostRows && !found; ++row)
            for (const QPointF way : {QPointF(0, -1), QPointF(0, 1), QPointF(3, 0), QPointF(-3, 0)}) {
                m_asideOf[r.id] = way * (kRow * row);
                found = isFree();
                if (found) break;
            }
        if (!found) m_asideOf.erase(r.id);
    }
    taken.push_back(boxOf(r));
}

/// Those that were put somewhere choose first, the older ones before the younger.
void Figures::lay() {
    m_awayOf.clear();
    m_asideOf.clear();
    std::vector<QRectF> taken = m_inTheWay;
    const auto& all = m_model->drawing().relations;
    for (const bool put : {true, false})
        for (const Relation& r : all)
            if (hasFigure(r) && put != (r.label == Vec2{})) layOne(r, taken);
}

void Figures::paint(QPainter& p) const {
    const Theme& t = theme();
    for (const Relation& r : m_model->drawing().relations) {
        if (!wordsOf(r.kind).sized || r.id == m_open) continue;
        const bool clash = m_model->clashes(r.id);
        if (!isShown(r) && !clash) continue;
        paintOne(p, r, clash ? t.fail : t.inkSoft, clash ? t.fail : t.ink);
    }
}

void Figures::paintDraft(QPainter& p, const Relation& dimension) const {
    paintOne(p, dimension, theme().halo, theme().accent);
}

void Figures::paintOne(QPainter& p, const Relation& r, const QColor& lines, const QColor& words) const {
    const DimensionShape s = shapeOf(r);
    p.setPen(QPen(lines, 1));
    p.setBrush(Qt::NoBrush);
    for (const auto& line : s.lines)
        for (std::size_t i = 1; i < line.size(); ++i)
            p.drawLine(m_view->toScreen(line[i - 1]), m_view->toScreen(line[i]));
    for (const auto& [at, along] : s.ticks) {
        const QPointF q = m_view->toScreen(at), u(along.x, -along.y), n(u.y(), -u.x());
        p.drawLine(q - n * 4, q + n * 4);
    }
    p.setFont(figureFont());
    const QRectF box = boxOf(r);
    p.setPen(Qt::NoPen);
    p.setBrush(theme().card);
    p.drawRect(box);
    p.setPen(words);
    p.drawText(box, Qt::AlignCenter, textOf(r));
}

void Figures::dragTo(QPointF at) {
    m_heldAt = m_view->toDrawing(at);
}

void Figures::letGo() {
    const int id = std::exchange(m_held, 0);
    const auto to = std::exchange(m_heldAt, std::nullopt);
    if (!to) return open(id);
    m_model->edit(tr("figure moved"), [&](Drawing& d) {
        if (Relation* r = d.findRelation(id)) r->label = *to - dimensionShape(d, *r, 1).middle;
    });
}

void Figures::open(int relation, bool fresh) {
    const Relation* r = m_model->drawing().findRelation(relation);
    if (!r) return;
    m_open = relation;
    m_fresh = fresh;
    TableField::Use use;
    use.keep = [this](const QString& text) { return keep(text); };
    use.closed = [this](bool) {
        m_open = 0;
        Q_EMIT openedChanged();
    };
    use.next = [this] { next(); };
    use.keptByLeaving = true;
    const QString text = openedText();
    m_field->open(text, {}, 96, std::move(use));
    m_field->grow();
    QLineEdit* edit = m_field->edit();
    edit->move((at(relation) - QPointF(edit->width() / 2.0, 14)).toPoint());
    // A name stays unless it is typed over.
    const auto begin = r->name.empty() ? 0 : text.indexOf(QLatin1Char('=')) + 2;
    edit->setSelection(static_cast<int>(begin), static_cast<int>(text.size()));
    Q_EMIT openedChanged();
}

/// The text that the open figure was opened with.
QString Figures::openedText() const {
    const Relation* r = m_model->drawing().findRelation(m_open);
    if (!r) return {};
    const QString size = m_model->typedFigure(*r);
    return r->name.empty() ? size : QStringLiteral("%1 = %2").arg(QString::fromStdString(r->name), size);
}

void Figures::insertName(const QString& name) {
    m_field->insert(name);
}

void Figures::close(bool keep) {
    if (m_open) m_field->close(keep);
}

bool Figures::keep(const QString& text) {
    const int id = m_open;
    if (!m_model->drawing().findRelation(id)) return true;
    if (text.trimmed().isEmpty()) { // no size is wanted there
        m_model->edit(tr("dimension taken away"), [id](Drawing& d) { d.erase({id}); });
        return true;
    }
    if (text.trimmed() == openedText()) return true;
    const QString why = m_model->setSize(id, text);
    if (!why.isEmpty()) {
        Q_EMIT message(QStringLiteral("■ ") + why);
        return false;
    }
    if (m_model->justScaled()) {
        Q_EMIT scaled();
        Q_EMIT message(
            tr("The drawing was scaled by %1 to its first size.").arg(m_model->scaledBy(), 0, 'g', 3));
    }
    return true;
}

void Figures::next() {
    const int before = m_open;
    if (!m_field->close(true)) return; // it was not taken
    int after = 0, first = 0;
    for (const Relation& r : m_model->drawing().relations) {
        if (!hasFigure(r)) continue;
        if (!first) first = r.id;
        if (!after && r.id > before) after = r.id;
    }
    open(after ? after : first);
}

} // namespace gc::app
