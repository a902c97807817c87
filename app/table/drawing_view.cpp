#include "app/table/drawing_table.hpp"

#include "app/look/theme.hpp"
#include "core/document/planes.hpp"
#include "core/document/trace_source.hpp"

#include <QMenu>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>

// Where the table lies and what is seen behind the drawing: the part as a ghost, and what of it can be
// followed.

namespace gc::app {

namespace {

QVector3D toQt(const Vec3& v) {
    return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
}

} // namespace

// ---- the strip above the drawing: which plane, which way round

void DrawingTable::rebuildStrip() {
    m_strip.clear();
    const Step* step = m_model->drawnStep();
    if (!step) return;
    const auto add = [&](const QString& label, bool on, std::function<void()> action) {
        m_strip.push_back({QRectF(), label, std::move(action), {}, 0, on});
    };
    add(tr("On %1 ▾").arg(m_model->planeWords()), false, [this] { openPlaneMenu(); });
    const bool behind = step->text("seen") != seenChoices()[0];
    add(behind ? tr("Seen from behind") : tr("Seen from before"), behind,
        [this] { m_model->nextPlacing("seen", seenChoices()); });
    add(capitalisedWords(step->text("up")), step->text("up") != upChoices()[0],
        [this] { m_model->nextPlacing("up", upChoices()); });
    if (!m_hasPart) return;
    add(tr("Part behind"), m_showGhost, [this] {
        m_showGhost = !m_showGhost;
        rebuildStrip();
        update();
    });
    if (m_showGhost)
        add(tr("Cut open"), m_cutGhost, [this] {
            m_cutGhost = !m_cutGhost;
            m_ghost = {};
            rebuildStrip();
            update();
        });
}

QString DrawingTable::capitalisedWords(const std::string& words) {
    QString s = QString::fromStdString(words);
    if (!s.isEmpty()) s[0] = s[0].toUpper();
    return s;
}

void DrawingTable::openPlaneMenu() {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const auto& [name, words] : m_model->planesInReach())
        menu->addAction(words, this,
                        [this, name = name] { m_model->setPlacing("plane", name.toStdString()); });
    menu->addSeparator();
    menu->addAction(tr("a flat face or plane, in the stand …"), this, [this] { Q_EMIT planePickAsked(); });
    const QRectF at = m_strip.empty() ? QRectF() : m_strip.front().rect;
    menu->popup(mapToGlobal(at.bottomLeft().toPoint()));
}

void DrawingTable::paintStrip(QPainter& p) {
    const Theme& t = theme();
    p.setFont(textFont(12, QFont::DemiBold));
    double x = 14;
    const double room = m_card.isEmpty() ? width() - 14 : m_card.left() - 8;
    double y = 12;
    for (Button& b : m_strip) {
        const double w = p.fontMetrics().horizontalAdvance(b.label) + 18;
        if (x > 14 && x + w > room) x = 14, y += 32;
        b.rect = QRectF(x, y, w, 26);
        x += w + 6;
        const bool hot = b.rect.contains(m_pointer);
        p.setPen(QPen(hot || b.on ? t.accent : t.line, 1.2));
        p.setBrush(b.on ? t.accentSoft : t.paper);
        p.drawRoundedRect(b.rect, 7, 7);
        p.setPen(hot || b.on ? t.accent : t.ink);
        p.drawText(b.rect, Qt::AlignCenter, b.label);
    }
}

QRectF DrawingTable::stripRect(const QString& words) const {
    for (const Button& b : m_strip)
        if (b.label.contains(words)) return b.rect;
    return {};
}

// ---- the part behind

void DrawingTable::setPlane(const Plane& plane) {
    if (plane == m_plane) return;
    m_plane = plane;
    ghostStale();
    if (m_model->drawing().strokes.empty()) fit();
}

void DrawingTable::ghostStale() {
    m_ghost = {};
    m_hasPart = corners && !corners().empty();
    rebuildStrip();
    update();
}

/// The part is drawn anew when the view has come to rest; until then its picture moves along.
void DrawingTable::refreshGhost() {
    if (!ghost || !isVisible()) return;
    Camera camera;
    camera.straight = {toQt(m_plane.normal()), toQt(m_plane.up)};
    camera.height = static_cast<float>(height() / m_scale);
    camera.centre = toQt(m_plane.at(toDrawing(rect().center())));
    std::optional<QVector4D> cut;
    if (m_cutGhost) { // a hair before the plane, so that what lies in it is cut through
        constexpr double kHair = 0.003;
        const Vec3 n = m_plane.normal();
        cut = QVector4D(toQt(-n), static_cast<float>(dot(n, m_plane.origin) + kHair));
    }
    m_ghost = {ghost(camera, size() * devicePixelRatio(), cut), m_scale, m_zero, size()};
    update();
}

void DrawingTable::paintGhost(QPainter& p) {
    if (!m_showGhost) return;
    const bool fresh = m_ghost.scale == m_scale && m_ghost.zero == m_zero && m_ghost.view == size();
    if (!fresh) m_ghostSoon.start();
    if (m_ghost.picture.isNull()) return;
    const double k = m_scale / m_ghost.scale;
    const QPointF at = m_zero - m_ghost.zero * k;
    p.setOpacity(theme().dark ? 0.34 : 0.3);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(QRectF(at, QSizeF(m_ghost.view) * k), m_ghost.picture);
    p.setOpacity(1);
}

// ---- what can be followed

void DrawingTable::setTraces(const std::vector<Trace>& traces) {
    m_traces.clear();
    for (const Trace& t : traces) m_traces.push_back({t, curvesOf(t)});
    m_model->setTraces(traces);
    update();
}

/// Meetings first, they are small; then cuts, then edges.
const DrawingTable::SeenTrace* DrawingTable::traceUnder(QPointF pointer) const {
    const Vec2 place = toDrawing(pointer);
    const SeenTrace* best = nullptr;
    double least = reach();
    int rank = 3;
    for (const SeenTrace& s : m_traces) {
        double away = 1e300;
        for (const Curve2& c : s.curves) away = std::min(away, length(c.at(c.nearest(place)) - place));
        if (s.curves.empty()) away = length(s.trace.at[0] - place);
        if (away > reach()) continue;
        const bool cut = s.trace.source.starts_with("cut ");
        const int own = s.curves.empty() ? 0 : cut ? 1 : 2;
        if (own > rank || (own == rank && away >= least)) continue;
        rank = own;
        least = away;
        best = &s;
    }
    return best;
}

void DrawingTable::paintTraces(QPainter& p) const {
    if (m_tool != Tool::Follow) return;
    const Theme& t = theme();
    const SeenTrace* under = traceUnder(m_pointer);
    for (const SeenTrace& s : m_traces) {
        const bool hot = &s == under, cut = s.trace.source.starts_with("cut ");
        if (s.curves.empty()) {
            p.setPen(QPen(hot ? t.halo : t.good, 1.5));
            p.setBrush(hot ? t.halo : t.card);
            const QPointF at = toScreen(s.trace.at[0]);
            p.drawPolygon(
                QPolygonF{at - QPointF(0, 5), at + QPointF(5, 0), at + QPointF(0, 5), at - QPointF(5, 0)});
            continue;
        }
        const QPainterPath path = pathThrough(s.curves, 0.2 / m_scale);
        if (hot) p.strokePath(path, QPen(t.halo, 7, Qt::SolidLine, Qt::RoundCap));
        p.strokePath(path, cut ? QPen(t.good, 2.2) : QPen(t.inkSoft, 1.3));
    }
}

void DrawingTable::paintTraceWords(QPainter& p) const {
    const SeenTrace* under = m_tool == Tool::Follow ? traceUnder(m_pointer) : nullptr;
    if (!under) return;
    const Theme& t = theme();
    const QString words = m_model->sourceWords(under->trace.source);
    p.setFont(textFont(12, QFont::DemiBold));
    const QFontMetricsF metrics(p.font());
    QRectF box = metrics.boundingRect(QRectF(0, 0, 300, 200), Qt::TextWordWrap, words);
    box.moveTopLeft(m_pointer + QPointF(18, 14));
    if (box.right() > width() - 10) box.moveRight(m_pointer.x() - 14);
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.card);
    p.drawRoundedRect(box.adjusted(-8, -5, 8, 5), 6, 6);
    p.setPen(t.ink);
    p.drawText(box, Qt::TextWordWrap, words);
}

void DrawingTable::clickFollow() {
    const SeenTrace* under = traceUnder(m_pointer);
    if (!under)
        return Q_EMIT message(
            m_traces.empty()
                ? tr("▲ No body stands before this drawing yet, so there is nothing to follow.")
                : tr("Point at an edge or a cut of the part; what would be followed lights up."));
    const Trace trace = under->trace;
    m_model->edit(tr("followed"), [&](Drawing& d) {
        if (!under->curves.empty() || !trace.source.starts_with("meeting ")) {
            followTrace(d, trace);
            return;
        }
        const int point = d.draw(StrokeKind::Point, {trace.at[0]});
        holdPoint(d, d.findStroke(point)->points[0], trace);
    });
    Q_EMIT message(tr("✓ It stays with %1.").arg(m_model->sourceWords(trace.source)));
}

/// A chosen point can be held where an edge of the part runs through the table.
void DrawingTable::meetingChip() {
    if (m_chosen.size() != 1 || !m_model->drawing().findPoint(m_chosen[0])) return;
    const Vec2 at = m_model->drawing().at(m_chosen[0]);
    const SeenTrace* best = nullptr;
    for (const SeenTrace& s : m_traces)
        if (s.trace.source.starts_with("meeting ") &&
            (!best || length(s.trace.at[0] - at) < length(best->trace.at[0] - at)))
            best = &s;
    if (!best) return;
    chip(tr("Meets the nearest edge"), 1, [this, trace = best->trace, id = m_chosen[0]] {
        m_model->edit(tr("meets an edge"), [&](Drawing& d) { holdPoint(d, id, trace); });
        Q_EMIT message(tr("✓ It lies at %1.").arg(m_model->sourceWords(trace.source)));
    });
}

} // namespace gc::app
