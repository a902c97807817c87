#include "app/stand/handles.hpp"
#include "app/look/points.hpp"

#include "app/look/theme.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc::app {

namespace {

constexpr double kFlattest = 0.12; // of its true length: seen from its end an arrow cannot be dragged
constexpr double kShaft = 26;      // pixels: so much at least of an arrow is seen
constexpr double kGrip = 15;       // pixels around the end
constexpr double kTurn = 2 * std::numbers::pi;

QVector3D turned(const QVector3D& v, const QVector3D& axis, double angle) {
    const auto c = static_cast<float>(std::cos(angle)), s = static_cast<float>(std::sin(angle));
    return v * c + QVector3D::crossProduct(axis, v) * s + axis * (QVector3D::dotProduct(axis, v) * (1 - c));
}

double dot(QPointF a, QPointF b) {
    return QPointF::dotProduct(a, b);
}

/// The value at which there are a whole number of gaps.
double wholeGaps(const HandleView& h, double value) {
    constexpr double kMost = 1000;
    if (h.whole <= 0) return std::clamp(std::round(value), 1.0, kMost);
    const double share = std::max(value, h.whole / kMost);
    return h.whole / std::max(1.0, std::round(h.whole / share));
}

QVector3D startOf(const HandleView& h, const Handles::Scene& s) {
    if (!h.loose) return h.from;
    const QVector3D away = s.middle - h.from;
    return h.from + away - h.direction * QVector3D::dotProduct(away, h.direction);
}

} // namespace

void Handles::set(std::vector<HandleView> handles) {
    m_handles = std::move(handles);
}

bool Handles::reaches() const {
    return std::any_of(m_handles.begin(), m_handles.end(), [](const HandleView& h) { return h.reaches; });
}

int Handles::find(const QString& slot) const {
    for (std::size_t i = 0; i < m_handles.size(); ++i)
        if (m_handles[i].slot == slot) return static_cast<int>(i);
    return -1;
}

Handles::Shape Handles::shapeOf(const HandleView& h, double value, const Scene& s) {
    const auto project = [&](const QVector3D& v) { return s.camera.project(v, s.size); };
    Shape out;
    if (!h.turns) {
        const QVector3D from = startOf(h, s);
        const QPointF way = project(from + h.direction) - project(from);
        const double l = lengthOf(way) * static_cast<double>(s.camera.mmPerPixel(s.size));
        if (l < kFlattest) return out;
        out.way = way / lengthOf(way) * (value < 0 ? -1 : 1);
        const QPointF end = project(from + h.direction * static_cast<float>(value * h.way));
        // A short one begins further back, so that there is something to see and to take.
        const QPointF begin = lengthOf(end - project(from)) < kShaft ? end - out.way * kShaft : project(from);
        out.line = {begin, end};
        out.good = true;
        return out;
    }
    constexpr int kPieces = 48;
    const double angle = value * h.way;
    for (int i = 0; i <= kPieces; ++i)
        out.line << project(h.from + turned(h.arm, h.direction, angle * i / kPieces));
    const QVector3D ahead = QVector3D::crossProduct(h.direction, turned(h.arm, h.direction, angle));
    const QPointF way = project(h.from + turned(h.arm, h.direction, angle) + ahead * 0.01f) - out.line.back();
    const QPointF u = project(h.from + h.arm) - project(h.from),
                  v = project(h.from + QVector3D::crossProduct(h.direction, h.arm)) - project(h.from);
    const double flat = std::fabs(u.x() * v.y() - u.y() * v.x());
    out.good =
        flat > kFlattest * lengthOf(u) * lengthOf(v) && lengthOf(u) * lengthOf(v) > 1 && lengthOf(way) > 1e-9;
    if (out.good) out.way = way / lengthOf(way) * (value < 0 ? -1 : 1);
    return out;
}

/// The one that is dragged stays what it was when it was taken: past nothing the step turns it round.
const HandleView& Handles::view(int handle) const {
    return handle == m_taken ? m_held : m_handles[static_cast<std::size_t>(handle)];
}

double Handles::shown(int handle) const {
    return handle == m_taken ? m_value : m_handles[static_cast<std::size_t>(handle)].value;
}

QPointF Handles::tip(int handle, const Scene& s) const {
    if (handle < 0 || handle >= static_cast<int>(m_handles.size())) return {};
    const Shape shape = shapeOf(view(handle), shown(handle), s);
    return shape.good ? shape.line.back() + shape.way * 5 : QPointF();
}

int Handles::countOf(const HandleView& h, double value) {
    return static_cast<int>(std::lround(h.whole > 0 ? h.whole / value : value)) + h.more;
}

QString Handles::text(const HandleView& h, double value, const UnitSystem& units) {
    if (h.counts) return QString::number(countOf(h, value));
    if (h.factor) return QString::fromStdString(formatNumber(value, 2));
    return QString::fromStdString(formatAmount(value, h.turns ? units.angle : units.length, 2));
}

QString Handles::said(int handle, const Scene& s) const {
    const HandleView& h = view(handle);
    // Past nothing a word of the sentence says the way.
    const double value = h.turnsRound.isEmpty() ? shown(handle) : std::fabs(shown(handle));
    QString words = text(h, value, s.units);
    if (h.counts)
        words = QObject::tr("%1 times").arg(words);
    else if (h.factor)
        words.prepend(QStringLiteral("× "));
    if (handle == m_taken && m_stop) words += QStringLiteral("  ") + m_stop->words;
    return words;
}

QRectF Handles::figureAt(int handle, const Shape& shape, const Scene& s) const {
    const QFontMetricsF metrics(textFont(13, QFont::Bold));
    const QSizeF box(metrics.horizontalAdvance(said(handle, s)) + 16, 24);
    const QPointF tip = shape.line.back() + shape.way * 14;
    // Beside the end, where the arrow points to.
    QRectF r(tip, box);
    r.moveCenter(tip +
                 QPointF(shape.way.x() * (box.width() / 2 + 4), shape.way.y() * (box.height() / 2 + 4)));
    const QRectF room(QPointF(6, 6), QSizeF(s.size) - QSizeF(12, 12));
    r.moveLeft(std::clamp(r.left(), room.left(), std::max(room.left(), room.right() - r.width())));
    r.moveTop(std::clamp(r.top(), room.top(), std::max(room.top(), room.bottom() - r.height())));
    return r;
}

QRectF Handles::figure(int handle, const Scene& s) const {
    if (handle < 0 || handle >= static_cast<int>(m_handles.size())) return {};
    const Shape shape = shapeOf(view(handle), shown(handle), s);
    return shape.good ? figureAt(handle, shape, s) : QRectF();
}

bool Handles::meet(const QRectF& place, const Scene& s) const {
    for (int i = 0; i < static_cast<int>(m_handles.size()); ++i) {
        if (figure(i, s).intersects(place)) return true;
        const QPolygonF line = shapeOf(view(i), shown(i), s).line;
        for (qsizetype k = 0; k + 1 < line.size(); ++k)
            if (crosses({line[k], line[k + 1]}, place)) return true;
    }
    return false;
}

int Handles::at(QPointF pointer, const Scene& s) const {
    int best = -1;
    double least = kGrip;
    for (int i = 0; i < static_cast<int>(m_handles.size()); ++i) {
        const QPointF t = tip(i, s);
        if (t.isNull()) continue;
        if (figure(i, s).contains(pointer)) return i;
        if (lengthOf(pointer - t) < least) least = lengthOf(pointer - t), best = i;
    }
    return best;
}

bool Handles::onFigure(int handle, QPointF pointer, const Scene& s) const {
    return figure(handle, s).contains(pointer);
}

void Handles::take(int handle, QPointF pointer) {
    m_taken = handle;
    m_held = m_handles[static_cast<std::size_t>(handle)];
    m_press = pointer;
    m_from = m_value = m_held.value;
    m_stop.reset();
}

double Handles::pixelsPerUnit(const HandleView& h, const Scene& s) {
    const auto project = [&](const QVector3D& v) { return s.camera.project(v, s.size); };
    if (!h.turns) {
        const QVector3D from = startOf(h, s);
        return lengthOf(project(from + h.direction) - project(from)) * h.way;
    }
    return static_cast<double>(h.arm.length() / s.camera.mmPerPixel(s.size)) * h.way;
}

double Handles::valueAt(QPointF pointer, const Scene& s) const {
    const auto project = [&](const QVector3D& v) { return s.camera.project(v, s.size); };
    const HandleView& h = m_held;
    if (!h.turns) {
        const QVector3D from = startOf(h, s);
        const QPointF way = project(from + h.direction) - project(from);
        const double l2 = dot(way, way);
        return l2 < 1e-12 ? m_from : m_from + dot(pointer - m_press, way) / l2 / h.way;
    }
    // The screen's affine picture of the arc's plane, turned back.
    const QPointF c = project(h.from), u = project(h.from + h.arm) - c,
                  v = project(h.from + QVector3D::crossProduct(h.direction, h.arm)) - c;
    const double det = u.x() * v.y() - u.y() * v.x();
    if (std::fabs(det) < 1e-9) return m_from;
    const auto angleAt = [&](QPointF p) {
        const QPointF d = p - c;
        return std::atan2(u.x() * d.y() - u.y() * d.x(), d.x() * v.y() - d.y() * v.x());
    };
    const double moved = angleAt(pointer) - angleAt(m_press);
    const double raw = m_from + moved / h.way;
    // Of all the turns the one nearest to where it is now.
    const double whole = kTurn / h.way;
    return raw + whole * std::round((m_value - raw) / whole);
}

std::pair<double, double> Handles::valueOf(const QVector3D& place, QPointF pointer, const Scene& s) const {
    const double along =
        static_cast<double>(QVector3D::dotProduct(place - startOf(m_held, s), m_held.direction));
    const double value = along / m_held.way;
    return {value, std::fabs(value - valueAt(pointer, s)) * pixelsPerUnit(m_held, s)};
}

double Handles::beside(QPointF pointer, const Scene& s) const {
    const QVector3D from = startOf(m_held, s);
    const QPointF a = s.camera.project(from, s.size),
                  u = s.camera.project(from + m_held.direction, s.size) - a;
    const double l = lengthOf(u);
    const QPointF d = pointer - a;
    return l < 1e-9 ? 0 : std::fabs(u.x() * d.y() - u.y() * d.x()) / l;
}

void Handles::dragTo(QPointF pointer, const std::optional<Stop>& stop, const Scene& s) {
    constexpr double kPixels = 4; // between two stops
    m_stop = stop;
    if (stop) {
        m_value = valueOf(stop->at, pointer, s).first;
        return;
    }
    if (m_held.counts) {
        m_value = wholeGaps(m_held, valueAt(pointer, s));
        return;
    }
    const double perUnit = std::max(1e-9, pixelsPerUnit(m_held, s));
    const double unit = m_held.factor ? 1 : s.units.factorFor(m_held.turns ? kAngle : kLength);
    const double step = roundStep(kPixels / perUnit / unit) * unit;
    m_value = std::round(valueAt(pointer, s) / step) * step;
    if (m_held.turns) m_value = std::clamp(m_value, -kTurn, kTurn);
}

void Handles::paint(QPainter& p, const Scene& s, int hot) const {
    const Theme& t = theme();
    for (int i = 0; i < static_cast<int>(m_handles.size()); ++i) {
        const Shape shape = shapeOf(view(i), shown(i), s);
        if (!shape.good) continue;
        const bool lit = i == hot || i == m_taken;
        const QColor colour = lit ? t.halo : t.accent;
        QColor under = t.card;
        under.setAlphaF(0.85f);
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(under, 5.5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        p.drawPolyline(shape.line);
        p.setPen(QPen(colour, 2.4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        p.drawPolyline(shape.line);
        const QPointF tip = shape.line.back() + shape.way * 10, n(-shape.way.y(), shape.way.x());
        p.setBrush(colour);
        p.drawPolygon(QPolygonF{tip, tip - shape.way * 12 + n * 6, tip - shape.way * 12 - n * 6});
        p.setBrush(t.card);
        p.setPen(QPen(colour, 2));
        p.drawEllipse(shape.line.front(), 3.6, 3.6);
        const QRectF box = figureAt(i, shape, s);
        p.setPen(QPen(lit ? t.halo : t.line, lit ? 1.6 : 1));
        p.drawRoundedRect(box, 6, 6);
        p.setFont(textFont(13, QFont::Bold));
        p.setPen(t.ink);
        p.drawText(box, Qt::AlignCenter, said(i, s));
    }
}

} // namespace gc::app
