#pragma once
/// \file For .cpp files: where the copies of a detail go.

#include "core/model/arguments.hpp"
#include "core/steps/shared/copied_detail.hpp"

#include <gp_Ax1.hxx>

#include <functional>

namespace gc {

/// How far the detail reaches along a direction, mm: what gaps are measured between.
using WidthAlong = std::function<double(const Vec3& direction)>;

/// What a step asks for, with its directions found.
struct CopyLayout {
    struct Row {
        Vec3 along;
        int count = 1;
        double pitch = 0; ///< mm
    };
    std::vector<Row> rows; ///< one or two; of turns none
    bool staggered = false;
    std::optional<Axis> axis;
    int turns = 0;
    double step = 0;              ///< rad
    std::vector<gp_Trsf> motions; ///< at drawn points, along a curve
    /// Along a curve: what they are for another count.
    std::function<std::vector<gp_Trsf>(int)> motionsFor;
    std::string countSlot; ///< what a person changes when it is too many; empty: nothing
};

/// Errors: those of the axes and paths; "repeat.span" where not even two fit, or not so many along a curve;
/// "repeat.points" for a drawing without; "repeat.round" where it stands on the axis that it goes round by a
/// length.
/// \param at the middle of the detail \param foot where it stands on its wall
Result<CopyLayout> layoutBy(const Arguments& args, ModelReader& model, const WidthAlong& width,
                            const Vec3& at, const Vec3& foot);

/// Shows what of it is pulled in the stand. \param box around what is repeated
void showPulls(const Arguments& args, const CopyLayout& layout, const WidthAlong& width, const Box& box,
               ModelReader& model);

/// From one to the next, mm, for so many in a row. \param after "" or " 2" \param fixed where the count has
/// no part in it
double pitchOf(const Arguments& args, const std::string& after, int count, double fixed);
/// The same around an axis, rad.
double stepRound(const Arguments& args, int count, double fixed);

/// Places that a person leaves out: "3, 5-7"; in rows "2/3" is the third of the second row, "2/1-4" four of
/// them.
struct LeftOut {
    struct Span {
        int row = 0; ///< 0: in the only one, or in every row
        int from = 0, to = 0;
    };
    std::vector<Span> spans;
    bool has(int row, int place) const;
};
/// By the slots "some" and "without". Error "repeat.without" with what was not understood.
Result<LeftOut> leftOutBy(const Arguments& args);

/// All copies besides the detail itself.
std::vector<Placement> placementsOf(const CopyLayout& layout, const LeftOut& without = {});

/// The same, larger or smaller and turned from place to place where the step says so. \param stand where what
/// is repeated stands, and about what it turns there. Error "repeat.change" where that cannot be.
Result<std::vector<Placement>> changed(const Arguments& args, std::vector<Placement> placements,
                                       const gp_Ax1& stand);

} // namespace gc
