#include "app/shell/ask_file.hpp"

#include <QFileDialog>

namespace gc::app {

QString askWhereToWrite(QWidget* window, const QString& title, const QString& start, const QString& filter,
                        const QString& ending) {
    QFileDialog dialog(window, title, {}, filter);
    dialog.setAcceptMode(QFileDialog::AcceptSave);
    dialog.setDefaultSuffix(ending);
    dialog.selectFile(start);
    // A drawing may be written in more than one format: the ending follows the one that is chosen.
    QObject::connect(&dialog, &QFileDialog::filterSelected, &dialog, [&dialog](const QString& chosen) {
        const auto from = chosen.indexOf(QStringLiteral("*.")) + 2,
                   to = chosen.indexOf(QLatin1Char(')'), from);
        if (from > 1 && to > from)
            dialog.setDefaultSuffix(chosen.mid(from, to - from).section(QLatin1Char(' '), 0, 0));
    });
    if (dialog.exec() != QDialog::Accepted || dialog.selectedFiles().isEmpty()) return {};
    return dialog.selectedFiles().first();
}

} // namespace gc::app
