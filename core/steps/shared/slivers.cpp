#include "core/steps/shared/slivers.hpp"

#include "core/steps/shared/over_face.hpp"

#include <BRepBndLib.hxx>
#include <Bnd_Box.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kNearly = 0.5;       // mm: as near to a wall that leans away an end was meant to meet it
constexpr double kNearlyShare = 0.05; // of the end's width, and no further

/// The thickest place of the wall behind a face; nothing where some of it is no sliver.
std::optional<Lacking> wallBehind(const TopoDS_Face& face, const NamedTool& tool, Ahead& body) {
    const gp_Dir way = outOf(face);
    std::optional<Lacking> most;
    for (const int looks : {3, 9}) {
        most.reset();
        int within = 0;
        for (const gp_Pnt& p : placesOver(face, looks)) {
            if (!body.holds(p)) continue;
            ++within;
            const auto thick = body.crossing(p, way, kSliver);
            if (!thick || *thick < kMatters) return std::nullopt;
            if (!most || *thick > most->by) most = Lacking{*thick, {p.X(), p.Y(), p.Z()}, {}};
        }
        if (within == 0) return std::nullopt;
    }
    most->face = wordsFor(tool, face);
    return most;
}

/// Is there a wall that could run along a flat face, as near behind it as a sliver is thick?
bool liesAlongside(const TopoDS_Face& face, const std::vector<Wall>& walls) {
    constexpr double kAlong = 0.95; // cosine
    Bnd_Box box;
    BRepBndLib::Add(face, box, false);
    box.Enlarge(kSliver);
    const gp_Dir way = outOf(face);
    return std::any_of(walls.begin(), walls.end(), [&](const Wall& w) {
        if (w.box.IsOut(box)) return false;
        return !w.plane || std::fabs(w.plane->Axis().Direction().Dot(way)) > kAlong;
    });
}

} // namespace

std::optional<Lacking> gapLeft(const NamedTool& tool, const std::vector<Gap>& gaps) {
    for (const Gap& gap : gaps) {
        if (!gap.everywhere || gap.least < kMatters) continue;
        if (gap.most <= kSliver) return Lacking{gap.most, gap.middle, wordsFor(tool, gap.face)};
        if (gap.least < std::min(kNearly, kNearlyShare * widthOf(gap.face)))
            return Lacking{gap.least, gap.middle, wordsFor(tool, gap.face)};
    }
    return std::nullopt;
}

std::optional<Lacking> wallLeft(const Body& body, const NamedTool& tool) {
    const auto walls = wallsOf(body);
    Ahead* ahead = nullptr; // costs as much as all else, and is seldom asked
    for (const TopoDS_Face& face : flatFacesOf(tool)) {
        if (!liesAlongside(face, walls)) continue;
        if (!ahead) ahead = &Ahead::of(body);
        if (auto wall = wallBehind(face, tool, *ahead)) return wall;
    }
    return std::nullopt;
}

} // namespace gc
