#include "app/table/clearance.hpp"
#include "app/look/points.hpp"

namespace gc::app {

bool runsThrough(const Drawing& d, const TableView& view, const Figures& figures, const QRectF& box) {
    constexpr double kDeviation = 1; // pixels
    if (figures.anyIn(box)) return true;
    for (const Stroke& s : d.strokes) {
        for (const int p : endPoints(s))
            if (box.contains(view.toScreen(d.at(p)))) return true;
        if (s.kind == StrokeKind::Point && box.contains(view.toScreen(d.at(s.points[0])))) return true;
        for (const Curve2& c : curvesOf(d, s)) {
            Vec2 low, high;
            c.bounds(low, high);
            const QRectF around =
                QRectF(view.toScreen({low.x, high.y}), view.toScreen({high.x, low.y})).adjusted(-1, -1, 1, 1);
            if (!around.intersects(box)) continue;
            const auto points = c.sampled(kDeviation / view.scale);
            for (std::size_t i = 1; i < points.size(); ++i)
                if (crosses({view.toScreen(points[i - 1]), view.toScreen(points[i])}, box)) return true;
        }
    }
    return false;
}

} // namespace gc::app
