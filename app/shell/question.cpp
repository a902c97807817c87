#include "app/shell/question.hpp"

#include <QCoreApplication>
#include <QPushButton>

namespace gc::app {

Question::Question(QWidget* window, const char* name, const QString& text, const QStringList& answers)
    : m_box(QMessageBox::NoIcon, QCoreApplication::applicationName(), text, QMessageBox::NoButton, window) {
    m_box.setObjectName(QLatin1String(name));
    for (const QString& answer : answers)
        m_answers << m_box.addButton(answer, m_answers.isEmpty() ? QMessageBox::AcceptRole
                                             : m_answers.size() + 1 < answers.size()
                                                 ? QMessageBox::DestructiveRole
                                                 : QMessageBox::RejectRole);
    m_box.setDefaultButton(m_answers.first());
    m_box.setEscapeButton(m_answers.last());
}

int Question::ask() {
    m_box.exec();
    const auto at = m_answers.indexOf(static_cast<QPushButton*>(m_box.clickedButton()));
    return static_cast<int>(at < 0 ? m_answers.size() - 1 : at);
}

} // namespace gc::app
