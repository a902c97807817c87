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

/// More than nothing, in rad.
inline SlotWords angle(std::string key, std::string label, std::string fallback, double most) {
    SlotWords s = slot(std::move(key), std::move(label), SlotType::Quantity, std::move(fallback));
    s.dimension = kAngle;
    s.most = most;
    return s;
}
/// Either way round, in rad.
inline SlotWords turnEitherWay(std::string key, std::string label, std::string fallback, double most) {
    SlotWords s = angle(std::move(key), std::move(label), std::move(fallback), most);
    s.least = -most;
    s.leastAllowed = true;
    return s;
}
/// A plain number, more than nothing.
inline SlotWords factor(std::string key, std::string label, std::string fallback, double most) {
    SlotWords s = slot(std::move(key), std::move(label), SlotType::Quantity, std::move(fallback));
    s.dimension = kNumber;
    s.most = most;
    return s;
}
/// A whole number.
inline SlotWords counted(std::string key, std::string label, std::string fallback, double least,
                         double most) {
    SlotWords s = slot(std::move(key), std::move(label), SlotType::Count, std::move(fallback));
    s.least = least;
    s.most = most;
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
