#include "app/link/forge_link.hpp"
#include "app/look/theme.hpp"
#include "app/stand/card.hpp"
#include "app/stand/stand.hpp"

#include <QPainter>
#include <QPainterPath>
#include <QSettings>

#include <algorithm>
#include <cmath>

// What is painted over the picture of the part: the companion, the scale, the legend, marks and readings.

namespace gc::app {

namespace {
constexpr float kPencil = 175;                      // mm
constexpr float kSheetWide = 210, kSheetDeep = 148; // A5, lying

} // namespace

double Stand::barLength() const {
    const double unit = m_forge->units().factorFor(kLength);
    constexpr double kWide = 130, kBeside = 62; // px: of the bar; left of it and for half of its figure
    const double wide = std::clamp(m_scaleRoom - kBeside, 1.0, kWide);
    const double most = wide * static_cast<double>(m_camera.mmPerPixel(size())) / unit;
    const double ten = std::pow(10, std::floor(std::log10(most)));
    return ten * (most / ten >= 5 ? 5 : most / ten >= 2 ? 2 : 1) * unit;
}

void Stand::paintOver(QPainter& p) {
    if (!m_renderer.extent().empty()) paintCompanion(p);
    paintGuides(p);
    paintScale(p);
    if (m_options.overlay == Overlay::Deviation)
        paintDeviationLegend(p);
    else if (isMap(m_options.overlay))
        paintLegend(p);
    if (m_options.overlay == Overlay::Stripes) paintStripesLegend(p);
    if (m_options.overlay == Overlay::Bending) {
        paintBendingLegend(p);
        paintCombs(p);
    }
    if (m_mark) paintMark(p);
    if (m_lost) paintLost(p);
    if (m_measured) paintMeasured(p);
    if (m_options.cut) paintCutHandle(p);
    if (!m_keyAt.isNull()) paintKeyPlace(p);
    const int hot = m_drag == Drag::None ? m_handles.at(m_pointer, handleScene()) : -1;
    if (!m_blank) m_handles.paint(p, handleScene(), hot);
    if (!m_blank)
        m_threads.paint(p, threadScene(),
                        m_drag == Drag::None ? m_threads.at(m_pointer, threadScene()) : Threads::Grip{});
    paintBox(p);
    paintBeneath(p);
    if (!m_reading.isEmpty() && hot < 0 && !m_handles.dragging() && !m_threads.pulling()) paintReading(p);
    if (m_renderer.extent().empty() && m_forge->drawings().empty() && m_picking == Picking::Nothing) {
        p.setFont(textFont(15));
        p.setPen(theme().inkSoft);
        p.drawText(
            rect(), Qt::AlignCenter,
            m_forge->busy()
                ? tr("Building …")
                : tr("Nothing stands here yet.\nBegin with Stations or a Drawing in the stage Outline."));
    }
}

/// A thing of everyday life at true size before the part: everybody knows how large it is.
void Stand::paintCompanion(QPainter& p) {
    m_companionLabel = {};
    if (m_picking != Picking::Nothing) return; // its place is taken by the ways to say what is picked
    if (m_camera.pitch > 80 || m_camera.pitch < -1) return;
    const auto& e = m_renderer.extent();
    const float a = m_camera.yaw * static_cast<float>(M_PI) / 180.f;
    const QVector3D along(-std::sin(a), std::cos(a), 0), front(std::cos(a), std::sin(a), 0), up(0, 0, 1);
    const float reach = std::max(e.high.x() - e.low.x(), e.high.y() - e.low.y()) * 0.5f;
    const QVector3D middle = QVector3D(e.centre().x(), e.centre().y(), e.low.z()) + front * (reach + 22.f);
    const float half = (m_companion == Companion::Sheet ? kSheetWide : kPencil) / 2, thick = 3.6f;
    // Where the view is narrow it moves aside, so that both its ends are seen.
    const auto project = [&](const QVector3D& v) { return m_camera.project(v, size()); };
    const double left = project(middle - along * half).x(), right = project(middle + along * half).x();
    if (m_companion != Companion::None && right - left > width() - 24)
        return; // so near that it would be a bar
    const double aside = std::max(0.0, 12 - left) - std::max(0.0, right - (width() - 12));
    // And before a tall part up, out of the row with the scale and the views.
    constexpr double kRow = 62;
    const float deep = m_companion == Companion::Sheet ? kSheetDeep : 0;
    const double raised = std::min(0.0, height() - kRow - project(middle + front * deep).y());
    const auto at = [&](float x, float y, float z) {
        return project(middle + along * x + front * y + up * z) + QPointF(aside, raised);
    };
    QColor fill = theme().paperDeep;
    fill.setAlphaF(0.9f);
    p.setBrush(fill);
    p.setPen(QPen(theme().inkSoft, 1));
    QString label = tr("companion: none");
    QPointF below = at(0, 0, 0);
    if (m_companion == Companion::Pencil) {
        p.drawPolygon(QPolygonF{at(-half, 0, 0), at(half - 17, 0, 0), at(half, 0, thick),
                                at(half - 17, 0, 2 * thick), at(-half, 0, 2 * thick)});
        p.drawLine(at(half - 17, 0, 0), at(half - 17, 0, 2 * thick));
        p.drawLine(at(-half + 9, 0, 0), at(-half + 9, 0, 2 * thick));
        p.drawLine(at(-half, 0, 1.33f * thick), at(half - 17, 0, 1.33f * thick));
        label = tr("pencil, 175 mm");
    } else if (m_companion == Companion::Sheet) {
        p.drawPolygon(
            QPolygonF{at(-half, 0, 0), at(half, 0, 0), at(half, kSheetDeep, 0), at(-half, kSheetDeep, 0)});
        below = at(0, kSheetDeep, 0);
        label = tr("A5 sheet, 210 × 148 mm");
    }
    p.setFont(textFont(11));
    p.setPen(theme().inkSoft);
    m_companionLabel = QRectF(below.x() - 80, std::min(below.y() + 4, height() - 60.0), 160, 18);
    p.drawText(m_companionLabel, Qt::AlignCenter, label);
    const double w = p.fontMetrics().horizontalAdvance(label), y = m_companionLabel.bottom() - 1;
    p.setPen(QPen(theme().inkSoft, 1, Qt::DotLine)); // as in the sheet: what is dotted can be changed
    p.drawLine(QPointF(m_companionLabel.center().x() - w / 2, y),
               QPointF(m_companionLabel.center().x() + w / 2, y));
}

void Stand::nextCompanion() {
    m_companion = m_companion == Companion::Pencil  ? Companion::Sheet
                  : m_companion == Companion::Sheet ? Companion::None
                                                    : Companion::Pencil;
    QSettings().setValue(QStringLiteral("companion"), static_cast<int>(m_companion));
    update();
}

void Stand::paintScale(QPainter& p) {
    const double mm = barLength(), w = mm / static_cast<double>(m_camera.mmPerPixel(size()));
    constexpr double kLeast = 20; // px: less would tell nothing
    if (w < kLeast) return;
    const double x = 22, y = height() - 36;
    p.setPen(QPen(theme().ink, 1.6));
    p.drawLine(QPointF(x, y), QPointF(x + w, y));
    for (const double f : {0.0, 0.5, 1.0}) p.drawLine(QPointF(x + w * f, y - 4), QPointF(x + w * f, y + 4));
    p.setFont(textFont(11));
    p.drawText(QRectF(x - 20, y + 6, 40, 16), Qt::AlignCenter, QStringLiteral("0"));
    p.drawText(QRectF(x + w - 40, y + 6, 80, 16), Qt::AlignCenter, lengthText(mm, 3));
}

/// Colours without values would say that there are some.
QString Stand::legendNote() const {
    const auto& fields = m_forge->fields();
    const bool ball = m_options.overlay == Overlay::WallBall;
    const bool any = !m_blank && (m_options.overlay == Overlay::Lean ||
                                  std::any_of(fields.begin(), fields.end(), [&](const auto& f) {
                                      return (ball ? f.second.ballHistogram : f.second.rayHistogram).any;
                                  }));
    if (any) return {};
    return m_blank || m_forge->busy() || !m_forge->wallsKnown()
               ? tr("No values yet: measuring …")
               : tr("No values: nothing here could be measured.");
}

void Stand::paintLegend(QPainter& p) {
    const bool lean = m_options.overlay == Overlay::Lean;
    const auto words = [&](double v) { return lean ? QStringLiteral("%1°").arg(v) : lengthText(v, 2); };
    const double w = std::min(230, width() - 60), x = width() - w - 24, top = m_overlayTop, y = top + 78;
    const QRectF box(x - 14, top, w + 28, 106);
    const QString title = lean                                    ? tr("Lean from the pull")
                          : m_options.overlay == Overlay::WallRay ? tr("Wall by ray")
                                                                  : tr("Wall by ball");
    const QColor card = paintCard(p, box, title);
    p.setFont(textFont(10));
    p.setPen(theme().inkSoft);
    if (!lean) p.drawText(QRectF(x, top + 6, w, 16), Qt::AlignRight | Qt::AlignVCenter, tr("by area"));
    for (const auto& [name, f] : m_forge->fields()) {
        const Histogram& h = m_options.overlay == Overlay::WallBall ? f.ballHistogram : f.rayHistogram;
        if (lean || h.areas.empty()) break;
        const double most = *std::max_element(h.areas.begin(), h.areas.end());
        for (std::size_t i = 0; i < h.areas.size(); ++i) {
            const double bar =
                most > 0 ? 44 * std::sqrt(h.areas[i] / most) : 0; // square root: small areas stay visible
            p.fillRect(QRectF(x + w * double(i) / double(h.areas.size()), y - 6 - bar,
                              w / double(h.areas.size()) - 1, bar),
                       theme().band);
        }
        break;
    }
    for (int i = 0; i < 60; ++i)
        p.fillRect(QRectF(x + w * i / 60, y - 5, w / 60 + 0.6, 8), mapColour((i + 0.5) / 60));
    p.setPen(theme().ink);
    p.setFont(textFont(11));
    p.drawText(QRectF(x, top + 28, w, 40), Qt::AlignLeft | Qt::TextWordWrap, legendNote());
    const double low = static_cast<double>(m_options.mapLow), high = static_cast<double>(m_options.mapHigh);
    p.drawText(QRectF(x, y + 6, 90, 16), Qt::AlignLeft, words(low));
    p.drawText(QRectF(x + w - 90, y + 6, 90, 16), Qt::AlignRight, words(high));
    for (const auto& [limit, sign] :
         {std::pair{m_limitLow, QStringLiteral("≥ ")}, {m_limitHigh, QStringLiteral("≤ ")}}) {
        if (!limit || *limit < low || *limit > high) continue;
        const double at = x + w * (*limit - low) / (high - low);
        p.setPen(QPen(theme().accent, 1.5));
        p.drawLine(QPointF(at, top + 26), QPointF(at, y + 5));
        const QString text = sign + words(*limit);
        const double wide = p.fontMetrics().horizontalAdvance(text) + 6;
        const QRectF label(at + wide + 3 > x + w ? at - wide - 3 : at + 3, top + 24, wide, 15);
        p.fillRect(label, card);
        p.drawText(label, Qt::AlignCenter, text);
    }
}

/// Three small pictures of two stripes over a seam, with what each means.
void Stand::paintStripesLegend(QPainter& p) {
    constexpr double kRow = 30, kSwatch = 46;
    const double w = std::min(250, width() - 60), x = width() - w - 24, top = m_overlayTop;
    const QRectF box(x - 14, top, w + 28, 28 + 3 * kRow + 8);
    paintCard(p, box, tr("Stripes over a seam"));
    const QString words[] = {tr("broken off: an edge (G0)"), tr("kinked: tangent only (G1)"),
                             tr("running on: curvature, too (G2)")};
    for (int row = 0; row < 3; ++row) {
        const QRectF at(x, top + 28 + row * kRow, kSwatch, kRow - 6);
        const double seam = at.center().x();
        p.save();
        p.setClipRect(at);
        p.fillRect(at, theme().paperDeep);
        p.setPen(QPen(theme().ink, 4));
        for (const double off : {0.0, 12.0}) {
            const double y = at.top() + 4 + off;
            QPainterPath line(QPointF(at.left(), y));
            if (row == 0) {
                line.lineTo(seam, y);
                line.moveTo(seam, y + 6);
                line.lineTo(at.right(), y + 6);
            } else if (row == 1) {
                line.lineTo(seam, y);
                line.lineTo(at.right(), y + 9);
            } else {
                line.cubicTo(seam, y, seam, y, at.right(), y + 9);
            }
            p.setBrush(Qt::NoBrush);
            p.drawPath(line);
        }
        p.restore();
        p.setPen(QPen(theme().line, 1, Qt::DashLine));
        p.drawLine(QPointF(seam, at.top()), QPointF(seam, at.bottom()));
        p.setPen(theme().ink);
        p.setFont(textFont(11));
        p.drawText(QRectF(at.right() + 10, at.top(), w - kSwatch - 10, at.height()),
                   Qt::AlignLeft | Qt::AlignVCenter, words[row]);
    }
}

void Stand::paintMark(QPainter& p) {
    const QPointF at = m_camera.project(*m_mark, size());
    p.setBrush(theme().card);
    p.setPen(QPen(theme().accent, 2));
    p.drawEllipse(at, 6, 6);
    paintCallout(p, at, m_markText);
}

/// What is gone leaves an empty ring.
void Stand::paintLost(QPainter& p) {
    const QPointF at = m_camera.project(*m_lost, size());
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme().fail, 2, Qt::DashLine));
    p.drawEllipse(at, 11, 11);
    p.setBrush(theme().card);
    paintCallout(p, at, m_gone ? tr("it was here") : tr("here"));
}

void Stand::paintCallout(QPainter& p, QPointF at, const QString& text) {
    p.setFont(textFont(12, QFont::DemiBold));
    const double w = p.fontMetrics().horizontalAdvance(text) + 20;
    QRectF box(at.x() + 26, at.y() - 40, w, 26);
    const bool covered = m_handles.meet(box, handleScene());
    if (covered || box.right() > width() - 8) box.moveRight(at.x() - 26);
    QPointF end(box.left() > at.x() ? box.left() : box.right(), box.center().y());
    if (box.left() < 8) { // room on neither side: below
        box.moveTopLeft({std::clamp(at.x() - w / 2, 8.0, std::max(8.0, width() - 8 - w)), at.y() + 26});
        end = QPointF(at.x(), box.top());
    }
    p.setPen(QPen(theme().ink, 1));
    p.drawLine(at, end);
    p.setPen(QPen(theme().line, 1));
    p.drawRoundedRect(box, 6, 6);
    p.setPen(theme().ink);
    p.drawText(box, Qt::AlignCenter, text);
}

QPointF Stand::cutHandle() const {
    const auto& e = m_renderer.extent();
    const QVector3D n = planeNormal(), c = e.centre();
    return m_camera.project(QVector3D(c.x(), c.y(), e.high.z()) + n * static_cast<float>(m_cutOffset) +
                                QVector3D(0, 0, e.size() * 0.06f),
                            size());
}

void Stand::paintCutHandle(QPainter& p) {
    const QPointF at = cutHandle();
    const QPointF way = m_camera.project(m_renderer.extent().centre() + planeNormal() * 10, size()) -
                        m_camera.project(m_renderer.extent().centre(), size());
    const double angle = std::atan2(way.y(), way.x()) * 180 / M_PI;
    p.save();
    p.translate(at);
    p.setBrush(theme().card);
    p.setPen(QPen(theme().accent, 1.6));
    p.drawRoundedRect(QRectF(-22, -11, 44, 22), 11, 11);
    p.rotate(angle);
    p.drawLine(QPointF(-13, 0), QPointF(13, 0));
    for (const double s : {-1.0, 1.0}) {
        p.drawLine(QPointF(13 * s, 0), QPointF(8 * s, -4));
        p.drawLine(QPointF(13 * s, 0), QPointF(8 * s, 4));
    }
    p.restore();
    p.setFont(textFont(11));
    const QString hint = tr("drag the cut");
    const double wide = p.fontMetrics().horizontalAdvance(hint) + 14;
    const QRectF card(at.x() - wide / 2, at.y() - 34, wide, 18);
    p.setPen(Qt::NoPen);
    p.drawRoundedRect(card, 5, 5);
    p.setPen(theme().ink);
    p.drawText(card, Qt::AlignCenter, hint);
}

/// As on the drawing table.
void Stand::paintKeyPlace(QPainter& p) {
    p.setPen(QPen(theme().accent, 1.6));
    for (const QPointF way : {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)})
        p.drawLine(QPointF(m_keyAt) + way * 5, QPointF(m_keyAt) + way * 13);
}

/// A dimension as in a drawing: from end to end with the figure in its middle.
void Stand::paintMeasured(QPainter& p) {
    if (!m_measured->at) return;
    const Theme& t = theme();
    const QPointF a = screenOf(*m_measured->at), b = m_measured->to ? screenOf(*m_measured->to) : a;
    const QPointF d = b - a;
    const double l = std::hypot(d.x(), d.y());
    QColor under = t.card;
    under.setAlphaF(0.85f);
    for (const QPen& pen : {QPen(under, 5, Qt::SolidLine, Qt::RoundCap), QPen(t.ink, 1.6)}) {
        p.setPen(pen);
        p.drawLine(a, b);
        if (l < 8) continue;
        const QPointF n = QPointF(-d.y(), d.x()) / l * 7;
        p.drawLine(a - n, a + n);
        p.drawLine(b - n, b + n);
    }
    p.setBrush(t.ink);
    p.drawEllipse(a, 3, 3);
    p.drawEllipse(b, 3, 3);
    p.setFont(textFont(14, QFont::Bold));
    QRectF box(0, 0, p.fontMetrics().horizontalAdvance(m_measured->text) + 18, 26);
    box.moveCenter((a + b) / 2 + (l < 60 ? QPointF(0, -24) : QPointF()));
    p.setBrush(t.card);
    p.setPen(QPen(t.ink, 1.2));
    p.drawRoundedRect(box, 6, 6);
    p.setPen(t.ink);
    p.drawText(box, Qt::AlignCenter, m_measured->text);
}

void Stand::paintReading(QPainter& p) {
    p.setFont(textFont(12, QFont::DemiBold));
    const QStringList lines = m_reading.split(QLatin1Char('\n'));
    double w = 0;
    for (const QString& l : lines) w = std::max(w, static_cast<double>(p.fontMetrics().horizontalAdvance(l)));
    QRectF box(m_pointer.x() + 18, m_pointer.y() + 14, w + 20, 10 + 17.0 * double(lines.size()));
    if (box.right() > width() - 6) box.moveRight(m_pointer.x() - 12);
    if (box.bottom() > height() - 6) box.moveBottom(m_pointer.y() - 10);
    p.setBrush(theme().card);
    p.setPen(QPen(theme().line, 1));
    p.drawRoundedRect(box, 6, 6);
    for (int i = 0; i < lines.size(); ++i) {
        p.setPen(i ? theme().inkSoft : theme().ink);
        p.setFont(textFont(i ? 11 : 12, i ? QFont::Medium : QFont::DemiBold));
        p.drawText(QRectF(box.x() + 10, box.y() + 5 + 17 * i, w + 8, 17), Qt::AlignLeft | Qt::AlignVCenter,
                   lines[i]);
    }
}

} // namespace gc::app
