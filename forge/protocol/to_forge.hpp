#pragma once
/// \file What the window says to the forge.

#include "forge/protocol/words.hpp"

#include <variant>

namespace gc::say {

struct FileUse {
    std::string name;
    std::uint64_t hash = 0; ///< of its content: see FileContent
    template <class V>
    void fields(V& v) {
        v("name", name), v("hash", hash);
    }
};

/// A file that parts name by its hash. Sent before the first part that needs it.
struct FileContent {
    static constexpr const char* kType = "file";
    std::uint64_t hash = 0;
    std::string content;
    template <class V>
    void fields(V& v) {
        v("hash", hash), v.blob("content", content);
    }
};

/// A part to be built, measured and shown. A newer one supersedes what it makes pointless.
struct PartToBuild {
    static constexpr const char* kType = "part";
    int version = kVersion, revision = 0;
    bool preview = false; ///< only built and shown
    bool measured = true; ///< false: nothing is measured or tried, for that killed the forge twice
    bool shown = true;    ///< false: no pictures either
    std::string text;     ///< as in its file, without attachments
    std::vector<FileUse> files;
    template <class V>
    void fields(V& v) {
        v("version", version), v("revision", revision), v("preview", preview), v("measured", measured),
            v("shown", shown), v("text", text), v("files", files);
    }
};

/// What to send besides, with every part from now on.
struct LookFor {
    static constexpr const char* kType = "look";
    bool places = false;
    int tracesOf = 0; ///< a drawing's step; 0: none
    int aidsOf = 0;   ///< a step whose handles and solid are shown; 0: none
    bool any() const { return places || tracesOf || aidsOf; }
    template <class V>
    void fields(V& v) {
        v("places", places), v("traces_of", tracesOf), v("aids_of", aidsOf);
    }
};

/// How a face or an edge that is pointed at can be referred to.
struct NameItem {
    static constexpr const char* kType = "name";
    int ask = 0;
    BodyId body;
    std::uint64_t content = 0; ///< of the surface that was pointed at
    bool edge = false;
    int item = 0; ///< as in the body's surface, from 0
    /// The step that is being filled in, by its id: what it makes itself is no answer. 0: none.
    int step = 0;
    template <class V>
    void fields(V& v) {
        v("ask", ask), v("body", body), v("content", content), v("edge", edge), v("item", item),
            v("step", step);
    }
};

/// Which faces and edges some references mean, as the part is built now.
struct FindItems {
    static constexpr const char* kType = "find";
    int ask = 0;
    std::vector<std::string> references;
    template <class V>
    void fields(V& v) {
        v("ask", ask), v("references", references);
    }
};

struct ExportBodies {
    static constexpr const char* kType = "export";
    int ask = 0, revision = 0;
    std::string path;
    bool evenIfStepsFail = false;
    std::vector<BodyId> bodies; ///< empty: all
    template <class V>
    void fields(V& v) {
        v("ask", ask), v("revision", revision), v("path", path), v("even_if_steps_fail", evenIfStepsFail),
            v("bodies", bodies);
    }
};

struct SolveTarget {
    static constexpr const char* kType = "solve";
    int ask = 0, revision = 0, target = 0;
    template <class V>
    void fields(V& v) {
        v("ask", ask), v("revision", revision), v("target", target);
    }
};

/// What one or two picked things measure, as the part is built now.
struct TakeReadings {
    static constexpr const char* kType = "read";
    int ask = 0;
    std::vector<std::string> picked; ///< as Target::of has them
    template <class V>
    void fields(V& v) {
        v("ask", ask), v("picked", picked);
    }
};

/// Leaves off what was asked; it is answered as stopped.
struct StopAsking {
    static constexpr const char* kType = "stop";
    int ask = 0;
    template <class V>
    void fields(V& v) {
        v("ask", ask);
    }
};

/// For tests of what the window does when the kernel goes wrong; only with GOOD_CURVE_DEBUG set.
struct Misbehave {
    static constexpr const char* kType = "debug";
    std::string how; ///< "crash", "hang", "memory", "nonsense"
    template <class V>
    void fields(V& v) {
        v("how", how);
    }
};

using ToForge = std::variant<FileContent, PartToBuild, LookFor, NameItem, FindItems, ExportBodies,
                             SolveTarget, TakeReadings, StopAsking, Misbehave>;

} // namespace gc::say
