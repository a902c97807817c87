#include "core/sketch/texts.hpp"

#include <algorithm>

namespace gc {

const DrawnText* findText(const Drawing& d, int id) {
    const auto at =
        std::find_if(d.texts.begin(), d.texts.end(), [&](const DrawnText& t) { return t.id == id; });
    return at == d.texts.end() ? nullptr : &*at;
}

const DrawnText* textOf(const Drawing& d, int stroke) {
    if (stroke == 0) return nullptr;
    const auto at = std::find_if(d.texts.begin(), d.texts.end(), [&](const DrawnText& t) {
        return t.base == stroke || std::any_of(t.letters.begin(), t.letters.end(), [&](const auto& letter) {
                   return std::find(letter.begin(), letter.end(), stroke) != letter.end();
               });
    });
    return at == d.texts.end() ? nullptr : &*at;
}

void forgetWritten(Drawing& d) {
    for (DrawnText& t : d.texts) {
        bool any = false;
        for (auto& letter : t.letters)
            for (int& s : letter) {
                if (s != 0 && !d.findStroke(s)) s = 0;
                any = any || s != 0;
            }
        if (t.along && !d.findStroke(t.along)) t.along = 0;
        if (!any || !d.findStroke(t.base)) t.id = 0;
    }
    std::erase_if(d.texts, [](const DrawnText& t) { return t.id == 0; });
}

} // namespace gc
