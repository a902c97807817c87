#pragma once
/// \file Sentences for people. Core speaks English; a sentence keeps the pattern that it was made from and
/// what stands in it, so that the window can put the pattern into a person's own language.

#include <ostream>
#include <string>
#include <utility>
#include <vector>

namespace gc {

class Message {
  public:
    Message() = default;
    Message(std::string plain) : m_pattern(std::move(plain)) {}
    Message(const char* plain) : m_pattern(plain) {}
    Message(std::string pattern, std::vector<Message> arguments)
        : m_pattern(std::move(pattern)), m_arguments(std::move(arguments)) {}

    /// "A radius of %1 does not fit." Without arguments it is taken as it is.
    const std::string& pattern() const { return m_pattern; }
    const std::vector<Message>& arguments() const { return m_arguments; }
    bool empty() const { return m_pattern.empty(); }

    /// In English. What begins with an argument begins with a capital all the same.
    std::string text() const { return written(true); }
    operator std::string() const { return text(); }

    /// The same with every plain text in it put otherwise: names instead of ids.
    template <class Put>
    Message putOtherwise(const Put& put) const {
        if (m_arguments.empty()) return Message(put(m_pattern));
        std::vector<Message> arguments;
        for (const Message& a : m_arguments) arguments.push_back(a.putOtherwise(put));
        return {m_pattern, std::move(arguments)};
    }

    friend bool operator==(const Message& a, const Message& b) {
        return a.m_pattern == b.m_pattern && a.m_arguments == b.m_arguments;
    }
    friend bool operator==(const Message& a, const std::string& b) { return a.text() == b; }
    friend bool operator==(const Message& a, const char* b) { return a.text() == b; }
    friend std::ostream& operator<<(std::ostream& out, const Message& m) { return out << m.text(); }

  private:
    std::string written(bool first) const;

    std::string m_pattern;
    std::vector<Message> m_arguments;
};

/// A sentence of a pattern with %1 to %9 and what stands there. The pattern is written out where it is used:
/// that is where catalogues of translations collect it.
template <class... Arguments>
Message phrase(const char* pattern, Arguments&&... arguments) {
    static_assert(sizeof...(arguments) <= 9);
    return {pattern, std::vector<Message>{Message(std::forward<Arguments>(arguments))...}};
}

} // namespace gc
