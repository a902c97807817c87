#pragma once
/// \file For .cpp files of this folder: the grammar of path data and of transform lists (SVG 1.1, 8.3
/// and 7.6).

#include "core/exchange/drawings/path_collector.hpp"

#include <string_view>

namespace gc {

/// Draws path data up to the first fault, as the standard asks for. \return false when there was one
bool drawPathData(std::string_view data, PathCollector& to);

/// "translate(3) rotate(30 2 2)" as one transform; faults end the list.
Affine transformList(std::string_view text);

/// Numbers one after the other, with blanks and commas between; stops at what is none.
class NumberScanner {
  public:
    explicit NumberScanner(std::string_view text) : m_text(text) {}
    bool number(double& out);
    /// A single 0 or 1, as arcs have them: they need no blank behind.
    bool flag(bool& out);
    /// The next letter, if one comes now; 0 otherwise.
    char letter();
    bool done();
    std::size_t position() const { return m_at; }

  private:
    void skip();
    std::string_view m_text;
    std::size_t m_at = 0;
};

} // namespace gc
