// Targets of the brief: what can be asked of a part, and how an allowed range is written.

#include "core/document/part.hpp"

#include <algorithm>

namespace gc {

namespace {

std::string trimmed(const std::string& s) {
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

const MeasureWords* findMeasure(const std::string& key) {
    const auto& all = allMeasures();
    const auto it = std::find_if(all.begin(), all.end(), [&](const MeasureWords& m) { return m.key == key; });
    return it == all.end() ? nullptr : &*it;
}

Result<AllowedRange> parseAllowed(const std::string& raw, Dimension dimension, const UnitSystem& units,
                                  const NameLookup& names) {
    const std::string text = trimmed(raw);
    auto amount = [&](const std::string& t) { return evaluate(t, dimension, units, names); };
    // The unit may stand once at the end: "100 ± 3 g", "2 … 4 mm".
    auto beside = [&](const std::string& t, const std::string& other) {
        const std::string unit = unitAtEnd(t).empty() ? unitAtEnd(other) : std::string();
        if (const auto u = findUnit(unit); !u || u->dimension != dimension) return amount(t);
        UnitSystem its = units;
        (dimension == kLength  ? its.length
         : dimension == kAngle ? its.angle
         : dimension == kMass  ? its.mass
                               : its.volume) = unit;
        return evaluate(t, dimension, its, names);
    };
    std::string a, b;
    AllowedRange range;
    if (splitAt(text, {"±", "+/-", "+-"}, a, b)) {
        const auto middle = beside(a, b), spread = beside(b, a);
        if (!middle) return middle.error();
        if (!spread) return spread.error();
        range.least = middle->value - std::abs(spread->value);
        range.most = middle->value + std::abs(spread->value);
        return range;
    }
    if (splitAt(text, {"…", "..."}, a, b)) {
        const auto least = beside(a, b), most = beside(b, a);
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
        e.sentence = phrase(
            "Write what is allowed as \"100 ± 3 g\", \"≥ 2 mm\", \"≤ 4 mm\" or \"2 … 4 mm\". %1", e.sentence);
        return e;
    }
    range.least = range.most = exact->value;
    return range;
}

} // namespace gc
