#pragma once
/// \file The look: warm paper, ink, one accent; light and dark.

#include <QColor>
#include <QFont>
#include <QList>
#include <QString>

namespace gc::app {

struct Theme {
    bool dark = false;
    QColor paper, paperDeep, card, ink, inkSoft, line, accent, accentSoft, halo, good, watch, fail, band;
    QColor clay, clayEdge, hatch;
    QList<QColor> bodies; ///< several bodies, told apart by lightness, too; the first is clay
    QList<QColor> dyes;   ///< more that a person may choose for a body
};

const Theme& theme();
void setDarkTheme(bool dark);
void loadFonts();
/// The shipped font at a size in pixels.
QFont textFont(int pixels, QFont::Weight weight = QFont::Medium);
/// Style for the standard fields, tables and lists.
QString applicationStyle();
/// A colour of the map for measures from 0 to 1: even in lightness and safe for colour-blind eyes.
QColor mapColour(double t);
/// From -1 (hollow) over 0 (flat) to 1 (bulging).
QColor bendColour(double share);

} // namespace gc::app
