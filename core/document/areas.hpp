#pragma once
/// \file Areas of drawings as slots name them: the ids of the strokes around one, "3 5 8"; of several with a
/// bar between them, "3 5 8 | 9". Where two areas have the same strokes, with the sense in which each is
/// walked, the area on the left: "+3 -5".

#include "core/document/part.hpp"

namespace gc {

struct AreaChoice {
    std::string value; ///< of the slot
    std::string words; ///< "the area within line 1, arc 2 and line 3"
};

/// The areas that a drawing encloses, the largest first.
std::vector<AreaChoice> areasOf(const Drawing& drawing);

/// The marks (core/sketch/region.hpp) of each of several areas.
using Areas = std::vector<std::vector<int>>;

/// The marks in a slot's text; nothing when the text is not such.
std::optional<Areas> areasIn(const std::string& text);
std::string areaText(const Areas& areas);
/// The text with one more area in it, or without it where it was there.
std::string withArea(const std::string& text, const std::string& area);

/// Areas of the drawing that makes an outline, in words; "all of it" for an empty text.
std::string areaInWords(const Part& part, const std::string& outline, const std::string& text);

/// The drawing that makes an outline of that name; nothing when stations make it, or nothing does.
const Drawing* drawingOf(const Part& part, const std::string& outline);

} // namespace gc
