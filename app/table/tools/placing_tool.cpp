#include "app/table/tools/placing_tool.hpp"

#include "app/look/theme.hpp"
#include "app/table/drawing_table.hpp"

#include <QPainter>

#include <algorithm>
#include <utility>

namespace gc::app {

void PlacingTool::look(QPointF pointer, Qt::KeyboardModifiers keys) {
    OfferQuestion q = question();
    q.pointer = table().view().toDrawing(pointer);
    q.reach = table().view().reach();
    q.free = keys.testFlag(Qt::AltModifier);
    m_offer = offerFor(table().model().drawing(), q);
    table().setHover(0);
}

bool PlacingTool::dropDraft() {
    return !std::exchange(m_draft, {}).empty();
}

std::optional<Vec2> PlacingTool::lastPlace() const {
    return m_draft.empty() ? std::nullopt : std::optional(m_draft.back().at);
}

void PlacingTool::typedPlace(Vec2 at, const std::string& length) {
    // A length runs the way that was offered: level, upright, square, tangent. Where it ends is the length's
    // to say.
    std::vector<Relation> ways;
    if (!length.empty())
        for (const Relation& r : m_offer.relations)
            if (std::find(r.of.begin(), r.of.end(), kNewLine) != r.of.end()) ways.push_back(r);
    m_offer = {at, std::move(ways), {}};
    m_typedLength = length;
    click(table().view().toScreen(at), false);
    m_typedLength.clear();
}

int PlacingTool::landed(Drawing& d, int newPoint, int newLine, const Offer& offer) {
    int joined = 0;
    for (Relation r : offer.relations) {
        for (int& of : r.of) {
            if (of == kNewPoint) of = newPoint;
            if (of == kNewLine) of = newLine;
        }
        if (std::find(r.of.begin(), r.of.end(), 0) != r.of.end()) continue;
        if (!whyNot(d, r.kind, r.of).empty()) continue;
        if (r.kind == RelationKind::Coincident) joined = r.of[1];
        d.relate(r.kind, r.of);
    }
    return joined;
}

void PlacingTool::paintOffer(QPainter& p) const {
    const Theme& t = theme();
    const QPointF at = table().view().toScreen(m_offer.at);
    p.setPen(QPen(m_offer.relations.empty() ? t.accent : t.halo, 2));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(at, 5, 5);
    if (m_offer.words.empty()) return;
    const QString words = QString::fromStdString(m_offer.words);
    p.setFont(textFont(12, QFont::DemiBold));
    const double w = p.fontMetrics().horizontalAdvance(words) + 16;
    const QRectF box(at.x() + 14, at.y() - 30, w, 22);
    p.setPen(QPen(t.halo, 1.2));
    p.setBrush(t.paper);
    p.drawRoundedRect(box, 6, 6);
    p.setPen(t.ink);
    p.drawText(box, Qt::AlignCenter, words);
}

} // namespace gc::app
