#pragma once
/// \file An expression cut into numbers, words and signs.

#include "core/base/result.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace gc {

struct Token {
    enum class Kind { Number, Word, Operator, End };
    Kind kind = Kind::End;
    std::string text;
    double number = 0;
    int position = 0; ///< in bytes
};

/// The tokens, the last of them an End. A comma between two digits is a decimal comma, but between the
/// brackets of a function it parts two values, unless semicolons do that there. Where both readings are
/// likely, as in "1,000 mm", it is an error that asks.
Result<std::vector<Token>> tokenize(std::string_view text);

bool isFunction(std::string_view word);
/// Bytes of letters, of any alphabet.
bool isWordByte(unsigned char c);
Error syntaxError(Message sentence, int position);

} // namespace gc
