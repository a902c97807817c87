#include "app/table/table_view.hpp"

#include <algorithm>
#include <cmath>

namespace gc::app {

double TableView::gridStep() const {
    // Some thirty pixels wide.
    const double perUnit = scale * unit; // pixels
    const double decade = std::pow(10, std::floor(std::log10(30 / perUnit)));
    double step = decade;
    for (const double k : {2.0, 5.0, 10.0})
        if (step * perUnit < 24) step = decade * k;
    return step * unit;
}

void TableView::fit(Vec2 low, Vec2 high, double cardWidth) {
    const double across = std::max(high.x - low.x, 1e-3), tall = std::max(high.y - low.y, 1e-3);
    // Room for figures around it and for the card on the right.
    const double wide = std::max(200.0, size.width() - cardWidth - 118.0),
                 room = std::max(160.0, size.height() - 170.0);
    scale = std::clamp(std::min(wide / across, room / tall), 0.02, 400.0);
    zero = QPointF(70 + (wide - across * scale) / 2 - low.x * scale,
                   70 + (room + tall * scale) / 2 + low.y * scale);
}

void TableView::zoom(double factor, QPointF about) {
    const double now = std::clamp(scale * factor, 0.02, 2000.0);
    zero = about + (zero - about) * (now / scale);
    scale = now;
}

QPainterPath TableView::pathThrough(const std::vector<Curve2>& curves) const {
    constexpr double kDeviation = 0.2; // pixels
    QPainterPath path;
    for (const Curve2& c : curves) {
        const auto points = c.sampled(kDeviation / scale);
        for (std::size_t i = 0; i < points.size(); ++i) {
            const QPointF q = toScreen(points[i]);
            i == 0 && path.isEmpty() ? path.moveTo(q) : path.lineTo(q);
        }
    }
    return path;
}

} // namespace gc::app
