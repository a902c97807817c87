#include "core/exchange/drawings/svg_path.hpp"
#include "core/base/angles.hpp"

#include <cctype>
#include <charconv>
#include <cmath>
#include <map>
#include <string>
#include <vector>

namespace gc {

namespace {

/// The pen of a path: where it is, and what the next smooth command needs to know.
class Pen {
  public:
    explicit Pen(PathCollector& to) : m_to(to) {}

    /// Draws one command with its numbers. \return false for a letter that is none
    bool draw(char command, NumberScanner& scan);

  private:
    bool place(NumberScanner& scan, bool relative, Vec2& out) {
        if (!scan.number(out.x) || !scan.number(out.y)) return false;
        if (relative) out = out + m_at;
        return true;
    }
    void lineTo(Vec2 p) {
        m_to.line(m_at, p);
        m_at = p;
    }
    bool curve(NumberScanner& scan, char kind, bool relative);
    bool arc(NumberScanner& scan, bool relative);
    void drawArc(Vec2 to, double rx, double ry, double tilt, bool large, bool sweep);

    PathCollector& m_to;
    Vec2 m_at, m_start;
    Vec2 m_handle;       ///< the last handle, for S and T
    char m_before = 'M'; ///< the last command, in capitals
};

bool Pen::draw(char command, NumberScanner& scan) {
    const bool relative = std::islower(static_cast<unsigned char>(command)) != 0;
    const char kind = static_cast<char>(std::toupper(static_cast<unsigned char>(command)));
    Vec2 p = m_at;
    switch (kind) {
    case 'M':
        if (!place(scan, relative, p)) return false;
        m_at = m_start = p;
        break;
    case 'Z':
        if (length(m_at - m_start) > 0) m_to.line(m_at, m_start);
        m_at = m_start;
        break;
    case 'L':
        if (!place(scan, relative, p)) return false;
        lineTo(p);
        break;
    case 'H':
    case 'V': {
        double v = 0;
        if (!scan.number(v)) return false;
        if (kind == 'H')
            p.x = v + (relative ? m_at.x : 0);
        else
            p.y = v + (relative ? m_at.y : 0);
        lineTo(p);
        break;
    }
    case 'C':
    case 'S':
    case 'Q':
    case 'T':
        if (!curve(scan, kind, relative)) return false;
        break;
    case 'A':
        if (!arc(scan, relative)) return false;
        break;
    default:
        return false;
    }
    m_before = kind;
    return true;
}

bool Pen::curve(NumberScanner& scan, char kind, bool relative) {
    Vec2 first, second, end;
    const bool cubic = kind == 'C' || kind == 'S', smooth = kind == 'S' || kind == 'T';
    if (smooth) { // the last handle mirrored, if the last command had one of its sort
        const bool follows = cubic ? m_before == 'C' || m_before == 'S' : m_before == 'Q' || m_before == 'T';
        first = follows ? m_at * 2 - m_handle : m_at;
    } else if (!place(scan, relative, first)) {
        return false;
    }
    if (cubic && !place(scan, relative, second)) return false;
    if (!place(scan, relative, end)) return false;
    if (cubic)
        m_to.cubic({m_at, first, second, end});
    else
        m_to.quadratic(m_at, first, end);
    m_handle = cubic ? second : first;
    m_at = end;
    return true;
}

bool Pen::arc(NumberScanner& scan, bool relative) {
    double rx = 0, ry = 0, tilt = 0;
    bool large = false, sweep = false;
    Vec2 to;
    if (!scan.number(rx) || !scan.number(ry) || !scan.number(tilt) || !scan.flag(large) ||
        !scan.flag(sweep) || !place(scan, relative, to))
        return false;
    drawArc(to, std::fabs(rx), std::fabs(ry), tilt * kPi / 180, large, sweep);
    m_at = to;
    return true;
}

/// From ends to centre: SVG 1.1, appendix F.6.5 and F.6.6.
void Pen::drawArc(Vec2 to, double rx, double ry, double tilt, bool large, bool sweep) {
    if (length(to - m_at) == 0) return;
    if (rx < 1e-12 || ry < 1e-12) return m_to.line(m_at, to);
    const double c = std::cos(tilt), s = std::sin(tilt);
    const Vec2 half = (m_at - to) * 0.5;
    const Vec2 q{c * half.x + s * half.y, -s * half.x + c * half.y};
    const double need = q.x * q.x / (rx * rx) + q.y * q.y / (ry * ry);
    if (need > 1) rx *= std::sqrt(need), ry *= std::sqrt(need);
    const double left = rx * rx * ry * ry - rx * rx * q.y * q.y - ry * ry * q.x * q.x;
    double k = std::sqrt(std::max(0.0, left) / (rx * rx * q.y * q.y + ry * ry * q.x * q.x));
    if (large == sweep) k = -k;
    const Vec2 middle{k * rx * q.y / ry, -k * ry * q.x / rx};
    const Vec2 centre = Vec2{c * middle.x - s * middle.y, s * middle.x + c * middle.y} + (m_at + to) * 0.5;
    const auto angle = [&](Vec2 p) { return std::atan2(p.y / ry, p.x / rx); };
    const double from = angle(q - middle);
    double turn = angle(q * -1 - middle) - from;
    if (sweep && turn < 0) turn += 2 * kPi;
    if (!sweep && turn > 0) turn -= 2 * kPi;
    m_to.ellipse(centre, Vec2{c, s} * rx, Vec2{-s, c} * ry, from, turn);
}

} // namespace

void NumberScanner::skip() {
    while (m_at < m_text.size() &&
           (std::isspace(static_cast<unsigned char>(m_text[m_at])) || m_text[m_at] == ','))
        ++m_at;
}

bool NumberScanner::number(double& out) {
    skip();
    std::size_t begin = m_at;
    if (begin < m_text.size() && m_text[begin] == '+') ++begin; // from_chars takes no plus
    const auto r = std::from_chars(m_text.data() + begin, m_text.data() + m_text.size(), out);
    if (r.ec != std::errc() || !std::isfinite(out)) return false;
    m_at = static_cast<std::size_t>(r.ptr - m_text.data());
    return true;
}

bool NumberScanner::flag(bool& out) {
    skip();
    if (m_at >= m_text.size() || (m_text[m_at] != '0' && m_text[m_at] != '1')) return false;
    out = m_text[m_at++] == '1';
    return true;
}

char NumberScanner::letter() {
    skip();
    if (m_at >= m_text.size() || !std::isalpha(static_cast<unsigned char>(m_text[m_at]))) return 0;
    return m_text[m_at++];
}

bool NumberScanner::done() {
    skip();
    return m_at >= m_text.size();
}

bool drawPathData(std::string_view data, PathCollector& to) {
    NumberScanner scan(data);
    Pen pen(to);
    char command = 0;
    while (!scan.done() && !to.full()) {
        if (const char next = scan.letter())
            command = next;
        else if (command == 'M') // further places of a move are lines
            command = 'L';
        else if (command == 'm')
            command = 'l';
        else if (command == 0 || command == 'Z' || command == 'z')
            return false;
        if (!pen.draw(command, scan)) return false;
    }
    return true;
}

Affine transformList(std::string_view text) {
    Affine all;
    std::size_t at = 0;
    while (at < text.size()) {
        const auto open = text.find('(', at), close = text.find(')', at);
        if (open == std::string_view::npos || close == std::string_view::npos || close < open) break;
        std::string name;
        for (const char ch : text.substr(at, open - at))
            if (std::isalpha(static_cast<unsigned char>(ch))) name += ch;
        NumberScanner scan(text.substr(open + 1, close - open - 1));
        std::vector<double> v;
        for (double x = 0; scan.number(x);) v.push_back(x);
        const auto value = [&](std::size_t i, double fallback) { return i < v.size() ? v[i] : fallback; };
        Affine one;
        if (name == "matrix" && v.size() == 6)
            one = {v[0], v[1], v[2], v[3], v[4], v[5]};
        else if (name == "translate")
            one.e = value(0, 0), one.f = value(1, 0);
        else if (name == "scale")
            one.a = value(0, 1), one.d = value(1, one.a);
        else if (name == "rotate") {
            const double t = value(0, 0) * kPi / 180, x = value(1, 0), y = value(2, 0);
            const Affine turn{std::cos(t), std::sin(t), -std::sin(t), std::cos(t), 0, 0};
            one = Affine{1, 0, 0, 1, x, y} * turn * Affine{1, 0, 0, 1, -x, -y};
        } else if (name == "skewX")
            one.c = std::tan(value(0, 0) * kPi / 180);
        else if (name == "skewY")
            one.b = std::tan(value(0, 0) * kPi / 180);
        else
            break;
        all = all * one;
        at = close + 1;
    }
    return all;
}

} // namespace gc
