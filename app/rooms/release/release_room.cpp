#include "app/rooms/release/release_room.hpp"

#include "app/link/forge_link.hpp"
#include "app/rooms/release/export_choice.hpp"
#include "app/sentence/sentence_bar.hpp"
#include "app/shell/ask_file.hpp"
#include "app/shell/question.hpp"
#include "app/shell/session.hpp"
#include "core/document/aside.hpp"

#include <QFileInfo>

#include <algorithm>

namespace gc::app {

ReleaseRoom::ReleaseRoom(House& shared, QObject* parent)
    : Room(QStringLiteral("Release"), shared, parent), m_page(new ReleasePage) {
    connect(shared.forge, &ForgeLink::exported, this,
            [this](const QString& path, const QString& error, const QStringList& notes) {
                house().bar->say(!error.isEmpty() ? QStringLiteral("■ ") + error
                                 : notes.isEmpty()
                                     ? tr("✓ Written: %1").arg(path)
                                     : tr("▲ Written: %1. %2").arg(path, notes.join(QLatin1Char(' '))));
            });
    connect(shared.forge, &ForgeLink::exportAsks, this, &ReleaseRoom::askAboutFailing, Qt::QueuedConnection);
    connect(m_page, &ReleasePage::exportAsked, this, [this](const QString& ending) {
        if (const QString path = askWhere(tr("Export"), suggestedPath(ending), ending); !path.isEmpty())
            exportTo(path);
    });
    connect(m_page, &ReleasePage::proofSheetAsked, this, [this](const QString& ending) {
        const QString path =
            askWhere(tr("Proof sheet"), suggestedPath(QStringLiteral("-proof") + ending), ending);
        if (path.isEmpty() || !writeProofSheet(path)) return;
        house().bar->say(
            house().forge->hasMeasured()
                ? tr("✓ Written: %1").arg(path)
                : tr("▲ Written without measures, as the part is still being measured: %1").arg(path));
    });
}

QString ReleaseRoom::askWhere(const QString& title, const QString& start, const QString& ending) const {
    const QString kind = ending.mid(1);
    return askWhereToWrite(house().window, title, start,
                           QStringLiteral("%1 (*.%2)").arg(kind.toUpper(), kind), kind);
}

/// Beside the part's file, named like the part.
QString ReleaseRoom::suggestedPath(const QString& ending) const {
    return QFileInfo(house().session->file()).absolutePath() + QLatin1Char('/') +
           QString::fromStdString(house().session->part().name)
               .toLower()
               .replace(QLatin1Char(' '), QLatin1Char('-'))
               .replace(QLatin1Char('/'), QLatin1Char('-')) +
           ending;
}

/// The part as it is written: whole, unless the bookmark stands before its end and a person wants it as it is
/// there. Nothing when nothing is to be written.
std::optional<Part> ReleaseRoom::askAboutBookmark() const {
    Part part = house().session->part();
    const int shown = part.shownSteps(), all = static_cast<int>(part.steps.size());
    if (shown == all) return part;
    Question ask(house().window, "bookmark",
                 tr("The bookmark stands after step %1 of %2: the stand shows the part as it is there.")
                     .arg(shown)
                     .arg(all),
                 {tr("Write the whole part"), tr("Write it as it is there"), tr("Do not write")});
    const int answer = ask.ask();
    if (answer == 2) return std::nullopt;
    if (answer == 0) part.bookmark = -1;
    return part;
}

void ReleaseRoom::exportTo(const QString& path) {
    auto part = askAboutBookmark();
    if (!part) return house().bar->say(tr("Nothing is written."));
    m_part = std::move(*part);
    exportBodies(path);
}

void ReleaseRoom::exportBodies(const QString& path) {
    const auto& meshes = house().forge->meshes();
    if (!path.endsWith(QLatin1String(".stl"), Qt::CaseInsensitive) || meshes.size() < 2)
        return write(path, {});
    const Part& part = m_part;
    std::vector<ExportChoice::Body> bodies;
    for (const auto& [id, mesh] : meshes)
        bodies.push_back(
            {id, QString::fromStdString(nameOfBody(part, id)), lookOf(part, id).hidden, isAside(part, id)});
    ExportChoice choice(bodies, house().window);
    if (choice.exec() != QDialog::Accepted) return house().bar->say(tr("Nothing is written."));
    const auto wanted = choice.bodies();
    // None named is all of the product.
    const bool all = wanted.size() == bodies.size() &&
                     std::none_of(bodies.begin(), bodies.end(), [](const auto& b) { return b.aside; });
    if (!choice.apart()) return write(path, all ? std::vector<ThingId>() : wanted);
    const QFileInfo file(path);
    for (const ThingId id : wanted)
        write(file.path() + QLatin1Char('/') + file.completeBaseName() + QLatin1Char('-') +
                  QString::fromStdString(nameOfBody(part, id))
                      .replace(QLatin1Char(' '), QLatin1Char('-'))
                      .remove(QLatin1Char('/')) +
                  QStringLiteral(".stl"),
              {id});
}

void ReleaseRoom::write(const QString& path, const std::vector<ThingId>& bodies, bool evenIfStepsFail) {
    m_exports[path] = bodies;
    house().forge->exportPart(m_part, path, evenIfStepsFail, bodies);
}

/// Steps fail, so the file would show less than the sheet says: that is not done without a word.
void ReleaseRoom::askAboutFailing(const QString& path, const std::vector<int>& steps) {
    QStringList numbers;
    for (const int id : steps) numbers << QString::number(house().session->part().placeOf(id));
    const QString which = numbers.size() == 1 ? tr("Step %1 fails").arg(numbers.front())
                                              : tr("Steps %1 fail").arg(numbers.join(QStringLiteral(", ")));
    Question ask(
        house().window, "failingSteps",
        tr("%1, so the file would show the part without what is missing there. Nothing is written yet.")
            .arg(which),
        {tr("Write it all the same"), tr("Mend it first")});
    if (ask.ask() == 0)
        write(path, m_exports[path], true);
    else
        house().bar->say(tr("▲ Not written. %1: the sheet says why.").arg(which));
}

} // namespace gc::app
