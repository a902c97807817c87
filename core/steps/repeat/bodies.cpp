#include "core/steps/repeat/bodies.hpp"

#include "core/shape/extremes.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/deformed.hpp"
#include "core/steps/shared/find_body.hpp"
#include "core/steps/shared/moved_body.hpp"
#include "core/steps/shared/worked_names.hpp"

#include <BRepAlgoAPI_BooleanOperation.hxx>

namespace gc {

namespace {

Error apart(int step, int solids) {
    Error e = errorOf("repeat.apart",
                      phrase("The copies do not touch, so they would stay %1 pieces. Let them reach each "
                             "other, or keep them as bodies of their own.",
                             std::to_string(solids)));
    e.remedies.push_back(
        {step, "becomes", "as bodies of their own", "Keep them as bodies of their own", false});
    return e;
}

/// All in one go: copies may reach into one another.
Result<Body> joined(const Body& body, const std::vector<Body>& copies, int step) {
    std::vector<TopoDS_Shape> rest;
    for (const Body& c : copies) rest.push_back(c.shape().shape);
    NearOnly<BRepAlgoAPI_BooleanOperation> fuse;
    fuse.SetOperation(BOPAlgo_FUSE);
    fuse.setUp(body.shape().shape, rest);
    fuse.build();
    if (fuse.HasErrors())
        return errorOf("repeat.failed",
                       "The copies cannot be joined there: faces lie too nearly on one another. Move them a "
                       "little.");
    const int solids = solidsIn(fuse.Shape());
    if (solids != 1) return apart(step, solids);
    NameBuilder names(onlySolid(fuse.Shape()));
    names.carry(body.shape(), fuse);
    for (const Body& c : copies) {
        const NamedShape& s = c.shape();
        for (int i = 1; i <= s.faces.Extent(); ++i) {
            for (const TopoDS_Shape& f : whatBecameOf(s.faces(i), fuse))
                if (names.has(f)) names.add(f, s.namesOf(s.faces(i)));
        }
    }
    return names.finish();
}

} // namespace

double widthAlong(const TopoDS_Shape& shape, const Vec3& direction) {
    const auto [low, high] = reachAlong(shape, {}, direction);
    return high - low;
}

Result<StepChange> repeatBody(const Arguments& args, ModelReader& model, const Progress& progress) {
    const auto found = findBody(args, "body", model);
    if (!found) return found.error();
    const TopoDS_Shape& shape = found->body.shape().shape;
    const Box box = extentOf(shape);
    const Vec3 middle = (box.low + box.high) * 0.5;
    const auto layout = layoutBy(
        args, model, [&](const Vec3& d) { return widthAlong(shape, d); }, middle, middle);
    if (!layout) return layout.error();
    const auto without = leftOutBy(args);
    if (!without) return without.error();
    showPulls(
        args, *layout, [&](const Vec3& d) { return widthAlong(shape, d); }, box, model);
    // What is a body of its own turns about the way that the row goes, else about the axis.
    const Vec3 about = !layout->rows.empty() ? layout->rows.front().along
                       : layout->axis        ? layout->axis->direction
                                             : Vec3{0, 0, 1};
    const auto placements =
        changed(args, placementsOf(*layout, *without),
                gp_Ax1(gp_Pnt(middle.x, middle.y, middle.z), gp_Dir(about.x, about.y, about.z)));
    if (!placements) return placements.error();
    std::vector<Body> copies;
    for (const Placement& p : *placements) {
        if (progress.stopped()) return stoppedError();
        auto copy = movedBody(found->body, p.by, CopyName{args.id(), "copy at " + p.place});
        if (!copy) return copy.error();
        copies.push_back(std::move(*copy));
    }
    if (args.text("becomes") == "joined with it") {
        auto whole = joined(found->body, copies, args.id());
        if (!whole) return whole.error();
        return StepChange(ChangedBody{found->id, std::move(*whole)});
    }
    StepChange change;
    for (Body& c : copies) change.list.push_back(MadeBody{std::move(c)});
    return change;
}

} // namespace gc
