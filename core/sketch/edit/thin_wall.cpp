#include "core/sketch/edit/thin_wall.hpp"

#include "core/sketch/edit/offset_sides.hpp"
#include "core/sketch/stroke_run.hpp"

#include <algorithm>

namespace gc {

namespace {

/// The places along a chain, in the order of its walk.
std::vector<Vec2> placesOn(const Drawing& d, const StrokeChain& chain) {
    constexpr int kLooks = 16;
    std::vector<Vec2> out;
    for (std::size_t i = 0; i < chain.strokes.size(); ++i) {
        const StrokeRun run(d, *d.findStroke(chain.strokes[i]));
        const int n = kLooks * static_cast<int>(run.end());
        for (int k = 0; k <= n; ++k) {
            const double share = static_cast<double>(k) / n;
            out.push_back(run.at(run.end() * (chain.forward[i] ? share : 1 - share)));
        }
    }
    return out;
}

/// +1 where left of the walk is inside: toward the axis, else where the chain closed by a straight line has
/// its area.
double insideOf(const Drawing& d, const StrokeChain& chain, const std::optional<WallAxis>& axis) {
    const auto places = placesOn(d, chain);
    double sum = 0;
    for (std::size_t i = 0; i < places.size(); ++i) {
        const Vec2 a = places[i], b = places[(i + 1) % places.size()];
        if (!axis) {
            sum += cross(a - places[0], b - places[0]);
        } else if (i + 1 < places.size()) {
            // A step to the left of a - b changes the signed distance from the axis by along . (b - a).
            const bool left = cross(axis->along, (a + b) * 0.5 - axis->through) > 0;
            sum -= (left ? 1 : -1) * dot(b - a, axis->along);
        }
    }
    return sum >= 0 ? 1 : -1;
}

/// The ends of a chain's walk.
std::pair<Vec2, Vec2> endsOf(const Drawing& d, const StrokeChain& chain) {
    const auto places = placesOn(d, chain);
    return {places.front(), places.back()};
}

/// Puts the sides at a distance beside a chain into the drawing. \return where they begin and end
std::pair<Vec2, Vec2> drawBeside(Drawing& d, const Sides& sides, ThinWall& wall, std::vector<int>& made) {
    for (const Beside& b : sides.list) {
        const int id = drawSide(d, b);
        made.push_back(id);
        if (b.of) wall.beside[id] = b.of;
    }
    return {sides.list.front().from, sides.list.back().to};
}

void drawEnds(Drawing& d, std::pair<Vec2, Vec2> one, std::pair<Vec2, Vec2> other, ThinWall& wall,
              std::vector<int>& made) {
    for (const auto& [a, b, which] : {std::tuple{one.first, other.first, 1}, {one.second, other.second, 2}}) {
        made.push_back(d.draw(StrokeKind::Line, {a, b}));
        wall.caps[made.back()] = which;
    }
}

Error folds(const Drawing& d, const StrokeChain& chain, double distance, double share) {
    double good = 0, bad = std::fabs(distance);
    for (int k = 0; k < 20; ++k) {
        const double middle = (good + bad) / 2;
        (offsetWorks(d, chain, std::copysign(middle, distance)) ? good : bad) = middle;
    }
    return errorOf("wall.fold",
                   phrase("A wall so thick would run into itself along the drawing. Up to %1 works.",
                          formatAmount(std::floor(good * share * 100) / 100, "mm", 2)));
}

std::optional<Error> addWall(const Drawing& drawing, const StrokeChain& chain, double thickness,
                             WallSide side, const std::optional<WallAxis>& axis, ThinWall& wall) {
    const double inside = insideOf(drawing, chain, axis);
    const double share = side == WallSide::Both ? 2 : 1, by = thickness / share;
    std::vector<double> distances{side == WallSide::Outside ? -inside * by : inside * by};
    if (side == WallSide::Both) distances.push_back(-inside * by);
    Drawing d = drawing;
    for (Stroke& s : d.strokes) s.helper = true;
    std::vector<int> made;
    if (side != WallSide::Both)
        for (const int id : chain.strokes) d.findStroke(id)->helper = false;
    std::vector<std::pair<Vec2, Vec2>> ends;
    if (side != WallSide::Both) ends.push_back(endsOf(drawing, chain));
    for (const double distance : distances) {
        if (!offsetWorks(drawing, chain, distance)) return folds(drawing, chain, distance, share);
        ends.push_back(drawBeside(d, *sidesOf(drawing, chain, distance, false), wall, made));
    }
    if (!chain.closed) drawEnds(d, ends[0], ends[1], wall, made);
    ClosednessOptions options;
    options.closeAlongAxis = false;
    const Closedness closed = findRegions(d, options);
    int walls = 0;
    for (const Region& r : closed.regions)
        if (r.depth % 2 == 0) {
            wall.regions.push_back(r);
            ++walls;
        }
    if (walls != 1)
        return errorOf("wall.tangled",
                       "The wall along the drawing would cross itself. Make it thinner, or draw its "
                       "corners wider.");
    return std::nullopt;
}

/// Do walls of different chains cut or touch each other?
bool areApart(const std::vector<Region>& regions) {
    const auto sidesOf = [](const Region& r) {
        std::vector<const Side*> out;
        for (const Side& s : r.outer.sides) out.push_back(&s);
        for (const Loop& hole : r.holes)
            for (const Side& s : hole.sides) out.push_back(&s);
        return out;
    };
    for (std::size_t i = 0; i < regions.size(); ++i)
        for (std::size_t j = i + 1; j < regions.size(); ++j)
            for (const Side* a : sidesOf(regions[i]))
                for (const Side* b : sidesOf(regions[j]))
                    if (!meetings(a->curve, b->curve).empty()) return false;
    return true;
}

} // namespace

Result<ThinWall> thinWallOf(const Drawing& drawing, double thickness, WallSide side,
                            const std::optional<WallAxis>& axis) {
    std::vector<int> strokes;
    for (const Stroke& s : drawing.strokes)
        if (!s.helper && s.kind != StrokeKind::Point) strokes.push_back(s.id);
    ThinWall wall;
    if (strokes.empty())
        return errorOf("wall.none", "The drawing has no strokes that a wall could run along yet.");
    std::size_t taken = 0;
    for (const StrokeChain& chain : chainsOf(drawing, strokes)) {
        if (auto wrong = addWall(drawing, chain, thickness, side, axis, wall)) return *wrong;
        taken += chain.strokes.size();
    }
    if (taken != strokes.size() || !areApart(wall.regions))
        return errorOf("wall.tangled",
                       "Some strokes of the drawing branch, so no wall can run along them. Make those "
                       "that are not meant helpers.");
    return wall;
}

} // namespace gc
