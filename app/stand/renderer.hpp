#pragma once
/// \file Draws the stand with OpenGL 3.3 core. Knows no widget: it draws into the framebuffer it is given.

#include "app/link/scene.hpp"
#include "app/stand/camera.hpp"

#include <QColor>
#include <QImage>
#include <QVector4D>

#include <algorithm>
#include <map>
#include <optional>

namespace gc::app {

enum class Overlay { None, WallRay, WallBall, Lean, Stripes, Bending, Deviation };
/// Does it show measured values? Stripes are a matter of the light alone, bending one of the surface.
inline bool isMap(Overlay o) {
    return o == Overlay::WallRay || o == Overlay::WallBall || o == Overlay::Lean || o == Overlay::Deviation;
}

struct DrawOptions {
    Overlay overlay = Overlay::None;
    float mapLow = 0, mapHigh = 1; ///< values at the ends of the colour map
    bool cut = false;
    QVector4D plane{0, 1, 0, 0}; ///< kept where plane . (p, 1) >= 0
    std::uint32_t hovered = 0;   ///< id under the pointer
    bool shadow = true;
    std::optional<ThingId> without{}; ///< a body that is not drawn
    bool bare = false;                ///< on nothing: neither paper nor shadow
    float ground = 0;                 ///< height of the stand's top, mm
};

/// Ids of faces and edges over all bodies: faces from 1, edges with the top bit set.
inline constexpr std::uint32_t kEdgeBit = 0x80000000u;

/// How a body looks on the stand.
struct BodyStyle {
    QColor colour; ///< of its surface; none: clay
    bool hidden = false;
};

class Renderer {
  public:
    void initialise();
    void setMeshes(const std::map<ThingId, BodyMesh>& meshes);
    void setFields(const std::map<ThingId, BodyField>& fields);
    /// How each body looks; one that is not named looks like clay.
    void setStyles(const std::map<ThingId, BodyStyle>& styles);
    /// The solid that a step takes away, or cannot add: hatched.
    void setTool(const BodyMesh& tool, bool takes);
    /// Bodies that light up as a whole.
    void setMarkedBodies(std::vector<ThingId> bodies);
    /// The items that are picked, however many.
    void setChosen(const std::vector<BodyItem>& items);
    /// \param smooth with four samples a pixel
    void draw(unsigned framebuffer, QSize pixels, const Camera& camera, const DrawOptions& options,
              bool smooth);
    /// The same as a picture of its own, smooth.
    QImage drawImage(QSize pixels, const Camera& camera, const DrawOptions& options);
    bool drawnByProcessor() const { return m_byProcessor; }

    /// Draws ids and depths of the whole view once; look-ups then cost nothing until the view changes.
    void drawIds(QSize pixels, const Camera& camera, const DrawOptions& options);
    std::uint32_t idAt(QPoint pixel, int reach = 5) const;
    /// The face there, though an edge runs over it: narrow faces have edges all over them.
    std::uint32_t faceAt(QPoint pixel) const;
    float depthAt(QPoint pixel) const; ///< 1 where there is nothing
    /// A pixel on each edge (or face) that is in sight, near its middle. \param flat faces: flat ones only
    std::vector<QPoint> placesOfItems(bool edges, bool flat) const;
    /// The faces (or edges) that are seen within a box and nowhere else.
    std::vector<std::uint32_t> itemsWithin(const QRect& box, bool edges) const;

    struct Extent {
        QVector3D low{1e9f, 1e9f, 1e9f}, high{-1e9f, -1e9f, -1e9f};
        bool empty() const { return low.x() > high.x(); }
        void add(const QVector3D& p) {
            for (int k = 0; k < 3; ++k) {
                low[k] = std::min(low[k], p[k]);
                high[k] = std::max(high[k], p[k]);
            }
        }
        QVector3D centre() const { return (low + high) / 2; }
        float size() const { return (high - low).length(); }
    };
    const Extent& extent() const { return m_extent; }
    /// The face or edge that an id stands for.
    BodyItem itemOf(std::uint32_t id) const;
    std::uint32_t idOf(const BodyItem& item) const; ///< 0: it is not there
    bool isFlat(std::uint32_t id) const { return !(id & kEdgeBit) && id < m_flat.size() && m_flat[id]; }

  private:
    struct Buffers {
        unsigned vao = 0, vertices = 0, indices = 0;
        int count = 0;
        void release();
    };
    struct BodyBuffers {
        Buffers faces, edges, field;
        std::uint32_t firstFace = 0, firstEdge = 0, faceCount = 0, edgeCount = 0;
        Extent extent;
        BodyStyle style;
    };
    void measureExtent();
    void bindMarks(unsigned program);
    unsigned program(const char* vertex, const char* fragment);
    void setMatrix(unsigned program, const char* name, const QMatrix4x4& m) const;
    void uploadFaces(BodyBuffers& b, const BodyMesh& mesh);
    void uploadEdges(BodyBuffers& b, const BodyMesh& mesh);
    void bindSmooth(QSize pixels);
    void drawInto(QSize pixels, const Camera& camera, const DrawOptions& options);
    void drawBackground();
    void drawTool(const QMatrix4x4& both, const QMatrix4x4& view, const DrawOptions& options);
    void drawShadow(const QMatrix4x4& both, const DrawOptions& options);
    void drawFaces(const QMatrix4x4& both, const QMatrix4x4& view, const DrawOptions& options, bool ids);
    void drawCaps(const QMatrix4x4& both, const QMatrix4x4& view, const Camera& camera,
                  const DrawOptions& options);
    void drawEdges(const QMatrix4x4& both, QSize pixels, const DrawOptions& options, bool ids);
    void setClip(unsigned program, const DrawOptions& options) const;

    std::map<ThingId, BodyBuffers> m_bodies;
    std::uint32_t m_faceCount = 1, m_edgeCount = 1; ///< ids that are used; id 0 is nothing
    std::vector<bool> m_flat;
    std::vector<BodyItem> m_chosen;
    std::vector<ThingId> m_markedBodies;
    BodyBuffers m_tool;
    bool m_toolTakes = false;
    std::vector<std::uint8_t> m_marks; ///< of every face, then of every edge: is it picked?
    unsigned m_markBuffer = 0, m_markTexture = 0;
    bool m_marksStale = true;
    unsigned m_mesh = 0, m_ghost = 0, m_edge = 0, m_cap = 0, m_background = 0, m_shadow = 0, m_faceId = 0,
             m_edgeId = 0, m_empty = 0;
    unsigned m_pickFramebuffer = 0, m_pickTexture = 0, m_pickDepth = 0;
    QSize m_pickSize;
    unsigned m_smoothFramebuffer = 0, m_smoothColour = 0, m_smoothDepth = 0;
    QSize m_smoothSize;
    bool m_byProcessor = false;
    std::vector<std::uint32_t> m_ids, m_faceIds;
    std::vector<float> m_depths;
    Extent m_extent;
};

} // namespace gc::app
