#pragma once
/// \file For .cpp files: a body hollowed to an even wall.

#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/shape/body.hpp"

namespace gc {

struct ShellWish {
    std::vector<int> open;   ///< faces by number, from 0, that are left out
    double offset = 0;       ///< of the other faces along their outward normals, mm: negative inward
    std::vector<int> others; ///< faces that have another wall
    double otherOffset = 0;  ///< mm, to the same side
    bool quickly = false;    ///< the ways that take seconds are not tried: of trials
};

/// \param notes where it is told what came out in another way than one would think
/// Errors: "shell.too-thick" with the face whose radius is too tight; "shell.failed"; "shell.thin" where the
/// wall came out thinner than asked; "shell.wrong" where it is missing or filled up.
Result<Body> hollowed(const Body& body, const ShellWish& wish, int step, const Progress& progress,
                      std::vector<Message>* notes = nullptr);

/// Half of the wall lies within the body, half around it. What was its surface is gone; its name goes on
/// outside.
Result<Body> hollowedBothWays(const Body& body, const ShellWish& wish, int step, const Progress& progress,
                              std::vector<Message>* notes = nullptr);

} // namespace gc
