#pragma once
/// \file For .cpp files: a body somewhere else, with its names.

#include "core/shape/kernel.hpp"

#include <gp_Trsf.hxx>

namespace gc {

/// What the faces of a copy are called: derived from those of the body by a step. Empty: as before.
struct CopyName {
    int step = 0;
    std::string role;
};

/// The body moved, turned or mirrored; scaled only by -1. Throws what the kernel throws.
Result<Body> movedBody(const Body& body, const gp_Trsf& by, const CopyName& name = {});

} // namespace gc
