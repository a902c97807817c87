#pragma once
/// \file What the words of several kinds share. Free of the kernel.

#include "core/document/step_kind.hpp"

#include <string>
#include <vector>

namespace gc {

/// Puts the name of the thing that was made last before the bookmark into a slot: a new step is most likely
/// about that.
/// \param but a step whose things are left out
void fillWithLatest(Step& step, const Part& part, const std::string& slot, Thing thing, int but = 0);

/// Puts the body that was made last into the slot "body".
void fillWithLatestBody(Step& step, const Part& part);

/// Puts all that the last step with a detail made into a slot of faces: what is copied most often.
void fillWithLatestDetail(Step& step, const Part& part, const std::string& slot);

/// Of a step with addBecoming(): the only body before it, or, where there are several, those that it touches.
void fillTarget(Step& step, const Part& part);

/// The slots "does", "body", "target" and "pieces", and their words at the end of the sentence: what becomes
/// of the solid that a step makes. See becoming.hpp.
void addBecoming(StepWords& words);

/// The slots "fill", "thickness" and "wall side", and their words: what of a drawing becomes solid. See
/// filling.hpp.
void addFilling(StepWords& words);

/// The slots "top" and "high", and their words: what stands on a wall may be topped in its drawing's plane,
/// or the drawing is where it stands. \param shown nothing: always
void addTop(StepWords& words, bool (*shown)(const Step&) = nullptr);
/// What is drawn on a face of the part stands there; what is drawn in a plane before it is topped there.
void fillTop(Step& step, const Part& part);

/// Of a step whose sentence has addTop and addStanding: the latest drawing that it can be about, the body,
/// where its top is. \param ofPoints it stands at the points of a drawing, else along its lines
void fillStanding(Step& step, const Part& part, bool ofPoints);
/// A lean that comes out of its mould: none at all is allowed.
SlotWords mouldLean(const std::string& label, const std::string& fallback, const std::string& usual);

/// The slots "side" and "target", and their words: on which wall something stands that begins in a drawing.
/// See standing.hpp.
/// \param near how the wall on the nearer side is called, and that on the other \param before the words
/// before it
void addStanding(StepWords& words,
                 const std::pair<std::string, std::string>& near = {"to the nearer wall",
                                                                    "to the wall on its other side"},
                 const std::string& before = ",");

/// The slots "foot" and "foot round", and their words: whether what stands on a wall is rounded where it
/// does. \param usual what the radius usually is
void addFoot(StepWords& words, const std::string& usual);
/// That and addStanding at the end of the sentence of something that stands on a wall, and its full stop.
void endStanding(StepWords& words, const std::string& usualFoot);

/// How thick the part's walls are, as an expression: a named value "wall", else the wall of the last shell
/// before the step; empty where neither is there.
std::string wallBefore(const Part& part);
/// The same times a factor: "0.6 * wall", "0.6 * 2 mm"; the fallback where there is no wall.
std::string shareOfWall(const Part& part, const std::string& factor, const std::string& fallback);

/// What the stroke is called ("arc 3") that made a face of the role "side 12" of a drawing; empty for other
/// roles and for outlines that are no drawings.
std::string strokeInWords(const Part& part, const std::string& outline, const std::string& role);
/// "wall at point 3" for the role "wall 12", where one of these begins it; empty for other roles.
std::string placeInWords(const Part& part, const std::string& outline, const std::string& role,
                         const std::vector<std::string>& beginnings);

/// The line that was made last: a curve, or the first stroke of a drawing other than one by its name. None
/// where there is none.
std::vector<std::string> latestLine(const Part& part, const std::string& except = {});

} // namespace gc
