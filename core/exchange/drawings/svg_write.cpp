#include "core/exchange/drawings/drawing_files.hpp"
#include "core/sketch/edit/offset.hpp"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <functional>
#include <numbers>

namespace gc {

namespace {

constexpr double kFit = 0.0001; ///< mm

std::string text(double v) {
    char buffer[40];
    std::snprintf(buffer, sizeof buffer, "%.9g", std::fabs(v) < 1e-12 ? 0.0 : v);
    return buffer;
}

class Path {
  public:
    explicit Path(double top) : m_top(top) {}

    std::string at(Vec2 p) const { return text(p.x) + " " + text(m_top - p.y); }
    void move(Vec2 p) { data += "M " + at(p) + " "; }
    void close() { data += "Z "; }

    void curve(const Curve2& c) {
        switch (c.kind) {
        case Curve2::Kind::Line:
            data += "L " + at(c.p[1]) + " ";
            break;
        case Curve2::Kind::Cubic:
            data += "C " + at(c.p[1]) + " " + at(c.p[2]) + " " + at(c.p[3]) + " ";
            break;
        case Curve2::Kind::Conic:
            conic(c, 0, 1, 0);
            break;
        case Curve2::Kind::Ellipse: {
            // In parts of less than a third of a turn: near half a turn the ends do not say the centre well.
            const int parts = static_cast<int>(std::ceil(std::fabs(c.turn) / 2));
            for (int k = 0; k < parts; ++k)
                ellipse(c.part(static_cast<double>(k) / parts, static_cast<double>(k + 1) / parts));
            break;
        }
        }
    }

    std::string data;

  private:
    double m_top;

    void ellipse(const Curve2& c) {
        const double a = length(c.p[1]), b = length(c.p[2]);
        const double tilt = -std::atan2(c.p[1].y, c.p[1].x) * 180 / std::numbers::pi;
        const bool left = (c.turn > 0) == (cross(c.p[1], c.p[2]) > 0); // y runs down on the page
        data += "A " + text(a) + " " + text(b) + " " + text(tilt) + " 0 " + (left ? "0 " : "1 ") +
                at(c.at(1)) + " ";
    }

    /// A parabola as it is; others by cubics with the directions of the conic at their ends.
    void conic(const Curve2& whole, double from, double to, int depth) {
        const Curve2 c = whole.part(from, to);
        if (std::fabs(c.weight - 1) < 1e-12) {
            data += "Q " + at(c.p[1]) + " " + at(c.p[2]) + " ";
            return;
        }
        // The handle length that meets the shoulder: 4 w / (3 (1 + w)).
        const double k = 4 * c.weight / (3 * (1 + c.weight));
        Curve2 cubic;
        cubic.kind = Curve2::Kind::Cubic;
        cubic.p = {c.p[0], c.p[0] + (c.p[1] - c.p[0]) * k, c.p[2] + (c.p[1] - c.p[2]) * k, c.p[2]};
        double worst = 0;
        for (int i = 1; i < 16; ++i) {
            const Vec2 p = cubic.at(i / 16.0);
            worst = std::max(worst, length(c.at(c.nearest(p)) - p));
        }
        constexpr int kDeepest = 8;
        if (worst < kFit || depth > kDeepest) return curve(cubic);
        const double middle = 0.5 * (from + to);
        conic(whole, from, middle, depth + 1);
        conic(whole, middle, to, depth + 1);
    }
};

} // namespace

std::string writeSvg(const Drawing& d) {
    Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
    std::vector<int> ids;
    for (const Stroke& s : d.strokes) {
        if (s.helper || s.kind == StrokeKind::Point) continue;
        ids.push_back(s.id);
        for (const Curve2& c : curvesOf(d, s)) {
            Vec2 a, b;
            c.bounds(a, b);
            low = {std::min(low.x, a.x), std::min(low.y, a.y)};
            high = {std::max(high.x, b.x), std::max(high.y, b.y)};
        }
    }
    if (ids.empty()) low = high = {};
    // The page's lower left corner is the origin, so that what comes back lies where it lay.
    const double left = std::min(0.0, std::floor(low.x)), bottom = std::min(0.0, std::floor(low.y)),
                 width = std::max(1.0, std::ceil(high.x) - left),
                 height = std::max(1.0, std::ceil(high.y) - bottom);
    std::string out =
        "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"" +
        text(width) + "mm\" height=\"" + text(height) + "mm\" viewBox=\"" + text(left) + " " +
        text(-(bottom + height)) + " " + text(width) + " " + text(height) + "\">\n" +
        "<g fill=\"none\" stroke=\"#1F2B33\" stroke-width=\"0.2\">\n";
    for (const StrokeChain& chain : chainsOf(d, ids)) {
        Path path(0);
        bool first = true;
        for (std::size_t i = 0; i < chain.strokes.size(); ++i) {
            auto curves = curvesOf(d, *d.findStroke(chain.strokes[i]));
            if (!chain.forward[i]) {
                std::reverse(curves.begin(), curves.end());
                for (Curve2& c : curves) c = c.part(1, 0);
            }
            for (const Curve2& c : curves) {
                if (first) path.move(c.at(0));
                first = false;
                path.curve(c);
            }
        }
        if (chain.closed) path.close();
        out += "<path d=\"" + path.data + "\"/>\n";
    }
    return out + "</g>\n</svg>\n";
}

} // namespace gc
