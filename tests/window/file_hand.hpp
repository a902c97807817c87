#pragma once
/// \file Answering the question for a file from within: it has an event loop of its own.

#include "tests/window/hand.hpp"

#include <QApplication>
#include <QFileDialog>
#include <QLineEdit>
#include <QTimer>

#include <functional>

namespace gc::test {

/// Types a path once the question stands. \param look has to live until then \param asked what the question
/// is held to
inline void answerFile(QTimer& look, const QString& path,
                       const std::function<void(const QFileDialog&)>& asked = {}) {
    look.setInterval(50);
    QObject::connect(&look, &QTimer::timeout, &look, [&look, path, asked] {
        auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
        if (!dialog || !dialog->isVisible()) return;
        look.stop();
        auto* field = dialog->findChild<QLineEdit*>();
        REQUIRE(field);
        if (asked) asked(*dialog);
        REQUIRE(Hand::steady([&] { return QPointF(field->mapToGlobal(QPoint())); }));
        Hand in(dialog);
        in.click(field, QPointF(field->rect().center()));
        in.press("a", true);
        in.type(path);
        in.press("Return");
    });
    look.start();
}

} // namespace gc::test
