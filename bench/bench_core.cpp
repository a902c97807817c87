/// Timings as ratios against a raw reference in the same run. Not a test: machines are noisy.
/// Build and run: cmake --build --preset release --target bench_core && build/release/bin/bench_core

#include "bench/timing.hpp"
#include "core/document/part_file.hpp"
#include "core/regen/measure.hpp"
#include "core/shape/kernel.hpp"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepOffsetAPI_MakeThickSolid.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepTools.hxx>
#include <TopoDS.hxx>
#include <gp_Ax2.hxx>

#include <embree3/rtcore.h>
#include <tbb/parallel_for.h>

#include <cstdio>

namespace {

using namespace gc;

/// The same rays by the library alone: no filters, no fields.
double rawRays(const TriangleMesh& mesh, const SampledSurface& surface) {
    RTCDevice device = rtcNewDevice(nullptr);
    RTCScene scene = rtcNewScene(device);
    RTCGeometry g = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_TRIANGLE);
    auto* p = static_cast<float*>(
        rtcSetNewGeometryBuffer(g, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, 12, mesh.points.size()));
    for (const Vec3& v : mesh.points)
        for (const double c : {v.x, v.y, v.z}) *p++ = static_cast<float>(c);
    auto* t = static_cast<std::uint32_t*>(
        rtcSetNewGeometryBuffer(g, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, 12, mesh.triangles.size()));
    for (const auto& tri : mesh.triangles)
        for (const auto i : tri) *t++ = i;
    rtcCommitGeometry(g);
    rtcAttachGeometry(scene, g);
    rtcReleaseGeometry(g);
    rtcCommitScene(scene);
    const double ms = leastMs(25, [&] {
        tbb::parallel_for(
            tbb::blocked_range<std::size_t>(0, surface.samples.size(), 256), [&](const auto& range) {
                for (std::size_t i = range.begin(); i < range.end(); ++i) {
                    RTCRayHit ray{};
                    const Vec3 o = surface.samples[i], d = -surface.mesh.normals[i];
                    ray.ray.org_x = float(o.x), ray.ray.org_y = float(o.y), ray.ray.org_z = float(o.z);
                    ray.ray.dir_x = float(d.x), ray.ray.dir_y = float(d.y), ray.ray.dir_z = float(d.z);
                    ray.ray.tnear = 0.04f;
                    ray.ray.tfar = 1e9f;
                    ray.ray.mask = ~0u;
                    ray.hit.geomID = RTC_INVALID_GEOMETRY_ID;
                    RTCIntersectContext context;
                    rtcInitIntersectContext(&context);
                    rtcIntersect1(scene, &context, &ray);
                }
            });
    });
    rtcReleaseScene(scene);
    rtcReleaseDevice(device);
    return ms;
}

/// The bare kernel call of a step, on what the step was given and with its own numbers; ms. Negative: there
/// is none to speak of (outline and revolve take 2 ms).
double rawKernel(const Part& part, const Step& step, const StepArguments& args, const ModelState& state) {
    const auto id = state.bodyNamed("pot");
    if (!id) return -1;
    const Body& pot = state.bodies.at(*id).value;
    if (step.kind == "fillet") {
        const NamedShape& shape = pot.shape();
        const auto edges = resolveEdges(pot, *parseEdgeRef(step.references("edges")[0]));
        return leastMs(3, [&] {
            BRepFilletAPI_MakeFillet f(shape.shape);
            for (const int e : edges->items)
                f.Add(args.numbers.at("radius"), TopoDS::Edge(shape.edges(e + 1)));
            f.Build();
        });
    }
    if (step.kind == "shell") {
        const NamedShape& shape = pot.shape();
        TopTools_ListOfShape open;
        open.Append(shape.faces(resolveFaces(pot, **parseFaceRef(step.references("open")[0]))->items[0] + 1));
        return leastMs(3, [&] {
            BRepOffsetAPI_MakeThickSolid m;
            m.MakeThickSolidByJoin(shape.shape, open, -args.numbers.at("wall"), 1e-4, BRepOffset_Skin, false,
                                   false, GeomAbs_Intersection);
        });
    }
    if (step.kind == "hole") {
        const double r = args.numbers.at("diameter") / 2, ring = args.numbers.at("circle") / 2,
                     lean = args.numbers.at("lean");
        const int count = static_cast<int>(args.numbers.at("count"));
        const double depth = *evaluateSlot(*part.findStep(4), "wall", part, valuesOf(part)), beyond = 0.5;
        const double spread = std::tan(lean);
        return leastMs(3, [&] {
            TopTools_ListOfShape bodies, tools;
            bodies.Append(pot.shape().shape);
            for (int k = 0; k < count; ++k) {
                const double a = 2 * M_PI * k / count;
                tools.Append(BRepPrimAPI_MakeCone(
                                 gp_Ax2(gp_Pnt(ring * std::cos(a), ring * std::sin(a), -beyond), gp::DZ()),
                                 r - beyond * spread, r + (depth + beyond) * spread, depth + 2 * beyond)
                                 .Shape());
            }
            BRepAlgoAPI_Cut cut;
            cut.SetArguments(bodies);
            cut.SetTools(tools);
            cut.Build();
        });
    }
    return -1;
}

void benchRegeneration(const Part& part, const RegenResult& regen) {
    double sum = 0, rawSum = 0, sumBeforeHoles = 0, rawBeforeHoles = 0;
    for (const StepReport& s : regen.steps) {
        const ModelState& before = regen.before[std::size_t(s.number - 1)];
        const Step& step = *part.findStep(s.id);
        const auto args = Engine::argumentsOf(step, part, valuesOf(part));
        const double ours = leastMs(3, [&] { (void)runStep(*args, before); });
        const double raw = rawKernel(part, step, *args, before);
        std::printf("step %d %-8s %7.1f ms", s.number, s.kind.c_str(), ours);
        if (raw > 0) std::printf("  raw kernel %7.1f ms, ratio %.2f", raw, ours / raw);
        std::printf("\n");
        sum += ours;
        rawSum += raw > 0 ? raw : ours;
        if (s.kind == "hole") continue;
        sumBeforeHoles += ours;
        rawBeforeHoles += raw > 0 ? raw : ours;
    }
    std::printf("regeneration of all steps %.1f ms, raw kernel calls %.1f ms, ratio %.2f; without the holes, "
                "which need "
                "no boolean here, %.1f and %.1f ms, ratio %.2f\n",
                sum, rawSum, sum / rawSum, sumBeforeHoles, rawBeforeHoles, sumBeforeHoles / rawBeforeHoles);
}

void benchMesh(const Body& pot) {
    for (const double deviation : {0.25, 0.05, 0.02}) {
        const MeshOptions options{deviation, 0.25};
        std::size_t own = 0, kernels = 0;
        const double ms = leastMs(5, [&] { own = makeMesh(pot, options)->triangles.size(); });
        const double raw = leastMs(1, [&] {
            BRepTools::Clean(pot.shape().shape);
            kernels = makeKernelMesh(pot, options)->triangles.size();
        });
        std::printf(
            "mesh to %.2f mm: %zu triangles in %.1f ms; the kernel's %zu in %.1f ms; %.0f times faster\n",
            deviation, own, ms, kernels, raw, raw / ms);
    }
}

void benchWall(const Body& pot) {
    const auto mesh = makeMesh(pot, {0.02, 0.25});
    const RayScene scene(*mesh);
    // Two samplings: what the second takes longer is the rays alone, without the exact search at the
    // extremes, whose cost does not grow with them.
    const auto coarse = sampleSurface(*mesh, 2.2), fine = sampleSurface(*mesh, 0.8);
    const double rays = static_cast<double>(fine.samples.size() - coarse.samples.size());
    WallField field;
    const auto time = [&](auto&& school, const SampledSurface& s) {
        return leastMs(15, [&] { field = school(pot, s, scene, Stop{}); });
    };
    const double raw = rawRays(*mesh, fine) - rawRays(*mesh, coarse);
    const double rayCoarse = time(wallByRay, coarse), ray = time(wallByRay, fine) - rayCoarse;
    const double ballCoarse = time(wallByBall, coarse), ball = time(wallByBall, fine) - ballCoarse;
    std::printf(
        "wall on %zu triangles, %.0f rays: raw %.1f ms, ray school %.1f ms (%.0f %% of the raw speed), ball "
        "school %.1f ms (%.1f x the ray school)\n",
        mesh->triangles.size(), rays, raw, ray, 100 * raw / ray, ball, ball / ray);
    std::printf("whole field with extremes on the exact surfaces, %zu rays: %.1f ms, by ball %.1f ms\n",
                coarse.samples.size(), rayCoarse, ballCoarse);
}

} // namespace

int main() {
    const auto part = loadPart("demo/herb-pot.goodcurve");
    if (!part) return 2;
    Engine engine;
    const auto regen = engine.regenerate(*part);
    const Body& pot = regen.state.body("pot");
    benchRegeneration(*part, regen);
    benchMesh(pot);
    benchWall(pot);
    std::printf("mass properties %.1f ms\n",
                leastMs(3, [&] { (void)massProperties(pot, Density(1e-3)).ok(); }));
    return 0;
}
