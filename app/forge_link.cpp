#include "app/forge_link.hpp"

#include "core/document/part_file.hpp"

#include <QCoreApplication>

#include <algorithm>
#include <cstring>

#include <malloc.h>

namespace gc::app {

namespace {

using Json = nlohmann::json;

QString text(const Json& j, const char* key) {
    const auto it = j.find(key);
    return it != j.end() && it->is_string() ? QString::fromStdString(it->get<std::string>()) : QString();
}

QStringList texts(const Json& list) {
    QStringList out;
    if (list.is_array())
        for (const Json& t : list)
            if (t.is_string()) out << QString::fromStdString(t.get<std::string>());
    return out;
}

std::vector<QVector3D> vectors(const std::string& blob) {
    const auto f = gc::valuesOf<float>(blob);
    std::vector<QVector3D> out;
    out.reserve(f.size() / 3);
    for (std::size_t i = 0; i + 2 < f.size(); i += 3) out.emplace_back(f[i], f[i + 1], f[i + 2]);
    return out;
}

Histogram histogramOf(const Json& j) {
    Histogram h;
    h.any = j.value("any", false);
    h.min = j.value("min", 0.0);
    h.max = j.value("max", 0.0);
    h.low = j.value("low", 0.0);
    h.high = j.value("high", 1.0);
    h.areas = j.value("areas", std::vector<double>{});
    return h;
}

RemedyView remedyOf(const Json& j) {
    return {j.value("step", 0), text(j, "slot"), text(j, "value"), text(j, "sentence"), {}};
}

} // namespace

ForgeLink::ForgeLink(QObject* parent) : QObject(parent) {
    m_watch.setInterval(250);
    connect(&m_watch, &QTimer::timeout, this, [this] {
        if (m_busy && m_stepClock.isValid() && m_stepClock.elapsed() > m_stepLimit)
            died(tr("took longer than %1 s").arg(m_stepLimit / 1000), true);
    });
    m_watch.start();
    m_tellSoon.setSingleShot(true);
    m_tellSoon.setInterval(120);
    connect(&m_tellSoon, &QTimer::timeout, this, &ForgeLink::stepsChanged);
    start();
}

ForgeLink::~ForgeLink() {
    if (!m_process) return;
    m_process->disconnect(this);
    m_process->kill();
    m_process->waitForFinished(1000);
}

/// Steps come in a burst; a window that repaints for each takes the time from the forge.
void ForgeLink::tellOfSteps() {
    if (!m_tellSoon.isActive()) m_tellSoon.start();
}

void ForgeLink::start() {
    m_frames = FrameReader();
    m_runningStep = 0;
    m_process = new QProcess(this);
    const QString set = qEnvironmentVariable("GOOD_CURVE_FORGE");
    m_process->setProgram(
        set.isEmpty() ? QCoreApplication::applicationDirPath() + QStringLiteral("/good-curve-forge") : set);
    m_process->setProcessChannelMode(QProcess::SeparateChannels);
    m_process->setStandardErrorFile(QProcess::nullDevice());
    connect(m_process, &QProcess::readyReadStandardOutput, this, &ForgeLink::received);
    connect(m_process, &QProcess::finished, this, [this] { died(tr("crashed")); });
    connect(m_process, &QProcess::errorOccurred, this, [this](QProcess::ProcessError e) {
        if (e == QProcess::FailedToStart)
            Q_EMIT problem(
                tr("The worker program good-curve-forge cannot be started. Install Good Curve anew."));
    });
    m_process->start();
    if (m_lookPlaces || m_lookTraces) sendLook();
}

void ForgeLink::send(const Frame& frame) {
    const std::string bytes = encodeFrame(frame);
    if (m_process) m_process->write(bytes.data(), static_cast<qint64>(bytes.size()));
}

void ForgeLink::build(const Part& part, bool preview) {
    m_part = part;
    m_preview = preview;
    m_busy = true;
    m_buildClock.start();
    m_stepClock.start();
    m_pictureMs = 0;
    Part sent = part;
    // Pictures to draw over are the window's business alone, and large.
    std::erase_if(sent.attachments, [&](const Attachment& a) {
        return std::none_of(sent.steps.begin(), sent.steps.end(),
                            [&](const Step& s) { return buildsFrom(s, a.name); });
    });
    for (auto it = m_setAside.begin(); it != m_setAside.end();) {
        Step* step = sent.findStep(it->first);
        if (step && *step == it->second.first) {
            step->off = true; // as it was when it killed the forge: not again until it is changed
            ++it;
        } else
            it = m_setAside.erase(it);
    }
    send({{{"type", "part"}, {"revision", ++m_revision}, {"preview", preview}, {"part", writePart(sent)}},
          {}});
}

void ForgeLink::look(bool places, int tracesOf) {
    if (m_lookPlaces == places && m_lookTraces == tracesOf) return;
    m_lookPlaces = places;
    m_lookTraces = tracesOf;
    m_places.clear();
    m_traces.clear();
    sendLook();
    Q_EMIT lookChanged();
}
void ForgeLink::sendLook() {
    send({{{"type", "look"}, {"places", m_lookPlaces}, {"traces", m_lookTraces}}, {}});
}
void ForgeLink::exportTo(const QString& path) {
    send({{{"type", "export"}, {"path", path.toStdString()}}, {}});
}
void ForgeLink::solveTarget(int index) {
    send({{{"type", "solve"}, {"target", index}}, {}});
}
void ForgeLink::misbehave(const QString& how) {
    send({{{"type", "debug"}, {"how", how.toStdString()}}, {}});
}

void ForgeLink::died(const QString& why, bool certain) {
    QProcess* old = m_process;
    m_process = nullptr;
    if (old) {
        old->disconnect(this);
        old->kill();
        old->waitForFinished(500);
        old->deleteLater();
    }
    const int step = m_runningStep;
    if (step != 0 && !m_tryingRemedy)
        if (const Step* s = m_part.findStep(step)) {
            // The forge may have been killed for no fault of the step: only a second time tells.
            if (certain || (m_suspect && *m_suspect == *s))
                m_setAside[step] = {*s, tr("The geometry kernel %1 at this step. Your work is kept; change a "
                                           "number of this step to try it again.")
                                            .arg(why)};
            m_suspect = *s;
        }
    start();
    ++m_restarts;
    Q_EMIT restarted(
        step ? tr("The worker %1 at step %2 and was started again.").arg(why).arg(m_part.placeOf(step))
             : tr("The worker %1 and was started again.").arg(why));
    if (++m_deathsInARow <= 4)
        build(m_part, m_preview);
    else
        Q_EMIT problem(tr("The worker stopped five times in a row. Switch off the last step, or undo."));
}

void ForgeLink::received() {
    if (!m_process) return;
    const QByteArray bytes = m_process->readAllStandardOutput();
    m_frames.feed(bytes.constData(), static_cast<std::size_t>(bytes.size()));
    for (;;) {
        auto frame = m_frames.next();
        if (!frame) return died(tr("sent something that is not understood"));
        if (!frame->has_value()) return;
        take(**frame);
    }
}

void ForgeLink::take(const Frame& frame) {
    const Json& h = frame.header;
    const std::string type = frame.type();
    m_stepClock.start();
    if (h.contains("revision") && h["revision"] != m_revision && type != "step" && type != "step-started") {
        if (type == "done" || type == "measures" || type == "remedy" || type == "since")
            return; // of an older part
    }
    using Take = void (ForgeLink::*)(const Frame&);
    static const std::map<std::string, Take> takes{
        {"step-started", &ForgeLink::takeStarted},
        {"step", &ForgeLink::takeStep},
        {"mesh", &ForgeLink::takeMesh},
        {"bodies", &ForgeLink::takeBodies},
        {"field", &ForgeLink::takeField},
        {"measures", &ForgeLink::takeMeasures},
        {"outline", &ForgeLink::takeOutline},
        {"guides", &ForgeLink::takeGuides},
        {"look", &ForgeLink::takeLook},
        {"remedy", &ForgeLink::takeRemedy},
        {"margins", &ForgeLink::takeMargins},
        {"since", &ForgeLink::takeSince},
        {"failed", &ForgeLink::takeFailed},
        {"exported", &ForgeLink::takeExported},
        {"solved", &ForgeLink::takeSolved},
        {"done", &ForgeLink::takeDone},
    };
    if (const auto take = takes.find(type); take != takes.end()) (this->*take->second)(frame);
}

void ForgeLink::takeStarted(const Frame& frame) {
    m_runningStep = frame.header.value("id", 0);
    m_tryingRemedy = frame.header.value("trying", false);
    if (!m_tryingRemedy) return;
    m_steps[m_runningStep].trying = true;
    tellOfSteps();
}

void ForgeLink::takeBodies(const Frame& frame) {
    const QStringList names = texts(frame.header["names"]);
    std::erase_if(m_meshes, [&](const auto& m) { return !names.contains(m.first); });
    std::erase_if(m_fields, [&](const auto& m) { return !names.contains(m.first); });
    if (m_pictureMs == 0) m_pictureMs = static_cast<double>(m_buildClock.nsecsElapsed()) / 1e6;
    Q_EMIT meshesChanged();
}

void ForgeLink::takeOutline(const Frame& frame) {
    OutlineView o;
    if (!frame.blobs.empty()) o.curve = gc::valuesOf<float>(frame.blobs[0]);
    o.residuals = frame.header.value("residuals", std::vector<double>{});
    m_outlines[frame.header.value("step", 0)] = std::move(o);
    Q_EMIT outlinesChanged();
}

void ForgeLink::takeRemedy(const Frame& frame) {
    m_runningStep = 0;
    StepView& s = m_steps[frame.header.value("step", 0)];
    s.trying = false;
    if (frame.header.contains("remedy")) s.remedies = {remedyOf(frame.header["remedy"])};
    tellOfSteps();
}

void ForgeLink::takeMargins(const Frame& frame) {
    for (const Json& m : frame.header["steps"])
        m_steps[m.value("id", 0)].volumeChange = m.value("volume", 0.0);
    tellOfSteps();
}

void ForgeLink::takeFailed(const Frame& frame) {
    Q_EMIT problem(text(frame.header["error"], "sentence"));
}

void ForgeLink::takeExported(const Frame& frame) {
    const Json& error = frame.header["error"];
    Q_EMIT exported(text(frame.header, "path"), error.is_object() ? text(error, "sentence") : QString());
}

void ForgeLink::takeDone(const Frame&) {
    m_busy = false;
    m_runningStep = 0;
    m_deathsInARow = 0;
    m_tellSoon.stop();
    Q_EMIT stepsChanged();
    Q_EMIT finished();
    ::malloc_trim(0); // meshes and maps came and went; their pages go back before the next edit
}

void ForgeLink::takeSince(const Frame& frame) {
    const Json& h = frame.header;
    for (TargetView& t : m_targets) {
        t.since = 0;
        for (const Json& s : h["targets"])
            if (text(s, "measure") == t.measure) t.since = s.value("step", 0);
    }
    Q_EMIT measuresChanged();
}

void ForgeLink::takeSolved(const Frame& frame) {
    const Json& h = frame.header;
    std::vector<RemedyView> list;
    for (const Json& r : h["remedies"]) {
        list.push_back(remedyOf(r["remedy"]));
        for (const Json& t : r["then"])
            list.back().then << QString::fromStdString(t[0].get<std::string>()).toLower() + QLatin1Char(' ') +
                                    QString::fromStdString(t[1].get<std::string>());
    }
    Q_EMIT solved(h.value("target", 0), list);
}

void ForgeLink::takeStep(const Frame& frame) {
    m_runningStep = 0;
    const Json& j = frame.header["step"];
    const int id = j.value("id", 0);
    StepView s;
    s.known = true;
    s.ok = j.value("ok", true);
    s.off = j.value("off", false);
    s.later = j.value("later", false);
    s.cached = j.value("cached", false);
    s.milliseconds = j.value("ms", 0.0);
    s.notes = texts(j["notes"]);
    if (j["error"].is_object()) {
        s.error = text(j["error"], "sentence");
        s.errorPosition = j["error"].value("position", -1);
        for (const Json& r : j["error"]["remedies"]) s.remedies.push_back(remedyOf(r));
    }
    if (const auto before = m_steps.find(id); s.cached && before != m_steps.end()) {
        s.volumeChange = before->second.volumeChange; // nothing of it was done again
        s.milliseconds = before->second.milliseconds;
    }
    m_steps[id] = std::move(s);
    for (const auto& [asideId, why] : m_setAside) {
        StepView& aside = m_steps[asideId];
        aside.known = true;
        aside.ok = false;
        aside.error = why.second;
    }
    tellOfSteps();
}

void ForgeLink::takeMesh(const Frame& frame) {
    if (frame.blobs.size() < 5) return;
    BodyMesh m;
    m.name = text(frame.header, "body");
    m.points = vectors(frame.blobs[0]);
    m.normals = vectors(frame.blobs[1]);
    m.triangles = gc::valuesOf<std::uint32_t>(frame.blobs[2]);
    m.faceOf = gc::valuesOf<std::uint32_t>(frame.blobs[3]);
    m.lines = vectors(frame.blobs[4]);
    for (const Json& f : frame.header["faces"]) m.faceRefs.push_back(texts(f));
    m.flatFaces = frame.header.value("flat", std::vector<bool>());
    m.flatFaces.resize(m.faceRefs.size(), false);
    for (const Json& e : frame.header["edges"])
        m.edges.push_back(
            {e.value("first", 0u), e.value("count", 0u), e.value("smooth", false), texts(e["refs"])});
    m_meshes[m.name] = std::move(m);
    if (m_pictureMs == 0) m_pictureMs = static_cast<double>(m_buildClock.nsecsElapsed()) / 1e6;
    Q_EMIT meshesChanged();
}

void ForgeLink::takeGuides(const Frame& frame) {
    const auto planeOf = [](const Json& f) {
        const auto v = f.get<std::vector<double>>();
        return Plane{{v.at(0), v.at(1), v.at(2)}, {v.at(3), v.at(4), v.at(5)}, {v.at(6), v.at(7), v.at(8)}};
    };
    const auto points = frame.blobs.empty() ? std::vector<QVector3D>() : vectors(frame.blobs[0]);
    m_planes.clear();
    m_drawings.clear();
    for (const Json& p : frame.header["planes"]) m_planes.push_back({text(p, "name"), planeOf(p["frame"])});
    for (const Json& d : frame.header["drawings"]) {
        DrawingView view{planeOf(d["frame"]), {}};
        for (const Json& s : d["strokes"]) {
            const auto first = s.value("first", std::size_t{0}), count = s.value("count", std::size_t{0});
            if (first + count > points.size()) continue;
            const auto from = points.begin() + static_cast<std::ptrdiff_t>(first);
            view.strokes.push_back({text(s, "ref"), {from, from + static_cast<std::ptrdiff_t>(count)}});
        }
        m_drawings[d.value("step", 0)] = std::move(view);
    }
    Q_EMIT guidesChanged();
}

void ForgeLink::takeLook(const Frame& frame) {
    const Json& h = frame.header;
    m_places.clear();
    m_traces.clear();
    for (const Json& p : h["places"])
        m_places.push_back(
            {QVector3D(p["at"][0].get<float>(), p["at"][1].get<float>(), p["at"][2].get<float>()),
             texts(p["refs"])});
    for (const Json& t : h["traces"]) {
        if (h.value("traces_of", 0) != m_lookTraces) break;
        Trace trace;
        trace.source = t.value("source", std::string());
        trace.piece = t.value("piece", 0);
        trace.pieces = t.value("pieces", 1);
        for (const StrokeWords& w : allStrokeWords())
            if (w.key == t.value("kind", std::string())) trace.kind = w.kind;
        for (const Json& p : t["at"]) trace.at.push_back({p[0].get<double>(), p[1].get<double>()});
        trace.sizes = t.value("sizes", std::vector<double>{});
        m_traces.push_back(std::move(trace));
    }
    Q_EMIT lookChanged();
}

void ForgeLink::takeField(const Frame& frame) {
    if (frame.blobs.size() < 7) return;
    BodyField f;
    f.points = vectors(frame.blobs[0]);
    f.normals = vectors(frame.blobs[1]);
    f.triangles = gc::valuesOf<std::uint32_t>(frame.blobs[2]);
    f.ray = gc::valuesOf<float>(frame.blobs[4]);
    f.ball = gc::valuesOf<float>(frame.blobs[5]);
    f.lean = gc::valuesOf<float>(frame.blobs[6]);
    f.rayHistogram = histogramOf(frame.header["ray"]);
    f.ballHistogram = histogramOf(frame.header["ball"]);
    m_fields[text(frame.header, "body")] = std::move(f);
    Q_EMIT fieldsChanged();
}

void ForgeLink::takeMeasures(const Frame& frame) {
    const Json& h = frame.header;
    m_wallsKnown = h.value("walls", false);
    m_targets.clear();
    for (const Json& t : h["targets"]) {
        TargetView v;
        v.measure = text(t, "measure");
        v.label = text(t, "label");
        v.allowed = text(t, "allowed");
        v.verdict = text(t, "verdict");
        v.where = text(t, "where");
        v.note = text(t, "note");
        v.body = text(t, "body");
        v.text = text(t, "text");
        for (const auto& [key, out] : {std::pair{"value", &v.value}, {"least", &v.least}, {"most", &v.most}})
            if (t.contains(key)) *out = t[key].get<double>();
        if (t.contains("at"))
            v.at = QVector3D(t["at"][0].get<float>(), t["at"][1].get<float>(), t["at"][2].get<float>());
        m_targets.push_back(std::move(v));
    }
    Q_EMIT measuresChanged();
}

} // namespace gc::app
