#pragma once
/// \file Failure as a value. No exception crosses a layer of core/; a function that can fail returns
/// Result<T>.

#include "core/base/message.hpp"
#include "core/base/vec.hpp"

#include <optional>
#include <string>
#include <utility>
#include <variant>
#include <vector>

namespace gc {

/// A way out of a failure: what the sheet offers for one click.
struct Remedy {
    int step = 0;      ///< id of the step whose slot changes; 0 when nothing can be set by itself
    std::string slot;  ///< the slot's key
    std::string value; ///< the new text for the slot, as a user would type it
    Message sentence;  ///< what it does, in words ("11.6 mm works")
    bool tried = true; ///< and works; else it is what the failure itself says
    /// Or the step goes before that one in the sheet; 0: to the end. Then no slot changes.
    std::optional<int> before{};
};

/// What only a person can say: several things fit what a step refers to.
struct Question {
    std::string about;                ///< the reference as the step has it
    std::vector<std::string> answers; ///< a reference to each that may be meant, the likeliest first
};

/// Why something could not be done. The sentence is for the user: plain, specific, and says what to do.
struct Error {
    std::string code;                   ///< short and stable, for tests and for programs ("shell.too-thick")
    Message sentence;                   ///< what a person reads
    std::vector<std::string> culprits;  ///< names of the faces, edges, rows or values to blame
    std::vector<Remedy> remedies;       ///< tried ways out, best first
    std::optional<Question> question{}; ///< what a click in the stand would answer
    std::optional<Vec3> place{};        ///< where it was, or is, in the part; mm
    int position = -1;                  ///< character position in the text that was read, or row of a table
};

/// An Error with nothing but its code and its sentence.
inline Error errorOf(std::string code, Message sentence) {
    Error e;
    e.code = std::move(code);
    e.sentence = std::move(sentence);
    return e;
}

/// Either a value or an Error. Asking for the one that is not there is a programming error.
template <class T>
class [[nodiscard]] Result {
  public:
    Result(T value) : m_content(std::move(value)) {}
    Result(Error error) : m_content(std::move(error)) {}

    bool ok() const { return std::holds_alternative<T>(m_content); }
    explicit operator bool() const { return ok(); }

    const T& value() const& { return std::get<T>(m_content); }
    T& value() & { return std::get<T>(m_content); }
    T&& value() && { return std::get<T>(std::move(m_content)); }
    const T& operator*() const& { return value(); }
    T& operator*() & { return value(); }
    const T* operator->() const { return &value(); }
    T* operator->() { return &value(); }

    const Error& error() const { return std::get<Error>(m_content); }

  private:
    std::variant<T, Error> m_content;
};

/// The Result of something that has no value to give.
struct Done {};

} // namespace gc
