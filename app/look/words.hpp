#pragma once
/// \file Sentences of core in a person's own language: their patterns are in the catalogue under "core", and
/// what stands in them is put in afterwards.

#include "core/base/message.hpp"

#include <QString>

namespace gc::app {

QString inWords(const Message& message);

} // namespace gc::app
