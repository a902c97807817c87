#pragma once
/// \file An engine speaks of references and of steps by their ids, as the file has them. Here its sentences
/// get the words of the sheet, and what is lost gets its cause.

#include "core/regen/engine.hpp"

namespace gc {

/// The references of an error or a note as a person reads them, and, where one is lost, since when and where
/// it was. \param before the states before each step up to this one
void explain(StepReport& report, const Part& part, const RegenResult& sofar);

} // namespace gc
