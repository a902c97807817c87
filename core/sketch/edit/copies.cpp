#include "core/sketch/edit/copies.hpp"

#include <algorithm>

namespace gc {

std::string nothingChosen() {
    return "Choose the strokes first: click them, or drag a box around them.";
}

bool among(const std::vector<int>& ids, int id) {
    return std::find(ids.begin(), ids.end(), id) != ids.end();
}

std::vector<const Stroke*> strokesAmong(const Drawing& d, const std::vector<int>& ids) {
    std::vector<const Stroke*> out;
    for (const int id : ids)
        if (const Stroke* s = d.findStroke(id)) out.push_back(s);
    return out;
}

std::vector<std::size_t> leadingPoints(const Stroke& s) {
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < s.points.size(); ++i) {
        if (s.kind == StrokeKind::Beside) continue; // its source decides, and what its ends are joined to
        const bool handle = s.kind == StrokeKind::Spline && i % 2 == 1;
        if (handle && !(i / 2 < s.held.size() && s.held[i / 2])) continue;
        if (s.kind == StrokeKind::Arc && i == 1) continue; // two points and the circle, then the other end
        out.push_back(i);
    }
    return out;
}

std::vector<int> withSources(const Drawing& d, const std::vector<int>& ids) {
    std::vector<int> out;
    for (const Stroke* s : strokesAmong(d, ids))
        if (s->kind == StrokeKind::Beside && !among(ids, s->beside) && !among(out, s->beside))
            out.push_back(s->beside);
    out.insert(out.end(), ids.begin(), ids.end());
    return out;
}

std::map<int, int> copyChosen(Drawing& d, const std::vector<int>& ids, const std::vector<int>& all,
                              const Placing& placing, EditOutcome& out) {
    const Drawing before = d;
    const auto copyOf = copyStrokes(d, all, placing, false);
    for (const Stroke* s : strokesAmong(before, all))
        if (among(ids, s->id))
            out.made.push_back(copyOf.at(s->id));
        else
            d.findStroke(copyOf.at(s->id))->helper = true;
    return copyOf;
}

} // namespace gc
