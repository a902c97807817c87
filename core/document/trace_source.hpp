#pragma once
/// \file What a trace in a drawing comes from, as a text: "projection of" an edge, "cut of" a face, or
/// "meeting of" an edge with the plane of the drawing. Of a cut that is in pieces, "ending at" a face "and
/// at" another says which one by the faces beyond its ends.

#include "core/document/part.hpp"

namespace gc {

struct TraceSource {
    enum class Kind { Projection, Cut, Meeting };
    Kind kind = Kind::Projection;
    std::string reference;         ///< to an edge; for a cut, to a face
    std::vector<std::string> ends; ///< of one piece of a cut: the faces beyond its two ends, or none
};

std::string toText(const TraceSource& source);
/// Nothing for a text that is none.
std::optional<TraceSource> parseTraceSource(const std::string& text);
/// "the edge where wall meets floor", "the cut through wall".
std::string sourceInWords(const std::string& text, const Part& part);

} // namespace gc
