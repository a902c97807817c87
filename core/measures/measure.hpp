#pragma once
/// \file How a measure is taken: from what was prepared of each body, to a value with its place.

#include "core/document/measure_words.hpp"
#include "core/inspect/relation.hpp"
#include "core/measures/body_measures.hpp"

#include <functional>

namespace gc {

/// A value with the place where it was found.
struct Taken {
    std::optional<double> value; ///< internal units; nothing where it cannot be measured
    std::optional<Vec3> at;
    std::string body;  ///< the body of an extreme
    std::string where; ///< a reference to the face, or words
    Message note;
};

/// What a measure is taken on.
struct MeasuredOn {
    std::vector<const BodyMeasures*> bodies; ///< one at least, for measures of bodies
    std::vector<PickedThing> picked;         ///< as many as the measure is of (MeasureWords::ofPicked)
};

/// Takes the measure of that key.
using MeasureFunction = Taken(const std::string& key, const MeasuredOn& on);
/// Nothing for a measure that this version does not know.
MeasureFunction* findMeasureTake(const std::string& key);

/// The best of the bodies' values; what has none is left out.
template <class Value, class Better, class Place>
Taken bestOf(const std::vector<const BodyMeasures*>& bodies, Value value, Better better, Place place) {
    Taken best;
    for (const BodyMeasures* b : bodies) {
        const std::optional<double> v = value(*b);
        if (!v || (best.value && !better(*v, *best.value))) continue;
        best = Taken{v, std::nullopt, b->name, {}, {}};
        place(*b, best);
    }
    return best;
}

template <class Value>
Taken sumOf(const std::vector<const BodyMeasures*>& bodies, Value value) {
    double total = 0;
    for (const BodyMeasures* b : bodies) total += value(*b);
    return {total, std::nullopt, {}, {}, {}};
}

} // namespace gc
