#include "core/steps/shared/words.hpp"

#include "core/base/angles.hpp"
#include "core/document/areas.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/sketch/drawing_words.hpp"

#include <algorithm>
#include <cstdlib>
#include <set>
#include <string_view>

namespace gc {

void fillWithLatest(Step& step, const Part& part, const std::string& slot, Thing thing, int but) {
    for (int i = part.shownSteps(); i-- > 0;) {
        const Step& before = part.steps[static_cast<std::size_t>(i)];
        const std::string name = before.id == but ? std::string() : nameGiven(before, thing);
        if (name.empty()) continue;
        step.slots[slot] = name;
        return;
    }
}

void fillWithLatestDetail(Step& step, const Part& part, const std::string& slot) {
    static const std::set<std::string> kinds{"extrude", "revolve", "sweep", "hole", "emboss",
                                             "boss",    "rib",     "snap",  "vent", "thread"};
    for (int i = part.shownSteps(); i-- > 0;) {
        const Step& before = part.steps[static_cast<std::size_t>(i)];
        if (before.off || !kinds.count(before.kind)) continue;
        if (before.text("does") == "as new body") return;
        step.slots[slot] = References{"everything of step " + std::to_string(before.id)};
        return;
    }
}

void fillTarget(Step& step, const Part& part) {
    const auto bodies = namesBefore(part, step.id, Thing::Body);
    if (bodies.size() == 1) step.slots["target"] = bodies.front();
}

void fillWithLatestBody(Step& step, const Part& part) {
    fillWithLatest(step, part, "body", Thing::Body);
}

void addBecoming(StepWords& words) {
    constexpr auto isNew = [](const Step& s) { return s.text("does") == "as new body"; };
    constexpr auto onBody = [](const Step& s) { return s.text("does") != "as new body"; };
    // Only once it was asked for: most cuts leave one piece.
    constexpr auto keeps = [](const Step& s) {
        return (s.text("does") == "taking from" || s.text("does") == "common with") &&
               s.text("pieces") == "as bodies of their own";
    };
    SlotWords does =
        choice("does", "what it does", {"as new body", "adding to", "taking from", "common with"});
    does.flips = {"adding to", "taking from"};
    words.slots.push_back(does);
    words.slots.push_back(naming(Thing::Body, "body", "body"));
    words.slots.push_back(slot("target", "bodies to work on", SlotType::BodiesRef));
    words.slots.push_back(
        choice("pieces", "what becomes of pieces", {"as one piece", "as bodies of their own"}));
    for (const SentencePiece& p : std::vector<SentencePiece>{{",", ""},
                                                             {"", "does"},
                                                             {"", "body", isNew},
                                                             {"", "target", onBody},
                                                             {", its pieces", "", keeps},
                                                             {"", "pieces", keeps},
                                                             {"called", "", keeps},
                                                             {"", "body", keeps},
                                                             {".", ""}})
        words.sentence.push_back(p);
}

void addFilling(StepWords& words) {
    // Where one of its areas was chosen, that is what becomes solid.
    constexpr auto isOpen = [](const Step& s) { return s.text("area").empty(); };
    constexpr auto isWall = [](const Step& s) {
        return s.text("area").empty() && s.text("fill") == "as a wall of";
    };
    words.slots.push_back(choice("fill", "what becomes solid", {"filled", "as a wall of"}));
    words.slots.push_back(length("thickness", "thickness of the wall", "2 mm", 100));
    words.slots.push_back(choice("wall side", "side of the wall", {"inside", "outside", "on both sides"}));
    for (const SentencePiece& p : std::vector<SentencePiece>{{",", "", isOpen},
                                                             {"", "fill", isOpen},
                                                             {"", "thickness", isWall},
                                                             {"", "wall side", isWall},
                                                             {",", ""}})
        words.sentence.push_back(p);
}

void addTop(StepWords& words, bool (*shown)(const Step&)) {
    constexpr auto rises = [](const Step& s) {
        return s.text("top") == "high" &&
               s.text("seen") != "side"; // a rib seen from its side has its top drawn
    };
    words.slots.push_back(
        choice("top", "where its top is", {{"there", "its top there"}, {"high", "rising above it by"}}));
    words.slots.push_back(length("high", "how high it rises", "10 mm", 2000));
    words.sentence.insert(words.sentence.end(), {{",", "", shown}, {"", "top", shown}, {"", "high", rises}});
}

void fillTop(Step& step, const Part& part) {
    for (const Step& s : part.steps)
        if (drawingOf(s) && nameGiven(s, Thing::Outline) == step.text("outline"))
            step.slots["top"] = std::string(parseFaceRef(s.text("plane")) ? "high" : "there");
}

void addStanding(StepWords& words, const std::pair<std::string, std::string>& near,
                 const std::string& before) {
    SlotWords side = choice("side", "on which side of the drawing the wall is",
                            {{"near", near.first}, {"other", near.second}});
    side.flips = {"near", "other"};
    words.slots.push_back(side);
    words.slots.push_back(slot("target", "bodies to stand on", SlotType::BodiesRef));
    if (!before.empty()) words.sentence.push_back({before, ""});
    for (const SentencePiece& p : std::vector<SentencePiece>{{"", "side"}, {"of", ""}, {"", "target"}})
        words.sentence.push_back(p);
}

void addFoot(StepWords& words, const std::string& usual) {
    constexpr auto isRound = [](const Step& s) { return s.text("foot") == "round"; };
    words.slots.push_back(choice("foot", "whether its foot is rounded",
                                 {{"sharp", "its foot sharp"}, {"round", "its foot rounded by"}}));
    SlotWords radius = length("foot round", "radius at its foot", "0.5 mm", 100);
    radius.usual = usual;
    words.slots.push_back(radius);
    words.sentence.insert(words.sentence.end(), {{",", ""}, {"", "foot"}, {"", "foot round", isRound}});
}

void endStanding(StepWords& words, const std::string& usualFoot) {
    addStanding(words);
    addFoot(words, usualFoot);
    words.sentence.push_back({".", ""});
}

void fillStanding(Step& step, const Part& part, bool ofPoints) {
    fillWithLatest(step, part, "outline", Thing::Outline);
    for (int i = part.shownSteps(); i-- > 0;) {
        const Step& before = part.steps[static_cast<std::size_t>(i)];
        const Drawing* drawing = drawingOf(before);
        if (!drawing || std::none_of(drawing->strokes.begin(), drawing->strokes.end(), [&](const Stroke& s) {
                return !s.helper && (s.kind == StrokeKind::Point) == ofPoints;
            }))
            continue;
        step.slots["outline"] = nameGiven(before, Thing::Outline);
        break;
    }
    fillTarget(step, part);
    fillTop(step, part);
}

SlotWords mouldLean(const std::string& label, const std::string& fallback, const std::string& usual) {
    SlotWords s = angle("lean", label, fallback, kPi / 6);
    s.leastAllowed = true;
    s.usual = usual + ", so that it comes out of its mould";
    return s;
}

std::string wallBefore(const Part& part) {
    for (const NamedValue& v : part.values)
        if (v.name == "wall") return v.name;
    for (int i = part.shownSteps(); i-- > 0;) {
        const Step& s = part.steps[static_cast<std::size_t>(i)];
        if (s.kind == "shell" && !s.off) return s.text("wall");
    }
    return {};
}

std::string shareOfWall(const Part& part, const std::string& factor, const std::string& fallback) {
    const std::string wall = wallBefore(part);
    if (wall.empty()) return fallback;
    const bool plain = wall.find_first_of("+-") == std::string::npos;
    return factor + " * " + (plain ? wall : "(" + wall + ")");
}

std::string strokeInWords(const Part& part, const std::string& outline, const std::string& role) {
    constexpr std::string_view kSide = "side ";
    std::string_view rest = role;
    std::string before;
    for (const auto& [prefix, words] :
         {std::pair<std::string_view, const char*>{"back ", "back of "}, {"far ", "far side of "}})
        if (rest.starts_with(prefix)) {
            rest.remove_prefix(prefix.size());
            before += words;
        }
    if (!rest.starts_with(kSide)) return {};
    const int id = std::atoi(rest.data() + kSide.size());
    const Drawing* drawing = drawingOf(part, outline);
    return drawing && drawing->findStroke(id) ? before + nameOf(*drawing, id) : std::string();
}

std::string placeInWords(const Part& part, const std::string& outline, const std::string& role,
                         const std::vector<std::string>& beginnings) {
    const Drawing* drawing = drawingOf(part, outline);
    for (const std::string& what : beginnings) {
        if (!drawing || !role.starts_with(what)) continue;
        const int id = std::atoi(role.c_str() + what.size());
        if (drawing->findStroke(id)) return what + "at " + nameOf(*drawing, id);
    }
    return {};
}

std::vector<std::string> latestLine(const Part& part, const std::string& except) {
    for (int i = part.shownSteps(); i-- > 0;) {
        const Step& before = part.steps[static_cast<std::size_t>(i)];
        const std::string by = " of step " + std::to_string(before.id);
        if (!nameGiven(before, Thing::Curve).empty()) return {"curve" + by};
        const Drawing* drawn = drawingOf(before);
        if (!drawn || (!except.empty() && nameGiven(before, Thing::Outline) == except)) continue;
        for (const Stroke& s : drawn->strokes)
            if (!s.helper && s.kind != StrokeKind::Point)
                return {"chain of stroke " + std::to_string(s.id) + by};
    }
    return {};
}

} // namespace gc
