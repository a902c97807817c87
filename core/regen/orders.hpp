#pragma once
/// \file Other orders of neighbouring steps, tried: a round before the shell, a shell after the dimples.

#include "core/regen/measure.hpp"

namespace gc {

/// The places near a step where it could stand instead, the nearest first: the steps before which it would be
/// put; 0: the end of the sheet.
std::vector<int> otherPlaces(const Part& part, int step);

/// How much of a part does not work: steps that fail, and those that leave edges as they were.
int faultsIn(const RegenResult& built);

/// Orders in which a step that fails, or works in part, works whole and nothing else fails that did not
/// before. Each was built, and its sentence says mass, wall and time. \param most how many are looked for
std::vector<Remedy> findOrders(const Part& part, int step, Engine& engine, Measurer& measurer,
                               const std::vector<Material>& materials, const Stop& stop, int most = 2);

} // namespace gc
