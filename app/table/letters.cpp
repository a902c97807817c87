#include "app/table/letters.hpp"

#include "core/exchange/drawings/drawing_files.hpp"

#include <QCoreApplication>
#include <QFont>
#include <QFontDatabase>
#include <QFontMetricsF>
#include <QPainterPath>
#include <QStringList>
#include <QTextBoundaryFinder>

#include <algorithm>
#include <array>

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

/// Where letters begin and end; a letter and what is put onto it are one. Scripts whose letters join or
/// change places stay whole.
std::vector<std::pair<int, int>> lettersIn(const QString& words) {
    constexpr std::array kApart{QChar::Script_Latin,    QChar::Script_Greek,     QChar::Script_Cyrillic,
                                QChar::Script_Common,   QChar::Script_Inherited, QChar::Script_Han,
                                QChar::Script_Hiragana, QChar::Script_Katakana,  QChar::Script_Hangul,
                                QChar::Script_Armenian, QChar::Script_Georgian};
    for (const uint c : words.toUcs4())
        if (std::find(kApart.begin(), kApart.end(), QChar::script(c)) == kApart.end())
            return {{0, static_cast<int>(words.size())}};
    std::vector<std::pair<int, int>> out;
    QTextBoundaryFinder ends(QTextBoundaryFinder::Grapheme, words);
    for (int from = 0, to = static_cast<int>(ends.toNextBoundary()); to > from;
         from = to, to = static_cast<int>(ends.toNextBoundary()))
        out.emplace_back(from, to);
    return out;
}

} // namespace

Result<Letters> lettersAsStrokes(const std::string& text, const std::string& family) {
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
    const QFontMetricsF metrics(f);
    const double scale = 1 / (metrics.capHeight() > 0 ? metrics.capHeight() : kLarge * 0.7);
    Letters out;
    bool any = false;
    for (const auto& [from, to] : lettersIn(words)) {
        const QString one = words.mid(from, to - from);
        Letters::Letter letter;
        letter.says = one.toStdString();
        // With what stands before it: pairs that belong together are set closer.
        letter.from = metrics.horizontalAdvance(words, from) * scale;
        letter.to = metrics.horizontalAdvance(words, to) * scale;
        QPainterPath path;
        path.addText(letter.from / scale, 0, f, one);
        if (!path.isEmpty()) {
            auto strokes = drawingFromPath(pathData(path, scale).toStdString());
            if (!strokes) return strokes.error();
            letter.strokes = std::move(*strokes);
            any = true;
        }
        out.all.push_back(std::move(letter));
    }
    if (!any)
        return fault(QCoreApplication::translate("Letters", "The font \"%1\" has no outlines for this text.")
                         .arg(font));
    return out;
}

} // namespace gc::app
