#include "app/table/layers/plane_strip.hpp"

#include "app/look/theme.hpp"
#include "core/document/planes.hpp"

#include <QMenu>
#include <QPainter>

namespace gc::app {

namespace {

QString capitalisedWords(const std::string& words) {
    QString s = QString::fromStdString(words);
    if (!s.isEmpty()) s[0] = s[0].toUpper();
    return s;
}

} // namespace

PlaneStrip::PlaneStrip(DrawingModel* model, GhostLayer* ghost, QWidget* table)
    : QObject(table), m_model(model), m_ghost(ghost), m_table(table) {}

void PlaneStrip::rebuild() {
    m_buttons.clear();
    const Step* step = m_model->drawnStep();
    if (!step) return;
    const auto add = [&](const QString& label, bool on, std::function<void()> action) {
        m_buttons.push_back({QRectF(), label, std::move(action), {}, 0, on});
    };
    add(tr("On %1 ▾").arg(m_model->planeWords()), false, [this] { openMenu(); });
    const bool behind = step->text("seen") != seenChoices()[0];
    add(behind ? tr("Seen from behind") : tr("Seen from before"), behind,
        [this] { m_model->nextPlacing("seen", seenChoices()); });
    add(capitalisedWords(step->text("up")), step->text("up") != upChoices()[0],
        [this] { m_model->nextPlacing("up", upChoices()); });
    if (!m_ghost->hasPart()) return;
    add(tr("Part behind"), m_ghost->isOn(), [this] { m_ghost->turnOn(!m_ghost->isOn()); });
    if (m_ghost->isOn())
        add(tr("Cut open"), m_ghost->isCut(), [this] { m_ghost->cutOpen(!m_ghost->isCut()); });
}

void PlaneStrip::openMenu() {
    auto* menu = new QMenu(m_table);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const auto& [name, words] : m_model->planesInReach())
        menu->addAction(words, this,
                        [this, name = name] { m_model->setPlacing("plane", name.toStdString()); });
    menu->addSeparator();
    menu->addAction(tr("a flat face or plane, in the stand …"), this, &PlaneStrip::planePickAsked);
    const QRectF at = m_buttons.empty() ? QRectF() : m_buttons.front().rect;
    menu->popup(m_table->mapToGlobal(at.bottomLeft().toPoint()));
}

/// Over something of the drawing it makes way: one small sign is left, and pointed at it comes back.
void PlaneStrip::paint(QPainter& p, double room, QPointF pointer,
                       const std::function<bool(const QRectF&)>& covers) {
    const Theme& t = theme();
    p.setFont(textFont(12, QFont::DemiBold));
    double x = 14, y = 12;
    QRectF whole;
    for (TableButton& b : m_buttons) {
        const double w = p.fontMetrics().horizontalAdvance(b.label) + 18;
        if (x > 14 && x + w > room) x = 14, y += 32;
        b.rect = QRectF(x, y, w, 26);
        whole |= b.rect;
        x += w + 6;
    }
    m_isFolded = !m_buttons.empty() && covers(whole) && !m_rect.contains(pointer);
    m_rect = m_isFolded ? QRectF(14, 12, 30, 26) : whole;
    if (m_isFolded) {
        for (TableButton& b : m_buttons) b.rect = {};
        p.setPen(QPen(t.line, 1.2));
        p.setBrush(t.paper);
        p.drawRoundedRect(m_rect, 7, 7);
        p.setPen(t.ink);
        p.drawText(m_rect, Qt::AlignCenter, QStringLiteral("▾"));
        return;
    }
    for (const TableButton& b : m_buttons) {
        const bool hot = b.rect.contains(pointer);
        p.setPen(QPen(hot || b.on ? t.accent : t.line, 1.2));
        p.setBrush(b.on ? t.accentSoft : t.paper);
        p.drawRoundedRect(b.rect, 7, 7);
        p.setPen(hot || b.on ? t.accent : t.ink);
        p.drawText(b.rect, Qt::AlignCenter, b.label);
    }
}

} // namespace gc::app
