#pragma once
/// \file Putting a person's answer to "Which one?" into a step.

#include "core/document/part.hpp"

namespace gc {

/// Says a reference of the step otherwise, wherever the step has it: in its slots, within points and planes,
/// in what its drawing follows. \return false when the step has no such reference
bool sayOtherwise(Step& step, const std::string& was, const std::string& now);

} // namespace gc
