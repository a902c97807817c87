#include "core/units/expression.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <cstdlib>
#include <numbers>

namespace gc {

namespace {

enum class Kind { Number, Word, Operator, End };

struct Token {
    Kind kind = Kind::End;
    std::string text;
    double number = 0;
    int position = 0;
};

/// A value on its way: bare as long as only numbers without unit went into it.
struct Partial {
    Amount amount;
    bool bare = true;
};

struct Alias {
    std::string_view from, to;
};
// What people paste: other minus signs, times and division signs.
constexpr std::array kAliases{Alias{"−", "-"}, Alias{"–", "-"}, Alias{"×", "*"}, Alias{"·", "*"},
                              Alias{"÷", "/"}};
constexpr std::array<std::string_view, 12> kFunctions{"sqrt", "abs", "min", "max", "round", "floor",
                                                      "ceil", "sin", "cos", "tan", "asin",  "acos"};

bool isFunction(std::string_view w) {
    return w == "atan" || std::find(kFunctions.begin(), kFunctions.end(), w) != kFunctions.end();
}

bool isWordByte(unsigned char c) {
    return std::isalpha(c) || c >= 0x80;
}

/// Where multi-byte signs that are not letters begin, they end a word.
bool startsSign(std::string_view s) {
    for (const Alias& a : kAliases)
        if (s.substr(0, a.from.size()) == a.from) return true;
    return false;
}

Error syntaxError(Message sentence, int position) {
    Error e;
    e.code = "expression.syntax";
    e.sentence = std::move(sentence);
    e.position = position;
    return e;
}

Result<std::vector<Token>> tokenize(std::string_view text) {
    std::vector<Token> tokens;
    std::size_t i = 0;
    while (i < text.size()) {
        const auto c = static_cast<unsigned char>(text[i]);
        const int at = static_cast<int>(i);
        if (std::isspace(c)) {
            ++i;
            continue;
        }
        if (text.substr(i, 2) == "\xC2\xA0") { // a no-break space
            i += 2;
            continue;
        }
        bool aliased = false;
        for (const Alias& a : kAliases)
            if (text.substr(i, a.from.size()) == a.from) {
                tokens.push_back({Kind::Operator, std::string(a.to), 0, at});
                i += a.from.size();
                aliased = true;
                break;
            }
        if (aliased) continue;
        if (std::isdigit(c) || ((c == '.' || c == ',') && i + 1 < text.size() &&
                                std::isdigit(static_cast<unsigned char>(text[i + 1])))) {
            std::string digits;
            bool point = false;
            while (i < text.size()) {
                const char d = text[i];
                const bool nextDigit =
                    i + 1 < text.size() && std::isdigit(static_cast<unsigned char>(text[i + 1]));
                if (std::isdigit(static_cast<unsigned char>(d))) {
                    digits += d;
                } else if ((d == '.' || (d == ',' && nextDigit)) && !point) {
                    digits += '.';
                    point = true;
                } else if ((d == 'e' || d == 'E') &&
                           (nextDigit || (i + 2 < text.size() && text[i + 1] == '-' &&
                                          std::isdigit(static_cast<unsigned char>(text[i + 2]))))) {
                    digits += d;
                    if (!nextDigit) digits += text[++i];
                } else {
                    break;
                }
                ++i;
            }
            tokens.push_back({Kind::Number, digits, std::strtod(digits.c_str(), nullptr), at});
            if (!std::isfinite(tokens.back().number))
                return syntaxError("The number " + digits + " is too large.", at);
            continue;
        }
        if (isWordByte(c) || c == '_' || c == '"') {
            std::string word;
            if (c == '"') {
                word = "\"";
                ++i;
            } else {
                while (i < text.size() && !startsSign(text.substr(i))) {
                    const auto d = static_cast<unsigned char>(text[i]);
                    if (!isWordByte(d) && !std::isdigit(d) && d != '_') break;
                    word += text[i++];
                }
            }
            tokens.push_back({Kind::Word, word, 0, at});
            continue;
        }
        if (std::string_view("+-*/^(),;").find(static_cast<char>(c)) != std::string_view::npos) {
            tokens.push_back({Kind::Operator, std::string(1, static_cast<char>(c)), 0, at});
            ++i;
            continue;
        }
        return syntaxError(std::string("The sign \"") + text[i] + "\" has no meaning here.", at);
    }
    tokens.push_back({Kind::End, "", 0, static_cast<int>(text.size())});
    return tokens;
}

/// Recursive descent over the tokens; the first error stops everything.
class Parser {
  public:
    Parser(std::vector<Token> tokens, const UnitSystem& units, const NameLookup& names)
        : m_tokens(std::move(tokens)), m_units(units), m_names(names) {}

    Result<Partial> run() {
        if (peek().kind == Kind::End) return syntaxError("Type a number, for example 2.4 mm.", 0);
        auto v = sum(0);
        if (!v) return v;
        if (peek().kind != Kind::End)
            return syntaxError("\"" + peek().text + "\" is not expected here.", peek().position);
        return v;
    }

  private:
    static constexpr int kDeepest = 60;

    const Token& peek(std::size_t ahead = 0) const {
        return m_tokens[std::min(m_at + ahead, m_tokens.size() - 1)];
    }
    bool isOperator(std::string_view op, std::size_t ahead = 0) const {
        return peek(ahead).kind == Kind::Operator && peek(ahead).text == op;
    }

    /// Gives a bare side the unit that the other side's dimension has in this part.
    void adopt(Partial& a, Partial& b) const {
        auto give = [&](Partial& bare, const Partial& other) {
            bare.amount.value *= m_units.factorFor(other.amount.dimension);
            bare.amount.dimension = other.amount.dimension;
            bare.bare = false;
        };
        if (a.bare && !b.bare && !b.amount.dimension.none()) give(a, b);
        if (b.bare && !a.bare && !a.amount.dimension.none()) give(b, a);
    }

    Result<Partial> sum(int depth) {
        if (depth > kDeepest) return syntaxError("The expression is nested too deeply.", peek().position);
        auto left = product(depth);
        if (!left) return left;
        while (isOperator("+") || isOperator("-")) {
            const Token op = peek();
            ++m_at;
            auto right = product(depth);
            if (!right) return right;
            Partial a = *left, b = *right;
            adopt(a, b);
            if (a.amount.dimension != b.amount.dimension)
                return syntaxError("A " + dimensionInWords(a.amount.dimension) + " and a " +
                                       dimensionInWords(b.amount.dimension) + " cannot be " +
                                       (op.text == "+" ? "added." : "subtracted."),
                                   op.position);
            a.amount.value += op.text == "+" ? b.amount.value : -b.amount.value;
            a.bare = a.bare && b.bare;
            left = a;
        }
        return left;
    }

    Result<Partial> product(int depth) {
        auto left = sign(depth);
        if (!left) return left;
        while (isOperator("*") || isOperator("/")) {
            const Token op = peek();
            ++m_at;
            auto right = sign(depth);
            if (!right) return right;
            Partial a = *left;
            const Partial& b = *right;
            const int s = op.text == "*" ? 1 : -1;
            if (s < 0 && b.amount.value == 0)
                return syntaxError("Division by zero has no result.", op.position);
            a.amount.value = s > 0 ? a.amount.value * b.amount.value : a.amount.value / b.amount.value;
            a.amount.dimension.length += s * b.amount.dimension.length;
            a.amount.dimension.angle += s * b.amount.dimension.angle;
            a.amount.dimension.mass += s * b.amount.dimension.mass;
            a.bare = a.bare && b.bare;
            left = a;
        }
        return left;
    }

    Result<Partial> sign(int depth) {
        if (depth > kDeepest) return syntaxError("The expression is nested too deeply.", peek().position);
        if (isOperator("-") || isOperator("+")) {
            const bool minus = isOperator("-");
            ++m_at;
            auto v = sign(depth + 1);
            if (v && minus) v.value().amount.value = -v->amount.value;
            return v;
        }
        return power(depth);
    }

    Result<Partial> power(int depth) {
        auto base = atom(depth);
        if (!base) return base;
        if (!isOperator("^")) return base;
        const Token op = peek();
        ++m_at;
        m_fractions = false; // in "a^2 / 3 mm" the 2 belongs to the power alone
        auto exponent = sign(depth + 1);
        m_fractions = true;
        if (!exponent) return exponent;
        if (!exponent->amount.dimension.none())
            return syntaxError("An exponent must be a plain number.", op.position);
        Partial r = *base;
        const double e = exponent->amount.value;
        if (!r.amount.dimension.none()) {
            if (e != std::floor(e) || std::fabs(e) > 3)
                return syntaxError("A size can only be raised to a whole power up to 3.", op.position);
            const int n = static_cast<int>(e);
            r.amount.dimension = {r.amount.dimension.length * n, r.amount.dimension.angle * n,
                                  r.amount.dimension.mass * n};
        }
        r.amount.value = std::pow(r.amount.value, e);
        return r;
    }

    Result<Partial> atom(int depth) {
        const Token t = peek();
        if (t.kind == Kind::Number) return literal();
        if (isOperator("(")) {
            ++m_at;
            auto v = sum(depth + 1);
            if (!v) return v;
            if (!isOperator(")")) return syntaxError("A closing bracket is missing.", peek().position);
            ++m_at;
            return withUnit(*v);
        }
        if (t.kind == Kind::Word) {
            ++m_at;
            if (isFunction(t.text) && isOperator("(")) return call(t, depth);
            if (t.text == "pi" || t.text == "π") return Partial{{std::numbers::pi, {}}, true};
            if (m_names)
                if (const auto found = m_names(t.text)) return Partial{*found, false};
            if (findUnit(t.text))
                return syntaxError("A number is missing before \"" + t.text + "\".", t.position);
            Error e = syntaxError("There is no value called \"" + t.text + "\".", t.position);
            e.code = "expression.unknown-name";
            e.culprits = {t.text};
            return e;
        }
        if (t.kind == Kind::End) return syntaxError("The expression stops too early.", t.position);
        return syntaxError("A number or a name is expected instead of \"" + t.text + "\".", t.position);
    }

    /// A number, a fraction or a mixed fraction, with its unit: "2.4", "7/64 in", "3 3/8 in".
    Result<Partial> literal() {
        double v = peek().number;
        ++m_at;
        auto fractionAt = [&](std::size_t k) {
            return peek(k).kind == Kind::Number && isOperator("/", k + 1) && peek(k + 2).kind == Kind::Number;
        };
        if (!m_fractions) return Partial{{v, {}}, true};
        if (fractionAt(0)) { // mixed: the whole part was read
            const double bottom = peek(2).number;
            if (bottom == 0) return syntaxError("Division by zero has no result.", peek(1).position);
            v += peek().number / bottom;
            m_at += 3;
        } else if (isOperator("/") && peek(1).kind == Kind::Number && peek(2).kind == Kind::Word &&
                   findUnit(peek(2).text) && !isKnownName(peek(2).text)) {
            if (peek(1).number == 0) return syntaxError("Division by zero has no result.", peek().position);
            v /= peek(1).number; // a fraction of a unit: "7/64 in"
            m_at += 2;
        } else if (peek().kind == Kind::Number) {
            return syntaxError("Two numbers stand side by side; is a sign missing between them?",
                               peek().position);
        }
        return withUnit(Partial{{v, {}}, true});
    }

    bool isKnownName(const std::string& w) const { return m_names && m_names(w).has_value(); }

    Result<Partial> withUnit(Partial p) {
        if (peek().kind != Kind::Word) return p;
        const auto unit = findUnit(peek().text);
        if (!unit) return p;
        if (!p.bare)
            return syntaxError("The value before \"" + peek().text + "\" has a unit already.",
                               peek().position);
        ++m_at;
        p.amount.value *= unit->factor;
        p.amount.dimension = unit->dimension;
        p.bare = false;
        return p;
    }

    Result<Partial> call(const Token& name, int depth) {
        ++m_at; // the bracket
        std::vector<Partial> args;
        for (;;) {
            auto v = sum(depth + 1);
            if (!v) return v;
            args.push_back(*v);
            if (isOperator(",") || isOperator(";")) {
                ++m_at;
                continue;
            }
            break;
        }
        if (!isOperator(")")) return syntaxError("A closing bracket is missing.", peek().position);
        ++m_at;
        return apply(name, std::move(args));
    }

    Result<Partial> apply(const Token& name, std::vector<Partial> args) const {
        const std::string& f = name.text;
        const bool many = f == "min" || f == "max";
        if (!many && args.size() != 1) return syntaxError(f + " takes one value.", name.position);
        Partial r = args[0];
        double& v = r.amount.value;
        if (many) {
            for (std::size_t i = 1; i < args.size(); ++i) {
                adopt(r, args[i]);
                if (args[i].amount.dimension != r.amount.dimension)
                    return syntaxError(f + " needs values of one kind.", name.position);
                v = f == "min" ? std::min(v, args[i].amount.value) : std::max(v, args[i].amount.value);
            }
            return r;
        }
        const bool plain = r.amount.dimension.none();
        if (f == "abs") {
            v = std::fabs(v);
            return r;
        }
        if (f == "round" || f == "floor" || f == "ceil") {
            const double unit = m_units.factorFor(r.amount.dimension); // rounds in the part's units
            v /= unit;
            v = (f == "round" ? std::round(v) : f == "floor" ? std::floor(v) : std::ceil(v)) * unit;
            return r;
        }
        if (f == "sin" || f == "cos" || f == "tan") {
            if (r.bare)
                v *= m_units.factorFor(kAngle);
            else if (r.amount.dimension != kAngle)
                return syntaxError(f + " needs an angle.", name.position);
            v = f == "sin" ? std::sin(v) : f == "cos" ? std::cos(v) : std::tan(v);
            return Partial{{v, {}}, false};
        }
        if (!plain) return syntaxError(f + " needs a plain number.", name.position);
        if (f == "sqrt") {
            if (v < 0) return syntaxError("There is no square root of a negative number.", name.position);
            v = std::sqrt(v);
            return r;
        }
        if ((f == "asin" || f == "acos") && std::fabs(v) > 1)
            return syntaxError(f + " needs a number from -1 to 1.", name.position);
        v = f == "asin" ? std::asin(v) : f == "acos" ? std::acos(v) : std::atan(v);
        return Partial{{v, kAngle}, false};
    }

    std::vector<Token> m_tokens;
    const UnitSystem& m_units;
    const NameLookup& m_names;
    std::size_t m_at = 0;
    bool m_fractions = true;
};

} // namespace

std::string UnitSystem::symbolFor(Dimension d) const {
    if (d == kLength) return length;
    if (d == kAngle) return angle;
    if (d == kMass) return mass;
    if (d == kVolume) return volume;
    if (d == kArea) return "mm²";
    return {};
}

double UnitSystem::factorFor(Dimension d) const {
    const auto unit = findUnit(symbolFor(d));
    return unit ? unit->factor : 1.0;
}

Result<Amount> evaluate(std::string_view text, Dimension wanted, const UnitSystem& units,
                        const NameLookup& names) {
    auto tokens = tokenize(text);
    if (!tokens) return tokens.error();
    auto v = Parser(std::move(*tokens), units, names).run();
    if (!v) return v.error();
    Amount a = v->amount;
    if (a.dimension.none() && (v->bare || wanted.none())) {
        a.value *= units.factorFor(wanted);
        a.dimension = wanted;
    }
    if (!(a.dimension == wanted))
        return syntaxError("This field needs a " + dimensionInWords(wanted) + ", but \"" + std::string(text) +
                               "\" is a " + dimensionInWords(a.dimension) + ".",
                           0);
    if (!std::isfinite(a.value)) return syntaxError("The result is not a finite number.", 0);
    return a;
}

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

Result<std::map<std::string, Amount>> evaluateValues(const std::vector<NamedValue>& values,
                                                     const UnitSystem& units) {
    std::map<std::string, const NamedValue*> byName;
    for (const NamedValue& v : values) {
        auto fault = [&](const char* code, Message sentence) {
            Error e;
            e.code = code;
            e.sentence = std::move(sentence);
            e.culprits = {v.name};
            return e;
        };
        if (!isGoodName(v.name))
            return fault("values.name",
                         "\"" + v.name +
                             "\" cannot be a name. Use letters, digits and underscores, and no unit.");
        if (!byName.emplace(v.name, &v).second)
            return fault("values.twice", phrase("Two values are called \"%1\". Rename one of them.", v.name));
    }
    std::map<std::string, Amount> done;
    std::vector<std::string> open; // the chain of names being evaluated
    std::optional<Error> failure;
    std::function<std::optional<Amount>(const std::string&)> get =
        [&](const std::string& name) -> std::optional<Amount> {
        if (const auto it = done.find(name); it != done.end()) return it->second;
        const auto it = byName.find(name);
        if (it == byName.end()) return std::nullopt;
        if (const auto start = std::find(open.begin(), open.end(), name); start != open.end()) {
            Error e;
            e.code = "values.circle";
            for (auto k = start; k != open.end(); ++k) e.culprits.push_back(*k);
            std::string circle;
            for (const std::string& c : e.culprits) circle += c + " → ";
            e.sentence =
                phrase("These values need each other in a circle: %1. Give one of them a number of its own.",
                       circle + name);
            if (!failure) failure = e;
            return std::nullopt;
        }
        open.push_back(name);
        // A named value may have any dimension: try the common ones, the length first for bare numbers.
        Result<Amount> r = Error{};
        for (const Dimension d : {kLength, kAngle, kNumber, kMass, kVolume, kArea}) {
            r = evaluate(it->second->expression, d, units, get);
            if (r || failure || r.error().position > 0) break;
        }
        open.pop_back();
        if (!r) {
            if (!failure) {
                failure = r.error();
                failure->culprits = {name};
                failure->sentence = phrase("Value \"%1\": %2", name, failure->sentence);
            }
            return std::nullopt;
        }
        return done[name] = *r;
    };
    for (const NamedValue& v : values) {
        get(v.name);
        if (failure) return *failure;
    }
    return done;
}

} // namespace gc
