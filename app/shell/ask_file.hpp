#pragma once
/// \file Where a file is to be written.

#include <QString>

class QWidget;

namespace gc::app {

/// Asks for a name. The ending is added before the question whether a file of that name may be replaced, so
/// that it is asked of the very file that is written. \param filter as file dialogs have them \param ending
/// without its point \return empty when nothing is to be written
QString askWhereToWrite(QWidget* window, const QString& title, const QString& start, const QString& filter,
                        const QString& ending);

} // namespace gc::app
