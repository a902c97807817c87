#include "core/steps/shared/relief.hpp"

#include "core/sketch/inside.hpp"

#include <BRep_Builder.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The relief in whose counter another one stands, and which of its counters that is; nothing where it stands
/// in the open wall.
struct Counter {
    std::size_t relief = 0, island = 0;
};
std::optional<Counter> counterAround(const std::vector<Relief>& reliefs, std::size_t of) {
    const Vec2 p = reliefs[of].area->outer.sides.front().curve.at(0.37);
    std::optional<Counter> out;
    double least = 1e300;
    for (std::size_t r = 0; r < reliefs.size(); ++r)
        for (std::size_t h = 0; r != of && h < reliefs[r].area->holes.size(); ++h) {
            const Loop& hole = reliefs[r].area->holes[h];
            if (std::fabs(hole.area) >= least || !Inside(hole).around(p)) continue;
            least = std::fabs(hole.area);
            out = Counter{r, h};
        }
    return out;
}

/// A face with the loops of its reliefs in it, and what is left of it within them.
struct Pierced {
    TopoDS_Face was, now;
    std::vector<Relief> reliefs;
    std::vector<Relief::Made> besides;
};

Pierced pierced(const Hosted& h) {
    BRep_Builder builder;
    Pierced out{h.face, TopoDS::Face(h.face.EmptyCopied().Oriented(TopAbs_FORWARD)), h.reliefs, h.besides};
    for (TopoDS_Iterator w(h.face.Oriented(TopAbs_FORWARD), false); w.More(); w.Next())
        builder.Add(out.now, w.Value());
    for (const TopoDS_Wire& loop : h.loops) builder.Add(out.now, loop);
    for (std::size_t r = 0; r < h.reliefs.size(); ++r) {
        const auto in = counterAround(h.reliefs, r);
        if (!in) {
            builder.Add(out.now, h.reliefs[r].loop);
            continue;
        }
        TopoDS_Shape island = out.reliefs[in->relief].islands[in->island].Oriented(TopAbs_FORWARD);
        builder.Add(island, h.reliefs[r].loop);
    }
    out.now = TopoDS::Face(out.now.Oriented(h.face.Orientation()));
    return out;
}

} // namespace

std::optional<Body> setReliefs(const NamedShape& before, const std::vector<Hosted>& hosts,
                               const Outline& outline, int step) {
    if (before.shape.ShapeType() != TopAbs_SOLID) return std::nullopt;
    std::vector<Pierced> faces;
    for (const Hosted& h : hosts) faces.push_back(pierced(h));
    const auto piercedOf = [&](const TopoDS_Shape& face) {
        const auto found =
            std::find_if(faces.begin(), faces.end(), [&](const Pierced& p) { return p.was.IsSame(face); });
        return found == faces.end() ? nullptr : &*found;
    };
    BRep_Builder builder;
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    for (TopoDS_Iterator shells(before.shape); shells.More(); shells.Next()) {
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        for (TopoDS_Iterator f(shells.Value()); f.More(); f.Next()) {
            const Pierced* p = piercedOf(f.Value());
            builder.Add(shell, p ? p->now : f.Value());
            if (!p) continue;
            for (const Relief::Made& m : p->besides) builder.Add(shell, m.face);
            for (const Relief& r : p->reliefs) {
                for (const TopoDS_Face& i : r.islands) builder.Add(shell, i);
                for (const Relief::Made& m : r.faces) builder.Add(shell, m.face);
            }
        }
        shell.Closed(true);
        builder.Add(solid, shell); // its faces are turned as the old shell turned them
    }
    NameBuilder names(solid);
    names.inherit(before);
    names.frame(step, outline.plane);
    for (int i = 1; i <= before.faces.Extent(); ++i) {
        const Pierced* p = piercedOf(before.faces(i));
        names.add(p ? p->now : before.faces(i), before.namesOf(before.faces(i)));
        if (!p) continue;
        for (const Relief::Made& m : p->besides)
            for (const std::string& role : m.roles) names.add(m.face, internName(step, role));
        for (const Relief& r : p->reliefs) {
            for (const TopoDS_Face& island : r.islands) names.add(island, before.namesOf(p->was));
            for (const Relief::Made& m : r.faces)
                for (const std::string& role : m.roles) names.add(m.face, internName(step, role));
        }
    }
    auto body = names.finish();
    if (!body) return std::nullopt;
    return *body;
}

} // namespace gc
