// How far the part lies from an imported body: the colours' range, their legend, and what the pointer reads.

#include "app/link/forge_link.hpp"
#include "app/look/points.hpp"
#include "app/look/theme.hpp"
#include "app/stand/card.hpp"
#include "app/stand/stand.hpp"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace gc::app {

namespace {

constexpr double kLeast = 0.01; // mm at the full colour: below that the triangles themselves are seen

} // namespace

bool Stand::canCompare() const {
    const auto& fields = m_forge->fields();
    return std::any_of(fields.begin(), fields.end(),
                       [](const auto& f) { return f.second.awayFrom.has_value(); });
}

/// The full colour is for what nearly all of the area stays below. What is compared with would lie over it.
void Stand::setDeviationRange() {
    double most = kLeast;
    for (const auto& [id, f] : m_forge->fields()) {
        if (!f.awayFrom) continue;
        most = std::max(most, f.most);
        m_options.without = *f.awayFrom;
    }
    m_options.mapHigh = static_cast<float>(roundStep(most));
    m_options.mapLow = -m_options.mapHigh;
}

QString Stand::deviationText(double away) const {
    return away < 0 ? tr("%1 inside of it").arg(lengthText(-away, 2))
                    : tr("%1 outside of it").arg(lengthText(away, 2));
}

void Stand::paintDeviationLegend(QPainter& p) {
    const double w = std::min(230, width() - 60), x = width() - w - 24, top = m_overlayTop, y = top + 34;
    paintCard(p, QRectF(x - 14, top, w + 28, 116), tr("From the imported body"));
    p.setFont(textFont(11));
    p.setPen(theme().ink);
    if (!canCompare()) {
        p.drawText(QRectF(x, top + 28, w, 60), Qt::AlignLeft | Qt::TextWordWrap,
                   m_forge->busy() || !m_forge->wallsKnown()
                       ? tr("No values yet: measuring …")
                       : tr("Nothing to compare with: import a scan as STL, OBJ or 3MF."));
        return;
    }
    constexpr int kSteps = 80;
    for (int i = 0; i < kSteps; ++i)
        p.fillRect(QRectF(x + w * i / kSteps, y, w / kSteps + 0.6, 8),
                   bendColour(2 * (i + 0.5) / kSteps - 1));
    const double full = static_cast<double>(m_options.mapHigh);
    for (const double s : {-1.0, 0.0, 1.0}) {
        const double at = x + w * (s + 1) / 2;
        p.drawLine(QPointF(at, y + 8), QPointF(at, y + 12));
        const auto where = s < 0 ? Qt::AlignLeft : s > 0 ? Qt::AlignRight : Qt::AlignHCenter;
        p.drawText(QRectF(at - (s + 1) * 45, y + 12, 90, 15), where | Qt::AlignVCenter,
                   s == 0 ? tr("on it") : lengthText(full, 2));
    }
    p.setPen(theme().inkSoft);
    p.drawText(QRectF(x, y + 27, 80, 15), Qt::AlignLeft | Qt::AlignVCenter, tr("inside"));
    p.drawText(QRectF(x + w - 80, y + 27, 80, 15), Qt::AlignRight | Qt::AlignVCenter, tr("outside"));
    double inside = 0, outside = 0, most = 0;
    for (const auto& [id, f] : m_forge->fields())
        if (f.awayFrom)
            inside = std::min(inside, f.inside), outside = std::max(outside, f.outside),
            most = std::max(most, f.most);
    p.setPen(theme().ink);
    p.drawText(QRectF(x, y + 46, w, 15), Qt::AlignLeft | Qt::AlignVCenter,
               tr("farthest: %1 inside, %2 outside").arg(lengthText(-inside, 2), lengthText(outside, 2)));
    p.drawText(QRectF(x, y + 61, w, 15), Qt::AlignLeft | Qt::AlignVCenter,
               tr("95 % of the surface within %1").arg(lengthText(most, 2)));
}

} // namespace gc::app
