#include "core/base/angles.hpp"
#include "core/exchange/drawings/dxf_spline.hpp"

#include <charconv>
#include <cmath>
#include <limits>
#include <map>
#include <set>

namespace gc {

namespace {

/// A line of two: what it is, and what it says.
struct Group {
    int code = 0;
    std::string text;
    double number() const {
        double v = 0;
        std::size_t begin = text.find_first_not_of(" \t+");
        if (begin == std::string::npos) return 0;
        std::from_chars(text.data() + begin, text.data() + text.size(), v);
        return std::isfinite(v) ? v : 0;
    }
    /// 0 for what is out of the range of a whole number.
    int whole() const {
        const double v = number();
        constexpr double kMost = std::numeric_limits<int>::max();
        return std::fabs(v) <= kMost ? static_cast<int>(v) : 0;
    }
};

/// From one code 0 to the next.
struct Entity {
    std::string kind;
    std::vector<Group> groups;

    double number(int code, double fallback = 0) const {
        for (const Group& g : groups)
            if (g.code == code) return g.number();
        return fallback;
    }
    int whole(int code, int fallback = 0) const {
        for (const Group& g : groups)
            if (g.code == code) return g.whole();
        return fallback;
    }
    std::string text(int code) const {
        for (const Group& g : groups)
            if (g.code == code) return g.text;
        return {};
    }
    Vec2 place(int code) const { return {number(code), number(code + 10)}; }
    std::vector<double> all(int code) const {
        std::vector<double> out;
        for (const Group& g : groups)
            if (g.code == code) out.push_back(g.number());
        return out;
    }
    /// Places are an x, and the y that follows it.
    std::vector<Vec2> places(int code) const {
        std::vector<Vec2> out;
        for (const Group& g : groups) {
            if (g.code == code) out.push_back({g.number(), 0});
            if (g.code == code + 10 && !out.empty()) out.back().y = g.number();
        }
        return out;
    }
};

std::string upTo(const std::string& content, std::size_t& at) {
    const auto end = content.find('\n', at);
    std::string line = content.substr(at, end == std::string::npos ? std::string::npos : end - at);
    at = end == std::string::npos ? content.size() : end + 1;
    while (!line.empty() && (line.back() == '\r' || line.back() == ' ')) line.pop_back();
    return line;
}

class Reader {
  public:
    explicit Reader(PathCollector& to) : m_to(to) {}

    std::optional<Error> read(const std::string& content) {
        std::size_t at = 0;
        std::string section;
        Entity now;
        std::vector<Entity>* into = nullptr;
        std::vector<Entity> header;
        int line = 0;
        bool ended = false;
        const auto close = [&] {
            if (into && !now.kind.empty()) into->push_back(std::move(now));
            now = {};
        };
        while (at < content.size() && !ended) {
            const std::string code = upTo(content, at);
            if (code.find_first_not_of(" \t") == std::string::npos && at >= content.size()) break;
            Group g;
            const std::size_t first = code.find_first_not_of(" \t");
            const auto r = std::from_chars(code.data() + (first == std::string::npos ? 0 : first),
                                           code.data() + code.size(), g.code);
            ++line;
            if (r.ec != std::errc() || at >= content.size())
                return errorOf("dxf.syntax",
                               phrase("This is no whole DXF file: line %1 should be the number of a group "
                                      "with its value below. Save it again, as text DXF.",
                                      std::to_string(line)));
            g.text = upTo(content, at);
            ++line;
            if (g.code != 0) {
                if (now.kind == "SECTION" && g.code == 2) {
                    section = g.text;
                    into = section == "ENTITIES" ? &m_entities
                           : section == "BLOCKS" ? &m_blocks
                           : section == "HEADER" ? &header
                                                 : nullptr;
                    now.kind = section == "HEADER" ? "HEADER" : "";
                } else if (!now.kind.empty()) {
                    now.groups.push_back(std::move(g));
                }
                continue;
            }
            close();
            now.kind = g.text;
            if (now.kind == "EOF") ended = true;
            if (now.kind == "ENDSEC") into = nullptr;
        }
        if (!ended)
            return errorOf(
                "dxf.syntax",
                phrase(
                    "This DXF file breaks off after line %1: its end is missing. Save it again, as text DXF.",
                    std::to_string(line)));
        scaleFrom(header);
        collectBlocks();
        draw(m_entities, Affine{m_scale, 0, 0, m_scale, 0, 0}, 0);
        return std::nullopt;
    }

    std::vector<Message> notes() const {
        std::vector<Message> out;
        if (m_fitted)
            out.push_back("Splines of a kind that drawings do not have were fitted within 0.001 mm.");
        if (m_bad)
            out.push_back(
                phrase("%1 things in the file had numbers that do not belong together; they were left out.",
                       std::to_string(m_bad)));
        for (const auto& [kind, n] : m_left)
            out.push_back(
                phrase(n == 1 ? "%1 of the kind %2 was left out." : "%1 of the kind %2 were left out.",
                       std::to_string(n), kind));
        return out;
    }

  private:
    PathCollector& m_to;
    double m_scale = 1;
    std::vector<Entity> m_entities, m_blocks;
    std::map<std::string, std::vector<Entity>> m_block;
    std::map<std::string, Vec2> m_base;
    std::map<std::string, int> m_left;
    std::set<std::string> m_open;
    bool m_fitted = false;
    int m_bad = 0;

    /// $INSUNITS: 1 inch, 2 foot, 4 mm, 5 cm, 6 m, 13 µm, 14 dm.
    void scaleFrom(const std::vector<Entity>& header) {
        static const std::map<int, double> units{{1, 25.4}, {2, 304.8}, {4, 1},   {5, 10},
                                                 {6, 1000}, {13, 1e-3}, {14, 100}};
        for (const Entity& e : header)
            for (std::size_t i = 0; i + 1 < e.groups.size(); ++i)
                if (e.groups[i].code == 9 && e.groups[i].text == "$INSUNITS")
                    if (const auto it = units.find(e.groups[i + 1].whole()); it != units.end())
                        m_scale = it->second;
    }

    void collectBlocks() {
        std::string open;
        for (Entity& e : m_blocks) {
            if (e.kind == "BLOCK") {
                open = e.text(2);
                m_base[open] = e.place(10);
            } else if (e.kind == "ENDBLK") {
                open.clear();
            } else if (!open.empty()) {
                m_block[open].push_back(std::move(e));
            }
        }
    }

    void draw(const std::vector<Entity>& entities, const Affine& through, int depth) {
        for (std::size_t i = 0; i < entities.size() && !m_to.full(); ++i) {
            const Entity& e = entities[i];
            m_to.visit();
            m_to.through = through;
            if (e.number(230, 1) < 0) // seen from behind: x runs the other way
                m_to.through = through * Affine{-1, 0, 0, 1, 0, 0};
            if (e.kind == "POLYLINE") {
                std::vector<std::pair<Vec2, double>> corners;
                const int flags = e.whole(70);
                while (i + 1 < entities.size() && entities[i + 1].kind == "VERTEX") {
                    const Entity& v = entities[++i];
                    if (!(v.whole(70) & 16)) // of the frame of a fitted spline
                        corners.push_back({v.place(10), v.number(42)});
                }
                polyline(corners, flags & 1);
            } else if (e.kind == "INSERT") {
                insert(e, depth);
            } else if (e.kind != "SEQEND" && e.kind != "VERTEX" && e.kind != "ENDSEC") {
                one(e);
            }
        }
    }

    void one(const Entity& e) {
        if (e.kind == "LINE") {
            // Lines are not seen from behind: theirs are places in space.
            if (e.number(230, 1) < 0) m_to.through = m_to.through * Affine{-1, 0, 0, 1, 0, 0};
            m_to.line(e.place(10), e.place(11));
        } else if (e.kind == "CIRCLE" || e.kind == "ARC") {
            const double r = e.number(40);
            const bool whole = e.kind == "CIRCLE";
            const double from = whole ? 0 : e.number(50) * kPi / 180,
                         to = whole ? 0 : e.number(51) * kPi / 180;
            double turn = whole ? 2 * kPi : std::remainder(to - from, 2 * kPi);
            if (turn <= 1e-12) turn += 2 * kPi;
            if (r > 0)
                m_to.ellipse(e.place(10), {r, 0}, {0, r}, from, turn);
            else
                ++m_bad;
        } else if (e.kind == "ELLIPSE") {
            if (e.number(230, 1) < 0) m_to.through = m_to.through * Affine{-1, 0, 0, 1, 0, 0};
            const Vec2 axis = e.place(11);
            const double side = e.number(230, 1) < 0 ? -1 : 1;
            const Vec2 other = Vec2{-axis.y, axis.x} * (e.number(40) * side);
            const double from = e.number(41), to = e.number(42, 2 * kPi);
            double turn = to - from;
            while (turn <= 1e-12 && turn > -100) turn += 2 * kPi;
            if (length(axis) > 0 && length(other) > 0 && turn > 0)
                m_to.ellipse(e.place(10), axis, other, from, std::min(turn, 2 * kPi));
            else
                ++m_bad;
        } else if (e.kind == "LWPOLYLINE") {
            std::vector<std::pair<Vec2, double>> corners;
            for (const Group& g : e.groups) {
                if (g.code == 10) corners.push_back({{g.number(), 0}, 0});
                if (g.code == 20 && !corners.empty()) corners.back().first.y = g.number();
                if (g.code == 42 && !corners.empty()) corners.back().second = g.number();
            }
            polyline(corners, e.whole(70) & 1);
        } else if (e.kind == "SPLINE") {
            if (e.number(230, 1) < 0) m_to.through = m_to.through * Affine{-1, 0, 0, 1, 0, 0};
            DxfSpline s;
            s.degree = e.whole(71, 3);
            s.knots = e.all(40), s.weights = e.all(41);
            s.poles = e.places(10), s.through = e.places(11);
            m_bad += !drawDxfSpline(s, m_to, m_fitted);
        } else if (e.kind == "POINT") {
            m_to.point(e.place(10));
        } else if (!e.kind.empty()) {
            ++m_left[e.kind];
        }
    }

    /// A bulge is the tangent of a quarter of the arc's turn.
    void polyline(const std::vector<std::pair<Vec2, double>>& corners, bool closed) {
        const std::size_t n = corners.size();
        for (std::size_t i = 0; i + (closed ? 0 : 1) < n && n > 1; ++i) {
            const Vec2 a = corners[i].first, b = corners[(i + 1) % n].first;
            const double bulge = corners[i].second;
            if (std::fabs(bulge) < 1e-12) {
                m_to.line(a, b);
                continue;
            }
            const Vec2 chord = b - a;
            if (length(chord) < 1e-12) continue;
            const double turn = 4 * std::atan(bulge), r = length(chord) / (2 * std::sin(std::fabs(turn) / 2));
            const double away = (1 - bulge * bulge) / (4 * bulge); // of the centre, by the chord
            const Vec2 c = (a + b) * 0.5 + Vec2{-chord.y, chord.x} * away;
            m_to.ellipse(c, {r, 0}, {0, r}, std::atan2(a.y - c.y, a.x - c.x), turn);
        }
    }

    void insert(const Entity& e, int depth) {
        constexpr int kDeepest = 16;
        const std::string name = e.text(2);
        const auto block = m_block.find(name);
        if (block == m_block.end() || depth > kDeepest || !m_open.insert(name).second) {
            ++m_left["INSERT"];
            return;
        }
        const double t = e.number(50) * kPi / 180, sx = e.number(41, 1), sy = e.number(42, 1);
        const Vec2 at = e.place(10), base = m_base[name];
        const Affine there = m_to.through * Affine{1, 0, 0, 1, at.x, at.y} *
                             Affine{std::cos(t), std::sin(t), -std::sin(t), std::cos(t), 0, 0} *
                             Affine{sx, 0, 0, sy, 0, 0} * Affine{1, 0, 0, 1, -base.x, -base.y};
        draw(block->second, there, depth + 1);
        m_open.erase(name);
    }
};

} // namespace

Result<ImportedDrawing> readDxf(const std::string& content) {
    if (content.find('\0') != std::string::npos)
        return errorOf("dxf.binary", "This is not a text DXF file. Save it again, as text (ASCII) DXF.");
    PathCollector collector;
    Reader reader(collector);
    if (const auto error = reader.read(content)) return *error;
    return imported(collector, reader.notes(), "dxf");
}

Result<ImportedDrawing> readDrawingFile(const std::string& name, const std::string& content) {
    const auto dot = name.rfind('.');
    std::string suffix = dot == std::string::npos ? "" : name.substr(dot + 1);
    for (char& c : suffix) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    if (suffix == "svg") return readSvg(content);
    if (suffix == "dxf") return readDxf(content);
    return errorOf("file.kind", "Drawings can be brought in from SVG and DXF files.");
}

} // namespace gc
