#include "core/units/expression.hpp"

#include "core/units/tokens.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

using Kind = Token::Kind;

/// A piece of text that says a unit which was only understood.
struct Said {
    int position = 0;   ///< in bytes
    std::string before; ///< put in front of the unit
    bool unit = false;  ///< the unit itself stands here
};

/// "a length", "an angle".
std::string oneOf(Dimension d) {
    const std::string words = dimensionInWords(d);
    return (words.starts_with('a') ? "an " : "a ") + words;
}

/// A value on its way: bare as long as only numbers without unit went into it.
struct Partial {
    Amount amount{};
    bool bare = true;
    std::vector<Said> takes{}; ///< where a unit would be said if it gets one; only while they are noted
};

/// Recursive descent over the tokens; the first error stops everything.
class Parser {
  public:
    Parser(std::vector<Token> tokens, const UnitSystem& units, const NameLookup& names)
        : m_tokens(std::move(tokens)), m_units(units), m_names(names) {}

    /// Notes where units are understood, and would be said.
    void noteUnits() { m_noting = true; }
    struct Noted {
        Said said;
        Dimension dimension;
    };
    const std::vector<Noted>& noted() const { return m_noted; }
    /// The whole text gets the unit of a dimension.
    void giveAll(const Partial& all, Dimension dimension) const { note(all, dimension); }

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
            note(bare, other.amount.dimension);
            bare.amount.value *= m_units.factorFor(other.amount.dimension);
            bare.amount.dimension = other.amount.dimension;
            bare.bare = false;
        };
        if (a.bare && !b.bare && !b.amount.dimension.none()) give(a, b);
        if (b.bare && !a.bare && !a.amount.dimension.none()) give(b, a);
    }

    void note(const Partial& bare, Dimension dimension) const {
        for (const Said& s : bare.takes) m_noted.push_back({s, dimension});
    }
    int endOfLast() const {
        const Token& t = m_tokens[m_at - 1];
        return t.position + static_cast<int>(t.text.size());
    }
    std::vector<Said> here() const {
        return m_noting ? std::vector<Said>{{endOfLast(), " ", true}} : std::vector<Said>();
    }
    /// Brackets around all that was read from there, and the unit behind them.
    std::vector<Said> around(std::size_t from) const {
        if (!m_noting) return {};
        return {{m_tokens[from].position, "(", false}, {endOfLast(), ") ", true}};
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
                return syntaxError("It is " + oneOf(a.amount.dimension) + " and " +
                                       oneOf(b.amount.dimension) + ": they cannot be " +
                                       (op.text == "+" ? "added." : "subtracted."),
                                   op.position);
            a.amount.value += op.text == "+" ? b.amount.value : -b.amount.value;
            a.bare = a.bare && b.bare;
            a.takes.insert(a.takes.end(), b.takes.begin(), b.takes.end());
            left = a;
        }
        return left;
    }

    Result<Partial> product(int depth) {
        const std::size_t from = m_at;
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
            a.takes = around(from);
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
        const std::size_t from = m_at;
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
        r.takes = around(from);
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
            if (t.text == "pi" || t.text == "π")
                return Partial{{std::numbers::pi, {}}, true, around(m_at - 1)};
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
        if (!m_fractions) return Partial{{v, {}}, true, here()};
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
        p.takes = here();
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
        p.takes.clear();
        return p;
    }

    Result<Partial> call(const Token& name, int depth) {
        const std::size_t from = m_at - 1;
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
        auto v = apply(name, std::move(args));
        const bool rounds = name.text == "round" || name.text == "floor" || name.text == "ceil";
        if (v && m_noting && rounds && !v->amount.dimension.none()) {
            // It rounds to whole units of the part: which, is said. "round((wall) / 1 mm) * 1 mm"
            const int inside = m_tokens[from + 1].position + 1, end = m_tokens[m_at - 1].position;
            const Dimension d = v->amount.dimension;
            m_noted.push_back({{m_tokens[from].position, "(", false}, d});
            m_noted.push_back({{inside, "(", false}, d});
            m_noted.push_back({{end, ") / 1 ", true}, d});
            m_noted.push_back({{end + 1, " * 1 ", true}, d});
            m_noted.push_back({{end + 1, ")", false}, d});
        }
        return v && v->bare ? withUnit(*v) : v; // "max(20, 40) mm"
    }

    Result<Partial> apply(const Token& name, std::vector<Partial> args) const {
        const std::string& f = name.text;
        const bool many = f == "min" || f == "max";
        if (!many && args.size() != 1) return syntaxError(f + " takes one value.", name.position);
        if (many && args.size() < 2)
            return syntaxError(phrase("%1 needs two values or more, parted by \",\" or \";\".", f),
                               name.position);
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
                v *= (note(r, kAngle), m_units.factorFor(kAngle));
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
    bool m_noting = false;
    mutable std::vector<Noted> m_noted;
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
        return syntaxError("This field needs " + oneOf(wanted) + ", but \"" + std::string(text) + "\" is " +
                               oneOf(a.dimension) + ".",
                           0);
    if (!std::isfinite(a.value)) return syntaxError("The result is not a finite number.", 0);
    return a;
}

std::string sayUnits(std::string_view text, Dimension wanted, const UnitSystem& was, const UnitSystem& now,
                     const NameLookup& names) {
    auto tokens = tokenize(text);
    if (!tokens) return std::string(text);
    Parser parser(std::move(*tokens), was, names);
    parser.noteUnits();
    const auto v = parser.run();
    if (!v) return std::string(text);
    if (v->amount.dimension.none() && v->bare) parser.giveAll(*v, wanted);
    auto noted = parser.noted();
    std::erase_if(noted,
                  [&](const auto& n) { return was.symbolFor(n.dimension) == now.symbolFor(n.dimension); });
    std::stable_sort(noted.begin(), noted.end(),
                     [](const auto& a, const auto& b) { return a.said.position < b.said.position; });
    std::string out;
    std::size_t copied = 0;
    for (const auto& n : noted) {
        const auto at = static_cast<std::size_t>(n.said.position);
        out += text.substr(copied, at - copied);
        copied = at;
        out += n.said.before;
        if (n.said.unit) out += was.symbolFor(n.dimension);
    }
    return out += text.substr(copied);
}

} // namespace gc
