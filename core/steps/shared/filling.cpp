#include "core/steps/shared/filling.hpp"

namespace gc {

bool isWall(const Arguments& args) {
    return args.text("area").empty() && args.text("fill") == "as a wall of";
}

Result<Outline> wallAlong(const Arguments& args, const Outline& outline,
                          const std::optional<WallAxis>& axis) {
    if (!outline.drawing)
        return errorOf("wall.stations",
                       phrase("The outline \"%1\" goes through stations: turn it filled, and hollow it "
                              "with a shell.",
                              args.label("outline")));
    const std::string& words = args.text("wall side");
    const WallSide side = words == "outside"         ? WallSide::Outside
                          : words == "on both sides" ? WallSide::Both
                                                     : WallSide::Inside;
    const auto wall = thinWallOf(*outline.drawing, args.number("thickness"), side, axis);
    if (!wall) return wall.error();
    Outline out = outline;
    out.regions = wall->regions;
    std::map<int, int> used;
    for (const auto& [id, of] : wall->beside) {
        // On both sides of a stroke there are two; the inner one was drawn first.
        const bool second = side == WallSide::Both && used[of]++ > 0;
        out.madeRoles[id] = (second || side != WallSide::Both ? "far side " : "side ") + std::to_string(of);
    }
    for (const auto& [id, which] : wall->caps) out.madeRoles[id] = "cap " + std::to_string(which);
    return out;
}

} // namespace gc
