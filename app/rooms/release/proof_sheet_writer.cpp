// The proof sheet from the window: pictures of the stand, measures, sentences; as a page or as PDF.

#include "app/link/forge_link.hpp"
#include "app/look/theme.hpp"
#include "app/look/words.hpp"
#include "app/rooms/release/release_room.hpp"
#include "app/sentence/sentence_bar.hpp"
#include "app/sheet/gauges.hpp"
#include "app/shell/session.hpp"
#include "app/stand/stand.hpp"

#include "core/base/file.hpp"
#include "core/report/proof_sheet.hpp"

#include <QBuffer>
#include <QDate>
#include <QLocale>
#include <QPageSize>
#include <QPdfWriter>
#include <QTextDocument>

#include <algorithm>

namespace gc::app {

namespace {

std::string base64Png(const QImage& image) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    image.scaledToWidth(std::min(900, image.width()), Qt::SmoothTransformation).save(&buffer, "PNG");
    return bytes.toBase64().toStdString();
}

} // namespace

bool ReleaseRoom::writeProofSheet(const QString& path) {
    const Part& part = house().session->part();
    ProofSheet sheet;
    sheet.part = part.name;
    sheet.purpose = part.brief.purpose;
    sheet.process = part.brief.process;
    sheet.material = part.brief.material;
    sheet.caution = part.brief.caution;
    sheet.date = QLocale().toString(QDate::currentDate(), QLocale::LongFormat).toStdString();
    // Only what was measured of this very part stands on its sheet.
    const bool measured = house().forge->hasMeasured();
    for (const TargetView& t : measured ? house().forge->targets() : targetsOf(part, {}))
        sheet.rows.push_back(
            {measured ? verdictText(t.verdict).left(1).toStdString() : "–", t.label.toStdString(),
             measured ? t.text.toStdString() : tr("not measured").toStdString(), t.allowed.toStdString(),
             (t.where + QLatin1Char(' ') + t.note).trimmed().toStdString()});
    for (const Step& s : part.steps)
        sheet.sentences.push_back(sentenceText(s, part) + (s.off ? " (off)" : ""));
    const Overlay before = house().stand->overlay();
    house().stand->setOverlay(Overlay::None);
    sheet.pictures.push_back({tr("The part").toStdString(), base64Png(house().stand->picture())});
    house().stand->setOverlay(Overlay::WallRay);
    sheet.pictures.push_back({tr("Wall by ray").toStdString(), base64Png(house().stand->picture())});
    house().stand->setOverlay(before);
    const std::string html = proofSheetHtml(sheet);
    if (path.endsWith(QLatin1String(".html"), Qt::CaseInsensitive)) {
        const auto done = writeFileAtomically(path.toStdString(), html);
        if (!done) house().bar->say(QStringLiteral("■ ") + inWords(done.error().sentence));
        return done.ok();
    }
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    {
        QPdfWriter pdf(&buffer);
        pdf.setPageSize(QPageSize(QPageSize::A4));
        pdf.setPageMargins(QMarginsF(16, 16, 16, 16), QPageLayout::Millimeter);
        pdf.setTitle(QString::fromStdString(part.name));
        pdf.setCreator(QStringLiteral("Good Curve"));
        pdf.setResolution(120);
        QTextDocument document;
        document.setDefaultFont(textFont(12));
        document.setHtml(QString::fromStdString(html));
        document.setPageSize(QSizeF(pdf.width(), pdf.height()));
        document.print(&pdf);
    }
    const auto done = writeFileAtomically(
        path.toStdString(), std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size())));
    if (!done) house().bar->say(QStringLiteral("■ ") + inWords(done.error().sentence));
    return done.ok();
}

} // namespace gc::app
