#include "core/inspect/wall.hpp"

#include "core/shape/kernel.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <IntCurvesFace_Intersector.hxx>
#include <TopoDS.hxx>
#include <gp_Lin.hxx>

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <limits>
#include <map>
#include <memory>

namespace gc {

namespace {

const double kFacing = std::cos(45 * M_PI / 180); // ray school: the far side faces this one
const double kApart = std::cos(110 * M_PI / 180); // ball school: contacts this far apart
const double kHollow = std::cos(2 * M_PI / 180);  // a contact off the triangle's normal is on a hollow edge
const double kHollowApart = std::cos(100 * M_PI / 180);
constexpr int kBallRounds = 40;
constexpr int kExactCandidates = 10;

/// Rays begin behind the facet of a curved face, and count from the sample all the same; mm.
double rayStart(const SampledSurface& surface) {
    return std::max(1e-3, 2 * surface.mesh.deviation);
}

/// Casts a ray from every sample into the body, in parallel, and fills the field with `measure(sample, hit)`.
template <class Measure>
void measureInward(WallField& field, const SampledSurface& surface, const RayScene& scene, const Stop& stop,
                   Measure measure) {
    const std::size_t count = surface.samples.size();
    field.thickness.assign(count, -1.f);
    const double start = rayStart(surface);
    std::atomic<bool> stopped{false};
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, count, 256), [&](const auto& range) {
        if (stopped || (stop && stop())) {
            stopped = true;
            return;
        }
        std::array<Vec3, 8> inward;
        std::array<RayHit, 8> hits;
        for (std::size_t i = range.begin(); i < range.end(); i += 8) {
            const std::size_t some = std::min<std::size_t>(8, range.end() - i);
            for (std::size_t k = 0; k < some; ++k) inward[k] = -surface.mesh.normals[i + k];
            scene.castEight(&surface.samples[i], inward.data(), start, some, hits.data());
            for (std::size_t k = 0; k < some; ++k)
                if (hits[k].hit()) field.thickness[i + k] = static_cast<float>(measure(i + k, hits[k]));
        }
    });
}

/// Thickness on the exact surfaces. Setting up a face takes far longer than asking it, so faces are kept.
class ExactRays {
  public:
    explicit ExactRays(const NamedShape& shape) : m_shape(shape) {}

    /// Along the exact normal from the point of the face's surface nearest to the sample.
    std::optional<WallExtreme> cast(std::uint32_t face, std::uint32_t farFace, Vec3 sample) {
        From& from = fromFace(face);
        from.foot.Perform(gp_Pnt(sample.x, sample.y, sample.z));
        if (from.foot.NbPoints() == 0) return std::nullopt;
        double u = 0, v = 0;
        from.foot.LowerDistanceParameters(u, v);
        gp_Pnt p;
        gp_Vec du, dv;
        from.surface.D1(u, v, p, du, dv);
        gp_Vec inward = du.Crossed(dv);
        if (inward.Magnitude() < 1e-12) return std::nullopt;
        inward.Normalize();
        if (!from.reversed) inward.Reverse();
        IntCurvesFace_Intersector& hit = toFace(farFace);
        hit.Perform(gp_Lin(p, gp_Dir(inward)), 1e-4, 1e6);
        double best = 1e300;
        for (int i = 1; i <= hit.NbPnt(); ++i) best = std::min(best, hit.WParameter(i));
        if (best > 1e299) return std::nullopt;
        return WallExtreme{best, toVec(p), {}};
    }

  private:
    struct From {
        GeomAPI_ProjectPointOnSurf foot;
        BRepAdaptor_Surface surface;
        bool reversed = false;
    };
    TopoDS_Face face(std::uint32_t i) const { return TopoDS::Face(m_shape.faces(static_cast<int>(i) + 1)); }
    From& fromFace(std::uint32_t i) {
        auto& slot = m_from[i];
        if (!slot) {
            slot = std::make_unique<From>();
            const TopoDS_Face f = face(i);
            double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
            BRepTools::UVBounds(f, u0, u1, v0, v1);
            slot->foot.Init(BRep_Tool::Surface(f), u0, u1, v0, v1);
            slot->surface.Initialize(f, false);
            slot->reversed = f.Orientation() == TopAbs_REVERSED;
        }
        return *slot;
    }
    IntCurvesFace_Intersector& toFace(std::uint32_t i) {
        auto& slot = m_to[i];
        if (!slot) slot = std::make_unique<IntCurvesFace_Intersector>(face(i), 1e-9);
        return *slot;
    }

    const NamedShape& m_shape;
    std::map<std::uint32_t, std::unique_ptr<From>> m_from;
    std::map<std::uint32_t, std::unique_ptr<IntCurvesFace_Intersector>> m_to;
};

/// Samples in order of thickness, spread out so that they are not all neighbours.
std::vector<std::size_t> candidates(const WallField& field, const SampledSurface& surface, bool thin) {
    // One pass that keeps the best few hundred: sorting a million samples would cost as much as their rays.
    constexpr std::size_t kSome = 600;
    std::vector<std::size_t> order;
    float limit = thin ? std::numeric_limits<float>::max() : 0;
    const auto better = [&](std::size_t a, std::size_t b) {
        return thin ? field.thickness[a] < field.thickness[b] : field.thickness[a] > field.thickness[b];
    };
    const auto prune = [&] {
        std::nth_element(order.begin(), order.begin() + kSome - 1, order.end(), better);
        order.resize(kSome);
        limit = field.thickness[order.back()];
    };
    for (std::size_t i = 0; i < field.thickness.size(); ++i) {
        const float t = field.thickness[i];
        if (t < 0 || (thin ? t > limit : t < limit)) continue;
        order.push_back(i);
        if (order.size() == 4 * kSome) prune();
    }
    if (order.size() > kSome) prune();
    std::sort(order.begin(), order.end(), better);
    std::vector<std::size_t> out;
    for (std::size_t k = 0; k < order.size() && out.size() < kExactCandidates; ++k) {
        const Vec3 p = surface.samples[order[k]];
        const double apart = 0.5 * field.thickness[order[k]];
        if (std::none_of(out.begin(), out.end(),
                         [&](std::size_t o) { return length(surface.samples[o] - p) < apart; }))
            out.push_back(order[k]);
    }
    return out;
}

WallExtreme sampled(const WallField& field, const SampledSurface& surface, std::size_t i) {
    return {field.thickness[i], surface.samples[i], surface.mesh.faces[surface.faceOf[i]].name};
}

} // namespace

WallField wallByRay(const Body& body, const SampledSurface& surface, const RayScene& scene,
                    const Stop& stop) {
    WallField field;
    measureInward(field, surface, scene, stop, [&](std::size_t i, const RayHit& hit) {
        return dot(hit.normal, -surface.mesh.normals[i]) >= kFacing ? hit.distance : -1.0;
    });
    field.errorBound = 1e-3;
    ExactRays exact(body.shape());
    auto extreme = [&](bool thin, WallExtreme& out) {
        bool first = true;
        for (const std::size_t i : candidates(field, surface, thin)) {
            WallExtreme e = sampled(field, surface, i);
            const RayHit hit = scene.cast(surface.samples[i], -surface.mesh.normals[i], rayStart(surface));
            const std::string face = e.face;
            if (hit.hit())
                if (auto better = guarded("wall", "", [&]() -> Result<WallExtreme> {
                        const auto x =
                            exact.cast(surface.faceOf[i], scene.faceOf(hit.triangle), surface.samples[i]);
                        return x ? Result<WallExtreme>(*x) : Result<WallExtreme>(Error{});
                    }))
                    if (std::fabs(better->value - e.value) < 8 * surface.mesh.deviation + 0.02 * e.value)
                        e = *better;
            e.face = face;
            if (first || (thin ? e.value < out.value : e.value > out.value)) out = e;
            first = false;
        }
        return !first;
    };
    if (stop && stop()) return field;
    field.any = extreme(true, field.thinnest) && extreme(false, field.thickest);
    return field;
}

WallField wallByBall(const Body&, const SampledSurface& surface, const RayScene& scene, const Stop& stop) {
    WallField field;
    const double slack = 1.5 * surface.mesh.deviation;
    measureInward(field, surface, scene, stop, [&](std::size_t i, const RayHit& ray) {
        const Vec3 p = surface.samples[i], inward = -surface.mesh.normals[i];
        double r = ray.distance / 2;
        Vec3 contact = p + inward * ray.distance, contactNormal = ray.normal;
        for (int round = 0; round < kBallRounds; ++round) {
            const Vec3 centre = p + inward * r;
            const NearestHit q = scene.nearest(centre, r * (1 - 1e-4) - slack);
            if (q.distance < 0) break;
            const Vec3 d = q.point - p;
            const double along = dot(d, inward);
            if (along <= 0) return -1.0; // level with or behind the tangent plane: an edge of the face itself
            const double smaller = dot(d, d) / (2 * along);
            if (smaller >= r * (1 - 1e-6)) break;
            r = smaller;
            contact = q.point;
            contactNormal = scene.triangleNormal(q.triangle);
        }
        if (r < 6 * slack) return -1.0; // too small to tell from the mesh's own deviation: an edge
        const Vec3 centre = p + inward * r, toContact = unit(contact - centre);
        const double apart = dot(-inward, toContact), facesApart = dot(-inward, contactNormal);
        // The search stops a slack early, which turns the contact by up to sqrt(2 slack / r).
        const bool onHollowEdge =
            dot(toContact, contactNormal) < kHollow - 3 * slack / r && apart < kHollowApart;
        return facesApart <= kApart || onHollowEdge ? 2 * r : -1.0;
    });
    field.errorBound = 4 * surface.mesh.deviation;
    if (stop && stop()) return field;
    for (const bool thin : {true, false})
        if (const auto best = candidates(field, surface, thin); !best.empty()) {
            (thin ? field.thinnest : field.thickest) = sampled(field, surface, best.front());
            field.any = true;
        }
    return field;
}

WallHistogram histogram(const WallField& field, const SampledSurface& surface, int bins) {
    WallHistogram h;
    h.areas.assign(static_cast<std::size_t>(bins), 0);
    if (!field.any) return h;
    // From the thinnest to where all but a hundredth of the area is: a few places that are thick through (a
    // rim seen lengthways) would squeeze everything else into one colour. They count in the last bin.
    std::vector<std::pair<float, double>> sorted;
    double total = 0;
    for (std::size_t i = 0; i < field.thickness.size(); ++i)
        if (field.thickness[i] >= 0) {
            sorted.emplace_back(field.thickness[i], surface.areas[i]);
            total += surface.areas[i];
        }
    std::sort(sorted.begin(), sorted.end());
    double sum = 0, thick = sorted.back().first;
    for (const auto& [thickness, area] : sorted)
        if ((sum += area) >= 0.99 * total) {
            thick = thickness;
            break;
        }
    h.low = std::floor(field.thinnest.value * 2) / 2;
    h.high = std::max(h.low + 1, std::ceil(thick * 2 + 0.2) / 2);
    for (std::size_t i = 0; i < field.thickness.size(); ++i) {
        if (field.thickness[i] < 0) continue;
        const int bin = static_cast<int>((field.thickness[i] - h.low) / (h.high - h.low) * bins);
        h.areas[static_cast<std::size_t>(std::clamp(bin, 0, bins - 1))] += surface.areas[i];
    }
    return h;
}

} // namespace gc
