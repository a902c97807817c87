#include "core/steps/shared/standing.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/extremes.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/steps/shared/chosen_area.hpp"
#include "core/steps/shared/facing.hpp"
#include "core/steps/shared/rounded.hpp"
#include "core/steps/shared/size_remedy.hpp"

#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

double Footing::farthestFoot() const {
    double most = 0;
    for (const auto& f : feet)
        if (f) most = std::max(most, f->distance);
    return most;
}

double Footing::thinnestWall() const {
    double least = 0;
    for (const auto& f : feet)
        if (f && f->wall > 0 && (least == 0 || f->wall < least)) least = f->wall;
    return least;
}

namespace {

/// What lies ahead of one place, both ways.
struct BothWays {
    bool within = false;
    std::optional<Footing::Foot> ahead, back;
};

constexpr double kSkin = 1e-3; // mm: a place may lie on the wall itself

std::optional<Footing::Foot> footAhead(std::vector<std::unique_ptr<Ahead>>& bodies, const gp_Pnt& from,
                                       const gp_Dir& way, double far) {
    std::optional<Footing::Foot> nearest;
    for (auto& body : bodies) {
        const auto at = [&](double along) { return from.Translated(gp_Vec(way) * along); };
        // The first wall at or after a place of the line.
        const auto next = [&](double after) -> std::optional<double> {
            const auto more = body->crossing(at(after + kSkin), way, far);
            return more ? std::optional(after + kSkin + *more) : std::nullopt;
        };
        const auto begins = body->holds(at(kSkin)) ? std::optional(0.0) : next(0);
        if (!begins || (nearest && nearest->distance <= *begins)) continue;
        Footing::Foot foot{*begins, 0, far};
        if (const auto ends = next(*begins)) {
            foot.wall = *ends - *begins;
            if (const auto other = next(*ends)) foot.room = *other - *ends;
        }
        nearest = foot;
    }
    return nearest;
}

BothWays around(std::vector<std::unique_ptr<Ahead>>& bodies, const Vec3& place, const gp_Dir& normal,
                double far) {
    BothWays out;
    const gp_Pnt p = placeIn(place);
    out.within = std::any_of(bodies.begin(), bodies.end(), [&](auto& b) { return b->holds(p); });
    if (out.within) return out;
    out.ahead = footAhead(bodies, p, normal, far);
    out.back = footAhead(bodies, p, normal.Reversed(), far);
    return out;
}

/// The same by triangles: near enough to tell walls apart.
BothWays aroundByTriangles(const std::vector<StraightLooks>& bodies, const Plane& plane, const Vec3& place,
                           double far) {
    BothWays out;
    const double at = plane.before(place);
    const double on = 3 * StraightLooks::kDeviation; // mm: a place may lie on the wall itself
    for (const StraightLooks& looks : bodies) {
        std::vector<double> ahead, back;
        for (const StraightLooks::Met& m : looks.through(plane.foot(place))) {
            const double d = m.height - at;
            if (d > -on) ahead.push_back(std::max(0.0, d));
            if (d < on) back.insert(back.begin(), std::max(0.0, -d));
        }
        // Of what lies on the plane the wall is on the side where there are two more.
        if (ahead.size() % 2 != 0 && back.size() % 2 != 0) out.within = true;
        const auto foot = [&](const std::vector<double>& all, std::optional<Footing::Foot>& nearest) {
            if (all.size() < 2 || all.size() % 2 != 0 || (nearest && nearest->distance <= all[0])) return;
            nearest = Footing::Foot{all[0], all[1] - all[0], all.size() > 2 ? all[2] - all[1] : far};
        };
        foot(ahead, out.ahead);
        foot(back, out.back);
    }
    return out;
}

/// Each place says which way it is nearer to a wall; those that see a wall one way only count most.
double nearerSide(const std::vector<BothWays>& places) {
    double ahead = 0, back = 0;
    int onlyAhead = 0, onlyBack = 0;
    for (const BothWays& b : places) {
        if (b.ahead && !b.back) ++onlyAhead;
        if (b.back && !b.ahead) ++onlyBack;
        if (b.ahead && b.back) ahead += b.ahead->distance, back += b.back->distance;
    }
    if (onlyAhead != onlyBack) return onlyAhead > onlyBack ? 1 : -1;
    return ahead < back ? 1 : -1;
}

double widestOf(const std::vector<TopoDS_Shape>& shapes, const std::vector<Vec3>& places) {
    Box all;
    for (const TopoDS_Shape& s : shapes) {
        const Box box = extentOf(s);
        all.add(box.low), all.add(box.high);
    }
    for (const Vec3& p : places) all.add(p);
    return length(all.size()) + 1;
}

} // namespace

namespace {

/// The bodies, and what becomes of them.
Result<Footing> begun(const Arguments& args, ModelReader& model, const std::vector<Vec3>& places) {
    Footing out;
    const auto ids = bodiesToStandOn(args, model);
    if (!ids) return ids.error();
    if (!args.text("target").empty()) out.becoming.targets = *ids;
    for (const ThingId id : *ids) out.bodies.push_back(model.body(id)->shape().shape);
    out.far = widestOf(out.bodies, places);
    return out;
}

/// Which wall is meant, and that every place has it.
Result<Footing> settled(Footing out, const std::vector<BothWays>& all, const std::vector<Vec3>& places,
                        Beyond beyond) {
    std::size_t within = 0;
    std::size_t missed = 0;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const auto& foot = out.sense > 0 ? all[i].ahead : all[i].back;
        out.beyond.push_back(!foot && !all[i].within);
        missed += out.beyond.back();
        within += all[i].within;
        out.feet.push_back(foot);
    }
    const bool stands = within + missed < all.size();
    if (missed > 0 && (beyond == Beyond::IsTold || !stands))
        return noWallAhead(
            places[std::size_t(std::find(out.beyond.begin(), out.beyond.end(), true) - out.beyond.begin())]);
    if (within == all.size())
        return errorOf("standing.none", "All of it lies within the part. Draw it where it should begin, "
                                        "before the wall.");
    return out;
}

double senseOf(const Arguments& args, const std::vector<BothWays>& all) {
    return nearerSide(all) * (args.text("side") == "near" ? 1 : -1);
}

/// On the wall itself nothing has room to stand.
std::optional<Error> liesOnWall(const Arguments& args, const Footing& footing) {
    if (footing.farthestFoot() > kSkin) return std::nullopt;
    Error e = errorOf("standing.flat",
                      "The drawing lies on the wall itself, so what ends there would have no height. "
                      "Let it rise above the drawing.");
    Remedy r;
    r.step = args.id();
    r.slot = "top";
    r.value = "high";
    r.sentence = "Let it rise above the drawing";
    r.tried = false;
    e.remedies.push_back(r);
    return e;
}

} // namespace

Error noWallAhead(const Vec3& place) {
    Error e =
        errorOf("standing.none", "Here no wall lies on that side of the drawing. Move it over the part, or "
                                 "choose the other side.");
    e.place = place;
    return e;
}

Result<std::vector<ThingId>> bodiesToStandOn(const Arguments& args, ModelReader& model) {
    std::vector<ThingId> out;
    for (const auto& id : model.bodiesIn("target")) {
        if (!id)
            return errorOf("becoming.body",
                           phrase("There is no body called \"%1\" before this step.", args.label("target")));
        out.push_back(*id);
    }
    if (out.empty()) out = model.bodies();
    if (out.empty())
        return errorOf("becoming.body", "There is no body before this step that it could stand on.");
    return out;
}

Result<Footing> standingOn(const Arguments& args, ModelReader& model, const std::vector<Vec3>& places,
                           const Vec3& normal, bool mayRise, Beyond beyond) {
    auto out = begun(args, model, places);
    if (!out) return out;
    std::vector<std::unique_ptr<Ahead>> bodies;
    for (const TopoDS_Shape& b : out->bodies) bodies.push_back(std::make_unique<Ahead>(b));
    const auto lookedAt = [&](double lift) {
        std::vector<BothWays> all;
        for (const Vec3& p : places)
            all.push_back(around(bodies, p + normal * lift, {normal.x, normal.y, normal.z}, out->far));
        return all;
    };
    auto all = lookedAt(0);
    out->sense = senseOf(args, all);
    if (mayRise && args.text("top") == "high") {
        out->lift = -out->sense * args.number("high");
        out->far += std::fabs(out->lift);
        all = lookedAt(out->lift);
    }
    auto footing = settled(std::move(*out), all, places, beyond);
    if (footing && mayRise)
        if (auto e = liesOnWall(args, *footing)) return *e;
    return footing;
}

Result<Footing> standingByLooks(const Arguments& args, ModelReader& model, const std::vector<Vec3>& places,
                                const Plane& drawing, const std::vector<StraightLooks>& looks) {
    auto out = begun(args, model, places);
    if (!out) return out;
    std::vector<BothWays> all;
    for (const Vec3& p : places) all.push_back(aroundByTriangles(looks, drawing, p, out->far));
    out->sense = senseOf(args, all);
    return settled(std::move(*out), all, places, Beyond::IsTold);
}

Result<StandingPlaces> standingPlaces(const Arguments& args, ModelReader& model, const std::string& kind) {
    const auto drawn = drawingFor(args, model, kind);
    if (!drawn) return drawn.error();
    const Outline& outline = **drawn;
    StandingPlaces out;
    std::vector<Vec3> at;
    for (const Stroke& s : outline.drawing->strokes) {
        if (s.kind != StrokeKind::Point || s.points.empty()) continue;
        const auto p = outline.points.find(s.points.front());
        if (p == outline.points.end()) continue;
        out.places.push_back({s.id, p->second, nameOf(*outline.drawing, s.id)});
        at.push_back(outline.plane.at(p->second));
    }
    if (at.empty())
        return errorOf(kind + ".points",
                       phrase("The drawing \"%1\" has no points. Draw one at each place where "
                              "it should stand.",
                              args.label("outline")));
    auto footing = standingOn(args, model, at, outline.plane.normal(), true);
    if (!footing) return footing.error();
    out.footing = std::move(*footing);
    out.top = outline;
    out.top.plane = moved(outline.plane, out.footing.lift);
    return out;
}

Result<Done> addStanding(Swept whole, const Footing& standing, const std::vector<gp_Pnt>& places,
                         ToolOfSolids& into, const std::vector<TopoDS_Shape>& tools) {
    const std::optional<Error> cutShort = whole.cutShort;
    EndedSolid solid(std::move(whole));
    std::vector<TopoDS_Shape> all = standing.bodies;
    all.insert(all.end(), tools.begin(), tools.end());
    if (!solid.cutAround(all, places))
        return errorOf("standing.failed", "It cannot be ended at the wall here. Move it a little, or change "
                                          "its thickness.");
    if (solid.keepsEnd()) {
        if (cutShort) return *cutShort;
        Error e = errorOf("standing.open",
                          "A part of it runs past the wall and meets nothing. Keep it within the wall, or "
                          "let its ends stay as they are drawn.");
        e.place = toVec(places.front());
        return e;
    }
    solid.addKept(into.tool.step, into.solids, into.tool, tools);
    return Done{};
}

namespace {

/// One solid of a tool with the names of its own faces.
struct NamedSolid {
    NamedTool tool;
    Box box;
};
NamedSolid solidAlone(const NamedTool& of, const TopoDS_Shape& solid) {
    NamedSolid out{of, extentOf(solid)};
    out.tool.shape = solid;
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(solid, TopAbs_FACE, faces);
    std::erase_if(out.tool.names, [&](const auto& n) { return !faces.Contains(n.first); });
    return out;
}

bool areApart(const Error& e) {
    return e.code == "combine.apart" || e.code == "combine.touches";
}

} // namespace

Result<NamedTool> joinedSolids(const ToolOfSolids& made) {
    std::vector<NamedSolid> done;
    for (TopExp_Explorer x(made.solids, TopAbs_SOLID); x.More(); x.Next()) {
        NamedSolid now = solidAlone(made.tool, x.Current());
        // What it touches of those before becomes one with it.
        for (auto other = done.begin(); other != done.end();) {
            if (!boxesMeet(now.box, other->box)) {
                ++other;
                continue;
            }
            const auto body = bodyOf(now.tool);
            if (!body) return body.error();
            const auto both = combine(*body, other->tool, Combine::Add);
            if (!both && !areApart(both.error())) return both.error();
            if (both) now = solidAlone(toolOf(*both, made.tool.step), both->shape().shape);
            other = both ? done.erase(other) : std::next(other);
        }
        done.push_back(std::move(now));
    }
    ToolOfSolids out(made.tool.step, made.tool.frame);
    for (const NamedSolid& one : done) {
        BRep_Builder().Add(out.solids, one.tool.shape);
        out.tool.names.insert(out.tool.names.end(), one.tool.names.begin(), one.tool.names.end());
    }
    return out.whole();
}

namespace {

/// Edges in a hollow between a face that the step made and one that it did not. Numbers from 0.
std::vector<int> feetOn(const NamedShape& shape, int step) {
    const auto own = [&](const TopoDS_Shape& face) {
        const NameList& names = shape.namesOf(face);
        return std::any_of(names.begin(), names.end(), [&](NamePtr n) { return n->step == step; });
    };
    std::vector<int> out;
    for (int i = 1; i <= shape.edges.Extent(); ++i) {
        const TopoDS_Edge edge = TopoDS::Edge(shape.edges(i));
        if (!shape.isRealEdge(edge)) continue;
        const auto beside = facesBeside(shape, edge);
        if (beside.size() != 2 || own(beside[0]) == own(beside[1])) continue;
        if (isHollow(shape, edge) && !isSmooth(shape, edge)) out.push_back(i - 1);
    }
    return out;
}

Result<Body> withRoundFeet(const Body& body, double radius, int step) {
    const std::vector<int> feet = feetOn(body.shape(), step);
    if (feet.empty()) return body;
    BRepFilletAPI_MakeFillet asks(body.shape().shape);
    std::vector<EdgeChain> chains;
    if (auto added = addChains(body, feet, radius, radius, false, asks, chains); !added) return added.error();
    return rounded(body, chains, step, &asks);
}

} // namespace

void roundFeet(const Arguments& args, StepChange& change) {
    if (args.text("foot") != "round") return;
    const double radius = args.number("foot round");
    for (Change& c : change.list) {
        auto* changed = std::get_if<ChangedBody>(&c);
        if (!changed) continue;
        auto made = withRoundFeet(changed->body, radius, args.id());
        if (made) {
            changed->body = std::move(*made);
            continue;
        }
        change.doubt =
            errorOf("standing.foot", phrase("Its foot cannot be rounded by %1 everywhere, so it stays "
                                            "sharp. Take a smaller radius, or round it by a fillet.",
                                            formatAmount(radius, "mm", 2)));
    }
}

std::optional<Error> sinkDoubt(const Footing& standing, double thickness, int step, const std::string& slot,
                               double current, double perSlot) {
    // Of the wall. Guides for injection-moulded parts say 0.5 to 0.7 (R. A. Malloy's book on plastic parts,
    // Hanser 1994: ribs and bosses); beyond three quarters most surfaces show it.
    constexpr double kMost = 0.75, kUsual = 0.6;
    constexpr double kGrain = 0.05; // mm: as people write thicknesses
    const double wall = standing.thinnestWall();
    if (wall <= 0 || thickness <= kMost * wall) return std::nullopt;
    Error e = errorOf(
        "standing.sink",
        phrase("It is %1 thick where it meets a wall of %2: moulded, the wall will likely sink behind it. "
               "Usual guides say 0.5 to 0.7 of the wall.",
               formatAmount(thickness, "mm", 2), formatAmount(wall, "mm", 2)));
    const double less =
        std::floor((current - (thickness - kUsual * wall) / perSlot) / kGrain + 1e-6) * kGrain;
    if (less >= 2 * kGrain) e.remedies.push_back(makeIt(step, slot, less));
    return e;
}

} // namespace gc
