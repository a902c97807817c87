#include "core/inspect/ray_scene.hpp"

#include "core/base/triangle.hpp"

#include <embree3/rtcore.h>

#include <cstring>

namespace gc {

struct RayScene::Impl {
    RTCDevice device = nullptr;
    RTCScene scene = nullptr;
    const TriangleMesh* mesh = nullptr;
    std::vector<std::uint32_t> faceOfTriangle;
};

namespace {

struct NearestQuery {
    const TriangleMesh* mesh;
    Vec3 p;
    NearestHit best;
    double bestSquared;
};

bool visitTriangle(RTCPointQueryFunctionArguments* args) {
    auto& query = *static_cast<NearestQuery*>(args->userPtr);
    const auto& t = query.mesh->triangles[args->primID];
    const Vec3 q = nearestOnTriangle(query.p, query.mesh->points[t[0]], query.mesh->points[t[1]],
                                     query.mesh->points[t[2]]);
    const Vec3 d = q - query.p;
    const double squared = dot(d, d);
    if (squared >= query.bestSquared) return false;
    query.bestSquared = squared;
    query.best.point = q;
    query.best.triangle = args->primID;
    query.best.distance = std::sqrt(squared);
    args->query->radius = static_cast<float>(query.best.distance);
    return true;
}

} // namespace

RayScene::RayScene(const TriangleMesh& mesh) : m_impl(std::make_unique<Impl>()) {
    m_impl->mesh = &mesh;
    m_impl->faceOfTriangle.resize(mesh.triangles.size(), 0);
    for (std::uint32_t f = 0; f < mesh.faces.size(); ++f)
        for (std::uint32_t i = 0; i < mesh.faces[f].triangleCount; ++i)
            m_impl->faceOfTriangle[mesh.faces[f].firstTriangle + i] = f;
    m_impl->device = rtcNewDevice(nullptr);
    m_impl->scene = rtcNewScene(m_impl->device);
    rtcSetSceneFlags(m_impl->scene, RTC_SCENE_FLAG_ROBUST);
    RTCGeometry geometry = rtcNewGeometry(m_impl->device, RTC_GEOMETRY_TYPE_TRIANGLE);
    auto* points = static_cast<float*>(rtcSetNewGeometryBuffer(
        geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, 3 * sizeof(float), mesh.points.size()));
    for (const Vec3& p : mesh.points) {
        *points++ = static_cast<float>(p.x);
        *points++ = static_cast<float>(p.y);
        *points++ = static_cast<float>(p.z);
    }
    auto* triangles = static_cast<std::uint32_t*>(
        rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3,
                                3 * sizeof(std::uint32_t), mesh.triangles.size()));
    std::memcpy(triangles, mesh.triangles.data(), mesh.triangles.size() * sizeof mesh.triangles[0]);
    rtcCommitGeometry(geometry);
    rtcAttachGeometry(m_impl->scene, geometry);
    rtcReleaseGeometry(geometry);
    rtcCommitScene(m_impl->scene);
}

RayScene::~RayScene() {
    rtcReleaseScene(m_impl->scene);
    rtcReleaseDevice(m_impl->device);
}

RayHit RayScene::cast(Vec3 from, Vec3 direction, double nearest, double farthest) const {
    RTCRayHit ray{};
    ray.ray.org_x = static_cast<float>(from.x);
    ray.ray.org_y = static_cast<float>(from.y);
    ray.ray.org_z = static_cast<float>(from.z);
    ray.ray.dir_x = static_cast<float>(direction.x);
    ray.ray.dir_y = static_cast<float>(direction.y);
    ray.ray.dir_z = static_cast<float>(direction.z);
    ray.ray.tnear = static_cast<float>(nearest);
    ray.ray.tfar = static_cast<float>(farthest);
    ray.ray.mask = ~0u;
    ray.hit.geomID = RTC_INVALID_GEOMETRY_ID;
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    rtcIntersect1(m_impl->scene, &context, &ray);
    RayHit hit;
    if (ray.hit.geomID == RTC_INVALID_GEOMETRY_ID) return hit;
    hit.distance = ray.ray.tfar;
    hit.triangle = ray.hit.primID;
    hit.normal = unit({ray.hit.Ng_x, ray.hit.Ng_y, ray.hit.Ng_z});
    return hit;
}

NearestHit RayScene::nearest(Vec3 p, double reach) const {
    NearestQuery query{m_impl->mesh, p, {}, reach * reach};
    RTCPointQuery q{static_cast<float>(p.x), static_cast<float>(p.y), static_cast<float>(p.z), 0,
                    static_cast<float>(reach)};
    RTCPointQueryContext context;
    rtcInitPointQueryContext(&context);
    rtcPointQuery(m_impl->scene, &q, &context, visitTriangle, &query);
    return query.best;
}

Vec3 RayScene::triangleNormal(std::uint32_t triangle) const {
    const auto& t = m_impl->mesh->triangles[triangle];
    const auto& p = m_impl->mesh->points;
    return unit(cross(p[t[1]] - p[t[0]], p[t[2]] - p[t[0]]));
}

std::uint32_t RayScene::faceOf(std::uint32_t triangle) const {
    return m_impl->faceOfTriangle[triangle];
}

} // namespace gc
