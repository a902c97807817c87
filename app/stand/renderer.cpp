#define GL_GLEXT_PROTOTYPES 1
#include <GL/gl.h>
#include <GL/glext.h>

#include "app/stand/renderer.hpp"

#include "app/look/theme.hpp"
#include "app/stand/shaders.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace gc::app {

namespace {

void uniform(unsigned program, const char* name, const QColor& c) {
    glUniform3f(glGetUniformLocation(program, name), static_cast<float>(c.redF()),
                static_cast<float>(c.greenF()), static_cast<float>(c.blueF()));
}

void uniformIds(unsigned program, const DrawOptions& o) {
    glUniform1ui(glGetUniformLocation(program, "uHovered"), o.hovered);
}

} // namespace

unsigned Renderer::program(const char* vertex, const char* fragment) {
    const GLuint p = glCreateProgram();
    for (const auto& [kind, source] : {std::pair{GL_VERTEX_SHADER, vertex}, {GL_FRAGMENT_SHADER, fragment}}) {
        const GLuint s = glCreateShader(static_cast<GLenum>(kind));
        glShaderSource(s, 1, &source, nullptr);
        glCompileShader(s);
        GLint ok = 0;
        glGetShaderiv(s, GL_COMPILE_STATUS, &ok);
        if (!ok) {
            char log[2000];
            glGetShaderInfoLog(s, sizeof log, nullptr, log);
            qFatal("A shader does not compile: %s", log);
        }
        glAttachShader(p, s);
        glDeleteShader(s);
    }
    glLinkProgram(p);
    return p;
}

void Renderer::initialise() {
    const auto* name = reinterpret_cast<const char*>(glGetString(GL_RENDERER));
    const QString renderer = QString::fromLatin1(name ? name : "");
    m_byProcessor =
        renderer.contains(QLatin1String("llvmpipe")) || renderer.contains(QLatin1String("softpipe"));
    using namespace shaders;
    m_mesh = program(kMeshVertex, kMeshFragment);
    m_ghost = program(kMeshVertex, kGhostFragment);
    m_edge = program(kEdgeVertex, kEdgeFragment);
    m_cap = program(kCapVertex, kCapFragment);
    m_background = program(kBackgroundVertex, kBackgroundFragment);
    m_shadow = program(kShadowVertex, kShadowFragment);
    m_faceId = program(kMeshVertex, kIdFragment);
    m_edgeId = program(kEdgeVertex, kIdFragment);
    glGenVertexArrays(1, &m_empty);
}

void Renderer::setMatrix(unsigned p, const char* name, const QMatrix4x4& m) const {
    glUniformMatrix4fv(glGetUniformLocation(p, name), 1, GL_FALSE, m.constData());
}

/// A texel for every face and edge: the shaders look up whether it is picked.
void Renderer::bindMarks(unsigned p) {
    if (m_marksStale) {
        m_marksStale = false;
        m_marks.assign(m_faceCount + m_edgeCount, 0);
        for (const BodyItem& c : m_chosen) {
            const auto b = m_bodies.find(c.body);
            const auto item = static_cast<std::uint32_t>(c.item);
            if (b == m_bodies.end() || item >= (c.edge ? b->second.edgeCount : b->second.faceCount)) continue;
            m_marks[c.edge ? m_faceCount + b->second.firstEdge + item : b->second.firstFace + item] = 1;
        }
        for (const ThingId id : m_markedBodies)
            if (const auto b = m_bodies.find(id); b != m_bodies.end())
                std::fill_n(m_marks.begin() + b->second.firstFace, b->second.faceCount, std::uint8_t{1});
        if (!m_markBuffer) {
            glGenBuffers(1, &m_markBuffer);
            glGenTextures(1, &m_markTexture);
        }
        glBindBuffer(GL_TEXTURE_BUFFER, m_markBuffer);
        glBufferData(GL_TEXTURE_BUFFER, static_cast<GLsizeiptr>(m_marks.size()), m_marks.data(),
                     GL_DYNAMIC_DRAW);
        glBindTexture(GL_TEXTURE_BUFFER, m_markTexture);
        glTexBuffer(GL_TEXTURE_BUFFER, GL_R8UI, m_markBuffer);
    }
    glActiveTexture(GL_TEXTURE0);
    glBindTexture(GL_TEXTURE_BUFFER, m_markTexture);
    glUniform1i(glGetUniformLocation(p, "uMarks"), 0);
    glUniform1i(glGetUniformLocation(p, "uEdgesFrom"), static_cast<GLint>(m_faceCount));
}

BodyItem Renderer::itemOf(std::uint32_t id) const {
    const bool edge = id & kEdgeBit;
    const std::uint32_t i = id & ~kEdgeBit;
    for (const auto& [body, b] : m_bodies) {
        const std::uint32_t first = edge ? b.firstEdge : b.firstFace,
                            count = edge ? b.edgeCount : b.faceCount;
        if (i >= first && i < first + count) return {body, edge, static_cast<int>(i - first)};
    }
    return {};
}

std::uint32_t Renderer::idOf(const BodyItem& item) const {
    const auto b = m_bodies.find(item.body);
    if (b == m_bodies.end() || item.item < 0) return 0;
    const auto i = static_cast<std::uint32_t>(item.item);
    return item.edge ? kEdgeBit | (b->second.firstEdge + i) : b->second.firstFace + i;
}

void Renderer::setClip(unsigned p, const DrawOptions& o) const {
    const QVector4D plane = o.cut ? o.plane : QVector4D(0, 0, 0, 1);
    glUniform4f(glGetUniformLocation(p, "uPlane"), plane.x(), plane.y(), plane.z(), plane.w());
}

void Renderer::drawBackground() {
    glUseProgram(m_background);
    uniform(m_background, "uLight", theme().card);
    uniform(m_background, "uDeep", theme().paperDeep);
    glBindVertexArray(m_empty);
    glDrawArrays(GL_TRIANGLES, 0, 3);
}

void Renderer::drawShadow(const QMatrix4x4& both, const DrawOptions& o) {
    if (m_extent.empty() || !o.shadow) return;
    glUseProgram(m_shadow);
    setMatrix(m_shadow, "uBoth", both);
    const QVector3D c = m_extent.centre(), half = (m_extent.high - m_extent.low) / 2;
    glUniform3f(glGetUniformLocation(m_shadow, "uCentre"), c.x(), c.y(), o.ground);
    glUniform2f(glGetUniformLocation(m_shadow, "uRadius"), half.x() * 0.82f, half.y() * 0.82f);
    glUniform1f(glGetUniformLocation(m_shadow, "uStrength"), theme().dark ? 0.75f : 0.42f);
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
    glBindVertexArray(m_empty);
    glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
    glDisable(GL_BLEND);
}

void Renderer::drawFaces(const QMatrix4x4& both, const QMatrix4x4& view, const DrawOptions& o, bool ids) {
    const unsigned p = ids ? m_faceId : m_mesh;
    glUseProgram(p);
    setMatrix(p, "uBoth", both);
    setMatrix(p, "uView", view);
    setClip(p, o);
    if (!ids) {
        glUniform1i(glGetUniformLocation(p, "uOverlay"), static_cast<int>(o.overlay));
        glUniform2f(glGetUniformLocation(p, "uRange"), o.mapLow, std::max(o.mapHigh, o.mapLow + 1e-6f));
        uniform(p, "uHalo", theme().halo);
        uniform(p, "uNone", theme().dark ? QColor("#55595c") : QColor("#c9c4b8"));
        uniform(p, "uHollow", bendColour(-1));
        uniform(p, "uFlat", bendColour(0));
        uniform(p, "uBulging", bendColour(1));
        for (int i = 0; i < 6; ++i)
            uniform(p, qPrintable(QStringLiteral("uMap[%1]").arg(i)), mapColour(i / 5.0));
        uniformIds(p, o);
        bindMarks(p);
    }
    for (const auto& [name, b] : m_bodies) {
        if (b.style.hidden || o.without == name) continue;
        if (!ids) uniform(p, "uBase", b.style.colour.isValid() ? b.style.colour : theme().clay);
        const bool field = !ids && isMap(o.overlay) && b.field.count > 0;
        const Buffers& use = field ? b.field : b.faces;
        const bool bare = !ids && isMap(o.overlay) && !field;
        if (bare) glUniform1i(glGetUniformLocation(p, "uOverlay"), 0);
        glUniform1ui(glGetUniformLocation(p, "uFirst"), b.firstFace);
        glBindVertexArray(use.vao);
        glDrawElements(GL_TRIANGLES, use.count, GL_UNSIGNED_INT, nullptr);
        if (bare) glUniform1i(glGetUniformLocation(p, "uOverlay"), static_cast<int>(o.overlay));
    }
}

/// Per body: count how often the view goes in and out behind the plane, then hatch where it is still inside.
void Renderer::drawCaps(const QMatrix4x4& both, const QMatrix4x4& view, const Camera& camera,
                        const DrawOptions& o) {
    for (const auto& [name, b] : m_bodies) {
        if (b.style.hidden || o.without == name) continue;
        glClear(GL_STENCIL_BUFFER_BIT);
        glEnable(GL_STENCIL_TEST);
        glStencilFunc(GL_ALWAYS, 0, 0xff);
        glStencilOpSeparate(GL_BACK, GL_KEEP, GL_INCR_WRAP, GL_INCR_WRAP);
        glStencilOpSeparate(GL_FRONT, GL_KEEP, GL_DECR_WRAP, GL_DECR_WRAP);
        glColorMask(0, 0, 0, 0);
        glDepthMask(0);
        glDisable(GL_DEPTH_TEST);
        glUseProgram(m_faceId);
        setMatrix(m_faceId, "uBoth", both);
        setMatrix(m_faceId, "uView", view);
        setClip(m_faceId, o);
        glBindVertexArray(b.faces.vao);
        glDrawElements(GL_TRIANGLES, b.faces.count, GL_UNSIGNED_INT, nullptr);
        glColorMask(1, 1, 1, 1);
        glDepthMask(1);
        glEnable(GL_DEPTH_TEST);
        glDisable(GL_CLIP_DISTANCE0);
        glStencilFunc(GL_NOTEQUAL, 0, 0xff);
        glStencilOp(GL_KEEP, GL_KEEP, GL_KEEP);
        glUseProgram(m_cap);
        setMatrix(m_cap, "uBoth", both);
        glUniform4f(glGetUniformLocation(m_cap, "uPlane"), o.plane.x(), o.plane.y(), o.plane.z(),
                    o.plane.w());
        const QVector3D c = m_extent.centre();
        glUniform3f(glGetUniformLocation(m_cap, "uCentre"), c.x(), c.y(), c.z());
        glUniform1f(glGetUniformLocation(m_cap, "uReach"), m_extent.size());
        uniform(m_cap, "uGround", theme().dark ? QColor("#3a302b") : QColor("#fbf1e4"));
        uniform(m_cap, "uHatch", theme().hatch);
        glBindVertexArray(m_empty);
        glEnable(GL_POLYGON_OFFSET_FILL);
        glPolygonOffset(1, 1);
        glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
        glDisable(GL_POLYGON_OFFSET_FILL);
        glDisable(GL_STENCIL_TEST);
        glEnable(GL_CLIP_DISTANCE0);
    }
    (void)camera;
}

void Renderer::drawEdges(const QMatrix4x4& both, QSize pixels, const DrawOptions& o, bool ids) {
    const unsigned p = ids ? m_edgeId : m_edge;
    glUseProgram(p);
    setMatrix(p, "uBoth", both);
    setClip(p, o);
    glUniform2f(glGetUniformLocation(p, "uPixels"), static_cast<float>(pixels.width()),
                static_cast<float>(pixels.height()));
    glUniform1f(glGetUniformLocation(p, "uWidth"), ids ? 6.f : 1.4f);
    glUniform1f(glGetUniformLocation(p, "uBias"), 6e-5f);
    const QColor ink = theme().clayEdge;
    glUniform4f(glGetUniformLocation(p, "uInk"), static_cast<float>(ink.redF()),
                static_cast<float>(ink.greenF()), static_cast<float>(ink.blueF()), 0.85f);
    uniform(p, "uHalo", theme().halo);
    uniformIds(p, o);
    bindMarks(p);
    if (!ids) {
        glEnable(GL_BLEND);
        glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
        glDepthMask(0);
    }
    for (const auto& [name, b] : m_bodies) {
        if (b.style.hidden || o.without == name) continue;
        glBindVertexArray(b.edges.vao);
        glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, b.edges.count);
    }
    glDepthMask(1);
    glDisable(GL_BLEND);
}

/// Faintly through the part, and hatched where it is not hidden by it: also where it lies on the walls that
/// it leaves.
void Renderer::drawTool(const QMatrix4x4& both, const QMatrix4x4& view, const DrawOptions& o) {
    if (m_tool.faces.count == 0 || o.bare) return;
    glUseProgram(m_ghost);
    setMatrix(m_ghost, "uBoth", both);
    setMatrix(m_ghost, "uView", view);
    setClip(m_ghost, o);
    glUniform1ui(glGetUniformLocation(m_ghost, "uFirst"), 0);
    uniform(m_ghost, "uInk", m_toolTakes ? theme().accent : theme().fail);
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
    glDepthMask(0);
    glEnable(GL_POLYGON_OFFSET_FILL);
    glPolygonOffset(-1, -1);
    glBindVertexArray(m_tool.faces.vao);
    for (const auto& [where, strength] : {std::pair{GL_GREATER, 0.16f}, {GL_LEQUAL, 0.6f}}) {
        glDepthFunc(static_cast<GLenum>(where));
        glUniform1f(glGetUniformLocation(m_ghost, "uStrength"), strength);
        glDrawElements(GL_TRIANGLES, m_tool.faces.count, GL_UNSIGNED_INT, nullptr);
    }
    glDepthFunc(GL_LEQUAL);
    glDisable(GL_POLYGON_OFFSET_FILL);
    glDepthMask(1);
    glDisable(GL_BLEND);
}

/// Four samples a pixel, in buffers of our own: the widget's hold one.
void Renderer::bindSmooth(QSize pixels) {
    if (!m_smoothFramebuffer) {
        glGenFramebuffers(1, &m_smoothFramebuffer);
        glGenRenderbuffers(1, &m_smoothColour);
        glGenRenderbuffers(1, &m_smoothDepth);
    }
    if (m_smoothSize != pixels) {
        constexpr int kSamples = 4;
        glBindRenderbuffer(GL_RENDERBUFFER, m_smoothColour);
        glRenderbufferStorageMultisample(GL_RENDERBUFFER, kSamples, GL_RGBA8, pixels.width(),
                                         pixels.height());
        glBindRenderbuffer(GL_RENDERBUFFER, m_smoothDepth);
        glRenderbufferStorageMultisample(GL_RENDERBUFFER, kSamples, GL_DEPTH24_STENCIL8, pixels.width(),
                                         pixels.height());
        m_smoothSize = pixels;
    }
    glBindFramebuffer(GL_FRAMEBUFFER, m_smoothFramebuffer);
    glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_RENDERBUFFER, m_smoothColour);
    glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_DEPTH_STENCIL_ATTACHMENT, GL_RENDERBUFFER, m_smoothDepth);
}

void Renderer::draw(unsigned framebuffer, QSize pixels, const Camera& camera, const DrawOptions& o,
                    bool smooth) {
    if (smooth) {
        bindSmooth(pixels);
        drawInto(pixels, camera, o);
        glBindFramebuffer(GL_READ_FRAMEBUFFER, m_smoothFramebuffer);
        glBindFramebuffer(GL_DRAW_FRAMEBUFFER, framebuffer);
        glBlitFramebuffer(0, 0, pixels.width(), pixels.height(), 0, 0, pixels.width(), pixels.height(),
                          GL_COLOR_BUFFER_BIT, GL_NEAREST);
        glBindFramebuffer(GL_FRAMEBUFFER, framebuffer);
    } else {
        glBindFramebuffer(GL_FRAMEBUFFER, framebuffer);
        drawInto(pixels, camera, o);
    }
}

QImage Renderer::drawImage(QSize pixels, const Camera& camera, const DrawOptions& o) {
    GLuint framebuffer = 0, colour = 0;
    glGenFramebuffers(1, &framebuffer);
    glGenRenderbuffers(1, &colour);
    glBindRenderbuffer(GL_RENDERBUFFER, colour);
    glRenderbufferStorage(GL_RENDERBUFFER, GL_RGBA8, pixels.width(), pixels.height());
    glBindFramebuffer(GL_FRAMEBUFFER, framebuffer);
    glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_RENDERBUFFER, colour);
    draw(framebuffer, pixels, camera, o, true);
    QImage image(pixels, QImage::Format_RGBA8888_Premultiplied);
    glPixelStorei(GL_PACK_ALIGNMENT, 4);
    glReadPixels(0, 0, pixels.width(), pixels.height(), GL_RGBA, GL_UNSIGNED_BYTE, image.bits());
    glBindFramebuffer(GL_FRAMEBUFFER, 0);
    glDeleteRenderbuffers(1, &colour);
    glDeleteFramebuffers(1, &framebuffer);
    return image.mirrored();
}

void Renderer::drawInto(QSize pixels, const Camera& camera, const DrawOptions& o) {
    glViewport(0, 0, pixels.width(), pixels.height());
    glEnable(GL_MULTISAMPLE);
    glDisable(GL_SCISSOR_TEST);
    glDisable(GL_BLEND);
    glDisable(GL_CULL_FACE);
    glDisable(GL_STENCIL_TEST);
    glDisable(GL_DEPTH_TEST);
    glColorMask(1, 1, 1, 1);
    glDepthMask(1);
    glStencilMask(~0u);
    glClearDepth(1);
    glClearStencil(0);
    glClear(GL_DEPTH_BUFFER_BIT | GL_STENCIL_BUFFER_BIT);
    const QMatrix4x4 view = camera.view(), both = camera.both(pixels);
    if (o.bare) {
        glClearColor(0, 0, 0, 0);
        glClear(GL_COLOR_BUFFER_BIT);
    } else {
        drawBackground();
    }
    if (camera.pitch > 0) drawShadow(both, o);
    glEnable(GL_DEPTH_TEST);
    glDepthFunc(GL_LEQUAL);
    if (o.cut) glEnable(GL_CLIP_DISTANCE0);
    glEnable(GL_POLYGON_OFFSET_FILL);
    glPolygonOffset(1, 1);
    drawFaces(both, view, o, false);
    glDisable(GL_POLYGON_OFFSET_FILL);
    if (o.cut) drawCaps(both, view, camera, o);
    drawEdges(both, pixels, o, false);
    drawTool(both, view, o);
    glDisable(GL_CLIP_DISTANCE0);
    glDisable(GL_DEPTH_TEST); // what is painted over the picture is not in its depth
    glBindVertexArray(0);
    glUseProgram(0);
}

} // namespace gc::app
