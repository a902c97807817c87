#include "core/steps/shared/filling.hpp"

#include "core/steps/shared/chosen_area.hpp"

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
    const WallSide side = wallSideOf(args);
    const auto wall = thinWallOf(*outline.drawing, args.number("thickness"), side, axis);
    if (!wall) return wall.error();
    return withWall(outline, *wall, side);
}

WallSide wallSideOf(const Arguments& args) {
    const std::string& words = args.text("wall side");
    return words == "outside"         ? WallSide::Outside
           : words == "on both sides" ? WallSide::Both
                                      : WallSide::Inside;
}

Outline withWall(const Outline& outline, const ThinWall& wall, WallSide side) {
    Outline out = outline;
    out.regions = wall.regions;
    std::map<int, int> used;
    for (const auto& [id, of] : wall.beside) {
        // On both sides of a stroke there are two; the inner one was drawn first.
        const bool second = side == WallSide::Both && used[of]++ > 0;
        out.madeRoles[id] = (second || side != WallSide::Both ? "far side " : "side ") + std::to_string(of);
    }
    for (const auto& [id, which] : wall.caps) out.madeRoles[id] = "cap " + std::to_string(which);
    return out;
}

Result<Filled> filledFor(const Arguments& args, ModelReader& model, const std::string& kind,
                         const std::string& verb) {
    Filled out;
    const auto drawn = outlineFor(args, model, kind);
    if (!drawn) return drawn.error();
    out.drawn = *drawn;
    if (isWall(args)) {
        auto along = wallAlong(args, *out.drawn);
        if (!along) return along.error();
        out.wall = std::move(*along);
        out.areas = out.wall->regions;
        return out;
    }
    if (!out.drawn->drawn())
        return errorOf(
            kind + ".stations",
            phrase("The outline \"%1\" goes through stations and is there to be turned. %2 a drawing.",
                   args.label("outline"), verb));
    auto areas = meantAreas(args, *out.drawn, kind, out.notes);
    if (!areas) return areas.error();
    out.areas = std::move(*areas);
    return out;
}

} // namespace gc
