#include "app/look/theme.hpp"

#include <QFontDatabase>

#include <algorithm>
#include <array>
#include <cmath>

namespace gc::app {

namespace {

/// The same in every look: a person chose them.
QList<QColor> dyes() {
    return {"#A8452F", "#D98C3F", "#6E8B4E", "#3F6E6A", "#4A5F94", "#4A4642"};
}

Theme lightTheme() {
    Theme t;
    t.paper = "#F4F0E6";
    t.paperDeep = "#E9E2D2";
    t.card = "#FCFAF4";
    t.ink = "#1F2B33";
    t.inkSoft = "#5A6468";
    t.line = "#D5CDBB";
    t.accent = "#B5402C";
    t.accentSoft = "#FBEBDD";
    t.halo = "#E0A030";
    t.good = "#2C6B4A";
    t.watch = "#8A6100";
    t.fail = "#B5402C";
    t.band = "#9DB3A4";
    t.clay = "#C98A66";
    t.clayEdge = "#3A2A22";
    t.hatch = "#B5402C";
    t.bodies = {t.clay, "#A9BDB0", "#5F7A8C", "#DDBF82", "#8A6A7E", "#D8D2C4"};
    t.dyes = dyes();
    return t;
}

Theme darkTheme() {
    Theme t;
    t.dark = true;
    t.paper = "#22282C";
    t.paperDeep = "#181D20";
    t.card = "#2B3237";
    t.ink = "#EDE7DA";
    t.inkSoft = "#B3B3AA";
    t.line = "#434B50";
    t.accent = "#EE8A72";
    t.accentSoft = "#46332D";
    t.halo = "#F0B84C";
    t.good = "#86CFA6";
    t.watch = "#E5BC5E";
    t.fail = "#F09079";
    t.band = "#4E6B5C";
    t.clay = "#B97C5A";
    t.clayEdge = "#120D0A";
    t.hatch = "#EE8A72";
    t.bodies = {t.clay, "#8FA598", "#56707F", "#C4A66C", "#7D6073", "#B5B0A4"};
    t.dyes = dyes();
    return t;
}

Theme g_theme = lightTheme();

} // namespace

const Theme& theme() {
    return g_theme;
}
void setDarkTheme(bool dark) {
    g_theme = dark ? darkTheme() : lightTheme();
}

void loadFonts() {
    for (const char* weight : {"Regular", "Medium", "SemiBold", "Bold"})
        QFontDatabase::addApplicationFont(
            QStringLiteral(":/fonts/Manrope-%1.ttf").arg(QLatin1String(weight)));
}

QFont textFont(int pixels, QFont::Weight weight) {
    QFont f(QStringLiteral("Manrope"));
    f.setPixelSize(pixels);
    f.setWeight(weight);
    return f;
}

QString applicationStyle() {
    const Theme& t = theme();
    return QStringLiteral(R"(
        QWidget { color: %1; }
        QLineEdit, QPlainTextEdit, QTableWidget { background: %2; border: 1px solid %3; border-radius: 6px; padding: 3px 6px; selection-background-color: %4; selection-color: %2; }
        QLineEdit:focus, QPlainTextEdit:focus { border: 1px solid %4; }
        QComboBox QAbstractItemView, QMenu { background: %2; border: 1px solid %3; color: %1; selection-background-color: %5; selection-color: %1; }
        QMenu::item { padding: 5px 18px; }
        QMenu::item:selected { background: %5; }
        QTableWidget { gridline-color: %3; padding: 0; }
        QHeaderView { background: %6; } QTableCornerButton::section { background: %6; border: 0; } QHeaderView::section { background: %6; border: 0; border-bottom: 1px solid %3; padding: 4px 6px; color: %7; }
        QPushButton { background: %2; border: 1px solid %3; border-radius: 7px; padding: 6px 14px; }
        QFrame#waysStrip, QFrame#bodiesStrip, QFrame#measureStrip, QFrame#fileBodies { background: %2; border: 1px solid %3; border-radius: 9px; }
        QFrame#fileBodies QListWidget { background: transparent; border: 0; outline: 0; }
        QFrame#fileBodies QListWidget::item { border-top: 1px solid %3; padding: 2px; color: %1; }
        QFrame#fileBodies QListWidget::item:hover, QFrame#fileBodies QListWidget::item:focus { background: %5; }
        QListWidget::indicator { width: 14px; height: 14px; border: 1px solid %7; border-radius: 4px; background: %2; }
        QListWidget::indicator:checked { border: 1px solid %4; background: %4; image: url(:/tick.svg); }
        QFrame#measureStrip QToolButton { background: %6; border: 1px solid %3; border-radius: 6px; padding: 3px 9px; }
        QFrame#measureStrip QToolButton:hover { border: 1px solid %4; color: %4; }
        QCheckBox::indicator { width: 14px; height: 14px; border: 1px solid %7; border-radius: 4px; background: %2; }
        QCheckBox::indicator:checked { border: 1px solid %4; background: %4; image: url(:/tick.svg); }
        QPushButton#sight { background: transparent; border: 0; padding: 2px; }
        QPushButton#sight:hover { color: %4; }
        QPushButton:hover { border: 1px solid %4; }
        QPushButton:focus { border: 1px solid %4; }
        QFrame#firstPart { background: %5; border: 0; border-bottom: 1px solid %3; }
        QPushButton:checked { background: %5; border: 1px solid %4; color: %4; }
        QPushButton:disabled { color: %7; }
        QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: 0; }
        QScrollBar:vertical { width: 8px; background: transparent; }
        QScrollBar:horizontal { height: 8px; background: transparent; }
        QScrollBar::handle:horizontal { background: %3; border-radius: 4px; min-width: 30px; }
        QAbstractScrollArea::corner { background: transparent; }
        QScrollBar::handle:vertical { background: %3; border-radius: 4px; min-height: 30px; }
        QScrollBar::add-line, QScrollBar::sub-line { height: 0; width: 0; }
        QToolTip { background: %2; color: %1; border: 1px solid %3; }
        QDialog, QMessageBox, QFileDialog { background: %6; }
    )")
        .arg(t.ink.name(), t.card.name(), t.line.name(), t.accent.name(), t.accentSoft.name(), t.paper.name(),
             t.inkSoft.name());
}

QColor bendColour(double share) {
    // Blue and rust differ for all kinds of sight; both are darker than what is flat.
    const QColor flat(theme().dark ? "#b9b3a4" : "#efeadd"), end(share < 0 ? "#1f5c99" : "#a8480f");
    const float t = static_cast<float>(std::min(1.0, std::fabs(share)));
    const auto mix = [t](float a, float b) { return a + t * (b - a); };
    return QColor::fromRgbF(mix(flat.redF(), end.redF()), mix(flat.greenF(), end.greenF()),
                            mix(flat.blueF(), end.blueF()));
}

QColor mapColour(double t) {
    // Dark violet over teal to yellow; lightness rises evenly (CIE L* about 20 to 90).
    static constexpr std::array<std::array<double, 3>, 6> stops{{{0.20, 0.11, 0.36},
                                                                 {0.18, 0.29, 0.54},
                                                                 {0.12, 0.47, 0.56},
                                                                 {0.18, 0.63, 0.48},
                                                                 {0.55, 0.77, 0.29},
                                                                 {0.96, 0.90, 0.25}}};
    t = std::clamp(t, 0.0, 1.0) * 5;
    const auto i = std::min<std::size_t>(4, static_cast<std::size_t>(t));
    const double f = t - static_cast<double>(i);
    auto mix = [&](std::size_t c) { return stops[i][c] + f * (stops[i + 1][c] - stops[i][c]); };
    return QColor::fromRgbF(static_cast<float>(mix(0)), static_cast<float>(mix(1)),
                            static_cast<float>(mix(2)));
}

} // namespace gc::app
