#pragma once
/// \file For .cpp files of this folder: slots in one line each.

#include "core/document/step_words.hpp"

namespace gc {

inline SlotWords length(std::string key, std::string label, std::string fallback, double most = 2000) {
    SlotWords s;
    s.key = std::move(key);
    s.label = std::move(label);
    s.dimension = kLength;
    s.fallback = std::move(fallback);
    s.most = most;
    return s;
}

inline SlotWords slot(std::string key, std::string label, SlotType type, std::string fallback = {}) {
    SlotWords s;
    s.key = std::move(key);
    s.label = std::move(label);
    s.type = type;
    s.fallback = std::move(fallback);
    return s;
}

inline std::vector<Choice> choicesOf(const std::vector<std::string>& keys) {
    return {keys.begin(), keys.end()};
}
inline SlotWords choice(std::string key, std::string label, std::vector<Choice> choices) {
    SlotWords s = slot(std::move(key), std::move(label), SlotType::Choice, choices.front().key);
    s.choices = std::move(choices);
    return s;
}

/// The slot by which a step names what it makes.
inline SlotWords naming(Thing thing, const std::string& key, std::string fallback) {
    SlotWords s = slot(key, key, SlotType::NewName, std::move(fallback));
    s.names = thing;
    return s;
}

} // namespace gc
