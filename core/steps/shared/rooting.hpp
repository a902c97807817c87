#pragma once
/// \file For .cpp files: material that is added and ends on a wall that is not as flat as its own face
/// reaches on into that wall, and never through it.

#include "core/steps/shared/facing.hpp"

namespace gc {

struct Rooted {
    struct End {
        std::string face; ///< of the tool, as a reference
        double by = 0;    ///< how far it was carried on, or had come out, mm
        bool cameOut = false;
    };
    NamedTool tool; ///< trimmed to the wall's very surface
    std::vector<End> ends;
};

/// Each flat face of the tool that touches the body somewhere and is less than half its own width away from
/// it everywhere is carried on until it is met all over. Of one that lies within a wall but for a corner that
/// comes out on its other side, by less than that wall is thick, the corner is left away. Nothing where there
/// is no such face. Throws what the kernel throws.
std::optional<Rooted> rooted(const Body& body, const NamedTool& tool, std::vector<Gap> gaps);

/// Something thin between a face of the tool and the body's next wall.
struct Lacking {
    double by = 0;    ///< how thick, mm
    Vec3 at;          ///< where, on the tool
    std::string face; ///< which of its faces, as a reference; may be empty
};

/// The least distance from the tool's flat faces, square to them, to the body, where that is less than half
/// their width: how much is lacking where the two do not meet.
std::optional<Lacking> lacking(const NamedTool& tool, const std::vector<Gap>& gaps);

} // namespace gc
