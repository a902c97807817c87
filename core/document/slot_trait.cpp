#include "core/document/slot_trait.hpp"

#include <algorithm>
#include <cassert>
#include <iterator>

namespace gc {

const SlotTrait& traitOf(SlotType type) {
    using Holds = SlotTrait::Holds;
    using Filled = SlotTrait::Filled;
    using Picks = SlotTrait::Picks;
    using T = SlotType;
    static const SlotTrait all[] = {
        {T::Quantity, Holds::Number, Filled::Typed},
        {T::Count, Holds::Number, Filled::Typed, Picks::Nothing, false, true},
        {T::Choice, Holds::Text, Filled::FromList},
        {T::Words, Holds::Text, Filled::Typed, Picks::Nothing, false, false, {}, "none", true},
        {T::NewName, Holds::Text, Filled::Typed},
        {T::BodyRef, Holds::Text, Filled::FromList, Picks::Bodies, true, false, Thing::Body},
        {T::BodiesRef, Holds::Text, Filled::FromList, Picks::Bodies, false, false, Thing::Body,
         "what it touches", true},
        {T::OutlineRef, Holds::Text, Filled::FromList, Picks::Nothing, false, false, Thing::Outline},
        {T::AreaRef, Holds::Text, Filled::FromList, Picks::Regions, false, false, {}, "all of it", true},
        {T::PlaneRef, Holds::Text, Filled::FromList, Picks::Planes, true, false, Thing::Plane},
        {T::AxisRef, Holds::Text, Filled::FromList, Picks::Axes, true, false, Thing::Axis},
        {T::Face, Holds::Picked, Filled::Picked, Picks::Faces, true, false, {}, "no face"},
        {T::Faces, Holds::Picked, Filled::Picked, Picks::Faces, false, false, {}, "no face", true},
        {T::Edges, Holds::Picked, Filled::Picked, Picks::Edges, false, false, {}, "no edge yet"},
        {T::Edge, Holds::Picked, Filled::Picked, Picks::Curves, true, false, {}, "no edge yet"},
        {T::Curves, Holds::Picked, Filled::Picked, Picks::Curves, false, false, {}, "no line yet"},
        {T::Sections, Holds::Picked, Filled::Picked, Picks::Sections, false, false, {}, "no section yet"},
        {T::Threads, Holds::Text, Filled::OnPage, Picks::Nothing, false, false, {}, "as found", true},
        {T::Point, Holds::Picked, Filled::Picked, Picks::Points, true, false, {}, "no spot yet"},
        {T::Points, Holds::Picked, Filled::Picked, Picks::Points, false, false, {}, "no points yet"},
        {T::Stations, Holds::Rows, Filled::OnPage},
        {T::File, Holds::File, Filled::FromList},
        {T::FileBodies,
         Holds::Text,
         Filled::FromList,
         Picks::Nothing,
         false,
         false,
         {},
         "all its bodies",
         true},
        {T::Drawing, Holds::Drawing, Filled::OnPage},
    };
    const auto it =
        std::find_if(std::begin(all), std::end(all), [type](const SlotTrait& t) { return t.type == type; });
    assert(it != std::end(all));
    return *it;
}

} // namespace gc
