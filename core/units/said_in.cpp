#include "core/units/said_in.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <cstdlib>

namespace gc {

namespace {

bool isDigit(char c) {
    return std::isdigit(static_cast<unsigned char>(c)) != 0;
}
/// A part of a word, in UTF-8.
bool isLetter(char c) {
    return std::isalpha(static_cast<unsigned char>(c)) != 0 || static_cast<unsigned char>(c) >= 0x80;
}

bool isMetric(std::string_view symbol) {
    return symbol == "mm" || symbol == "cm" || symbol == "m" || symbol == "µm";
}

/// Does a part with the wanted unit say it otherwise? Who wrote "5 m" meant metres, where those are known.
bool isForeign(std::string_view symbol, const Unit& unit, const std::string& wanted) {
    const auto own = findUnit(wanted);
    // 5 cm³ of material are not 5 ml of it.
    if (!own || own->factor == unit.factor) return false;
    return symbol == "mm" || !isMetric(symbol) || !isMetric(wanted);
}

/// The symbol of a unit that begins at a place; empty for none.
std::string_view unitAt(const std::string& text, std::size_t at) {
    std::size_t end = at;
    while (end < text.size() && isLetter(text[end])) ++end;
    return std::string_view(text).substr(at, end - at);
}

std::string converted(const std::string& figure, const Unit& was, std::string_view symbol) {
    const auto point = figure.find('.');
    const int decimals = point == std::string::npos ? 0 : static_cast<int>(figure.size() - point - 1);
    // formatAmount sees to that for lengths.
    const double larger = was.dimension == kLength ? 1 : findUnit(symbol)->factor / was.factor;
    const int more = static_cast<int>(std::ceil(std::log10(larger) - 1e-9));
    return formatAmount(std::strtod(figure.c_str(), nullptr) * was.factor, symbol,
                        std::clamp(decimals + more, 0, 6));
}

} // namespace

std::string saidIn(const UnitSystem& units, const std::string& text) {
    std::string out;
    bool quoted = false;
    for (std::size_t i = 0; i < text.size();) {
        const bool begins =
            isDigit(text[i]) &&
            (i == 0 || (!isLetter(text[i - 1]) && !isDigit(text[i - 1]) && text[i - 1] != '.'));
        quoted ^= text[i] == '"';
        if (quoted || !begins) {
            out += text[i++];
            continue;
        }
        std::size_t end = i;
        while (end < text.size() &&
               (isDigit(text[end]) || (text[end] == '.' && end + 1 < text.size() && isDigit(text[end + 1]))))
            ++end;
        const std::string figure = text.substr(i, end - i);
        const auto symbol =
            end < text.size() && text[end] == ' ' ? unitAt(text, end + 1) : std::string_view();
        const auto unit = findUnit(symbol);
        const bool ours =
            unit && (unit->dimension == kLength || unit->dimension == kMass || unit->dimension == kVolume);
        const std::string wanted = ours ? units.symbolFor(unit->dimension) : std::string();
        if (!ours || !isForeign(symbol, *unit, wanted)) {
            out += figure;
        } else {
            out += converted(figure, *unit, wanted);
            end += 1 + symbol.size();
        }
        i = end;
    }
    return out;
}

Message saidIn(const UnitSystem& units, const Message& message) {
    return message.putOtherwise([&](const std::string& text) { return saidIn(units, text); });
}

} // namespace gc
