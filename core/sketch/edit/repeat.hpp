#pragma once
/// \file Repeating strokes in rows, around a point and along a stroke, and changing that later. Copies follow
/// the strokes that they are copies of, and the drawing remembers how they were made (see Repeat).

#include "core/sketch/edit/carry.hpp"

namespace gc {

/// How strokes are to be repeated.
struct RepeatWish {
    Repeat::Kind kind = Repeat::Kind::Rows;
    int columns = 2;    ///< how many there are in all: across, around or along
    int rows = 1;       ///< and up
    double across = 10; ///< pitch, mm; may be negative. Around: the angle of one step, rad, counter-clockwise
    double up = 10;     ///< pitch, mm; may be negative
    std::string acrossExpression, upExpression; ///< the same as typed, without sign
    int about = 0;                              ///< Around: the centre, a point. Along: the stroke
    bool turning = false;                       ///< Along: they turn as the stroke does
};

/// Rows: the first copy of each direction carries the pitch as a dimension; all others follow it.
/// Around: each is turned by the same angle, which the first carries as a dimension.
/// Along: evenly, the first and the last at the ends (on closed strokes all the way round); they follow it.
EditOutcome repeatStrokes(Drawing& drawing, const std::vector<int>& strokes, const RepeatWish& wish);

/// Repeats anew what was repeated: copies that stay keep their ids and what was done to them, those that were
/// removed stay away, others come or go. The kind and what it is about stay as they were.
EditOutcome changeRepeat(Drawing& drawing, int repeat, const RepeatWish& wish);

/// How it is repeated now, with the pitches as they are typed or as they measure.
RepeatWish wishOf(const Drawing& drawing, const Repeat& repeat);

/// The number with its sign turned round, as text: "-(a + b)" for "a + b", and back.
std::string negated(const std::string& expression);

} // namespace gc
