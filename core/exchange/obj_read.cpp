// Bodies out of OBJ files: corners, and faces that name them by their numbers.

#include "core/exchange/obj_file.hpp"

#include <charconv>
#include <cmath>
#include <optional>
#include <string_view>

namespace gc {

namespace {

/// The words of a line; a backslash at its end goes on in the next.
class Lines {
  public:
    explicit Lines(std::string_view text) : m_rest(text) {}
    bool next(std::vector<std::string_view>& words) {
        words.clear();
        bool more = true, any = false;
        while (more && !m_rest.empty()) {
            any = true;
            ++m_number;
            std::string_view line = m_rest.substr(0, m_rest.find('\n'));
            m_rest.remove_prefix(std::min(m_rest.size(), line.size() + 1));
            if (!line.empty() && line.back() == '\r') line.remove_suffix(1);
            more = !line.empty() && line.back() == '\\';
            if (more) line.remove_suffix(1);
            line = line.substr(0, line.find('#'));
            split(line, words);
        }
        return any;
    }
    int number() const { return m_number; }

  private:
    static void split(std::string_view line, std::vector<std::string_view>& words) {
        constexpr const char* kBlank = " \t\v\f";
        while (true) {
            const auto from = line.find_first_not_of(kBlank);
            if (from == std::string_view::npos) return;
            const auto to = std::min(line.find_first_of(kBlank, from), line.size());
            words.push_back(line.substr(from, to - from));
            line.remove_prefix(to);
        }
    }

    std::string_view m_rest;
    int m_number = 0;
};

std::optional<double> figure(std::string_view word) {
    double v = 0;
    if (!word.empty() && word.front() == '+') word.remove_prefix(1);
    const auto r = std::from_chars(word.data(), word.data() + word.size(), v);
    return r.ec == std::errc() && r.ptr == word.data() + word.size() && std::isfinite(v) ? std::optional(v)
                                                                                         : std::nullopt;
}

/// "7", "7/1", "7//3", "-2": the place of a corner, from 0.
std::optional<std::size_t> cornerOf(std::string_view word, std::size_t count) {
    word = word.substr(0, word.find('/'));
    long long n = 0;
    const auto r = std::from_chars(word.data(), word.data() + word.size(), n);
    if (r.ec != std::errc() || r.ptr != word.data() + word.size()) return std::nullopt;
    const auto all = static_cast<long long>(count);
    const long long at = n > 0 ? n - 1 : all + n;
    return n != 0 && at >= 0 && at < all ? std::optional(static_cast<std::size_t>(at)) : std::nullopt;
}

/// A face of several sides cut at its ears, seen along the normal that all its sides together have (Newell).
void cutToTriangles(std::vector<Vec3> p, std::vector<Triangle>& out) {
    Vec3 n;
    for (std::size_t i = 0; i < p.size(); ++i) n += cross(p[i], p[(i + 1) % p.size()]);
    const auto turn = [&](std::size_t a, std::size_t b, std::size_t c) {
        return dot(n, cross(p[b] - p[a], p[c] - p[a]));
    };
    for (std::size_t count = p.size(); count > 3; count = p.size()) {
        std::size_t ear = 0;
        for (std::size_t i = 0; i < count; ++i) {
            const std::size_t a = (i + count - 1) % count, c = (i + 1) % count;
            bool good = turn(a, i, c) > 0;
            for (std::size_t k = 0; good && k < count; ++k)
                good =
                    k == a || k == i || k == c || turn(a, i, k) < 0 || turn(i, c, k) < 0 || turn(c, a, k) < 0;
            if (!good) continue;
            ear = i;
            break;
        }
        out.push_back({p[(ear + count - 1) % count], p[ear], p[(ear + 1) % count]});
        p.erase(p.begin() + static_cast<std::ptrdiff_t>(ear));
    }
    out.push_back({p[0], p[1], p[2]});
}

class Reader {
  public:
    explicit Reader(double unit) : m_unit(unit) {}
    /// \return what is wrong with the line; empty: nothing
    std::string take(const std::vector<std::string_view>& words) {
        if (words[0] == "v") return corner(words);
        if (words[0] == "f") return face(words);
        if ((words[0] == "o" || words[0] == "g") && words.size() > 1) begin(words);
        return {};
    }
    std::vector<TriangleObject> objects;
    std::size_t count() const { return m_count; } ///< triangles

  private:
    std::string corner(const std::vector<std::string_view>& words) {
        std::optional<double> c[3];
        for (std::size_t k = 0; k < 3; ++k)
            if (k + 1 < words.size()) c[k] = figure(words[k + 1]);
        if (!c[0] || !c[1] || !c[2]) return "a corner needs three numbers";
        m_corners.push_back(Vec3{*c[0], *c[1], *c[2]} * m_unit);
        return isPlace(m_corners.back()) ? std::string() : "a corner lies too far away";
    }
    std::string face(const std::vector<std::string_view>& words) {
        constexpr std::size_t kMostSides = 500;
        if (words.size() < 4) return "a face needs three corners or more";
        if (words.size() > kMostSides) return "a face has more than 500 corners";
        std::vector<Vec3> p;
        for (std::size_t k = 1; k < words.size(); ++k) {
            const auto at = cornerOf(words[k], m_corners.size());
            if (!at) return "a face names a corner that is not there";
            p.push_back(m_corners[*at]);
        }
        if (objects.empty()) objects.emplace_back();
        m_count += p.size() - 2;
        cutToTriangles(std::move(p), objects.back().triangles);
        return {};
    }
    void begin(const std::vector<std::string_view>& words) {
        std::string name(words[1]);
        for (std::size_t k = 2; k < words.size(); ++k) name += " " + std::string(words[k]);
        if (objects.empty() || !objects.back().triangles.empty()) objects.emplace_back();
        objects.back().name = name;
    }
    double m_unit;
    std::size_t m_count = 0;
    std::vector<Vec3> m_corners;
};

} // namespace

bool isObj(const std::string& content) {
    constexpr int kLooked = 400; // lines of remarks that may come first
    Lines lines(content);
    std::vector<std::string_view> words;
    for (int i = 0; i < kLooked && lines.next(words); ++i)
        if (words.size() > 3 && words[0] == "v")
            return figure(words[1]) && figure(words[2]) && figure(words[3]);
    return false;
}

Result<std::vector<NamedBody>> readObj(const std::string& content, int stepId, double unit) {
    Reader reader(unit);
    Lines lines(content);
    std::vector<std::string_view> words;
    while (lines.next(words)) {
        if (words.empty()) continue;
        const std::string wrong = reader.take(words);
        if (!wrong.empty())
            return errorOf("obj.syntax", phrase("Line %1 of the OBJ file cannot be read: %2. Export it anew.",
                                                std::to_string(lines.number()), wrong));
        if (reader.count() > kMostRead) break; // told below
    }
    return bodiesOfTriangles(reader.objects, stepId, "OBJ");
}

} // namespace gc
