// What the text of an expression holds, and other names in it: nothing is worked out here.

#include "core/units/expression.hpp"
#include "core/units/tokens.hpp"

#include <cctype>

namespace gc {

using Kind = Token::Kind;

std::set<std::string> namesUsed(std::string_view text) {
    std::set<std::string> names;
    auto tokens = tokenize(text);
    if (!tokens) return names;
    for (std::size_t i = 0; i < tokens->size(); ++i) {
        const Token& t = (*tokens)[i];
        if (t.kind == Kind::Word && isGoodName(t.text)) names.insert(t.text);
    }
    return names;
}

bool isPlainNumber(std::string_view text) {
    auto tokens = tokenize(text);
    if (!tokens) return false;
    std::size_t i = 0;
    const auto& t = *tokens;
    if (t[i].kind == Kind::Operator && t[i].text == "-") ++i;
    if (t[i++].kind != Kind::Number) return false;
    if (t[i].kind == Kind::Word && findUnit(t[i].text)) ++i;
    return t[i].kind == Kind::End;
}

std::optional<std::string> plainFigure(std::string_view text, const std::string& unit) {
    auto tokens = tokenize(text);
    if (!tokens) return std::nullopt;
    const auto& t = *tokens;
    const auto is = [&](std::size_t i, Kind k) { return i < t.size() && t[i].kind == k; };
    const auto over = [&](std::size_t i) {
        return is(i, Kind::Number) && is(i + 1, Kind::Operator) && t[i + 1].text == "/" &&
               is(i + 2, Kind::Number);
    };
    std::size_t i = is(0, Kind::Operator) && t[0].text == "-" ? 1 : 0;
    if (!is(i, Kind::Number)) return std::nullopt;
    i += over(i) ? 3 : over(i + 1) ? 4 : 1;
    const bool said = is(i, Kind::Word) && findUnit(t[i].text);
    if (!is(said ? i + 1 : i, Kind::End)) return std::nullopt;
    const auto first = text.find_first_not_of(" \t"), last = text.find_last_not_of(" \t");
    std::string out(text.substr(first, last - first + 1));
    if (!said && !unit.empty()) out += (unit == "°" ? "" : " ") + unit;
    return out;
}

std::string unitAtEnd(std::string_view text) {
    auto tokens = tokenize(text);
    if (!tokens || tokens->size() < 2) return {};
    const Token& last = (*tokens)[tokens->size() - 2];
    return last.kind == Kind::Word && findUnit(last.text) ? last.text : std::string();
}

std::string renameIn(std::string_view text, const std::string& from, const std::string& to) {
    auto tokens = tokenize(text);
    if (!tokens) return std::string(text);
    std::string out;
    std::size_t copied = 0;
    for (const Token& t : *tokens)
        if (t.kind == Kind::Word && t.text == from) {
            out += text.substr(copied, static_cast<std::size_t>(t.position) - copied);
            out += to;
            copied = static_cast<std::size_t>(t.position) + from.size();
        }
    return out += text.substr(copied);
}

bool isGoodName(std::string_view name) {
    if (name.empty() || !isWordByte(static_cast<unsigned char>(name[0]))) return false;
    for (const char c : name)
        if (!isWordByte(static_cast<unsigned char>(c)) && !std::isdigit(static_cast<unsigned char>(c)) &&
            c != '_')
            return false;
    return !findUnit(name) && !isFunction(name) && name != "pi" && name != "π";
}

} // namespace gc
