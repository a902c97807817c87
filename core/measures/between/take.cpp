#include "core/measures/measure.hpp"

#include <algorithm>

namespace gc {

Taken takeBetween(const std::string& key, const MeasuredOn& on) {
    if (on.picked.empty()) return {};
    const auto all = on.picked.size() > 1 ? readingsOf(on.picked[0], on.picked[1]) : readingsOf(on.picked[0]);
    const auto r = std::find_if(all.begin(), all.end(), [&](const Reading& one) { return one.key == key; });
    if (r == all.end()) {
        Taken none;
        none.note = "The two lie so that this cannot be read any more.";
        return none;
    }
    Taken t{r->value, r->at, {}, {}, {}};
    if (r->at && r->to) t.at = (*r->at + *r->to) * 0.5;
    return t;
}

} // namespace gc
