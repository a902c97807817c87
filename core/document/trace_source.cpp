#include "core/document/trace_source.hpp"

namespace gc {

namespace {

struct SourceWords {
    TraceSource::Kind kind;
    std::string_view begins; ///< in the file
    const char* spoken;
};
constexpr SourceWords kWords[] = {
    {TraceSource::Kind::Projection, "projection of ", "the edge "},
    {TraceSource::Kind::Cut, "cut of ", "the cut through "},
    {TraceSource::Kind::Meeting, "meeting of ", "the place where the table cuts the edge "},
};

const std::string kEnding = " ending at ", kAndAt = " and at ";

/// Takes "ending at" A "and at" B off a text; false when what stands there are no two faces.
bool takeEnds(std::string& text, std::vector<std::string>& ends) {
    const std::size_t ending = text.find(kEnding);
    if (ending == std::string::npos) return true;
    const std::size_t first = ending + kEnding.size(), also = text.find(kAndAt, first);
    if (also == std::string::npos) return false;
    ends = {text.substr(first, also - first), text.substr(also + kAndAt.size())};
    text.erase(ending);
    return parseFaceRef(ends[0]).ok() && parseFaceRef(ends[1]).ok();
}

const SourceWords& wordsOf(TraceSource::Kind kind) {
    return kWords[static_cast<std::size_t>(kind)];
}

} // namespace

std::string toText(const TraceSource& source) {
    std::string out = std::string(wordsOf(source.kind).begins) + source.reference;
    if (source.ends.size() == 2) out += kEnding + source.ends[0] + kAndAt + source.ends[1];
    return out;
}

std::optional<TraceSource> parseTraceSource(const std::string& text) {
    for (const SourceWords& w : kWords) {
        if (!text.starts_with(w.begins)) continue;
        TraceSource out{w.kind, text.substr(w.begins.size()), {}};
        if (!takeEnds(out.reference, out.ends)) return std::nullopt;
        const bool good = w.kind == TraceSource::Kind::Cut ? parseFaceRef(out.reference).ok()
                                                           : parseEdgeRef(out.reference).ok();
        if (good) return out;
    }
    return std::nullopt;
}

std::string sourceInWords(const std::string& text, const Part& part) {
    const auto source = parseTraceSource(text);
    if (!source) return text;
    std::string out = wordsOf(source->kind).spoken + referenceInWords(source->reference, part);
    if (source->ends.size() == 2)
        out += " between " + referenceInWords(source->ends[0], part) + " and " +
               referenceInWords(source->ends[1], part);
    return out;
}

} // namespace gc
