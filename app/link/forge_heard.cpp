// What the forge said, put into what the window keeps.

#include "app/link/forge_link.hpp"
#include "app/look/points.hpp"
#include "app/look/words.hpp"

#include <algorithm>

#include <malloc.h>

namespace gc::app {

namespace {

QString text(const std::string& s) {
    return QString::fromStdString(s);
}
QString text(const say::Words& w) {
    return inWords(w);
}

/// Points from rows of three numbers.
std::vector<QVector3D> pointsIn(const std::vector<float>& all, std::uint32_t first, std::uint32_t count) {
    std::vector<QVector3D> out;
    for (std::size_t i = 3 * std::size_t{first}; i < 3 * (std::size_t{first} + count); i += 3)
        out.emplace_back(all[i], all[i + 1], all[i + 2]);
    return out;
}

/// Edges that lie one after the other in a row of points.
void takeEdges(BodyMesh& mesh, const std::vector<std::uint32_t>& sizes, const std::vector<float>& lines) {
    mesh.edges.clear();
    mesh.lines = pointsIn(lines, 0, static_cast<std::uint32_t>(lines.size() / 3));
    std::uint32_t first = 0;
    for (const std::uint32_t size : sizes) {
        mesh.edges.push_back({first, size, false});
        first += size;
    }
}

RemedyView remedyOf(const say::RemedyWords& r) {
    return {r.step, text(r.slot), text(r.value), text(r.sentence), {}, r.tried, r.before};
}

} // namespace

void ForgeLink::on(const say::StepStarted& m) {
    m_runningStep = m.id;
    m_tryingRemedy = m.trying;
    if (!m.trying || !isNow(m.revision)) return;
    m_steps[m.id].trying = true;
    tellOfSteps();
}

void ForgeLink::on(const say::StepFared& m) {
    m_runningStep = 0;
    StepView s;
    s.known = true;
    s.ok = m.ok;
    s.off = m.off;
    s.later = m.later;
    s.cached = m.cached;
    s.milliseconds = m.milliseconds;
    for (const say::Words& n : m.notes) s.notes << text(n);
    if (m.fault) {
        (m.ok ? s.doubt : s.error) = text(m.fault->sentence);
        s.errorPosition = m.fault->position;
        for (const say::RemedyWords& r : m.fault->remedies) s.remedies.push_back(remedyOf(r));
        if (m.fault->question) {
            s.question = QuestionView{text(m.fault->question->about), {}};
            for (const std::string& a : m.fault->question->answers) s.question->answers << text(a);
        }
        if (m.fault->place) s.place = toQt(*m.fault->place);
        s.gone = m.fault->code.starts_with("reference.");
        s.asksPick = m.fault->code == "reference.none";
    }
    if (const auto before = m_steps.find(m.id); s.cached && before != m_steps.end()) {
        s.volumeChange = before->second.volumeChange; // nothing of it was done again
        s.milliseconds = before->second.milliseconds;
    }
    m_steps[m.id] = std::move(s);
    for (const auto& [asideId, why] : m_setAside) {
        StepView& aside = m_steps[asideId];
        aside.known = true;
        aside.ok = false;
        aside.error = why.second;
    }
    tellOfSteps();
}

void ForgeLink::on(const say::StationsFared& m) {
    m_outlines[m.step] = {m.curve, m.residuals};
    Q_EMIT outlinesChanged();
}

void ForgeLink::on(const say::BodySurface& m) {
    std::vector<float> bends = m.bends;
    auto surface = m_patches[{m.body, m.fine ? 1 : 0}].take(m.faces, {&bends});
    if (!surface) return died(tr("sent a surface with faces that are not known"), Blame::No);
    BodyMesh& mesh = m_meshes[m.body];
    static_cast<Surface&>(mesh) = std::move(*surface);
    mesh.content = m.content;
    mesh.flatFaces.assign(m.flat.begin(), m.flat.end());
    mesh.bends = std::move(bends);
    takeEdges(mesh, m.edgeSizes, m.lines);
    mesh.lineBends = pointsIn(m.lineBends, 0, static_cast<std::uint32_t>(m.lineBends.size() / 3));
    for (std::size_t e = 0; e < mesh.edges.size(); ++e) mesh.edges[e].smooth = m.edgeSmooth[e] != 0;
    if (m_pictureMs == 0) m_pictureMs = static_cast<double>(m_buildClock.nsecsElapsed()) / 1e6;
    Q_EMIT meshesChanged();
}

void ForgeLink::on(const say::BodyValues& m) {
    BodyField f;
    f.ray = m.ray;
    f.ball = m.ball;
    f.lean = m.lean;
    f.away = m.away;
    auto surface = m_patches[{m.body, 2}].take(m.faces, {&f.ray, &f.ball, &f.lean, &f.away});
    if (!surface) return died(tr("sent a surface with faces that are not known"), Blame::No);
    static_cast<Surface&>(f) = std::move(*surface);
    const auto bars = [](const say::HistogramBars& b) {
        return Histogram{b.any, b.least, b.most, b.low, b.high, b.areas};
    };
    f.rayHistogram = bars(m.rayBars);
    f.ballHistogram = bars(m.ballBars);
    if (m.awayFrom) f.awayFrom = ThingId(*m.awayFrom);
    f.inside = m.inside, f.outside = m.outside, f.most = m.most;
    m_fields[m.body] = std::move(f);
    Q_EMIT fieldsChanged();
}

void ForgeLink::on(const say::BodiesShown& m) {
    const auto there = [&](ThingId id) {
        return std::any_of(m.bodies.begin(), m.bodies.end(),
                           [&](const say::BodyWords& b) { return ThingId(b.id) == id; });
    };
    std::erase_if(m_meshes, [&](const auto& b) { return !there(b.first); });
    if (std::erase_if(m_fields, [&](const auto& b) { return !there(b.first); }) > 0) Q_EMIT fieldsChanged();
    std::erase_if(m_patches, [&](const auto& b) { return !there(b.first.first); });
    std::erase_if(m_names, [&](const auto& n) {
        const auto mesh = m_meshes.find(n.first.body);
        return mesh == m_meshes.end() || mesh->second.content != n.second.first;
    });
    for (const say::BodyWords& b : m.bodies)
        if (const auto mesh = m_meshes.find(b.id); mesh != m_meshes.end()) {
            mesh->second.name = text(b.name);
            mesh->second.offeredName = text(b.offeredName);
            mesh->second.offeredColour = text(b.offeredColour);
        }
    if (m_pictureMs == 0) m_pictureMs = static_cast<double>(m_buildClock.nsecsElapsed()) / 1e6;
    Q_EMIT meshesChanged();
    if (isNow(m.revision)) Q_EMIT bodiesShown();
    askHalo();
}

void ForgeLink::on(const say::GuidesShown& m) {
    m_planes.clear();
    m_axes.clear();
    m_drawings.clear();
    for (const say::AxisShown& a : m.axes) m_axes.push_back({text(a.name), toQt(a.from), toQt(a.to)});
    for (const say::PlaneShown& p : m.planes) m_planes.push_back({text(p.name), p.frame});
    for (const say::DrawingShown& d : m.drawings) {
        DrawingView view{d.frame, {}, {}};
        for (const say::StrokeShown& s : d.strokes)
            view.strokes.push_back({text(s.reference), text(s.chain), pointsIn(m.points, s.first, s.count)});
        for (const say::AreaShown& a : d.areas) {
            AreaView area{text(a.area), {}};
            for (std::size_t i = 0; i + 1 < a.loops.size(); i += 2)
                area.loops.push_back(pointsIn(m.points, a.loops[i], a.loops[i + 1]));
            view.areas.push_back(std::move(area));
        }
        m_drawings[d.step] = std::move(view);
    }
    Q_EMIT guidesChanged();
}

void ForgeLink::on(const say::LookShown& m) {
    m_places.clear();
    m_traces.clear();
    for (const say::PlaceShown& p : m.places) {
        PlaceView view{toQt(p.at), {}};
        for (const std::string& r : p.references) view.refs << text(r);
        m_places.push_back(std::move(view));
    }
    if (m.tracesOf == m_lookTraces)
        for (const say::TraceShown& t : m.traces) {
            Trace trace;
            trace.source = t.source;
            trace.piece = t.piece;
            trace.pieces = t.pieces;
            trace.at = t.at;
            trace.sizes = t.sizes;
            for (const StrokeWords& w : allStrokeWords())
                if (w.key == t.kind) trace.kind = w.kind;
            m_traces.push_back(std::move(trace));
        }
    Q_EMIT lookChanged();
}

void ForgeLink::on(const say::AidsShown& m) {
    if (m.step != m_lookAids) return; // asked for another since
    AidsView a;
    a.step = m.step;
    a.takes = m.takes;
    for (const say::HandleShown& h : m.handles)
        a.handles.push_back({text(h.slot), h.turns, toQt(h.from), toQt(h.direction), toQt(h.arm), h.value,
                             h.way, h.loose, text(h.turnsRound), text(h.turnsInto), h.counts, h.whole,
                             h.more});
    const auto places = [](const std::vector<say::ThreadPlace>& from) {
        std::vector<ThreadView::Place> out;
        for (const say::ThreadPlace& p : from) out.push_back({toQt(p.at), text(p.says)});
        return out;
    };
    for (const say::ThreadShown& t : m.threads)
        a.threads.push_back({toQt(t.from), toQt(t.to), t.pulled, places(t.starts), places(t.ends),
                             text(t.slot), text(t.choice), text(t.chosen)});
    const auto count = static_cast<std::uint32_t>(m.points.size() / 3);
    a.tool.points = pointsIn(m.points, 0, count);
    a.tool.normals = pointsIn(m.normals, 0, count);
    a.tool.triangles = m.triangles;
    a.tool.faceOf.assign(count, 0);
    takeEdges(a.tool, m.edgeSizes, m.lines);
    std::uint32_t point = 0, corner = 0;
    for (const say::FileBodyShown& b : m.fileBodies) {
        const auto from = m.bodyTriangles.begin() + corner;
        a.fileBodies.push_back({text(b.name),
                                text(b.size),
                                b.taken,
                                pointsIn(m.bodyPoints, point, b.points),
                                {from, from + 3 * static_cast<std::ptrdiff_t>(b.triangles)}});
        point += b.points, corner += 3 * b.triangles;
    }
    m_aids = std::move(a);
    Q_EMIT aidsChanged();
}

void ForgeLink::on(const say::MeasuresTaken& m) {
    if (!isNow(m.revision)) return;
    m_wallsKnown = m.walls;
    m_measured = m.revision;
    m_masses.clear();
    for (const say::BodyWeighed& b : m.bodies) m_masses[b.id] = b.mass;
    const auto before = std::exchange(m_targets, {});
    for (const say::TargetFared& t : m.targets) {
        TargetView v;
        v.measure = text(t.measure);
        v.ofBody = text(t.ofBody);
        v.label = text(t.label);
        v.allowed = text(t.allowed);
        v.verdict = text(t.verdict);
        v.where = text(t.where);
        v.note = text(t.note);
        v.body = text(t.body);
        v.text = text(t.text);
        v.value = t.value;
        v.least = t.least;
        v.most = t.most;
        if (t.at) v.at = toQt(*t.at);
        // What a preview does not measure keeps what it was before, as "measuring".
        const auto same = std::find_if(before.begin(), before.end(), [&](const TargetView& b) {
            return b.label == v.label && b.allowed == v.allowed;
        });
        if (m_preview && same != before.end()) {
            if (v.text.isEmpty()) v = *same;
            v.verdict = QStringLiteral("measuring");
        }
        m_targets.push_back(std::move(v));
    }
    Q_EMIT measuresChanged();
}

void ForgeLink::on(const say::MarginsTaken& m) {
    if (!isNow(m.revision)) return;
    for (const say::StepMargin& s : m.steps) m_steps[s.id].volumeChange = s.volume;
    tellOfSteps();
}

void ForgeLink::on(const say::RemedyTried& m) {
    m_runningStep = 0;
    if (!isNow(m.revision)) return;
    StepView& s = m_steps[m.step];
    s.trying = false;
    if (m.remedy) s.remedies = {remedyOf(*m.remedy)};
    for (const say::RemedyWords& r : m.orders) s.remedies.push_back(remedyOf(r));
    tellOfSteps();
}

void ForgeLink::on(const say::SinceFound& m) {
    if (!isNow(m.revision)) return;
    for (std::size_t i = 0; i < m_targets.size(); ++i)
        m_targets[i].since = i < m.steps.size() ? m.steps[i] : 0;
    Q_EMIT measuresChanged();
}

void ForgeLink::on(const say::Failed& m) {
    if (isNow(m.revision)) Q_EMIT problem(text(m.fault.sentence));
}

void ForgeLink::on(const say::Done& m) {
    m_runningStep = 0;
    if (!isNow(m.revision)) return;
    m_busy = false;
    m_tellSoon.stop();
    if (!m_preview) tellOfUnmeasured();
    Q_EMIT stepsChanged();
    Q_EMIT finished();
    ::malloc_trim(0); // meshes and maps came and went; their pages go back before the next edit
}

void ForgeLink::on(const say::ItemNamed& m) {
    const auto asked = m_asks.find(m.ask);
    if (asked == m_asks.end()) return;
    const BodyItem item = asked->second.item;
    const std::uint64_t content = asked->second.content;
    m_asks.erase(asked);
    // The worker is ahead: a newer surface is on its way, and its items are asked about when it is here.
    if (m.stale) return;
    QStringList names;
    for (const std::string& r : m.references) names << text(r);
    m_names[item] = {content, names};
    Q_EMIT itemNamed();
}

void ForgeLink::on(const say::ItemsFound& m) {
    if (m_asks.erase(m.ask) == 0) return; // asked anew since
    m_halo.clear();
    for (const say::FoundItem& f : m.items) m_halo.push_back({f.body, f.edge, f.item});
    Q_EMIT haloChanged();
}

void ForgeLink::on(const say::Exported& m) {
    m_asks.erase(m.ask);
    const QString path = text(m.path);
    if (m.stopped)
        Q_EMIT exported(path, tr("The part was changed before the file was written. Export it again."));
    else if (m.fault)
        Q_EMIT exported(path, text(m.fault->sentence));
    else if (!m.failingSteps.empty())
        Q_EMIT exportAsks(path, m.failingSteps);
    else {
        QStringList notes;
        for (const std::string& note : m.notes) notes << text(note);
        Q_EMIT exported(path, {}, notes);
    }
}

void ForgeLink::on(const say::Solved& m) {
    m_asks.erase(m.ask);
    std::vector<RemedyView> list;
    for (const say::TargetRemedyWords& r : m.remedies) {
        list.push_back(remedyOf(r.remedy));
        for (const say::LabelledValue& v : r.then)
            list.back().then << text(v.label).toLower() + QLatin1Char(' ') + text(v.value);
    }
    Q_EMIT solved(m.target, list);
}

void ForgeLink::on(const say::ReadingsTaken& m) {
    if (m_asks.erase(m.ask) == 0) return; // asked anew since
    std::vector<ReadingView> list;
    for (const say::ReadingShown& r : m.readings) {
        ReadingView v{text(r.key), text(r.text), r.value, {}, {}};
        if (r.at) v.at = toQt(*r.at);
        if (r.to) v.to = toQt(*r.to);
        list.push_back(std::move(v));
    }
    Q_EMIT readingsTaken(list, m.fault ? text(m.fault->sentence) : QString());
}

} // namespace gc::app
