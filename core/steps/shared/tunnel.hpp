#pragma once
/// \file For .cpp files: straight openings between two faces of a body, their edges shared with both: no
/// boolean.

#include "core/steps/shared/placing.hpp"
#include "core/steps/shared/relief.hpp"
#include "core/steps/shared/straight_looks.hpp"

namespace gc {

/// An area of a drawing that goes through a wall, and what its sides are called.
struct Opened {
    Region area; ///< of lines and arcs, without holes
    std::string role;
};

/// Those of the openings that lie within one face where they go in and within one where they come out, in the
/// same shell, and not over the line where one of them closes up, are cut. \param looks through the body,
/// along the normal of the drawing whose areas they are \param ahead along it, else against it
struct Tunnelled {
    Body body;
    std::vector<std::size_t> left; ///< the numbers of the others, from 0
};
/// Nothing where it cannot be done at all: the body is none of one solid, or the kernel throws it out.
std::optional<Tunnelled> tunnelled(const Body& body, const StraightLooks& looks, bool ahead,
                                   const std::vector<Opened>& openings, int step);

} // namespace gc
