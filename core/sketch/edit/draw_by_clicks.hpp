#pragma once
/// \file Strokes from places that a person clicks, one after the other.

#include "core/sketch/drawing.hpp"

namespace gc {

/// What is drawn, and by which places.
enum class Clicked {
    Point,
    CircleAbout,    ///< centre, rim
    CircleThrough,  ///< three of its points
    ArcThrough,     ///< both ends, a point between
    ArcAbout,       ///< centre, start, where it ends; the short way
    ArcOnFrom,      ///< the end of a stroke that it goes on from, its own end
    Rectangle,      ///< two opposite corners
    RectangleAbout, ///< centre, a corner
    RectangleRound, ///< two opposite corners, how far from the second one the rounding reaches
    Polygon,        ///< centre, a corner
    Ellipse,        ///< centre, end of one half axis, how wide the other is
    Slot,           ///< the centres of both ends, how wide
    Conic,          ///< both ends, where their tangents meet
    Spline,         ///< nodes, any number from two
    Poles,          ///< poles, any number from four
    Fair,           ///< stations, any number from three
};

/// How many places it takes; for splines the least, and more may follow.
int placesFor(Clicked what);
bool takesMore(Clicked what);

struct DrawnByClicks {
    std::vector<int> strokes; ///< empty: the places do not make one
    std::vector<int> points;  ///< what stands at each place, in their order; 0 where nothing may be joined
    int rim = 0;              ///< a circle whose rim goes through the last place
};

/// Draws it, with the relations that make it what it is. \param sides of a polygon
DrawnByClicks drawByClicks(Drawing& drawing, Clicked what, const std::vector<Vec2>& at, int sides = 6);

} // namespace gc
