#pragma once
/// \file What a person is shown of a step while it is filled in, whether it works or not: sizes that can be
/// dragged in space, threads that can be pulled, and the solid that it adds or takes.

#include "core/shape/body.hpp"

namespace gc {

/// A size of a step as it lies in space.
struct Handle {
    std::string slot;
    bool turns = false; ///< an angle about an axis; else a length along a line
    Vec3 from;          ///< where the length is nothing; of an angle: on the axis, in the plane of the arc
    Vec3 direction;     ///< unit: along it the length grows; about it, counter-clockwise, the angle does
    Vec3 arm;           ///< of an angle: from the axis to where it is nothing, mm
    double value = 0;   ///< as it is now, mm, rad, or a factor where the slot is one
    double way = 1;     ///< how far its end goes for each unit of it: 1/2 where both ends move
    bool loose = false; ///< its line may lie anywhere alongside: only the direction counts
    /// The choice that turns round where it is dragged past nothing; empty: it stays above that.
    std::string turnsRound{};
    /// What that choice is then; empty: the other of its first two.
    std::string turnsInto{};
    /// Of a slot that is how many: so many gaps, or what is shared by them, lie between the first and the
    /// end.
    struct Counts {
        bool some = false; ///< it is one
        double whole = 0;  ///< of which the value is one share, mm or rad; 0: the value is a number of gaps
        int more = 0;      ///< of things than of gaps
    };
    Counts counts{};
};

/// A line between two sections, along which one of their places goes to another. Its ends can be pulled
/// elsewhere.
struct Thread {
    Vec3 from, to;
    bool pulled = false; ///< by a person; else it was found
    struct Place {
        Vec3 at;
        std::string says; ///< the slot's text, if an end is pulled there
    };
    std::vector<Place> starts, ends;
    std::string slot;           ///< which slot says it
    std::string choice, chosen; ///< and the choice that has to be set with it
};

/// One of the bodies in a file that a step reads.
struct FileBody {
    std::string name; ///< by which it is chosen
    Body body;
    bool taken = true;
};

struct StepAids {
    std::vector<Handle> handles;
    std::vector<Thread> threads;
    Body tool;          ///< the solid that the step adds to a body or takes from it; empty: none
    bool takes = false; ///< it takes it away
    std::vector<FileBody> fileBodies; ///< to choose from

    bool empty() const { return handles.empty() && threads.empty() && tool.empty() && fileBodies.empty(); }
};

} // namespace gc
