#include "core/document/drawing_edits.hpp"

#include "core/document/drawing_sizes.hpp"
#include "core/document/repeat_figure.hpp"

#include "core/base/tolerance.hpp"
#include "core/sketch/edit/copy.hpp"
#include "core/sketch/edit/corner.hpp"
#include "core/sketch/edit/cut.hpp"
#include "core/sketch/edit/offset.hpp"
#include "core/sketch/edit/repeat.hpp"
#include "core/sketch/region.hpp"
#include "core/sketch/texts.hpp"

#include <algorithm>
#include <map>
#include <numbers>

namespace gc {

namespace {

std::vector<int> strokesOf(const Drawing& d, const std::vector<int>& chosen) {
    std::vector<int> out;
    for (const int id : chosen)
        if (d.findStroke(id)) out.push_back(id);
    return out;
}

/// An edit under way: its slots worked out.
class Asked {
  public:
    Asked(const Step& edit, const Part& part, const std::vector<int>& chosen, Drawing& d)
        : m_edit(edit), m_part(part), m_values(namesWithin(d, part.brief.units, valuesOf(part))),
          m_chosen(chosen), m_d(d) {}
    const LettersAsStrokes* letters = nullptr;

    /// Worked out, or 0 with a sentence in `fault`.
    double value(const std::string& slot) {
        const auto v = evaluateSlot(m_edit, slot, m_part, m_values);
        if (!v && fault.empty()) fault = v.error().sentence;
        return v ? *v : 0;
    }
    std::string text(const std::string& slot) const { return m_edit.text(slot); }
    bool is(const char* slot, const char* choice) const { return text(slot) == choice; }
    std::vector<int> strokes() const { return strokesOf(m_d, m_chosen); }
    /// Without what is only there to say where: the point or stroke chosen last.
    std::vector<int> strokesButLast() const {
        std::vector<int> out = strokes();
        if (!out.empty() && !m_chosen.empty() && m_chosen.back() == out.back()) out.pop_back();
        return out;
    }
    int last() const { return m_chosen.empty() ? 0 : m_chosen.back(); }

    EditOutcome offset();
    EditOutcome corners();
    EditOutcome place(const Placing& placing);
    EditOutcome write();
    EditOutcome mirror();
    EditOutcome joinTwo() { return join(m_d, strokes()); }
    EditOutcome repeat(const std::vector<int>& strokes, const RepeatWish& wish);
    EditOutcome rows();
    EditOutcome around();
    EditOutcome along();
    EditOutcome move();
    EditOutcome turnOrScale();
    EditOutcome fairness();
    std::string unsignedText(const char* slot, double v) const;
    static std::string noCentre() {
        return "Choose the point to turn or scale about last; a circle stands for its centre.";
    }
    Vec2 centre() const;
    int centrePointId() const;

    std::string fault;

  private:
    const Step& m_edit;
    const Part& m_part;
    Values m_values;
    const std::vector<int>& m_chosen;
    Drawing& m_d;
};

/// Inside is where the closed outline lies; for an open one it is to the left of the first stroke.
EditOutcome Asked::offset() {
    OffsetWish wish;
    wish.distance = value("distance");
    wish.expression = text("distance");
    if (!fault.empty()) return refused(fault);
    wish.bothSides = is("side", "on both sides");
    wish.roundCorners = is("corners", "round");
    wish.cap = is("ends", "closed flat")    ? CapKind::Flat
               : is("ends", "closed round") ? CapKind::Round
                                            : CapKind::Open;
    const auto chains = chainsOf(m_d, strokes());
    if (chains.size() == 1 && !wish.bothSides) {
        // The signed area of the walk, closed by a straight line where it is open.
        double area = 0;
        Vec2 begin, end;
        for (std::size_t i = 0; i < chains[0].strokes.size(); ++i) {
            const bool forward = chains[0].forward[i];
            const StrokeRun run(m_d, *m_d.findStroke(chains[0].strokes[i]));
            for (const Curve2& c : run.curves()) area += forward ? c.areaShare() : -c.areaShare();
            if (i == 0) begin = run.at(forward ? 0 : run.end());
            end = run.at(forward ? run.end() : 0);
        }
        area += 0.5 * cross(end, begin);
        const bool insideIsLeft = area >= 0;
        if (insideIsLeft != is("side", "inside")) wish.distance = -wish.distance;
    } else if (!is("side", "inside")) {
        wish.distance = -wish.distance;
    }
    return offsetStrokes(m_d, strokes(), wish);
}

/// The corners that are meant: at chosen points, or wherever two chosen strokes meet.
EditOutcome Asked::corners() {
    const bool round = m_edit.kind == "edit:round";
    const double first = value(round ? "radius" : "first"), second = round ? 0 : value("second");
    if (!fault.empty()) return refused(fault);
    std::vector<Vec2> places;
    const auto add = [&](Vec2 p) {
        if (std::none_of(places.begin(), places.end(), [&](Vec2 q) { return length(p - q) < kSamePoint; }))
            places.push_back(p);
    };
    const auto chosenStrokes = strokes();
    for (const int id : m_chosen)
        if (m_d.findPoint(id)) add(m_d.at(id));
    const auto chosen = [&](int id) {
        return std::find(chosenStrokes.begin(), chosenStrokes.end(), id) != chosenStrokes.end();
    };
    for (const int id : chosenStrokes)
        for (const int p : endPoints(*m_d.findStroke(id)))
            if (const auto c = cornerAt(m_d, m_d.at(p), kSamePoint);
                c && chosen(c->first) && chosen(c->second))
                add(c->at);
    Drawing trial = m_d;
    EditOutcome all;
    for (const Vec2 p : places) {
        const auto corner = cornerAt(trial, p, kSamePoint);
        if (!corner) continue;
        const bool leads = all.made.empty();
        const EditOutcome one =
            round ? roundCorner(trial, *corner, first, leads ? text("radius") : "")
                  : chamferCorner(trial, *corner, first, second, text("first"), text("second"));
        if (!one.done()) return one;
        if (round && !leads) trial.relate(RelationKind::Equal, {all.made.front(), one.made.front()});
        all.made.insert(all.made.end(), one.made.begin(), one.made.end());
        all.lost.insert(all.lost.end(), one.lost.begin(), one.lost.end());
    }
    if (all.made.empty()) return refused("Choose a corner where two strokes end, or the two strokes.");
    m_d = trial;
    return all;
}

int Asked::centrePointId() const {
    if (is("centre", "the origin")) return kOrigin;
    if (isPoint(m_d, last())) return last();
    const Stroke* s = m_d.findStroke(last());
    return s && (isRound(m_d, s->id) || s->kind == StrokeKind::Ellipse || s->kind == StrokeKind::Point)
               ? centrePoint(*s)
               : 0;
}

Vec2 Asked::centre() const {
    if (!is("centre", "their middle")) return m_d.at(centrePointId());
    Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
    for (const int id : strokes())
        for (const Curve2& c : curvesOf(m_d, *m_d.findStroke(id))) {
            Vec2 a, b;
            c.bounds(a, b);
            low = {std::min(low.x, a.x), std::min(low.y, a.y)};
            high = {std::max(high.x, b.x), std::max(high.y, b.y)};
        }
    return low.x > high.x ? Vec2{} : (low + high) * 0.5;
}

EditOutcome Asked::place(const Placing& placing) {
    const bool byLast = m_edit.slots.count("centre") && is("centre", "the point chosen last");
    const auto moved = byLast ? strokesButLast() : strokes();
    if (moved.empty()) return refused("Choose the strokes first: click them, or drag a box around them.");
    if (is("whose", "them")) return placeStrokes(m_d, moved, placing);
    EditOutcome out;
    const auto copyOf = copyStrokes(m_d, moved, placing);
    for (const int id : moved) out.made.push_back(copyOf.at(id));
    return out;
}

/// New ones begin at the point chosen last, or at the origin.
EditOutcome Asked::write() {
    WriteWish wish;
    wish.height = value("height");
    wish.spacing = value("spacing");
    if (!fault.empty()) return refused(fault);
    if (!letters || !*letters) return refused("Letters cannot be drawn here.");
    const auto drawn = (*letters)(text("text"), text("font"));
    if (!drawn) return refused(drawn.error().sentence);
    wish.text.words = text("text"), wish.text.font = text("font");
    wish.text.height = text("height"), wish.text.spacing = text("spacing");
    const std::string id = text(kTextSlot);
    const DrawnText* known = id.empty() ? nullptr : findText(m_d, std::stoi(id));
    if (is("line", "along the stroke chosen last")) {
        wish.text.along = known && known->along ? known->along : last();
        if (wish.text.along <= 0) return refused("Choose the stroke that the letters shall follow last.");
    }
    if (!known) {
        wish.at = m_d.findPoint(last()) ? m_d.at(last()) : Vec2{};
        return writeText(m_d, wish, *drawn);
    }
    wish.text.id = known->id;
    return rewriteText(m_d, wish, *drawn);
}

EditOutcome Asked::mirror() {
    const bool last = is("line", "the line chosen last");
    const int line = last ? this->last() : is("line", "the axis") ? kAxisLine : kLevelLine;
    return mirrorStrokes(m_d, last ? strokesButLast() : strokes(), line);
}

/// Dimensions are without sign: what is typed with a minus is turned round, and the copies lie on that side.
std::string Asked::unsignedText(const char* slot, double v) const {
    return v < 0 ? negated(text(slot)) : text(slot);
}

/// Anew when the edit was begun on what is repeated: see changeOfRepeat.
EditOutcome Asked::repeat(const std::vector<int>& strokes, const RepeatWish& wish) {
    if (!fault.empty()) return refused(fault);
    const std::string repeat = text(kRepeatSlot);
    return repeat.empty() ? repeatStrokes(m_d, strokes, wish) : changeRepeat(m_d, std::stoi(repeat), wish);
}

EditOutcome Asked::rows() {
    RepeatWish wish;
    wish.kind = Repeat::Kind::Rows;
    wish.columns = static_cast<int>(value("columns"));
    wish.rows = static_cast<int>(value("rows"));
    wish.across = value("across");
    wish.up = value("up");
    wish.acrossExpression = unsignedText("across", wish.across);
    wish.upExpression = unsignedText("up", wish.up);
    return repeat(strokes(), wish);
}

EditOutcome Asked::around() {
    RepeatWish wish;
    wish.kind = Repeat::Kind::Around;
    wish.columns = static_cast<int>(value("count"));
    const bool every = is("spread", "every");
    wish.across = every ? value("angle") : 2 * std::numbers::pi / std::max(wish.columns, 1);
    wish.acrossExpression = every ? unsignedText("angle", wish.across) : wholeTurnIn(wish.columns);
    wish.about = centrePointId();
    if (fault.empty() && !wish.about && text(kRepeatSlot).empty()) return refused(noCentre());
    return repeat(is("centre", "the origin") ? strokes() : strokesButLast(), wish);
}

EditOutcome Asked::along() {
    RepeatWish wish;
    wish.kind = Repeat::Kind::Along;
    wish.columns = static_cast<int>(value("count"));
    wish.turning = is("turning", "turning with it");
    wish.about = last();
    return repeat(strokes(), wish);
}

EditOutcome Asked::move() {
    const Vec2 by{value("across"), value("up")};
    return fault.empty() ? place(Placing::move(by)) : refused(fault);
}

EditOutcome Asked::turnOrScale() {
    const bool turns = m_edit.kind == "edit:turn";
    const double v = value(turns ? "angle" : "factor");
    if (!fault.empty()) return refused(fault);
    if (!is("centre", "their middle") && !centrePointId()) return refused(noCentre());
    return place(Placing::turnAbout(centre(), turns ? v : 0, turns ? 1 : v));
}

EditOutcome Asked::fairness() {
    const double within = value("within");
    if (!fault.empty()) return refused(fault);
    EditOutcome out;
    for (const int id : strokes())
        if (Stroke* s = m_d.findStroke(id); s && s->kind == StrokeKind::Fair) {
            s->sizes = {within};
            out.made.push_back(id);
        }
    return out;
}

using Run = EditOutcome (Asked::*)();

const std::map<std::string, Run>& runs() {
    static const std::map<std::string, Run> all{
        {"edit:offset", &Asked::offset},     {"edit:round", &Asked::corners},
        {"edit:chamfer", &Asked::corners},   {"edit:mirror", &Asked::mirror},
        {"edit:join", &Asked::joinTwo},      {"edit:text", &Asked::write},
        {"edit:rows", &Asked::rows},         {"edit:around", &Asked::around},
        {"edit:along", &Asked::along},       {"edit:move", &Asked::move},
        {"edit:fairness", &Asked::fairness}, {"edit:turn", &Asked::turnOrScale},
        {"edit:scale", &Asked::turnOrScale},
    };
    return all;
}

} // namespace

Step newEdit(const std::string& kind, const Drawing& d, const std::vector<int>& chosen) {
    Part none; // an edit takes no id of a step, and no name of the part's
    Step edit = newStep(none, kind);
    if (chosen.empty()) return edit;
    const int last = chosen.back();
    // A line of the outline that a box caught last is hardly what to mirror across.
    const Stroke* stroke = d.findStroke(last);
    if (kind == "edit:mirror" && chosen.size() > 1 && isLine(d, last) && (!stroke || stroke->helper))
        edit.slots["line"] = last == kAxisLine    ? "the axis"
                             : last == kLevelLine ? "the level line"
                                                  : "the line chosen last";
    if (kind == "edit:fairness" && stroke && stroke->kind == StrokeKind::Fair)
        edit.slots["within"] = formatAmount(stroke->sizes[0], "mm", 4);
    if (edit.slots.count("centre")) {
        const bool point = chosen.size() > 1 && isPoint(d, last) && last != kOrigin;
        edit.slots["centre"] = point                                      ? "the point chosen last"
                               : last == kOrigin || kind == "edit:around" ? "the origin"
                                                                          : "their middle";
    }
    return edit;
}

Step changeOfText(const Drawing& d, int id) {
    Part none;
    Step edit = newStep(none, "edit:text");
    const DrawnText* t = findText(d, id);
    if (!t) return edit;
    edit.slots[kTextSlot] = std::to_string(id);
    edit.slots["text"] = t->words, edit.slots["font"] = t->font;
    edit.slots["height"] = t->height, edit.slots["spacing"] = t->spacing;
    if (t->along) edit.slots["line"] = std::string("along the stroke chosen last");
    return edit;
}

std::string whyNoEdit(const std::string& kind, const Drawing& d, const std::vector<int>& chosen) {
    const auto strokes = strokesOf(d, chosen);
    const bool points = std::any_of(chosen.begin(), chosen.end(), [&](int id) { return d.findPoint(id); });
    if (kind == "edit:round" || kind == "edit:chamfer")
        return points || strokes.size() > 1 ? ""
                                            : "Choose a corner where two strokes end, or the two strokes.";
    if (kind == "edit:fairness")
        return !strokes.empty() &&
                       std::all_of(strokes.begin(), strokes.end(),
                                   [&](int id) { return d.findStroke(id)->kind == StrokeKind::Fair; })
                   ? ""
                   : "Choose a fair curve.";
    if (kind == "edit:text") return {};
    if (kind == "edit:join") return strokes.size() == 2 ? "" : "Choose two strokes that have ends.";
    if (kind == "edit:along")
        return strokes.size() > 1 ? "" : "Choose what to repeat, then the line or curve to repeat it along.";
    return strokes.empty() ? "Choose the strokes first: click them, or drag a box around them." : "";
}

EditOutcome applyEdit(const Step& edit, const Part& part, const std::vector<int>& chosen, Drawing& drawing,
                      const LettersAsStrokes& letters) {
    const auto run = runs().find(edit.kind);
    if (run == runs().end()) return refused("This version does not know that edit.");
    Drawing trial = drawing;
    Asked asked(edit, part, chosen, trial);
    asked.letters = &letters;
    EditOutcome out = (asked.*run->second)();
    if (out.done()) drawing = std::move(trial);
    return out;
}

} // namespace gc
