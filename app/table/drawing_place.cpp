#include "app/table/drawing_model.hpp"

#include "core/document/planes.hpp"
#include "core/document/trace_source.hpp"
#include "core/sketch/drawing_words.hpp"

#include <QBuffer>
#include <QFileInfo>
#include <QImageReader>

#include <algorithm>

// Where the drawing lies, what it follows, and the picture under it.

namespace gc::app {

namespace {

/// Files that no step uses any more do not travel on; undo still has them.
void dropUnused(Part& part) {
    std::erase_if(part.attachments, [&](const Attachment& a) {
        return std::none_of(part.steps.begin(), part.steps.end(),
                            [&](const Step& s) { return usesFile(s, a.name); });
    });
}

} // namespace

QString DrawingModel::planeWords() const {
    const Step* s = drawnStep();
    return s ? QString::fromStdString(planeInWords(m_session->part(), s->text("plane"))) : QString();
}

QList<std::pair<QString, QString>> DrawingModel::planesInReach() const {
    QList<std::pair<QString, QString>> out;
    const Part& part = m_session->part();
    const auto add = [&](const std::string& name) {
        out.push_back({QString::fromStdString(name), QString::fromStdString(planeInWords(part, name))});
    };
    for (const char* name : kFixedPlanes) add(name);
    for (const std::string& name : namesBefore(part, m_step, Thing::Plane)) add(name);
    return out;
}

void DrawingModel::setPlacing(const std::string& slot, const std::string& value) {
    Part part = m_session->part();
    Step* s = part.findStep(m_step);
    if (!s || s->text(slot) == value) return;
    s->slots[slot] = value;
    m_session->commit(part, tr("drawing laid otherwise"));
}

void DrawingModel::nextPlacing(const std::string& slot, const std::vector<std::string>& choices) {
    const Step* s = drawnStep();
    if (!s) return;
    const auto at = std::find(choices.begin(), choices.end(), s->text(slot));
    setPlacing(slot, at == choices.end() || at + 1 == choices.end() ? choices.front() : *(at + 1));
}

void DrawingModel::setTraces(const std::vector<Trace>& traces) {
    if (m_traces == traces) return;
    m_traces = traces;
    if (traces.empty() || m_settler) return;
    Drawing renewed = m_drawing;
    if (!renewTraces(renewed, traces).moved.empty()) {
        m_beforeTraces = std::exchange(m_drawing, std::move(renewed));
        learn();
    }
}

QString DrawingModel::sourceWords(const std::string& source) const {
    return QString::fromStdString(sourceInWords(source, m_session->part()));
}

QString DrawingModel::sentence(const Relation& r) const {
    if (r.source.empty()) return QString::fromStdString(sentenceOf(m_drawing, r, units()));
    const QString what = QString::fromStdString(nameOf(m_drawing, r.of[0]));
    return r.kind == RelationKind::Follows ? tr("%1 follows %2").arg(what, sourceWords(r.source))
                                           : tr("%1 lies at %2").arg(what, sourceWords(r.source));
}

Result<double> DrawingModel::lengthFrom(const QString& text) const {
    const Values values = valuesOf(m_session->part());
    const auto amount = evaluate(text.toStdString(), kLength, units(), [&](const std::string& name) {
        const auto it = values.find(name);
        return it == values.end() ? std::nullopt : std::optional<Amount>(it->second);
    });
    if (!amount) return amount.error();
    if (!(amount->value > 0)) return errorOf("picture.length", "The length must be more than 0.");
    return amount->value;
}

QString DrawingModel::layPicture(const QString& path) {
    constexpr int kMostPixels = 1800; // of the longer side: finer than any tracing needs
    constexpr double kAtFirst = 100;  // mm, until it is set to scale
    QImageReader reader(path);
    reader.setAutoTransform(true);
    QSize size = reader.size();
    if (size.isValid() && std::max(size.width(), size.height()) > kMostPixels) {
        size.scale(kMostPixels, kMostPixels, Qt::KeepAspectRatio);
        reader.setScaledSize(size);
    }
    const QImage image = reader.read();
    const QString name = QFileInfo(path).fileName();
    if (image.isNull())
        return tr("\"%1\" cannot be read as a picture (%2). Choose a PNG or a JPEG file.")
            .arg(name, reader.errorString());
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    if (!(image.hasAlphaChannel() ? image.save(&buffer, "PNG") : image.save(&buffer, "JPEG", 88)))
        return tr("\"%1\" cannot be kept in the part.").arg(name);
    Part part = m_session->part();
    Step* s = part.findStep(m_step);
    if (!s) return {};
    const std::string file = attach(part, name.toStdString(), SharedText(bytes.toBase64().toStdString()));
    Drawing with = m_drawing;
    TracedPicture placed;
    if (with.picture) placed = *with.picture; // another one in the same place
    placed.file = file;
    if (!with.picture) placed.width = kAtFirst, placed.at = {-kAtFirst / 2, 0};
    placed.height = placed.width * image.height() / std::max(1, image.width());
    with.picture = placed;
    s->slots["drawing"] = DrawingSlot(std::move(with));
    dropUnused(part);
    m_session->commit(part, tr("picture %1").arg(name));
    return {};
}

QImage DrawingModel::picture() const {
    if (!m_drawing.picture) return {};
    for (const Attachment& a : m_session->part().attachments)
        if (a.name == m_drawing.picture->file)
            return QImage::fromData(QByteArray::fromBase64(QByteArray::fromStdString(a.content.text())));
    return {};
}

} // namespace gc::app
