#include "app/sentence/take_file.hpp"

#include "app/look/words.hpp"
#include "core/base/file.hpp"
#include "core/base/utf8.hpp"
#include "core/document/limits.hpp"

#include <QFileDialog>
#include <QFileInfo>

namespace gc::app {

TakenFile takeFile(QWidget* window, const StepWords& step, const SlotWords& slot, Part& part) {
    QStringList endings;
    for (const std::string& e : slot.endings) {
        const QString ending = QStringLiteral("*.") + QString::fromStdString(e);
        endings << ending << ending.toUpper();
    }
    const QString path = QFileDialog::getOpenFileName(
        window, inWords(step.verb), {},
        QStringLiteral("%1 (%2)").arg(inWords(slot.filesCalled), endings.join(QLatin1Char(' '))));
    if (path.isEmpty()) return {};
    const auto content = readFile(path.toStdString(), kMostAttachedBytes);
    if (!content) return {{}, QStringLiteral("■ ") + inWords(content.error().sentence)};
    const std::string name = QFileInfo(path).fileName().toStdString();
    // Files from elsewhere may hold bytes that are no text: letters are made such, triangles go as base64.
    const bool text = content->find("ISO-10303-21") != std::string::npos;
    const std::string held =
        text ? madeUtf8(*content)
             : QByteArray(content->data(), static_cast<qsizetype>(content->size())).toBase64().toStdString();
    return {attach(part, name, SharedText(held)), {}};
}

} // namespace gc::app
