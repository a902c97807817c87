#include "app/table/painters/card.hpp"

#include "app/look/theme.hpp"
#include "app/look/words.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/units/said_in.hpp"

#include <QPainter>
#include <QSettings>

#include <algorithm>
#include <cmath>

namespace gc::app {

namespace {

constexpr double kEdge = 14;   // pixels from the edge of the table
constexpr double kSign = 18;   // the sign that folds it
constexpr double kBelow = 110; // what is left for the buttons below
constexpr const char* kFoldedKey = "tableCardFolded";

QFont fontOf(bool plain) {
    return textFont(13, plain ? QFont::Medium : QFont::DemiBold);
}

} // namespace

Card::Card(DrawingModel* model, Figures* figures, QObject* parent)
    : QObject(parent), m_model(model), m_figures(figures) {
    m_swing.setInterval(30);
    m_foldedByHand = QSettings().value(QLatin1String(kFoldedKey)).toBool();
    connect(&m_swing, &QTimer::timeout, this, [this] {
        m_phase += 0.12;
        Q_EMIT swung();
    });
}

double Card::widthIn(const TableView& view) {
    return std::clamp(view.size.width() * 0.34, 186.0, 262.0);
}

void Card::forget() {
    m_shown = m_before = nullptr;
    m_buttons.clear();
    m_swing.stop();
}

void Card::pointerSettled() {
    if (m_shown == m_before) return;
    m_phase = 0;
    m_shown ? m_swing.start() : m_swing.stop();
}

double Card::swing() const {
    constexpr double kWide = 14; // pixels
    return std::sin(m_phase) * kWide;
}

/// What is loose, what clashes, what does not close: sentences with a way out each.
std::vector<Card::Line> Card::lines() {
    std::vector<Line> lines;
    if (m_figures->opened() && !m_figures->fresh()) {
        addNames(lines);
        return lines;
    }
    const bool empty = m_model->drawing().strokes.empty();
    if (empty) {
        lines.push_back({tr("An empty table"), Line::Heading});
        lines.push_back(
            {tr("Take Line on the left and click corner after corner, to the right of the axis. Rough is "
                "fine: the first size scales it all.")});
    }
    if (!m_model->sizeProblem().isEmpty())
        lines.push_back({QStringLiteral("■ ") + m_model->sizeProblem(), Line::Bad});
    if (m_model->learning()) {
        lines.push_back({tr("… looking at what is loose and closed"), Line::Plain});
        return lines;
    }
    addClashes(lines);
    if (m_model->diagnosis().sound() && !empty && m_model->sizeProblem().isEmpty()) addLoose(lines);
    if (m_model->justScaled()) {
        lines.push_back({tr("Scaled by %1 to the first size.").arg(m_model->scaledBy(), 0, 'g', 3)});
        lines.push_back({tr("keep the old scale"), Line::Offer, [this] { m_model->keepOldScale(); }});
    }
    addClosedness(lines);
    return lines;
}

/// While a figure is typed: what it may be worked out from.
void Card::addNames(std::vector<Line>& lines) {
    const Relation* r = m_model->drawing().findRelation(m_figures->opened());
    if (!r) return;
    const QString sentence =
        QString::fromStdString(capitalised(sentenceOf(m_model->drawing(), *r, m_model->units())));
    lines.push_back({sentence.left(sentence.lastIndexOf(QStringLiteral(" = "))), Line::Heading});
    lines.push_back(
        {tr("Type a size with a unit, a fraction or a sum. \"depth = 24 mm\" names it. A click on "
            "another figure makes it equal to that.")});
    const QStringList names = m_model->namesInReach(m_figures->opened());
    if (!names.isEmpty()) lines.push_back({tr("Names to use"), Line::Heading});
    for (const QString& n : names)
        lines.push_back({n, Line::Offer,
                         [this, name = n.section(QLatin1Char(' '), 0, 0)] { m_figures->insertName(name); }});
}

void Card::addClashes(std::vector<Line>& lines) {
    const Drawing& d = m_model->drawing();
    for (const Clash& c : m_model->diagnosis().clashes) {
        lines.push_back({tr("■ These cannot all hold"), Line::Bad});
        for (const int id : c.relations) {
            lines.push_back({m_model->sentence(*d.findRelation(id))});
            lines.push_back({tr("take away"), Line::Offer, [this, id] {
                                 m_model->edit(tr("relation taken away"), [&](Drawing& x) { x.erase({id}); });
                             }});
        }
    }
}

void Card::addLoose(std::vector<Line>& lines) {
    const Freedoms& f = m_model->freedoms();
    if (f.count == 0)
        lines.push_back({tr("✓ All settled: nothing can move"), Line::Good});
    else
        lines.push_back({tr("Still loose: %1").arg(f.count), Line::Heading});
    constexpr std::size_t kShown = 3;
    for (std::size_t i = 0; i < f.motions.size() && i < kShown; ++i) {
        const FreeMotion* m = &f.motions[i];
        const auto show = [this, m] { m_shown = m; };
        lines.push_back({inWords(m->sentence), Line::Plain, {}, show});
        for (const Pin& pin : m->pins) {
            const auto take = [this, r = pin.relation] {
                m_figures->close(true); // what was typed into the one before
                if (m_figures->opened()) return;
                int id = 0;
                const bool taken = m_model->edit(tr("pinned"), [&](Drawing& x) {
                    Relation made = r;
                    id = made.id = x.nextId++;
                    x.relations.push_back(std::move(made));
                });
                if (taken && wordsOf(r.kind).sized) m_figures->open(id, true); // its value is typed next
            };
            lines.push_back({QString::fromStdString(pin.words), Line::Offer, take, show});
        }
    }
}

void Card::addClosedness(std::vector<Line>& lines) {
    constexpr std::size_t kTroubles = 3;
    const auto& troubles = m_model->closedness().troubles;
    for (std::size_t i = 0; i < troubles.size() && i < kTroubles; ++i) {
        const Trouble& trouble = troubles[i];
        lines.push_back({QStringLiteral("▲ ") + inWords(saidIn(m_model->units(), trouble.sentence))});
        if (!trouble.mend.empty())
            lines.push_back({QString::fromStdString(trouble.mend), Line::Offer, [this, trouble] {
                                 m_model->edit(tr("mended"), [&](Drawing& x) { mend(x, trouble); });
                             }});
    }
    const auto& regions = m_model->closedness().regions;
    const auto solid =
        std::count_if(regions.begin(), regions.end(), [](const Region& r) { return r.depth % 2 == 0; });
    if (solid == 1) lines.push_back({tr("✓ Closed: one area"), Line::Good});
    if (solid > 1) lines.push_back({tr("%1 areas are closed").arg(solid)});
}

std::vector<Card::Placed> Card::place(const std::vector<Line>& lines, const TableView& view,
                                      QRectF& whole) const {
    const double wide = widthIn(view), left = view.size.width() - wide - kEdge, inner = wide - 28;
    double y = kEdge + 12;
    std::vector<Placed> placed;
    for (const Line& l : lines) {
        const double indent = l.role == Line::Offer ? 12 : 0;
        const QFont font = fontOf(l.role == Line::Plain);
        const double sign = placed.empty() ? kSign : 0;
        const QRectF room(left + 14 + indent, y, inner - indent - sign, 400);
        const QRectF box = QFontMetricsF(font).boundingRect(room, Qt::TextWordWrap, l.text);
        if (y + box.height() > view.size.height() - kBelow) break;
        placed.push_back({QRectF(room.left(), y, room.width(), box.height()), &l, font});
        y += box.height() + (indent > 0 ? 4 : 5);
    }
    whole = placed.empty() ? QRectF() : QRectF(left, kEdge, wide, y - kEdge + 8);
    return placed;
}

QRectF Card::openRect(const TableView& view) {
    QRectF whole;
    if (!m_foldedByHand) (void)place(lines(), view, whole);
    return whole;
}

void Card::fold(bool on) {
    m_foldedByHand = on;
    QSettings().setValue(QLatin1String(kFoldedKey), on);
    Q_EMIT swung();
}

void Card::paint(QPainter& p, const TableView& view, const Around& around) {
    const Theme& t = theme();
    const QPointF pointer = around.pointer;
    m_buttons.clear();
    const std::vector<Line> all = lines();
    QRectF whole;
    const std::vector<Placed> placed = place(all, view, whole);
    if (placed.empty()) {
        m_rect = {};
        return;
    }
    const bool inTheWay = around.drawing || around.covers(whole);
    const bool asked = m_rect.contains(pointer) && !around.drawing; // where it was shown last
    m_isFolded = m_foldedByHand || (inTheWay && !asked);
    if (m_isFolded) return paintFolded(p, view, all.front().text, pointer);
    m_rect = whole;
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.paper);
    p.drawRoundedRect(m_rect, 9, 9);
    const QColor colours[] = {t.ink, t.ink, t.accent, t.good, t.fail}; // in the order of the roles
    for (const Placed& l : placed) {
        if (l.line->action && l.rect.contains(pointer)) {
            p.setPen(Qt::NoPen);
            p.setBrush(t.accentSoft);
            p.drawRoundedRect(l.rect.adjusted(-5, -2, 5, 2), 5, 5);
        }
        p.setFont(l.font);
        p.setPen(colours[l.line->role]);
        p.drawText(l.rect, Qt::TextWordWrap, l.line->text);
        if (l.line->action || l.line->hovered)
            m_buttons.push_back({l.rect, l.line->text, l.line->action, l.line->hovered});
    }
    paintFoldSign(p, pointer);
}

void Card::paintFoldSign(QPainter& p, QPointF pointer) {
    const QRectF box(m_rect.right() - kSign - 6, m_rect.top() + 8, kSign, kSign);
    p.setFont(textFont(13, QFont::DemiBold));
    p.setPen(box.contains(pointer) ? theme().accent : theme().inkSoft);
    p.drawText(box, Qt::AlignCenter, QStringLiteral("▴"));
    m_buttons.push_back({box, tr("fold away ▴"), [this] { fold(true); }});
}

/// Its first line, short enough for one.
void Card::paintFolded(QPainter& p, const TableView& view, const QString& words, QPointF pointer) {
    const Theme& t = theme();
    const QFont font = fontOf(false);
    const QFontMetricsF metrics(font);
    const QString text =
        metrics.elidedText(words, Qt::ElideRight, widthIn(view) - 44) + QStringLiteral("  ▾");
    const double wide = metrics.horizontalAdvance(text) + 22;
    m_rect = QRectF(view.size.width() - wide - kEdge, kEdge - 2, wide, 26);
    const bool hot = m_rect.contains(pointer);
    p.setPen(QPen(hot ? t.accent : t.line, 1));
    p.setBrush(t.paper);
    p.drawRoundedRect(m_rect, 8, 8);
    p.setFont(font);
    p.setPen(hot ? t.accent : t.ink);
    p.drawText(m_rect, Qt::AlignCenter, text);
    m_buttons.push_back({m_rect, text, [this] { fold(false); }});
}

} // namespace gc::app
