#include "app/table/choice_buttons.hpp"

#include "app/table/drawing_table.hpp"
#include "core/document/edit_words.hpp"
#include "core/document/repeat_figure.hpp"
#include "core/document/trace_source.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/over_all.hpp"
#include "core/sketch/repeats.hpp"
#include "core/sketch/texts.hpp"

#include <algorithm>
#include <set>

namespace gc::app {

namespace {

void applyRelation(DrawingTable& table, RelationKind kind, const std::vector<int>& of) {
    if (wordsOf(kind).sized) {
        Relation dimension;
        dimension.kind = kind;
        dimension.of = of;
        freezeSense(table.model().drawing(), dimension);
        table.choose({});
        return table.addDimension(std::move(dimension));
    }
    table.model().edit(QString::fromStdString(wordsOf(kind).label).toLower(),
                       [&](Drawing& d) { d.relate(kind, of); });
    table.choose({});
}

QString labelOf(const Drawing& d, const RelationWords& words, const std::vector<int>& of) {
    if (words.kind == RelationKind::Distance && isRound(d, of[0])) return QObject::tr("Wall between");
    if (words.kind == RelationKind::Distance && of.size() == 1) return QObject::tr("Length");
    return QString::fromStdString(words.label);
}

void addRelations(DrawingTable& table) {
    const Drawing& d = table.model().drawing();
    const std::vector<int>& chosen = table.chosen();
    std::vector<std::vector<int>> orders{chosen};
    if (chosen.size() == 2) orders.push_back({chosen[1], chosen[0]});
    for (const RelationWords& words : allRelationWords())
        for (const auto& of : orders) {
            if (words.kind == RelationKind::Follows || words.kind == RelationKind::OnTrace) continue;
            if (!whyNot(d, words.kind, of).empty()) continue;
            table.addButton(labelOf(d, words, of), 1,
                            [&table, kind = words.kind, of] { applyRelation(table, kind, of); });
            break;
        }
}

/// A chosen point can be held where an edge of the part runs through the table.
void addMeeting(DrawingTable& table) {
    const std::vector<int>& chosen = table.chosen();
    if (chosen.size() != 1 || !table.model().drawing().findPoint(chosen[0])) return;
    const auto* best = table.traces().nearestMeeting(table.model().drawing().at(chosen[0]));
    if (!best) return;
    table.addButton(QObject::tr("Meets the nearest edge"), 1, [&table, trace = best->trace, id = chosen[0]] {
        const bool taken =
            table.model().edit(QObject::tr("meets an edge"), [&](Drawing& d) { holdPoint(d, id, trace); });
        if (taken) table.say(QObject::tr("✓ It lies at %1.").arg(table.model().sourceWords(trace.source)));
    });
}

/// A spline's handle follows its nodes until it is held.
void addHandle(DrawingTable& table) {
    const std::vector<int>& chosen = table.chosen();
    if (chosen.size() != 1) return;
    for (const Stroke& s : table.model().drawing().strokes) {
        if (s.kind != StrokeKind::Spline) continue;
        const auto at = std::find(s.points.begin(), s.points.end(), chosen[0]);
        if (at == s.points.end()) continue;
        const auto node = static_cast<std::size_t>(at - s.points.begin()) / 2;
        const bool held = node < s.held.size() && s.held[node];
        const auto turn = [&table, id = s.id, node, held] {
            table.model().edit(held ? QObject::tr("handle let go") : QObject::tr("handle held"),
                               [&](Drawing& drawing) {
                                   Stroke& spline = *drawing.findStroke(id);
                                   spline.held.resize(spline.points.size() / 2, false);
                                   spline.held[node] = !held;
                               });
        };
        return table.addButton(held ? QObject::tr("Let its handle follow") : QObject::tr("Hold its handle"),
                               0, turn);
    }
}

void makeHelpers(DrawingTable& table) {
    const auto ids = table.chosen();
    table.model().edit(QObject::tr("helper"), [&](Drawing& drawing) {
        for (const int id : ids)
            if (Stroke* s = drawing.findStroke(id)) s->helper = !s->helper;
    });
}

/// How many there are and how far apart can be changed later.
void addRepeat(DrawingTable& table, const Repeat& repeat) {
    table.addButton(QObject::tr("Change %1").arg(QString::fromStdString(repeatInWords(repeat))), 0,
                    [&table, id = repeat.id] {
                        table.figures().close(true);
                        table.changeRepeat(id);
                    });
}

void addRepeats(DrawingTable& table) {
    const Drawing& d = table.model().drawing();
    std::set<int> offered;
    for (const int id : table.chosen())
        for (const Repeat* r : repeatsOf(d, id))
            if (offered.insert(r->id).second) addRepeat(table, *r);
}

/// What was written can be written anew.
void addTexts(DrawingTable& table) {
    std::set<int> offered;
    for (const int id : table.chosen())
        if (const DrawnText* t = textOf(table.model().drawing(), id); t && offered.insert(t->id).second)
            table.addButton(QObject::tr("Change \"%1\"").arg(QString::fromStdString(t->words).left(12)), 0,
                            [&table, text = t->id] { table.changeText(text); });
}

void addEdits(DrawingTable& table) {
    const Drawing& d = table.model().drawing();
    const std::vector<int>& chosen = table.chosen();
    addRepeats(table);
    addTexts(table);
    for (const StepWords& words : allEditWords())
        if (words.kind != "edit:text" && whyNoEdit(words.kind, d, chosen).empty())
            table.addButton(QString::fromStdString(words.verb), 0,
                            [&table, kind = QString::fromStdString(words.kind)] { table.askEdit(kind); });
    addHandle(table);
    if (std::any_of(chosen.begin(), chosen.end(), [&](int id) { return d.findStroke(id) != nullptr; }))
        table.addButton(QObject::tr("Helper"), 0, [&table] { makeHelpers(table); });
    if (std::any_of(chosen.begin(), chosen.end(), [](int id) { return id > 0; }))
        table.addApart(QObject::tr("Remove"), [&table] { table.removeChosen(); });
}

/// The steps that can be begun on an area.
void addAreaSteps(DrawingTable& table) {
    for (const StepKind& kind : allKinds()) {
        const auto& all = kind.words.slots;
        if (std::none_of(all.begin(), all.end(),
                         [](const SlotWords& s) { return s.type == SlotType::AreaRef; }))
            continue;
        const QString verb = QString::fromStdString(kind.words.verb);
        const auto count = table.areas().size();
        table.addButton(count == 1 ? QObject::tr("%1 this area").arg(verb)
                                   : QObject::tr("%1 these %2 areas").arg(verb).arg(count),
                        0, [&table, key = QString::fromStdString(kind.key())] {
                            Q_EMIT table.areaAsked(key, table.areas());
                        });
    }
}

} // namespace

void addChoiceButtons(DrawingTable& table) {
    if (table.chosen().empty()) {
        if (!table.areas().empty()) addAreaSteps(table);
        return;
    }
    addEdits(table);
    addMeeting(table);
    addRelations(table);
}

void addFigureButtons(DrawingTable& table) {
    const Relation* r = table.model().drawing().findRelation(table.figures().opened());
    if (!r) return;
    table.addButton(r->readOnly ? QObject::tr("Let it drive") : QObject::tr("Only measure"), 0,
                    [&table, id = r->id, on = !r->readOnly] {
                        table.figures().close(false);
                        table.model().setReadOnly(id, on);
                    });
    if (const auto otherwise = takenOtherwise(table.model().drawing(), *r))
        table.addButton(r->overAll ? QObject::tr("From the centres") : QObject::tr("Over all"), 0,
                        [&table, other = *otherwise] {
                            table.figures().close(false);
                            table.model().takeOtherwise(other);
                            table.figures().open(other.id);
                        });
    if (const Repeat* repeat = repeatCarriedBy(table.model().drawing(), r->id)) addRepeat(table, *repeat);
    table.addApart(QObject::tr("Remove"), [&table, id = r->id] {
        table.figures().close(false);
        table.model().edit(QObject::tr("dimension taken away"), [id](Drawing& d) { d.erase({id}); });
    });
}

} // namespace gc::app
