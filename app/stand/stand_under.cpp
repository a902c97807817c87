#include "app/link/forge_link.hpp"
#include "app/look/theme.hpp"
#include "app/stand/stand.hpp"
#include "core/names/reference.hpp"

#include <QMenu>
#include <QPainter>

#include <algorithm>
#include <cmath>

// What lies under the pointer, one behind the other, and several at once in a box.

namespace gc::app {

namespace {

double segmentDistance(QPointF a, QPointF b, QPointF p, double& t) {
    const QPointF u = b - a, v = p - a;
    const double l2 = QPointF::dotProduct(u, u);
    t = l2 > 0 ? std::clamp(QPointF::dotProduct(u, v) / l2, 0.0, 1.0) : 0;
    const QPointF d = v - u * t;
    return std::hypot(d.x(), d.y());
}

/// Where a pixel lies in a triangle on the screen; nothing where it does not.
std::optional<QVector3D> within(const QPointF (&c)[3], QPointF p) {
    const auto cross = [](QPointF a, QPointF b) { return a.x() * b.y() - a.y() * b.x(); };
    const double all = cross(c[1] - c[0], c[2] - c[0]);
    if (std::fabs(all) < 1e-12) return std::nullopt;
    const double v = cross(p - c[0], c[2] - c[0]) / all, w = cross(c[1] - c[0], p - c[0]) / all;
    if (v < 0 || w < 0 || v + w > 1) return std::nullopt;
    return QVector3D(static_cast<float>(1 - v - w), static_cast<float>(v), static_cast<float>(w));
}

} // namespace

bool Stand::picksEdges() const {
    return m_picking == Picking::Edges || m_picking == Picking::Curves || m_picking == Picking::Axes ||
           m_picking == Picking::Anything;
}

/// Everything that could be picked there, from the front to the back.
std::vector<std::uint32_t> Stand::itemsUnder(QPoint at) const {
    constexpr double kNear = 5;                          // pixels from an edge
    std::vector<std::pair<double, std::uint32_t>> found; // with how far away
    const QVector3D eye = m_camera.direction();
    const auto note = [&](const QVector3D& p, std::uint32_t id) {
        const double away = -static_cast<double>(QVector3D::dotProduct(p, eye));
        for (auto& [d, known] : found)
            if (known == id) return void(d = std::min(d, away));
        found.emplace_back(away, id);
    };
    const bool faces = m_picking != Picking::Edges && m_picking != Picking::Curves;
    for (const auto& [body, mesh] : m_forge->meshes()) {
        const auto style = m_styles.find(body);
        if (style != m_styles.end() && style->second.hidden) continue;
        std::vector<QPointF> seen(mesh.points.size());
        for (std::size_t i = 0; i < seen.size() && faces; ++i) seen[i] = screenOf(mesh.points[i]);
        for (std::size_t t = 0; faces && t + 2 < mesh.triangles.size(); t += 3) {
            const std::uint32_t* k = &mesh.triangles[t];
            const QPointF c[3] = {seen[k[0]], seen[k[1]], seen[k[2]]};
            const auto w = within(c, at);
            if (!w) continue;
            const std::uint32_t id = m_renderer.idOf({body, false, static_cast<int>(mesh.faceOf[k[0]])});
            const bool flat = m_renderer.isFlat(id);
            if ((m_picking == Picking::Planes && !flat) || (m_picking == Picking::Axes && flat)) continue;
            note(mesh.points[k[0]] * w->x() + mesh.points[k[1]] * w->y() + mesh.points[k[2]] * w->z(), id);
        }
        for (std::size_t e = 0; picksEdges() && e < mesh.edges.size(); ++e)
            for (std::uint32_t i = mesh.edges[e].first; i + 1 < mesh.edges[e].first + mesh.edges[e].count;
                 ++i) {
                double t = 0;
                const QVector3D a = mesh.lines[i], b = mesh.lines[i + 1];
                if (segmentDistance(screenOf(a), screenOf(b), at, t) < kNear)
                    note(a + (b - a) * static_cast<float>(t),
                         m_renderer.idOf({body, true, static_cast<int>(e)}));
            }
    }
    std::stable_sort(found.begin(), found.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<std::uint32_t> out;
    for (const auto& one : found) {
        const std::uint32_t id = one.second;
        // Of a body all faces are one and the same.
        const bool again =
            m_picking == Picking::Bodies && std::any_of(out.begin(), out.end(), [&](std::uint32_t o) {
                return m_renderer.itemOf(o).body == m_renderer.itemOf(id).body;
            });
        if (!again) out.push_back(id);
    }
    return out;
}

QString Stand::wordsOf(std::uint32_t id) {
    const BodyItem item = m_renderer.itemOf(id);
    if (m_picking == Picking::Bodies) return nameOf(item.body);
    const QStringList* refs = m_forge->namesOf(item);
    if (!refs) return tr("…");
    return refs->isEmpty() ? tr("an unnamed face") : inWords(refs->first());
}

QString Stand::nameOf(ThingId body) const {
    const auto mesh = m_forge->meshes().find(body);
    return mesh == m_forge->meshes().end() ? QString() : mesh->second.name;
}

void Stand::takeBody(const QString& name) {
    Pick pick;
    pick.kind = Picking::Bodies;
    pick.refs = {name};
    Q_EMIT picked(pick);
}

/// The next that lies behind what is under the pointer; after the last the first again.
bool Stand::nextUnder() {
    if (m_picking == Picking::Nothing || m_picking == Picking::Points || m_picking == Picking::Areas ||
        !rect().contains(m_pointer))
        return false;
    if (m_beneath.empty() || !isAtBeneath(m_pointer)) {
        refreshIds();
        const std::uint32_t front = picksEdges() ? m_renderer.idAt(m_pointer) : m_renderer.faceAt(m_pointer);
        m_beneath = itemsUnder(m_pointer);
        m_beneathAt = m_pointer;
        // What is in front is marked already; an edge that is hidden by a face is the first that is not.
        const bool inFront =
            !m_beneath.empty() && m_renderer.itemOf(front) == m_renderer.itemOf(m_beneath[0]);
        m_beneathPlace = inFront || m_picking == Picking::Bodies ? 0 : m_beneath.size() - 1;
        if (m_beneath.size() < (inFront ? 2U : 1U)) m_beneath.clear();
    }
    if (m_beneath.empty()) return true;
    m_beneathPlace = (m_beneathPlace + 1) % m_beneath.size();
    hover(m_pointer);
    update();
    return true;
}

/// A hand that clicks trembles.
bool Stand::isAtBeneath(QPoint at) const {
    constexpr int kStill = 4; // pixels
    return (at - m_beneathAt).manhattanLength() < kStill;
}

void Stand::forgetBeneath() {
    m_beneath.clear();
    m_beneathPlace = 0;
}

/// The item that a click there means: what was stepped to, else the one in front.
std::uint32_t Stand::idUnder(QPoint at) const {
    if (!m_beneath.empty() && isAtBeneath(at)) return m_beneath[m_beneathPlace];
    return picksEdges() ? m_renderer.idAt(at) : m_renderer.faceAt(at);
}

/// All of it in words; an entry that is pointed at lights up, a click on it picks.
void Stand::listUnder(QPoint at) {
    m_pointer = at;
    m_beneath = itemsUnder(at);
    m_beneathAt = at;
    m_beneathPlace = 0;
    if (m_beneath.empty()) return;
    auto* menu = new QMenu(this);
    menu->setObjectName(QStringLiteral("underPointer"));
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (std::size_t i = 0; i < m_beneath.size(); ++i) {
        QAction* a = menu->addAction(wordsOf(m_beneath[i]));
        connect(a, &QAction::hovered, this, [this, i] {
            if (i >= m_beneath.size()) return;
            m_beneathPlace = i;
            hover(m_beneathAt);
        });
        connect(a, &QAction::triggered, this, [this, at, i] {
            if (i >= m_beneath.size()) return;
            m_beneathPlace = i;
            m_clicked = at;
            answerClick();
        });
    }
    // What is asked for by then has its words.
    connect(m_forge, &ForgeLink::itemNamed, menu, [this, menu] {
        const auto actions = menu->actions();
        for (std::size_t i = 0; i < m_beneath.size() && i < static_cast<std::size_t>(actions.size()); ++i)
            actions[static_cast<qsizetype>(i)]->setText(wordsOf(m_beneath[i]));
    });
    menu->popup(mapToGlobal(at + QPoint(8, 4)));
}

void Stand::paintBeneath(QPainter& p) {
    if (m_beneath.empty() || !isAtBeneath(m_pointer)) return;
    constexpr int kLine = 20;
    const Theme& t = theme();
    QStringList lines;
    for (const std::uint32_t id : m_beneath) lines << wordsOf(id);
    p.setFont(textFont(12, QFont::DemiBold));
    double wide = 0;
    for (const QString& l : lines) wide = std::max(wide, double(p.fontMetrics().horizontalAdvance(l)));
    const QString hint = tr("N: the next behind it");
    wide = std::max(wide, double(p.fontMetrics().horizontalAdvance(hint)));
    QRectF box(m_pointer.x() + 18, m_pointer.y() + 14, wide + 38, 12 + kLine * double(lines.size() + 1));
    if (box.right() > width() - 6) box.moveRight(m_pointer.x() - 12);
    if (box.bottom() > height() - 6) box.moveBottom(height() - 6.0);
    p.setBrush(t.card);
    p.setPen(QPen(t.line, 1));
    p.drawRoundedRect(box, 6, 6);
    for (qsizetype i = 0; i < lines.size(); ++i) {
        const QRectF row(box.x() + 8, box.y() + 6 + kLine * double(i), wide + 22, kLine);
        const bool now = static_cast<std::size_t>(i) == m_beneathPlace;
        if (now) {
            p.setPen(Qt::NoPen);
            p.setBrush(t.accentSoft);
            p.drawRoundedRect(row, 4, 4);
        }
        p.setPen(now ? t.accent : t.ink);
        p.drawText(row.adjusted(8, 0, 0, 0), Qt::AlignVCenter, lines[i]);
    }
    p.setFont(textFont(11));
    p.setPen(t.inkSoft);
    p.drawText(QRectF(box.x() + 16, box.bottom() - kLine - 3, wide + 20, kLine), Qt::AlignVCenter, hint);
}

// ---- a box over several

/// A reference to an item and not to all that a rule takes in.
bool Stand::isItsOwn(const QString& ref, bool edge) {
    return edge ? ref.startsWith(QLatin1String("where ")) : !ref.startsWith(QLatin1String(kEverything));
}

bool Stand::picksSeveral() const {
    return m_several &&
           (m_picking == Picking::Faces || m_picking == Picking::Edges || m_picking == Picking::Bodies);
}

void Stand::takeBox(const QRect& box) {
    refreshIds();
    m_boxed = m_renderer.itemsWithin(box, picksEdges());
    answerBox();
}

/// Once all that was taken has a name.
void Stand::answerBox() {
    if (m_boxed.empty()) return;
    QStringList refs;
    bool waits = false;
    for (const std::uint32_t id : m_boxed) {
        const BodyItem item = m_renderer.itemOf(id);
        if (m_picking == Picking::Bodies) {
            if (const QString name = nameOf(item.body); !refs.contains(name)) refs << name;
            continue;
        }
        const QStringList* known = m_forge->namesOf(item);
        if (!known) {
            waits = true;
            continue;
        }
        // Just these and no others: not a rule that takes in more.
        QString own;
        for (const QString& r : *known)
            if (isItsOwn(r, item.edge)) own = r;
        if (!own.isEmpty() && !refs.contains(own)) refs << own;
    }
    if (waits) return;
    m_boxed.clear();
    if (!refs.isEmpty()) Q_EMIT boxed(refs);
}

void Stand::paintBox(QPainter& p) const {
    if (m_drag != Drag::Box) return;
    QColor fill = theme().accent;
    fill.setAlphaF(0.1f);
    p.setBrush(fill);
    p.setPen(QPen(theme().accent, 1.4, Qt::DashLine));
    p.drawRect(QRect(m_press, m_last).normalized());
}

} // namespace gc::app
