#pragma once
/// \file What a type of slot is: what it holds, how a person fills it, what is picked for it. One table;
/// nothing else asks for a type by its name but the kinds that have such slots.

#include "core/document/step_words.hpp"

namespace gc {

struct SlotTrait {
    /// What stands in the part.
    enum class Holds {
        Number, ///< an expression
        Text,   ///< words, or a name
        Picked, ///< references to faces, edges or points
        Rows,   ///< stations
        Drawing,
        File, ///< the name of an attachment
    };
    /// What a click on it does.
    enum class Filled { Typed, Picked, FromList, OnPage };
    /// What may be clicked in the stand for it. Curves are edges and strokes of drawings.
    /// Axes are straight or round edges, drawn lines and round faces.
    /// Sections are strokes of drawings with all that goes on from them, rims of faces, and points.
    enum class Picks { Nothing, Faces, Edges, Curves, Sections, Points, Planes, Axes, Bodies, Regions };

    SlotType type;
    Holds holds;
    Filled filled;
    Picks picks = Picks::Nothing;
    bool one = false;             ///< of references: just one
    bool whole = false;           ///< of numbers: whole ones
    std::optional<Thing> named{}; ///< of texts: the name of a thing of that sort, made before
    const char* nothingYet = "…"; ///< what stands there while it is empty
    bool mayBeEmpty = false;      ///< that says something, too: all areas, what it touches

    /// A text that a pick in the stand can take the place of.
    bool isPickedText() const { return holds == Holds::Text && picks != Picks::Nothing; }
};

const SlotTrait& traitOf(SlotType type);
/// Nothing can be done with the sentence while that is empty.
inline bool mustBeFilled(const SlotWords& slot) {
    return slot.needed || !traitOf(slot.type).mayBeEmpty;
}

} // namespace gc
