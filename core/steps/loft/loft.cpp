// Loft: a solid through closed sections, one after the other.

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/loft/lofted_faces.hpp"
#include "core/steps/loft/sound.hpp"
#include "core/steps/loft/thread_aids.hpp"
#include "core/steps/loft/wall.hpp"
#include "core/steps/shared/becoming.hpp"
#include "core/steps/shared/filling.hpp"
#include "core/steps/shared/size_handles.hpp"

#include <BRepCheck_Analyzer.hxx>
#include <BRep_Builder.hxx>
#include <TopoDS_Compound.hxx>

#include <algorithm>
#include <cmath>
#include <memory>

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

Result<Walls> sectionsOf(const Arguments& args, ModelReader& model, bool closed, bool hollow) {
    const References& said = args.references("sections");
    if (said.size() < 2)
        return errorOf("loft.few", said.empty()
                                       ? "Pick the sections in the stand, in order: drawings, faces, or "
                                         "points at the ends."
                                       : "One section is there; pick the next in the stand.");
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

/// Everything but the threads, through the sections of one wall. \param guided by the guides themselves
Result<LoftPlan> planOf(const Arguments& args, ModelReader& model, const LoftPlan& way,
                        std::vector<LoftSection> sections, bool guided) {
    LoftPlan plan = way;
    plan.sections = std::move(sections);
    if (plan.straight) return plan;
    if (plan.closed && args.text("led") == "around the spine")
        return errorOf("loft.ring-spine",
                       "A spine leads from a first section to a last, and this loft goes round. Let lines "
                       "guide it, or let it lead itself.");
    for (const auto& [key, section, end] : {std::tuple{"leave", &plan.sections.front(), &plan.first},
                                            {"arrive", &plan.sections.back(), &plan.last}}) {
        if (plan.closed) break;
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
    if (!guided) return plan;
    const References& guides = args.references("guides");
    if (guides.empty())
        return errorOf("loft.no-guide",
                       "Pick the lines that guide the wall in the stand, or let it lead itself.");
    for (const std::string& one : guides) {
        const auto path = findPath({one}, model);
        if (!path) return path.error();
        auto guide = guideThrough(*path, plan.sections, plan.closed, static_cast<int>(plan.guides.size()) + 1,
                                  one, model);
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

/// Where the edges of the outer wall pass the sections of the inner one, so that both go the same way. Where
/// corners fall together beside the drawing, the first stands for them.
std::vector<std::vector<double>> likewise(const LoftPlan& outer, const std::vector<LoftSection>& inner) {
    constexpr double kApart = 1e-6; // share
    std::vector<std::vector<double>> out;
    for (const LoftThread& t : outer.threads) {
        if (!t.corner) continue;
        std::vector<double> at;
        for (std::size_t i = 0; i < inner.size(); ++i)
            at.push_back(shareBeside(outer.sections[i], inner[i], t.at[i]));
        const bool there = std::any_of(out.begin(), out.end(), [&](const std::vector<double>& other) {
            for (std::size_t i = 0; i < inner.size(); ++i)
                if (const double d = wrapped(other[i] - at[i]);
                    !inner[i].isPoint() && std::min(d, 1 - d) < kApart)
                    return true;
            return false;
        });
        if (!there) out.push_back(std::move(at));
    }
    return out;
}

std::vector<std::vector<double>> sharesOf(const std::vector<LoftGuide>& guides) {
    std::vector<std::vector<double>> out;
    for (const LoftGuide& g : guides) out.push_back(g.at);
    return out;
}

/// What the walls of one loft have in common.
struct Lofting {
    const Arguments& args;
    ModelReader& model;
    LoftPlan way;
    std::vector<PulledThread> pulled;
    bool guided = false;
    std::shared_ptr<const Skin> drawn; ///< of walls that are guided
};

Result<LoftPlan> planOf(const Lofting& loft, std::vector<LoftSection> sections) {
    auto plan = planOf(loft.args, loft.model, loft.way, std::move(sections), loft.guided && !loft.drawn);
    if (!plan || !loft.drawn) return plan;
    for (const LoftGuide& g : loft.drawn->plan().guides)
        plan->guides.push_back(guideBeside(g, loft.drawn->plan().sections, plan->sections));
    plan->beside = loft.drawn;
    return plan;
}

/// How strongly the wall keeps its way at its ends, as arrows.
void showPulls(const Skin& skin, ModelReader& model) {
    for (const std::size_t end : {0, 1}) {
        const auto pull = skin.pullAt(end);
        if (!pull || pull->second.Magnitude() < kSamePoint) continue;
        const double strength = (end == 0 ? skin.plan().first : skin.plan().last).strength;
        model.show(sizeHandle(end == 0 ? "leave strength" : "arrive strength", toVec(pull->first),
                              unit(toWay(pull->second)), strength, pull->second.Magnitude()));
    }
}

/// The only wall or the outer one, its threads and the strength of its ends shown.
Result<Skin> outerSkin(const Lofting& loft, std::vector<LoftSection> sections, std::vector<Message>& notes) {
    auto plan = planOf(loft, std::move(sections));
    if (!plan) return plan.error();
    auto matched =
        matchSections(plan->sections, laidFlat(plan->sections), sharesOf(plan->guides), loft.pulled);
    if (!matched) return matched.error();
    if (matched->lost > 0)
        notes.push_back(
            "A thread that was pulled begins or ends at a stroke that is no longer there; its place "
            "is found with least twist.");
    plan->threads = matched->threads;
    showThreads(*plan, *matched, loft.pulled, loft.model);
    Skin skin(*plan);
    showPulls(skin, loft.model);
    return skin;
}

Result<Skin> matchedSkin(LoftPlan plan, const std::vector<std::vector<double>>& shares,
                         const std::vector<PulledThread>& pulled) {
    auto matched = matchSections(plan.sections, laidFlat(plan.sections), shares, pulled);
    if (!matched) return matched.error();
    plan.threads = matched->threads;
    return Skin(plan);
}

/// The loft through the sections as they were drawn: walls beside them keep as far from it as its guides
/// lead.
Result<Skin> drawnSkin(const Lofting& loft) {
    auto sections = sectionsOf(loft.args, loft.model, loft.way.closed, false);
    if (!sections) return sections.error();
    auto plan = planOf(loft, std::move(sections->front()));
    if (!plan) return plan.error();
    const auto shares = sharesOf(plan->guides);
    return matchedSkin(std::move(*plan), shares, loft.pulled);
}

/// \param alike matched as the outer one is; else by itself
Result<Skin> innerSkin(const Lofting& loft, std::vector<LoftSection> sections, const Skin& outer,
                       bool alike) {
    auto plan = planOf(loft, std::move(sections));
    if (!plan) return plan.error();
    auto shares = sharesOf(plan->guides);
    if (shares.empty() && alike) shares = likewise(outer.plan(), plan->sections);
    return matchedSkin(std::move(*plan), shares, {});
}

/// The walls of the loft, the outer first. Errors: "loft.crossed" among others.
Result<std::vector<Skin>> skinsFor(const Lofting& loft, Walls walls, std::vector<Message>& notes) {
    std::vector<Skin> skins;
    auto outer = outerSkin(loft, std::move(walls.front()), notes);
    if (!outer) return outer.error();
    skins.push_back(std::move(*outer));
    if (walls.size() == 1) {
        if (const auto at = crossingOf(skins)) return crossed(*at, !loft.pulled.empty());
        return skins;
    }
    // That threads taken over from the outer wall would cross says nothing to whoever pulled none.
    std::optional<Error> fault;
    const auto blame = [&](Error e) {
        if (!fault || fault->code == "loft.crossing") fault = std::move(e);
    };
    for (const bool alike : {true, false}) {
        auto inner = innerSkin(loft, walls.back(), skins.front(), alike);
        if (!inner) {
            blame(inner.error());
            continue;
        }
        skins.push_back(std::move(*inner));
        const auto at = crossingOf(skins);
        if (!at) return skins;
        blame(crossed(*at, !loft.pulled.empty()));
        skins.pop_back();
    }
    return *fault;
}

/// The loft, with its threads shown whether it can be made or not.
Result<NamedTool> toolFor(const Arguments& args, ModelReader& model, std::vector<Message>& notes) {
    Lofting loft{args, model, {}, {}, false, nullptr};
    loft.way.straight = args.text("way") == "straight";
    loft.way.closed = !loft.way.straight && args.text("round") == "closed";
    loft.guided = !loft.way.straight && args.text("led") == "guided by";
    if (args.text("matching") != "with least twist") loft.pulled = pulledIn(args.text("threads"));
    const bool hollow = args.text("fill") == "as a wall of";
    auto walls = sectionsOf(args, model, loft.way.closed, hollow);
    if (!walls) return walls.error();
    if (loft.guided && hollow) {
        auto skin = drawnSkin(loft);
        if (!skin) return skin.error();
        loft.drawn = std::make_shared<Skin>(std::move(*skin));
    }
    const auto all = skinsFor(loft, std::move(*walls), notes);
    if (!all) return all.error();
    const std::vector<Skin>& skins = *all;
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
