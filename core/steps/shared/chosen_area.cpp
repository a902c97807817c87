#include "core/steps/shared/chosen_area.hpp"

#include "core/document/areas.hpp"
#include "core/sketch/united.hpp"

#include <algorithm>

namespace gc {

Result<const Outline*> outlineFor(const Arguments& args, ModelReader& model, const std::string& kind) {
    const auto id = model.outlineIn("outline");
    const Outline* out = id ? model.outline(*id) : nullptr;
    if (out) return out;
    return errorOf(kind + ".outline",
                   phrase("There is no drawing called \"%1\" before this step.", args.label("outline")));
}

Result<const Outline*> drawingFor(const Arguments& args, ModelReader& model, const std::string& kind) {
    const auto out = outlineFor(args, model, kind);
    if (!out || (*out)->drawing) return out;
    return errorOf(kind + ".outline", phrase("The outline \"%1\" goes through stations. Choose a drawing.",
                                             args.label("outline")));
}

namespace {

bool has(const std::vector<int>& strokes, int stroke) {
    return std::find(strokes.begin(), strokes.end(), stroke) != strokes.end();
}

/// Does another area lie across a stroke that was not around the chosen one, and beside strokes that were?
bool isDivided(const std::vector<Region>& areas, std::size_t taken, const std::vector<int>& chosen) {
    const std::vector<int> around = areas[taken].strokes();
    for (std::size_t i = 0; i < areas.size(); ++i) {
        if (i == taken) continue;
        const std::vector<int> other = areas[i].strokes();
        const auto was = [&](int s) { return has(chosen, s); };
        const auto between = [&](int s) { return !has(chosen, s) && has(around, s); };
        if (std::any_of(other.begin(), other.end(), was) && std::any_of(other.begin(), other.end(), between))
            return true;
    }
    return false;
}

} // namespace

Result<std::vector<ChosenArea>> chosenAreas(const Outline& outline, const std::string& text,
                                            const std::string& called, const std::string& code) {
    std::vector<ChosenArea> out;
    for (const std::vector<int>& marks : areasIn(text).value_or(Areas())) {
        const auto at = findArea(outline.faces, marks);
        std::vector<int> strokes;
        for (const int m : marks) strokes.push_back(strokeOfMark(m));
        if (!at)
            return errorOf(
                code,
                phrase("The area that was chosen in \"%1\" is no longer there, or two are as good. Click "
                       "inside the one that is meant, on the drawing table.",
                       called));
        const Region* area = &outline.faces[*at];
        // Two that were chosen can have become one: it is meant once.
        if (std::any_of(out.begin(), out.end(), [&](const ChosenArea& c) { return c.area == area; }))
            continue;
        out.push_back({area, {}});
        if (isDivided(outline.faces, *at, strokes))
            out.back().note = phrase(
                "The area that was chosen in \"%1\" is divided now; the piece with most of its outline is "
                "used. Click inside another on the drawing table if that is meant.",
                called);
    }
    return out;
}

Result<std::vector<Region>> meantAreas(const Arguments& args, const Outline& outline, const std::string& kind,
                                       std::vector<Message>& notes) {
    const std::string called = args.label("outline");
    const auto chosen = chosenAreas(outline, args.text("area"), called, kind + ".area");
    if (!chosen) return chosen.error();
    std::vector<Region> areas;
    for (const ChosenArea& c : *chosen) {
        areas.push_back(*c.area);
        if (!c.note.empty()) notes.push_back(c.note);
    }
    if (!areas.empty()) return united(areas);
    if (!outline.regions.empty()) return outline.regions;
    Error e = errorOf(kind + ".open",
                      phrase("The drawing \"%1\" encloses nothing yet. Close it: its gaps are listed "
                             "beside it.",
                             called));
    e.culprits = {called};
    return e;
}

} // namespace gc
