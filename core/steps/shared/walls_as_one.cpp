#include "core/steps/shared/over_walls.hpp"

#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"

#include <Geom_BSplineSurface.hxx>

#include <algorithm>
#include <cmath>
#include <functional>

namespace gc {

namespace {

using Column = std::vector<OverWalls::Place>;

/// A place moved out of the walls.
gp_Pnt movedOut(const OverWalls::Place& p, double by, const std::optional<gp_Dir>& along) {
    return p.at.Translated((along ? gp_Vec(*along) : p.out) * by);
}

/// Where along a line of places the wall changes, to within a part of a span.
std::vector<double> changesAlong(double from, double to,
                                 const std::function<std::optional<std::size_t>(double)>& wallAt) {
    constexpr int kParts = 48;
    std::vector<double> out;
    double before = from;
    auto last = wallAt(from);
    for (int i = 1; i <= kParts; ++i) {
        const double at = from + (to - from) * i / kParts;
        const auto wall = wallAt(at);
        if (wall && last && *wall != *last) {
            double a = before, b = at;
            while (b - a > 1e-9 * (to - from)) (wallAt(0.5 * (a + b)) == last ? a : b) = 0.5 * (a + b);
            out.push_back(b);
        }
        before = at, last = wall;
    }
    return out;
}

/// Even spans, and others at changes: there the bend of the wall jumps, and with it the speed of what lies
/// above it, which is brought from one to the other within narrow spans.
GridDirection gridOver(double from, double to, int spans, const std::vector<double>& changes) {
    constexpr double kBeside = 0.1; // mm
    std::vector<double> all;
    for (int i = 0; i <= spans; ++i) all.push_back(from + (to - from) * i / spans);
    for (const double c : changes) {
        std::erase_if(all, [&](double b) {
            return b != from && b != to &&
                   std::fabs(b - c) < std::max(2 * kBeside, 0.3 * (to - from) / spans);
        });
        for (const double b : {c - kBeside, c, c + kBeside})
            if (b > from + kBeside && b < to - kBeside) all.push_back(b);
    }
    std::sort(all.begin(), all.end());
    std::vector<int> smooth;
    for (const double b : all)
        smooth.push_back(
            std::find(changes.begin(), changes.end(), b) != changes.end() ? 1 : FitDirection::kDegree - 1);
    return {from, to, FitDirection(all, smooth)};
}

std::vector<Column> columnsOver(const OverWalls& over, const std::vector<double>& xs,
                                const std::vector<double>& ys) {
    std::vector<Column> out;
    for (const double x : xs) {
        out.push_back(over.column(x, ys));
        if (out.back().empty()) return {};
    }
    return out;
}

/// How far surfaces leave the walls moved out, square to them, at places between those that were fitted.
std::optional<double> offWalls(const std::vector<LiftedSurface>& all, const std::vector<double>& by,
                               const std::optional<gp_Dir>& along, const std::vector<Column>& exact,
                               const std::vector<double>& xs, const std::vector<double>& ys) {
    double off = 0;
    for (std::size_t i = 0; i < xs.size(); ++i)
        for (std::size_t j = 0; j < ys.size(); ++j)
            for (std::size_t k = 0; k < by.size(); ++k) {
                const OverWalls::Place& p = exact[i][j];
                const SurfacePlace at = placeOf(*all[k].surface, {xs[i], ys[j]});
                const auto n = at.normal();
                // Where it folds its normal turns round.
                if (!n || std::fabs(n->Dot(p.out)) < 0.5) return std::nullopt;
                off = std::max(off, std::fabs(gp_Vec(movedOut(p, by[k], along), at.at).Dot(p.out)));
            }
    return off;
}

bool meetsSharply(const std::vector<Column>& columns) {
    constexpr double kSharp = 0.9; // cosine between neighbours
    for (std::size_t i = 0; i < columns.size(); ++i)
        for (std::size_t j = 0; j < columns[i].size(); ++j)
            for (const auto& [a, b] : {std::pair{i + 1, j}, std::pair{i, j + 1}})
                if (a < columns.size() && b < columns[a].size() && columns[a][b].wall != columns[i][j].wall &&
                    columns[a][b].out.Dot(columns[i][j].out) < kSharp)
                    return true;
    return false;
}

} // namespace

Error beyondWalls() {
    return errorOf("emboss.border", "A part of the drawing runs over the border of the walls. Pick the next "
                                    "wall, too, or move the drawing.");
}

Result<std::vector<LiftedSurface>> wallsAsOne(const OverWalls& over, const Window& window,
                                              const std::vector<double>& by,
                                              const std::optional<gp_Dir>& along) {
    constexpr double kFine = 1e-4, kEnough = 1e-3; // mm
    constexpr int kFewest = 8, kMost = 64;
    const auto wallAt = [&](double x, double y) -> std::optional<std::size_t> {
        const auto one = over.column(x, {y});
        return one.empty() ? std::nullopt : std::optional(one.front().wall);
    };
    const gp_Pnt2d middle = window.middle();
    const auto changesX = changesAlong(window.u0, window.u1, [&](double x) { return wallAt(x, middle.Y()); });
    const auto changesY = changesAlong(window.v0, window.v1, [&](double y) { return wallAt(middle.X(), y); });
    std::vector<double> xs, ys;
    for (int i = 0; i < 23; ++i) xs.push_back(window.u0 + (window.u1 - window.u0) * (i + 0.37) / 23);
    for (int i = 0; i < 23; ++i) ys.push_back(window.v0 + (window.v1 - window.v0) * (i + 0.61) / 23);
    const auto exact = columnsOver(over, xs, ys);
    if (exact.empty()) return beyondWalls();
    std::optional<double> off;
    std::vector<LiftedSurface> out;
    std::vector<Column> columns;
    for (int spans = kFewest; spans <= kMost; spans *= 2) {
        const GridDirection x = gridOver(window.u0, window.u1, spans, changesX),
                            y = gridOver(window.v0, window.v1, spans, changesY);
        columns = columnsOver(over, x.points(), y.points());
        if (columns.empty()) return beyondWalls();
        out.clear();
        for (const double z : by) {
            std::vector<std::vector<gp_Pnt>> places;
            for (const Column& c : columns) {
                places.emplace_back();
                for (const OverWalls::Place& p : c) places.back().push_back(movedOut(p, z, along));
            }
            out.push_back({surfaceThrough(x, y, places)});
        }
        off = offWalls(out, by, along, exact, xs, ys);
        if (off && *off < kFine) break;
    }
    if (!off || *off > kEnough) {
        if (meetsSharply(columns))
            return errorOf("emboss.border", "Walls meet in a sharp edge under the drawing, so that nothing "
                                            "is square to both. Move it off that edge, or let it rise along "
                                            "the drawing, laid straight, with straight sides.");
        return errorOf("emboss.folds", "The walls are bent more closely there than this is high, so its far "
                                       "side would fold. Make it lower, or lay it where they are more even.");
    }
    for (LiftedSurface& s : out) s.off = *off;
    return out;
}

} // namespace gc
