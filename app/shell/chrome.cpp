#include "app/shell/chrome.hpp"

#include "app/look/pictogram.hpp"
#include "app/look/theme.hpp"
#include "app/look/words.hpp"
#include "app/table/tools/tool.hpp"
#include "core/document/step_kind.hpp"

#include <QMouseEvent>
#include <QPainter>

#include <QPainterPath>
#include <algorithm>

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
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(tr("Stages"));
    m_walk.goTo(1);
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
    Walk::paint(p, *this, m_walk.at() == 0 ? titleRect() : stageRect(names.value(m_walk.at() - 1)));
}

QRect StageLine::titleRect() const {
    return {8, 8, QFontMetrics(textFont(17, QFont::Bold)).horizontalAdvance(m_title) + 40, 36};
}

void StageLine::keyPressEvent(QKeyEvent* e) {
    std::optional<int> taken;
    const QStringList names = stageNames();
    if (!m_walk.key(*e, static_cast<int>(names.size()) + 1, taken)) return QWidget::keyPressEvent(e);
    if (taken && *taken == 0) Q_EMIT menuAsked(mapToGlobal(QPoint(18, height() - 6)));
    if (taken && *taken > 0) Q_EMIT stageAsked(names[*taken - 1]);
    update();
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
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(tr("Verbs"));
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

void VerbPanel::add(const QString& group, const QString& kind, const QString& text, const QString& tip) {
    if (m_groups.empty() || m_groups.back().name != group) m_groups.push_back({group, {}});
    m_groups.back().verbs.push_back({kind, text, tip});
}

void VerbPanel::resizeEvent(QResizeEvent*) {
    layOut();
}

void VerbPanel::wheelEvent(QWheelEvent* e) {
    const int before = m_scroll;
    m_scroll = std::clamp(m_scroll - e->angleDelta().y() / 2, 0, std::max(0, m_whole - height()));
    if (m_scroll != before) place();
    e->accept();
}

void VerbPanel::collect() {
    m_groups.clear();
    if (m_tools) {
        for (const ToolKind& t : allTools()) add(t.group, QStringLiteral("tool:") + t.key, t.label, t.tip);
        add(tr("change"), QStringLiteral("edit:text"), tr("Text"),
            tr("Letters as strokes, at the origin or at the point that is chosen"));
        add(tr("then"), QStringLiteral("draw"), tr("New drawing"), tr("Another drawing, on an empty table"));
        add(tr("then"), QStringLiteral("tool:bring"), tr("Bring in …"),
            tr("Lines and curves from an SVG or a DXF file"));
        add(tr("then"), QStringLiteral("tool:write"), tr("Write out …"),
            tr("This drawing as an SVG or a DXF file"));
        add(tr("then"), QStringLiteral("tool:done"), tr("Done"),
            tr("Leave the table; the drawing stays in the sheet"));
        return;
    }
    for (const StepKind& k : allKinds())
        // What is made of drawings begins with one, as often as not on the part itself.
        if (QString::fromStdString(k.words.stage) == m_stage ||
            (m_stage == QLatin1String("Form") && k.filledIn == FilledIn::DrawingTable))
            add(inWords(k.words.group), QString::fromStdString(k.key()), inWords(k.words.verb),
                inWords(k.words.purpose));
}

/// Where there are many they stand closer, so that none is out of sight; where that is not enough they
/// scroll.
void VerbPanel::layOut() {
    collect();
    constexpr int kRoomy = 32, kTight = 19, kHeading = 20;
    int verbs = 0;
    for (const Group& g : m_groups) verbs += static_cast<int>(g.verbs.size());
    const int groups = static_cast<int>(m_groups.size());
    const auto wholeWith = [&](int row, int gap) {
        return 2 * gap + groups * (kHeading + gap) + verbs * row;
    };
    m_row = kRoomy;
    m_gap = 12;
    while (m_row > kTight && wholeWith(m_row, m_gap) > height()) {
        --m_row;
        m_gap = std::max(4, m_gap - 1);
    }
    m_whole = wholeWith(m_row, m_gap);
    m_scroll = std::clamp(m_scroll, 0, std::max(0, m_whole - height()));
    place();
}

void VerbPanel::place() {
    m_items.clear();
    int y = m_gap - m_scroll;
    for (const Group& g : m_groups) {
        m_items.push_back({{}, g.name, {}, QRect(18, y, width() - 20, 20), true});
        y += 20;
        for (const Verb& v : g.verbs) {
            m_items.push_back({v.kind, v.text, v.tip, QRect(10, y, width() - 18, m_row - 2), false});
            y += m_row;
        }
        y += m_gap;
    }
    update();
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
        drawPictogram(p, i.kind, QRectF(i.rect.left() + 8, i.rect.center().y() - 8.5, 18, 18));
        p.setFont(textFont(13, QFont::DemiBold));
        p.setPen(i.kind == m_active ? t.accent : t.ink);
        p.drawText(i.rect.adjusted(35, 0, 0, 0), Qt::AlignVCenter, i.text);
    }
    const auto all = verbs();
    if (!all.empty())
        Walk::paint(p, *this, all[std::min(static_cast<std::size_t>(m_walk.at()), all.size() - 1)]->rect);
    // More above or below: a fading edge.
    for (const bool below : {false, true}) {
        if (below ? m_scroll >= m_whole - height() : m_scroll <= 0) continue;
        constexpr int kFade = 26;
        QLinearGradient fade(0, below ? height() - kFade : kFade, 0, below ? height() : 0);
        QColor clear = t.paper;
        clear.setAlpha(0);
        fade.setColorAt(0, clear);
        fade.setColorAt(1, t.paper);
        p.fillRect(0, below ? height() - kFade : 0, width() - 1, kFade, fade);
    }
}

std::vector<const VerbPanel::Item*> VerbPanel::verbs() const {
    std::vector<const Item*> out;
    for (const Item& i : m_items)
        if (!i.heading) out.push_back(&i);
    return out;
}

void VerbPanel::keyPressEvent(QKeyEvent* e) {
    std::optional<int> taken;
    const auto all = verbs();
    if (!m_walk.key(*e, static_cast<int>(all.size()), taken)) return QWidget::keyPressEvent(e);
    const QRect r = all[static_cast<std::size_t>(m_walk.at())]->rect;
    m_scroll = std::clamp(m_scroll + std::max(0, r.bottom() + 12 - height()) - std::max(0, 12 - r.top()), 0,
                          std::max(0, m_whole - height()));
    const QString kind = all[static_cast<std::size_t>(m_walk.at())]->kind;
    place();
    if (taken) Q_EMIT verbAsked(kind);
}

void VerbPanel::mouseReleaseEvent(QMouseEvent* e) {
    for (const Item& i : m_items)
        if (!i.heading && i.rect.contains(e->pos())) {
            const QString kind = i.kind; // the list may be another before the verb is begun
            Q_EMIT verbAsked(kind);
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

} // namespace gc::app
