#include "core/steps/rib/lines.hpp"

#include "core/sketch/stroke_run.hpp"

#include <algorithm>
#include <set>

namespace gc {

namespace {

/// What a chain's end meets of the strokes that are not of the chain.
enum class EndMeets { Nothing, Within, End };

EndMeets metAt(const Drawing& d, const StrokeChain& chain, Vec2 p) {
    constexpr double kOn = 1e-4; // mm
    EndMeets out = EndMeets::Nothing;
    for (const Stroke& s : d.strokes) {
        if (s.helper || s.kind == StrokeKind::Point ||
            std::find(chain.strokes.begin(), chain.strokes.end(), s.id) != chain.strokes.end())
            continue;
        for (const int end : endPoints(s))
            if (length(d.at(end) - p) < kOn) return EndMeets::End;
        for (const Curve2& c : curvesOf(d, s))
            if (length(c.at(c.nearest(p)) - p) < kOn) out = EndMeets::Within;
    }
    return out;
}

/// Carries one end of the chain on by a length.
void carryOn(RibLine& line, bool atEnd, double by) {
    Drawing& d = line.drawing;
    const std::size_t which = atEnd ? line.chain.strokes.size() - 1 : 0;
    const Stroke stroke = *d.findStroke(line.chain.strokes[which]);
    const bool last = line.chain.forward[which] == atEnd; // its own end, not its start
    const auto curves = curvesOf(d, stroke);
    const Curve2& c = last ? curves.back() : curves.front();
    const Vec2 at = c.at(last ? 1 : 0), way = unit(c.slope(last ? 1 : 0)) * (last ? 1.0 : -1.0);
    if (stroke.kind == StrokeKind::Line) {
        d.findPoint(last ? stroke.points.back() : stroke.points.front())->at = at + way * by;
        return;
    }
    const int id =
        d.addStroke(StrokeKind::Line, {endPoints(stroke)[last ? 1 : 0], d.addPoint(at + way * by)});
    line.carried[id] = stroke.id;
    auto& strokes = line.chain.strokes;
    auto& forward = line.chain.forward;
    strokes.insert(atEnd ? strokes.end() : strokes.begin(), id);
    forward.insert(atEnd ? forward.end() : forward.begin(), atEnd);
}

std::vector<Vec2> placesAlong(const Drawing& d, const StrokeChain& chain) {
    constexpr int kLooks = 8; // to a curve
    std::vector<Vec2> out;
    for (std::size_t i = 0; i < chain.strokes.size(); ++i) {
        const StrokeRun run(d, *d.findStroke(chain.strokes[i]));
        const int n = kLooks * static_cast<int>(run.end());
        for (int k = 0; k < n; ++k) {
            const double share = (k + 0.5) / n;
            out.push_back(run.at(run.end() * (chain.forward[i] ? share : 1 - share)));
        }
    }
    return out;
}

} // namespace

Result<std::vector<RibLine>> ribLines(const Outline& outline, double on, double join) {
    const Drawing& d = *outline.drawing;
    std::vector<int> strokes;
    for (const Stroke& s : d.strokes)
        if (!s.helper && s.kind != StrokeKind::Point) strokes.push_back(s.id);
    if (strokes.empty())
        return errorOf("rib.lines",
                       "Nothing is drawn that a rib could run along. Draw a line, open or closed.");
    std::vector<RibLine> out;
    for (const StrokeChain& chain : chainsOf(d, strokes)) {
        RibLine line{d, chain, {}, placesAlong(d, chain)};
        const std::set<int> own(chain.strokes.begin(), chain.strokes.end());
        for (Stroke& s : line.drawing.strokes)
            if (!own.count(s.id)) s.helper = true;
        if (!chain.closed)
            for (const bool atEnd : {false, true}) {
                const std::size_t which = atEnd ? chain.strokes.size() - 1 : 0;
                const StrokeRun run(d, *d.findStroke(chain.strokes[which]));
                const Vec2 end = run.at(chain.forward[which] == atEnd ? run.end() : 0);
                const EndMeets met = metAt(d, chain, end);
                if (met == EndMeets::Nothing && on > 0) carryOn(line, atEnd, on);
                if (met == EndMeets::End) carryOn(line, atEnd, join);
            }
        out.push_back(std::move(line));
    }
    return out;
}

} // namespace gc
