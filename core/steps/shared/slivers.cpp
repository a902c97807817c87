#include "core/steps/shared/slivers.hpp"

#include "core/steps/shared/over_face.hpp"

#include <algorithm>

namespace gc {

namespace {

/// The thickest place of the wall behind a face; nothing where some of it is no sliver.
std::optional<Beside> wallBehind(const TopoDS_Face& face, const NamedTool& tool, Ahead& body) {
    const gp_Dir way = outOf(face);
    std::optional<Beside> most;
    for (const int looks : {3, 9}) {
        most.reset();
        int within = 0;
        for (const gp_Pnt& p : placesOver(face, looks)) {
            if (!body.holds(p)) continue;
            ++within;
            const auto thick = body.crossing(p, way, kSliver);
            if (!thick || *thick < kMatters) return std::nullopt;
            if (!most || *thick > most->by) most = Beside{*thick, {p.X(), p.Y(), p.Z()}, {}};
        }
        if (within == 0) return std::nullopt;
    }
    most->face = wordsFor(tool, face);
    return most;
}

} // namespace

std::optional<Beside> gapLeft(const NamedTool& tool, const std::vector<Gap>& gaps) {
    for (const Gap& gap : gaps)
        if (gap.least > kMatters && gap.most <= kSliver)
            return Beside{gap.most, gap.middle, wordsFor(tool, gap.face)};
    return std::nullopt;
}

std::optional<Beside> wallLeft(const Body& body, const NamedTool& tool) {
    Ahead ahead(body.shape().shape);
    for (const TopoDS_Face& face : flatFacesOf(tool))
        if (auto wall = wallBehind(face, tool, ahead)) return wall;
    return std::nullopt;
}

} // namespace gc
