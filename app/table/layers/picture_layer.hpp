#pragma once
/// \file The picture that is drawn over.

#include "app/table/table_view.hpp"

#include <QImage>

class QPainter;

namespace gc::app {

/// \param picture as it was read; a null one cannot be read: its place is shown all the same
void paintPicture(QPainter& p, const TableView& view, const TracedPicture& placed, const QImage& picture);

} // namespace gc::app
