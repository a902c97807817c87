#include "app/look/small_picture.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace gc::app {

namespace {

/// Where a point of space is in a picture: across, down and towards the eye.
class CornerView {
  public:
    CornerView(const std::vector<QVector3D>& points, QSize size) {
        constexpr float kMargin = 0.06f;
        float low[2] = {1e30f, 1e30f}, high[2] = {-1e30f, -1e30f};
        for (const QVector3D& p : points)
            for (int i = 0; i < 2; ++i) {
                const float c = QVector3D::dotProduct(p, i == 0 ? across() : down());
                low[i] = std::min(low[i], c), high[i] = std::max(high[i], c);
            }
        const float wide = float(size.width()), tall = float(size.height());
        m_scale = (1 - 2 * kMargin) * std::min(wide / std::max(high[0] - low[0], 1e-6f),
                                               tall / std::max(high[1] - low[1], 1e-6f));
        m_from = {wide / 2 - m_scale * (low[0] + high[0]) / 2, tall / 2 - m_scale * (low[1] + high[1]) / 2,
                  0};
    }
    QVector3D operator()(const QVector3D& p) const {
        return m_from + m_scale * QVector3D(QVector3D::dotProduct(p, across()),
                                            QVector3D::dotProduct(p, down()),
                                            QVector3D::dotProduct(p, towards()));
    }
    static QVector3D towards() { return QVector3D(0.45f, -0.75f, 0.5f).normalized(); }

  private:
    static QVector3D across() { return QVector3D::crossProduct({0, 0, 1}, towards()).normalized(); }
    static QVector3D down() { return -QVector3D::crossProduct(towards(), across()); }
    float m_scale = 1;
    QVector3D m_from;
};

/// Paints triangles, the nearest to the eye in front.
class SmallCanvas {
  public:
    explicit SmallCanvas(QSize size)
        : m_image(size, QImage::Format_ARGB32),
          m_depth(std::size_t(size.width()) * std::size_t(size.height()),
                  -std::numeric_limits<float>::max()) {
        m_image.fill(Qt::transparent);
    }
    void paint(const std::array<QVector3D, 3>& at, QRgb colour) {
        const float area = cross(at[1] - at[0], at[2] - at[0]);
        if (std::fabs(area) < 1e-9f) return;
        const auto [left, right] = std::minmax({at[0].x(), at[1].x(), at[2].x()});
        const auto [top, bottom] = std::minmax({at[0].y(), at[1].y(), at[2].y()});
        const int w = m_image.width(), h = m_image.height();
        for (int y = std::max(0, int(top)); y <= std::min(h - 1, int(bottom)); ++y)
            for (int x = std::max(0, int(left)); x <= std::min(w - 1, int(right)); ++x) {
                const QVector3D p(float(x) + 0.5f, float(y) + 0.5f, 0);
                const float a = cross(at[2] - at[1], p - at[1]) / area,
                            b = cross(at[0] - at[2], p - at[2]) / area, c = 1 - a - b;
                if (a < 0 || b < 0 || c < 0) continue;
                const float depth = a * at[0].z() + b * at[1].z() + c * at[2].z();
                float& there = m_depth[std::size_t(y) * std::size_t(w) + std::size_t(x)];
                if (depth <= there) continue;
                there = depth;
                reinterpret_cast<QRgb*>(m_image.scanLine(y))[x] = colour;
            }
    }
    const QImage& image() const { return m_image; }

  private:
    static float cross(const QVector3D& a, const QVector3D& b) { return a.x() * b.y() - a.y() * b.x(); }
    QImage m_image;
    std::vector<float> m_depth;
};

QRgb lit(const QColor& colour, const QVector3D& normal) {
    const QVector3D light = QVector3D(0.2f, -0.45f, 0.87f).normalized();
    const float share = 0.62f + 0.38f * std::max(0.0f, QVector3D::dotProduct(normal, light));
    return qRgb(int(float(colour.red()) * share), int(float(colour.green()) * share),
                int(float(colour.blue()) * share));
}

} // namespace

QImage smallPicture(const std::vector<QVector3D>& points, const std::vector<std::uint32_t>& triangles,
                    QSize size, double pixels, const QColor& colour) {
    constexpr int kFiner = 3; // painted so many times as large, for smooth borders
    const QSize real(int(size.width() * pixels), int(size.height() * pixels));
    SmallCanvas canvas(real * kFiner);
    const CornerView view(points, real * kFiner);
    for (std::size_t i = 0; i + 2 < triangles.size(); i += 3) {
        std::array<QVector3D, 3> corners, at;
        for (std::size_t k = 0; k < 3; ++k) {
            corners[k] = points[triangles[i + k]];
            at[k] = view(corners[k]);
        }
        QVector3D normal = QVector3D::normal(corners[0], corners[1], corners[2]);
        // Of what is open the inside is seen, too.
        if (QVector3D::dotProduct(normal, CornerView::towards()) < 0) normal = -normal;
        canvas.paint(at, lit(colour, normal));
    }
    QImage out = canvas.image().scaled(real, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
    out.setDevicePixelRatio(pixels);
    return out;
}

} // namespace gc::app
