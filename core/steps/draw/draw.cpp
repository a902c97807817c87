#include "core/document/planes.hpp"
#include "core/model/arguments.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/solve/clash.hpp"
#include "core/steps/shared/find_place.hpp"
#include "core/steps/shared/find_traces.hpp"

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
    e.sentence = phrase("These cannot all hold: %1. Take one of them away or change its size.", list);
    return e;
}

} // namespace

Result<StepChange> runDraw(const Arguments& args, ModelReader& model, const Progress&) {
    const auto plane = findPlane(args, "plane", model);
    if (!plane) return plane.error();
    StepChange change;
    auto outline = std::make_shared<Outline>();
    outline->plane = asItLies(*plane, args.text("seen"), args.text("up"));
    Drawing drawing = args.drawing();
    const auto traces = tracesFor(drawing, outline->plane, model, change.notes);
    const Drawing before = drawing;
    const auto lost = renewTraces(drawing, traces).lost;
    if (!lost.empty() && change.notes.empty())
        change.notes.push_back(phrase("What \"%1\" follows on the body is in other pieces now, so it stays "
                                      "where it was. Pick it anew on the table.",
                                      args.label("name")));
    const Settlement settled = settleTraces(drawing, before, args.sizes());
    if (!settled.solved || !settled.senseKept) return clashError(drawing, args.sizes(), settled);
    const Closedness closedness = findRegions(drawing);
    // What lies within another is cut out of it, what lies within that is solid again.
    std::copy_if(closedness.regions.begin(), closedness.regions.end(), std::back_inserter(outline->regions),
                 [](const Region& r) { return r.depth % 2 == 0; });
    outline->faces = closedness.regions;
    for (const Region& r : outline->regions)
        for (const Side& s : r.outer.sides) {
            const auto points = s.curve.sampled(0.05);
            outline->polyline.insert(outline->polyline.end(), points.begin(), points.end());
        }
    for (const Stroke& s : drawing.strokes) {
        outline->strokes[s.id] = curvesOf(drawing, s);
        if (s.helper) outline->helpers.insert(s.id);
        if (s.cutFrom) outline->cutFrom[s.id] = s.cutFrom;
    }
    for (const DrawnPoint& p : drawing.points) outline->points[p.id] = p.at;
    outline->drawing = std::make_shared<const Drawing>(drawing);
    // A drawing that encloses nothing is lines to go along: their ends are loose, and they may cross. (The
    // table tells of them.)
    for (const Trouble& t : closedness.troubles)
        if ((t.kind != TroubleKind::LooseEnd && t.kind != TroubleKind::Crossing) ||
            !closedness.regions.empty())
            change.notes.push_back(t.sentence);
    change.list.push_back(MadeOutline{std::move(outline)});
    return change;
}

} // namespace gc
