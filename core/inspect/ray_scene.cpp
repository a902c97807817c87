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
    std::vector<Vec3> normals; // of the triangles
};

namespace {

constexpr float kFar = 1e9f; // mm

struct NearestQuery {
    const TriangleMesh* mesh;
    const std::vector<Vec3>* normals;
    Vec3 p;
    NearestHit best;
    double bestSquared;
};

bool visitTriangle(RTCPointQueryFunctionArguments* args) {
    auto& query = *static_cast<NearestQuery*>(args->userPtr);
    const auto& t = query.mesh->triangles[args->primID];
    // Most triangles that are met lie beyond the ball as a whole: their plane does.
    const double toPlane = dot(query.p - query.mesh->points[t[0]], (*query.normals)[args->primID]);
    if (toPlane * toPlane >= query.bestSquared) return false;
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
    m_impl->normals.reserve(mesh.triangles.size());
    for (const auto& t : mesh.triangles)
        m_impl->normals.push_back(
            unit(cross(mesh.points[t[1]] - mesh.points[t[0]], mesh.points[t[2]] - mesh.points[t[0]])));
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

void RayScene::castEight(const Vec3* from, const Vec3* direction, double nearest, std::size_t count,
                         RayHit* hits) const {
    RTCRayHit8 rays{};
    alignas(32) int valid[8];
    for (std::size_t i = 0; i < 8; ++i) {
        valid[i] = i < count ? -1 : 0;
        if (i >= count) continue;
        rays.ray.org_x[i] = static_cast<float>(from[i].x);
        rays.ray.org_y[i] = static_cast<float>(from[i].y);
        rays.ray.org_z[i] = static_cast<float>(from[i].z);
        rays.ray.dir_x[i] = static_cast<float>(direction[i].x);
        rays.ray.dir_y[i] = static_cast<float>(direction[i].y);
        rays.ray.dir_z[i] = static_cast<float>(direction[i].z);
        rays.ray.tnear[i] = static_cast<float>(nearest);
        rays.ray.tfar[i] = kFar;
        rays.ray.mask[i] = ~0u;
        rays.hit.geomID[i] = RTC_INVALID_GEOMETRY_ID;
    }
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    context.flags = RTC_INTERSECT_CONTEXT_FLAG_COHERENT;
    rtcIntersect8(valid, m_impl->scene, &context, &rays);
    for (std::size_t i = 0; i < count; ++i) {
        hits[i] = {};
        if (rays.hit.geomID[i] == RTC_INVALID_GEOMETRY_ID) continue;
        hits[i].distance = rays.ray.tfar[i];
        hits[i].triangle = rays.hit.primID[i];
        hits[i].normal = unit({rays.hit.Ng_x[i], rays.hit.Ng_y[i], rays.hit.Ng_z[i]});
    }
}

NearestHit RayScene::nearest(Vec3 p, double reach) const {
    NearestQuery query{m_impl->mesh, &m_impl->normals, p, {}, reach * reach};
    RTCPointQuery q{static_cast<float>(p.x), static_cast<float>(p.y), static_cast<float>(p.z), 0,
                    static_cast<float>(reach)};
    RTCPointQueryContext context;
    rtcInitPointQueryContext(&context);
    rtcPointQuery(m_impl->scene, &q, &context, visitTriangle, &query);
    return query.best;
}

Vec3 RayScene::triangleNormal(std::uint32_t triangle) const {
    return m_impl->normals[triangle];
}

std::uint32_t RayScene::faceOf(std::uint32_t triangle) const {
    return m_impl->faceOfTriangle[triangle];
}

} // namespace gc
