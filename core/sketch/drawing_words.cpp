#include "core/sketch/drawing_words.hpp"

#include "core/sketch/beside.hpp"
#include "core/sketch/measured.hpp"

#include <algorithm>
#include <cctype>
#include <numbers>

namespace gc {

std::vector<int> joinedPoints(const Drawing& d, int pointId) {
    std::vector<int> joined{pointId};
    for (std::size_t i = 0; i < joined.size(); ++i)
        for (const Relation& r : d.relations) {
            if (r.kind != RelationKind::Coincident) continue;
            for (const std::size_t side : {0u, 1u})
                if (r.of[side] == joined[i] &&
                    std::find(joined.begin(), joined.end(), r.of[1 - side]) == joined.end())
                    joined.push_back(r.of[1 - side]);
        }
    return joined;
}

namespace {

std::string strokeName(const Drawing& d, const Stroke& s) {
    if (!s.name.empty()) return s.name;
    if (const Stroke* whole = sourceOf(d, s); whole && s.sizes[0] == 0)
        return "the rest of " + strokeName(d, *whole);
    const std::string& noun = wordsOf(s.kind).noun;
    int number = 0;
    for (const Stroke& other : d.strokes) {
        if (wordsOf(other.kind).noun == noun) ++number;
        if (other.id == s.id) break;
    }
    return noun + " " + std::to_string(number);
}

/// Which of two ends: "upper", "lower", "left", "right", by where they lie apart most.
const char* whichEnd(Vec2 end, Vec2 other) {
    const Vec2 d = end - other;
    if (std::fabs(d.y) >= std::fabs(d.x)) return d.y > 0 ? "upper" : "lower";
    return d.x > 0 ? "right" : "left";
}

std::string roleOf(const Drawing& d, const Stroke& s, int pointId) {
    const auto ends = endPoints(s);
    if (ends.size() == 2 && (pointId == ends[0] || pointId == ends[1])) {
        const int other = pointId == ends[0] ? ends[1] : ends[0];
        return std::string("the ") + whichEnd(d.at(pointId), d.at(other)) + " end of " + strokeName(d, s);
    }
    switch (s.kind) {
    case StrokeKind::Point:
        return strokeName(d, s);
    case StrokeKind::Arc:
    case StrokeKind::Circle:
        return "the centre of " + strokeName(d, s);
    case StrokeKind::Ellipse:
    case StrokeKind::EllipseArc:
        return (pointId == s.points[0] ? "the centre of " : "the long end of ") + strokeName(d, s);
    case StrokeKind::Beside:
        return "the start of " + strokeName(d, s);
    case StrokeKind::Conic:
        return "the shoulder point of " + strokeName(d, s);
    default:
        break;
    }
    const auto at = std::find(s.points.begin(), s.points.end(), pointId) - s.points.begin();
    if (s.kind == StrokeKind::Fair) return "station " + std::to_string(at + 1) + " of " + strokeName(d, s);
    if (s.kind == StrokeKind::Poles) return "pole " + std::to_string(at + 1) + " of " + strokeName(d, s);
    return (at % 2 ? "handle " : "node ") + std::to_string(at / 2 + 1) + " of " + strokeName(d, s);
}

} // namespace

std::string nameOf(const Drawing& d, int id) {
    if (id == kOrigin) return "the origin";
    if (id == kLevelLine) return "the level line";
    if (id == kAxisLine) return "the axis";
    if (const Stroke* s = d.findStroke(id)) return strokeName(d, *s);
    if (!d.findPoint(id)) return "something gone";
    std::vector<const Stroke*> ending;
    std::string other;
    for (const int p : joinedPoints(d, id))
        for (const Stroke& s : d.strokes) {
            const auto ends = endPoints(s);
            if (std::find(ends.begin(), ends.end(), p) != ends.end() && !s.helper)
                ending.push_back(&s);
            else if (std::find(s.points.begin(), s.points.end(), p) != s.points.end() &&
                     (other.empty() || p == id))
                other = roleOf(d, s, p);
        }
    std::sort(ending.begin(), ending.end(), [](const Stroke* a, const Stroke* b) { return a->id < b->id; });
    if (ending.size() >= 2)
        return "the corner of " + strokeName(d, *ending[0]) + " and " + strokeName(d, *ending[1]);
    for (const Stroke& s : d.strokes)
        if (std::find(s.points.begin(), s.points.end(), id) != s.points.end()) return roleOf(d, s, id);
    return other.empty() ? "point " + std::to_string(id) : other;
}

std::string sentenceOf(const Drawing& d, const Relation& r, const UnitSystem& units) {
    std::string text = wordsOf(r.kind).phrase;
    if (r.of.size() == 1)
        if (const auto to = text.find(" {0} to {1}"); to != std::string::npos)
            text = text.substr(0, to) + (isLine(d, r.of[0]) ? " of {0}" : " to {0}");
    if (r.of.size() == 2 && r.of[0] > 0 &&
        (r.kind == RelationKind::Horizontal || r.kind == RelationKind::Vertical))
        text = r.kind == RelationKind::Horizontal ? "{0} is level with {1}" : "{0} is straight above {1}";
    if (r.kind == RelationKind::Ratio && r.of.size() == 1) text = "shoulder ratio of {0}";
    if (r.kind == RelationKind::Distance && r.of.size() == 1) text = "length of {0}";
    for (std::size_t i = 0; i < r.of.size(); ++i) {
        const std::string mark = "{" + std::to_string(i) + "}";
        if (const auto at = text.find(mark); at != std::string::npos)
            text.replace(at, mark.size(), nameOf(d, r.of[i]));
    }
    const RelationWords& words = wordsOf(r.kind);
    if (r.overAll) text += " over all";
    if (words.sized)
        text += " = " +
                (r.expression.empty() ? sizeInWords(measured(d, r), words.dimension, units) : r.expression);
    return text;
}

std::string sizeInWords(double value, Dimension dimension, const UnitSystem& units, int decimals) {
    if (dimension == kNumber) return formatNumber(value, decimals + 1);
    return formatAmount(value, units.symbolFor(dimension), decimals);
}

std::string freeName(const Drawing& d, const std::string& stem,
                     const std::function<bool(const std::string&)>& taken) {
    for (int k = 1;; ++k) {
        std::string name = stem + std::to_string(k);
        const bool used = std::any_of(d.relations.begin(), d.relations.end(),
                                      [&](const Relation& r) { return r.name == name; });
        if (!used && !(taken && taken(name))) return name;
    }
}

std::string capitalised(std::string text) {
    if (!text.empty()) text[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(text[0])));
    return text;
}

std::string directionInWords(Vec2 v) {
    double degrees = std::atan2(v.y, v.x) * 180 / std::numbers::pi;
    if (degrees < 0) degrees += 180;
    if (degrees >= 179.5 || degrees < 0.5) return "left and right";
    if (std::fabs(degrees - 90) < 0.5) return "up and down";
    return "at " + formatNumber(degrees, 0) + "° to the level";
}

} // namespace gc
