#pragma once
/// \file Writing letters into a drawing, and writing them anew.

#include "core/sketch/edit/carry.hpp"

namespace gc {

/// A text in a font as strokes: capitals are 1 mm high and stand on the level line, the first letter begins
/// on the axis.
struct Letters {
    struct Letter {
        std::string says;        ///< in UTF-8
        Drawing strokes;         ///< where the letter stands in the text
        double from = 0, to = 0; ///< what it takes of the line, mm
    };
    std::vector<Letter> all;
};

/// How letters are to be written.
struct WriteWish {
    DrawnText text; ///< its words, font, and sizes as typed; of what is written anew also its id
    double height = 1, spacing = 0; ///< mm
    Vec2 at;                        ///< where it begins; of what is written anew its line says that
};

/// On a helper line as long as the text, or turned with a stroke from its start on. All keep their places to
/// each other and to the line: who moves that, or relates it to something, moves them all.
/// \param wish.text.along the stroke, or 0
EditOutcome writeText(Drawing& drawing, const WriteWish& wish, const Letters& letters);

/// Letters that stay the same ones keep their ids, wherever they move to; others come and go. The line stays
/// where it begins and in its direction.
EditOutcome rewriteText(Drawing& drawing, const WriteWish& wish, const Letters& letters);

} // namespace gc
