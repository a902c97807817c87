#pragma once
/// \file For .cpp files: how large a section is along its path, by stations.

#include "core/model/arguments.hpp"

#include <functional>

namespace gc {

/// The fair curve through the stations of the outline in the slot "shape", from its lowest to its highest
/// over the whole path: its radius there, as a multiple of that at the lowest. Errors: "sweep.shape" where
/// there is none, where it is a drawing, turns back on its way, or begins with nothing.
Result<std::function<double(double share)>> sizesBy(const Arguments& args, ModelReader& model);

} // namespace gc
