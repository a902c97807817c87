// Fillet: edges rounded.

#include "core/steps/fillet/across.hpp"
#include "core/steps/fillet/full_round.hpp"
#include "core/steps/fillet/held_round.hpp"
#include "core/steps/fillet/rounding.hpp"
#include "core/steps/fillet/set_back.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/size_handles.hpp"
#include "core/steps/shared/worked_names.hpp"

#include <TopoDS.hxx>

#include <algorithm>
#include <memory>

namespace gc {

namespace {

struct Wanted {
    ThingId id;
    Body body;
    std::vector<EdgeChain> chains;
    std::vector<Message> notes;
    std::unique_ptr<BRepFilletAPI_MakeFillet> asks; ///< it holds the chains
};

/// What was rounded, with its corners set back where that is asked for.
Result<Body> withCorners(const Arguments& args, const Wanted& wanted, const WorkedEdges& worked) {
    if (args.text("corners") != "with corners set back by") return worked.body;
    std::vector<EdgeChain> done = wanted.chains;
    std::erase_if(done, [&](const EdgeChain& c) {
        return std::any_of(worked.left.begin(), worked.left.end(),
                           [&](const EdgeChain& l) { return l.edges.front().IsSame(c.edges.front()); });
    });
    auto made = withSetBackCorners(wanted.body, done, worked.body, args.number("set back"), args.id());
    if (made) return made;
    Error e = made.error();
    e.remedies.push_back({args.id(), "corners", "rolling over corners", "Let corners be rolled", false});
    return e;
}

std::vector<RadiusPlace> placesOnTheWay(const Arguments& args) {
    std::vector<RadiusPlace> out;
    if (args.text("change") != "by way of") return out;
    out.push_back({args.number("mid place"), args.number("mid radius")});
    if (args.text("change 2") == "then by way of")
        out.push_back({args.number("mid place 2"), args.number("mid radius 2")});
    return out;
}

Result<Wanted> wantedBy(const Arguments& args, ModelReader& model) {
    std::vector<std::pair<std::string, std::string>> rows{{"edges", "radius"}};
    if (args.text("rest") == "and") {
        rows.emplace_back("edges 2", "radius 2");
        if (args.text("rest 2") == "and") rows.emplace_back("edges 3", "radius 3");
    }
    std::optional<Wanted> out;
    for (const auto& row : rows) {
        const auto &edges = row.first, &size = row.second;
        const auto found = findEdges(args.references(edges), model);
        if (!found) return found.error();
        if (!out) {
            out = Wanted{found->id, found->body, {}, {}, {}};
            out->asks = std::make_unique<BRepFilletAPI_MakeFillet>(found->body.shape().shape);
        } else if (!(found->id == out->id)) {
            return errorOf("fillet.bodies",
                           "The edges lie on different bodies. Round each body in a step of its "
                           "own.");
        }
        const double radius = args.number(size);
        const bool grows = edges == "edges" && args.text("how") == "growing from";
        if (const NamedShape& s = found->body.shape(); !grows)
            asAid([&] {
                if (auto h = radiusHandle(size, s, TopoDS::Edge(s.edges(found->items.front() + 1)), radius))
                    model.show(std::move(*h));
            });
        const std::size_t first = out->chains.size();
        const auto added =
            addChains(found->body, found->items, radius, grows ? args.number("far radius") : radius,
                      args.text("way") == "the other way", *out->asks, out->chains);
        if (!added) return added.error();
        if (grows)
            for (std::size_t i = first; i < out->chains.size(); ++i)
                out->chains[i].via = placesOnTheWay(args);
        out->notes.insert(out->notes.end(), found->notes.begin(), found->notes.end());
    }
    if (out->chains.empty())
        return errorOf("fillet.smooth",
                       "The edges are smooth already: the faces beside them do not meet at an angle.");
    return std::move(*out);
}

/// Where a face of a body is on what was made of that: a face beside it may have been worked.
int foundFace(const TopoDS_Shape& face, const NamedShape& before, const NamedShape& now) {
    if (const int same = now.faces.FindIndex(face)) return same - 1;
    for (int i = 1; i <= now.faces.Extent(); ++i)
        if (now.namesOf(now.faces(i)) == before.namesOf(face)) return i - 1;
    return -1;
}

/// Every face gives way to a round.
Result<StepChange> roundFully(const Arguments& args, ModelReader& model, const Progress& progress) {
    const auto found = findFaces(args.references("over"), model);
    if (!found) return found.error();
    const NamedShape& before = found->body.shape();
    Body body = found->body;
    for (const int i : found->items) {
        if (progress.stopped()) return stoppedError();
        const TopoDS_Shape& face = before.faces(i + 1);
        const int now = foundFace(face, before, body.shape());
        auto made = now < 0 ? Result<Body>(errorOf("fullround.shape", "Another round has used up this face."))
                            : roundedOver(body, now, args.id());
        if (!made) {
            Error e = made.error();
            e.culprits.push_back(before.wordsFor(face));
            return e;
        }
        body = std::move(*made);
    }
    StepChange change(ChangedBody{found->id, body});
    change.checked = true;
    change.notes = found->notes;
    return change;
}

/// From one face to another, over what lies between them.
Result<StepChange> roundAcross(const Arguments& args, ModelReader& model) {
    const auto found = findFaces(args.references("between"), model);
    if (!found) return found.error();
    if (found->items.size() != 2)
        return errorOf("fillet.two",
                       phrase("A round from face to face needs two faces, and these are %1. Pick the "
                              "two that the ball shall touch.",
                              std::to_string(found->items.size())));
    const NamedShape& s = found->body.shape();
    const TopoDS_Shape &one = s.faces(found->items[0] + 1), &other = s.faces(found->items[1] + 1);
    auto made =
        roundedAcross(found->body, TopoDS::Face(one), TopoDS::Face(other), args.number("radius"), args.id());
    if (!made) {
        Error e = made.error();
        for (const TopoDS_Shape& f : {one, other}) e.culprits.push_back(s.wordsFor(f));
        return e;
    }
    StepChange change(ChangedBody{found->id, std::move(*made)});
    change.checked = true;
    change.notes = found->notes;
    return change;
}

/// From a line of the faces beside the edges.
Result<StepChange> roundHeld(const Arguments& args, ModelReader& model) {
    const auto edges = findEdges(args.references("edges"), model);
    if (!edges) return edges.error();
    const auto line = findEdges(args.references("line"), model);
    if (!line) return line.error();
    if (!(edges->id == line->id))
        return errorOf("fillet.bodies", "The edges and the line lie on different bodies. Pick both on one.");
    auto made = roundedHeldAt(edges->body, edges->items, line->items, args.id());
    if (!made) return made.error();
    StepChange change(ChangedBody{edges->id, std::move(*made)});
    change.checked = true;
    change.notes = edges->notes;
    change.notes.insert(change.notes.end(), line->notes.begin(), line->notes.end());
    return change;
}

/// Two places on the way must come one after the other.
std::optional<Error> whyNoWay(const Arguments& args) {
    const auto places = placesOnTheWay(args);
    if (places.size() < 2 || places[0].share < places[1].share) return std::nullopt;
    return errorOf("fillet.places",
                   phrase("The second radius on the way, at %1, must come after the first, at %2.",
                          formatNumber(places[1].share, 3), formatNumber(places[0].share, 3)));
}

} // namespace

Result<StepChange> runFillet(const Arguments& args, ModelReader& model, const Progress& progress) {
    return guarded("fillet.failed", "These edges cannot be rounded.", [&]() -> Result<StepChange> {
        if (args.text("how") == "fully over") return roundFully(args, model, progress);
        if (args.text("how") == "from face to face") return roundAcross(args, model);
        if (args.text("how") == "up to") return roundHeld(args, model);
        if (args.text("how") == "growing from")
            if (auto e = whyNoWay(args)) return *e;
        const auto wanted = wantedBy(args, model);
        if (!wanted) return wanted.error();
        auto worked = roundEdges(wanted->body, wanted->chains, args.id(), progress, args.onlyWhole(),
                                 wanted->asks.get());
        if (!worked) return worked.error();
        const std::string all = std::to_string(wanted->chains.size());
        if (!worked->left.empty() && !isMostlyDone(*worked, wanted->chains.size()))
            return leftOver(
                *worked, wanted->body, "fillet.too-large", [&](const auto& left, const auto& list) {
                    return phrase(
                        "A radius of %1 does not fit at %2 of %3 edges: %4. Make it smaller, or let go of "
                        "what does not take it.",
                        formatAmount(worked->left.front().first, "mm", 2), left, all, list);
                });
        auto body = withCorners(args, *wanted, *worked);
        if (!body) return body.error();
        StepChange change(ChangedBody{wanted->id, std::move(*body)});
        change.checked = true;
        change.notes = wanted->notes;
        for (const auto& n : worked->nudged)
            change.notes.push_back(phrase("Rounded by %1 instead of %2, which would just meet another edge.",
                                          formatAmount(n.made, "mm", 4), formatAmount(n.asked, "mm", 4)));
        if (!worked->left.empty())
            change.doubt =
                leftOver(*worked, wanted->body, "edges.left", [&](const auto& left, const auto& list) {
                    return phrase(
                        "%1 of %2 edges could not be rounded and stay as they are: %3. The others are "
                        "done.",
                        left, all, list);
                });
        return change;
    });
}

} // namespace gc
