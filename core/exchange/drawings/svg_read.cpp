#include "core/exchange/drawings/svg_path.hpp"

#include <pugixml.hpp>

#include <cmath>
#include <cstring>
#include <map>
#include <numbers>
#include <set>

namespace gc {

namespace {

constexpr double kPixel = 25.4 / 96; ///< mm
constexpr int kDeepest = 60;         ///< groups within groups; deeper ones go round in circles

/// A length with its unit, in mm per `percentOf` for percentages.
double lengthOf(std::string_view text, double fallback, double percentOf = 0) {
    NumberScanner scan(text);
    double v = 0;
    if (!scan.number(v)) return fallback;
    static const std::map<std::string, double> units{
        {"", kPixel},        {"px", kPixel},     {"mm", 1},           {"cm", 10},
        {"in", 25.4},        {"pt", 25.4 / 72},  {"pc", 25.4 / 6},    {"Q", 0.25},
        {"em", 16 * kPixel}, {"ex", 8 * kPixel}, {"rem", 16 * kPixel}};
    std::string unit;
    for (const char c : text.substr(scan.position()))
        if (!std::isspace(static_cast<unsigned char>(c))) unit += c;
    if (unit == "%") return v / 100 * percentOf;
    const auto it = units.find(unit);
    return it == units.end() ? fallback : v * it->second;
}

std::string plainName(const pugi::xml_node& node) {
    const char* name = node.name();
    const char* colon = std::strchr(name, ':');
    return colon ? colon + 1 : name;
}

class Reader {
  public:
    explicit Reader(PathCollector& to) : m_to(to) {}

    void read(const pugi::xml_node& svg) {
        double box[4] = {0, 0, 0, 0};
        NumberScanner scan(svg.attribute("viewBox").value());
        bool hasBox = true;
        for (double& v : box) hasBox = hasBox && scan.number(v);
        hasBox = hasBox && box[2] > 0 && box[3] > 0;
        const double width = lengthOf(svg.attribute("width").value(), hasBox ? box[2] * kPixel : 0,
                                      box[2] * kPixel),
                     height = lengthOf(svg.attribute("height").value(), hasBox ? box[3] * kPixel : 0,
                                       box[3] * kPixel);
        // User units to mm, y up from the lower edge of the page.
        Affine page{kPixel, 0, 0, -kPixel, 0, height};
        if (hasBox && width > 0 && height > 0) {
            const double sx = width / box[2], sy = height / box[3];
            // Kept in proportion and in the middle, unless the file wants it stretched.
            const bool stretch = std::strcmp(svg.attribute("preserveAspectRatio").value(), "none") == 0;
            const double s = std::min(sx, sy), ax = stretch ? sx : s, ay = stretch ? sy : s;
            page = {ax,
                    0,
                    0,
                    -ay,
                    -box[0] * ax + (width - box[2] * ax) / 2,
                    height + box[1] * ay - (height - box[3] * ay) / 2};
        }
        collectIds(svg, 0);
        children(svg, page, 0);
    }

    std::vector<Message> notes() const {
        std::vector<Message> out;
        if (m_texts)
            out.push_back("Text was left out. Turn it into paths in the program that wrote the file.");
        if (m_pictures) out.push_back("Pictures in the file were left out.");
        if (m_broken)
            out.push_back(phrase(m_broken > 1 ? "%1 paths could be read only up to a fault."
                                              : "%1 path could be read only up to a fault.",
                                 std::to_string(m_broken)));
        return out;
    }

  private:
    PathCollector& m_to;
    std::map<std::string, pugi::xml_node> m_ids;
    std::set<std::string> m_open; ///< elements being reused, one inside the other
    int m_texts = 0, m_pictures = 0, m_broken = 0;

    void collectIds(const pugi::xml_node& node, int depth) {
        if (depth > kDeepest) return;
        for (const pugi::xml_node& child : node.children()) {
            if (const char* id = child.attribute("id").value(); *id) m_ids.emplace(id, child);
            collectIds(child, depth + 1);
        }
    }

    static bool shown(const pugi::xml_node& node) {
        const std::string style = node.attribute("style").value();
        return std::strcmp(node.attribute("display").value(), "none") != 0 &&
               style.find("display:none") == std::string::npos;
    }

    void children(const pugi::xml_node& node, const Affine& through, int depth) {
        if (depth > kDeepest) return;
        for (const pugi::xml_node& child : node.children())
            if (child.type() == pugi::node_element && shown(child) && !m_to.full())
                element(child, through * transformList(child.attribute("transform").value()), depth + 1);
    }

    void element(const pugi::xml_node& node, const Affine& through, int depth) {
        m_to.visit();
        m_to.through = through;
        const std::string name = plainName(node);
        if (name == "g" || name == "a" || name == "switch" || name == "svg") {
            Affine inner = through;
            if (name == "svg") inner = inner * Affine{1, 0, 0, 1, number(node, "x"), number(node, "y")};
            children(node, inner, depth);
        } else if (name == "use") {
            reuse(node, through, depth);
        } else if (name == "path") {
            m_broken += !drawPathData(node.attribute("d").value(), m_to);
        } else if (name == "line") {
            m_to.line({number(node, "x1"), number(node, "y1")}, {number(node, "x2"), number(node, "y2")});
        } else if (name == "polyline" || name == "polygon") {
            corners(node, name == "polygon");
        } else if (name == "rect") {
            rectangle(node);
        } else if (name == "circle" || name == "ellipse") {
            const double r = number(node, "r"), rx = name == "circle" ? r : number(node, "rx"),
                         ry = name == "circle" ? r : number(node, "ry");
            if (rx > 0 && ry > 0)
                m_to.ellipse({number(node, "cx"), number(node, "cy")}, {rx, 0}, {0, ry}, 0,
                             2 * std::numbers::pi);
        } else if (name == "text") {
            ++m_texts;
        } else if (name == "image") {
            ++m_pictures;
        }
    }

    /// In user units.
    static double number(const pugi::xml_node& node, const char* attribute) {
        return lengthOf(node.attribute(attribute).value(), 0) / kPixel;
    }

    void reuse(const pugi::xml_node& node, const Affine& through, int depth) {
        std::string href = node.attribute("href").value();
        if (href.empty()) href = node.attribute("xlink:href").value();
        const auto found = href.size() > 1 ? m_ids.find(href.substr(1)) : m_ids.end();
        if (found == m_ids.end() || depth > kDeepest || !m_open.insert(href).second) return;
        const Affine there = through * Affine{1, 0, 0, 1, number(node, "x"), number(node, "y")} *
                             transformList(found->second.attribute("transform").value());
        if (plainName(found->second) == "symbol")
            children(found->second, there, depth + 1);
        else
            element(found->second, there, depth + 1);
        m_open.erase(href);
    }

    void corners(const pugi::xml_node& node, bool closed) {
        NumberScanner scan(node.attribute("points").value());
        std::vector<Vec2> at;
        for (Vec2 p; scan.number(p.x) && scan.number(p.y);) at.push_back(p);
        for (std::size_t i = 1; i < at.size(); ++i) m_to.line(at[i - 1], at[i]);
        if (closed && at.size() > 2) m_to.line(at.back(), at.front());
    }

    void rectangle(const pugi::xml_node& node) {
        const double x = number(node, "x"), y = number(node, "y"), w = number(node, "width"),
                     h = number(node, "height");
        if (w <= 0 || h <= 0) return;
        // One radius stands for both; neither is more than half a side.
        const bool hasX = node.attribute("rx"), hasY = node.attribute("ry");
        const double rx = std::min(hasX ? number(node, "rx") : number(node, "ry"), w / 2),
                     ry = std::min(hasY ? number(node, "ry") : number(node, "rx"), h / 2);
        const bool round = rx > 0 && ry > 0;
        const double cx = round ? rx : 0, cy = round ? ry : 0;
        m_to.line({x + cx, y}, {x + w - cx, y});
        m_to.line({x + w, y + cy}, {x + w, y + h - cy});
        m_to.line({x + w - cx, y + h}, {x + cx, y + h});
        m_to.line({x, y + h - cy}, {x, y + cy});
        if (!round) return;
        const double quarter = std::numbers::pi / 2;
        m_to.ellipse({x + w - rx, y + ry}, {rx, 0}, {0, ry}, -quarter, quarter);
        m_to.ellipse({x + w - rx, y + h - ry}, {rx, 0}, {0, ry}, 0, quarter);
        m_to.ellipse({x + rx, y + h - ry}, {rx, 0}, {0, ry}, quarter, quarter);
        m_to.ellipse({x + rx, y + ry}, {rx, 0}, {0, ry}, 2 * quarter, quarter);
    }
};

} // namespace

Result<Drawing> drawingFromPath(const std::string& data) {
    PathCollector collector;
    drawPathData(data, collector);
    if (collector.full())
        return errorOf("path.large",
                       phrase("This makes more than %1 lines and curves.", std::to_string(kMostImported)));
    if (collector.empty()) return errorOf("path.empty", "There is nothing to draw in this.");
    return collector.take();
}

Result<ImportedDrawing> readSvg(const std::string& content) {
    pugi::xml_document document;
    const pugi::xml_parse_result parsed = document.load_buffer(content.data(), content.size());
    if (!parsed)
        return errorOf("svg.syntax", phrase("This is no whole SVG file: it breaks off or is garbled after %1 "
                                            "bytes. Export it again, as plain SVG.",
                                            std::to_string(parsed.offset)));
    pugi::xml_node svg;
    for (const pugi::xml_node& node : document.children())
        if (plainName(node) == "svg") svg = node;
    if (!svg) return errorOf("svg.syntax", "This file holds no SVG drawing. Export it as plain SVG.");
    PathCollector collector;
    Reader reader(collector);
    reader.read(svg);
    return imported(collector, reader.notes(), "svg");
}

} // namespace gc
