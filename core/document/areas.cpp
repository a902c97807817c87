#include "core/document/areas.hpp"

#include "core/sketch/drawing_words.hpp"
#include "core/sketch/region.hpp"

#include <sstream>

namespace gc {

namespace {

std::string words(const Drawing& d, const std::vector<int>& strokes) {
    constexpr std::size_t kNamed = 3;
    std::string out = "the area within ";
    std::vector<std::string> names;
    for (const int mark : strokes)
        if (d.findStroke(strokeOfMark(mark))) names.push_back(nameOf(d, strokeOfMark(mark)));
    if (names.empty()) return "an area that is gone";
    const std::size_t shown = std::min(names.size(), kNamed);
    for (std::size_t i = 0; i < shown; ++i)
        out += (i == 0 ? "" : i + 1 == names.size() ? " and " : ", ") + names[i];
    if (names.size() > shown) out += " and " + std::to_string(names.size() - shown) + " more";
    return out;
}

} // namespace

std::string areaText(const Areas& areas) {
    std::string out;
    for (const std::vector<int>& strokes : areas) {
        std::string one;
        for (const int mark : strokes)
            if (mark > 0)
                one += (one.empty() ? "" : " ") +
                       std::string(mark & kAgainst ? "-"
                                   : mark & kAhead ? "+"
                                                   : "") +
                       std::to_string(strokeOfMark(mark));
        if (!one.empty()) out += (out.empty() ? "" : " | ") + one;
    }
    return out;
}

std::string withArea(const std::string& text, const std::string& area) {
    Areas areas = areasIn(text).value_or(Areas());
    const auto wanted = areasIn(area).value_or(Areas());
    for (const std::vector<int>& one : wanted)
        if (std::erase(areas, one) == 0) areas.push_back(one);
    return areaText(areas);
}

std::optional<Areas> areasIn(const std::string& text) {
    std::istringstream in(text);
    Areas out;
    bool begins = true;
    for (std::string word; in >> word;) {
        constexpr std::size_t kLongest = 8; // digits, below the bits of the senses
        if (word == "|") {
            begins = true;
            continue;
        }
        const int sense = word[0] == '+' ? kAhead : word[0] == '-' ? kAgainst : 0;
        if (sense) word.erase(0, 1);
        if (word.empty() || word.size() > kLongest ||
            word.find_first_not_of("0123456789") != std::string::npos)
            return std::nullopt;
        if (begins) out.emplace_back();
        begins = false;
        out.back().push_back(std::stoi(word) | sense);
    }
    return out;
}

std::vector<AreaChoice> areasOf(const Drawing& drawing) {
    std::vector<AreaChoice> out;
    for (const Region& r : findRegions(drawing).regions)
        out.push_back({areaText({r.marks}), words(drawing, r.marks)});
    return out;
}

const Drawing* drawingOf(const Part& part, const std::string& outline) {
    const Step* step = makerOf(part, Thing::Outline, outline);
    return step ? drawingOf(*step) : nullptr;
}

std::string areaInWords(const Part& part, const std::string& outline, const std::string& text) {
    if (text.empty()) return "all of it";
    const Drawing* drawing = drawingOf(part, outline);
    const auto areas = areasIn(text);
    if (!drawing || !areas || areas->empty()) return "an area that is gone";
    constexpr std::size_t kNamed = 2;
    if (areas->size() > kNamed) return std::to_string(areas->size()) + " areas";
    std::string out;
    for (const std::vector<int>& strokes : *areas)
        out += (out.empty() ? "" : " and ") + words(*drawing, strokes);
    return out;
}

} // namespace gc
