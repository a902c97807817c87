#include "core/sketch/edit/write.hpp"

#include "core/sketch/edit/copy.hpp"
#include "core/sketch/stroke_run.hpp"
#include "core/sketch/texts.hpp"

#include <algorithm>
#include <cmath>
#include <map>

namespace gc {

namespace {

/// Letters with their places in the drawing.
class Placed {
  public:
    Placed(const Drawing& d, const WriteWish& wish, const Letters& letters, Vec2 at, Vec2 ahead) {
        const double height = wish.height;
        for (std::size_t i = 0; i < letters.all.size(); ++i) {
            const Letters::Letter& l = letters.all[i];
            const double shift = wish.spacing * static_cast<double>(i);
            m_length = std::max(m_length, l.to * height + shift);
            Drawing one = l.strokes;
            one.relations.clear(); // all of them keep their places together
            std::vector<int> ids;
            for (const Stroke& s : one.strokes) ids.push_back(s.id);
            Placing p = Placing::turnAbout({}, 0, height);
            p.shift = p.shift + Vec2{shift, 0};
            const double middle = 0.5 * (l.from + l.to) * height + shift;
            const Placing onLine{ahead, at, false};
            const Placing whole =
                wish.text.along ? along(d, wish.text.along, middle).after(p) : onLine.after(p);
            if (!ids.empty()) placeStrokes(one, ids, whole);
            m_letters.push_back(std::move(one));
        }
        m_base = {at, at + ahead * m_length};
        if (!wish.text.along) return;
        const StrokeRun run(d, *d.findStroke(wish.text.along));
        m_base = {run.at(run.atLength(0)), run.at(run.atLength(m_length))};
    }
    double length() const { return m_length; }
    const std::vector<Drawing>& letters() const { return m_letters; }
    /// What the letters stand on, from end to end.
    LineEnds base() const { return m_base; }

  private:
    /// A letter stands upright on the stroke, with its middle where the line's middle would be.
    static Placing along(const Drawing& d, int stroke, double middle) {
        const StrokeRun run(d, *d.findStroke(stroke));
        const double u = run.atLength(middle);
        const Vec2 ahead = unit(run.slope(u));
        Placing p{ahead, {}, false};
        p.shift = run.at(u) - p({middle, 0});
        return p;
    }

    std::vector<Drawing> m_letters;
    double m_length = 0;
    LineEnds m_base;
};

/// Why letters cannot follow what the wish says; empty where they can, or stand on a straight line.
std::string whyNotAlong(const Drawing& d, const WriteWish& wish) {
    if (!wish.text.along) return {};
    const Stroke* s = d.findStroke(wish.text.along);
    const DrawnText* own = textOf(d, wish.text.along);
    if (!s || StrokeRun(d, *s).empty() || (own && own->id == wish.text.id))
        return "Choose the stroke that the letters shall follow last.";
    return {};
}
std::string whyTooLong(const Drawing& d, const WriteWish& wish, double length) {
    if (!wish.text.along || length <= StrokeRun(d, *d.findStroke(wish.text.along)).length() * (1 + 1e-9))
        return {};
    return "The text is longer than the stroke. Make it smaller, or the stroke longer.";
}

void holdTogether(Drawing& d, const DrawnText& t) {
    std::vector<int> all{t.base};
    for (const auto& letter : t.letters) all.insert(all.end(), letter.begin(), letter.end());
    std::erase(all, 0);
    // An older one of these lets go.
    std::vector<int> old;
    for (const Relation& r : d.relations)
        if (r.kind == RelationKind::Together && std::find(r.of.begin(), r.of.end(), t.base) != r.of.end())
            old.push_back(r.id);
    if (!old.empty()) d.erase(old);
    if (all.size() > 1) d.relate(RelationKind::Together, all);
}

/// A letter that is still as it was written can take another place.
bool isWhole(const Drawing& d, const std::vector<int>& strokes, const Drawing& as) {
    if (strokes.size() != as.strokes.size() || strokes.empty()) return false;
    std::map<int, int> pointOf;
    for (std::size_t i = 0; i < strokes.size(); ++i) {
        const Stroke* s = d.findStroke(strokes[i]);
        const Stroke& n = as.strokes[i];
        if (!s || s->kind != n.kind || s->points.size() != n.points.size() ||
            s->sizes.size() != n.sizes.size())
            return false;
        for (std::size_t k = 0; k < n.points.size(); ++k) {
            const auto [known, isNew] = pointOf.emplace(n.points[k], s->points[k]);
            if (!isNew && known->second != s->points[k]) return false;
        }
    }
    return true;
}

void putThere(Drawing& d, const std::vector<int>& strokes, const Drawing& as) {
    for (std::size_t i = 0; i < strokes.size(); ++i) {
        Stroke& s = *d.findStroke(strokes[i]);
        s.sizes = as.strokes[i].sizes;
        for (std::size_t k = 0; k < s.points.size(); ++k)
            if (DrawnPoint* p = d.findPoint(s.points[k])) p->at = as.at(as.strokes[i].points[k]);
    }
}

/// Which letters of before are which of now: as many as are the same from the beginning, then from the end.
std::vector<std::optional<std::size_t>> keptOf(const Drawing& d, const DrawnText& before,
                                               const std::vector<std::string>& says,
                                               const std::vector<Drawing>& now,
                                               const std::vector<std::string>& said) {
    const std::size_t n = now.size(), m = before.letters.size();
    std::vector<std::optional<std::size_t>> out(n);
    if (said.size() != m) return out;
    const auto same = [&](std::size_t is, std::size_t was) {
        return was < said.size() && says[is] == said[was] && isWhole(d, before.letters[was], now[is]);
    };
    std::size_t first = 0;
    while (first < std::min(n, m) && (now[first].strokes.empty() || same(first, first))) {
        if (!now[first].strokes.empty()) out[first] = first;
        ++first;
    }
    for (std::size_t k = 1; k <= std::min(n, m) - first; ++k) {
        if (now[n - k].strokes.empty()) continue;
        if (!same(n - k, m - k)) break;
        out[n - k] = m - k;
    }
    return out;
}

/// What letters say, each by itself.
std::vector<std::string> saidBy(const Letters& letters) {
    std::vector<std::string> out;
    for (const Letters::Letter& l : letters.all) out.push_back(l.says);
    return out;
}
std::string wordsOfAll(const Letters& letters) {
    std::string out;
    for (const Letters::Letter& l : letters.all) out += l.says;
    return out;
}
std::vector<std::string> charactersOf(const std::string& text) {
    std::vector<std::string> out;
    for (const char c : text) {
        const bool goesOn = (static_cast<unsigned char>(c) & 0xC0U) == 0x80U;
        if (!goesOn || out.empty()) out.emplace_back();
        out.back() += c;
    }
    return out;
}

} // namespace

EditOutcome writeText(Drawing& d, const WriteWish& wish, const Letters& letters) {
    if (const std::string why = whyNotAlong(d, wish); !why.empty()) return refused(why);
    const Placed placed(d, wish, letters, wish.at, {1, 0});
    if (const std::string why = whyTooLong(d, wish, placed.length()); !why.empty()) return refused(why);
    EditOutcome out;
    DrawnText t = wish.text;
    t.words = wordsOfAll(letters);
    t.base = d.draw(StrokeKind::Line, {placed.base().from, placed.base().to});
    d.findStroke(t.base)->helper = true;
    t.letters.clear();
    for (const Drawing& one : placed.letters()) {
        t.letters.push_back(addDrawing(d, one));
        out.made.insert(out.made.end(), t.letters.back().begin(), t.letters.back().end());
    }
    if (out.made.empty()) return refused("Type the text to write.");
    out.made.push_back(t.base);
    holdTogether(d, t);
    t.id = d.nextId++;
    d.texts.push_back(std::move(t));
    return out;
}

EditOutcome rewriteText(Drawing& d, const WriteWish& wish, const Letters& letters) {
    const DrawnText* found = findText(d, wish.text.id);
    if (!found) return refused("This text is not there any more.");
    DrawnText t = *found;
    const LineEnds line = lineEnds(d, t.base);
    const Vec2 ahead = length(line.to - line.from) > 1e-9 ? unit(line.to - line.from) : Vec2{1, 0};
    if (const std::string why = whyNotAlong(d, wish); !why.empty()) return refused(why);
    const Placed placed(d, wish, letters, line.from, ahead);
    if (const std::string why = whyTooLong(d, wish, placed.length()); !why.empty()) return refused(why);
    const auto kept = keptOf(d, t, saidBy(letters), placed.letters(), charactersOf(t.words));
    const std::vector<std::vector<int>> old = t.letters;
    std::vector<bool> stays(old.size(), false);
    t.letters.clear();
    EditOutcome out;
    for (std::size_t i = 0; i < placed.letters().size(); ++i) {
        if (kept[i]) {
            stays[*kept[i]] = true;
            t.letters.push_back(old[*kept[i]]);
            putThere(d, t.letters.back(), placed.letters()[i]);
        } else {
            t.letters.push_back(addDrawing(d, placed.letters()[i]));
        }
        out.made.insert(out.made.end(), t.letters.back().begin(), t.letters.back().end());
    }
    if (out.made.empty()) return refused("Type the text to write.");
    t.words = wordsOfAll(letters), t.font = wish.text.font;
    t.height = wish.text.height, t.spacing = wish.text.spacing;
    t.along = wish.text.along;
    const std::vector<int> ends = d.findStroke(t.base)->points;
    if (DrawnPoint* from = d.findPoint(ends[0])) from->at = placed.base().from;
    if (DrawnPoint* to = d.findPoint(ends[1])) to->at = placed.base().to;
    std::vector<int> gone;
    for (std::size_t i = 0; i < old.size(); ++i)
        if (!stays[i])
            for (const int s : old[i])
                if (s != 0) gone.push_back(s);
    *std::find_if(d.texts.begin(), d.texts.end(), [&](const DrawnText& one) { return one.id == t.id; }) = t;
    if (!gone.empty()) d.erase(gone);
    holdTogether(d, t);
    out.made.push_back(t.base);
    return out;
}

} // namespace gc
