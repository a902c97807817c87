#pragma once
/// \file Whether a body is turned inside out somewhere: the kernel may come out so without a word.

#include "core/shape/body.hpp"

namespace gc {

/// Does its surface run through itself? A face that should have been used up may stay, turned inside out; two
/// details may meet inside the material.
bool runsThroughItself(const Body& body);

} // namespace gc
