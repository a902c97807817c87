// Reading references.

#include "core/names/derived_role.hpp"
#include "core/names/reference.hpp"
#include "core/names/words.hpp"

#include <charconv>
#include <cmath>

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
    /// The words of a phrase, one after the other; nothing taken where not all of them stand there.
    bool takeWords(const std::string& phrase) {
        std::size_t k = 0;
        for (const Word& w : splitWords(phrase))
            if (!is(w.text, k++)) return false;
        m_at += k;
        return true;
    }
    Error unexpected() const {
        Error e;
        e.code = "reference.syntax";
        e.position = m_at < m_words.size() ? m_words[m_at].position : static_cast<int>(m_text.size());
        const std::string whole(m_text);
        e.sentence = m_at < m_words.size() ? phrase("The reference \"%1\" is not understood at \"%2\".",
                                                    whole, m_words[m_at].text)
                                           : phrase("The reference \"%1\" stops too early.", whole);
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

    /// "number" K "of" M along "step" N; nothing, and nothing taken, where it does not stand there whole.
    std::optional<Order> order() {
        const std::size_t before = m_at;
        Order o;
        if (take({"number"}) && number(o.number) && take({"of"}) && number(o.count) && o.number > 0 &&
            o.number <= o.count)
            for (const auto& [word, along] : kAlong)
                if (take({word, "step"}) && number(o.step)) {
                    o.along = along;
                    return o;
                }
        m_at = before;
        return std::nullopt;
    }

    /// Of an edge the order belongs to the edge, of a face that stands alone to the face.
    enum class Within { Face, Edge };

    Result<FaceRefPtr> face(int depth, Within within = Within::Face) {
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
        if (!base || within == Within::Edge) return base;
        if (const auto o = order()) {
            auto one = std::make_shared<FaceRef>();
            one->kind = FaceRef::Kind::Ordered;
            one->a = *base;
            one->order = *o;
            return FaceRefPtr(one);
        }
        return base;
    }

    Result<FaceRefPtr> derived(const DerivedRole& role, int depth) {
        auto f = std::make_shared<FaceRef>();
        f->kind = FaceRef::Kind::Derived;
        f->role = role.role;
        auto first = plainFace(depth + 1);
        if (!first) return first;
        f->a = *first;
        for (FaceRefPtr* other : {&f->b, &f->c}) {
            if (role.parents < (other == &f->b ? 2 : 3)) break;
            if (!take({"and"})) {
                if (role.parents == 2) return unexpected();
                break;
            }
            auto next = plainFace(depth + 1);
            if (!next) return next;
            *other = *next;
        }
        return FaceRefPtr(f);
    }

    Result<FaceRefPtr> plainFace(int depth) {
        if (depth > kDeepest) return unexpected();
        if (take({"("})) {
            auto inner = face(depth + 1);
            if (inner && !take({")"})) return unexpected();
            return inner;
        }
        for (const DerivedRole& role : derivedRoles())
            if (takeWords(role.words)) return derived(role, depth);
        if (take({"copy"})) {
            // Files of before places say "copy 3 of": there is no such copy now, and a person is asked.
            take({"at"});
            std::string place;
            while (m_at < m_words.size() && !is("of"))
                place += (place.empty() ? "" : " ") + m_words[m_at++].text;
            if (place.empty() || !take({"of"})) return unexpected();
            auto copied = plainFace(depth + 1);
            if (!copied) return copied;
            auto f = std::make_shared<FaceRef>();
            f->kind = FaceRef::Kind::Copy;
            f->role = place;
            f->a = *copied;
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
        if (take({"curve", "of", "step"})) return ofStep(EdgeRef::Kind::Curve);
        const bool chain = take({"chain", "of"});
        if (chain && !is("stroke")) return unexpected();
        if (take({"stroke"})) {
            e.kind = chain ? EdgeRef::Kind::Chain : EdgeRef::Kind::Stroke;
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
        auto a = face(0, Within::Edge);
        if (!a) return a.error();
        if (!take({"meets"})) return unexpected();
        auto b = face(0, Within::Edge);
        if (!b) return b.error();
        e.a = *a;
        e.b = *b;
        if (take({"at"})) {
            auto c = face(0, Within::Edge);
            if (!c) return c.error();
            e.at = *c;
        }
        e.order = order();
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

} // namespace gc
