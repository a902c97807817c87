#include "app/table/letters.hpp"

#include "core/exchange/drawings/drawing_files.hpp"

#include <QCoreApplication>
#include <QFont>
#include <QFontDatabase>
#include <QFontMetricsF>
#include <QPainterPath>
#include <QStringList>

namespace gc::app {

namespace {

Error fault(const QString& sentence) {
    return errorOf("text", sentence.toStdString());
}

/// As path data with y up, capitals 1 high.
QString pathData(const QPainterPath& path, double scale) {
    QString out;
    const auto at = [&](int i) {
        const QPainterPath::Element e = path.elementAt(i);
        return QStringLiteral("%1 %2 ").arg(e.x * scale, 0, 'f', 9).arg(-e.y * scale, 0, 'f', 9);
    };
    for (int i = 0; i < path.elementCount(); ++i) {
        const auto kind = path.elementAt(i).type;
        if (kind == QPainterPath::CurveToElement) {
            out += QStringLiteral("C ") + at(i) + at(i + 1) + at(i + 2);
            i += 2;
        } else { // a letter's outline ends where it began
            out +=
                (kind == QPainterPath::MoveToElement ? QStringLiteral("M ") : QStringLiteral("L ")) + at(i);
        }
    }
    return out;
}

} // namespace

Result<Drawing> lettersAsStrokes(const std::string& text, const std::string& family) {
    constexpr int kMostLetters = 120;
    const QString words = QString::fromStdString(text).trimmed(),
                  font = QString::fromStdString(family).trimmed();
    if (words.isEmpty()) return fault(QCoreApplication::translate("Letters", "Type the text to write."));
    if (words.size() > kMostLetters)
        return fault(
            QCoreApplication::translate("Letters", "That is a long text for one drawing: %1 letters at most.")
                .arg(kMostLetters));
    if (!QFontDatabase::families().contains(font, Qt::CaseInsensitive))
        return fault(QCoreApplication::translate(
                         "Letters", "There is no font \"%1\" on this computer. \"Manrope\" is always there.")
                         .arg(font));
    QFont f(font);
    constexpr int kLarge = 1000; // hinting does not show at this size
    f.setPixelSize(kLarge);
    f.setHintingPreference(QFont::PreferNoHinting);
    QPainterPath path;
    path.addText(0, 0, f, words);
    if (path.isEmpty())
        return fault(QCoreApplication::translate("Letters", "The font \"%1\" has no outlines for this text.")
                         .arg(font));
    const double capital = QFontMetricsF(f).capHeight();
    return drawingFromPath(pathData(path, 1 / (capital > 0 ? capital : kLarge * 0.7)).toStdString());
}

} // namespace gc::app
