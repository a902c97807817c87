#include "app/table/drawing_model.hpp"

#include "app/look/words.hpp"
#include "app/table/letters.hpp"
#include "core/document/drawing_sizes.hpp"
#include "core/document/named_values.hpp"
#include "core/document/repeat_figure.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/units/said_in.hpp"

namespace gc::app {

namespace {
constexpr int kTypedDecimals = 6;
} // namespace

DrawingModel::DrawingModel(Session* session, QObject* parent) : QObject(parent), m_session(session) {
    m_beside.setMaxThreadCount(1);
    connect(session, &Session::partChanged, this, [this] {
        if (!m_committing) m_scaledBy = 0;
        m_stale = true;
        refresh();
    });
}

void DrawingModel::showStep(int id) {
    if (id != m_step) m_traces.clear(); // they were of another drawing
    m_step = id;
    m_scaledBy = 0;
    m_stale = true;
    refresh();
}

void DrawingModel::watch(bool on) {
    m_watched = on;
    refresh();
}

/// What nobody looks at is not worked out: an edit elsewhere costs nothing here.
void DrawingModel::refresh() {
    if (!m_stale || !m_watched) return;
    m_stale = false;
    takeFromPart();
}

void DrawingModel::takeFromPart() {
    const Step* s = m_session->part().findStep(m_step);
    m_settler.reset();
    if (!s || filledIn(*s) != FilledIn::DrawingTable) {
        m_step = 0;
        m_drawing = {};
    } else {
        m_drawing = s->drawing("drawing");
        m_beforeTraces = m_drawing;
        if (m_traces.empty() || renewTraces(m_drawing, m_traces).moved.empty()) m_beforeTraces.reset();
    }
    learn();
}

std::optional<DimensionValues> DrawingModel::sizesOf(const Drawing& drawing) {
    auto sizes = dimensionSizes(drawing, units(), valuesOf(m_session->part()));
    m_sizeProblem = sizes ? QString() : inWords(sizes.error().sentence);
    return sizes ? std::optional(std::move(*sizes)) : std::nullopt;
}

DrawingModel::Known DrawingModel::lookAt(const Drawing& drawing, const DimensionValues& sizes,
                                         const UnitSystem& units, bool sound,
                                         const std::function<bool()>& stop) {
    Known out;
    if (sound)
        out.freedoms = findFreedoms(drawing, sizes, units);
    else
        out.diagnosis = diagnose(drawing, sizes, 3, stop);
    out.closedness = findRegions(drawing);
    return out;
}

/// What is loose, what clashes, what is enclosed. Values elsewhere may have changed: it is settled for the
/// eye. In a large drawing the rest takes long enough to be felt: it is found beside the window.
void DrawingModel::learn() {
    constexpr std::size_t kLarge = 150; // strokes
    m_clashing.clear();
    m_diagnosis = {};
    const int asked = ++*m_asked;
    m_learning = false;
    const auto sizes = sizesOf(m_drawing);
    if (!sizes) {
        know({{}, {}, findRegions(m_drawing)});
        return;
    }
    m_sizes = *sizes;
    const auto before = std::exchange(m_beforeTraces, std::nullopt);
    const Settlement s = before ? settleTraces(m_drawing, *before, m_sizes) : settleTo(m_drawing, m_sizes);
    const bool sound = s.solved && s.senseKept;
    if (m_drawing.strokes.size() < kLarge) return know(lookAt(m_drawing, m_sizes, units(), sound, {}));
    m_learning = true;
    m_beside.start([this, asked, sound, counter = m_asked, drawing = m_drawing, of = m_sizes, u = units()] {
        const auto stale = [&] { return *counter != asked; };
        if (stale()) return;
        auto known = std::make_shared<Known>(lookAt(drawing, of, u, sound, stale));
        QMetaObject::invokeMethod(
            this,
            [this, asked, known] {
                if (*m_asked != asked) return;
                m_learning = false;
                know(std::move(*known));
            },
            Qt::QueuedConnection);
    });
    Q_EMIT changed();
}

void DrawingModel::know(Known known) {
    m_freedoms = std::move(known.freedoms);
    m_diagnosis = std::move(known.diagnosis);
    m_closedness = std::move(known.closedness);
    m_clashing.clear();
    for (const Clash& c : m_diagnosis.clashes) m_clashing.insert(c.relations.begin(), c.relations.end());
    Q_EMIT changed();
}

DrawingModel::~DrawingModel() {
    ++*m_asked;
    m_beside.waitForDone();
}

bool DrawingModel::commit(const QString& what) {
    Part part = m_session->part();
    Step* s = part.findStep(m_step);
    if (!s) return false;
    s->slots["drawing"] = DrawingSlot(m_drawing);
    m_committing = true;
    const bool taken = m_session->commit(part, what);
    m_committing = false;
    return taken;
}

bool DrawingModel::edit(const QString& what, const std::function<void(Drawing&)>& change) {
    if (!m_step) return false;
    m_scaledBy = 0;
    change(m_drawing);
    if (const auto sizes = sizesOf(m_drawing))
        (void)settleTo(m_drawing, *sizes); // a clash is told by learn()
    return commit(what);
}

Step DrawingModel::newEdit(const QString& kind, const std::vector<int>& chosen, QString& whyNot) const {
    whyNot = QString::fromStdString(whyNoEdit(kind.toStdString(), m_drawing, chosen));
    return gc::newEdit(kind.toStdString(), m_drawing, chosen);
}

EditOutcome DrawingModel::tryEdit(const Step& edit, const std::vector<int>& chosen, Drawing& drawing) const {
    drawing = m_drawing;
    return applyEdit(edit, m_session->part(), chosen, drawing, lettersAsStrokes);
}

Result<TypedPlace> DrawingModel::placeFrom(const QString& text, std::optional<Vec2> from,
                                           Vec2 pointer) const {
    return placeFromText(text.toStdString(), units(), names(), from, pointer);
}

/// A pitch typed with how many there are.
QString DrawingModel::repeatAnew(const Step& edit, int relation, const std::string& name) {
    Drawing with;
    const EditOutcome out = tryEdit(edit, {}, with);
    if (!out.done()) return QString::fromStdString(saidIn(units(), out.whyNot));
    if (with.findRelation(relation)) {
        const std::string why = nameDimension(with, relation, name, valuesOf(m_session->part()));
        if (!why.empty()) return QString::fromStdString(why);
    }
    this->edit(tr("repeated anew"), [&](Drawing& d) { d = with; });
    return {};
}

void DrawingModel::takeOtherwise(Relation other) {
    edit(other.overAll ? tr("measured over all") : tr("measured from the centres"), [&](Drawing& d) {
        other.expression =
            sizeInWords(measured(d, other), wordsOf(other.kind).dimension, units(), kTypedDecimals);
        *d.findRelation(other.id) = other;
    });
}

QString DrawingModel::shownFigure(const Relation& r) const {
    return QString::fromStdString(withCount(m_drawing, r, figure(r).toStdString()));
}

QString DrawingModel::typedFigure(const Relation& r) const {
    return QString::fromStdString(
        withCount(m_drawing, r, r.expression.empty() ? figure(r).toStdString() : r.expression));
}

QString DrawingModel::setSize(int relation, const QString& text) {
    Drawing trial = m_drawing;
    Relation* r = trial.findRelation(relation);
    if (!r) return {};
    const double was = measured(trial, *r);
    const NamedExpression typed = splitName(text.toStdString());
    if (const auto anew = repeatTyped(m_drawing, relation, typed.expression, units()))
        return repeatAnew(*anew, relation, typed.name.value_or(std::string()));
    const std::string why =
        nameDimension(trial, relation, typed.name.value_or(std::string()), valuesOf(m_session->part()));
    if (!why.empty()) return QString::fromStdString(why);
    r->expression = typed.expression;
    auto sizes = sizesOf(trial);
    if (!sizes) {
        const QString problem = m_sizeProblem;
        m_sizeProblem.clear();
        return problem;
    }
    const bool isLength = wordsOf(r->kind).dimension == kLength;
    double scale = 0;
    if (isLength && !trial.sized) {
        trial.sized = true;
        const double factor = sizes->at(relation) / std::max(was, 1e-9);
        if (factor > 0 && std::fabs(factor - 1) > 1e-6) {
            scaleWithFigures(trial, factor, relation, units(), valuesOf(m_session->part()));
            if (auto scaled = sizesOf(trial)) sizes = std::move(scaled);
            scale = factor;
        }
    }
    const Settlement s = settleTo(trial, *sizes);
    if (s.solved && !s.senseKept)
        return tr("With this size the drawing would turn over or cross itself. Try a size nearer to %1.")
            .arg(figure(*m_drawing.findRelation(relation)));
    m_drawing = trial;
    m_scaledBy = scale;
    m_scaledTo = relation;
    if (commit(tr("size %1").arg(text.trimmed()))) return {};
    m_scaledBy = 0;
    return tr("With this size the drawing would be larger than a part can hold. Is its unit right?");
}

QString DrawingModel::nameOfDimension(int relation) {
    const Relation* r = m_drawing.findRelation(relation);
    if (!r) return {};
    if (!r->name.empty()) return QString::fromStdString(r->name);
    const std::string name = freeDimensionName(m_drawing, valuesOf(m_session->part()));
    edit(tr("dimension named"), [&](Drawing& d) { d.findRelation(relation)->name = name; });
    return QString::fromStdString(name);
}

void DrawingModel::setReadOnly(int relation, bool on) {
    const Relation* r = m_drawing.findRelation(relation);
    if (!r || r->readOnly == on) return;
    // Driving again, it holds what it measures now: nothing jumps.
    const std::string now = sizeInWords(measured(m_drawing, *r), wordsOf(r->kind).dimension, units(), 6);
    edit(on ? tr("dimension only measures") : tr("dimension drives"), [&](Drawing& d) {
        Relation& changed = *d.findRelation(relation);
        changed.readOnly = on;
        if (!on) changed.expression = now;
    });
}

Values DrawingModel::names() const {
    return namesWithin(m_drawing, units(), valuesOf(m_session->part()));
}

QStringList DrawingModel::namesInReach(int butNot) const {
    QStringList out;
    for (const auto& [name, amount] : valuesOf(m_session->part()))
        out << QStringLiteral("%1 = %2").arg(
            QString::fromStdString(name),
            QString::fromStdString(sizeInWords(amount.value, amount.dimension, units())));
    for (const Relation& r : m_drawing.relations)
        if (!r.name.empty() && r.id != butNot && !r.readOnly)
            out << QStringLiteral("%1 = %2").arg(QString::fromStdString(r.name), figure(r));
    return out;
}

void DrawingModel::keepOldScale() {
    if (m_scaledBy <= 0) return;
    const double factor = m_scaledBy;
    edit(tr("old scale kept"), [&](Drawing& d) {
        scaleWithFigures(d, 1 / factor, m_scaledTo, units(), valuesOf(m_session->part()));
    });
}

void DrawingModel::beginDrag(const std::vector<int>& points) {
    m_settler = std::make_unique<Settler>(m_drawing, m_sizes);
    m_settler->grab(points);
}

void DrawingModel::beginDragSize(int stroke) {
    m_settler = std::make_unique<Settler>(m_drawing, m_sizes);
    m_settler->grabSize(stroke);
}

void DrawingModel::dragTo(Vec2 by) {
    if (!m_settler) return;
    m_settler->drag(by);
    m_settler->writeTo(m_drawing);
    showMoved();
}

void DrawingModel::dragSizeTo(double radius) {
    if (!m_settler) return;
    m_settler->dragSize(radius);
    m_settler->writeTo(m_drawing);
    showMoved();
}

/// While the pointer moves; what a large drawing encloses is found when it rests.
void DrawingModel::showMoved() {
    constexpr std::size_t kSmall = 250;
    if (m_drawing.strokes.size() < kSmall) m_closedness = findRegions(m_drawing);
    Q_EMIT changed();
}

void DrawingModel::endDrag(const QString& what) {
    if (!m_settler) return;
    m_settler.reset();
    commit(what);
}

QString DrawingModel::figure(const Relation& r) const {
    const auto it = m_sizes.find(r.id);
    const double v = r.readOnly || it == m_sizes.end() ? measured(m_drawing, r) : it->second;
    const Dimension dimension = wordsOf(r.kind).dimension;
    std::string text = sizeInWords(v, dimension, units());
    if (!r.readOnly && dimension != kNumber) // as it was typed: fractions stay fractions
        if (const auto plain = plainFigure(r.expression, units().symbolFor(dimension));
            plain && plain->size() <= 16)
            text = *plain;
    const bool round = r.kind == RelationKind::Diameter || r.kind == RelationKind::DiameterAboutAxis;
    const QString prefix = round                            ? QStringLiteral("⌀ ")
                           : r.kind == RelationKind::Radius ? QStringLiteral("R ")
                           : r.kind == RelationKind::Ratio  ? tr("ratio ")
                                                            : QString();
    return prefix + QString::fromStdString(text);
}

} // namespace gc::app
