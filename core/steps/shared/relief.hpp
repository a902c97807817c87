#pragma once
/// \file For .cpp files: areas of a drawing as reliefs in one face. Their borders are set into the face as
/// loops, and what stands on them shares its edges: no boolean, and no sewing.

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/far_sides.hpp"
#include "core/steps/shared/laying.hpp"
#include "core/steps/shared/lifted.hpp"

#include <TopoDS_Wire.hxx>

namespace gc {

/// What an area becomes: a loop for the wall's face, what is left of the wall within it, and what stands on
/// it.
struct Relief {
    const Region* area = nullptr;
    TopoDS_Wire loop; ///< a hole of the wall, on its face taken forward
    std::vector<TopoDS_Face>
        islands; ///< of the wall, in the order of the area's holes; turned as the wall is
    struct Made {
        TopoDS_Face face; ///< turned as it bounds the body
        std::vector<std::string> roles;
    };
    std::vector<Made> faces;
};

/// On any face, with curves fitted to it. \param laying into the face's own parameters \param top the surface
/// at its far end \param fit how closely curves go by the drawing, mm Errors: "emboss.miss" where a place
/// does not come onto the wall; "emboss.uneven" where the wall is too uneven.
Result<Relief> reliefOn(const TopoDS_Face& face, const Outline& outline, const Region& area,
                        const Laying& laying, const ReliefShape& shape, const LiftedSurface& top,
                        double fit = kSurfaceFit);

/// On a flat face alongside the drawing: planes, cylinders and cones. Errors: as of farSidesOf, and
/// "lean.fit".
Result<Relief> reliefOnFlat(const TopoDS_Face& face, const Outline& outline, const Region& area,
                            const ReliefShape& shape);
/// Is that what the face is?
bool isFlatAlongside(const TopoDS_Face& face, const Plane& drawing);

/// What an area's far face is called: "top", or "floor" where it is sunk, and the stroke that it is known by.
std::string farRole(const Region& area, const ReliefShape& shape);

/// The body with reliefs in some of its faces. Nothing where it is no solid, or one of them lies in a shell
/// of its own.
struct Hosted {
    TopoDS_Face face; ///< of the body
    std::vector<Relief> reliefs;
    std::vector<TopoDS_Wire> loops{};    ///< other holes of it, on its face taken forward
    std::vector<Relief::Made> besides{}; ///< faces that its shell has besides
};
std::optional<Body> setReliefs(const NamedShape& before, const std::vector<Hosted>& hosts,
                               const Outline& outline, int step);

} // namespace gc
