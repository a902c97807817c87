#include "app/stand/stand.hpp"

#include "app/link/forge_link.hpp"
#include "app/look/theme.hpp"

#include <QMouseEvent>
#include <QPainter>
#include <QSettings>

#include <algorithm>
#include <cmath>

namespace gc::app {

namespace {
constexpr float kCutYaw =
    12.f; // degrees that the cut is turned from the view of the front, so that it can be seen
} // namespace

Stand::Stand(ForgeLink* forge, QWidget* parent) : QOpenGLWidget(parent), m_forge(forge) {
    setMouseTracking(true);
    connect(forge, &ForgeLink::guidesChanged, this, qOverload<>(&QWidget::update));
    connect(forge, &ForgeLink::lookChanged, this, qOverload<>(&QWidget::update));
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(280, 260);
    setAccessibleName(tr("Stand"));
    connect(forge, &ForgeLink::bodiesShown, this, [this] {
        if (!m_blank) return;
        m_blank = false;
        m_meshesStale = true;
        update();
    });
    connect(forge, &ForgeLink::meshesChanged, this, [this] {
        m_meshesStale = true;
        update();
    });
    connect(forge, &ForgeLink::haloChanged, this, [this] {
        m_renderer.setChosen(m_forge->halo());
        update();
    });
    connect(forge, &ForgeLink::itemNamed, this, &Stand::named);
    connect(forge, &ForgeLink::aidsChanged, this, [this] {
        m_aidsStale = true;
        update();
    });
    connect(forge, &ForgeLink::fieldsChanged, this, [this] {
        m_fieldsStale = true;
        Q_EMIT valuesChanged();
        update();
    });
    m_rest.setSingleShot(true);
    m_rest.setInterval(220);
    connect(&m_rest, &QTimer::timeout, this, [this] {
        m_smoothNext = true;
        update();
    });
    m_companion =
        static_cast<Companion>(std::clamp(QSettings().value(QStringLiteral("companion"), 0).toInt(), 0, 2));
    m_flight.setDuration(220);
    m_flight.setStartValue(0.f);
    m_flight.setEndValue(1.f);
}

void Stand::initializeGL() {
    m_renderer.initialise();
    m_ready = true;
}

void Stand::refreshMeshes() {
    m_renderer.setMeshes(m_blank ? std::map<ThingId, BodyMesh>() : m_forge->meshes());
    m_renderer.setStyles(m_styles);
    m_renderer.setChosen(m_forge->halo());
    if (!m_beneath.empty()) { // the same places on the part as it is now
        m_beneath = itemsUnder(m_beneathAt);
        if (m_beneathPlace >= m_beneath.size()) forgetBeneath();
    }
    m_boxed.clear();
    markBodies();
    m_meshesStale = false;
    m_fieldsStale = true;
    m_idsStale = true;
    if (m_options.overlay == Overlay::Bending) setRange();
    m_options.hovered = 0;
    if (!m_renderer.extent().empty()) {
        fillGround();
        m_camera.deep = std::max(Camera::kDepth, 2 * m_renderer.extent().size());
        // What is tried may reach out of sight; a view that a person has chosen stays.
        if (!m_fitted || (!m_moved && !allInView())) {
            m_fitted = true;
            fit();
        }
    }
}

void Stand::fillGround() {
    m_options.ground = m_renderer.extent().low.z() - 0.05f;
}

void Stand::refreshFields() {
    m_renderer.setFields(m_forge->fields());
    m_fieldsStale = false;
    setRange();
}

void Stand::setRange() {
    float low = 1e9f, high = -1e9f;
    for (const auto& [name, f] : m_forge->fields()) {
        const Histogram& h = m_options.overlay == Overlay::WallBall ? f.ballHistogram : f.rayHistogram;
        if (!h.any) continue;
        low = std::min(low, static_cast<float>(h.low));
        high = std::max(high, static_cast<float>(h.high));
    }
    if (m_options.overlay == Overlay::Lean) {
        low = -5;
        high = 15;
    }
    m_options.mapLow = low < high ? low : 0;
    m_options.mapHigh = low < high ? high : 1;
    if (m_options.overlay == Overlay::Bending) m_options.mapLow = commonBend();
    m_options.without.reset();
    if (m_options.overlay == Overlay::Deviation) setDeviationRange();
}

void Stand::setStyles(const std::map<ThingId, BodyStyle>& styles) {
    m_styles = styles;
    m_renderer.setStyles(styles);
    m_idsStale = true;
    update();
}

void Stand::setOverlay(Overlay overlay, const TargetView* target) {
    m_options.overlay = overlay;
    m_mark.reset();
    m_limitLow.reset();
    m_limitHigh.reset();
    if (target) {
        m_mark = target->at;
        m_markText = target->text.isEmpty()
                         ? target->label
                         : QStringLiteral("%1 %2").arg(target->label.toLower(), target->text);
        const double unit = overlay == Overlay::Lean ? 180 / M_PI : 1;
        if (target->least) m_limitLow = *target->least * unit;
        if (target->most) m_limitHigh = *target->most * unit;
    }
    setRange();
    Q_EMIT overlayChanged();
    update();
}

QVector3D Stand::planeNormal() const {
    const float a = (-90.f + kCutYaw) * static_cast<float>(M_PI) / 180.f;
    return {-std::cos(a), -std::sin(a), 0}; // what is kept lies behind the cut, away from the front
}

QVector4D Stand::plane() const {
    const QVector3D n = planeNormal(), c = m_renderer.extent().centre();
    return {n, -QVector3D::dotProduct(n, c) - static_cast<float>(m_cutOffset)};
}

void Stand::setCut(bool on) {
    m_options.cut = on;
    m_cutOffset = 0;
    m_options.plane = plane();
    m_idsStale = true;
    if (on && std::fabs(std::remainder(m_camera.yaw + 90.f - kCutYaw, 360.f)) > 60.f) lookFrom(7);
    update();
}

void Stand::setChosen(const QStringList& refs) {
    m_chosen = refs;
    m_forge->setHalo(refs);
    markBodies();
    update();
}

void Stand::resizeGL(int, int) {
    m_idsStale = true;
    if (!m_moved) fit();
}

void Stand::paintGL() {
    ++m_paints;
    if (m_meshesStale) {
        refreshMeshes();
        // A click that waits for an answer is about what is seen now: its answer may be about what was.
        if (m_clicked)
            QMetaObject::invokeMethod(
                this, [this] { answerClick(); }, Qt::QueuedConnection);
    }
    // A map has many more triangles than the picture: it goes to the graphics memory when it is looked at.
    if (m_fieldsStale && isMap(m_options.overlay)) refreshFields();
    if (m_aidsStale) {
        m_renderer.setTool(m_forge->aids().tool, m_forge->aids().takes);
        m_aidsStale = false;
    }
    if (m_options.cut) m_options.plane = plane();
    // Where the processor draws, smooth edges take three times as long: they come when things are at rest.
    const bool smooth = !m_renderer.drawnByProcessor() || m_smoothNext;
    m_smoothNext = false;
    if (smooth)
        m_rest.stop();
    else
        m_rest.start();
    const QSize pixels = size() * devicePixelRatio();
    QPainter painter(this);
    painter.beginNativePainting();
    m_renderer.draw(defaultFramebufferObject(), pixels, m_camera, m_options, smooth);
    painter.endNativePainting();
    // What lies over the picture is smooth by itself, whatever the picture is.
    QImage over(pixels, QImage::Format_ARGB32_Premultiplied);
    over.setDevicePixelRatio(devicePixelRatio());
    over.fill(Qt::transparent);
    QPainter on(&over);
    on.setRenderHint(QPainter::Antialiasing);
    paintOver(on);
    on.end();
    painter.drawImage(QPointF(0, 0), over);
}

void Stand::refreshIds() {
    if (!m_idsStale || !m_ready) return;
    makeCurrent();
    m_renderer.drawIds(size(), m_camera, m_options);
    doneCurrent();
    m_idsStale = false;
}

/// A length in the part's unit.
QString Stand::lengthText(double mm, int decimals) const {
    return QString::fromStdString(formatAmount(mm, m_forge->units().length, decimals));
}

void Stand::hover(QPoint pixel) {
    refreshIds();
    if (!isAtBeneath(pixel)) forgetBeneath();
    const bool faces = m_picking == Picking::Faces || m_picking == Picking::Planes;
    const std::uint32_t id = m_picking == Picking::Nothing ? m_renderer.idAt(pixel) : idUnder(pixel);
    const bool bare =
        m_picking == Picking::Points || m_picking == Picking::Bodies || m_picking == Picking::Areas;
    const std::uint32_t shown = bare || ((id & kEdgeBit) && faces) ? 0 : id;
    const QStringList before = m_under.refs;
    m_under = m_picking == Picking::Nothing ? Pick() : pickAt(pixel);
    QString reading;
    const float depth = m_renderer.depthAt(pixel);
    if (depth < 1 && (isMap(m_options.overlay) || m_options.cut)) {
        const QVector3D at = m_camera.unproject(pixel, depth, size());
        if (m_options.cut) { // the pointer may be on the cut face in front of what is kept
            const QVector3D n = planeNormal(), toEye = m_camera.direction();
            const float ahead = QVector3D::dotProduct(n, at) + m_options.plane.w();
            const float slope = QVector3D::dotProduct(n, toEye);
            if (slope < -0.05f && ahead > 0)
                reading = readingNear(at + toEye * (-ahead / slope), m_renderer.extent().size() * 0.012f);
        }
        if (reading.isEmpty()) reading = readingNear(at, m_renderer.extent().size() * 0.04f);
    } else if (depth < 1 && m_options.overlay == Overlay::Bending && m_picking == Picking::Nothing) {
        if (!(shown & kEdgeBit)) // its comb says how an edge bends
            reading = bendNear(m_camera.unproject(pixel, depth, size()), m_renderer.extent().size() * 0.04f);
    } else if (m_picking != Picking::Nothing) {
        const QStringList& refs = m_under.refs;
        if (!m_beneath.empty())
            reading.clear(); // the list says it
        else if (!refs.isEmpty() && m_picking == Picking::Areas)
            reading = areaWords(m_under.drawing, refs.first());
        else if (!refs.isEmpty() && m_picking == Picking::Bodies)
            reading = refs.first();
        else if (!refs.isEmpty())
            reading = inWords(refs.first()) +
                      (refs.size() > 1 ? tr("\nand %1 more ways to say it").arg(refs.size() - 1) : QString());
        else if (shown && (m_picking == Picking::Faces || m_picking == Picking::Edges) &&
                 m_forge->namesOf(m_renderer.itemOf(shown)))
            reading = tr("this step makes it: pick what was there before");
        else if (m_picking == Picking::Planes && shown && !m_renderer.isFlat(shown))
            reading = tr("this face is curved: it has no plane");
    }
    // Curved faces have no plane, flat ones no axis.
    const bool flat = m_renderer.isFlat(shown), edge = shown & kEdgeBit;
    const bool useless =
        (m_picking == Picking::Planes && !flat) || (m_picking == Picking::Axes && flat && !edge);
    const std::uint32_t lit = useless ? 0 : shown;
    if (lit == m_options.hovered && reading == m_reading && reading.isEmpty() && before == m_under.refs)
        return;
    m_options.hovered = lit;
    m_reading = reading;
    markBodies();
    update();
}

/// Bodies that are chosen, or would be by a click, light up as a whole.
void Stand::markBodies() {
    std::vector<ThingId> marked;
    if (takesBodies())
        for (const auto& [id, mesh] : m_forge->meshes())
            if (m_chosen.contains(mesh.name) || m_under.refs.contains(mesh.name)) marked.push_back(id);
    m_renderer.setMarkedBodies(std::move(marked));
}

void Stand::mousePressEvent(QMouseEvent* e) {
    m_clicked.reset();
    m_press = m_last = e->pos();
    if (m_companionLabel.contains(e->position())) return nextCompanion();
    m_flight.stop();
    if (m_typing) endTyping(true);
    if (e->button() == Qt::LeftButton && takeHandle(e->pos()))
        m_drag = Drag::Handle;
    else if (e->button() == Qt::LeftButton && takeThread(e->pos()))
        m_drag = Drag::Thread;
    else if (e->button() == Qt::LeftButton && (e->modifiers() & Qt::ControlModifier) && picksSeveral())
        m_drag = Drag::Box;
    else if (m_options.cut && (e->position() - cutHandle()).manhattanLength() < 30)
        m_drag = Drag::Cut;
    else if (e->button() == Qt::LeftButton && !(e->modifiers() & Qt::ShiftModifier))
        m_drag = Drag::Orbit;
    else
        m_drag = Drag::Pan;
    refreshIds();
    const float depth = m_renderer.depthAt(e->pos());
    m_pivot = depth < 1                     ? m_camera.unproject(e->pos(), depth, size())
              : m_renderer.extent().empty() ? QVector3D()
                                            : m_renderer.extent().centre();
}

void Stand::mouseMoveEvent(QMouseEvent* e) {
    m_keyAt = {};
    m_pointer = e->pos();
    const QPoint d = e->pos() - m_last;
    m_last = e->pos();
    if (m_drag == Drag::None) return hover(e->pos());
    if (m_drag == Drag::Handle) return dragHandle(e->pos());
    if (m_drag == Drag::Thread) return pullThread(e->pos());
    if (m_drag == Drag::Box) return update();
    m_moved = m_moved || m_drag != Drag::Cut;
    if (m_drag == Drag::Orbit)
        m_camera.orbit(-0.45f * static_cast<float>(d.x()), 0.45f * static_cast<float>(d.y()), m_pivot);
    if (m_drag == Drag::Pan) m_camera.pan(d, size());
    if (m_drag == Drag::Cut) {
        const QPointF way = m_camera.project(planeNormal(), size()) - m_camera.project({0, 0, 0}, size());
        const double l2 = way.x() * way.x() + way.y() * way.y();
        if (l2 > 1e-6) m_cutOffset += (d.x() * way.x() + d.y() * way.y()) / l2;
        const double most = static_cast<double>(m_renderer.extent().size()) / 2;
        m_cutOffset = std::clamp(m_cutOffset, -most, most);
        Q_EMIT cutMoved(m_cutOffset);
    }
    m_idsStale = true;
    m_reading.clear();
    update();
}

void Stand::mouseReleaseEvent(QMouseEvent* e) {
    const bool still = (e->pos() - m_press).manhattanLength() < 4;
    const bool click = still && (m_drag == Drag::Orbit || m_drag == Drag::Box);
    const Drag drag = std::exchange(m_drag, Drag::None);
    if (drag == Drag::Orbit && !click) Q_EMIT turned();
    if (drag == Drag::Handle) return dropHandle(e->pos(), !still);
    if (drag == Drag::Thread) return dropThread(!still);
    if (drag == Drag::Box && !still) return takeBox(QRect(m_press, e->pos()).normalized());
    if (still && e->button() == Qt::RightButton && m_picking != Picking::Nothing) return listUnder(e->pos());
    if (!click || m_picking == Picking::Nothing) return;
    m_clicked = e->pos();
    answerClick();
}

/// What lies under a click may still have to be asked for: the click waits for the answer.
void Stand::answerClick() {
    if (!m_clicked) return;
    const Pick pick = pickAt(*m_clicked);
    if (pick.pending) return;
    m_clicked.reset();
    if (!pick.refs.isEmpty()) Q_EMIT picked(pick);
}

void Stand::named() {
    if (!m_boxed.empty()) return answerBox();
    if (m_drag == Drag::Handle) return dragHandle(m_pointer);
    if (m_clicked) return answerClick();
    if (m_drag == Drag::None && m_picking != Picking::Nothing && rect().contains(m_pointer)) hover(m_pointer);
}

void Stand::wheelEvent(QWheelEvent* e) {
    m_moved = true;
    m_camera.zoom(std::pow(0.9987f, static_cast<float>(e->angleDelta().y())), e->position(), size());
    m_idsStale = true;
    update();
}

void Stand::leaveEvent(QEvent*) {
    clearHover();
}

void Stand::clearHover() {
    m_under = {};
    m_options.hovered = 0;
    m_reading.clear();
    update();
}

std::vector<QVector3D> Stand::corners() const {
    std::vector<QVector3D> out;
    if (m_blank) return out;
    for (const auto& [id, mesh] : m_forge->meshes()) {
        const auto style = m_styles.find(id);
        if (style != m_styles.end() && style->second.hidden) continue;
        for (const QVector3D& p : mesh.points) {
            if (out.empty()) out = {p, p};
            for (int k = 0; k < 3; ++k) {
                out[0][k] = std::min(out[0][k], p[k]);
                out[1][k] = std::max(out[1][k], p[k]);
            }
        }
    }
    if (out.empty()) return out;
    const QVector3D low = out[0], high = out[1];
    out.clear();
    for (int k = 0; k < 8; ++k)
        out.emplace_back(k & 1 ? high.x() : low.x(), k & 2 ? high.y() : low.y(), k & 4 ? high.z() : low.z());
    return out;
}

QImage Stand::ghost(const Camera& camera, QSize pixels, std::optional<QVector4D> cut) {
    if (!m_ready || pixels.isEmpty()) return {};
    if (m_meshesStale) {
        makeCurrent();
        refreshMeshes();
    }
    if (m_renderer.extent().empty()) return {};
    makeCurrent();
    DrawOptions options;
    options.bare = true;
    options.shadow = false;
    options.cut = cut.has_value();
    if (cut) options.plane = *cut;
    QImage out = m_renderer.drawImage(pixels, camera, options);
    doneCurrent();
    return out;
}

QImage Stand::picture() {
    m_smoothNext = true;
    return grabFramebuffer();
}

} // namespace gc::app
