#include "app/table/painters/strokes.hpp"

#include "app/look/theme.hpp"
#include "core/sketch/drawing_words.hpp"

#include <QPainter>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace gc::app {

namespace {

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

bool isClashing(const TableScene& scene, const Stroke& s) {
    const auto& clashes = scene.model.diagnosis().clashes;
    return std::any_of(clashes.begin(), clashes.end(), [&](const Clash& c) {
        return std::any_of(c.relations.begin(), c.relations.end(), [&](int id) {
            const Relation* r = scene.drawing().findRelation(id);
            return r && std::find(r->of.begin(), r->of.end(), s.id) != r->of.end();
        });
    });
}

void paintStroke(QPainter& p, const TableScene& scene, const Stroke& s) {
    const Theme& t = theme();
    const bool clash = isClashing(scene, s);
    const bool settled = scene.model.diagnosis().sound() && isSettled(scene.model.freedoms(), s);
    const bool chosen = scene.isMarked(s.id);
    const QPainterPath path = scene.view.pathOf(scene.drawing(), s);
    if (scene.hover == s.id || chosen) {
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

void paintNode(QPainter& p, const TableScene& scene, int id) {
    const Theme& t = theme();
    const QPointF at = scene.toScreen(scene.drawing().at(id));
    const bool chosen = scene.isMarked(id);
    if (scene.hover == id || chosen) {
        p.setPen(Qt::NoPen);
        QColor halo = chosen ? t.accent : t.halo;
        halo.setAlphaF(0.5f);
        p.setBrush(halo);
        p.drawEllipse(at, 9, 9);
    }
    const bool loose = scene.model.freedoms().points.count(id) > 0;
    p.setPen(QPen(t.ink, 1.5));
    p.setBrush(loose ? t.card : t.ink);
    if (loose)
        p.drawEllipse(at, 4.2, 4.2);
    else
        p.drawRect(QRectF(at.x() - 3, at.y() - 3, 6, 6));
}

} // namespace

std::set<int> groupedStrokes(const Drawing& drawing) {
    std::set<int> out;
    for (const Relation& r : drawing.relations)
        if (r.kind == RelationKind::Together) out.insert(r.of.begin(), r.of.end());
    return out;
}

void paintStrokes(QPainter& p, const TableScene& scene) {
    for (const Stroke& s : scene.drawing().strokes) paintStroke(p, scene, s);
}

void paintHandles(QPainter& p, const TableScene& scene) {
    const Drawing& d = scene.drawing();
    const std::set<int> grouped = groupedStrokes(d);
    p.setPen(QPen(theme().inkSoft, 1, Qt::DotLine));
    const auto hairline = [&](const Stroke& s, std::size_t from, std::size_t to) {
        p.drawLine(scene.toScreen(d.at(s.points[from])), scene.toScreen(d.at(s.points[to])));
    };
    for (const Stroke& s : d.strokes) {
        if (grouped.count(s.id)) continue;
        if (s.kind == StrokeKind::Poles)
            for (std::size_t i = 1; i < s.points.size(); ++i) hairline(s, i - 1, i);
        if (s.kind == StrokeKind::Spline)
            for (std::size_t node = 0; node < s.held.size(); ++node)
                if (s.held[node]) hairline(s, 2 * node, 2 * node + 1);
    }
}

namespace {

/// The points that can be taken hold of: a handle that follows its nodes is no such place.
std::vector<int> nodesOf(const Drawing& d) {
    std::vector<int> out;
    for (const Stroke& s : d.strokes)
        for (std::size_t i = 0; i < s.points.size(); ++i)
            if (s.kind != StrokeKind::Spline || i % 2 == 0 || (i / 2 < s.held.size() && s.held[i / 2]))
                out.push_back(s.points[i]);
    return out;
}

/// Nodes of which others stand so near that they would run into one.
std::set<int> crowdedNodes(const TableScene& scene, const std::vector<int>& nodes) {
    constexpr double kApart = 9, kSame = 0.5; // pixels
    std::map<std::pair<int, int>, std::vector<std::pair<QPointF, int>>> cells;
    const auto cell = [](QPointF at) {
        return std::pair{static_cast<int>(std::floor(at.x() / kApart)),
                         static_cast<int>(std::floor(at.y() / kApart))};
    };
    for (const int id : nodes) {
        const QPointF at = scene.toScreen(scene.drawing().at(id));
        cells[cell(at)].emplace_back(at, id);
    }
    std::set<int> out;
    for (const auto& [key, own] : cells)
        for (const auto& [at, id] : own)
            for (int i = -1; i <= 1; ++i)
                for (int j = -1; j <= 1; ++j) {
                    const auto near = cells.find({key.first + i, key.second + j});
                    if (near == cells.end()) continue;
                    for (const auto& [other, otherId] : near->second) {
                        const double apart = (other - at).manhattanLength();
                        if (apart > kSame && apart < kApart) out.insert(id);
                    }
                }
    return out;
}

} // namespace

void paintNodes(QPainter& p, const TableScene& scene) {
    constexpr double kNear = 60; // pixels
    const Drawing& d = scene.drawing();
    std::set<int> grouped;
    for (const int id : groupedStrokes(d))
        if (const Stroke* s = d.findStroke(id)) grouped.insert(s->points.begin(), s->points.end());
    const std::vector<int> nodes = nodesOf(d);
    const std::set<int> crowded = crowdedNodes(scene, nodes);
    for (const int id : nodes) {
        if (grouped.count(id) && scene.hover != id) continue;
        // Where they crowd, those that the pointer is near are enough.
        const bool near = (scene.toScreen(d.at(id)) - scene.pointer).manhattanLength() < kNear;
        if (crowded.count(id) && !near && !scene.isMarked(id)) continue;
        paintNode(p, scene, id);
    }
    const QPointF zero = scene.toScreen({0, 0});
    const bool hot = scene.hover == kOrigin;
    p.setPen(QPen(hot ? theme().halo : theme().accent, hot ? 3 : 1.6));
    p.drawLine(zero - QPointF(6, 0), zero + QPointF(6, 0));
    p.drawLine(zero - QPointF(0, 6), zero + QPointF(0, 6));
}

void paintTroubles(QPainter& p, const TableScene& scene) {
    p.setBrush(Qt::NoBrush);
    for (const Trouble& trouble : scene.model.closedness().troubles) {
        if (trouble.kind == TroubleKind::LooseEnd && scene.chainOpen) continue;
        p.setPen(QPen(theme().watch, 1.8));
        const QPointF a = scene.toScreen(trouble.at), b = scene.toScreen(trouble.to);
        p.drawEllipse((a + b) / 2, 10, 10);
        if (trouble.kind == TroubleKind::Gap) p.drawLine(a, b);
    }
}

void paintMotion(QPainter& p, const TableScene& scene, const FreeMotion& motion, double by) {
    const double swing = by / scene.view.scale;
    const Drawing& d = scene.drawing();
    Drawing moved = d;
    for (DrawnPoint& q : moved.points)
        if (const auto it = motion.points.find(q.id); it != motion.points.end())
            q.at = q.at + it->second * swing;
    for (Stroke& s : moved.strokes)
        if (const auto it = motion.sizes.find(s.id); it != motion.sizes.end() && !s.sizes.empty())
            s.sizes[0] = std::max(1e-6, s.sizes[0] + it->second * swing);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme().halo, 2.2));
    for (const Stroke& s : moved.strokes)
        if (!(s == *d.findStroke(s.id)) || std::any_of(s.points.begin(), s.points.end(),
                                                       [&](int id) { return motion.points.count(id) > 0; }))
            p.drawPath(scene.view.pathOf(moved, s));
}

void paintPreview(QPainter& p, const TableScene& scene, const Drawing& preview) {
    const Drawing& now = scene.drawing();
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme().accent, 2));
    for (const Stroke& s : preview.strokes) {
        const Stroke* was = now.findStroke(s.id);
        const bool same = was && *was == s && std::all_of(s.points.begin(), s.points.end(), [&](int id) {
                              return preview.at(id) == now.at(id);
                          });
        if (!same) p.drawPath(scene.view.pathOf(preview, s));
    }
}

} // namespace gc::app
