#include "core/document/stations_csv.hpp"

#include <algorithm>
#include <cctype>

namespace gc {

namespace {

constexpr std::size_t kMostRows = 2000;

std::string tidy(const std::string& s) {
    const auto first = s.find_first_not_of(" \t\r\"");
    const auto last = s.find_last_not_of(" \t\r\"");
    return first == std::string::npos ? std::string() : s.substr(first, last - first + 1);
}

std::vector<std::string> split(const std::string& line, char sign) {
    std::vector<std::string> cells;
    std::size_t from = 0;
    for (std::size_t at = line.find(sign); at != std::string::npos; from = at + 1, at = line.find(sign, from))
        cells.push_back(tidy(line.substr(from, at - from)));
    cells.push_back(tidy(line.substr(from)));
    return cells;
}

std::string lower(std::string s) {
    std::transform(s.begin(), s.end(), s.begin(), [](unsigned char c) { return std::tolower(c); });
    return s;
}

struct Columns {
    int height = 0, diameter = 1, side = -1, tolerance = -1;
    bool inside = false;
};

/// The columns of a line of headings; nothing when it is not one.
std::optional<Columns> headings(const std::vector<std::string>& cells) {
    Columns c{-1, -1, -1, -1, false};
    for (int i = 0; i < static_cast<int>(cells.size()); ++i) {
        const std::string w = lower(cells[static_cast<std::size_t>(i)]);
        auto has = [&](const char* word) { return w.find(word) != std::string::npos; };
        if (has("height"))
            c.height = i;
        else if (has("toler"))
            c.tolerance = i;
        else if (has("side") && !has("inside") && !has("outside"))
            c.side = i;
        else if (has("diam") || has("inside") || has("outside")) {
            c.diameter = i;
            c.inside = has("inside");
        }
    }
    return c.height >= 0 && c.diameter >= 0 ? std::optional(c) : std::nullopt;
}

std::string cell(const std::vector<std::string>& cells, int column) {
    return column >= 0 && column < static_cast<int>(cells.size()) ? cells[static_cast<std::size_t>(column)]
                                                                  : std::string();
}

} // namespace

StationsFromText readStations(const std::string& text) {
    StationsFromText out;
    const char sign = text.find('\t') != std::string::npos  ? '\t'
                      : text.find(';') != std::string::npos ? ';'
                                                            : ',';
    Columns columns;
    bool first = true;
    int line = -1;
    const UnitSystem plain;
    for (std::size_t from = 0; from <= text.size();) {
        std::size_t end = text.find('\n', from);
        if (end == std::string::npos) end = text.size();
        const std::string raw = tidy(text.substr(from, end - from));
        from = end + 1;
        ++line;
        if (raw.empty()) continue;
        const auto cells = split(raw, sign);
        if (first) {
            first = false;
            if (const auto found = headings(cells)) {
                columns = *found;
                continue;
            }
            columns.side = 2;
        }
        if (out.rows.size() >= kMostRows) {
            out.faults.push_back({line, "There are more than 2000 rows; the rest is left out."});
            break;
        }
        if (cells.size() < 2) {
            out.faults.push_back({line, "\"" + raw + "\" has no diameter beside the height."});
            continue;
        }
        StationRow row{cell(cells, columns.height), cell(cells, columns.diameter), columns.inside,
                       cell(cells, columns.tolerance)};
        const std::string side = lower(cell(cells, columns.side));
        if (side.rfind("in", 0) == 0) row.inside = true;
        Message fault;
        for (const std::string& t : {row.height, row.diameter})
            if (fault.empty())
                if (const auto v = evaluate(t, kLength, plain); !v)
                    fault = phrase("\"%1\": %2", t, v.error().sentence);
        if (fault.empty())
            out.rows.push_back(std::move(row));
        else
            out.faults.push_back({line, fault});
    }
    return out;
}

std::string writeStations(const Stations& rows) {
    std::string out = "height\tdiameter\tside\ttolerance\n";
    for (const StationRow& r : rows)
        out += r.height + '\t' + r.diameter + '\t' + (r.inside ? "inside" : "outside") + '\t' + r.tolerance +
               '\n';
    return out;
}

} // namespace gc
