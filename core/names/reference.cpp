#include "core/names/reference.hpp"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstdio>

namespace gc {

namespace {

constexpr int kDeepest = 40;

struct Word {
    std::string text;
    int position;
};

std::vector<Word> splitWords(std::string_view text) {
    std::vector<Word> words;
    std::size_t i = 0;
    while (i < text.size()) {
        if (text[i] == ' ') {
            ++i;
            continue;
        }
        const std::size_t start = i;
        if (text[i] == '(' || text[i] == ')')
            ++i;
        else
            while (i < text.size() && text[i] != ' ' && text[i] != '(' && text[i] != ')') ++i;
        words.push_back({std::string(text.substr(start, i - start)), static_cast<int>(start)});
    }
    return words;
}

class Reader {
  public:
    explicit Reader(std::string_view text) : m_words(splitWords(text)), m_text(text) {}

    Result<FaceRefPtr> wholeFace() {
        auto f = face(0);
        if (f)
            if (const auto body = onBody()) {
                auto there = std::make_shared<FaceRef>(**f);
                there->body = body;
                f = FaceRefPtr(there);
            }
        if (f && m_at < m_words.size()) return unexpected();
        return f;
    }

    Result<EdgeRef> wholeEdge() {
        auto e = edge();
        if (e) e->body = onBody();
        if (e && m_at < m_words.size()) return unexpected();
        return e;
    }

    Result<PointRef> wholePoint() {
        auto p = point();
        if (p) p->body = onBody();
        if (p && m_at < m_words.size()) return unexpected();
        return p;
    }

  private:
    bool is(std::string_view w, std::size_t ahead = 0) const {
        return m_at + ahead < m_words.size() && m_words[m_at + ahead].text == w;
    }
    bool take(std::initializer_list<std::string_view> phrase) {
        std::size_t k = 0;
        for (const auto w : phrase)
            if (!is(w, k++)) return false;
        m_at += k;
        return true;
    }
    Error unexpected() const {
        Error e;
        e.code = "reference.syntax";
        e.position = m_at < m_words.size() ? m_words[m_at].position : static_cast<int>(m_text.size());
        e.sentence = m_at < m_words.size() ? "The reference \"" + std::string(m_text) +
                                                 "\" is not understood at \"" + m_words[m_at].text + "\"."
                                           : "The reference \"" + std::string(m_text) + "\" stops too early.";
        return e;
    }
    bool number(int& out) {
        if (m_at >= m_words.size()) return false;
        const std::string& w = m_words[m_at].text;
        const auto r = std::from_chars(w.data(), w.data() + w.size(), out);
        if (r.ec != std::errc() || r.ptr != w.data() + w.size() || out < 0) return false;
        ++m_at;
        return true;
    }

    /// "on body" N ["number" K]; nothing, and nothing taken, where it does not stand there whole.
    std::optional<ThingId> onBody() {
        const std::size_t before = m_at;
        ThingId id;
        int which = 1;
        if (take({"on", "body"}) && number(id.step) && (!take({"number"}) || (number(which) && which > 0))) {
            id.ordinal = which - 1;
            return id;
        }
        m_at = before;
        return std::nullopt;
    }

    bool place(Vec3& out) {
        for (double* v : {&out.x, &out.y, &out.z}) {
            if (m_at >= m_words.size()) return false;
            const std::string& w = m_words[m_at].text;
            const auto r = std::from_chars(w.data(), w.data() + w.size(), *v);
            if (r.ec != std::errc() || r.ptr != w.data() + w.size() || !(std::fabs(*v) <= 1e6)) return false;
            ++m_at;
        }
        return true;
    }
    /// "K of step N", after "stroke" or "point".
    bool drawn(int& item, int& step) { return number(item) && take({"of", "step"}) && number(step); }

    Result<FaceRefPtr> face(int depth) {
        auto base = plainFace(depth);
        while (base && take({"next", "to"})) {
            auto other = plainFace(depth);
            if (!other) return other;
            auto joined = std::make_shared<FaceRef>();
            joined->kind = FaceRef::Kind::NextTo;
            joined->a = *base;
            joined->b = *other;
            base = FaceRefPtr(joined);
        }
        return base;
    }

    Result<FaceRefPtr> derived(FaceRef::Kind kind, int depth) {
        auto inner = plainFace(depth + 1);
        if (!inner) return inner;
        auto f = std::make_shared<FaceRef>();
        f->kind = kind;
        f->a = *inner;
        return FaceRefPtr(f);
    }

    Result<FaceRefPtr> plainFace(int depth) {
        if (depth > kDeepest) return unexpected();
        if (take({"("})) {
            auto inner = face(depth + 1);
            if (inner && !take({")"})) return unexpected();
            return inner;
        }
        if (take({"inside", "of"})) return derived(FaceRef::Kind::Inside, depth);
        if (take({"rim", "of"})) return derived(FaceRef::Kind::Rim, depth);
        if (take({"copy"})) {
            int k = 0;
            if (!number(k) || !take({"of"})) return unexpected();
            auto inner = plainFace(depth + 1);
            if (!inner) return inner;
            auto f = std::make_shared<FaceRef>();
            f->kind = FaceRef::Kind::Copy;
            f->copy = k;
            f->a = *inner;
            return FaceRefPtr(f);
        }
        if (take({"fillet", "between"})) {
            auto first = plainFace(depth + 1);
            if (!first) return first;
            if (!take({"and"})) return unexpected();
            auto second = plainFace(depth + 1);
            if (!second) return second;
            auto f = std::make_shared<FaceRef>();
            f->kind = FaceRef::Kind::FilletBetween;
            f->a = *first;
            f->b = *second;
            return FaceRefPtr(f);
        }
        auto f = std::make_shared<FaceRef>();
        while (m_at < m_words.size() && !(is("of") && is("step", 1))) {
            if (is("(") || is(")") || is("where") || is("meets") || is("and")) return unexpected();
            f->role += (f->role.empty() ? "" : " ") + m_words[m_at++].text;
        }
        if (f->role.empty() || !take({"of", "step"}) || !number(f->step)) return unexpected();
        return FaceRefPtr(f);
    }

    Result<EdgeRef> edge() {
        EdgeRef e;
        auto withFace = [&](EdgeRef::Kind kind) -> Result<EdgeRef> {
            auto f = face(0);
            if (!f) return f.error();
            e.kind = kind;
            e.a = *f;
            return e;
        };
        auto ofStep = [&](EdgeRef::Kind kind) -> Result<EdgeRef> {
            e.kind = kind;
            if (!number(e.step)) return unexpected();
            return e;
        };
        if (take({"stroke"})) {
            e.kind = EdgeRef::Kind::Stroke;
            return drawn(e.item, e.step) ? Result<EdgeRef>(e) : unexpected();
        }
        if (take({"rim", "of"})) return withFace(EdgeRef::Kind::RimOf);
        if (take({"all", "edges", "of"})) return withFace(EdgeRef::Kind::AllEdgesOf);
        if (take({"corners", "of", "step"})) return ofStep(EdgeRef::Kind::Corners);
        if (take({"outside", "corners", "of", "step"})) return ofStep(EdgeRef::Kind::OutsideCorners);
        if (take({"inside", "corners", "of", "step"})) return ofStep(EdgeRef::Kind::InsideCorners);
        if (take({"edges", "between", "step"})) {
            e.kind = EdgeRef::Kind::Between;
            if (!number(e.step) || !take({"and", "step"}) || !number(e.otherStep)) return unexpected();
            return e;
        }
        if (!take({"where"})) return unexpected();
        auto a = face(0);
        if (!a) return a.error();
        if (!take({"meets"})) return unexpected();
        auto b = face(0);
        if (!b) return b.error();
        e.a = *a;
        e.b = *b;
        if (take({"at"})) {
            auto c = face(0);
            if (!c) return c.error();
            e.at = *c;
        }
        return e;
    }

    Result<PointRef> point() {
        PointRef p;
        if (take({"point"})) {
            p.kind = PointRef::Kind::Drawn;
            return drawn(p.item, p.step) ? Result<PointRef>(p) : unexpected();
        }
        if (is("middle") || is("centre")) {
            p.kind = is("middle") ? PointRef::Kind::Middle : PointRef::Kind::Centre;
            ++m_at;
            if (!take({"of"})) return unexpected();
            auto e = edge();
            if (!e) return e.error();
            p.edge = std::make_shared<const EdgeRef>(std::move(*e));
            return p;
        }
        if (take({"spot"})) {
            p.kind = PointRef::Kind::Spot;
            if (!place(p.at) || !take({"on"})) return unexpected();
            auto f = face(0);
            if (!f) return f.error();
            p.a = *f;
            return p;
        }
        if (!take({"corner", "of"})) return unexpected();
        for (FaceRefPtr* side : {&p.a, &p.b, &p.c}) {
            if (side != &p.a && !take({"and"})) return unexpected();
            auto f = plainFace(0);
            if (!f) return f.error();
            *side = *f;
        }
        return p;
    }

    std::vector<Word> m_words;
    std::string_view m_text;
    std::size_t m_at = 0;
};

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
        return p->kind == FaceRef::Kind::NextTo ? "(" + s + ")" : s;
    };
    switch (f.kind) {
    case FaceRef::Kind::Role:
        return role(f);
    case FaceRef::Kind::Inside:
        return "inside of " + inner(f.a);
    case FaceRef::Kind::Rim:
        return "rim of " + inner(f.a);
    case FaceRef::Kind::Copy:
        return "copy " + std::to_string(f.copy) + " of " + inner(f.a);
    case FaceRef::Kind::FilletBetween:
        return "fillet between " + inner(f.a) + " and " + inner(f.b);
    case FaceRef::Kind::NextTo:
        return inner(f.a) + " next to " + inner(f.b);
    }
    return {};
}

template <class Role, class Place>
std::string write(const EdgeRef& e, const Role& role, const Place& place) {
    auto face = [&](const FaceRefPtr& p) { return write(*p, role); };
    switch (e.kind) {
    case EdgeRef::Kind::Stroke:
        return "stroke " + std::to_string(e.item) + " of step " + place(e.step);
    case EdgeRef::Kind::Meets:
        return "where " + face(e.a) + " meets " + face(e.b) + (e.at ? " at " + face(e.at) : "");
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
        return f->kind == FaceRef::Kind::NextTo || f->kind == FaceRef::Kind::FilletBetween ? "(" + s + ")"
                                                                                           : s;
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

std::string plainRole(const FaceRef& f) {
    return f.role + " of step " + std::to_string(f.step);
}

auto spokenRole(const Wording& w) {
    return [&w](const FaceRef& f) {
        std::string role = w.roleWords ? w.roleWords(f.step, f.role) : std::string();
        if (role.empty()) role = f.role;
        if (w.roleIsUnique && w.roleIsUnique(f.role)) return role;
        return role + " of step " + std::to_string(w.placeOf ? w.placeOf(f.step) : f.step);
    };
}

void collect(const FaceRefPtr& f, std::vector<int>& out) {
    if (!f) return;
    if (f->kind == FaceRef::Kind::Role) out.push_back(f->step);
    collect(f->a, out);
    collect(f->b, out);
}

void unique(std::vector<int>& v) {
    std::sort(v.begin(), v.end());
    v.erase(std::unique(v.begin(), v.end()), v.end());
}

} // namespace

Result<FaceRefPtr> parseFaceRef(std::string_view text) {
    return Reader(text).wholeFace();
}
Result<EdgeRef> parseEdgeRef(std::string_view text) {
    return Reader(text).wholeEdge();
}

Result<PointRef> parsePointRef(std::string_view text) {
    return Reader(text).wholePoint();
}

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
    collect(ref.a, out);
    collect(ref.b, out);
    unique(out);
    return out;
}

std::vector<int> stepsIn(const EdgeRef& ref) {
    std::vector<int> out;
    collect(ref.a, out);
    collect(ref.b, out);
    collect(ref.at, out);
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

std::string inWords(const FaceRef& ref, const Wording& wording) {
    return write(ref, spokenRole(wording)) + spokenBody(ref.body, wording);
}
std::string inWords(const EdgeRef& ref, const Wording& wording) {
    if (ref.kind == EdgeRef::Kind::Stroke && wording.drawnWords)
        if (const std::string words = wording.drawnWords(ref.step, ref.item); !words.empty()) return words;
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
