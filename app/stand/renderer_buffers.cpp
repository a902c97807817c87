// What the graphics card is given of the bodies: faces, edges, and the values of colour maps.

#define GL_GLEXT_PROTOTYPES 1
#include <GL/gl.h>
#include <GL/glext.h>

#include "app/stand/renderer.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace gc::app {

namespace {

struct FaceVertex {
    float position[3], normal[3];
    std::uint32_t face;
    float values[4];
};
struct EdgeSegment {
    float a[3], b[3];
    std::uint32_t id;
    float smooth;
};

void copy(float* to, const QVector3D& v) {
    to[0] = v.x();
    to[1] = v.y();
    to[2] = v.z();
}

const void* offset(std::size_t bytes) {
    return reinterpret_cast<const void*>(bytes);
}

void describeFaceVertices() {
    glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, sizeof(FaceVertex),
                          offset(offsetof(FaceVertex, position)));
    glVertexAttribPointer(1, 3, GL_FLOAT, GL_FALSE, sizeof(FaceVertex), offset(offsetof(FaceVertex, normal)));
    glVertexAttribIPointer(2, 1, GL_UNSIGNED_INT, sizeof(FaceVertex), offset(offsetof(FaceVertex, face)));
    glVertexAttribPointer(3, 4, GL_FLOAT, GL_FALSE, sizeof(FaceVertex), offset(offsetof(FaceVertex, values)));
    for (GLuint i = 0; i < 4; ++i) glEnableVertexAttribArray(i);
}

} // namespace

void Renderer::Buffers::release() {
    if (vao) glDeleteVertexArrays(1, &vao);
    if (vertices) glDeleteBuffers(1, &vertices);
    if (indices) glDeleteBuffers(1, &indices);
    vao = vertices = indices = 0;
    count = 0;
}

void Renderer::uploadFaces(BodyBuffers& b, const BodyMesh& mesh) {
    std::vector<FaceVertex> v(mesh.points.size());
    for (std::size_t i = 0; i < v.size(); ++i) {
        copy(v[i].position, mesh.points[i]);
        copy(v[i].normal, mesh.normals[i]);
        v[i].face = mesh.faceOf[i];
        std::fill_n(v[i].values, 4, -1.f);
        if (i < mesh.bends.size()) v[i].values[0] = mesh.bends[i];
        b.extent.add(mesh.points[i]);
    }
    glGenVertexArrays(1, &b.faces.vao);
    glBindVertexArray(b.faces.vao);
    glGenBuffers(1, &b.faces.vertices);
    glBindBuffer(GL_ARRAY_BUFFER, b.faces.vertices);
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(v.size() * sizeof v[0]), v.data(), GL_STATIC_DRAW);
    glGenBuffers(1, &b.faces.indices);
    glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, b.faces.indices);
    glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<GLsizeiptr>(mesh.triangles.size() * 4),
                 mesh.triangles.data(), GL_STATIC_DRAW);
    b.faces.count = static_cast<int>(mesh.triangles.size());
    describeFaceVertices();
    glBindVertexArray(0);
}

void Renderer::uploadEdges(BodyBuffers& b, const BodyMesh& mesh) {
    std::vector<EdgeSegment> s;
    for (std::size_t k = 0; k < mesh.edges.size(); ++k) {
        const EdgeLine& e = mesh.edges[k];
        for (std::uint32_t i = e.first; i + 1 < e.first + e.count; ++i) {
            EdgeSegment seg{};
            copy(seg.a, mesh.lines[i]);
            copy(seg.b, mesh.lines[i + 1]);
            seg.id = kEdgeBit | (b.firstEdge + static_cast<std::uint32_t>(k));
            seg.smooth = e.smooth ? 1.f : 0.f;
            s.push_back(seg);
        }
    }
    glGenVertexArrays(1, &b.edges.vao);
    glBindVertexArray(b.edges.vao);
    glGenBuffers(1, &b.edges.vertices);
    glBindBuffer(GL_ARRAY_BUFFER, b.edges.vertices);
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(s.size() * sizeof(EdgeSegment)), s.data(),
                 GL_STATIC_DRAW);
    b.edges.count = static_cast<int>(s.size());
    glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, sizeof(EdgeSegment), offset(offsetof(EdgeSegment, a)));
    glVertexAttribPointer(1, 3, GL_FLOAT, GL_FALSE, sizeof(EdgeSegment), offset(offsetof(EdgeSegment, b)));
    glVertexAttribIPointer(2, 1, GL_UNSIGNED_INT, sizeof(EdgeSegment), offset(offsetof(EdgeSegment, id)));
    glVertexAttribPointer(3, 1, GL_FLOAT, GL_FALSE, sizeof(EdgeSegment),
                          offset(offsetof(EdgeSegment, smooth)));
    for (GLuint i = 0; i < 4; ++i) {
        glEnableVertexAttribArray(i);
        glVertexAttribDivisor(i, 1);
    }
    glBindVertexArray(0);
}

void Renderer::setMeshes(const std::map<ThingId, BodyMesh>& meshes) {
    std::map<ThingId, BodyStyle> styles;
    for (auto& [id, b] : m_bodies) {
        b.faces.release();
        b.edges.release();
        b.field.release();
        styles[id] = b.style;
    }
    m_bodies.clear();
    m_faceCount = m_edgeCount = 1; // id 0 is nothing
    m_flat.assign(1, false);
    for (const auto& [id, mesh] : meshes) {
        BodyBuffers& b = m_bodies[id];
        b.style = styles[id];
        b.firstFace = m_faceCount;
        b.firstEdge = m_edgeCount;
        b.faceCount = static_cast<std::uint32_t>(mesh.flatFaces.size());
        b.edgeCount = static_cast<std::uint32_t>(mesh.edges.size());
        m_faceCount += b.faceCount;
        m_edgeCount += b.edgeCount;
        m_flat.insert(m_flat.end(), mesh.flatFaces.begin(), mesh.flatFaces.end());
        uploadFaces(b, mesh);
        uploadEdges(b, mesh);
    }
    measureExtent();
    m_ids.clear();
    m_faceIds.clear();
    m_marksStale = true;
}

void Renderer::measureExtent() {
    m_extent = Extent();
    for (const auto& [id, b] : m_bodies) {
        if (b.style.hidden || b.extent.empty()) continue;
        m_extent.add(b.extent.low);
        m_extent.add(b.extent.high);
    }
}

void Renderer::setStyles(const std::map<ThingId, BodyStyle>& styles) {
    for (auto& [id, b] : m_bodies) {
        const auto it = styles.find(id);
        b.style = it == styles.end() ? BodyStyle() : it->second;
    }
    measureExtent();
    m_ids.clear();
    m_faceIds.clear();
}

void Renderer::setTool(const BodyMesh& tool, bool takes) {
    m_tool.faces.release();
    m_toolTakes = takes;
    if (!tool.triangles.empty()) uploadFaces(m_tool, tool);
}

void Renderer::setMarkedBodies(std::vector<ThingId> bodies) {
    if (bodies == m_markedBodies) return;
    m_markedBodies = std::move(bodies);
    m_marksStale = true;
}

void Renderer::setChosen(const std::vector<BodyItem>& items) {
    m_chosen = items;
    m_marksStale = true;
}

void Renderer::setFields(const std::map<ThingId, BodyField>& fields) {
    for (auto& [name, b] : m_bodies) b.field.release();
    for (const auto& [name, f] : fields) {
        const auto it = m_bodies.find(name);
        if (it == m_bodies.end() || f.ray.size() != f.points.size() || f.ball.size() != f.points.size() ||
            f.lean.size() != f.points.size() || f.away.size() != f.points.size())
            continue;
        std::vector<FaceVertex> v(f.points.size());
        for (std::size_t i = 0; i < v.size(); ++i) {
            copy(v[i].position, f.points[i]);
            copy(v[i].normal, f.normals[i]);
            v[i].face = 0;
            v[i].values[0] = f.ray[i];
            v[i].values[1] = f.ball[i];
            v[i].values[2] = f.lean[i];
            v[i].values[3] = f.away[i];
        }
        Buffers& b = it->second.field;
        glGenVertexArrays(1, &b.vao);
        glBindVertexArray(b.vao);
        glGenBuffers(1, &b.vertices);
        glBindBuffer(GL_ARRAY_BUFFER, b.vertices);
        glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(v.size() * sizeof v[0]), v.data(),
                     GL_STATIC_DRAW);
        glGenBuffers(1, &b.indices);
        glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, b.indices);
        glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<GLsizeiptr>(f.triangles.size() * 4),
                     f.triangles.data(), GL_STATIC_DRAW);
        b.count = static_cast<int>(f.triangles.size());
        describeFaceVertices();
        glBindVertexArray(0);
    }
}

} // namespace gc::app
