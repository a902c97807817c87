#include "core/names/derived_role.hpp"
#include "core/names/words.hpp"

#include <algorithm>
#include <cstdio>

namespace gc {

namespace {

/// To a hundredth of a millimetre: what a click can mean.
std::string shortNumber(double v) {
    char text[40];
    std::snprintf(text, sizeof text, "%.2f", v == 0 ? 0.0 : v);
    return text;
}

/// The one writer for both the file and the reader's eye; the wording says how a role is put.
template <class Role>
std::string write(const FaceRef& f, const Role& role) {
    auto inner = [&](const FaceRefPtr& p) {
        const std::string s = write(*p, role);
        const bool run = p->kind == FaceRef::Kind::NextTo && f.kind != FaceRef::Kind::NextTo &&
                         f.kind != FaceRef::Kind::Ordered;
        // Of two or three: what comes after it must not be taken for the third.
        const DerivedRole* known = p->kind == FaceRef::Kind::Derived ? findDerivedRole(p->role) : nullptr;
        const bool open = known && known->parents == 3 && (f.b || f.kind == FaceRef::Kind::Ordered);
        return run || open || p->kind == FaceRef::Kind::Ordered ||
                       (p == f.b && p->kind == FaceRef::Kind::NextTo)
                   ? "(" + s + ")"
                   : s;
    };
    switch (f.kind) {
    case FaceRef::Kind::Role:
        return role(f);
    case FaceRef::Kind::Derived: {
        const DerivedRole* known = findDerivedRole(f.role);
        return (known ? known->words : f.role) + " " + inner(f.a) +
               (f.b ? " and " + inner(f.b) : std::string()) + (f.c ? " and " + inner(f.c) : std::string());
    }
    case FaceRef::Kind::Copy:
        return "copy at " + f.role + " of " + inner(f.a);
    case FaceRef::Kind::NextTo:
        return inner(f.a) + " next to " + inner(f.b);
    case FaceRef::Kind::Ordered:
        return inner(f.a) + role(f.order);
    }
    return {};
}

template <class Role, class Place>
std::string write(const EdgeRef& e, const Role& role, const Place& place) {
    auto face = [&](const FaceRefPtr& p) {
        const std::string s = write(*p, role);
        return p->kind == FaceRef::Kind::Ordered ? "(" + s + ")" : s;
    };
    switch (e.kind) {
    case EdgeRef::Kind::Stroke:
        return "stroke " + std::to_string(e.item) + " of step " + place(e.step);
    case EdgeRef::Kind::Curve:
        return "curve of step " + place(e.step);
    case EdgeRef::Kind::Chain:
        return "chain of stroke " + std::to_string(e.item) + " of step " + place(e.step);
    case EdgeRef::Kind::Meets:
        return "where " + face(e.a) + " meets " + face(e.b) + (e.at ? " at " + face(e.at) : "") +
               (e.order ? role(*e.order) : "");
    case EdgeRef::Kind::RimOf:
        return "rim of " + face(e.a);
    case EdgeRef::Kind::AllEdgesOf:
        return "all edges of " + face(e.a);
    case EdgeRef::Kind::Between:
        return "edges between step " + place(e.step) + " and step " + place(e.otherStep);
    case EdgeRef::Kind::Corners:
        return "corners of step " + place(e.step);
    case EdgeRef::Kind::OutsideCorners:
        return "outside corners of step " + place(e.step);
    case EdgeRef::Kind::InsideCorners:
        return "inside corners of step " + place(e.step);
    }
    return {};
}

template <class Role, class Edge>
std::string write(const PointRef& p, const Role& role, const Edge& edge) {
    auto face = [&](const FaceRefPtr& f) {
        const std::string s = write(*f, role);
        const bool run = f->kind == FaceRef::Kind::NextTo || f->kind == FaceRef::Kind::Ordered || f->b;
        return run ? "(" + s + ")" : s;
    };
    switch (p.kind) {
    case PointRef::Kind::Corner:
        return "corner of " + face(p.a) + " and " + face(p.b) + " and " + face(p.c);
    case PointRef::Kind::Middle:
        return "middle of " + edge(*p.edge);
    case PointRef::Kind::Centre:
        return "centre of " + edge(*p.edge);
    case PointRef::Kind::Spot:
        return "spot " + shortNumber(p.at.x) + " " + shortNumber(p.at.y) + " " + shortNumber(p.at.z) +
               " on " + write(*p.a, role);
    case PointRef::Kind::Drawn:
        return "point " + std::to_string(p.item) + " of step " + std::to_string(p.step);
    }
    return {};
}

std::string bodySuffix(const std::optional<ThingId>& body) {
    if (!body) return {};
    return " on body " + std::to_string(body->step) +
           (body->ordinal > 0 ? " number " + std::to_string(body->ordinal + 1) : std::string());
}

std::string spokenBody(const std::optional<ThingId>& body, const Wording& w) {
    return body && w.bodyWords ? " of " + w.bodyWords(*body) : std::string();
}

/// As the file has it.
struct PlainRole {
    std::string operator()(const FaceRef& f) const { return f.role + " of step " + std::to_string(f.step); }
    std::string operator()(const Order& o) const {
        return " number " + std::to_string(o.number) + " of " + std::to_string(o.count) + " " +
               wordOf(o.along) + " step " + std::to_string(o.step);
    }
};
constexpr PlainRole plainRole;

/// As a person reads it.
struct SpokenRole {
    const Wording& w;
    int place(int step) const { return w.placeOf ? w.placeOf(step) : step; }
    std::string operator()(const FaceRef& f) const {
        if (f.role == kEverything) return "everything that step " + std::to_string(place(f.step)) + " made";
        std::string role = w.roleWords ? w.roleWords(f.step, f.role) : std::string();
        if (role.empty()) role = f.role;
        if (w.roleIsUnique && w.roleIsUnique(f.role)) return role;
        return role + " of step " + std::to_string(place(f.step));
    }
    std::string operator()(const Order& o) const {
        return " (" + ordinal(o.number) + " of " + std::to_string(o.count) + " " + wordOf(o.along) +
               " step " + std::to_string(place(o.step)) + ")";
    }
    static std::string ordinal(int n) {
        const int tens = n % 100;
        const char* end = tens >= 11 && tens <= 13 ? "th"
                          : n % 10 == 1            ? "st"
                          : n % 10 == 2            ? "nd"
                          : n % 10 == 3            ? "rd"
                                                   : "th";
        return std::to_string(n) + end;
    }
};
SpokenRole spokenRole(const Wording& w) {
    return {w};
}

void collect(const FaceRefPtr& f, std::vector<int>& out) {
    if (!f) return;
    if (f->kind == FaceRef::Kind::Role) out.push_back(f->step);
    if (f->kind == FaceRef::Kind::Ordered) out.push_back(f->order.step);
    collect(f->a, out);
    collect(f->b, out);
    collect(f->c, out);
}

void unique(std::vector<int>& v) {
    std::sort(v.begin(), v.end());
    v.erase(std::unique(v.begin(), v.end()), v.end());
}

} // namespace

std::string toText(const FaceRef& ref) {
    return write(ref, plainRole) + bodySuffix(ref.body);
}
std::string toText(const EdgeRef& ref) {
    return write(ref, plainRole, [](int s) { return std::to_string(s); }) + bodySuffix(ref.body);
}

std::string toText(const PointRef& ref) {
    return write(ref, plainRole, [](const EdgeRef& e) { return toText(e); }) + bodySuffix(ref.body);
}

std::string onBody(const std::string& reference, ThingId body) {
    return reference + bodySuffix(body);
}

std::vector<int> stepsIn(const FaceRef& ref) {
    std::vector<int> out;
    if (ref.kind == FaceRef::Kind::Role) out.push_back(ref.step);
    if (ref.kind == FaceRef::Kind::Ordered) out.push_back(ref.order.step);
    for (const FaceRefPtr& f : {ref.a, ref.b, ref.c}) collect(f, out);
    unique(out);
    return out;
}

std::vector<int> stepsIn(const EdgeRef& ref) {
    std::vector<int> out;
    collect(ref.a, out);
    collect(ref.b, out);
    collect(ref.at, out);
    if (ref.order) out.push_back(ref.order->step);
    if (ref.step > 0) out.push_back(ref.step);
    if (ref.otherStep > 0) out.push_back(ref.otherStep);
    unique(out);
    return out;
}

std::vector<int> stepsIn(const PointRef& ref) {
    std::vector<int> out;
    if (ref.edge) out = stepsIn(*ref.edge);
    for (const FaceRefPtr& f : {ref.a, ref.b, ref.c}) collect(f, out);
    if (ref.step > 0) out.push_back(ref.step);
    unique(out);
    return out;
}

std::vector<int> stepsIn(const std::string& reference) {
    if (const auto p = parsePointRef(reference)) return stepsIn(*p);
    if (const auto e = parseEdgeRef(reference)) return stepsIn(bare(*e));
    if (const auto f = parseFaceRef(reference)) return stepsIn(*bare(*f));
    return {};
}

std::string marked(const std::string& reference) {
    return "⟦" + reference + "⟧";
}

std::string markedStep(int step) {
    return "⟦step " + std::to_string(step) + "⟧";
}

FaceRef derivedFrom(const std::string& role, FaceRefPtr parent) {
    FaceRef ref;
    ref.kind = FaceRef::Kind::Derived;
    ref.role = role;
    ref.a = std::move(parent);
    return ref;
}

FaceRefPtr bare(const FaceRefPtr& ref) {
    if (!ref) return ref;
    if (ref->kind == FaceRef::Kind::NextTo || ref->kind == FaceRef::Kind::Ordered) return bare(ref->a);
    auto out = std::make_shared<FaceRef>(*ref);
    out->a = bare(ref->a);
    out->b = bare(ref->b);
    out->c = bare(ref->c);
    return out;
}

EdgeRef bare(const EdgeRef& ref) {
    EdgeRef out = ref;
    out.a = bare(ref.a);
    out.b = bare(ref.b);
    out.at = nullptr;
    out.order.reset();
    return out;
}

std::string inWords(const FaceRef& ref, const Wording& wording) {
    return write(ref, spokenRole(wording)) + spokenBody(ref.body, wording);
}
std::string inWords(const EdgeRef& ref, const Wording& wording) {
    if (ref.kind == EdgeRef::Kind::Stroke && wording.drawnWords)
        if (const std::string words = wording.drawnWords(ref.step, ref.item); !words.empty()) return words;
    if (ref.kind == EdgeRef::Kind::Curve && wording.curveWords)
        if (const std::string words = wording.curveWords(ref.step); !words.empty()) return words;
    if (ref.kind == EdgeRef::Kind::Chain && wording.chainWords)
        if (const std::string words = wording.chainWords(ref.step, ref.item); !words.empty()) return words;
    return write(ref, spokenRole(wording),
                 [&](int s) { return std::to_string(wording.placeOf ? wording.placeOf(s) : s); }) +
           spokenBody(ref.body, wording);
}

std::string inWords(const PointRef& ref, const Wording& wording) {
    if (ref.kind == PointRef::Kind::Drawn && wording.drawnWords)
        if (const std::string words = wording.drawnWords(ref.step, ref.item); !words.empty()) return words;
    if (ref.kind == PointRef::Kind::Spot)
        return "a spot on " + inWords(*ref.a, wording) + spokenBody(ref.body, wording);
    return write(ref, spokenRole(wording),
                 [&](const EdgeRef& e) {
                     const std::string words = inWords(e, wording);
                     return words.starts_with("where ") ? "the edge " + words : words;
                 }) +
           spokenBody(ref.body, wording);
}

} // namespace gc
