#pragma once
/// \file The figure of a pitch or a turn with how many there are: "4 × 9 mm", "6 all round". Both are typed
/// there.

#include "core/document/part.hpp"

namespace gc {

/// The turn of each of so many all the way round, as it stands in a dimension.
std::string wholeTurnIn(int count);

/// What is repeated, in a few words: "4 × 3 in rows", "6 around", "5 along".
std::string repeatInWords(const Repeat& repeat);

/// The sentence in which something was repeated, to change it: how many, how far apart. See applyEdit.
Step changeOfRepeat(const Drawing& drawing, int repeat, const UnitSystem& units);

/// The size of a dimension with how many it is for. Other dimensions: the size as it is.
std::string withCount(const Drawing& drawing, const Relation& dimension, const std::string& size);

/// The sentence that a typed figure stands for where it says how many; nothing where it says only a size.
std::optional<Step> repeatTyped(const Drawing& drawing, int dimension, const std::string& typed,
                                const UnitSystem& units);

/// Where the sentence of a change keeps the id of what was repeated; it has no words of its own.
inline constexpr const char* kRepeatSlot = "repeat";

} // namespace gc
