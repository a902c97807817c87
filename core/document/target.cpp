// Targets of the brief: what can be asked of a part, and how an allowed range is written.

#include "core/document/part.hpp"

#include <algorithm>

namespace gc {

namespace {

std::string trimmed(std::string s) {
    const auto first = s.find_first_not_of(" \t\n"), last = s.find_last_not_of(" \t\n");
    return first == std::string::npos ? std::string() : s.substr(first, last - first + 1);
}

/// Splits at the first of the given signs; the sign may be several bytes long.
bool splitAt(const std::string& text, std::initializer_list<const char*> signs, std::string& before,
             std::string& after) {
    for (const char* sign : signs) {
        const auto at = text.find(sign);
        if (at == std::string::npos) continue;
        before = trimmed(text.substr(0, at));
        after = trimmed(text.substr(at + std::string(sign).size()));
        return true;
    }
    return false;
}

} // namespace

const std::vector<MeasureWords>& allMeasures() {
    static const std::vector<MeasureWords> all{
        {"mass", "Mass", kMass, "What all bodies weigh in the brief's material"},
        {"volume", "Volume", kVolume, "The material's volume"},
        {"fill brim", "Fill to brim", kVolume, "What it holds up to the lowest point of its rim"},
        {"fill line", "Fill to line", kVolume, "What it holds up to the fill line of the brief"},
        {"width", "Width", kLength, "The envelope from left to right"},
        {"depth", "Depth", kLength, "The envelope from front to back"},
        {"height", "Height", kLength, "The envelope from ground to top"},
        {"thinnest wall", "Thinnest wall", kLength, "Straight through the wall: the ray school"},
        {"thickest wall", "Thickest wall", kLength, "The largest ball that fits: the ball school"},
        {"thinnest wall, ball", "Thinnest, ball", kLength, "The smallest ball between two sides of a wall"},
        {"thickest wall, ray", "Thickest, ray", kLength, "Straight through the wall: the ray school"},
        {"lean", "Least lean", kAngle,
         "How far walls lean from the pull, so that the part comes off the tool"},
        {"pieces", "Pieces", kNumber, "How many closed pieces there are"},
        {"open edges", "Open edges", kNumber, "Edges that only one face meets: 0 in a closed body"},
    };
    return all;
}

const MeasureWords* findMeasure(const std::string& key) {
    const auto& all = allMeasures();
    const auto it = std::find_if(all.begin(), all.end(), [&](const MeasureWords& m) { return m.key == key; });
    return it == all.end() ? nullptr : &*it;
}

Result<AllowedRange> parseAllowed(const std::string& raw, Dimension dimension, const UnitSystem& units,
                                  const NameLookup& names) {
    const std::string text = trimmed(raw);
    auto amount = [&](const std::string& t) { return evaluate(t, dimension, units, names); };
    std::string a, b;
    AllowedRange range;
    if (splitAt(text, {"±", "+/-", "+-"}, a, b)) {
        // The unit may stand once at the end: "100 ± 3 g" and "100 g ± 3" are the same.
        const auto middle = amount(a), spread = amount(b);
        if (!middle) return middle.error();
        if (!spread) return spread.error();
        range.least = middle->value - std::abs(spread->value);
        range.most = middle->value + std::abs(spread->value);
        return range;
    }
    if (splitAt(text, {"…", "..."}, a, b)) {
        const auto least = amount(a), most = amount(b);
        if (!least) return least.error();
        if (!most) return most.error();
        range.least = std::min(least->value, most->value);
        range.most = std::max(least->value, most->value);
        return range;
    }
    if (splitAt(text, {">=", "≥", "at least", ">"}, a, b) && a.empty()) {
        const auto least = amount(b);
        if (!least) return least.error();
        range.least = least->value;
        return range;
    }
    if (splitAt(text, {"<=", "≤", "at most", "<"}, a, b) && a.empty()) {
        const auto most = amount(b);
        if (!most) return most.error();
        range.most = most->value;
        return range;
    }
    const auto exact = amount(!text.empty() && text[0] == '=' ? trimmed(text.substr(1)) : text);
    if (!exact) {
        Error e = exact.error();
        e.sentence =
            "Write what is allowed as \"100 ± 3 g\", \"≥ 2 mm\", \"≤ 4 mm\" or \"2 … 4 mm\". " + e.sentence;
        return e;
    }
    range.least = range.most = exact->value;
    return range;
}

} // namespace gc
