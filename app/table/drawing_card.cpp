#include "app/table/drawing_table.hpp"

#include "app/look/theme.hpp"
#include "app/look/words.hpp"
#include "core/sketch/drawing_words.hpp"

#include <QPainter>

#include <algorithm>

namespace gc::app {

/// A third of a narrow table, so that the drawing keeps its room.
double DrawingTable::cardWidth() const {
    return std::clamp(width() * 0.34, 186.0, 262.0);
}

/// What is loose, what clashes, what does not close: sentences with a way out each.
std::vector<DrawingTable::CardLine> DrawingTable::cardLines() {
    std::vector<CardLine> lines;
    if (m_editing) {
        addNames(lines);
        return lines;
    }
    const bool empty = m_model->drawing().strokes.empty();
    if (empty) {
        lines.push_back({tr("An empty table"), CardLine::Heading});
        lines.push_back(
            {tr("Take Line on the left and click corner after corner, to the right of the axis. Rough is "
                "fine: the first size scales it all.")});
    }
    if (!m_model->sizeProblem().isEmpty())
        lines.push_back({QStringLiteral("■ ") + m_model->sizeProblem(), CardLine::Bad});
    if (m_model->learning()) {
        lines.push_back({tr("… looking at what is loose and closed"), CardLine::Plain});
        return lines;
    }
    addClashes(lines);
    if (m_model->diagnosis().sound() && !empty && m_model->sizeProblem().isEmpty()) addLoose(lines);
    if (m_model->justScaled()) {
        lines.push_back({tr("Scaled by %1 to the first size.").arg(m_model->scaledBy(), 0, 'g', 3)});
        lines.push_back({tr("keep the old scale"), CardLine::Offer, [this] { m_model->keepOldScale(); }});
    }
    addClosedness(lines);
    return lines;
}

/// While a figure is typed: what it may be worked out from.
void DrawingTable::addNames(std::vector<CardLine>& lines) {
    const Relation* r = m_model->drawing().findRelation(m_editing);
    if (!r) return;
    const QString sentence =
        QString::fromStdString(capitalised(sentenceOf(m_model->drawing(), *r, m_model->units())));
    lines.push_back({sentence.left(sentence.lastIndexOf(QStringLiteral(" = "))), CardLine::Heading});
    lines.push_back(
        {tr("Type a size with a unit, a fraction or a sum. \"depth = 24 mm\" names it. A click on "
            "another figure makes it equal to that.")});
    const QStringList names = m_model->namesInReach(m_editing);
    if (!names.isEmpty()) lines.push_back({tr("Names to use"), CardLine::Heading});
    for (const QString& n : names)
        lines.push_back(
            {n, CardLine::Offer, [this, name = n.section(QLatin1Char(' '), 0, 0)] { insertName(name); }});
}

void DrawingTable::addClashes(std::vector<CardLine>& lines) {
    const Drawing& d = m_model->drawing();
    for (const Clash& c : m_model->diagnosis().clashes) {
        lines.push_back({tr("■ These cannot all hold"), CardLine::Bad});
        for (const int id : c.relations) {
            lines.push_back({m_model->sentence(*d.findRelation(id))});
            lines.push_back({tr("take away"), CardLine::Offer, [this, id] {
                                 m_model->edit(tr("relation taken away"), [&](Drawing& x) { x.erase({id}); });
                             }});
        }
    }
}

void DrawingTable::addLoose(std::vector<CardLine>& lines) {
    const Freedoms& f = m_model->freedoms();
    if (f.count == 0)
        lines.push_back({tr("✓ All settled: nothing can move"), CardLine::Good});
    else
        lines.push_back({tr("Still loose: %1").arg(f.count), CardLine::Heading});
    constexpr std::size_t kShown = 3;
    for (std::size_t i = 0; i < f.motions.size() && i < kShown; ++i) {
        const FreeMotion* m = &f.motions[i];
        const auto show = [this, m] { m_shown = m; };
        lines.push_back({inWords(m->sentence), CardLine::Plain, {}, show});
        for (const Pin& pin : m->pins) {
            const auto take = [this, r = pin.relation] {
                m_model->edit(tr("pinned"), [&](Drawing& x) {
                    Relation made = r;
                    made.id = x.nextId++;
                    x.relations.push_back(std::move(made));
                });
            };
            lines.push_back({QString::fromStdString(pin.words), CardLine::Offer, take, show});
        }
    }
}

void DrawingTable::addClosedness(std::vector<CardLine>& lines) {
    constexpr std::size_t kTroubles = 3;
    const auto& troubles = m_model->closedness().troubles;
    for (std::size_t i = 0; i < troubles.size() && i < kTroubles; ++i) {
        const Trouble& trouble = troubles[i];
        lines.push_back({QStringLiteral("▲ ") + inWords(trouble.sentence)});
        if (!trouble.mend.empty())
            lines.push_back({QString::fromStdString(trouble.mend), CardLine::Offer, [this, trouble] {
                                 m_model->edit(tr("mended"), [&](Drawing& x) { mend(x, trouble); });
                             }});
    }
    const auto& regions = m_model->closedness().regions;
    const auto solid =
        std::count_if(regions.begin(), regions.end(), [](const Region& r) { return r.depth % 2 == 0; });
    if (solid == 1) lines.push_back({tr("✓ Closed: one area"), CardLine::Good});
    if (solid > 1) lines.push_back({tr("%1 areas are closed").arg(solid)});
}

void DrawingTable::paintCard(QPainter& p) {
    const Theme& t = theme();
    m_cards.clear();
    m_card = {};
    const std::vector<CardLine> lines = cardLines();
    const double left = width() - cardWidth() - 14, inner = cardWidth() - 28;
    double y = 14 + 12;
    struct Placed {
        QRectF rect;
        const CardLine* line;
        QFont font;
    };
    std::vector<Placed> placed;
    for (const CardLine& l : lines) {
        const double indent = l.role == CardLine::Offer ? 12 : 0;
        const QFont font = textFont(13, l.role == CardLine::Plain ? QFont::Medium : QFont::DemiBold);
        const QRectF room(left + 14 + indent, y, inner - indent, 400);
        const QRectF box = QFontMetricsF(font).boundingRect(room, Qt::TextWordWrap, l.text);
        if (y + box.height() > height() - 110) break;
        placed.push_back({QRectF(room.left(), y, room.width(), box.height()), &l, font});
        y += box.height() + (indent > 0 ? 4 : 5);
    }
    if (placed.empty()) return;
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.paper);
    m_card = QRectF(left, 14, cardWidth(), y - 14 + 8);
    p.drawRoundedRect(m_card, 9, 9);
    const QColor colours[] = {t.ink, t.ink, t.accent, t.good, t.fail}; // in the order of the roles
    for (const Placed& l : placed) {
        if (l.line->action && l.rect.contains(m_pointer)) {
            p.setPen(Qt::NoPen);
            p.setBrush(t.accentSoft);
            p.drawRoundedRect(l.rect.adjusted(-5, -2, 5, 2), 5, 5);
        }
        p.setFont(l.font);
        p.setPen(colours[l.line->role]);
        p.drawText(l.rect, Qt::TextWordWrap, l.line->text);
        if (l.line->action || l.line->hovered)
            m_cards.push_back({l.rect, l.line->text, l.line->action, l.line->hovered});
    }
}

} // namespace gc::app
