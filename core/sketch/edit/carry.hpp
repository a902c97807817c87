#pragma once
/// \file What an edit comes to, and what becomes of the relations that it touches.

#include "core/sketch/drawing.hpp"

namespace gc {

/// An edit is either done whole or not at all.
struct EditOutcome {
    std::string whyNot;            ///< a sentence; empty: it was done
    std::vector<int> made;         ///< ids of new strokes
    std::vector<std::string> lost; ///< relations that cannot hold any more and were taken away, read aloud
    bool done() const { return whyNot.empty(); }
};

/// The outcome of what could not be done.
EditOutcome refused(std::string why);

/// Does a relation hold as the drawing lies? A dimension holds when it measures `size`.
bool holds(const Drawing& drawing, const Relation& relation, double size);

/// Takes away the relations that held, or measured what they said, before an edit and do not after it.
/// \param rescale a dimension that is a plain figure gets its new measure instead
/// \return what was taken away, read aloud as it was before
std::vector<std::string> dropBroken(const Drawing& before, Drawing& after, bool rescale = false);

} // namespace gc
