// The changes of an open sentence: taken back and made again one by one.

#include "app/sentence/sentence_bar.hpp"

namespace gc::app {

void SentenceBar::remember(const Step& before) {
    if (*m_draft == before) return;
    m_before.push_back(before);
    m_after.clear();
}

void SentenceBar::forgetChanges() {
    m_before.clear();
    m_after.clear();
    m_fault.clear();
    m_way.reset();
    m_scrubbed.clear();
}

void SentenceBar::tellChanged() {
    refresh();
    if (m_isEdit)
        Q_EMIT editChanged(*m_draft);
    else
        Q_EMIT draftChanged();
}

/// From one row of changes to the other.
void SentenceBar::step(std::vector<Step>& from, std::vector<Step>& to) {
    to.push_back(*m_draft);
    m_draft = from.back();
    from.pop_back();
    m_scrubbed.clear();
    m_message.clear();
    m_fault.clear();
    tellChanged();
}

bool SentenceBar::undo() {
    if (!m_draft) return false;
    m_before.empty() ? drop() : step(m_before, m_after);
    return true;
}

bool SentenceBar::redo() {
    if (!m_draft) return false;
    if (!m_after.empty()) step(m_after, m_before); // kept edits are not touched while a sentence is open
    return true;
}

void SentenceBar::showFault(const QString& fault, const std::vector<RemedyView>& ways) {
    std::optional<RemedyView> way;
    for (const RemedyView& w : ways)
        if (!way && m_draft && w.step == m_draft->id && !w.before) way = w;
    if (fault == m_fault && way == m_way) return;
    m_fault = fault;
    m_way = way;
    resizeEvent(nullptr);
    update();
}

} // namespace gc::app
