// Ids and depths of the whole view: one pass when the camera rests, and look-ups cost nothing.

#define GL_GLEXT_PROTOTYPES 1
#include <GL/gl.h>
#include <GL/glext.h>

#include "app/stand/renderer.hpp"

#include <algorithm>
#include <cmath>
#include <map>

namespace gc::app {

namespace {

/// A row of pixels is the first from below. \param none where nothing was read
template <class T>
T valueAt(const std::vector<T>& all, QSize size, QPoint pixel, T none) {
    if (all.empty() || !QRect({}, size).contains(pixel)) return none;
    return all[static_cast<std::size_t>(size.height() - 1 - pixel.y()) *
                   static_cast<std::size_t>(size.width()) +
               static_cast<std::size_t>(pixel.x())];
}

} // namespace

void Renderer::drawIds(QSize pixels, const Camera& camera, const DrawOptions& o) {
    if (!m_pickFramebuffer) {
        glGenFramebuffers(1, &m_pickFramebuffer);
        glGenTextures(1, &m_pickTexture);
        glGenRenderbuffers(1, &m_pickDepth);
    }
    if (m_pickSize != pixels) {
        glBindTexture(GL_TEXTURE_2D, m_pickTexture);
        glTexImage2D(GL_TEXTURE_2D, 0, GL_R32UI, pixels.width(), pixels.height(), 0, GL_RED_INTEGER,
                     GL_UNSIGNED_INT, nullptr);
        glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_NEAREST);
        glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MAG_FILTER, GL_NEAREST);
        glBindTexture(GL_TEXTURE_2D, 0);
        glBindRenderbuffer(GL_RENDERBUFFER, m_pickDepth);
        glRenderbufferStorage(GL_RENDERBUFFER, GL_DEPTH_COMPONENT24, pixels.width(), pixels.height());
        m_pickSize = pixels;
    }
    glBindFramebuffer(GL_FRAMEBUFFER, m_pickFramebuffer);
    glFramebufferTexture2D(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_TEXTURE_2D, m_pickTexture, 0);
    glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_RENDERBUFFER, m_pickDepth);
    glViewport(0, 0, pixels.width(), pixels.height());
    glDisable(GL_MULTISAMPLE);
    glDisable(GL_BLEND);
    glDisable(GL_SCISSOR_TEST);
    glEnable(GL_DEPTH_TEST);
    glDepthMask(1);
    glDepthFunc(GL_LEQUAL);
    const GLuint nothing[4] = {0, 0, 0, 0};
    glClearBufferuiv(GL_COLOR, 0, nothing);
    glClear(GL_DEPTH_BUFFER_BIT);
    const QMatrix4x4 both = camera.both(pixels);
    if (o.cut) glEnable(GL_CLIP_DISTANCE0);
    drawFaces(both, camera.view(), o, true);
    const std::size_t count =
        static_cast<std::size_t>(pixels.width()) * static_cast<std::size_t>(pixels.height());
    m_depths.resize(count);
    glReadPixels(0, 0, pixels.width(), pixels.height(), GL_DEPTH_COMPONENT, GL_FLOAT, m_depths.data());
    m_faceIds.resize(count);
    glReadPixels(0, 0, pixels.width(), pixels.height(), GL_RED_INTEGER, GL_UNSIGNED_INT, m_faceIds.data());
    drawEdges(both, pixels, o, true);
    glDisable(GL_CLIP_DISTANCE0);
    m_ids.resize(count);
    glReadPixels(0, 0, pixels.width(), pixels.height(), GL_RED_INTEGER, GL_UNSIGNED_INT, m_ids.data());
    glBindVertexArray(0);
    glUseProgram(0);
}

std::uint32_t Renderer::idAt(QPoint pixel, int reach) const {
    if (m_ids.empty()) return 0;
    const auto at = [&](int x, int y) { return valueAt(m_ids, m_pickSize, {x, y}, 0U); };
    std::uint32_t best = at(pixel.x(), pixel.y());
    if (best & kEdgeBit) return best;
    int bestDistance = reach * reach + 1;
    for (int dy = -reach; dy <= reach; ++dy) // an edge near the pointer goes before the face under it
        for (int dx = -reach; dx <= reach; ++dx) {
            const std::uint32_t id = at(pixel.x() + dx, pixel.y() + dy);
            if ((id & kEdgeBit) && dx * dx + dy * dy < bestDistance) {
                best = id;
                bestDistance = dx * dx + dy * dy;
            }
        }
    return best;
}

std::uint32_t Renderer::faceAt(QPoint pixel) const {
    return valueAt(m_faceIds, m_pickSize, pixel, 0U);
}

float Renderer::depthAt(QPoint pixel) const {
    return valueAt(m_depths, m_pickSize, pixel, 1.f);
}

std::vector<QPoint> Renderer::placesOfItems(bool edges, bool flat) const {
    struct Seen {
        double x = 0, y = 0;
        int pixels = 0;
        QPoint best;
        double nearest = 1e300;
    };
    constexpr int kLeast = 3; // pixels: less cannot be pointed at
    std::map<std::uint32_t, Seen> seen;
    const auto each = [&](const auto& visit) {
        for (int y = 0; y < m_pickSize.height(); ++y) {
            const auto row = static_cast<std::size_t>(m_pickSize.height() - 1 - y) *
                             static_cast<std::size_t>(m_pickSize.width());
            for (int x = 0; x < m_pickSize.width(); ++x) {
                const std::uint32_t id = m_ids[row + static_cast<std::size_t>(x)];
                if (id && ((id & kEdgeBit) != 0) == edges) visit(id, x, y);
            }
        }
    };
    if (m_ids.empty()) return {};
    each([&](std::uint32_t id, int x, int y) {
        Seen& s = seen[id];
        s.x += x, s.y += y;
        ++s.pixels;
    });
    // The middle of a ring is not on it: the pixel of its own that is nearest to that.
    each([&](std::uint32_t id, int x, int y) {
        Seen& s = seen[id];
        const double dx = x - s.x / s.pixels, dy = y - s.y / s.pixels, d = dx * dx + dy * dy;
        if (d < s.nearest) s.nearest = d, s.best = {x, y};
    });
    std::vector<QPoint> out;
    for (const auto& [id, s] : seen)
        if (s.pixels >= kLeast && (!flat || isFlat(id))) out.push_back(s.best);
    return out;
}

std::vector<std::uint32_t> Renderer::itemsWithin(const QRect& box, bool edges) const {
    std::map<std::uint32_t, bool> seen; // and whether it is seen within only
    if (m_ids.empty()) return {};
    for (int y = 0; y < m_pickSize.height(); ++y) {
        const auto row = static_cast<std::size_t>(m_pickSize.height() - 1 - y) *
                         static_cast<std::size_t>(m_pickSize.width());
        for (int x = 0; x < m_pickSize.width(); ++x) {
            const std::uint32_t id = m_ids[row + static_cast<std::size_t>(x)];
            if (!id || ((id & kEdgeBit) != 0) != edges) continue;
            const auto at = seen.emplace(id, true).first;
            at->second = at->second && box.contains(x, y);
        }
    }
    std::vector<std::uint32_t> out;
    for (const auto& [id, within] : seen)
        if (within) out.push_back(id);
    return out;
}

} // namespace gc::app
