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

const SourceWords& wordsOf(TraceSource::Kind kind) {
    return kWords[static_cast<std::size_t>(kind)];
}

} // namespace

std::string toText(const TraceSource& source) {
    return std::string(wordsOf(source.kind).begins) + source.reference;
}

std::optional<TraceSource> parseTraceSource(const std::string& text) {
    for (const SourceWords& w : kWords) {
        if (!text.starts_with(w.begins)) continue;
        TraceSource out{w.kind, text.substr(w.begins.size())};
        const bool good = w.kind == TraceSource::Kind::Cut ? parseFaceRef(out.reference).ok()
                                                           : parseEdgeRef(out.reference).ok();
        if (good) return out;
    }
    return std::nullopt;
}

std::string sourceInWords(const std::string& text, const Part& part) {
    const auto source = parseTraceSource(text);
    if (!source) return text;
    return wordsOf(source->kind).spoken + referenceInWords(source->reference, part);
}

} // namespace gc
