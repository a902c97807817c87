#pragma once
/// \file For .cpp files only: adding one solid to another, taking it away, keeping what is common, with the
/// names of both.

#include "core/shape/kernel.hpp"
#include "core/steps/shared/near_filler.hpp"

#include <BRepAlgoAPI_Splitter.hxx>
#include <TopoDS_Compound.hxx>

#include <memory>

namespace gc {

enum class Combine { Add, Take, Common };

/// A solid that a step made, to be combined with a body, and what its faces are called.
struct NamedTool {
    TopoDS_Shape shape;
    std::vector<std::pair<TopoDS_Shape, NamePtr>> names;
    int step = 0;  ///< that made it
    Plane frame{}; ///< in which that step works
    Body from{};   ///< the body that it is, where it is one: its frames and middles go along
    /// Shapes of it that surely meet none of certain shapes of the body.
    std::vector<TopoDS_Shape> apart{}, apartFrom{};
};

/// The tool of a step that works in a plane, with nothing in it yet.
struct ToolOfSolids {
    ToolOfSolids(int step, const Plane& frame);
    TopoDS_Compound solids;
    NamedTool tool;
    /// With the solids in it.
    NamedTool whole() const;
};

/// A body as a tool of a step.
NamedTool toolOf(const Body& body, int step);
/// A tool as a body of its own.
Result<Body> bodyOf(const NamedTool& tool);

/// A solid parted by tools, none of them changed; nothing where the kernel fails.
std::unique_ptr<NearOnly<BRepAlgoAPI_Splitter>> splitBy(const TopoDS_Shape& solid,
                                                        const std::vector<TopoDS_Shape>& tools);
int solidsIn(const TopoDS_Shape& shape);
/// Do two boxes share room, or touch?
bool boxesMeet(const Box& a, const Box& b);
/// Does one of the places lie within the solid?
bool holdsAny(const TopoDS_Shape& solid, const std::vector<gp_Pnt>& places);

/// Neither is changed. Errors: "combine.failed" with the kernel's complaint; "combine.apart" when they have
/// nothing in common; "combine.touches" when they only touch along a line or in a point; "combine.nothing"
/// when nothing is left; "combine.wrong" when the kernel's answer is not what the columns of material of the
/// two say. What the result has to be else is for the step to say.
Result<Body> combine(const Body& body, const NamedTool& tool, Combine how);

/// Is a body that was made without combine() what it would have made? By columns of material; where no free
/// walls meet, or the columns cannot be taken, nothing is found.
bool isCombined(const Body& body, const NamedTool& tool, const Body& made, Combine how);

} // namespace gc
