#include "core/shape/face_name.hpp"

#include "core/base/tolerance.hpp"
#include "core/names/derived_role.hpp"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstdio>
#include <memory>
#include <mutex>
#include <set>
#include <unordered_map>

namespace gc {

NamePtr internName(int step, const std::string& role, std::vector<NamePtr> parents) {
    static std::mutex mutex;
    static std::unordered_map<std::string, std::unique_ptr<FaceName>> table;
    std::sort(parents.begin(), parents.end(), [](NamePtr a, NamePtr b) { return a->text < b->text; });
    parents.erase(std::unique(parents.begin(), parents.end()), parents.end());
    std::string text = std::to_string(step) + ":" + role;
    if (!parents.empty()) {
        text += '(';
        for (const NamePtr p : parents) text += p->text + "|";
        text.back() = ')';
    }
    const std::lock_guard lock(mutex);
    auto& entry = table[text];
    if (entry) return entry.get();
    std::set<int> steps{step};
    for (const NamePtr p : parents) steps.insert(p->steps.begin(), p->steps.end());
    entry = std::make_unique<FaceName>(
        FaceName{step, role, std::move(parents), text, {steps.begin(), steps.end()}});
    return entry.get();
}

namespace {

constexpr const char* kCopyAt = "copy at ";

/// The words and the figures of a role, apart.
struct RoleParts {
    std::string words;
    std::vector<double> figures;
};

/// Takes the next word off a text.
std::string_view nextWord(std::string_view& text) {
    const std::size_t start = std::min(text.find_first_not_of(' '), text.size());
    text.remove_prefix(start);
    const std::string_view word = text.substr(0, text.find(' '));
    text.remove_prefix(word.size());
    return word;
}

std::optional<double> figure(std::string_view word) {
    double v = 0;
    const auto r = std::from_chars(word.data(), word.data() + word.size(), v);
    return r.ec == std::errc() && r.ptr == word.data() + word.size() ? std::optional(v) : std::nullopt;
}

RoleParts partsOf(const std::string& role) {
    RoleParts out;
    for (std::string_view rest = role; !rest.empty();) {
        const std::string_view word = nextWord(rest);
        if (const auto v = figure(word))
            out.figures.push_back(*v);
        else
            out.words += std::string(word) + " ";
    }
    return out;
}

/// "60°" has a figure, too.
RoleParts placeParts(std::string place) {
    if (const auto degree = place.find("°"); degree != std::string::npos) place.erase(degree);
    return partsOf(place);
}

/// Word by word, and done at the first that differs: every face of an imported body is asked for every
/// reference to one of them.
bool sameRole(const std::string& a, const std::string& b) {
    if (a == b) return true;
    if (a.find(" at ") == std::string::npos || b.find(" at ") == std::string::npos) return false;
    std::string_view restA = a, restB = b;
    while (!restA.empty() && !restB.empty()) {
        const std::string_view p = nextWord(restA), q = nextWord(restB);
        if (p == q) continue;
        const auto x = figure(p), y = figure(q);
        if (!x || !y || std::fabs(*x - *y) > kWrittenPlace) return false;
    }
    return restA.empty() && restB.empty();
}

} // namespace

std::string roleAtPlace(const std::string& what, double size, const Vec3& at) {
    char figures[120];
    const auto shown = [](double v) { return std::fabs(v) < 0.005 ? 0.0 : v; };
    std::snprintf(figures, sizeof figures, " %.2f at %.2f %.2f %.2f", size, shown(at.x), shown(at.y),
                  shown(at.z));
    return what + figures;
}

namespace {

/// A parent of its own for each.
bool eachFitsOne(std::vector<FaceRefPtr> patterns, const std::vector<NamePtr>& parents) {
    if (patterns.empty()) return true;
    const FaceRefPtr last = patterns.back();
    patterns.pop_back();
    for (std::size_t i = 0; i < parents.size(); ++i) {
        if (!fits(*last, *parents[i])) continue;
        std::vector<NamePtr> others = parents;
        others.erase(others.begin() + static_cast<std::ptrdiff_t>(i));
        if (eachFitsOne(patterns, others)) return true;
    }
    return false;
}

} // namespace

bool fits(const FaceRef& pattern, const FaceName& name) {
    const auto& p = name.parents;
    switch (pattern.kind) {
    case FaceRef::Kind::Role:
        return name.step == pattern.step &&
               (pattern.role == kEverything || (p.empty() && sameRole(name.role, pattern.role)));
    case FaceRef::Kind::Copy:
        return p.size() == 1 && name.role == kCopyAt + pattern.role && fits(*pattern.a, *p[0]);
    case FaceRef::Kind::Derived: {
        if (name.role != pattern.role || p.empty()) return false;
        if (pattern.c) return eachFitsOne({pattern.a, pattern.b, pattern.c}, p);
        if (p.size() > (pattern.b ? 2U : 1U)) return false;
        if (!pattern.b) return fits(*pattern.a, *p[0]);
        const FaceName &first = *p.front(), &second = *p.back();
        return (fits(*pattern.a, first) && fits(*pattern.b, second)) ||
               (fits(*pattern.b, first) && fits(*pattern.a, second));
    }
    case FaceRef::Kind::NextTo:
    case FaceRef::Kind::Ordered:
        return fits(*pattern.a, name);
    }
    return false;
}

std::optional<double> distanceOfPlaces(const FaceRef& pattern, const FaceName& name) {
    const auto apart = [](const RoleParts& a, const RoleParts& b) {
        double sum = 0;
        for (std::size_t i = 0; i < std::min(a.figures.size(), b.figures.size()); ++i)
            sum += std::fabs(a.figures[i] - b.figures[i]);
        return sum;
    };
    const auto& p = name.parents;
    switch (pattern.kind) {
    case FaceRef::Kind::Role: {
        if (!p.empty() || name.step != pattern.step || name.role.find(" at ") == std::string::npos)
            return std::nullopt;
        const RoleParts a = partsOf(pattern.role), b = partsOf(name.role);
        return a.words == b.words ? std::optional(apart(a, b)) : std::nullopt;
    }
    case FaceRef::Kind::Copy:
        if (p.size() != 1 || !name.role.starts_with(kCopyAt) || !fits(*pattern.a, *p[0])) return std::nullopt;
        return apart(placeParts(pattern.role),
                     placeParts(name.role.substr(std::string_view(kCopyAt).size())));
    case FaceRef::Kind::Derived:
        return !pattern.b && name.role == pattern.role && p.size() == 1 ? distanceOfPlaces(*pattern.a, *p[0])
                                                                        : std::nullopt;
    default:
        return std::nullopt;
    }
}

namespace {

/// By three of them, the same ones on every machine.
FaceRefPtr toldByParents(std::shared_ptr<FaceRef> ref, const std::vector<NamePtr>& parents) {
    std::vector<std::pair<std::string, FaceRefPtr>> told;
    for (const NamePtr n : parents) {
        const FaceRefPtr one = referenceTo(*n);
        if (!one) return nullptr;
        told.emplace_back(toText(*one), one);
    }
    std::sort(told.begin(), told.end(), [](const auto& p, const auto& q) { return p.first < q.first; });
    ref->a = told[0].second;
    if (told.size() > 1) ref->b = told[1].second;
    if (told.size() > 2) ref->c = told[2].second;
    return ref;
}

} // namespace

FaceRefPtr referenceTo(const FaceName& name) {
    auto ref = std::make_shared<FaceRef>();
    const auto& p = name.parents;
    if (p.empty()) {
        ref->role = name.role;
        ref->step = name.step;
        return ref;
    }
    ref->a = referenceTo(*p.front());
    if (!ref->a) return nullptr;
    if (name.role.starts_with(kCopyAt)) {
        ref->kind = FaceRef::Kind::Copy;
        ref->role = name.role.substr(std::string_view(kCopyAt).size());
        return ref;
    }
    const DerivedRole* derived = findDerivedRole(name.role);
    if (!derived || (derived->parents < 3 && p.size() > static_cast<std::size_t>(derived->parents)))
        return nullptr;
    ref->kind = FaceRef::Kind::Derived;
    ref->role = name.role;
    if (derived->parents == 3) return toldByParents(std::move(ref), p);
    if (derived->parents == 2) {
        ref->b = referenceTo(*p.back());
        if (!ref->b) return nullptr;
    }
    return ref;
}

} // namespace gc
