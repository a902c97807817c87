// Settling a drawing as a whole: to other sizes, after what it follows of a body has moved, to another scale.

#include "core/sketch/solve/settle.hpp"

#include <algorithm>

namespace gc {

Settlement settleTo(Drawing& drawing, const DimensionValues& values) {
    Settler settler(drawing);
    const Settlement s = settler.change(values);
    if (s.solved && s.senseKept) drawing = settler.drawing();
    return s;
}

void scaleDrawing(Drawing& drawing, double factor) {
    for (DrawnPoint& p : drawing.points) p.at = p.at * factor;
    for (Stroke& s : drawing.strokes)
        if (s.kind != StrokeKind::Conic)
            for (double& size : s.sizes) size *= factor;
    if (TracedPicture* p = drawing.picture ? &*drawing.picture : nullptr) {
        p->at = p->at * factor;
        p->width *= factor;
        p->height *= factor;
    }
    for (Relation& r : drawing.relations) {
        if (r.kind != RelationKind::Carried) // its shares are none of lengths
            for (Vec2& p : r.where) p = p * factor;
        r.label = r.label * factor;
    }
}

Settlement settleTraces(Drawing& drawing, const Drawing& before, const DimensionValues& values) {
    const Settlement atOnce = settleTo(drawing, values);
    if (atOnce.solved && atOnce.senseKept) return atOnce;
    // Where a traced corner moves further than its neighbour is long, that has to be pushed along.
    const auto wherePartly = [&](const Drawing& from, double share) {
        Drawing d = from;
        for (Relation& r : d.relations) {
            const Relation *old = before.findRelation(r.id), *now = drawing.findRelation(r.id);
            if (!old || !now || old->where.size() != now->where.size()) {
                if (now) r.where = now->where;
                continue;
            }
            for (std::size_t i = 0; i < r.where.size(); ++i)
                r.where[i] = old->where[i] + (now->where[i] - old->where[i]) * share;
        }
        for (Stroke& s : d.strokes)
            if (const Stroke* now = drawing.findStroke(s.id); now && now->kind == StrokeKind::Spline)
                s.sizes = now->sizes;
        return d;
    };
    constexpr double kLeast = 1.0 / 128;
    Drawing here = before;
    double done = 0, part = 0.25;
    while (done < 1 - 1e-12) {
        const double to = std::min(1.0, done + part);
        Drawing trial = wherePartly(here, to);
        const Settlement s = settleTo(trial, values);
        if (s.solved && s.senseKept) {
            here = std::move(trial);
            done = to;
            part = std::min(1.0, part * 2);
        } else if ((part /= 2) < kLeast) {
            return atOnce;
        }
    }
    drawing = std::move(here);
    Settlement out;
    out.solved = true;
    return out;
}

} // namespace gc
