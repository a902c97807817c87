#pragma once
/// \file Undo and redo as a row of earlier values of the part.

#include "core/document/part.hpp"

namespace gc {

/// The part now and what it was before every edit.
class History {
  public:
    explicit History(Part start) { m_states.push_back({std::move(start), {}}); }

    const Part& now() const { return m_states[m_at].part; }
    /// A new value after an edit. What was undone before it is gone.
    void commit(Part part, std::string what) {
        m_states.resize(m_at + 1);
        m_states.push_back({std::move(part), std::move(what)});
        ++m_at;
        constexpr std::size_t kMost = 500;
        if (m_states.size() > kMost) {
            m_states.erase(m_states.begin());
            --m_at;
        }
    }
    bool canUndo() const { return m_at > 0; }
    bool canRedo() const { return m_at + 1 < m_states.size(); }
    void undo() { m_at -= canUndo() ? 1 : 0; }
    void redo() { m_at += canRedo() ? 1 : 0; }
    /// What undo would take back, or redo would do again, in words; empty when there is nothing.
    std::string undoWords() const { return canUndo() ? m_states[m_at].what : std::string(); }
    std::string redoWords() const { return canRedo() ? m_states[m_at + 1].what : std::string(); }

    /// How many values there are to go back and forth between.
    std::size_t depth() const { return m_states.size(); }

  private:
    struct State {
        Part part;
        std::string what;
    };
    std::vector<State> m_states;
    std::size_t m_at = 0;
};

} // namespace gc
