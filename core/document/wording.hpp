#pragma once
/// \file What the things of a part are called, for references that are read aloud.

#include "core/document/part.hpp"

namespace gc {

/// It looks at the part, which has to outlive it.
Wording wordingFor(const Part& part);

} // namespace gc
