#include "core/units/tokens.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <cstdlib>
#include <optional>

namespace gc {

namespace {

struct Alias {
    std::string_view from, to;
};
// What people paste: other minus signs, times and division signs.
constexpr std::array kAliases{Alias{"−", "-"}, Alias{"–", "-"}, Alias{"×", "*"}, Alias{"·", "*"},
                              Alias{"÷", "/"}};
constexpr std::array<std::string_view, 13> kFunctions{"sqrt", "abs", "min", "max",  "round", "floor", "ceil",
                                                      "sin",  "cos", "tan", "asin", "acos",  "atan"};

bool isDigit(char c) {
    return std::isdigit(static_cast<unsigned char>(c)) != 0;
}

const Alias* aliasAt(std::string_view s) {
    for (const Alias& a : kAliases)
        if (s.substr(0, a.from.size()) == a.from) return &a;
    return nullptr;
}

class Tokenizer {
  public:
    explicit Tokenizer(std::string_view text) : m_text(text) {}

    Result<std::vector<Token>> run() {
        while (m_at < m_text.size())
            if (auto fault = step()) return *fault;
        m_tokens.push_back({Token::Kind::End, "", 0, static_cast<int>(m_text.size())});
        return std::move(m_tokens);
    }

  private:
    /// What a pair of brackets that is open means for the commas in it.
    struct Bracket {
        bool call = false;       ///< a function's
        bool semicolons = false; ///< they part its values, so that commas are decimal
    };

    char next(std::size_t ahead = 0) const {
        return m_at + ahead < m_text.size() ? m_text[m_at + ahead] : '\0';
    }
    void add(Token::Kind kind, std::string text, std::size_t bytes) {
        m_tokens.push_back({kind, std::move(text), 0, static_cast<int>(m_at)});
        m_at += bytes;
    }

    std::optional<Error> step() {
        const char c = next();
        const bool noBreakSpace = m_text.substr(m_at, 2) == "\xC2\xA0";
        if (std::isspace(static_cast<unsigned char>(c)) || noBreakSpace) {
            m_at += noBreakSpace ? 2 : 1;
            return std::nullopt;
        }
        if (const Alias* alias = aliasAt(m_text.substr(m_at))) {
            add(Token::Kind::Operator, std::string(alias->to), alias->from.size());
            return std::nullopt;
        }
        if (isDigit(c) || (c == '.' && isDigit(next(1))) || (c == ',' && isDigit(next(1)) && !commasPart()))
            return number();
        if (isWordByte(static_cast<unsigned char>(c)) || c == '_' || c == '"') {
            word();
            return std::nullopt;
        }
        if (std::string_view("+-*/^(),;").find(c) == std::string_view::npos)
            return syntaxError(std::string("The sign \"") + c + "\" has no meaning here.",
                               static_cast<int>(m_at));
        if (c == '(') m_open.push_back(bracketHere());
        if (c == ')' && !m_open.empty()) m_open.pop_back();
        add(Token::Kind::Operator, std::string(1, c), 1);
        return std::nullopt;
    }

    /// Do commas part values here?
    bool commasPart() const { return !m_open.empty() && m_open.back().call && !m_open.back().semicolons; }

    Bracket bracketHere() const {
        Bracket b;
        b.call = !m_tokens.empty() && m_tokens.back().kind == Token::Kind::Word &&
                 isFunction(m_tokens.back().text);
        int depth = 0;
        for (std::size_t i = m_at; i < m_text.size(); ++i) {
            depth += m_text[i] == '(' ? 1 : m_text[i] == ')' ? -1 : 0;
            if (depth == 0) break;
            if (depth == 1 && m_text[i] == ';') b.semicolons = true;
        }
        return b;
    }

    void word() {
        if (next() == '"') return add(Token::Kind::Word, "\"", 1); // inches
        std::size_t end = m_at;
        while (end < m_text.size() && !aliasAt(m_text.substr(end))) {
            const auto d = static_cast<unsigned char>(m_text[end]);
            if (!isWordByte(d) && !std::isdigit(d) && d != '_') break;
            ++end;
        }
        add(Token::Kind::Word, std::string(m_text.substr(m_at, end - m_at)), end - m_at);
    }

    /// The digits of one number, with its decimal sign as a point.
    std::string digits(char& mark) {
        std::string out;
        for (; m_at < m_text.size(); ++m_at) {
            const char d = next();
            const bool digitNext = isDigit(next(1));
            if (isDigit(d)) {
                out += d;
            } else if ((d == '.' || (d == ',' && digitNext && !commasPart())) && !mark) {
                out += '.';
                mark = d;
            } else if ((d == 'e' || d == 'E') && (digitNext || (next(1) == '-' && isDigit(next(2))))) {
                out += d;
                if (!digitNext) out += m_text[++m_at];
                mark = mark ? mark : 'e'; // no decimal sign after it
            } else {
                break;
            }
        }
        return out;
    }

    std::optional<Error> number() {
        const auto at = static_cast<int>(m_at);
        char mark = '\0';
        const std::string value = digits(mark);
        const std::string typed(
            m_text.substr(static_cast<std::size_t>(at), m_at - static_cast<std::size_t>(at)));
        if (auto fault = doubtful(typed, mark, at)) return fault;
        m_tokens.push_back({Token::Kind::Number, value, std::strtod(value.c_str(), nullptr), at});
        if (!std::isfinite(m_tokens.back().number))
            return syntaxError("The number " + value + " is too large.", at);
        return std::nullopt;
    }

    /// Commas that may mean two things are asked about instead of guessed.
    std::optional<Error> doubtful(const std::string& typed, char mark, int at) const {
        const bool another = (next() == ',' || next() == '.') && isDigit(next(1)) && !commasPart();
        if (mark && another)
            return syntaxError(
                phrase("The number beginning \"%1\" has more than one comma or point. Write it with "
                       "one decimal point and nothing between the thousands.",
                       typed + next()),
                at);
        const auto comma = typed.find(',');
        if (mark == ',' && comma > 0 && comma <= 3 && typed[0] != '0' && typed.size() - comma == 4 &&
            next() != 'e') {
            const std::string whole = typed.substr(0, comma), rest = typed.substr(comma + 1);
            return syntaxError(phrase("\"%1\" may be %2 or %3. Write the one that you mean without a comma.",
                                      typed, whole + "." + rest, whole + rest),
                               at);
        }
        // "max(2,5 mm, 3 mm)": one comma without a space after it, another with one.
        if (commasPart() && next() == ',' && isDigit(next(1)) && spacedCommaFollows())
            return syntaxError(
                phrase("It is not clear whether \"%1\" is one number or two. Write a decimal point, or "
                       "part the values by \";\".",
                       typed + "," + next(1)),
                at);
        return std::nullopt;
    }

    bool spacedCommaFollows() const {
        int depth = 0;
        for (std::size_t i = m_at + 1; i < m_text.size() && depth >= 0; ++i) {
            depth += m_text[i] == '(' ? 1 : m_text[i] == ')' ? -1 : 0;
            if (depth == 0 && m_text[i] == ',' && i + 1 < m_text.size() && m_text[i + 1] == ' ') return true;
        }
        return false;
    }

    std::string_view m_text;
    std::size_t m_at = 0;
    std::vector<Token> m_tokens;
    std::vector<Bracket> m_open;
};

} // namespace

Result<std::vector<Token>> tokenize(std::string_view text) {
    return Tokenizer(text).run();
}

bool isFunction(std::string_view word) {
    return std::find(kFunctions.begin(), kFunctions.end(), word) != kFunctions.end();
}

bool isWordByte(unsigned char c) {
    return std::isalpha(c) || c >= 0x80;
}

Error syntaxError(Message sentence, int position) {
    Error e;
    e.code = "expression.syntax";
    e.sentence = std::move(sentence);
    e.position = position;
    return e;
}

} // namespace gc
