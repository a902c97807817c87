#include "core/base/message.hpp"

#include <cctype>

namespace gc {

/// \param first it stands at the beginning of a sentence
std::string Message::written(bool first) const {
    if (m_arguments.empty()) return m_pattern;
    std::string out;
    for (std::size_t i = 0; i < m_pattern.size(); ++i) {
        const char next = i + 1 < m_pattern.size() ? m_pattern[i + 1] : '\0';
        const auto which = static_cast<std::size_t>(next - '1');
        if (m_pattern[i] == '%' && next >= '1' && next <= '9' && which < m_arguments.size()) {
            out += m_arguments[which].written(first && out.empty());
            ++i;
        } else {
            out += m_pattern[i];
        }
    }
    if (first && m_pattern.starts_with('%') && !out.empty())
        out[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(out[0])));
    return out;
}

} // namespace gc
