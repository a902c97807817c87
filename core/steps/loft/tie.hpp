#pragma once
/// \file For .cpp files: what would make a guide meet a section.

#include "core/steps/loft/section.hpp"

namespace gc {

/// The nearest point of the guide's drawing is held where the section's stroke runs through its plane.
/// Nothing where the guide or the section is not drawn, or where no point of it is near. \param at where the
/// guide passes the section \param gap between them, mm
std::optional<Remedy> tieFor(const std::string& guide, const gp_Pnt& at, double gap,
                             const LoftSection& section, int number, ModelReader& model);

} // namespace gc
