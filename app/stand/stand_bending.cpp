// What the pointer reads of the surface; and how tightly it bends: its colours' legend, and combs over edges.

#include "app/look/theme.hpp"
#include "app/stand/card.hpp"
#include "app/stand/stand.hpp"

#include "app/link/forge_link.hpp"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace gc::app {

namespace {

constexpr float kStraight = 1e-5f; // 1/mm: what bends less is told as straight or flat
constexpr float kEdgeways = 0.02f; // of a triangle: what lies beside it by rounding is on it
constexpr float kReach = 0.14f;    // of the part's size: the longest tine of a comb

/// The next of 1, 2, 5 times a power of ten.
float roundRadius(float r) {
    const float ten = std::pow(10.f, std::floor(std::log10(r))), share = r / ten;
    return ten * (share < 1.5f ? 1.f : share < 3.5f ? 2.f : share < 7.5f ? 5.f : 10.f);
}

} // namespace

/// Half way to the full colour is what is common where the part is bent at all.
float Stand::commonBend() const {
    std::vector<float> bends;
    for (const auto& [id, mesh] : m_forge->meshes())
        for (const float k : mesh.bends)
            if (std::fabs(k) > kStraight) bends.push_back(std::fabs(k));
    if (bends.empty()) return 0.1f;
    const auto middle = bends.begin() + static_cast<std::ptrdiff_t>(bends.size() / 2);
    std::nth_element(bends.begin(), middle, bends.end());
    return 1 / roundRadius(1 / *middle);
}

void Stand::paintBendingLegend(QPainter& p) {
    const double w = std::min(230, width() - 60), x = width() - w - 24, top = m_overlayTop, y = top + 34;
    paintCard(p, QRectF(x - 14, top, w + 28, 102), tr("How tightly it bends"));
    constexpr int kSteps = 80;
    for (int i = 0; i < kSteps; ++i)
        p.fillRect(QRectF(x + w * i / kSteps, y, w / kSteps + 0.6, 8),
                   bendColour(2 * (i + 0.5) / kSteps - 1));
    p.setFont(textFont(11));
    p.setPen(theme().ink);
    const double common = 1 / static_cast<double>(std::max(m_options.mapLow, 1e-9f));
    for (const double s : {-0.5, 0.0, 0.5}) {
        const double at = x + w * (s + 1) / 2;
        p.drawLine(QPointF(at, y + 8), QPointF(at, y + 12));
        const QString text = s == 0 ? tr("flat") : tr("R %1").arg(lengthText(common, 2));
        p.drawText(QRectF(at - 40, y + 12, 80, 15), Qt::AlignCenter, text);
    }
    p.setPen(theme().inkSoft);
    p.drawText(QRectF(x, y + 27, 60, 15), Qt::AlignLeft | Qt::AlignVCenter, tr("hollow"));
    p.drawText(QRectF(x + w - 60, y + 27, 60, 15), Qt::AlignRight | Qt::AlignVCenter, tr("bulging"));
    p.setFont(textFont(10));
    p.drawText(QRectF(x, y + 45, w, 15), Qt::AlignCenter, tr("Point at an edge, or pick some, for combs."));
}

/// What was measured nearest to a point, within reach.
QString Stand::readingNear(const QVector3D& at, float reach) const {
    QString reading;
    const auto mm = [this](float v) {
        return v < 0 ? QStringLiteral("–") : lengthText(static_cast<double>(v), 2);
    };
    for (const auto& [name, f] : m_forge->fields())
        for (std::size_t i = 0; i < f.points.size(); ++i) {
            const bool away = m_options.overlay == Overlay::Deviation;
            if (away ? !f.awayFrom : f.ray[i] < 0 && f.ball[i] < 0) continue;
            const float d = (f.points[i] - at).length();
            if (d >= reach) continue;
            reach = d;
            reading = away ? deviationText(static_cast<double>(f.away[i]))
                      : m_options.overlay == Overlay::Lean
                          ? tr("lean %1°").arg(static_cast<double>(f.lean[i]), 0, 'f', 1)
                          : tr("wall %1\nball %2").arg(mm(f.ray[i]), mm(f.ball[i]));
        }
    return reading;
}

/// Of the triangle that lies there, or nearly.
QString Stand::bendNear(const QVector3D& at, float reach) const {
    std::optional<float> bend;
    for (const auto& [id, mesh] : m_forge->meshes()) {
        if (const auto style = m_styles.find(id); style != m_styles.end() && style->second.hidden) continue;
        for (std::size_t t = 0; t + 2 < mesh.triangles.size() && !mesh.bends.empty(); t += 3) {
            const std::uint32_t* corner = &mesh.triangles[t];
            const QVector3D a = mesh.points[corner[0]], u = mesh.points[corner[1]] - a,
                            v = mesh.points[corner[2]] - a, square = QVector3D::crossProduct(u, v);
            const float size = square.lengthSquared();
            if (!(size > 0)) continue;
            const QVector3D to = at - a;
            const float off = std::fabs(QVector3D::dotProduct(to, square)) / std::sqrt(size);
            if (off >= reach) continue;
            const float q = QVector3D::dotProduct(QVector3D::crossProduct(to, v), square) / size,
                        r = QVector3D::dotProduct(QVector3D::crossProduct(u, to), square) / size;
            if (q < -kEdgeways || r < -kEdgeways || q + r > 1 + kEdgeways) continue;
            reach = off;
            bend =
                mesh.bends[corner[0]] * (1 - q - r) + mesh.bends[corner[1]] * q + mesh.bends[corner[2]] * r;
        }
    }
    if (!bend) return {};
    if (std::fabs(*bend) <= kStraight) return tr("flat");
    const QString radius = lengthText(1 / std::fabs(static_cast<double>(*bend)), 2);
    return *bend > 0 ? tr("bulging, R %1").arg(radius) : tr("hollow, R %1").arg(radius);
}

/// The edges that are lit, and where they bend most.
Stand::Combs Stand::combs() const {
    std::vector<BodyItem> lit = m_forge->halo();
    if (m_options.hovered & kEdgeBit) lit.push_back(m_renderer.itemOf(m_options.hovered));
    Combs out;
    for (const BodyItem& item : lit) {
        const auto found = m_forge->meshes().find(item.body);
        if (!item.edge || item.item < 0 || found == m_forge->meshes().end()) continue;
        const BodyMesh& mesh = found->second;
        if (item.item >= static_cast<int>(mesh.edges.size())) continue;
        const EdgeLine& e = mesh.edges[static_cast<std::size_t>(item.item)];
        out.edges.emplace_back(&mesh, e);
        for (std::uint32_t i = e.first; i < e.first + e.count; ++i)
            if (const float k = mesh.lineBends[i].length(); k > out.most)
                out.most = k, out.tightest = mesh.lines[i];
    }
    return out;
}

QString Stand::combText() const {
    if (m_options.overlay != Overlay::Bending) return {};
    const float most = combs().most;
    return most > kStraight ? tr("tightest: R %1").arg(lengthText(1 / static_cast<double>(most), 2))
                            : QString();
}

/// Tines as long as the edge is bent, away from the centre of its circle.
void Stand::paintCombs(QPainter& p) {
    const Combs all = combs();
    if (all.most <= kStraight) return;
    const float scale = kReach * m_renderer.extent().size() / all.most;
    for (const auto& [mesh, e] : all.edges) {
        QPolygonF tips;
        p.setPen(QPen(theme().accent, 1));
        for (std::uint32_t i = e.first; i < e.first + e.count; ++i) {
            tips << m_camera.project(mesh->lines[i] - mesh->lineBends[i] * scale, size());
            p.drawLine(m_camera.project(mesh->lines[i], size()), tips.back());
        }
        p.setPen(QPen(theme().accent, 2));
        p.drawPolyline(tips);
    }
    paintCallout(p, m_camera.project(all.tightest, size()), combText());
}

} // namespace gc::app
