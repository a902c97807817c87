#include "core/sketch/edit/repeat.hpp"

#include "core/base/tolerance.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/edit/copies.hpp"
#include "core/sketch/measured.hpp"
#include "core/sketch/repeats.hpp"

#include <algorithm>
#include <cmath>
#include <memory>
#include <numbers>
#include <set>

namespace gc {

namespace {

using K = RelationKind;

constexpr int kMostCopies = 400;

std::string tooMany() {
    return "More than " + std::to_string(kMostCopies) +
           " copies in one drawing would make it slow. Ask for fewer.";
}

/// One way of repeating: where copies go, and what ties them.
class Way {
  public:
    Way(Drawing& d, Repeat& r, const RepeatWish& wish) : m_d(d), m_r(r), m_wish(wish) {}
    virtual ~Way() = default;
    Way(const Way&) = delete;
    Way& operator=(const Way&) = delete;

    virtual std::string whyNot() const { return {}; }
    /// Can places be counted by this point?
    virtual bool canLead(Vec2) const { return true; }
    /// Where a copy goes, from where the first is.
    virtual Placing place(int across, int up) const = 0;
    /// Where a copy that is there goes, from where it is.
    virtual Placing onwards(const Repeat::Copy& copy) const = 0;
    virtual void tie(const Repeat::Copy& copy, const std::map<int, int>& copyOf) = 0;
    /// Says how far apart, when all copies are there.
    virtual void saySizes() = 0;

  protected:
    Drawing& m_d;
    Repeat& m_r;
    const RepeatWish& m_wish;

    /// Ties a copy to the originals, point by point, in a way that `tie` says; radii are equal. Ends of
    /// followers are joined as those of their originals are.
    template <class Tie>
    void tieEach(const std::map<int, int>& copyOf, const Tie& tie) {
        const Drawing before = m_d;
        std::set<int> followerEnds;
        for (const Stroke* s : strokesAmong(before, m_r.of))
            if (s->kind == StrokeKind::Beside) followerEnds.insert(s->points.begin(), s->points.end());
        for (const Relation& r : before.relations)
            if ((r.kind == K::Coincident || r.kind == K::OnStroke) && copyOf.count(r.of[0]) &&
                copyOf.count(r.of[1]) && (followerEnds.count(r.of[0]) || followerEnds.count(r.of[1])))
                m_d.relate(r.kind, {copyOf.at(r.of[0]), copyOf.at(r.of[1])});
        for (const Stroke* s : strokesAmong(before, m_r.of)) {
            for (const std::size_t i : leadingPoints(*s)) tie(s->points[i], copyOf.at(s->points[i]));
            const bool sized = s->kind == StrokeKind::Circle || s->kind == StrokeKind::Ellipse ||
                               s->kind == StrokeKind::Conic ||
                               (s->kind == StrokeKind::Beside && s->sizes[0] > 0);
            if (sized) m_d.relate(K::Equal, {s->id, copyOf.at(s->id)});
            if (s->kind == StrokeKind::Arc) tie(s->points[1], copyOf.at(s->points[1]));
        }
    }
    std::set<int> pointsOf(const std::vector<int>& strokes) const {
        std::set<int> out;
        for (const Stroke* s : strokesAmong(m_d, strokes)) out.insert(s->points.begin(), s->points.end());
        return out;
    }
    /// The relations of a kind that tie a copy to the originals.
    std::vector<Relation*> tiesOf(K kind, const Repeat::Copy& c, const std::set<int>& originals) {
        std::set<int> own = pointsOf(c.strokes);
        own.insert(c.lead);
        std::vector<Relation*> out;
        for (Relation& r : m_d.relations)
            if (r.kind == kind && r.of.size() == 3 && r.of[2] == m_r.about && originals.count(r.of[0]) &&
                own.count(r.of[1]))
                out.push_back(&r);
        return out;
    }
};

class InRows : public Way {
  public:
    InRows(Drawing& d, Repeat& r, const RepeatWish& wish) : Way(d, r, wish) {
        m_across = {wish.across, 0}, m_up = {0, wish.up};
        // Rows that were let lean lean on.
        if (const int p = leadAt(1, 0)) m_across.y = (m_d.at(p) - m_d.at(m_r.lead)).y;
        if (const int p = leadAt(0, 1)) m_up.x = (m_d.at(p) - m_d.at(m_r.lead)).x;
    }

    Placing place(int across, int up) const override { return Placing::move(m_across * across + m_up * up); }

    Placing onwards(const Repeat::Copy& c) const override {
        if (!c.lead) return {};
        return Placing::move(m_across * c.across + m_up * c.up - (m_d.at(c.lead) - m_d.at(m_r.lead)));
    }

    void tie(const Repeat::Copy& c, const std::map<int, int>& copyOf) override {
        if (c.across + c.up == 1) {
            m_d.relate(c.across ? K::Horizontal : K::Vertical, {m_r.lead, c.lead});
        } else {
            const int i = c.across > 0 ? 1 : 0, j = 1 - i;
            const int step = leadAt(i, j), from = leadAt(c.across - i, c.up - j);
            if (step && from) m_d.relate(K::SameStep, {m_r.lead, step, from, c.lead});
        }
        tieEach(copyOf, [&](int p, int q) {
            if (p != m_r.lead) m_d.relate(K::SameStep, {m_r.lead, c.lead, p, q});
        });
    }

    void saySizes() override {
        say(m_r.firstPitch, K::Across, leadAt(1, 0), m_wish.acrossExpression);
        say(m_r.upPitch, K::Along, leadAt(0, 1), m_wish.upExpression);
    }

  private:
    Vec2 m_across, m_up;

    int leadAt(int across, int up) const {
        if (across == 0 && up == 0) return m_r.lead;
        for (const Repeat::Copy& c : m_r.copies)
            if (c.across == across && c.up == up) return c.lead;
        return 0;
    }
    void say(int& relation, K kind, int to, const std::string& expression) {
        Relation* r = m_d.findRelation(relation);
        if (!to) {
            relation = 0;
        } else if (r) {
            r->expression = expression;
            freezeSense(m_d, *r);
        } else {
            relation = m_d.relate(kind, {m_r.lead, to}, expression);
        }
    }
};

class AroundPoint : public Way {
  public:
    AroundPoint(Drawing& d, Repeat& r, const RepeatWish& wish)
        : Way(d, r, wish), m_sound(isPoint(d, r.about)), m_centre(m_sound ? d.at(r.about) : Vec2{}) {}

    std::string whyNot() const override {
        if (!m_sound) return "Choose the point to turn about last; the origin will do.";
        if (std::fabs(m_wish.across) * m_wish.columns > 2 * std::numbers::pi * (1 + 1e-9))
            return "So many steps of this angle go round more than once. Ask for fewer, or a smaller angle.";
        return {};
    }
    bool canLead(Vec2 p) const override { return length(p - m_centre) >= kSamePoint; }

    Placing place(int across, int) const override {
        return Placing::turnAbout(m_centre, across * m_wish.across);
    }

    Placing onwards(const Repeat::Copy& c) const override {
        if (!c.lead || !canLead(m_d.at(m_r.lead))) return {};
        const Vec2 from = m_d.at(m_r.lead) - m_centre, now = m_d.at(c.lead) - m_centre;
        return Placing::turnAbout(m_centre,
                                  c.across * m_wish.across - std::atan2(cross(from, now), dot(from, now)));
    }

    void tie(const Repeat::Copy&, const std::map<int, int>& copyOf) override {
        tieEach(copyOf, [&](int p, int q) {
            if (p == m_r.about) return;
            if (!canLead(m_d.at(p))) // what lies on the centre stays there
                m_d.relate(K::Coincident, {m_r.about, q});
            else
                m_d.relate(K::Turned, {p, q, m_r.about});
        });
    }

    /// Each turns by so many steps of the first: any of them can be removed and the others stay.
    void saySizes() override {
        Relation* first = m_d.findRelation(m_r.firstPitch);
        const std::set<int> originals = pointsOf(m_r.of);
        for (const Repeat::Copy& c : m_r.copies) {
            if (first || c.across != 1) continue;
            const auto ties = tiesOf(K::Turned, c, originals);
            if (!ties.empty()) first = ties.front();
        }
        m_r.firstPitch = first ? first->id : 0;
        std::string step = "(" + m_wish.acrossExpression + ")";
        if (first) {
            first->expression = m_wish.acrossExpression;
            first->quiet = false;
            if (first->name.empty()) first->name = freeName(m_d, "turn");
            step = first->name;
        }
        for (const Repeat::Copy& c : m_r.copies)
            for (Relation* r : tiesOf(K::Turned, c, originals)) {
                r->sense = m_wish.across < 0 ? -1 : 1; // by more than half a turn it is not as it looks
                if (r == first) continue;
                r->expression = c.across == 1 ? step : std::to_string(c.across) + " * " + step;
                r->quiet = true;
            }
    }

  private:
    bool m_sound;
    Vec2 m_centre;
};

class AlongStroke : public Way {
  public:
    AlongStroke(Drawing& d, Repeat& r, const RepeatWish& wish)
        : Way(d, r, wish), m_rail(d.findStroke(r.about)), m_run(runOf(d, m_rail)),
          m_whole(m_rail ? m_run.length() : 0) {}

    std::string whyNot() const override {
        if (!m_rail) return "Choose the line or curve to repeat along last.";
        if (m_run.empty()) return "Choose a line or curve to repeat along; a point has no length.";
        return {};
    }

    /// The first stays where it is; the others lie to the curve's later places as it does to the nearest end.
    void chooseEnd() {
        const Vec2 lead = m_d.at(m_r.lead);
        m_r.backwards = !m_run.closed() && length(lead - m_run.at(m_run.end())) < length(lead - m_run.at(0));
    }

    Placing place(int across, int) const override { return placeOf(across, m_wish.columns, m_wish.turning); }

    Placing onwards(const Repeat::Copy& c) const override {
        return place(c.across, 0).after(placeOf(c.across, m_r.columns, m_r.turning).undone());
    }

    void tie(const Repeat::Copy&, const std::map<int, int>& copyOf) override {
        tieEach(copyOf, [&](int p, int q) { m_d.relate(K::Carried, {p, q, m_r.about}); });
    }

    void saySizes() override {
        const std::set<int> originals = pointsOf(m_r.of);
        for (const Repeat::Copy& c : m_r.copies)
            for (Relation* r : tiesOf(K::Carried, c, originals)) {
                r->where = {{share(0, m_wish.columns), share(c.across, m_wish.columns)}};
                r->turned = m_wish.turning;
            }
    }

  private:
    static StrokeRun runOf(const Drawing& d, const Stroke* s) {
        Stroke none;
        none.kind = StrokeKind::Point; // which runs nowhere
        return StrokeRun(d, s ? *s : none);
    }

    const Stroke* m_rail;
    StrokeRun m_run;
    double m_whole; ///< mm

    double share(int k, int count) const {
        const double way = static_cast<double>(k) / (m_run.closed() ? count : count - 1);
        return m_r.backwards ? 1 - way : way;
    }
    Placing placeOf(int k, int count, bool turning) const {
        const double u = m_run.atLength(m_whole * share(0, count)),
                     v = m_run.atLength(m_whole * share(k, count));
        Placing p =
            turning ? Placing::turnAbout(m_run.at(u), turnBetween(unit(m_run.slope(u)), unit(m_run.slope(v))))
                    : Placing{};
        p.shift = p.shift + (m_run.at(v) - m_run.at(u));
        return p;
    }
};

/// Repeats, or repeats anew.
class Repeater {
  public:
    Repeater(Drawing& d, Repeat r, const RepeatWish& wish) : m_d(d), m_r(std::move(r)), m_wish(wish) {}

    EditOutcome run(bool isNew) {
        if (m_wish.columns < 1 || m_wish.rows < 1 || m_wish.columns * m_wish.rows < 2)
            return refused("Ask for at least two.");
        if (m_wish.columns * m_wish.rows > kMostCopies) return refused(tooMany());
        const auto way = wayOf();
        if (const std::string why = way->whyNot(); !why.empty()) return refused(why);
        if (isNew) {
            m_r.lead = leadFor(*way);
            if (auto* along = dynamic_cast<AlongStroke*>(way.get())) along->chooseEnd();
        }
        dropBeyond();
        const auto again = wayOf(); // what is left may be placed otherwise
        EditOutcome out;
        for (int j = 0; j < m_wish.rows; ++j)
            for (int i = 0; i < m_wish.columns; ++i)
                if (i + j > 0) put(*again, i, j, out);
        again->saySizes();
        m_r.columns = m_wish.columns, m_r.rows = m_wish.rows;
        m_r.turning = m_wish.turning;
        if (isNew) m_r.id = m_d.nextId++;
        m_d.repeats.push_back(m_r);
        return out;
    }

  private:
    Drawing& m_d;
    Repeat m_r;
    const RepeatWish& m_wish;

    std::unique_ptr<Way> wayOf() {
        if (m_r.kind == Repeat::Kind::Rows) return std::make_unique<InRows>(m_d, m_r, m_wish);
        if (m_r.kind == Repeat::Kind::Around) return std::make_unique<AroundPoint>(m_d, m_r, m_wish);
        return std::make_unique<AlongStroke>(m_d, m_r, m_wish);
    }

    /// Of what was chosen rather than of what that follows.
    int leadFor(const Way& way) const {
        std::vector<int> order(m_r.of.begin() + m_r.helpers, m_r.of.end());
        order.insert(order.end(), m_r.of.begin(), m_r.of.begin() + m_r.helpers);
        for (const bool any : {false, true})
            for (const Stroke* s : strokesAmong(m_d, order))
                for (const std::size_t i : leadingPoints(*s))
                    if (any || way.canLead(m_d.at(s->points[i]))) return s->points[i];
        return m_d.findStroke(order.front())->points.front();
    }

    void dropBeyond() {
        std::vector<int> gone;
        std::erase_if(m_r.copies, [&](const Repeat::Copy& c) {
            if (c.across < m_wish.columns && c.up < m_wish.rows) return false;
            for (const int s : c.strokes)
                if (s) gone.push_back(s);
            if (c.keeper) gone.push_back(c.keeper);
            return true;
        });
        m_d.erase(gone);
    }

    void put(Way& way, int across, int up, EditOutcome& out) {
        for (const Repeat::Copy& c : m_r.copies)
            if (c.across == across && c.up == up) return moveCopy(c, way.onwards(c));
        const std::vector<int> chosen(m_r.of.begin() + m_r.helpers, m_r.of.end());
        const auto copyOf = copyChosen(m_d, chosen, m_r.of, way.place(across, up), out);
        Repeat::Copy made;
        made.across = across, made.up = up;
        for (const int s : m_r.of) made.strokes.push_back(copyOf.at(s));
        made.lead = copyOf.at(m_r.lead);
        m_r.copies.push_back(made);
        way.tie(made, copyOf);
    }

    /// As a whole, whatever was done to it.
    void moveCopy(const Repeat::Copy& c, const Placing& by) {
        std::set<int> points{c.lead};
        for (const Stroke* s : strokesAmong(m_d, c.strokes))
            points.insert(s->points.begin(), s->points.end());
        for (const int id : points)
            if (DrawnPoint* p = m_d.findPoint(id)) p->at = by(p->at);
    }
};

} // namespace

EditOutcome repeatStrokes(Drawing& d, const std::vector<int>& strokes, const RepeatWish& wish) {
    std::vector<int> chosen;
    for (const Stroke* s : strokesAmong(d, strokes))
        if (wish.kind != Repeat::Kind::Along || s->id != wish.about) chosen.push_back(s->id);
    if (chosen.empty()) return refused(nothingChosen());
    Repeat r;
    r.kind = wish.kind;
    r.of = withSources(d, chosen);
    r.helpers = static_cast<int>(r.of.size() - chosen.size());
    r.about = wish.about;
    Drawing trial = d;
    EditOutcome out = Repeater(trial, r, wish).run(true);
    if (out.done()) d = std::move(trial);
    return out;
}

EditOutcome changeRepeat(Drawing& d, int repeat, const RepeatWish& wish) {
    const Repeat* was = findRepeat(d, repeat);
    if (!was) return refused("What was repeated is no longer in the drawing.");
    Drawing trial = d;
    std::erase_if(trial.repeats, [&](const Repeat& r) { return r.id == repeat; });
    EditOutcome out = Repeater(trial, *was, wish).run(false);
    if (out.done()) d = std::move(trial);
    return out;
}

std::string negated(const std::string& expression) {
    int depth = 0;
    bool whole = expression.starts_with("-("); // one pair of brackets round all of it
    for (std::size_t i = 1; whole && i < expression.size(); ++i) {
        depth += expression[i] == '(' ? 1 : expression[i] == ')' ? -1 : 0;
        whole = depth > 0 || i + 1 == expression.size();
    }
    return whole && depth == 0 ? expression.substr(2, expression.size() - 3) : "-(" + expression + ")";
}

RepeatWish wishOf(const Drawing& d, const Repeat& r) {
    RepeatWish w;
    w.kind = r.kind, w.columns = r.columns, w.rows = r.rows;
    w.about = r.about, w.turning = r.turning;
    const auto from = [&](int relation, double& value, std::string& text) {
        const Relation* size = d.findRelation(relation);
        if (!size) return;
        value = size->sense * measured(d, *size);
        text = size->expression;
    };
    if (r.kind == Repeat::Kind::Along) return w;
    from(r.firstPitch, w.across, w.acrossExpression);
    from(r.upPitch, w.up, w.upExpression);
    return w;
}

} // namespace gc
