#include "core/document/typed_place.hpp"

namespace gc {

namespace {

std::string trimmed(const std::string& text) {
    const auto first = text.find_first_not_of(" \t"), last = text.find_last_not_of(" \t");
    return first == std::string::npos ? std::string() : text.substr(first, last - first + 1);
}

} // namespace

Result<TypedPlace> placeFromText(const std::string& text, const UnitSystem& units, const Values& values,
                                 std::optional<Vec2> from, Vec2 pointer) {
    const auto lookup = [&](const std::string& name) -> std::optional<Amount> {
        const auto it = values.find(name);
        return it == values.end() ? std::nullopt : std::optional<Amount>(it->second);
    };
    const auto value = [&](const std::string& part, Dimension dimension) {
        return evaluate(trimmed(part), dimension, units, lookup);
    };
    std::string typed = trimmed(text);
    if (typed.empty()) return errorOf("place.text", "Type how far across and how far up, like \"12, 30\".");
    const bool relative = typed[0] == '+';
    if (relative) typed.erase(0, 1);
    if (relative && !from)
        return errorOf("place.text",
                       "There is no place yet to count from. Type \"across, up\" from the origin.");
    const auto comma = typed.find_first_of(",;"), at = typed.find(" at ");
    TypedPlace out;
    if (comma != std::string::npos) {
        const auto x = value(typed.substr(0, comma), kLength), y = value(typed.substr(comma + 1), kLength);
        if (!x) return x.error();
        if (!y) return y.error();
        out.at = Vec2{x->value, y->value} + (relative ? *from : Vec2{});
        return out;
    }
    if (!from)
        return errorOf(
            "place.text",
            "Type two lengths with a comma between: across from the axis, and up. Like \"12, 30\".");
    const auto far = value(typed.substr(0, at), kLength);
    if (!far) return far.error();
    if (at != std::string::npos) {
        const auto angle = value(typed.substr(at + 4), kAngle);
        if (!angle) return angle.error();
        out.at = *from + Vec2{std::cos(angle->value), std::sin(angle->value)} * far->value;
    } else {
        out.at = *from + unit(pointer - *from) * far->value;
    }
    out.length = trimmed(typed.substr(0, at));
    return out;
}

} // namespace gc
