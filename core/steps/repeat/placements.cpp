#include "core/steps/repeat/placements.hpp"

#include "core/steps/repeat/along.hpp"

#include "core/base/angles.hpp"
#include "core/steps/shared/find_axis.hpp"
#include "core/units/amount.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

gp_Trsf shifted(const Vec3& by) {
    gp_Trsf t;
    t.SetTranslation(gp_Vec(by.x, by.y, by.z));
    return t;
}

Error tooShort(double span, double width) {
    return errorOf("repeat.span", phrase("Not even two fit into %1: each takes %2 there.",
                                         formatAmount(span, "mm", 2), formatAmount(width, "mm", 2)));
}

/// \param after "" or " 2": which of the two directions
Result<CopyLayout::Row> rowBy(const Arguments& args, ModelReader& model, const WidthAlong& width,
                              const std::string& after) {
    const auto axis = findAxis(args, "line" + after, model);
    if (!axis) return axis.error();
    CopyLayout::Row row;
    const Vec3 along = unit(axis->direction);
    row.along = args.text("sense" + after) == "backward" ? -along : along;
    const std::string& how = args.text("spacing" + after);
    if (how != "filling") row.count = static_cast<int>(args.number("count" + after));
    if (how == "leaving") {
        row.pitch = width(along) + args.number("gap" + after);
    } else if (how != "filling") {
        row.pitch = pitchOf(args, after, row.count, 0);
    } else {
        // As many as fit between the two ends, the last gap like the others.
        constexpr double kJust = 1e-9; // what just fits does
        const double w = width(along), gap = args.number("gap" + after), span = args.number("span" + after);
        row.count = static_cast<int>(std::floor((span + gap) / (w + gap) + kJust));
        if (row.count < 2) return tooShort(span, w);
        row.pitch = (span - w) / (row.count - 1);
    }
    return row;
}

Result<CopyLayout> aroundBy(const Arguments& args, ModelReader& model, const Vec3& foot) {
    const auto axis = findAxis(args, "axis", model);
    if (!axis) return axis.error();
    CopyLayout out;
    out.axis = turnedUp(*axis);
    out.turns = static_cast<int>(args.number("count"));
    out.countSlot = "count";
    double byLength = 0;
    if (args.text("turn") == "arc") {
        constexpr double kOnAxis = 1e-3; // mm
        const Vec3 from = foot - axis->origin, along = unit(axis->direction);
        const double radius = length(from - along * dot(from, along));
        if (radius < kOnAxis)
            return errorOf("repeat.round", "It stands on the axis, so there is no way round it. Pick another "
                                           "axis, or move it away from this one.");
        byLength = args.number("arc") / radius;
    }
    out.step = stepRound(args, out.turns, byLength);
    return out;
}

/// The drawn point nearest to the detail is its own.
Result<CopyLayout> atPoints(const Arguments& args, ModelReader& model, const Vec3& at) {
    const auto id = model.outlineIn("points");
    const Outline* outline = id ? model.outline(*id) : nullptr;
    if (!outline || !outline->drawn() || !outline->drawing)
        return errorOf("repeat.points",
                       phrase("There is no drawing called \"%1\" before this step.", args.label("points")));
    std::vector<Vec3> places;
    for (const Stroke& s : outline->drawing->strokes)
        if (s.kind == StrokeKind::Point && !s.points.empty())
            if (const auto p = outline->points.find(s.points.front()); p != outline->points.end())
                places.push_back(outline->plane.at(p->second));
    if (places.size() < 2)
        return errorOf("repeat.points",
                       phrase("The drawing \"%1\" has no points to repeat at. Draw one where the detail is, "
                              "and one for each copy.",
                              args.label("points")));
    const auto own = std::min_element(places.begin(), places.end(),
                                      [&](Vec3 a, Vec3 b) { return length(a - at) < length(b - at); });
    std::rotate(places.begin(), own, places.end());
    CopyLayout out;
    for (std::size_t i = 1; i < places.size(); ++i)
        out.motions.push_back(shifted(places[i] - places.front()));
    return out;
}

} // namespace

double pitchOf(const Arguments& args, const std::string& after, int count, double fixed) {
    const std::string& how = args.text("spacing" + after);
    if (how == "every") return args.number("pitch" + after);
    return how == "over" ? args.number("span" + after) / std::max(count - 1, 1) : fixed;
}

double stepRound(const Arguments& args, int count, double fixed) {
    const std::string& turn = args.text("turn");
    if (turn == "arc") return fixed;
    if (turn == "all the way round") return 2 * kPi / count;
    return turn == "over" ? args.number("angle") / std::max(count - 1, 1) : args.number("angle");
}

Result<CopyLayout> layoutBy(const Arguments& args, ModelReader& model, const WidthAlong& width,
                            const Vec3& at, const Vec3& foot) {
    const std::string& way = args.text("way");
    if (way == "around") return aroundBy(args, model, foot);
    if (way == "at the points of") return atPoints(args, model, at);
    if (way == "along") return alongBy(args, model, width, at);
    CopyLayout out;
    const bool rows = way == "in rows along";
    for (const char* after : {"", " 2"}) {
        if (*after && !rows) break;
        auto row = rowBy(args, model, width, after);
        if (!row) return row.error();
        out.rows.push_back(*row);
    }
    out.staggered = rows && args.text("stagger") == "staggered";
    if (args.text("spacing") != "filling") out.countSlot = "count";
    return out;
}

bool LeftOut::has(int row, int place) const {
    return std::any_of(spans.begin(), spans.end(), [&](const Span& s) {
        return (s.row == 0 || s.row == row) && place >= s.from && place <= s.to;
    });
}

Result<LeftOut> leftOutBy(const Arguments& args) {
    LeftOut out;
    if (args.text("some") != "but") return out;
    const std::string& text = args.text("without");
    std::string rest = text;
    const auto number = [&](int& into) {
        const std::size_t digits = rest.find_first_not_of("0123456789");
        const std::string own = rest.substr(0, digits);
        if (own.empty() || own.size() > 4) return false;
        into = std::atoi(own.c_str());
        rest = digits == std::string::npos ? std::string() : rest.substr(digits);
        return true;
    };
    std::erase_if(rest, [](char c) { return c == ' '; });
    while (!rest.empty()) {
        LeftOut::Span span;
        bool fine = number(span.from);
        if (fine && rest.starts_with('/')) {
            span.row = span.from;
            rest.erase(0, 1);
            fine = number(span.from);
        }
        span.to = span.from;
        if (fine && rest.starts_with('-')) {
            rest.erase(0, 1);
            fine = number(span.to);
        }
        if (fine && !rest.empty()) {
            fine = rest.starts_with(',') || rest.starts_with(';');
            rest.erase(0, 1);
        }
        if (!fine || span.from < 1 || span.to < span.from)
            return errorOf("repeat.without",
                           phrase("\"%1\" does not say which places are left out. Write their numbers, like "
                                  "3, 5-7, or with the row before: 2/3.",
                                  text));
        out.spans.push_back(span);
    }
    return out;
}

std::vector<Placement> placementsOf(const CopyLayout& layout, const LeftOut& without) {
    std::vector<Placement> out;
    if (layout.axis) {
        const Vec3 o = layout.axis->origin, d = layout.axis->direction;
        for (int k = 1; k < layout.turns; ++k) {
            if (without.has(1, k + 1)) continue;
            gp_Trsf t;
            t.SetRotation(gp_Ax1(gp_Pnt(o.x, o.y, o.z), gp_Dir(d.x, d.y, d.z)), k * layout.step);
            out.push_back({t, "place " + std::to_string(k + 1), k + 1});
        }
        return out;
    }
    for (std::size_t i = 0; i < layout.motions.size(); ++i)
        if (!without.has(1, static_cast<int>(i) + 2))
            out.push_back({layout.motions[i], "place " + std::to_string(i + 2), static_cast<int>(i) + 2});
    if (layout.rows.empty()) return out;
    const CopyLayout::Row &first = layout.rows.front(), none{{}, 1, 0},
                          &second = layout.rows.size() > 1 ? layout.rows[1] : none;
    for (int j = 0; j < second.count; ++j)
        for (int i = 0; i < first.count; ++i) {
            if ((i == 0 && j == 0) || without.has(j + 1, i + 1)) continue;
            const double aside = layout.staggered && j % 2 ? 0.5 * first.pitch : 0;
            const std::string in = std::to_string(i + 1);
            out.push_back(
                {shifted(first.along * (i * first.pitch + aside) + second.along * (j * second.pitch)),
                 second.count > 1 ? "row " + std::to_string(j + 1) + " place " + in : "place " + in,
                 j * first.count + i + 1});
        }
    return out;
}

Result<std::vector<Placement>> changed(const Arguments& args, std::vector<Placement> placements,
                                       const gp_Ax1& stand) {
    if (args.text("alike") != "changing") return placements;
    for (Placement& p : placements) {
        gp_Trsf turn, size;
        const auto by = args.numberAt("turned", p.number), large = args.numberAt("size", p.number);
        if (!by || !large)
            return errorOf("repeat.change",
                           phrase(large ? "At %1 it would be turned more often than can be made. Change how "
                                          "it is turned, or take fewer copies."
                                        : "At %1 it would be no size that can be made. Change the size, or "
                                          "take fewer copies.",
                                  p.place));
        turn.SetRotation(stand, *by);
        size.SetScale(stand.Location(), *large);
        p.by = p.by * turn * size;
    }
    return placements;
}

} // namespace gc
