// Loft: a solid through closed sections, one after the other.

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/loft/lofted_faces.hpp"
#include "core/steps/loft/sound.hpp"
#include "core/steps/loft/thread_aids.hpp"
#include "core/steps/loft/wall.hpp"
#include "core/steps/shared/becoming.hpp"
#include "core/steps/shared/filling.hpp"

#include <BRepCheck_Analyzer.hxx>
#include <BRep_Builder.hxx>
#include <TopoDS_Compound.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

Error blamed(std::string code, Message sentence, const std::string& culprit) {
    Error e = errorOf(std::move(code), std::move(sentence));
    e.culprits = {culprit};
    return e;
}

/// Points stand at the ends, and no two sections in one place.
Result<Done> checkOrder(const std::vector<LoftSection>& sections, bool closed) {
    const std::size_t n = sections.size();
    int lines = 0;
    for (std::size_t i = 0; i < n; ++i) {
        const LoftSection& s = sections[i];
        lines += !s.isPoint();
        if (s.isPoint() && (closed || (i > 0 && i + 1 < n)))
            return blamed("loft.point",
                          closed ? phrase("%1 is a point. A loft that closes goes through closed lines only.",
                                          marked(s.said()))
                                 : phrase("%1 is a point, and stands between other sections. Points may be "
                                          "the first or the last.",
                                          marked(s.said())),
                          s.said());
        if (i > 0 && sections[i - 1].middle().Distance(s.middle()) < kSamePoint &&
            (s.isPoint() || sections[i - 1].isPoint() ||
             std::fabs(s.normal().Dot(sections[i - 1].normal())) > 1 - 1e-9))
            return blamed(
                "loft.same-place",
                phrase("Sections %1 and %2 lie in the same place. Draw one of them on another plane.",
                       std::to_string(i), std::to_string(i + 1)),
                s.said());
    }
    if (lines == 0)
        return errorOf("loft.points",
                       "A loft needs a closed line besides its points. Pick one in the stand.");
    if (closed && n < 3)
        return errorOf("loft.ring", "A loft that closes goes through three sections or more. Pick another.");
    return Done{};
}

/// By wall, the outer first: filled there is just one.
using Walls = std::vector<std::vector<LoftSection>>;

Result<Walls> sectionsOf(const Arguments& args, ModelReader& model, bool closed) {
    const References& said = args.references("sections");
    if (said.size() < 2)
        return errorOf("loft.few", said.empty()
                                       ? "Pick the sections in the stand, in order: drawings, faces, or "
                                         "points at the ends."
                                       : "One section is there; pick the next in the stand.");
    const bool hollow = args.text("fill") == "as a wall of";
    Walls out(hollow ? 2 : 1);
    for (const std::string& one : said) {
        const int number = static_cast<int>(out.front().size()) + 1;
        if (hollow) {
            auto both = wallSection(one, number, args.number("thickness"), wallSideOf(args), model);
            if (!both) return both.error();
            for (std::size_t w = 0; w < 2; ++w) out[w].push_back(std::move((*both)[w]));
            continue;
        }
        auto section = findSection(one, number, model);
        if (!section) return section.error();
        out.front().push_back(std::move(*section));
    }
    if (auto fine = checkOrder(out.front(), closed); !fine) return fine.error();
    for (auto& sections : out) orient(sections);
    return out;
}

Result<LoftEnd> endOf(const Arguments& args, const LoftSection& section, const std::string& how) {
    const std::string& words = args.text(how);
    LoftEnd out;
    if (words == "freely") return out;
    out.strength = args.number(how + " strength");
    out.kind = words == "squarely"           ? LoftEnd::Kind::Square
               : words == "on evenly curved" ? LoftEnd::Kind::Curved
                                             : LoftEnd::Kind::Tangent;
    if (out.kind == LoftEnd::Kind::Square) return out;
    bool walls = !section.isPoint() && !section.beyondNothing();
    for (std::size_t i = 0; walls && i < section.pieces().size(); ++i) walls = !section.beyond(i).IsNull();
    if (!walls)
        return blamed(
            "loft.no-walls",
            phrase("There are no walls at %1 to go on from. Pick a face of a body as this section, or "
                   "let the loft leave it squarely.",
                   marked(section.said())),
            section.said());
    return out;
}

/// Everything but the threads, through the sections of one wall.
Result<LoftPlan> planOf(const Arguments& args, ModelReader& model, const LoftPlan& way,
                        std::vector<LoftSection> sections, bool hollow) {
    LoftPlan plan = way;
    plan.sections = std::move(sections);
    if (plan.straight || plan.closed) return plan;
    for (const auto& [key, section, end] : {std::tuple{"leave", &plan.sections.front(), &plan.first},
                                            {"arrive", &plan.sections.back(), &plan.last}}) {
        const auto how = endOf(args, *section, key);
        if (!how) return how.error();
        *end = *how;
    }
    if (args.text("led") == "around the spine") {
        const auto path = findPath(args.references("spine"), model);
        if (!path) return path.error();
        auto spine = spineThrough(*path, plan.sections);
        if (!spine) return spine.error();
        plan.spine = std::move(*spine);
    }
    if (args.text("led") != "guided by") return plan;
    if (hollow)
        return errorOf("loft.guided-wall",
                       "A wall along sections cannot be guided. Loft it filled, and hollow it with "
                       "a shell.");
    const References& guides = args.references("guides");
    if (guides.empty())
        return errorOf("loft.no-guide",
                       "Pick the lines that guide the wall in the stand, or let it lead itself.");
    for (const std::string& one : guides) {
        const auto path = findPath({one}, model);
        if (!path) return path.error();
        auto guide = guideThrough(*path, plan.sections, static_cast<int>(plan.guides.size()) + 1, one, model);
        if (!guide) return guide.error();
        plan.guides.push_back(std::move(*guide));
    }
    return plan;
}

Error crossed(const gp_Pnt& at, bool pulled) {
    Error e =
        errorOf("loft.crossed",
                pulled ? "The wall would run through itself here. Match the sections with less twist: pull "
                         "a thread back, or let them be matched with least twist."
                       : "The wall would run through itself here. Move the sections further apart, or put "
                         "them in another order.");
    e.place = toVec(at);
    return e;
}

/// Corner to corner as the outer wall was matched, so that the inner one goes the same way.
std::vector<PulledThread> likewise(const LoftPlan& outer) {
    std::vector<PulledThread> out;
    for (std::size_t i = 0; i + 1 < outer.sections.size(); ++i)
        for (const LoftThread& t : outer.threads) {
            const auto from = outer.sections[i].placeAt(t.at[i]),
                       to = outer.sections[i + 1].placeAt(t.at[i + 1]);
            if (t.corner && from.share == 0 && to.share == 0)
                out.push_back({static_cast<int>(i) + 1, from, to});
        }
    return out;
}

/// The loft, with its threads shown whether it can be made or not.
Result<NamedTool> toolFor(const Arguments& args, ModelReader& model, std::vector<Message>& notes) {
    LoftPlan way;
    way.straight = args.text("way") == "straight";
    way.closed = !way.straight && args.text("round") == "closed";
    auto walls = sectionsOf(args, model, way.closed);
    if (!walls) return walls.error();
    const bool pulls = args.text("matching") != "with least twist";
    const auto pulled = pulls ? pulledIn(args.text("threads")) : std::vector<PulledThread>();
    std::vector<Skin> skins;
    for (auto& sections : *walls) {
        auto plan = planOf(args, model, way, std::move(sections), walls->size() > 1);
        if (!plan) return plan.error();
        std::vector<std::vector<double>> guides;
        for (const LoftGuide& g : plan->guides) guides.push_back(g.at);
        const bool outer = skins.empty();
        const auto flat = laidFlat(plan->sections);
        auto matched =
            matchSections(plan->sections, flat, guides, outer ? pulled : likewise(skins.front().plan()));
        // Where corners fall together beside the drawing, the inner wall finds its own way.
        if (!matched && !outer) matched = matchSections(plan->sections, flat, guides, {});
        if (!matched) return matched.error();
        if (outer && matched->lost > 0)
            notes.push_back(
                "A thread that was pulled begins or ends at a stroke that is no longer there; its place "
                "is found with least twist.");
        plan->threads = matched->threads;
        if (outer) showThreads(*plan, *matched, pulled, model);
        skins.emplace_back(*plan);
    }
    if (const auto at = crossingOf(skins)) return crossed(*at, pulls);
    auto made = loftedFaces(skins);
    if (!made) return made.error();
    if (!BRepCheck_Analyzer(made->solid).IsValid())
        return errorOf("loft.invalid",
                       "The loft does not close up. Make the sections smoother, or more alike.");
    const auto& sections = skins.front().plan().sections;
    TopoDS_Compound solids;
    BRep_Builder().MakeCompound(solids);
    NamedTool tool;
    tool.step = args.id();
    const LoftSection& first = sections.front().isPoint() ? sections[1] : sections.front();
    tool.frame =
        planeFacing(toVec(first.middle()), {first.normal().X(), first.normal().Y(), first.normal().Z()});
    EndedSolid(std::move(*made)).addWhole(args.id(), solids, tool);
    tool.shape = onlySolid(solids);
    return tool;
}

} // namespace

Result<StepChange> runLoft(const Arguments& args, ModelReader& model, const Progress&) {
    auto becoming = becomingOf(args, model);
    if (!becoming) return becoming.error();
    std::vector<Message> notes;
    auto made = guarded("loft.failed", "The sections cannot be lofted.", [&]() -> Result<StepChange> {
        auto tool = toolFor(args, model, notes);
        if (!tool) return tool.error();
        return become(*becoming, *tool, 1, args, model);
    });
    if (made) made->notes.insert(made->notes.begin(), notes.begin(), notes.end());
    return made;
}

} // namespace gc
