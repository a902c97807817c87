#include "core/sketch/drawing_words.hpp"
#include "core/sketch/solve/clash.hpp"
#include "core/steps/step_run.hpp"

#include <algorithm>
#include <iterator>

namespace gc {

namespace {

/// Why a drawing cannot be settled: the smallest set that clashes, read aloud.
Error clashError(const Drawing& drawing, const DimensionValues& sizes, const Settlement& settlement) {
    Error e;
    e.code = "draw.clash";
    const Diagnosis d = diagnose(drawing, sizes, 1);
    if (d.clashes.empty()) {
        e.sentence = settlement.solved
                         ? "With these sizes the drawing would turn over or cross itself. Change them in "
                           "smaller steps, or draw it anew."
                         : "The drawing cannot be settled with these sizes.";
        return e;
    }
    std::string list;
    for (const int id : d.clashes.front().relations) {
        const std::string s = sentenceOf(drawing, *drawing.findRelation(id), {});
        list += (list.empty() ? "" : "; ") + s;
        e.culprits.push_back(s);
    }
    e.sentence = "These cannot all hold: " + list + ". Take one of them away or change its size.";
    return e;
}

} // namespace

Result<StepChange> runDraw(const StepArguments& args, const ModelState&) {
    Drawing drawing = *args.drawing;
    const Settlement settled = settleTo(drawing, args.sizes);
    if (!settled.solved || !settled.senseKept) return clashError(drawing, args.sizes, settled);
    const Closedness closedness = findRegions(drawing);
    auto outline = std::make_shared<Outline>();
    outline->name = args.text("name");
    outline->step = args.id;
    outline->content = args.content;
    // What lies within another is cut out of it, what lies within that is solid again.
    std::copy_if(closedness.regions.begin(), closedness.regions.end(), std::back_inserter(outline->regions),
                 [](const Region& r) { return r.depth % 2 == 0; });
    outline->faces = closedness.regions;
    for (const Region& r : outline->regions)
        for (const Side& s : r.outer.sides) {
            const auto points = s.curve.sampled(0.05);
            outline->polyline.insert(outline->polyline.end(), points.begin(), points.end());
        }
    StepChange change;
    for (const Trouble& t : closedness.troubles) change.notes.push_back(t.sentence);
    change.outline = std::move(outline);
    return change;
}

} // namespace gc
