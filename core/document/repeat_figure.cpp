#include "core/document/repeat_figure.hpp"

#include "core/sketch/drawing_words.hpp"
#include "core/sketch/edit/repeat.hpp"
#include "core/sketch/repeats.hpp"

namespace gc {

std::string wholeTurnIn(int count) {
    return "360° / " + std::to_string(count);
}

std::string repeatInWords(const Repeat& r) {
    const std::string columns = std::to_string(r.columns);
    if (r.kind == Repeat::Kind::Around) return columns + " around";
    if (r.kind == Repeat::Kind::Along) return columns + " along";
    if (r.rows == 1) return columns + " in a row";
    return r.columns == 1 ? std::to_string(r.rows) + " in a row"
                          : columns + " × " + std::to_string(r.rows) + " in rows";
}

Step changeOfRepeat(const Drawing& d, int id, const UnitSystem& units) {
    const Repeat* r = findRepeat(d, id);
    const bool rows = r && r->kind == Repeat::Kind::Rows, along = r && r->kind == Repeat::Kind::Along;
    Part none;
    Step edit = newStep(none, rows ? "edit:rows" : along ? "edit:along" : "edit:around");
    if (!r) return edit;
    const RepeatWish wish = wishOf(d, *r);
    // As it was typed, with its side; where no figure holds it any more, as it measures.
    const auto size = [&](double value, const std::string& typed, Dimension dimension) {
        if (typed.empty()) return sizeInWords(value, dimension, units, 6);
        return value < 0 ? negated(typed) : typed;
    };
    edit.slots[kRepeatSlot] = std::to_string(id);
    edit.slots[rows ? "columns" : "count"] = std::to_string(r->columns);
    if (along) {
        edit.slots["turning"] = r->turning ? "turning with it" : "all upright";
    } else if (rows) {
        edit.slots["rows"] = std::to_string(r->rows);
        if (r->columns > 1) edit.slots["across"] = size(wish.across, wish.acrossExpression, kLength);
        if (r->rows > 1) edit.slots["up"] = size(wish.up, wish.upExpression, kLength);
    } else if (wish.acrossExpression != wholeTurnIn(r->columns)) {
        edit.slots["spread"] = "every";
        edit.slots["angle"] = size(wish.across, wish.acrossExpression, kAngle);
    }
    return edit;
}

namespace {

constexpr const char* kTimes = " × ";
constexpr const char* kAllRound = " all round";

bool isAllRound(const Repeat& r, const Relation& turn) {
    return r.kind == Repeat::Kind::Around && turn.expression == wholeTurnIn(r.columns);
}

} // namespace

std::string withCount(const Drawing& d, const Relation& dimension, const std::string& size) {
    const Repeat* r = repeatCarriedBy(d, dimension.id);
    if (!r) return size;
    if (isAllRound(*r, dimension)) return std::to_string(r->columns) + kAllRound;
    return std::to_string(r->upPitch == dimension.id ? r->rows : r->columns) + kTimes + size;
}

std::optional<Step> repeatTyped(const Drawing& d, int dimension, const std::string& typed,
                                const UnitSystem& units) {
    const Repeat* r = repeatCarriedBy(d, dimension);
    if (!r) return std::nullopt;
    Step edit = changeOfRepeat(d, r->id, units);
    const bool around = r->kind == Repeat::Kind::Around, up = r->upPitch == dimension;
    const char* count = around ? "count" : up ? "rows" : "columns";
    if (const auto at = typed.find(kAllRound); around && at != std::string::npos) {
        edit.slots[count] = typed.substr(0, at);
        edit.slots["spread"] = "all the way round";
        return edit;
    }
    for (const std::string times : {"×", " x ", " X "}) {
        const auto at = typed.find(times);
        if (at == std::string::npos) continue;
        edit.slots[count] = typed.substr(0, at);
        // The side stays: the figure shows none.
        const RepeatWish wish = wishOf(d, *r);
        const std::string size = typed.substr(at + times.size());
        const double now = up ? wish.up : wish.across;
        edit.slots[around ? "angle" : up ? "up" : "across"] = now < 0 ? negated(size) : size;
        if (around) edit.slots["spread"] = "every";
        return edit;
    }
    return std::nullopt;
}

} // namespace gc
