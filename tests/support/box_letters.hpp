#pragma once
/// \file Letters without a font: boxes.

#include "core/sketch/edit/write.hpp"

namespace gc::test {

/// A box of 0.5 by 1 for each letter, one apart; nothing for a space.
inline Letters boxLetters(const std::string& text) {
    Letters out;
    for (std::size_t i = 0; i < text.size(); ++i) {
        Letters::Letter l;
        l.says = text.substr(i, 1);
        const double x = static_cast<double>(i);
        l.from = x, l.to = x + 1;
        if (text[i] != ' ') {
            const Vec2 at[4] = {{x, 0}, {x + 0.5, 0}, {x + 0.5, 1}, {x, 1}};
            for (std::size_t k = 0; k < 4; ++k) l.strokes.draw(StrokeKind::Line, {at[k], at[(k + 1) % 4]});
        }
        out.all.push_back(std::move(l));
    }
    return out;
}

} // namespace gc::test
