#pragma once
/// \file For .cpp files: the kernel's offsets made into a wall, with what became of each face.

#include "core/base/result.hpp"
#include "core/steps/shell/wall_check.hpp"

namespace gc {

struct JoinedWalls;

/// How the offsets of neighbouring faces are joined. The quick way is right where nothing is used up; the
/// thorough one also where a round is tighter than the wall, in three times the time (docs/kernel.md). Sharp
/// keeps outside corners sharp; it is tried last.
enum class Joining { Quick, Thorough, Sharp };

/// The result of the kernel's operation with what became of each old face.
struct Hollow {
    TopoDS_Shape shape;
    std::vector<std::pair<TopoDS_Shape, NamePtr>> names; ///< faces of shape
    std::vector<TopoDS_Shape> insides;
    double round = 0; ///< mm: the largest radius of rounds in place of what would fold over
};

/// "shell.failed", which says that no such wall can be made. \param offset mm, either way
Error noWall(double offset);

/// The kernel's thick solid. Error "shell.failed", as of the others. They throw what the kernel throws.
Result<Hollow> openShell(const ShellPlan& plan, int step, Joining joining);

/// Without an opening the kernel's thick solid is just the offset: the inner solid is made and cut out.
Result<Hollow> closedShell(const ShellPlan& plan, int step, Joining joining);

/// With openings that are flat, by the offset of all faces: inward the opened ones go out instead, so that
/// what is cut out of the body reaches through them, or, where kept faces run on from them smoothly, what
/// they are offset to is cut straight through; outward what lies before them is cut off. Where the kernel
/// cannot end a thick solid at an opening this may work.
Result<Hollow> wholeShell(const ShellPlan& plan, int step, Joining joining);

/// By moving every face along its own normal and every border and corner with them (docs/kernel.md). Where
/// walls run into each other at an angle that fades, the kernel cannot cut them. Only where nothing is used
/// up, and where no two openings meet. \param inParts each wall whose bend jumps on the way in several
/// pieces, parted there
Result<Hollow> followedShell(const ShellPlan& plan, int step, bool inParts);

/// The same, where walls are bent more than they are to be moved: there a round takes the place of what would
/// fold over. \param least radius of the round, as a share of the wall \param joined the body with walls that
/// are one, to be followed instead
Result<Hollow> followedRound(const ShellPlan& plan, int step, double least,
                             const JoinedWalls* joined = nullptr);

} // namespace gc
