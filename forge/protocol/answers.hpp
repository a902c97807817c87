#pragma once
/// \file What the forge answers where the window asked.

#include "forge/protocol/words.hpp"

namespace gc::say {

/// Answers NameItem: rules first. Empty when the item is not there, has no name, or is made by the step that
/// is being filled in.
struct ItemNamed {
    static constexpr const char* kType = "named";
    int ask = 0;
    std::vector<std::string> references;
    bool stale = false; ///< the surface that was pointed at is not that of the body any more
    template <class V>
    void fields(V& v) {
        v("ask", ask), v("references", references), v("stale", stale);
    }
};

struct FoundItem {
    BodyId body;
    bool edge = false;
    int item = 0;
    template <class V>
    void fields(V& v) {
        v("body", body), v("edge", edge), v("item", item);
    }
};
/// Answers FindItems.
struct ItemsFound {
    static constexpr const char* kType = "found";
    int ask = 0;
    std::vector<FoundItem> items;
    template <class V>
    void fields(V& v) {
        v("ask", ask), v("items", items);
    }
};

/// Answers ExportBodies.
struct Exported {
    static constexpr const char* kType = "exported";
    int ask = 0;
    std::string path;
    std::optional<Fault> fault;
    std::vector<std::string> notes; ///< what is to be known of the file that was written
    std::vector<int> failingSteps;  ///< ids; nothing was written because of them
    bool stopped = false;           ///< the part is another one now, or it was asked to stop
    template <class V>
    void fields(V& v) {
        v("ask", ask), v("path", path), v("fault", fault), v("notes", notes),
            v("failing_steps", failingSteps), v("stopped", stopped);
    }
};

struct LabelledValue {
    std::string label, value;
    template <class V>
    void fields(V& v) {
        v("label", label), v("value", value);
    }
};
struct TargetRemedyWords {
    RemedyWords remedy;
    std::vector<LabelledValue> then; ///< what the other targets come to
    int othersFailing = 0;
    template <class V>
    void fields(V& v) {
        v("remedy", remedy), v("then", then), v("others_failing", othersFailing);
    }
};
/// Answers SolveTarget.
struct Solved {
    static constexpr const char* kType = "solved";
    int ask = 0, target = 0;
    std::vector<TargetRemedyWords> remedies;
    bool stopped = false;
    template <class V>
    void fields(V& v) {
        v("ask", ask), v("target", target), v("remedies", remedies), v("stopped", stopped);
    }
};

struct ReadingShown {
    std::string key, text; ///< "distance", "12.4 mm"
    double value = 0;      ///< mm, mm², rad
    std::optional<Vec3> at, to;
    template <class V>
    void fields(V& v) {
        v("key", key), v("text", text), v("value", value), v("at", at), v("to", to);
    }
};
/// Answers TakeReadings.
struct ReadingsTaken {
    static constexpr const char* kType = "readings";
    int ask = 0;
    std::vector<ReadingShown> readings;
    std::optional<Fault> fault;
    template <class V>
    void fields(V& v) {
        v("ask", ask), v("readings", readings), v("fault", fault);
    }
};

} // namespace gc::say
