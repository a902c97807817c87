#include "app/link/forge_link.hpp"

#include "core/document/part_file.hpp"

#include <QCoreApplication>
#include <QDateTime>

#include <algorithm>

namespace gc::app {

namespace {

/// All that a step can read: itself, the steps before it, the values, as a text.
std::string restsOn(const Part& part, int step) {
    Part before = part;
    before.steps.resize(static_cast<std::size_t>(part.placeOf(step)));
    before.brief = {};
    before.brief.units = part.brief.units;
    before.attachments.clear();
    before.looks.clear();
    before.bookmark = -1;
    before.nextId = 0;
    return writePart(before);
}

constexpr int kTick = 250;             // ms between two looks at whether the forge lives
constexpr std::size_t kMostStarts = 5; // within a minute, by itself
constexpr int kDeaths = 2;             // of the same; once may have been for another reason

} // namespace

ForgeLink::ForgeLink(QObject* parent) : QObject(parent) {
    m_watch.setInterval(kTick);
    connect(&m_watch, &QTimer::timeout, this, &ForgeLink::watch);
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

/// Silence is counted from the last sign of life, whatever was asked since, and in looks of ours: a window
/// that was kept from looking itself has not heard anything either.
void ForgeLink::watch() {
    if (!waiting() || (m_process && m_process->bytesAvailable() > 0)) {
        m_silentTicks = 0;
        return;
    }
    if (++m_silentTicks * kTick > m_silenceLimit)
        died(tr("gave no sign of life for %1 s").arg(m_silenceLimit / 1000), Blame::Step);
}

/// Steps come in a burst; a window that repaints for each takes the time from the forge.
void ForgeLink::tellOfSteps() {
    if (!m_tellSoon.isActive()) m_tellSoon.start();
}

/// A forge that dies at its start, or of every part, is not started without end.
bool ForgeLink::mayStart() {
    constexpr qint64 kMinute = 60000;
    const qint64 now = QDateTime::currentMSecsSinceEpoch();
    std::erase_if(m_starts, [now](qint64 t) { return now - t > kMinute || t > now; });
    return m_starts.size() < kMostStarts;
}

void ForgeLink::start() {
    m_starts.push_back(QDateTime::currentMSecsSinceEpoch());
    m_resting = false;
    m_frames = FrameReader();
    m_runningStep = 0;
    m_silentTicks = 0;
    m_heldFiles.clear();
    m_patches.clear();
    m_sentText.clear();
    m_process = new QProcess(this);
    const QString set = qEnvironmentVariable("GOOD_CURVE_FORGE");
    m_process->setProgram(
        set.isEmpty() ? QCoreApplication::applicationDirPath() + QStringLiteral("/good-curve-forge") : set);
    m_process->setProcessChannelMode(QProcess::SeparateChannels);
    m_process->setStandardErrorFile(QProcess::nullDevice());
    connect(m_process, &QProcess::readyReadStandardOutput, this, &ForgeLink::received);
    connect(m_process, &QProcess::finished, this, [this] { died(tr("crashed"), Blame::Maybe); });
    connect(m_process, &QProcess::errorOccurred, this, [this](QProcess::ProcessError e) {
        if (e != QProcess::FailedToStart) return;
        m_process->deleteLater();
        m_process = nullptr;
        m_resting = true;
        m_busy = false;
        giveUpAsks();
        Q_EMIT problem(
            tr("The worker program good-curve-forge cannot be started, so nothing can be built or measured. "
               "Your edits are kept. Install Good Curve anew."));
    });
    m_process->start();
    if (m_lookPlaces || m_lookTraces || m_lookAids) sendLook();
}

void ForgeLink::send(const say::ToForge& message) {
    const std::string bytes = encodeFrame(say::encode(message));
    if (m_process) m_process->write(bytes.data(), static_cast<qint64>(bytes.size()));
}

int ForgeLink::ask(Asked asked) {
    m_asks[++m_lastAsk] = std::move(asked);
    return m_lastAsk;
}

void ForgeLink::build(const Part& part, bool preview) {
    m_part = part;
    m_preview = preview;
    if (m_resting) start(); // a person asks for it
    m_busy = true;
    m_buildClock.start();
    m_pictureMs = 0;
    Part sent = part;
    // Pictures to draw over are the window's business alone, and large.
    std::erase_if(sent.attachments, [&](const Attachment& a) {
        return std::none_of(sent.steps.begin(), sent.steps.end(),
                            [&](const Step& s) { return buildsFrom(s, a.name); });
    });
    for (auto it = m_setAside.begin(); it != m_setAside.end();) {
        Step* step = sent.findStep(it->first);
        if (step && restsOn(part, it->first) == it->second.first) {
            step->off = true; // not again until something of it is changed
            ++it;
        } else
            it = m_setAside.erase(it);
    }
    say::PartToBuild m;
    m.revision = ++m_revision;
    m.preview = preview;
    std::set<std::uint64_t> held;
    for (const Attachment& a : sent.attachments) {
        const std::uint64_t hash = a.content.hash();
        if (!m_heldFiles.count(hash) && !held.count(hash)) send(say::FileContent{hash, a.content.text()});
        held.insert(hash);
        m.files.push_back({a.name, hash});
    }
    m_heldFiles = std::move(held);
    sent.attachments.clear();
    m.text = writePart(sent);
    m_sentText = m.text;
    if (m_undone.text != m.text) m_undone = {};
    m.shown = m_undone.drawing < kDeaths;
    m.measured = m.shown && m_undone.measuring < kDeaths;
    send(m);
}

void ForgeLink::look(bool places, int tracesOf, int aidsOf) {
    const bool sameLook = m_lookPlaces == places && m_lookTraces == tracesOf;
    const bool sameAids = m_lookAids == aidsOf;
    if (sameLook && sameAids) return;
    m_lookPlaces = places;
    m_lookTraces = tracesOf;
    m_lookAids = aidsOf;
    if (!sameLook) m_places.clear(), m_traces.clear();
    if (!sameAids) m_aids = {};
    sendLook();
    if (!sameLook) Q_EMIT lookChanged();
    if (!sameAids) Q_EMIT aidsChanged();
}

void ForgeLink::sendLook() {
    send(say::LookFor{m_lookPlaces, m_lookTraces, m_lookAids});
}

void ForgeLink::exportPart(const Part& part, const QString& path, bool evenIfStepsFail,
                           const std::vector<ThingId>& bodies) {
    if (!m_setAside.empty() && !evenIfStepsFail) { // what killed the worker is not in the bodies
        std::vector<int> aside;
        for (const auto& [id, why] : m_setAside) aside.push_back(id);
        Q_EMIT exportAsks(path, aside);
        return;
    }
    Part bare = part;
    bare.attachments.clear();
    // What the forge has may be a preview, or a part with a sentence that is not kept yet.
    if (writePart(bare) != m_sentText) build(part);
    say::ExportBodies m;
    m.ask = ask({[this, path] {
                     Q_EMIT exported(path,
                                     tr("The worker stopped before the file was written. Export it again."));
                 },
                 {},
                 path});
    m.revision = m_revision;
    m.path = path.toStdString();
    m.evenIfStepsFail = evenIfStepsFail;
    for (const ThingId id : bodies) m.bodies.push_back(id);
    send(m);
}

void ForgeLink::solveTarget(int index) {
    say::SolveTarget m;
    m.ask = ask({[this, index] { Q_EMIT solved(index, {}); }});
    m.revision = m_revision;
    m.target = index;
    send(m);
}

void ForgeLink::read(const QStringList& picked) {
    m_asks.erase(m_readAsk);
    say::TakeReadings m;
    m.ask = m_readAsk = ask({[this] { Q_EMIT readingsTaken({}, {}); }});
    for (const QString& p : picked) m.picked.push_back(p.toStdString());
    send(m);
}

void ForgeLink::misbehave(const QString& how) {
    send(say::Misbehave{how.toStdString()});
}

const QStringList* ForgeLink::namesOf(const BodyItem& item) {
    const auto mesh = m_meshes.find(item.body);
    if (item.item < 0 || mesh == m_meshes.end()) return nullptr;
    const std::uint64_t content = mesh->second.content;
    const auto known = m_names.find(item);
    if (known != m_names.end() && known->second.first == content) return &known->second.second;
    const bool asked = std::any_of(m_asks.begin(), m_asks.end(), [&](const auto& a) {
        return a.second.item == item && a.second.content == content;
    });
    if (!asked)
        send(say::NameItem{ask({[] {}, item, {}, content}), item.body, content, item.edge, item.item,
                           m_trial});
    return nullptr;
}

void ForgeLink::setTrial(int step) {
    if (step == m_trial) return;
    m_trial = step;
    m_names.clear();
    std::erase_if(m_asks, [](const auto& a) { return a.second.item.item >= 0; });
}

void ForgeLink::setHalo(const QStringList& references) {
    if (references == m_haloRefs) return;
    m_haloRefs = references;
    askHalo();
}

void ForgeLink::askHalo() {
    m_asks.erase(m_haloAsk);
    if (m_haloRefs.isEmpty()) {
        m_haloAsk = 0;
        if (!m_halo.empty()) {
            m_halo.clear();
            Q_EMIT haloChanged();
        }
        return;
    }
    say::FindItems m;
    m.ask = m_haloAsk = ask({[] {}});
    for (const QString& r : m_haloRefs) m.references.push_back(r.toStdString());
    send(m);
}

void ForgeLink::died(const QString& why, Blame blame) {
    QProcess* old = m_process;
    m_process = nullptr;
    if (old) {
        old->disconnect(this);
        old->kill();
        old->waitForFinished(500);
        old->deleteLater();
    }
    const int step = m_runningStep;
    if (blame != Blame::No) {
        if (step != 0 && !m_tryingRemedy && m_part.findStep(step))
            blameStep(step, why, blame);
        else if (m_busy)
            blameAfterwards();
    }
    ++m_restarts;
    giveUpAsks();
    if (!mayStart()) {
        m_resting = true;
        m_busy = false;
        Q_EMIT problem(
            tr("The worker %1, and was started five times within a minute. It rests now, and your edits are "
               "kept: undo the last one, or switch the last step off; the next edit starts it again.")
                .arg(why));
        return;
    }
    start();
    Q_EMIT restarted(
        step ? tr("The worker %1 at step %2 and was started again.").arg(why).arg(m_part.placeOf(step))
             : tr("The worker %1 and was started again.").arg(why));
    build(m_part, m_preview);
    askHalo();
}

/// The forge may have been killed for no fault of the step: only a second time tells.
void ForgeLink::blameStep(int step, const QString& why, Blame blame) {
    const std::string now = restsOn(m_part, step);
    if (blame == Blame::Step || m_suspect == now)
        m_setAside[step] = {now,
                            tr("The geometry kernel %1 at this step. Your work is kept; change a number of "
                               "this step, or of what it rests on, to try it again.")
                                .arg(why)};
    m_suspect = now;
}

/// All steps were done: it died while the bodies were drawn, measured, or remedies tried.
void ForgeLink::blameAfterwards() {
    m_undone.text = m_sentText;
    if (m_doing == "mesh") ++m_undone.drawing;
    if (m_doing == "measure" || m_doing == "since" || m_doing == "remedy") ++m_undone.measuring;
}

/// At the gauges, too: what is not measured is not "measuring".
void ForgeLink::tellOfUnmeasured() {
    const bool hidden = m_undone.drawing >= kDeaths;
    if (!hidden && m_undone.measuring < kDeaths) return;
    const QString why =
        hidden ? tr("This part is not drawn or measured: the worker stopped twice while it was drawn. Your "
                    "work is kept; change the last number, or switch the last step off, to try it again.")
               : tr("This part is not measured: the worker stopped twice while it was measured. Your work is "
                    "kept; change the last number, or switch the last step off, to try it again.");
    m_wallsKnown = true;
    for (TargetView& t : m_targets) {
        TargetView empty;
        empty.measure = t.measure, empty.label = t.label, empty.allowed = t.allowed, empty.ofBody = t.ofBody;
        empty.verdict = QStringLiteral("none"), empty.note = why;
        t = std::move(empty);
    }
    Q_EMIT measuresChanged();
    Q_EMIT problem(why);
}

void ForgeLink::giveUpAsks() {
    const auto unanswered = std::exchange(m_asks, {});
    for (const auto& [number, asked] : unanswered) asked.givenUp();
}

void ForgeLink::received() {
    if (!m_process) return;
    const QByteArray bytes = m_process->readAllStandardOutput();
    m_silentTicks = 0;
    m_frames.feed(bytes.constData(), static_cast<std::size_t>(bytes.size()));
    for (;;) {
        auto frame = m_frames.next();
        if (!frame) return died(tr("sent something that is not understood"), Blame::No);
        if (!frame->has_value()) return;
        const auto message = say::decodeToWindow(**frame);
        if (!message) return died(tr("sent something that is not understood"), Blame::No);
        const int before = m_restarts;
        take(*message);
        if (m_restarts != before) return; // what else came is of a forge that is gone
    }
}

void ForgeLink::take(const say::ToWindow& message) {
    std::visit([this](const auto& m) { on(m); }, message);
}

} // namespace gc::app
