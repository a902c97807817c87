#include "core/sketch/repeats.hpp"

#include <algorithm>

namespace gc {

const Repeat* findRepeat(const Drawing& d, int id) {
    const auto at =
        std::find_if(d.repeats.begin(), d.repeats.end(), [&](const Repeat& r) { return r.id == id; });
    return at == d.repeats.end() ? nullptr : &*at;
}

std::vector<const Repeat*> repeatsOf(const Drawing& d, int stroke) {
    const auto has = [&](const std::vector<int>& ids, int from = 0) {
        return std::find(ids.begin() + from, ids.end(), stroke) != ids.end();
    };
    std::vector<const Repeat*> out;
    for (const Repeat& r : d.repeats)
        if (has(r.of, r.helpers) || std::any_of(r.copies.begin(), r.copies.end(), [&](const auto& c) {
                return has(c.strokes) || c.keeper == stroke;
            }))
            out.push_back(&r);
    return out;
}

const Repeat* repeatCarriedBy(const Drawing& d, int relation) {
    const auto at = std::find_if(d.repeats.begin(), d.repeats.end(), [&](const Repeat& r) {
        return r.firstPitch == relation || r.upPitch == relation;
    });
    return relation == 0 || at == d.repeats.end() ? nullptr : &*at;
}

bool hasItsLead(const Drawing& d, const Repeat& r) {
    return std::any_of(r.of.begin(), r.of.end(), [&](int id) {
        const Stroke* s = d.findStroke(id);
        return s && std::find(s->points.begin(), s->points.end(), r.lead) != s->points.end();
    });
}

namespace {

bool standsNow(const Repeat::Copy& c, const std::set<int>& gone) {
    return std::any_of(c.strokes.begin(), c.strokes.end(), [&](int s) { return s != 0 && !gone.count(s); });
}

/// Are the places of other copies counted by this one?
bool isCountedBy(const Repeat& r, const Repeat::Copy& c) {
    return r.kind == Repeat::Kind::Rows || (r.kind == Repeat::Kind::Around && c.across == 1);
}

void keepPlace(Drawing& d, Repeat::Copy& c, std::set<int>& gone) {
    if (c.keeper || !d.findPoint(c.lead)) return;
    gone.erase(c.lead);
    c.keeper = d.addStroke(StrokeKind::Point, {c.lead});
    d.findStroke(c.keeper)->helper = true;
}

} // namespace

void keepPlaces(Drawing& d, std::set<int>& gone) {
    for (Repeat& r : d.repeats) {
        const bool lost = gone.count(r.lead) || gone.count(r.about) ||
                          std::none_of(r.copies.begin(), r.copies.end(),
                                       [&](const Repeat::Copy& c) { return standsNow(c, gone); });
        if (lost) continue;
        for (Repeat::Copy& c : r.copies)
            if (isCountedBy(r, c) && !standsNow(c, gone)) keepPlace(d, c, gone);
        Relation* turn = r.kind == Repeat::Kind::Around ? d.findRelation(r.firstPitch) : nullptr;
        if (turn && gone.erase(turn->id)) turn->quiet = true;
    }
}

void forgetRepeated(Drawing& d) {
    std::vector<int> keepers;
    const auto there = [&](int id) { return id != 0 && d.findStroke(id); };
    for (Repeat& r : d.repeats) {
        for (std::size_t i = r.of.size(); i-- > 0;) {
            if (there(r.of[i])) continue;
            const auto at = static_cast<std::ptrdiff_t>(i);
            r.of.erase(r.of.begin() + at);
            if (at < r.helpers) --r.helpers;
            for (Repeat::Copy& c : r.copies) c.strokes.erase(c.strokes.begin() + at);
        }
        for (Repeat::Copy& c : r.copies) {
            for (int& s : c.strokes)
                if (!there(s)) s = 0;
            if (!there(c.keeper)) c.keeper = 0;
            if (!d.findPoint(c.lead)) c.lead = 0;
        }
        std::erase_if(r.copies, [&](const Repeat::Copy& c) {
            return r.kind == Repeat::Kind::Rows && !c.keeper && !standsNow(c, {});
        });
        if (!d.findRelation(r.firstPitch)) r.firstPitch = 0;
        if (!d.findRelation(r.upPitch)) r.upPitch = 0;
        const bool about = r.kind == Repeat::Kind::Rows || isPoint(d, r.about) || there(r.about);
        const bool stands = std::any_of(r.copies.begin(), r.copies.end(),
                                        [&](const Repeat::Copy& c) { return standsNow(c, {}); });
        if (about && stands && hasItsLead(d, r) && static_cast<int>(r.of.size()) > r.helpers) continue;
        for (const Repeat::Copy& c : r.copies)
            if (c.keeper) keepers.push_back(c.keeper);
        r.id = 0;
    }
    std::erase_if(d.repeats, [](const Repeat& r) { return r.id == 0; });
    if (!keepers.empty()) d.erase(keepers);
}

} // namespace gc
