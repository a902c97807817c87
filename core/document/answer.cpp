#include "core/document/answer.hpp"

namespace gc {

namespace {

/// Only a whole reference: "side 1 of step 2" is not within "side 1 of step 21".
bool endsThere(const std::string& text, std::size_t end) {
    return end == text.size() || text[end] == ' ' || text[end] == ')';
}

bool replaceIn(std::string& text, const std::string& was, const std::string& now) {
    bool any = false;
    for (std::size_t at = 0; (at = text.find(was, at)) != std::string::npos;) {
        const bool starts = at == 0 || text[at - 1] == ' ' || text[at - 1] == '(';
        if (!starts || !endsThere(text, at + was.size())) {
            at += was.size();
            continue;
        }
        text.replace(at, was.size(), now);
        at += now.size();
        any = true;
    }
    return any;
}

} // namespace

bool sayOtherwise(Step& step, const std::string& was, const std::string& now) {
    if (was.empty()) return false;
    bool any = false;
    const SlotValues before = step.slots;
    for (const auto& [key, held] : before) {
        SlotValue value = held;
        bool changed = false;
        if (auto* text = std::get_if<std::string>(&value)) {
            changed = replaceIn(*text, was, now);
        } else if (auto* list = std::get_if<References>(&value)) {
            for (std::string& r : *list) changed = replaceIn(r, was, now) || changed;
        } else if (const auto* drawn = std::get_if<DrawingSlot>(&value)) {
            Drawing drawing = **drawn;
            for (Relation& r : drawing.relations)
                if (!r.source.empty()) changed = replaceIn(r.source, was, now) || changed;
            if (changed) value = DrawingSlot(std::move(drawing));
        }
        if (changed) step.slots[key] = std::move(value);
        any = any || changed;
    }
    return any;
}

} // namespace gc
