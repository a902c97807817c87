#pragma once
/// \file A size that a failure or a doubt says itself, offered for one click.

#include "core/base/result.hpp"
#include "core/units/amount.hpp"

namespace gc {

/// "Make it 1.2 mm": not tried. \param size mm
inline Remedy makeIt(int step, const std::string& slot, double size) {
    Remedy r;
    r.step = step;
    r.slot = slot;
    r.value = formatAmount(size, "mm", 2);
    r.sentence = phrase("Make it %1", r.value);
    r.tried = false;
    return r;
}

} // namespace gc
