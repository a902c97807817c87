#include "app/table/drawing_table.hpp"

#include "app/look/theme.hpp"
#include "core/sketch/drawing_words.hpp"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

namespace gc::app {

namespace {

constexpr double kRoomForSigns = 44; // pixels of a stroke

/// A clash is drawn as a saw blade.
QPainterPath sawTooth(const QPainterPath& path) {
    QPainterPath out;
    const double whole = path.length();
    const int teeth = std::max(2, static_cast<int>(whole / 5));
    for (int i = 0; i <= teeth; ++i) {
        const double t = path.percentAtLength(whole * i / teeth);
        const double a = path.angleAtPercent(t) * std::numbers::pi / 180;
        const QPointF n(-std::sin(a), -std::cos(a));
        const QPointF q = path.pointAtPercent(t) + n * (i % 2 ? 3.0 : -3.0);
        i == 0 ? out.moveTo(q) : out.lineTo(q);
    }
    return out;
}

/// Small signs for relations, in one stroke style, on a square of 10.
void drawMark(QPainter& p, RelationKind kind, QPointF at) {
    using K = RelationKind;
    QPainterPath s;
    const auto line = [&](double x0, double y0, double x1, double y1) {
        s.moveTo(at + QPointF(x0, y0));
        s.lineTo(at + QPointF(x1, y1));
    };
    switch (kind) {
    case K::Horizontal:
        line(-4, 0, 4, 0), line(-4, -2, -4, 2), line(4, -2, 4, 2);
        break;
    case K::Vertical:
        line(0, -4, 0, 4), line(-2, -4, 2, -4), line(-2, 4, 2, 4);
        break;
    case K::Parallel:
        line(-4, 3, 1, -4), line(-1, 4, 4, -3);
        break;
    case K::Perpendicular:
        line(-4, 3, 4, 3), line(0, 3, 0, -4);
        break;
    case K::Tangent:
    case K::Smooth:
        s.addEllipse(at + QPointF(0, 1.5), 3, 3), line(-4, -2, 4, -2);
        break;
    case K::Equal:
        line(-3, -1.7, 3, -1.7), line(-3, 1.7, 3, 1.7);
        break;
    case K::Midpoint:
        line(-4, 3, 0, -3), line(0, -3, 4, 3), line(-4, 3, 4, 3);
        break;
    case K::Symmetric:
        line(0, -4, 0, 4), line(-4, -2, -4, 2), line(4, -2, 4, 2);
        break;
    case K::Collinear:
        line(-5, 0, -1, 0), line(1, 0, 5, 0);
        break;
    case K::Concentric:
        s.addEllipse(at, 4, 4), s.addEllipse(at, 1.5, 1.5);
        break;
    case K::OnStroke:
        s.addEllipse(at + QPointF(0, -1), 2.2, 2.2), line(-4, 3, 4, 3);
        break;
    case K::Together:
        s.addEllipse(at + QPointF(-3, 0), 2.2, 2.2), s.addEllipse(at + QPointF(3, 0), 2.2, 2.2),
            line(-1, 0, 1, 0);
        break;
    case K::Follows:
    case K::OnTrace: // a stroke and the one that it goes with
        line(-4, 3, 1, -4), line(-1, 4, 4, -3), line(-4, -3, 4, 3);
        break;
    case K::Fixed:
        line(-3, 3, 3, 3), line(-3, 3, 0, -3), line(3, 3, 0, -3), line(-4, 5, 4, 5);
        break;
    default:
        return;
    }
    p.drawPath(s);
}

} // namespace

QPainterPath DrawingTable::pathThrough(const std::vector<Curve2>& curves, double deviation) const {
    QPainterPath path;
    for (const Curve2& c : curves) {
        const auto points = c.sampled(deviation);
        for (std::size_t i = 0; i < points.size(); ++i) {
            const QPointF q = toScreen(points[i]);
            i == 0 && path.isEmpty() ? path.moveTo(q) : path.lineTo(q);
        }
    }
    return path;
}

QPainterPath DrawingTable::pathOf(const Stroke& s) const {
    return pathThrough(curvesOf(m_model->drawing(), s), 0.2 / m_scale);
}

void DrawingTable::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), theme().card);
    paintPicture(p);
    paintGhost(p);
    paintGrid(p);
    paintTraces(p);
    paintRegions(p);
    for (const Stroke& s : m_model->drawing().strokes) paintStroke(p, s);
    paintHandles(p);
    paintNodes(p);
    paintRelationMarks(p);
    paintDimensions(p);
    paintPreview(p);
    paintCut(p);
    paintDraft(p);
    paintBox(p);
    paintTroubles(p);
    paintPictureDraft(p);
    paintTraceWords(p);
    paintCard(p);
    paintChips(p);
    paintStrip(p);
}

double DrawingTable::gridStep() const {
    // A step of 1, 2 or 5 that is some thirty pixels wide.
    const double decade = std::pow(10, std::floor(std::log10(30 / m_scale)));
    double step = decade;
    for (const double k : {2.0, 5.0, 10.0})
        if (step * m_scale < 24) step = decade * k;
    return step;
}

void DrawingTable::paintGrid(QPainter& p) const {
    const Theme& t = theme();
    const double step = gridStep();
    const Vec2 low = toDrawing(QPointF(0, height())), high = toDrawing(QPointF(width(), 0));
    QColor faint = t.line;
    faint.setAlphaF(0.45f);
    p.setPen(QPen(faint, 1));
    for (double x = std::ceil(low.x / step) * step; x < high.x; x += step)
        p.drawLine(QPointF(toScreen({x, 0}).x(), 0), QPointF(toScreen({x, 0}).x(), height()));
    for (double y = std::ceil(low.y / step) * step; y < high.y; y += step)
        p.drawLine(QPointF(0, toScreen({0, y}).y()), QPointF(width(), toScreen({0, y}).y()));
    const QPointF zero = toScreen({0, 0});
    QColor axis = t.accent;
    axis.setAlphaF(0.75f);
    p.setPen(QPen(m_hover == kAxisLine ? t.halo : axis, m_hover == kAxisLine ? 2.4 : 1.2, Qt::DashDotLine));
    p.drawLine(QPointF(zero.x(), 0), QPointF(zero.x(), height()));
    p.setPen(QPen(m_hover == kLevelLine ? t.halo : t.line, m_hover == kLevelLine ? 2.4 : 1.4));
    p.drawLine(QPointF(0, zero.y()), QPointF(width(), zero.y()));
    p.setFont(textFont(11));
    p.setPen(t.accent);
    p.drawText(QPointF(zero.x() + 5, zero.x() < width() - 300 ? 56 : 16), tr("axis"));
    p.setPen(t.inkSoft);
    double bottom = height() - 12;
    for (const Button& b : m_chips) bottom = std::min(bottom, b.rect.top() - 10);
    const bool inTheWay = std::fabs(bottom - zero.y()) < 22; // of what a square is
    p.drawText(QPointF(inTheWay ? width() - 46 : 8, zero.y() - 5), tr("level"));
    p.drawText(QPointF(14, bottom), tr("one square %1 mm").arg(step, 0, 'g', 3));
}

void DrawingTable::paintRegions(QPainter& p) const {
    for (const Region& r : m_model->closedness().regions) {
        if (r.depth % 2 && (m_area.empty() || r.strokes() != m_area)) continue;
        QPainterPath path;
        const auto add = [&](const Loop& loop) {
            std::vector<Curve2> curves;
            for (const Side& s : loop.sides) curves.push_back(s.curve);
            QPainterPath one = pathThrough(curves, 0.2 / m_scale);
            one.closeSubpath();
            path.addPath(one);
        };
        add(r.outer);
        for (const Loop& hole : r.holes) add(hole);
        path.setFillRule(Qt::OddEvenFill);
        const bool chosen = !m_area.empty() && r.strokes() == m_area;
        QColor soft = chosen ? theme().accent : theme().clay;
        soft.setAlphaF(chosen ? 0.22f : 0.14f);
        p.fillPath(path, soft);
    }
}

void DrawingTable::paintStroke(QPainter& p, const Stroke& s) const {
    const Theme& t = theme();
    const bool clash = std::any_of(
        m_model->diagnosis().clashes.begin(), m_model->diagnosis().clashes.end(), [&](const Clash& c) {
            return std::any_of(c.relations.begin(), c.relations.end(), [&](int id) {
                const Relation* r = m_model->drawing().findRelation(id);
                return r && std::find(r->of.begin(), r->of.end(), s.id) != r->of.end();
            });
        });
    const bool settled = m_model->diagnosis().sound() && isSettled(m_model->freedoms(), s);
    const bool chosen = std::find(m_chosen.begin(), m_chosen.end(), s.id) != m_chosen.end() ||
                        std::find(m_measuring.begin(), m_measuring.end(), s.id) != m_measuring.end();
    QPainterPath path = pathOf(s);
    if (m_hover == s.id || chosen) {
        QColor halo = chosen ? t.accent : t.halo;
        halo.setAlphaF(chosen ? 0.35f : 0.5f);
        p.strokePath(path, QPen(halo, 7, Qt::SolidLine, Qt::RoundCap));
    }
    QPen pen(clash ? t.fail : s.helper ? t.inkSoft : t.ink, settled ? 2.2 : 1.6);
    pen.setCapStyle(Qt::FlatCap);
    if (s.helper)
        pen.setDashPattern({8, 3, 1.5, 3}), pen.setWidthF(1.1);
    else if (!settled && !clash)
        pen.setDashPattern({5, 3});
    p.strokePath(clash ? sawTooth(path) : path, pen);
}

void DrawingTable::paintNodes(QPainter& p) const {
    const Theme& t = theme();
    const Drawing& d = m_model->drawing();
    const Freedoms& f = m_model->freedoms();
    const std::set<int> grouped = groupedStrokes();
    for (const Stroke& s : d.strokes)
        for (std::size_t i = 0; i < s.points.size(); ++i) {
            const int id = s.points[i];
            if (grouped.count(s.id) && m_hover != id) continue;
            // A handle that follows its nodes is no place to take hold of.
            if (s.kind == StrokeKind::Spline && i % 2 && !(i / 2 < s.held.size() && s.held[i / 2])) continue;
            const QPointF at = toScreen(d.at(id));
            const bool loose = f.points.count(id) > 0;
            const bool chosen = std::find(m_chosen.begin(), m_chosen.end(), id) != m_chosen.end() ||
                                std::find(m_measuring.begin(), m_measuring.end(), id) != m_measuring.end();
            if (m_hover == id || chosen) {
                p.setPen(Qt::NoPen);
                QColor halo = chosen ? t.accent : t.halo;
                halo.setAlphaF(0.5f);
                p.setBrush(halo);
                p.drawEllipse(at, 9, 9);
            }
            p.setPen(QPen(t.ink, 1.5));
            p.setBrush(loose ? t.card : t.ink);
            if (loose)
                p.drawEllipse(at, 4.2, 4.2);
            else
                p.drawRect(QRectF(at.x() - 3, at.y() - 3, 6, 6));
        }
    const QPointF zero = toScreen({0, 0});
    p.setPen(QPen(m_hover == kOrigin ? t.halo : t.accent, m_hover == kOrigin ? 3 : 1.6));
    p.drawLine(zero - QPointF(6, 0), zero + QPointF(6, 0));
    p.drawLine(zero - QPointF(0, 6), zero + QPointF(0, 6));
}

void DrawingTable::paintRelationMarks(QPainter& p) {
    m_marks.clear();
    const Theme& t = theme();
    const Drawing& d = m_model->drawing();
    std::map<int, int> used; // how many marks stand at a stroke already
    std::set<std::pair<int, RelationKind>>
        signed_; // a repetition would pile up signs: one of a kind is enough
    for (const Relation& r : d.relations) {
        // Joints are seen as such; what repetition ties is seen by its pitch.
        if (wordsOf(r.kind).sized || r.kind == RelationKind::Coincident || r.kind == RelationKind::SameStep)
            continue;
        const bool chosen = std::find(m_chosen.begin(), m_chosen.end(), r.id) != m_chosen.end();
        const bool hot = m_tool == Tool::Choose && markAt(m_pointer) == r.id;
        p.setBrush(Qt::NoBrush);
        for (const int of : r.of) {
            const Stroke* s = d.findStroke(of);
            QPointF at;
            if (s) {
                const QPainterPath path = pathOf(*s);
                if (path.isEmpty()) continue;
                // On what is small in the view signs would hide it: they come when it is pointed at, or
                // nearer.
                const bool asked = chosen || hot || m_hover == of || m_model->clashes(r.id) ||
                                   std::find(m_chosen.begin(), m_chosen.end(), of) != m_chosen.end();
                if (!asked && path.length() < kRoomForSigns) continue;
                const double a = path.angleAtPercent(0.5) * std::numbers::pi / 180;
                QPointF n(-std::sin(a), -std::cos(a)), along(std::cos(a), -std::sin(a));
                if (n.y() > 1e-6) n = -n, along = -along; // marks stand above their line
                at = path.pointAtPercent(0.5) + n * 13 + along * (16.0 * used[of]);
            } else if (of > 0) {
                at = toScreen(d.at(of)) + QPointF(12 + 14.0 * used[of], -12);
            } else {
                continue;
            }
            if (s && !m_model->clashes(r.id) && !signed_.insert({of, r.kind}).second) continue;
            ++used[of];
            m_marks.push_back({at, r.id});
            if (chosen || hot || (at - m_pointer).manhattanLength() < 9) {
                QColor halo = chosen ? t.accent : t.halo;
                halo.setAlphaF(0.35f);
                p.setPen(Qt::NoPen);
                p.setBrush(halo);
                p.drawEllipse(at, 9, 9);
                p.setBrush(Qt::NoBrush);
            }
            p.setPen(QPen(m_model->clashes(r.id) ? t.fail : t.good, 1.4));
            drawMark(p, r.kind, at);
            if (r.kind == RelationKind::OnStroke || r.kind == RelationKind::Midpoint ||
                r.kind == RelationKind::Together)
                break; // said at its point
        }
    }
}

void DrawingTable::paintDimensions(QPainter& p) const {
    const Theme& t = theme();
    for (const Relation& r : m_model->drawing().relations) {
        if (!wordsOf(r.kind).sized || r.id == m_editing) continue;
        const bool clash = m_model->clashes(r.id);
        if (r.quiet && !clash) continue;
        const DimensionShape s = shapeOf(r);
        p.setPen(QPen(clash ? t.fail : t.inkSoft, 1));
        p.setBrush(Qt::NoBrush);
        for (const auto& line : s.lines)
            for (std::size_t i = 1; i < line.size(); ++i)
                p.drawLine(toScreen(line[i - 1]), toScreen(line[i]));
        for (const auto& [at, along] : s.ticks) {
            const QPointF q = toScreen(at), u(along.x, -along.y), n(u.y(), -u.x());
            p.drawLine(q - n * 4, q + n * 4);
        }
        p.setFont(figureFont());
        const QRectF box = figureBox(r);
        p.setPen(Qt::NoPen);
        p.setBrush(t.card);
        p.drawRect(box);
        p.setPen(clash ? t.fail : t.ink);
        p.drawText(box, Qt::AlignCenter, figureText(r));
    }
}

void DrawingTable::paintTroubles(QPainter& p) const {
    const Theme& t = theme();
    p.setBrush(Qt::NoBrush);
    for (const Trouble& trouble : m_model->closedness().troubles) {
        if (trouble.kind == TroubleKind::LooseEnd && m_chainEnd) continue; // it is being drawn
        p.setPen(QPen(t.watch, 1.8));
        const QPointF a = toScreen(trouble.at), b = toScreen(trouble.to);
        p.drawEllipse((a + b) / 2, 10, 10);
        if (trouble.kind == TroubleKind::Gap) p.drawLine(a, b);
    }
    if (!m_shown) return;
    // The motion that the pointer asks for, there and back.
    const double swing = std::sin(m_phase) * 14 / m_scale;
    const Drawing& d = m_model->drawing();
    Drawing moved = d;
    for (DrawnPoint& q : moved.points)
        if (const auto it = m_shown->points.find(q.id); it != m_shown->points.end())
            q.at = q.at + it->second * swing;
    for (Stroke& s : moved.strokes)
        if (const auto it = m_shown->sizes.find(s.id); it != m_shown->sizes.end() && !s.sizes.empty())
            s.sizes[0] = std::max(1e-6, s.sizes[0] + it->second * swing);
    p.setPen(QPen(t.halo, 2.2));
    for (const Stroke& s : moved.strokes)
        if (!(s == *d.findStroke(s.id)) || std::any_of(s.points.begin(), s.points.end(),
                                                       [&](int id) { return m_shown->points.count(id) > 0; }))
            p.drawPath(pathThrough(curvesOf(moved, s), 0.2 / m_scale));
}

void DrawingTable::paintChips(QPainter& p) {
    const Theme& t = theme();
    p.setFont(textFont(13, QFont::DemiBold));
    double y = height() - 42;
    for (int row = 0; row < 2; ++row) {
        double x = 14;
        bool any = false;
        // Laid out first, so that a row that wraps grows upwards and keeps its order.
        std::vector<std::pair<Button*, QPointF>> places;
        double top = 0;
        for (Button& b : m_chips) {
            if (b.row != row) continue;
            any = true;
            const double w = p.fontMetrics().horizontalAdvance(b.label) + 18;
            if (x + w > width() - 14) x = 14, top += 34;
            b.rect = QRectF(x, top, w, 28);
            places.push_back({&b, {}});
            x += w + 6;
        }
        for (auto& [b, unused] : places) {
            (void)unused;
            b->rect.translate(0, y - top);
            const bool hot = b->rect.contains(m_pointer) || b->on;
            p.setPen(QPen(hot ? t.accent : t.line, 1.3));
            p.setBrush(hot ? t.accentSoft : t.paper);
            p.drawRoundedRect(b->rect, 7, 7);
            p.setPen(hot ? t.accent : t.ink);
            p.drawText(b->rect, Qt::AlignCenter, b->label);
        }
        if (any) y -= top + 36;
    }
}

} // namespace gc::app
