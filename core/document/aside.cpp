#include "core/document/aside.hpp"

namespace gc {

bool isAside(const Part& part, ThingId body) {
    const Step* maker = part.findStep(body.step);
    const StepWords* words = maker ? findStepWords(maker->kind) : nullptr;
    return words && words->slot(kCountsSlot) && maker->text(kCountsSlot) == kAside;
}

} // namespace gc
