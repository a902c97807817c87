#include "core/steps/shared/words.hpp"

#include "core/document/areas.hpp"
#include "core/document/part.hpp"
#include "core/sketch/drawing_words.hpp"

#include <cstdlib>
#include <string_view>

namespace gc {

void fillWithLatest(Step& step, const Part& part, const std::string& slot, Thing thing) {
    for (int i = part.shownSteps(); i-- > 0;)
        if (const std::string name = nameGiven(part.steps[static_cast<std::size_t>(i)], thing);
            !name.empty()) {
            step.slots[slot] = name;
            return;
        }
}

std::string strokeInWords(const Part& part, const std::string& outline, const std::string& role) {
    constexpr std::string_view kSide = "side ";
    if (!role.starts_with(kSide)) return {};
    const int id = std::atoi(role.c_str() + kSide.size());
    const Drawing* drawing = drawingOf(part, outline);
    return drawing && drawing->findStroke(id) ? nameOf(*drawing, id) : std::string();
}

} // namespace gc
