#include "app/look/words.hpp"

#include <QCoreApplication>

namespace gc::app {

namespace {

/// \param first what stands at the beginning of a sentence has a capital
QString put(const Message& message, bool first) {
    QString pattern = QCoreApplication::translate("core", message.pattern().c_str());
    if (message.arguments().empty()) return pattern;
    QString out;
    for (qsizetype i = 0; i < pattern.size(); ++i) {
        const int which = i + 1 < pattern.size() ? pattern[i + 1].digitValue() : 0;
        if (pattern[i] == QLatin1Char('%') && which > 0 &&
            which <= static_cast<int>(message.arguments().size())) {
            out += put(message.arguments()[static_cast<std::size_t>(which - 1)], first && out.isEmpty());
            ++i;
        } else {
            out += pattern[i];
        }
    }
    if (first && !out.isEmpty()) out[0] = out[0].toUpper();
    return out;
}

} // namespace

QString inWords(const Message& message) {
    return put(message, !message.arguments().empty());
}

} // namespace gc::app
