#include "app/table/painters/relation_marks.hpp"

#include "app/look/theme.hpp"
#include "core/sketch/drawing_words.hpp"

#include <QPainter>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc::app {

namespace {

constexpr double kRoomForSigns = 44; // pixels of a stroke

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

/// Joints are seen as such; what repetition ties is seen by its pitch.
bool hasSign(const Relation& r) {
    return !wordsOf(r.kind).sized && r.kind != RelationKind::Coincident && r.kind != RelationKind::SameStep;
}

/// Said at its point, once.
bool isSaidOnce(RelationKind kind) {
    return kind == RelationKind::OnStroke || kind == RelationKind::Midpoint || kind == RelationKind::Together;
}

/// Beside the middle of a stroke, above it, after so many others.
QPointF besideStroke(const QPainterPath& path, int others) {
    const double a = path.angleAtPercent(0.5) * std::numbers::pi / 180;
    QPointF n(-std::sin(a), -std::cos(a)), along(std::cos(a), -std::sin(a));
    if (n.y() > 1e-6) n = -n, along = -along;
    return path.pointAtPercent(0.5) + n * 13 + along * (16.0 * others);
}

} // namespace

int RelationMarks::at(QPointF place) const {
    for (const auto& [mark, relation] : m_marks)
        if ((mark - place).manhattanLength() < 9) return relation;
    return 0;
}

QPointF RelationMarks::placeOf(int relation) const {
    for (const auto& [place, id] : m_marks)
        if (id == relation) return place;
    return {};
}

std::optional<QPointF> RelationMarks::placeAt(const TableScene& scene, const Relation& r, int of,
                                              bool asked) {
    const bool clash = scene.model.clashes(r.id);
    if (const Stroke* s = scene.drawing().findStroke(of)) {
        const QPainterPath path = scene.view.pathOf(scene.drawing(), *s);
        if (path.isEmpty()) return std::nullopt;
        // On what is small in the view signs would hide it: they come when it is pointed at, or nearer.
        const bool wanted = asked || clash || scene.hover == of || scene.isMarked(of);
        if (!wanted && path.length() < kRoomForSigns) return std::nullopt;
        // A repetition would pile up signs: one of a kind is enough.
        if (!clash && !m_signed.insert({of, r.kind}).second) return std::nullopt;
        return besideStroke(path, m_used[of]);
    }
    if (of > 0) return scene.toScreen(scene.drawing().at(of)) + QPointF(12 + 14.0 * m_used[of], -12);
    return std::nullopt;
}

void RelationMarks::paint(QPainter& p, const TableScene& scene) {
    const int pointed = scene.choosing ? at(scene.pointer) : 0;
    m_marks.clear();
    m_used.clear();
    m_signed.clear();
    const Theme& t = theme();
    p.setBrush(Qt::NoBrush);
    for (const Relation& r : scene.drawing().relations) {
        if (!hasSign(r)) continue;
        const bool chosen = scene.isMarked(r.id), hot = pointed == r.id;
        for (const int of : r.of) {
            const auto at = placeAt(scene, r, of, chosen || hot);
            if (!at) continue;
            ++m_used[of];
            m_marks.push_back({*at, r.id});
            if (chosen || hot || (*at - scene.pointer).manhattanLength() < 9) {
                QColor halo = chosen ? t.accent : t.halo;
                halo.setAlphaF(0.35f);
                p.setPen(Qt::NoPen);
                p.setBrush(halo);
                p.drawEllipse(*at, 9, 9);
                p.setBrush(Qt::NoBrush);
            }
            p.setPen(QPen(scene.model.clashes(r.id) ? t.fail : t.good, 1.4));
            drawMark(p, r.kind, *at);
            if (isSaidOnce(r.kind)) break;
        }
    }
}

} // namespace gc::app
