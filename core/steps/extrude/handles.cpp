#include "core/steps/extrude/handles.hpp"

#include "core/steps/shared/profile.hpp"
#include "core/steps/shared/size_handles.hpp"

#include <BRep_Tool.hxx>
#include <GeomAPI_IntCS.hxx>
#include <Geom_Line.hxx>
#include <TopoDS.hxx>

namespace gc {

namespace {

/// The lean of the sides, as an arc at the middle of the border's first piece.
void showLean(const char* slot, bool outward, double value, double height, const Outline& outline,
              const Region& area, const Reach& reach, ModelReader& model) {
    constexpr double kLeast = 4; // mm: a shorter arm could not be taken hold of
    const Curve2& c = area.outer.sides.front().curve;
    const Vec2 tangent = c.at(0.51) - c.at(0.49); // the area lies to its left
    const double size = std::hypot(tangent.x, tangent.y);
    if (size == 0) return;
    const Plane& plane = outline.plane;
    const Vec3 along = unit(plane.across * tangent.x + plane.up * tangent.y);
    // The direction that turns the way up towards the inside; behind the drawing it is the other.
    const double sense = (height < 0 ? -1 : 1) * (outward ? 1 : -1);
    model.show(turnHandle(
        slot, plane.at(c.at(0.5)) + plane.normal() * reach.level, along * sense,
        plane.normal() * (std::fabs(height) < kLeast ? std::copysign(kLeast, height) : height), value));
}

/// From where the middle of the drawing, moved along, meets a face, back to where it stays short of it.
void showGap(const std::string& end, double gap, const Vec3& middle, const Reach& reach, ModelReader& model) {
    const double sense = reach.to < reach.level ? -1 : 1;
    const Vec3 way = unit(reach.slant) * sense;
    const Handle(Geom_Line) line =
        new Geom_Line(gp_Pnt(middle.x, middle.y, middle.z), gp_Dir(way.x, way.y, way.z));
    std::optional<double> least;
    for (const TopoDS_Shape& face : reach.ends) {
        const GeomAPI_IntCS met(line, BRep_Tool::Surface(TopoDS::Face(face)));
        for (int i = 1; met.IsDone() && i <= met.NbPoints(); ++i) {
            double u = 0, v = 0, along = 0;
            met.Parameters(i, u, v, along);
            if (along > sense * reach.level && (!least || along < *least)) least = along;
        }
    }
    if (!least) return;
    const bool beyond = end == "beyond";
    gc::Handle h = sizeHandle("gap", middle + way * *least, way * (beyond ? 1 : -1), gap);
    h.turnsRound = "end";
    h.turnsInto = beyond ? "short of" : "beyond";
    model.show(h);
}

bool isOutward(const std::string& sides) {
    return sides.find("outward") != std::string::npos;
}

} // namespace

void showHandles(const Arguments& args, const Outline& outline, const Region& area, const Reach& reach,
                 ModelReader& model) {
    const Plane& plane = outline.plane;
    const Vec3 middle = plane.at(middleOf(area)), way = unit(reach.slant);
    const auto along = [&](const char* slot, double from, double sense, double value) {
        return sizeHandle(slot, middle + reach.slant * from, way * sense, value);
    };
    if (args.text("begin") == "a level at") {
        Handle h = along("level", 0, 1, reach.level);
        h.direction = plane.normal();
        model.show(h);
    }
    if (args.text("begin") == "a face") return; // where that is, only the solid knows
    if (const std::string& e = args.text("end"); e == "short of" || e == "beyond")
        asAid([&] { showGap(e, args.number("gap"), middle, reach, model); });
    if (args.text("end") != "by") return;
    const std::string& how = args.text("way");
    const double length = args.number("length");
    Handle end = along("length", reach.level, how == "backward" ? -1 : 1, length);
    if (how == "both ways together")
        end.way = 0.5;
    else if (how != "forward, and back by")
        end.turnsRound = "way";
    model.show(end);
    if (how == "forward, and back by") model.show(along("second", reach.level, -1, args.number("second")));
    if (!reach.lean) return;
    const bool outward = isOutward(args.text("sides"));
    showLean("lean", outward, args.number("lean"), reach.to - reach.level, outline, area, reach, model);
    if (const std::string& back = args.text("back sides");
        reach.from < reach.level && (back == "inward by" || back == "outward by"))
        showLean("back lean", isOutward(back), args.number("back lean"), reach.from - reach.level, outline,
                 area, reach, model);
}

} // namespace gc
