#include "core/regen/found_anew.hpp"

#include "core/document/slot_trait.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/find_items.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <map>
#include <optional>
#include <regex>
#include <set>

namespace gc {

namespace {

/// A face of a file as roleAtPlace() calls it, in its place in a text.
struct PlacedFace {
    std::string role, sort;
    double size = 0;
    Vec3 at;
    int step = 0;
    std::size_t from = 0, length = 0; ///< of the role in the text
};

std::optional<PlacedFace> placedFace(const std::string& role) {
    static const std::regex form(
        R"(^((?:flat|round|conical|ball|ring|free) face) (\S+) at (\S+) (\S+) (\S+))");
    std::smatch m;
    if (!std::regex_search(role, m, form)) return std::nullopt;
    const auto number = [&](std::size_t i) { return std::strtod(m[i].str().c_str(), nullptr); };
    return PlacedFace{role, m[1], number(2), {number(3), number(4), number(5)}, 0, 0, 0};
}

/// Those that a reference names.
std::vector<PlacedFace> placedIn(const std::string& reference) {
    static const std::regex form(
        R"(((?:flat|round|conical|ball|ring|free) face \S+ at \S+ \S+ \S+(?: again \d+)?) of step (\d+))");
    std::vector<PlacedFace> out;
    for (std::sregex_iterator it(reference.begin(), reference.end(), form), end; it != end; ++it) {
        auto face = placedFace((*it)[1]);
        if (!face) continue;
        face->step = std::atoi((*it)[2].str().c_str());
        face->from = static_cast<std::size_t>(it->position(1));
        face->length = static_cast<std::size_t>(it->length(1));
        out.push_back(std::move(*face));
    }
    return out;
}

/// The faces that a file holds now.
std::vector<PlacedFace> facesOf(int step, const ModelState& state) {
    std::set<std::string> roles;
    for (const auto& [id, body] : state.bodies) {
        const NamedShape& s = body.value.shape();
        for (int i = 1; i <= s.faces.Extent(); ++i)
            for (const NamePtr name : s.namesOf(s.faces(i)))
                if (name->step == step) roles.insert(name->role);
    }
    std::vector<PlacedFace> out;
    for (const std::string& role : roles)
        if (auto face = placedFace(role)) out.push_back(std::move(*face));
    return out;
}

/// How unlike two faces are, mm; nothing where they are of another sort.
std::optional<double> unlike(const PlacedFace& a, const PlacedFace& b) {
    constexpr double kSizeCounts = 2; // a face that was cut moves by less than it shrinks
    if (a.sort != b.sort) return std::nullopt;
    return length(a.at - b.at) + kSizeCounts * std::fabs(a.size - b.size);
}

struct Guess {
    std::string role;
    double cost = 0;
};

/// Of one face: itself where it is there, else the likeliest.
std::vector<Guess> guessesFor(const PlacedFace& face, const std::vector<PlacedFace>& now) {
    constexpr std::size_t kMost = 4;
    std::vector<Guess> out;
    for (const PlacedFace& f : now) {
        if (f.role == face.role) return {{face.role, 0}};
        if (const auto cost = unlike(face, f)) out.push_back({f.role, *cost});
    }
    std::stable_sort(out.begin(), out.end(), [](const Guess& a, const Guess& b) { return a.cost < b.cost; });
    if (out.size() > kMost) out.resize(kMost);
    return out;
}

bool readsFile(const Step& step) {
    const StepWords* words = findStepWords(step.kind);
    return words && std::any_of(words->slots.begin(), words->slots.end(), [](const SlotWords& s) {
               return traitOf(s.type).holds == SlotTrait::Holds::File;
           });
}

bool meansSomething(const std::string& reference, const ModelState& state) {
    FreeReader reader(state);
    if (parseEdgeRef(reference)) return findEdges({reference}, reader).ok();
    return parseFaceRef(reference).ok() && findFaces({reference}, reader).ok();
}

} // namespace

std::vector<std::string> foundAnew(const std::string& reference, const Part& part, const ModelState& state) {
    constexpr std::size_t kMostAnswers = 3, kMostTried = 256;
    std::vector<Guess> texts{{reference, 0}};
    const auto faces = placedIn(reference);
    bool lost = false;
    for (auto face = faces.rbegin(); face != faces.rend(); ++face) { // from behind: places before it stay
        const Step* step = part.findStep(face->step);
        if (!step || !readsFile(*step)) continue;
        const auto guesses = guessesFor(*face, facesOf(face->step, state));
        if (guesses.empty()) return {};
        lost = lost || guesses.front().role != face->role;
        std::vector<Guess> next;
        for (const Guess& text : texts)
            for (const Guess& g : guesses)
                if (next.size() < kMostTried) {
                    std::string now = text.role;
                    next.push_back({now.replace(face->from, face->length, g.role), text.cost + g.cost});
                }
        texts = std::move(next);
    }
    if (!lost) return {};
    std::stable_sort(texts.begin(), texts.end(),
                     [](const Guess& a, const Guess& b) { return a.cost < b.cost; });
    std::vector<std::string> out;
    for (const Guess& text : texts)
        if (out.size() < kMostAnswers && meansSomething(text.role, state)) out.push_back(text.role);
    return out;
}

} // namespace gc
