#pragma once
/// \file For .cpp files: a body whose faces, borders and corners are moved one by one.

#include "core/steps/shared/moved_borders.hpp"
#include "core/steps/shell/fold_round.hpp"
#include "core/steps/shell/wall_check.hpp"

#include <BRep_Builder.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TopoDS_Wire.hxx>

#include <array>
#include <deque>
#include <map>
#include <memory>

namespace gc {

/// How far moved corners and borders may be from where they belong, as a share of the wall.
inline constexpr double kMovedShare = 0.02;

/// A border of the body, and what becomes of it.
struct FollowedBorder {
    TopoDS_Edge edge; ///< forward; null where the two faces did not meet before
    int faces[2] = {0, 0};
    bool gone = false; ///< it is used up
    std::optional<MovedBorder> moves;
    TopoDS_Vertex ends[2];
    std::vector<TopoDS_Vertex> via; ///< where another border ends on it that ended with it before
    std::vector<TopoDS_Edge> now;   ///< its pieces, forward
};

/// A corner of four faces that came apart into two of three, with a short border between two of the faces
/// that did not meet before.
struct ApartCorner {
    TopoDS_Vertex old, at[2];
    const MovedFace* faces[2];
    TopoDS_Edge between;
};

/// The corner of the body where a border ends.
TopoDS_Vertex cornerBefore(const FollowedBorder& border, bool end);

/// Where its two ends lie along it now, by its parameter. Nothing where that is not told.
std::optional<std::array<double, 2>> endsAlong(const FollowedBorder& border);
/// Is nothing left of it between them?
bool isUsedUp(const FollowedBorder& border, const std::array<double, 2>& ends);

/// Where a corner goes.
struct MovedCorner {
    gp_Pnt at;
    double off = 0; ///< mm: how far it is from a face that it should lie on, at most
};

/// An end of a border: the second or the first.
using BorderEnd = std::pair<FollowedBorder*, bool>;

/// Where some faces meet: where two of them run on from each other, along their border to the others. Nothing
/// where they do not meet again. \param uv places of the faces near it \param ends of borders between them,
/// one at least
std::optional<MovedCorner> movedCorner(const gp_Pnt& near, const std::vector<const MovedFace*>& faces,
                                       const std::vector<gp_Pnt2d>& uv, const std::vector<BorderEnd>& ends);

/// Finds where all corners of a body go, and where every border ends. False where they do not meet again.
/// \param wall mm
bool moveCorners(const NamedShape& shape, const std::vector<MovedFace>& faces,
                 std::deque<FollowedBorder>& borders, std::deque<ApartCorner>& apart, double wall);

/// Borders between corners that went past each other are used up: the faces beyond their two ends meet
/// instead, in a border that was not there before, from one of the two faces beside the old one to the other.
/// Where that cannot be told they stay. \return whether there was any \param wall mm
bool turnUsedUp(const std::vector<MovedFace>& faces, std::deque<FollowedBorder>& borders, double wall);

/// A body whose faces are moved, each along its normal by a distance of its own, and whose borders and
/// corners go with them one by one: faces, edges and corners stay what they are and where they hang together.
/// Nothing is cut, so it does not matter how flat the angle is at which two faces meet.
class Followed {
  public:
    using Rounds = std::map<int, std::shared_ptr<const FoldRound>>;

    /// \param beyond mm by which walls are continued beyond their borders: what moves may leave them \param
    /// rounds what the faces become that would fold over, by their numbers from 1 \param turning borders that
    /// are used up may give way to others
    Followed(const ShellPlan& plan, double beyond, Rounds rounds = {}, bool turning = false);

    /// False where they do not follow: something is used up, or too far from where it belongs.
    bool follow();

    /// A face as it is now, as it lies in the moved body; an opened one on its own surface.
    TopoDS_Face face(int number) const { return m_moved[static_cast<std::size_t>(number) - 1]; }
    /// Wires of an opened face, as they lie in it forward, in its own order.
    std::vector<TopoDS_Shape> wiresOf(int number) const;

  private:
    using Stop = std::pair<double, TopoDS_Vertex>;
    bool takeBorders();
    bool moveFaces();
    bool moveBorders();
    bool moveBorder(FollowedBorder& b);
    bool movePieces(FollowedBorder& b);
    bool movePiece(FollowedBorder& b, const Stop& from, const Stop& to);
    const FoldRound* roundOf(const FollowedBorder& b, std::size_t side) const;
    /// The side on which a round ends there, rather than running beside it.
    std::optional<std::size_t> roundEnding(const FollowedBorder& b) const;
    class RoundEnd;
    bool endRound(FollowedBorder& b, std::size_t side);
    std::optional<MovedPlace> placeWithin(const FollowedBorder& b, double at, double from, double to) const;
    bool makeEdge(FollowedBorder& b, const std::array<TopoDS_Vertex, 2>& ends,
                  const std::vector<Handle(Geom_BSplineCurve)>& fitted, const std::array<double, 2>& scales);
    bool joinApart(ApartCorner& apart);
    /// In the order in which they follow each other in a face, from where it closes up.
    std::vector<TopoDS_Edge> piecesFrom(const FollowedBorder& border, const MovedFace& face,
                                        bool forward) const;
    TopoDS_Shape movedWire(const TopoDS_Wire& before, const MovedFace& face) const;
    /// Borders of a face that were not there before, one after the other from a corner on.
    void addNewFrom(TopoDS_Vertex here, const MovedFace& face, TopoDS_Wire& wire) const;
    /// How far a line on a moved face is from a curve that it should be, mm, with something to spare.
    double offFrom(const MovedFace& face, const Geom2d_Curve& line, const Geom_Curve& curve, double from,
                   double to) const;
    const MovedFace& faceOf(const FollowedBorder& b, std::size_t side) const {
        return m_faces[static_cast<std::size_t>(b.faces[side]) - 1];
    }
    const TopoDS_Face& movedOf(const MovedFace& face) const {
        return m_moved[static_cast<std::size_t>(&face - m_faces.data())];
    }

    const ShellPlan& m_plan;
    const NamedShape& m_shape;
    Rounds m_rounds;
    bool m_turning;
    BRep_Builder m_build;
    std::vector<MovedFace> m_faces;
    std::deque<FollowedBorder> m_borders;
    std::deque<ApartCorner> m_apart;
    std::vector<TopoDS_Face> m_moved;
};

} // namespace gc
