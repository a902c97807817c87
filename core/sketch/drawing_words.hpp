#pragma once
/// \file What things in a drawing are called in sentences.

#include "core/sketch/drawing.hpp"
#include "core/units/expression.hpp"

#include <functional>

namespace gc {

/// "line 3", "the upper end of line 3", "the corner of line 2 and arc 1", "the centre of circle 1", "the
/// axis", or the name that the person gave.
std::string nameOf(const Drawing& drawing, int id);

/// A relation read aloud: "line 2 is parallel to line 4", "radius of arc 1 = 4 mm".
std::string sentenceOf(const Drawing& drawing, const Relation& relation, const UnitSystem& units);

/// A size with its unit: "24.3 mm", "30°"; a plain number, with one more decimal, for ratios.
std::string sizeInWords(double value, Dimension dimension, const UnitSystem& units, int decimals = 2);

/// A name for a dimension that no other has: the stem with a number. \param taken what else it may not be
std::string freeName(const Drawing& drawing, const std::string& stem,
                     const std::function<bool(const std::string&)>& taken = {});

/// The sentence's first letter made large.
std::string capitalised(std::string text);

/// A direction in words: "left and right", "up and down", "at 30° to the level".
std::string directionInWords(Vec2 direction);

/// The ids of points that lie on the same spot through coincident relations, the point itself first.
std::vector<int> joinedPoints(const Drawing& drawing, int pointId);

} // namespace gc
