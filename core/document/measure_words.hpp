#pragma once
/// \file What can be asked of a part, in words: each measure is described in its folder in core/measures.

#include "core/units/amount.hpp"

#include <string>
#include <vector>

namespace gc {

/// What one target of the brief measures.
struct MeasureWords {
    /// What has to be prepared of a body before the measure can be taken.
    enum class Needs {
        Shape,   ///< its exact geometry: quick
        Surface, ///< a fine surface with rays cast through it
        Fill,    ///< what it holds, besides
        Edges,   ///< every edge, from both sides
    };
    /// What the stand shows over the part while a person looks at the measure.
    enum class Shows { Nothing, WallByRay, WallByBall, Lean, Stripes, Deviation };

    std::string key;   ///< "mass": in the file
    std::string label; ///< "Mass"
    Dimension dimension;
    std::string question; ///< what it asks, for a tip
    std::string first;    ///< what a new target allows
    Needs needs = Needs::Shape;
    Shows shows = Shows::Nothing;
    /// It is worth no more than the body's volume: where that is in doubt, so is this.
    bool ofVolume = false;
    /// Of so many picked points, edges, faces or bodies; 0: of bodies as a whole.
    int ofPicked = 0;
};

const std::vector<MeasureWords>& allMeasures();
/// Nothing for a measure that this version does not know.
const MeasureWords* findMeasure(const std::string& key);

} // namespace gc
