#include "core/inspect/mass.hpp"

#include "core/shape/kernel.hpp"

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <GProp_PrincipalProps.hxx>

#include <algorithm>

namespace gc {

Result<MassProperties> massProperties(const Body& body, Density density) {
    // The kernel halves the turn unevenly and only watches the volume: at 1e-9 the centre of a pot is 0.007
    // mm off its axis and its moments differ by a hundredth; at 1e-14 they are right to 1e-6 mm and 1e-5.
    constexpr double kTolerance = 1e-14;
    return guarded("mass.volume", "The volume of the body cannot be worked out.",
                   [&]() -> Result<MassProperties> {
                       GProp_GProps volume, surface;
                       BRepGProp::VolumeProperties(body.shape().shape, volume, kTolerance);
                       BRepGProp::SurfaceProperties(body.shape().shape, surface, 1e-7);
                       MassProperties p;
                       p.volume = volume.Mass();
                       p.area = surface.Mass();
                       p.errorBound = 1e-9;
                       if (!(p.volume > 0)) {
                           Error e;
                           e.code = "mass.volume";
                           e.sentence = "The body has no volume, or its faces look inward.";
                           return e;
                       }
                       const double k = density.internal();
                       p.mass = p.volume * k;
                       p.centre = toVec(volume.CentreOfMass());
                       volume.PrincipalProperties().Moments(p.moments[0], p.moments[1], p.moments[2]);
                       for (double& m : p.moments) m *= k;
                       std::sort(p.moments.begin(), p.moments.end());
                       return p;
                   });
}

} // namespace gc
