#pragma once
/// \file For .cpp files: walls as bodies with names, looked at before they are used.

#include "core/steps/shell/hollow.hpp"

#include <functional>

namespace gc {

/// Errors: "shell.failed", and those of wallFault(). \param make one way \param sewing it comes with wires
/// that run the wrong way
Result<Body> checkedWall(const ShellPlan& plan, const std::function<Result<Hollow>()>& make,
                         bool sewing = false);

/// The same, by the kernel's own.
Result<Body> plainWall(const ShellPlan& plan, int step, Joining joining);

/// Is a body that was put together from others the wall that was asked for? \param filled mm, more than need
/// be
bool isTheWall(const ShellPlan& plan, const Body& made, double filled = 0);

} // namespace gc
