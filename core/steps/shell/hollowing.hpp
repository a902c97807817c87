#pragma once
/// \file For .cpp files: a body hollowed to an even wall.

#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/shape/body.hpp"

namespace gc {

/// \param open faces by number, from 0, that are left out \param offset of the other faces along their
/// outward normals, mm: negative inward Errors: "shell.too-thick" with the face whose radius is too tight;
/// "shell.failed"; "shell.thin" where the wall came out thinner than asked.
Result<Body> hollowed(const Body& body, const std::vector<int>& open, double offset, int step,
                      const Progress& progress);

} // namespace gc
