#pragma once
/// \file For .cpp files: edges rounded or cut off, as many of them as can be: all in one go if that works,
/// else those that touch each other, else one after the other (docs/kernel.md).

#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/shape/kernel.hpp"

#include <gp_Vec.hxx>

#include <functional>

namespace gc {

/// A radius on the way along a chain.
struct RadiusPlace {
    double share = 0;  ///< of the chain's length, from where it begins
    double radius = 0; ///< mm
};

/// Edges that run on from each other without a corner, and the sizes that they get.
struct EdgeChain {
    std::vector<TopoDS_Edge> edges;
    double first = 0, second = 0;   ///< mm, or the second rad: as the kind of work says
    NamePtr side = nullptr;         ///< the first name of the face on which the first size is measured
    bool backward = false;          ///< what is first lies at the other end
    std::vector<RadiusPlace> via{}; ///< between first and second, in their order
    NamePtr called = nullptr;       ///< what the faces along it are called, where an earlier step made them
};

/// The largest radius along a chain.
double largestOf(const EdgeChain& chain);

/// What is made of a body by working some chains of it in one go; fails as a whole.
using WorkEdges = std::function<Result<Body>(const Body& body, const std::vector<EdgeChain>& chains)>;

struct WorkedEdges {
    Body body;
    std::vector<EdgeChain> left; ///< as they were on the body at first
    struct Nudged {
        double asked = 0, made = 0; ///< mm
    };
    std::vector<Nudged> nudged;   ///< made by a little less or more than asked
    std::optional<Error> fault{}; ///< the first that was met on the way
};

/// Every chain that can be worked. Errors: the first chain's own where none can; that it was stopped.
/// \param onlyWhole all in one go or nothing
Result<WorkedEdges> workEdges(const Body& body, const std::vector<EdgeChain>& chains, const WorkEdges& work,
                              const Progress& progress, bool onlyWhole = false);

/// The same chain on a body that was changed elsewhere: edges that lie on it between faces of the same names.
/// Without edges where nothing is left of it. \param grown they may reach beyond it
EdgeChain foundAgain(const EdgeChain& chain, const Body& before, const Body& now, bool grown = false);

/// The earliest step's name; nothing where the face has none.
NamePtr firstName(const NamedShape& shape, const TopoDS_Shape& face);
std::vector<TopoDS_Shape> facesBeside(const NamedShape& shape, const TopoDS_Edge& edge);
bool endsIn(const TopoDS_Edge& edge, const TopoDS_Shape& corner);
/// The edges that meet in a corner, as a user sees them.
std::vector<TopoDS_Edge> edgesAround(const NamedShape& shape, const TopoDS_Shape& corner);
/// The outward normal of a face at an edge of it: in its middle, or at another share of its parameters.
std::optional<gp_Vec> normalBeside(const TopoDS_Edge& edge, const TopoDS_Face& face, double share = 0.5);
/// Do the faces beside an edge meet in a hollow (the material fills more than half of the turn)?
bool isHollow(const NamedShape& shape, const TopoDS_Edge& edge);

/// The face on the other side of an edge; null where there is none.
TopoDS_Face faceAcross(const NamedShape& shape, const TopoDS_Edge& edge, const TopoDS_Face& face);
/// How far the outward normals turn across an edge, in its middle or at another share of its parameters, rad;
/// nothing where one is not known.
std::optional<double> kinkAt(const NamedShape& shape, const TopoDS_Edge& edge, double share = 0.5);
/// rad. Where an edge turns by less than the one at a place and by more than the other elsewhere, its angle
/// fades.
inline constexpr double kFadedKink = 0.1, kClearKink = 0.3;

/// Do the faces beside an edge run on from each other within a degree?
bool isSmooth(const NamedShape& shape, const TopoDS_Edge& edge);

/// References to the edges of a chain, for a sentence or a culprit.
std::vector<std::string> saidOf(const EdgeChain& chain, const Body& body);
/// The middle of its first edge.
Vec3 middleOf(const EdgeChain& chain);

} // namespace gc
