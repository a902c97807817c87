#include "app/chrome.hpp"

#include "app/table/drawing_table.hpp"
#include "app/theme.hpp"
#include "core/document/step_words.hpp"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

namespace gc::app {

namespace {

QString shown(const QString& stage) {
    static const std::pair<const char*, const char*> names[] = {
        {"Brief", QT_TRANSLATE_NOOP("stage", "Brief")}, {"Outline", QT_TRANSLATE_NOOP("stage", "Outline")},
        {"Form", QT_TRANSLATE_NOOP("stage", "Form")},   {"Finish", QT_TRANSLATE_NOOP("stage", "Finish")},
        {"Prove", QT_TRANSLATE_NOOP("stage", "Prove")}, {"Release", QT_TRANSLATE_NOOP("stage", "Release")}};
    for (const auto& [key, name] : names)
        if (stage == QLatin1String(key)) return QObject::tr(name);
    return stage;
}

} // namespace

QStringList stageNames() {
    return {"Brief", "Outline", "Form", "Finish", "Prove", "Release"};
}

StageLine::StageLine(QWidget* parent) : QWidget(parent) {
    setFixedHeight(52);
    setMouseTracking(true);
}

void StageLine::setTitle(const QString& name, const QString& state) {
    m_title = name;
    m_state = state;
    update();
}

void StageLine::setStage(const QString& stage) {
    m_stage = stage;
    update();
}

QRect StageLine::stageRect(const QString& stage) const {
    const QFontMetrics metrics(textFont(14, QFont::Bold));
    int x = width() - 22;
    const QStringList names = stageNames();
    for (auto i = names.size(); i-- > 0;) {
        const int w = metrics.horizontalAdvance(shown(names[i]));
        x -= w;
        if (names[i] == stage) return {x - 6, 8, w + 12, 36};
        x -= 36;
    }
    return {};
}

void StageLine::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    p.fillRect(rect(), t.paper);
    p.setPen(t.line);
    p.drawLine(0, height() - 1, width(), height() - 1);
    p.setFont(textFont(17, QFont::Bold));
    p.setPen(t.ink);
    const int titleWidth = p.fontMetrics().horizontalAdvance(m_title);
    p.drawText(QRect(18, 0, titleWidth + 4, height()), Qt::AlignVCenter, m_title);
    QPainterPath arrow; // the part's menu opens under its name
    const double ax = 18 + titleWidth + 12, ay = height() / 2.0 - 1;
    arrow.moveTo(ax, ay);
    arrow.lineTo(ax + 4, ay + 4);
    arrow.lineTo(ax + 8, ay);
    p.setPen(QPen(t.ink, 1.6));
    p.drawPath(arrow);
    p.setFont(textFont(12));
    p.setPen(t.inkSoft);
    p.drawText(QRect(18 + titleWidth + 34, 1, 380, height()), Qt::AlignVCenter, m_state);
    const QStringList names = stageNames();
    for (const QString& s : names) {
        const QRect r = stageRect(s);
        const bool now = s == m_stage;
        p.setFont(textFont(14, now ? QFont::Bold : QFont::Medium));
        p.setPen(now ? t.accent : s == m_hover ? t.ink : t.inkSoft);
        p.drawText(r, Qt::AlignCenter, shown(s));
        if (now) p.fillRect(QRectF(r.left() + 6, r.bottom() - 1, r.width() - 12, 3), t.accent);
        if (s != names.last()) {
            p.setPen(t.line);
            p.drawLine(r.right() + 4, height() / 2, r.right() + 20, height() / 2);
        }
    }
}

void StageLine::mouseReleaseEvent(QMouseEvent* e) {
    for (const QString& s : stageNames())
        if (stageRect(s).contains(e->pos())) {
            Q_EMIT stageAsked(s);
            return;
        }
    const int titleWidth = QFontMetrics(textFont(17, QFont::Bold)).horizontalAdvance(m_title);
    if (e->pos().x() < 18 + titleWidth + 30) Q_EMIT menuAsked(mapToGlobal(QPoint(18, height() - 6)));
}

void StageLine::mouseMoveEvent(QMouseEvent* e) {
    m_hover.clear();
    for (const QString& s : stageNames())
        if (stageRect(s).contains(e->pos())) m_hover = s;
    const int titleWidth = QFontMetrics(textFont(17, QFont::Bold)).horizontalAdvance(m_title);
    setCursor(m_hover.isEmpty() && e->pos().x() > 18 + titleWidth + 30 ? Qt::ArrowCursor
                                                                       : Qt::PointingHandCursor);
    update();
}

VerbPanel::VerbPanel(QWidget* parent) : QWidget(parent) {
    setMouseTracking(true);
    setFixedWidth(136);
}

void VerbPanel::setStage(const QString& stage) {
    m_stage = stage;
    layOut();
    update();
}

void VerbPanel::setActive(const QString& kind) {
    m_active = kind;
    update();
}

void VerbPanel::showTools(bool on) {
    if (m_tools == on) return;
    m_tools = on;
    layOut();
    update();
}

void VerbPanel::add(const QString& group, const QString& kind, const QString& text, const QString& tip,
                    int& y) {
    if (group != m_group) {
        if (!m_group.isEmpty()) y += 10;
        m_items.push_back({{}, group, {}, QRect(18, y, width() - 20, 20), true});
        m_group = group;
        y += 24;
    }
    m_items.push_back({kind, text, tip, QRect(10, y, width() - 18, 30), false});
    y += 32;
}

void VerbPanel::layOut() {
    m_items.clear();
    m_group.clear();
    int y = 18;
    if (m_tools) {
        for (const ToolWords& t : allTools())
            add(t.group, QStringLiteral("tool:") + t.key, t.label, t.tip, y);
        add(tr("then"), QStringLiteral("tool:done"), tr("Done"),
            tr("Leave the table; the drawing stays in the sheet"), y);
        return;
    }
    for (const StepWords& w : allStepWords())
        if (QString::fromStdString(w.stage) == m_stage)
            add(QString::fromStdString(w.group), QString::fromStdString(w.kind),
                QString::fromStdString(w.verb), QString::fromStdString(w.purpose), y);
}

QRect VerbPanel::verbRect(const QString& kind) const {
    for (const Item& i : m_items)
        if (i.kind == kind) return i.rect;
    return {};
}

void VerbPanel::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    p.fillRect(rect(), t.paper);
    p.setPen(t.line);
    p.drawLine(width() - 1, 0, width() - 1, height());
    for (const Item& i : m_items) {
        if (i.heading) {
            p.setFont(textFont(12));
            p.setPen(t.inkSoft);
            p.drawText(i.rect, Qt::AlignVCenter, i.text);
            continue;
        }
        if (i.kind == m_active || i.kind == m_hover) {
            p.setPen(QPen(i.kind == m_active ? t.accent : t.line, 1.3));
            p.setBrush(i.kind == m_active ? t.accentSoft : t.card);
            p.drawRoundedRect(QRectF(i.rect).adjusted(0.5, 0.5, -0.5, -0.5), 7, 7);
        }
        p.setPen(QPen(t.ink, 1.6, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        p.setBrush(Qt::NoBrush);
        drawPictogram(p, i.kind, QRectF(i.rect.left() + 8, i.rect.top() + 6, 18, 18));
        p.setFont(textFont(13, QFont::DemiBold));
        p.setPen(i.kind == m_active ? t.accent : t.ink);
        p.drawText(i.rect.adjusted(35, 0, 0, 0), Qt::AlignVCenter, i.text);
    }
}

void VerbPanel::mouseReleaseEvent(QMouseEvent* e) {
    for (const Item& i : m_items)
        if (!i.heading && i.rect.contains(e->pos())) {
            Q_EMIT verbAsked(i.kind);
            return;
        }
}

void VerbPanel::mouseMoveEvent(QMouseEvent* e) {
    m_hover.clear();
    for (const Item& i : m_items)
        if (!i.heading && i.rect.contains(e->pos())) {
            m_hover = i.kind;
            setToolTip(i.tip);
        }
    setCursor(m_hover.isEmpty() ? Qt::ArrowCursor : Qt::PointingHandCursor);
    update();
}

void VerbPanel::leaveEvent(QEvent*) {
    m_hover.clear();
    update();
}

void drawPictogram(QPainter& p, const QString& kind, const QRectF& b) {
    auto at = [&](double x, double y) {
        return QPointF(b.left() + x / 18 * b.width(), b.top() + y / 18 * b.height());
    };
    auto dot = [&](double x, double y) {
        p.save();
        p.setBrush(p.pen().color());
        p.drawEllipse(at(x, y), 1.4, 1.4);
        p.restore();
    };
    QPainterPath path;
    if (kind == QLatin1String("outline")) {
        path.moveTo(at(4, 17));
        path.cubicTo(at(5, 11), at(11, 10), at(14, 1));
        dot(4.2, 15.5);
        dot(8.5, 9.7);
        dot(13.5, 2.6);
    } else if (kind == QLatin1String("draw")) {
        path.moveTo(at(3, 15));
        path.lineTo(at(3, 4));
        path.lineTo(at(10, 4));
        path.cubicTo(at(15, 4), at(15, 10), at(15, 15));
        path.closeSubpath();
        dot(3, 4);
        dot(3, 15);
        dot(15, 15);
    } else if (kind == QLatin1String("tool:choose")) {
        path.moveTo(at(4, 2));
        path.lineTo(at(14, 9));
        path.lineTo(at(9, 10.5));
        path.lineTo(at(7, 16));
        path.closeSubpath();
    } else if (kind == QLatin1String("tool:line")) {
        path.moveTo(at(2, 15));
        path.lineTo(at(8, 6));
        path.lineTo(at(16, 3));
        dot(2, 15), dot(8, 6), dot(16, 3);
    } else if (kind == QLatin1String("tool:arc")) {
        path.moveTo(at(2, 14));
        path.cubicTo(at(3, 2), at(15, 2), at(16, 14));
        dot(2, 14), dot(16, 14);
    } else if (kind == QLatin1String("tool:circle")) {
        path.addEllipse(at(9, 9), b.width() * 0.4, b.height() * 0.4);
        dot(9, 9);
    } else if (kind == QLatin1String("tool:rectangle")) {
        path.addRect(QRectF(at(2, 4), at(16, 14)));
    } else if (kind == QLatin1String("tool:ellipse")) {
        path.addEllipse(at(9, 9), b.width() * 0.46, b.height() * 0.28);
    } else if (kind == QLatin1String("tool:slot")) {
        path.addRoundedRect(QRectF(at(1, 5), at(17, 13)), b.height() * 0.22, b.height() * 0.22);
    } else if (kind == QLatin1String("tool:conic")) {
        path.moveTo(at(2, 16));
        path.quadTo(at(3, 2), at(16, 5));
        dot(2, 16), dot(16, 5);
    } else if (kind == QLatin1String("tool:spline")) {
        path.moveTo(at(1, 14));
        path.cubicTo(at(5, 0), at(11, 19), at(17, 4));
        dot(1, 14), dot(9, 9.5), dot(17, 4);
    } else if (kind == QLatin1String("tool:point")) {
        path.moveTo(at(4, 9));
        path.lineTo(at(14, 9));
        path.moveTo(at(9, 4));
        path.lineTo(at(9, 14));
    } else if (kind == QLatin1String("tool:dimension")) {
        path.moveTo(at(2, 4));
        path.lineTo(at(2, 14));
        path.moveTo(at(16, 4));
        path.lineTo(at(16, 14));
        path.moveTo(at(2, 9));
        path.lineTo(at(16, 9));
    } else if (kind == QLatin1String("tool:done")) {
        path.moveTo(at(3, 9));
        path.lineTo(at(7, 14));
        path.lineTo(at(15, 4));
    } else if (kind == QLatin1String("revolve")) {
        path.moveTo(at(9, 0));
        path.lineTo(at(9, 18));
        path.moveTo(at(13, 3));
        path.cubicTo(at(13, 8), at(16, 9), at(15, 15));
        path.moveTo(at(4, 12));
        path.cubicTo(at(-1, 8), at(3, 5), at(6, 6));
        path.lineTo(at(4, 4));
        path.moveTo(at(6, 6));
        path.lineTo(at(3.6, 7.6));
    } else if (kind == QLatin1String("import")) {
        path.moveTo(at(2, 10));
        path.lineTo(at(2, 16));
        path.lineTo(at(16, 16));
        path.lineTo(at(16, 10));
        path.moveTo(at(9, 1));
        path.lineTo(at(9, 12));
        path.moveTo(at(5.5, 8.5));
        path.lineTo(at(9, 12));
        path.lineTo(at(12.5, 8.5));
    } else if (kind == QLatin1String("shell")) {
        path.moveTo(at(2, 2));
        path.lineTo(at(3, 16));
        path.lineTo(at(15, 16));
        path.lineTo(at(16, 2));
        path.moveTo(at(5.4, 2));
        path.lineTo(at(6, 13));
        path.lineTo(at(12, 13));
        path.lineTo(at(12.6, 2));
    } else if (kind == QLatin1String("fillet")) {
        path.moveTo(at(2, 17));
        path.lineTo(at(2, 11));
        path.cubicTo(at(2, 5), at(5, 2), at(11, 2));
        path.lineTo(at(17, 2));
    } else if (kind == QLatin1String("hole")) {
        path.addEllipse(at(9, 9), b.width() * 0.22, b.height() * 0.22);
        for (const auto& [x, y] : {std::pair{9.0, 0.5}, {9.0, 17.5}, {0.5, 9.0}, {17.5, 9.0}}) {
            path.moveTo(at(9 + (x - 9) * 0.58, 9 + (y - 9) * 0.58));
            path.lineTo(at(x, y));
        }
    }
    p.drawPath(path);
}

} // namespace gc::app
