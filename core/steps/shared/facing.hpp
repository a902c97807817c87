#pragma once
/// \file For .cpp files: how the flat faces of a step's solid stand to the body that it is added to or taken
/// from. All of it throws what the kernel throws.

#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/flat_outline.hpp"

#include <BRepClass3d_SolidClassifier.hxx>
#include <Bnd_Box.hxx>
#include <IntCurvesFace_Intersector.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Dir.hxx>
#include <gp_Lin.hxx>
#include <gp_Pln.hxx>
#include <gp_Pnt.hxx>

#include <memory>
#include <optional>
#include <string>

namespace gc {

constexpr double kTouches = 1e-3; // mm: what is drawn up to a silhouette meets the wall there
constexpr double kMatters = 1e-4; // mm: a gap that would stay

/// What lies ahead of a place along a line.
class Ahead {
  public:
    explicit Ahead(const TopoDS_Shape& body);
    /// What was learnt of a body is kept for the next time that it is looked at, as while a size of the step
    /// on it is dragged: of the last few bodies, for each thread. Valid until the thread's next call.
    static Ahead& of(const Body& body);

    /// From a place along a way to where the body begins; 0 within it, nothing where it is not met.
    std::optional<double> distance(const gp_Pnt& from, const gp_Dir& way, double far);
    /// To the first wall of the body, from within or without.
    std::optional<double> crossing(const gp_Pnt& from, const gp_Dir& way, double far);
    /// \param onIt a place on its surface counts, too
    bool holds(const gp_Pnt& p, bool onIt = false);

  private:
    struct Face {
        TopoDS_Face face;
        Bnd_Box box;
        bool flat = false;
        // Made when first asked: most never are.
        std::unique_ptr<IntCurvesFace_Intersector> meets;
        std::unique_ptr<FlatOutline> outline;
    };
    struct Crossing {
        double at = 1e300;   ///< along the line, mm
        bool leaves = false; ///< out of the body there
        bool unsure = false; ///< which of the two: it grazes a wall, or goes through an edge
    };
    Crossing nearest(const gp_Lin& line, double low, double far);
    /// Takes a crossing of a face in, where it is the nearest so far.
    static void take(Crossing& nearest, double at, double along);
    /// \return whether the line meets a flat face well within it, or not at all, and what that gives is taken
    /// in
    static bool meetsFlat(Face& face, const gp_Lin& line, double low, double far, Crossing& nearest);

    TopoDS_Shape m_body;
    std::vector<Face> m_faces;
    std::optional<BRepClass3d_SolidClassifier> m_inside;
};

/// A face of a body: where it is, and how it lies.
struct Wall {
    Bnd_Box box;
    std::optional<gp_Pln> plane;
};
std::vector<Wall> wallsOf(const Body& body);

/// How far a flat face is from a body, square to it.
struct Gap {
    TopoDS_Face face;
    gp_Dir way; ///< out of the tool
    double least = 1e300, most = 0;
    bool everywhere = true; ///< the body lies ahead of all of it, near enough
    bool within = false;    ///< some of it lies within the body
    bool without = false;   ///< some of it has no body ahead, or none near enough
    Vec3 middle;
};

/// Of the flat faces of a tool that have the body ahead all over, less than half their own width away, or lie
/// within it in part.
std::vector<Gap> gapsOf(const Body& body, const NamedTool& tool);

std::vector<TopoDS_Face> flatFacesOf(const NamedTool& tool);
/// Out of the solid that a flat face bounds.
gp_Dir outOf(const TopoDS_Face& face);
/// The lesser side of the box that a flat face fills, mm.
double widthOf(const TopoDS_Face& face);

/// What a face of the tool is called, and the reference to it; empty where there are no words for it.
std::vector<NamePtr> namesIn(const NamedTool& tool, const TopoDS_Shape& face);
std::string wordsFor(const NamedTool& tool, const TopoDS_Shape& face);

} // namespace gc
