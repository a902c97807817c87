#pragma once
/// \file For .cpp files only: the kernel's shape inside a Body, with the names of its faces.

#include "core/base/plane.hpp"
#include "core/shape/body.hpp"
#include "core/shape/face_name.hpp"
#include "core/shape/null_reads.hpp"

#include <BRepBuilderAPI_MakeShape.hxx>
#include <NCollection_DataMap.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopTools_ShapeMapHasher.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shape.hxx>
#include <gp_Pnt.hxx>

#include <map>
#include <mutex>

namespace gc {

using NameList = std::vector<NamePtr>;
/// Keyed by shape and place; orientation is ignored.
using NameMap = NCollection_DataMap<TopoDS_Shape, NameList, TopTools_ShapeMapHasher>;

struct NamedShape {
    TopoDS_Shape shape;
    TopTools_IndexedMapOfShape faces, edges, vertices;
    TopTools_IndexedDataMapOfShapeListOfShape facesOfEdge, facesOfVertex;
    NameMap names;          ///< every face has one or more, the earliest step's first
    std::vector<int> steps; ///< every step that a face rests on, ascending
    /// The frames in which steps that shaped it work: what they parted is told apart along these.
    std::map<int, Plane> frames;
    /// The middles of flat faces as they were when they were made: what is laid out on a face stays where it
    /// is while later steps cut and round the face.
    std::map<NamePtr, Vec3> middles;
    std::size_t bytes = 0; ///< about how much memory it takes
    mutable std::once_flag indexed;
    mutable std::map<std::pair<NamePtr, NamePtr>, std::vector<int>> edgeIndex;
    mutable std::mutex placing;
    mutable std::map<std::string, std::vector<int>> placed; ///< the faces that an Ordered reference means

    const NameList& namesOf(const TopoDS_Shape& face) const;
    /// The reference by its first name, as text; empty where the grammar has no words for it.
    std::string wordsFor(const TopoDS_Shape& face) const;
    /// Any of the face's names fits, and wherever the reference says "next to" the neighbour is there.
    bool fitsFace(const FaceRef& ref, const TopoDS_Shape& face) const;
    /// Does any other face that shares an edge with it fit?
    bool touchesFace(const TopoDS_Shape& face, const FaceRef& other) const;
    /// Is the face in the piece that an Ordered reference counts to?
    bool isInPlace(const FaceRef& ordered, const TopoDS_Shape& face) const;
    /// The edges where faces of two names meet, by the pair of names: made when it is first asked for.
    const std::vector<int>& edgesBetween(NamePtr a, NamePtr b) const;
    /// Degenerate edges and the seams of closed faces are not edges to a user.
    bool isRealEdge(const TopoDS_Edge& edge) const;
    /// Groups of like items that hang together: faces by edges, edges by vertices. Numbers from 0.
    std::vector<std::vector<int>> piecesOf(const std::vector<int>& items, bool edgesNotFaces) const;
    /// The middle of a piece, weighted by size.
    Vec3 middleOf(const std::vector<int>& piece, bool edgesNotFaces) const;
    /// The piece that an order counts to; nothing where their number, their places or the frame leave it
    /// open.
    std::optional<std::vector<int>> pieceAt(const Order& order, const std::vector<std::vector<int>>& pieces,
                                            bool edgesNotFaces) const;
    /// How one of several pieces is told by its place; nothing where they lie too near to each other.
    std::optional<Order> orderOf(std::size_t piece, const std::vector<std::vector<int>>& pieces,
                                 bool edgesNotFaces) const;
};

/// Collects names while a step builds its result, then closes it into a body.
class NameBuilder {
  public:
    explicit NameBuilder(const TopoDS_Shape& result);

    bool has(const TopoDS_Shape& face) const { return m_shape->faces.Contains(face); }
    bool named(const TopoDS_Shape& face) const { return m_shape->names.IsBound(face); }
    void add(const TopoDS_Shape& face, NamePtr name);
    void add(const TopoDS_Shape& face, const NameList& names);
    /// Frames and middles of the body that was changed, or of another that goes into it.
    void inherit(const NamedShape& before);
    /// The step works in this frame.
    void frame(int step, const Plane& frame) { m_shape->frames[step] = frame; }
    /// Where the middle of a flat face was when it was made.
    void middle(NamePtr face, Vec3 at) { m_shape->middles.emplace(face, at); }
    /// Names of what the operation left as it was or changed; inherits, too.
    void carry(const NamedShape& before, BRepBuilderAPI_MakeShape& operation);
    const TopTools_IndexedMapOfShape& faces() const { return m_shape->faces; }

    /// Error "names.missing" when a face of the result has no name: a mistake in a step's code.
    Result<Body> finish();

  private:
    std::shared_ptr<NamedShape> m_shape;
};

/// Copies the list: the kernel's operations return one reused member.
std::vector<TopoDS_Shape> toVector(const TopTools_ListOfShape& list);

/// Edges that only one face meets.
int countOpenEdges(const NamedShape& shape);

/// The only solid of a compound, else the shape itself.
TopoDS_Shape onlySolid(const TopoDS_Shape& shape);

/// Replaces offsets of surfaces of revolution by surfaces of revolution of the offset profile, and offsets of
/// B-splines by B-splines, fitted on the same (u, v) to the tolerance: offset surfaces measure wrongly and
/// are slow. The map tells what became of each face.
TopoDS_Shape withoutOffsetSurfaces(const TopoDS_Shape& shape, double tolerance,
                                   std::vector<std::pair<TopoDS_Shape, TopoDS_Shape>>& faces);

inline Vec3 toVec(const gp_Pnt& p) {
    return {p.X(), p.Y(), p.Z()};
}

/// Runs kernel code and turns its exceptions, and reads through handles to nothing, into an error with the
/// given code and sentence.
template <class Work>
auto guarded(const char* code, const std::string& sentence, Work&& work) -> decltype(work()) {
    auto fault = [&](const std::string& detail) {
        Error e;
        e.code = code;
        e.sentence = sentence;
        if (!detail.empty()) e.culprits.push_back(detail);
        return e;
    };
    NullReads watch;
    if (sigsetjmp(watch.point(), 1) != 0) return fault("");
    try {
        return work();
    } catch (const Standard_Failure& failure) {
        return fault(failure.GetMessageString() ? failure.GetMessageString() : "");
    } catch (const std::exception& failure) {
        return fault(failure.what());
    }
}

} // namespace gc
