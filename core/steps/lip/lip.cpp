// Lip: a ring beside one border of a flat rim, raised or sunk.

#include "core/steps/shared/below_rim.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/rim_ring.hpp"
#include "core/steps/shared/size_remedy.hpp"
#include "core/steps/shared/without_seam.hpp"

#include <BRepExtrema_DistShapeShape.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// How wide the rim is where it is narrowest beside these borders, mm.
double narrowest(const std::vector<TopoDS_Wire>& from, const std::vector<TopoDS_Wire>& to) {
    double least = 1e300;
    for (const TopoDS_Wire& a : from)
        for (const TopoDS_Wire& b : to)
            if (!a.IsSame(b))
                if (const BRepExtrema_DistShapeShape distance(a, b); distance.IsDone())
                    least = std::min(least, distance.Value());
    return least;
}

Error tooWide(double width, double rim, int step) {
    constexpr double kGrain = 0.05; // mm: as people write widths
    Error e = errorOf("lip.wide",
                      phrase("The rim is %1 wide where it is narrowest, and a lip of %2 would take all of "
                             "it.",
                             formatAmount(rim, "mm", 2), formatAmount(width, "mm", 2)));
    e.remedies.push_back(makeIt(step, "width", std::floor(rim / 2 / kGrain) * kGrain));
    return e;
}

Result<StepChange> lip(const Arguments& args, ModelReader& model, const FoundItems& picked) {
    const auto own = onOwnEdges(picked);
    if (!own) return own.error();
    const FoundItems& found = *own;
    const auto rim = rimOf(found);
    if (!rim) return rim.error();
    const bool inner = args.text("where") == "inner", sunk = args.text("does") == "sunk";
    if (inner && rim->inner.empty())
        return errorOf("lip.open",
                       "This face has no opening in it, so it is no rim and has no inner border. Pick the "
                       "face around an opening, or put the lip along its outer border.");
    const double play = sunk ? args.number("play") : 0;
    const double width = args.number("width") + play, height = args.number("height") + play;
    std::vector<TopoDS_Wire> all = rim->inner;
    all.push_back(rim->outer);
    const double room = narrowest(inner ? rim->inner : std::vector{rim->outer}, all);
    if (width > room - 1e-3) return tooWide(width, room, args.id());
    RingTool ring(found, *rim, args.id(), "lip");
    RingWish wish;
    wish.to = width;
    wish.outward = inner; // away from an opening is into the rim
    wish.way = rim->plane.normal() * (sunk ? -1.0 : 1.0);
    wish.height = height;
    wish.lean = args.number("lean");
    const auto borders = inner ? rim->inner : std::vector{rim->outer};
    for (const TopoDS_Wire& border : borders)
        if (const auto added = ring.add(border, wish); !added) return added.error();
    if (auto shown = bodyOf(ring.whole())) model.show(*shown, sunk);
    std::optional<Body> set;
    if (sunk)
        set = setBelowRim(found, *rim, args.id(), "lip", borders,
                          {Combine::Take, width, inner, height, wish.lean, {}});
    auto made = set ? Result<Body>(*set) : ring.combined(sunk ? Combine::Take : Combine::Add);
    if (!made) return made.error();
    const auto whole = withoutSeam(*made, rim->plane, args.id());
    StepChange change(ChangedBody{found.id, whole ? *whole : *made});
    change.notes = found.notes;
    if (!ring.leans())
        change.notes.push_back("Its side stands square to the rim: beside this border it cannot lean.");
    return change;
}

} // namespace

Result<StepChange> runLip(const Arguments& args, ModelReader& model, const Progress&) {
    const auto found = findFaces(args.references("rim"), model);
    if (!found) return found.error();
    return guarded("lip.failed", "No lip can be made on this rim.", [&] { return lip(args, model, *found); });
}

} // namespace gc
