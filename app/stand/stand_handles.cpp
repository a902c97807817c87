#include "app/link/forge_link.hpp"
#include "app/look/theme.hpp"
#include "app/stand/stand.hpp"

#include <QKeyEvent>
#include <QLineEdit>

#include <cmath>

// Sizes that are dragged or typed in the stand, and what their ends stop at.

namespace gc::app {

namespace {

constexpr double kStops = 12;     // pixels: so near a face or a corner the end stops there
constexpr double kAside = 36;     // pixels from the arrow: on its way elsewhere
constexpr double kNothing = 1e-3; // mm: where it begins it cannot end

/// Does the reference rest on that step? What a step makes itself its end cannot stop at.
bool restsOn(const QStringList& refs, int step) {
    const QString word = QStringLiteral("step %1").arg(step);
    for (const QString& r : refs)
        for (qsizetype at = r.indexOf(word); at >= 0; at = r.indexOf(word, at + 1)) {
            const qsizetype end = at + word.size();
            if (end == r.size() || !r[end].isDigit()) return true;
        }
    return false;
}

} // namespace

Handles::Scene Stand::handleScene() const {
    const auto& e = m_renderer.extent();
    return {m_camera, size(), m_forge->units(), e.empty() ? QVector3D() : e.centre()};
}

void Stand::setHandles(std::vector<HandleView> handles) {
    if (m_typing && (handles.empty() || handles.size() != m_handles.all().size())) endTyping(false);
    m_handles.set(std::move(handles));
    update();
}

QPointF Stand::handleTip(const QString& slot) const {
    return m_handles.tip(m_handles.find(slot), handleScene());
}

QRectF Stand::handleFigure(const QString& slot) const {
    return m_handles.figure(m_handles.find(slot), handleScene());
}

/// A corner, or a face that is not nearly edge-on, where the end is nearly at it.
std::optional<Handles::Stop> Stand::stopUnder(QPoint at) {
    const HandleView& h = m_handles.taken();
    if (!h.reaches) return std::nullopt;
    const auto scene = handleScene();
    const int own = m_forge->aids().step;
    double least = kStops;
    std::optional<Handles::Stop> stop;
    for (const PlaceView& p : m_forge->places()) {
        const QPointF d = screenOf(p.at) - at;
        const double away = std::hypot(d.x(), d.y());
        if (away >= least || p.refs.isEmpty() || restsOn(p.refs, own)) continue;
        least = away;
        stop = Handles::Stop{p.at, p.refs, true, tr("to %1").arg(inWords(p.refs.first()))};
    }
    if (stop) return stop;
    constexpr float kSteep = 0.3f; // cosine between the face's normal and the way of the end
    refreshIds();
    const std::uint32_t id = m_renderer.faceAt(at);
    const float depth = m_renderer.depthAt(at);
    if (!id || depth >= 1) return std::nullopt;
    const QVector3D here = m_camera.unproject(at, depth, size());
    const auto beside = [&](QPoint by) {
        const float d = m_renderer.depthAt(at + by);
        return d < 1 ? m_camera.unproject(at + by, d, size()) - here : QVector3D();
    };
    const QVector3D n = QVector3D::crossProduct(beside({2, 0}), beside({0, 2})).normalized();
    if (std::fabs(QVector3D::dotProduct(n, h.direction)) < kSteep) return std::nullopt;
    // Along the arrow any face may lie behind it: there the end has to be at the face. Whoever goes aside to
    // a face means it.
    const auto [value, away] = m_handles.valueOf(here, at, scene);
    if (std::fabs(value) < kNothing || (m_handles.beside(at, scene) < kAside && away > kStops))
        return std::nullopt;
    const QStringList* refs = m_forge->namesOf(m_renderer.itemOf(id));
    if (!refs || refs->isEmpty() || restsOn(*refs, own)) return std::nullopt;
    return Handles::Stop{here, *refs, false, tr("to %1").arg(inWords(refs->first()))};
}

bool Stand::takeHandle(QPoint at) {
    const int handle = m_handles.at(at, handleScene());
    if (handle < 0) return false;
    m_handles.take(handle, at);
    return true;
}

void Stand::dragHandle(QPoint at) {
    m_handles.dragTo(at, stopUnder(at), handleScene());
    tellHandle(false);
    update();
}

void Stand::tellHandle(bool done) {
    const auto& stop = m_handles.stop();
    HandleDrag d{m_handles.taken().slot, m_handles.value(), done, {}, {}};
    if (stop) (stop->point ? d.pointRefs : d.faceRefs) = stop->refs;
    Q_EMIT handleDragged(d);
}

/// \param moved false: it was clicked, which on its figure means to type, else what lies under it
void Stand::dropHandle(QPoint at, bool moved) {
    const QString slot = m_handles.taken().slot;
    if (moved) m_handles.dragTo(at, stopUnder(at), handleScene()); // what was asked for may be known now
    if (moved) tellHandle(true);
    m_handles.letGo();
    if (!moved && m_handles.onFigure(m_handles.find(slot), at, handleScene()))
        typeHandle(slot);
    else if (!moved && m_picking != Picking::Nothing) {
        m_clicked = at;
        answerClick();
    }
    update();
}

/// The figure becomes a field in its place.
void Stand::typeHandle(const QString& slot) {
    endTyping(false);
    const int handle = m_handles.find(slot);
    if (handle < 0) return;
    const HandleView& h = m_handles.all()[static_cast<std::size_t>(handle)];
    m_typing = new QLineEdit(Handles::text(h, h.value, m_forge->units()), this);
    m_typing->setObjectName(QStringLiteral("handleField"));
    m_typing->setProperty("slot", slot);
    m_typing->setFont(textFont(14, QFont::Bold));
    QRect box = handleFigure(slot).toRect().adjusted(-2, -3, 2, 3);
    box.setWidth(std::max(box.width(), 116));
    box.moveRight(std::min(box.right(), width() - 6));
    m_typing->setGeometry(box);
    m_typing->selectAll();
    m_typing->show();
    m_typing->setFocus(Qt::MouseFocusReason);
    m_typing->installEventFilter(this);
}

void Stand::endTyping(bool keep) {
    QLineEdit* field = std::exchange(m_typing, nullptr);
    if (!field) return;
    const QString slot = field->property("slot").toString(), text = field->text().trimmed();
    field->removeEventFilter(this);
    field->hide();
    field->deleteLater();
    setFocus();
    if (keep && !text.isEmpty()) Q_EMIT handleTyped(slot, text);
}

// ---- threads between sections

void Stand::setThreads(std::vector<ThreadView> threads) {
    m_threads.set(std::move(threads));
    update();
}

QPointF Stand::threadGrip(int thread, bool end) const {
    return m_threads.gripAt({thread, end}, threadScene());
}

bool Stand::takeThread(QPoint at) {
    const Threads::Grip grip = m_threads.at(at, threadScene());
    if (grip.thread < 0) return false;
    m_threads.take(grip);
    return true;
}

void Stand::pullThread(QPoint at) {
    if (m_threads.pullTo(at, threadScene())) tellThread(false);
    update();
}

void Stand::dropThread(bool moved) {
    if (moved) tellThread(true);
    m_threads.letGo();
    update();
}

void Stand::tellThread(bool done) {
    const ThreadView& t = m_threads.taken();
    if (const auto* place = m_threads.place())
        Q_EMIT threadPulled({t.slot, place->says, t.choice, t.chosen, done});
}

bool Stand::eventFilter(QObject* o, QEvent* e) {
    if (o == m_typing && e->type() == QEvent::KeyPress) { // neither key is the window's
        const int key = static_cast<QKeyEvent*>(e)->key();
        const bool enter = key == Qt::Key_Return || key == Qt::Key_Enter;
        if (enter || key == Qt::Key_Escape) {
            endTyping(enter);
            return true;
        }
    }
    if (o == m_typing && e->type() == QEvent::FocusOut) endTyping(true);
    return QOpenGLWidget::eventFilter(o, e);
}

} // namespace gc::app
