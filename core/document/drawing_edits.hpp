#pragma once
/// \file Edits of a drawing as they are asked for: a sentence (see edit_words.hpp) and what is chosen.

#include "core/document/part.hpp"
#include "core/sketch/edit/carry.hpp"
#include "core/sketch/edit/write.hpp"

#include <functional>

namespace gc {

/// A text in a font as strokes.
using LettersAsStrokes = std::function<Result<Letters>(const std::string& text, const std::string& font)>;

/// A new sentence with slots that suit what is chosen: a line chosen last to mirror across, a point chosen
/// last to turn about.
Step newEdit(const std::string& kind, const Drawing& drawing, const std::vector<int>& chosen);

/// The sentence by which a text is written anew; where it keeps the id of that.
Step changeOfText(const Drawing& drawing, int text);
inline constexpr const char* kTextSlot = "written";

/// Why an edit makes no sense for what is chosen, in a sentence that says what to choose; empty when it does.
std::string whyNoEdit(const std::string& kind, const Drawing& drawing, const std::vector<int>& chosen);

/// Does it. Expressions in its slots may use the part's values; where they become dimensions they stay
/// expressions. \param chosen points and strokes in the order in which they were chosen
/// \param letters what text is drawn with; without it, text is refused
EditOutcome applyEdit(const Step& edit, const Part& part, const std::vector<int>& chosen, Drawing& drawing,
                      const LettersAsStrokes& letters = {});

} // namespace gc
