#include "core/steps/shared/becoming.hpp"

#include "core/steps/shared/size_remedy.hpp"
#include "core/steps/shared/slivers.hpp"

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>

#include <algorithm>

namespace gc {

Result<Becoming> becomingOf(const Arguments& args, ModelReader& model) {
    Becoming b;
    const std::string& does = args.text("does");
    b.makesNew = does == "as new body";
    b.how = does == "taking from" ? Combine::Take : does == "common with" ? Combine::Common : Combine::Add;
    if (b.makesNew) return b;
    b.keepsPieces = args.text("pieces") == "as bodies of their own";
    for (const auto& id : model.bodiesIn("target")) {
        if (!id)
            return errorOf(
                "becoming.body",
                phrase("There is no body called \"%1\" before this step. Make a new one, or choose another.",
                       args.label("target")));
        if (std::find(b.targets.begin(), b.targets.end(), *id) == b.targets.end()) b.targets.push_back(*id);
    }
    if (b.targets.empty() && model.bodies().empty())
        return errorOf("becoming.body", "There is no body before this step. Make a new one.");
    return b;
}

namespace {

/// The solids of a tool, each with the names of its own faces, the largest first.
std::vector<NamedTool> solidsOf(const NamedTool& tool) {
    if (solidsIn(tool.shape) == 1 && tool.shape.ShapeType() == TopAbs_SOLID) return {tool};
    std::vector<std::pair<double, NamedTool>> sized;
    for (TopExp_Explorer x(tool.shape, TopAbs_SOLID); x.More(); x.Next()) {
        NamedTool one = tool;
        one.shape = x.Current();
        TopTools_IndexedMapOfShape faces;
        TopExp::MapShapes(one.shape, TopAbs_FACE, faces);
        std::erase_if(one.names, [&](const auto& n) { return !faces.Contains(n.first); });
        GProp_GProps props;
        BRepGProp::VolumeProperties(one.shape, props); // to tell the largest, no more
        sized.emplace_back(std::fabs(props.Mass()), std::move(one));
    }
    std::stable_sort(sized.begin(), sized.end(),
                     [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<NamedTool> out;
    for (auto& [size, one] : sized) out.push_back(std::move(one));
    return out;
}

/// What is added, solid by solid, and how its flat faces stand to the body.
struct Ends {
    std::vector<NamedTool> solids;
    std::vector<Gap> gaps;
    std::optional<Lacking> thin; ///< a gap that stays and is hardly meant
    std::vector<Message> said;   ///< what was done to the ends
};

/// Ends that touch a wall of another shape are carried on to it, those that came out of one are held back.
Ends endsOf(const Body& body, const NamedTool& tool) {
    Ends ends{solidsOf(tool), {}, {}, {}};
    for (NamedTool& one : ends.solids) {
        auto gaps = gapsOf(body, one);
        ends.gaps.insert(ends.gaps.end(), gaps.begin(), gaps.end());
        auto root = rooted(body, one, gaps);
        if (root) std::erase_if(gaps, [](const Gap& g) { return g.least <= kTouches; }); // they are closed
        if (!ends.thin) ends.thin = gapLeft(one, gaps);
        if (!root) continue;
        for (const Rooted::End& e : root->ends)
            ends.said.push_back(
                phrase(e.cameOut ? "%1 came out on the other side of a wall, by up to %2: that is left away."
                                 : "%1 ends on a wall of another shape: it is carried on by up to %2, so "
                                   "that no gap stays.",
                       marked(e.face), formatAmount(e.by, "mm", 2)));
        one = std::move(root->tool);
    }
    return ends;
}

/// Adds what ends on walls of another shape one after the other. Nothing where that fails.
std::optional<Body> joinRooted(const Body& body, const Ends& ends) {
    Body now = body;
    for (const NamedTool& one : ends.solids) {
        auto joined = combine(now, one, Combine::Add);
        if (!joined) return std::nullopt;
        now = std::move(*joined);
    }
    return now;
}

bool isOwnEnd(const Lacking& beside) {
    return beside.face.starts_with("end of");
}

/// The step's own length is made longer, where it is its end that lacks something.
void offerLonger(Error& e, const Becoming& becoming, const NamedTool& tool, const Lacking& lacks) {
    constexpr double kGrain = 0.01, kRounding = 1e-6; // mm: as people write lengths; of the grain
    if (!becoming.grows || !isOwnEnd(lacks)) return;
    const double longer = std::ceil((becoming.grows->second + lacks.by) / kGrain - kRounding) * kGrain;
    e.remedies.push_back(makeIt(tool.step, becoming.grows->first, longer));
}

Error withGap(const Becoming& becoming, const NamedTool& tool, const std::vector<Gap>& gaps,
              const Error& apart) {
    const auto gap = lacking(tool, gaps);
    if (!gap) return apart;
    Error e = errorOf("combine.gap", phrase("It ends %1 short of the body, so they would stay two pieces. "
                                            "Make it longer by that, or let it go to the next wall.",
                                            formatAmount(gap->by, "mm", 2)));
    e.place = gap->at;
    offerLonger(e, becoming, tool, *gap);
    return e;
}

/// What was done leaves something so thin that it is hardly meant: it stands, and is told.
std::optional<Error> doubtOf(const Becoming& becoming, const Body& body, const NamedTool& tool,
                             const Ends& ends) {
    const auto thin = becoming.how == Combine::Take ? wallLeft(body, tool) : ends.thin;
    if (!thin) return std::nullopt;
    Error e =
        errorOf("becoming.sliver", phrase(becoming.how == Combine::Take ? "It leaves a wall of only %1 %2."
                                                                        : "It leaves a gap of only %1 %2.",
                                          formatAmount(thin->by, "mm", 3),
                                          isOwnEnd(*thin)      ? "behind its end"
                                          : thin->face.empty() ? "behind one of its faces"
                                                               : "behind " + marked(thin->face)));
    e.place = thin->at;
    offerLonger(e, becoming, tool, *thin);
    return e;
}

Result<Body> worked(const Becoming& becoming, const Body& body, const NamedTool& tool, StepChange& change) {
    const bool adds = becoming.how == Combine::Add;
    const Ends ends = adds ? endsOf(body, tool) : Ends();
    std::optional<Body> rooted;
    if (!ends.said.empty()) rooted = joinRooted(body, ends);
    if (rooted) change.notes.insert(change.notes.end(), ends.said.begin(), ends.said.end());
    auto joined = rooted ? Result<Body>(std::move(*rooted)) : combine(body, tool, becoming.how);
    if (!joined && adds && joined.error().code == "combine.apart")
        return withGap(becoming, tool, ends.gaps, joined.error());
    if (joined && !change.doubt) change.doubt = doubtOf(becoming, body, tool, ends);
    return joined;
}

bool isApart(const Error& e) {
    return e.code == "combine.apart" || e.code == "combine.gap";
}

/// The bodies that the tool shares room with; where there are none, those that lie about it.
std::vector<ThingId> metBy(const Body& tool, const NamedTool& named, ModelReader& model) {
    const Box box = looseEnvelope(tool);
    std::vector<ThingId> near, met;
    for (const ThingId id : model.bodies())
        if (boxesMeet(box, model.box(id))) near.push_back(id);
    if (near.size() < 2) return near;
    for (const ThingId id : near) {
        // Where the kernel cannot say, the body is not left out: the step itself will tell.
        const auto common = combine(*model.body(id), named, Combine::Common);
        if (common || !isApart(common.error())) met.push_back(id);
    }
    return met.empty() ? near : met;
}

/// A body that was cut apart: the largest piece goes on under its name.
Result<Done> addPieces(ThingId id, const Body& body, const Arguments& args, StepChange& change) {
    bool first = true;
    for (const NamedTool& piece : solidsOf(toolOf(body, args.id()))) {
        auto own = bodyOf(piece);
        if (!own) return own.error();
        change.list.push_back(first ? Change(ChangedBody{id, *own}) : Change(MadeBody{*own}));
        first = false;
    }
    return Done{};
}

/// Joins everything that the tool meets into the first of the bodies.
Result<StepChange> joinAll(const Becoming& becoming, const std::vector<ThingId>& targets,
                           const NamedTool& tool, ModelReader& model) {
    StepChange change;
    std::optional<Body> now;
    std::optional<ThingId> into;
    std::optional<Error> apart;
    for (const ThingId id : targets) {
        const Body& body = *model.body(id);
        auto joined = into ? combine(*now, toolOf(body, tool.step), Combine::Add)
                           : worked(becoming, body, tool, change);
        if (!joined && becoming.targets.empty() && isApart(joined.error())) {
            if (!apart) apart = joined.error();
            continue;
        }
        if (!joined) return joined.error();
        if (into) {
            change.list.push_back(EndedBody{id});
            change.notes.push_back(
                phrase("It joins %1 and %2 into one body.", model.nameOf(*into), model.nameOf(id)));
        } else {
            into = id;
        }
        now = std::move(*joined);
    }
    if (!into) return *apart;
    change.list.insert(change.list.begin(), ChangedBody{*into, *now});
    return change;
}

/// Takes the tool from each of the bodies, or keeps of each what is common.
Result<StepChange> workOnEach(const Becoming& becoming, const std::vector<ThingId>& targets,
                              const NamedTool& tool, const Arguments& args, ModelReader& model) {
    StepChange change;
    std::optional<Error> apart;
    for (const ThingId id : targets) {
        auto now = worked(becoming, *model.body(id), tool, change);
        if (!now && isApart(now.error()) && becoming.targets.size() != 1) {
            apart = now.error();
            if (becoming.targets.empty()) continue;
            apart->sentence = phrase("%1: %2", model.nameOf(id), apart->sentence);
            return *apart;
        }
        if (!now) return now.error();
        if (becoming.keepsPieces) {
            if (auto done = addPieces(id, *now, args, change); !done) return done.error();
        } else {
            change.list.push_back(ChangedBody{id, *now});
        }
    }
    if (change.list.empty()) return *apart;
    return change;
}

} // namespace

Result<StepChange> become(const Becoming& becoming, const NamedTool& tool, std::size_t pieces,
                          const Arguments& args, ModelReader& model) {
    if (becoming.makesNew && pieces > 1)
        return errorOf("becoming.areas",
                       phrase("The drawing encloses %1 areas that do not touch, so the body "
                              "would be as many pieces. Choose one of them in the sentence.",
                              std::to_string(pieces)));
    auto body = bodyOf(tool);
    if (!body) return body.error();
    if (becoming.makesNew) return StepChange(MadeBody{*body});
    model.show(*body, becoming.how == Combine::Take);
    const auto targets = becoming.targets.empty() ? metBy(*body, tool, model) : becoming.targets;
    if (targets.empty())
        return errorOf("becoming.none", becoming.how == Combine::Add
                                            ? "It meets no body, so it would stay a piece of its own. Choose "
                                              "\"as new body\", or let it reach one."
                                            : "It reaches no body, so it would change nothing.");
    return becoming.how == Combine::Add ? joinAll(becoming, targets, tool, model)
                                        : workOnEach(becoming, targets, tool, args, model);
}

} // namespace gc
