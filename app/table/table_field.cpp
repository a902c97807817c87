#include "app/table/table_field.hpp"

#include "app/look/theme.hpp"

#include <QKeyEvent>

#include <algorithm>
#include <utility>

namespace gc::app {

TableField::TableField(QWidget* table) : QObject(table), m_edit(new QLineEdit(table)) {
    m_edit->setFont(textFont(13, QFont::DemiBold));
    m_edit->setAlignment(Qt::AlignCenter);
    m_edit->hide();
    m_edit->installEventFilter(this);
    connect(m_edit, &QLineEdit::textEdited, this, [this] { // what is typed stays in sight
        const int wide = m_edit->fontMetrics().horizontalAdvance(m_edit->text()) + 30;
        if (wide <= m_edit->width()) return;
        const int room = m_edit->parentWidget()->width() - 8;
        m_edit->resize(std::min(wide, room), m_edit->height());
        m_edit->move(std::clamp(m_edit->x(), 4, 4 + room - m_edit->width()), m_edit->y());
    });
}

void TableField::open(const QString& text, QPointF at, int width, Use use) {
    m_use = std::move(use);
    m_marked = {};
    m_edit->setText(text);
    m_edit->resize(width, 28);
    m_edit->move(at.toPoint());
    m_edit->show();
    m_edit->setFocus();
}

bool TableField::close(bool keep) {
    if (!isOpen()) return true;
    const auto keepIt = m_use.keep; // a copy: what it does may close the field itself
    if (keep && !keepIt(m_edit->text())) {
        m_edit->setFocus();
        return false;
    }
    if (!isOpen()) return true;
    const Use use = std::exchange(m_use, {});
    m_edit->hide();
    m_edit->setPlaceholderText({});
    m_edit->parentWidget()->setFocus();
    use.closed(keep);
    return true;
}

void TableField::insert(const QString& text) {
    if (m_marked.second > 0) m_edit->setSelection(m_marked.first, m_marked.second);
    m_marked = {};
    m_edit->insert(text);
    grow();
    m_edit->setFocus();
}

void TableField::grow() {
    m_edit->resize(std::max(96, m_edit->fontMetrics().horizontalAdvance(m_edit->text()) + 30), 28);
}

bool TableField::eventFilter(QObject* o, QEvent* e) {
    if (e->type() == QEvent::FocusOut)
        m_marked = {m_edit->selectionStart(), static_cast<int>(m_edit->selectedText().size())};
    if (e->type() == QEvent::ShortcutOverride) {
        // With nothing typed to take back, Ctrl+Z is the part's.
        if (static_cast<QKeyEvent*>(e)->matches(QKeySequence::Undo) && !m_edit->isUndoAvailable()) {
            e->ignore();
            return true;
        }
    }
    if (e->type() == QEvent::MouseButtonDblClick) { // of a figure all is meant, not a word of it
        m_edit->selectAll();
        return true;
    }
    if (e->type() != QEvent::KeyPress) return QObject::eventFilter(o, e);
    const int key = static_cast<QKeyEvent*>(e)->key();
    if (key == Qt::Key_Return || key == Qt::Key_Enter)
        close(true);
    else if (key == Qt::Key_Escape)
        close(false);
    else if (key == Qt::Key_Tab && m_use.next)
        std::function(m_use.next)(); // it opens another figure, and with it another use
    else
        return QObject::eventFilter(o, e);
    m_edit->parentWidget()->update();
    return true;
}

} // namespace gc::app
