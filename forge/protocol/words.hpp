#pragma once
/// \file What messages of both ways are made of: bodies, sentences, faults.

#include "core/base/thing.hpp"
#include "forge/protocol/codec.hpp"

namespace gc::say {

/// Goes up whenever a message changes: a window and a forge of different builds must not talk.
inline constexpr int kVersion = 3;

struct BodyId {
    int step = 0, ordinal = 0;
    BodyId() = default;
    BodyId(ThingId id) : step(id.step), ordinal(id.ordinal) {}
    operator ThingId() const { return {step, ordinal}; }
    template <class V>
    void fields(V& v) {
        v("step", step), v("ordinal", ordinal);
    }
};

/// A sentence with what it was made from: see core/base/message.hpp.
struct Words {
    std::string pattern;
    std::vector<Words> arguments;

    Words() = default;
    Words(const Message& m) : pattern(m.pattern()), arguments(m.arguments().begin(), m.arguments().end()) {}
    operator Message() const { return {pattern, {arguments.begin(), arguments.end()}}; }
    template <class V>
    void fields(V& v) {
        v("pattern", pattern), v("arguments", arguments);
    }
};

struct RemedyWords {
    int step = 0;
    std::string slot, value;
    Words sentence;
    bool tried = true;
    std::optional<int> before; ///< or the step goes before that one; 0: to the end
    template <class V>
    void fields(V& v) {
        v("step", step), v("slot", slot), v("value", value), v("sentence", sentence), v("tried", tried),
            v("before", before);
    }
};

/// Which of several is meant? A reference as a step has it, and a reference to each that may be meant.
struct WhichOne {
    std::string about;
    std::vector<std::string> answers;
    template <class V>
    void fields(V& v) {
        v("about", about), v("answers", answers);
    }
};

struct Fault {
    std::string code;
    Words sentence;
    std::vector<std::string> culprits;
    std::vector<RemedyWords> remedies;
    int position = -1;
    std::optional<WhichOne> question;
    std::optional<Vec3> place; ///< where what is lost was, mm
    template <class V>
    void fields(V& v) {
        v("code", code), v("sentence", sentence), v("culprits", culprits), v("remedies", remedies),
            v("position", position), v("question", question), v("place", place);
    }
};

} // namespace gc::say
