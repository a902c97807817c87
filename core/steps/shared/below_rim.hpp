#pragma once
/// \file For .cpp files: what steps down or out below a flat rim, made face by face instead of by a boolean:
/// where walls are free curves that takes long, and fails where they nearly lie on each other.

#include "core/steps/shared/rim_ring.hpp"

namespace gc {

struct BelowRim {
    Combine how = Combine::Add; ///< Take: sunk into the rim; Add: out of the wall
    double reach = 1;           ///< mm beside the border
    bool outward = false;       ///< away from what the border encloses
    double height = 1;          ///< mm below the rim's level
    double lean = 0;            ///< of its side, rad
    std::optional<double> drop; ///< its edge reaches down so far, as thick as `height`
};

/// \param picked with edges of its own (see onOwnEdges()) \param kind what its faces' roles begin with, and
/// "skirt" where its edge reaches down
/// Nothing where a border is made of straight lines and circles, or its walls are more than one edge down
/// from each corner, or the result is not what columns of material say: that is for booleans.
std::optional<Body> setBelowRim(const FoundItems& picked, const Rim& rim, int step, const std::string& kind,
                                const std::vector<TopoDS_Wire>& borders, const BelowRim& wish);

} // namespace gc
