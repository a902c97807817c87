#pragma once
/// \file Strokes that follow another: they run beside it at an even distance, or, at no distance, along it.
/// Their shape is made anew from their source whenever it is asked for; only where they end is their own.

#include "core/sketch/curve2.hpp"

namespace gc {

/// Within how much of the true offset the cubic pieces of a follower lie, mm.
inline constexpr double kBesideFit = 1e-6;

/// The stroke that a follower follows; nullptr when it is not there (in a drawing of a few strokes alone).
const Stroke* sourceOf(const Drawing& drawing, const Stroke& follower);
/// May a stroke be followed? Lines and arcs have offsets that are lines and arcs.
bool canBeFollowed(const Stroke& stroke);
/// Does a follower's start (0) or end (1) lie where that of its source does?
bool endHeld(const Stroke& follower, std::size_t end);
/// Signed distance of a follower from its source, mm: positive on the left of the source's direction. 0 for
/// any other stroke.
double besideBy(const Stroke& stroke);
/// The stroke that two run beside, or that one of them is while the other runs beside it; 0: none.
int commonSource(const Drawing& drawing, int a, int b);

/// A follower as pieces, from its first point to its last in the source's direction. Where an end lies
/// between, along the source, is found by where the point is.
std::vector<Curve2> besideCurves(const Drawing& drawing, const Stroke& follower);

/// Where on a source what runs beside it at a signed distance comes nearest to a place: the whole part of the
/// result says which of the source's curves, the rest is that curve's own parameter. An ellipse is in
/// quarters.
double besideNearest(const Drawing& drawing, const Stroke& source, double distance, Vec2 place);

/// The same set of points without a source: a spline whose handles are all held. For drawings that the
/// source is taken from.
void makePlain(Drawing& drawing, int follower);

} // namespace gc
