#include "scan/mesh_index.h"

#include <embree3/rtcore.h>

#include <cmath>
#include <limits>

namespace lostline::scan {

struct MeshIndex::Impl {
  RTCDevice device = nullptr;
  RTCScene scene = nullptr;
  Vec3 middle = Vec3::Zero();
  std::vector<float> vertices;  // padded for the library's wide reads
  std::vector<Triangle> triangles;
  std::vector<Vec3> exact;

  ~Impl() {
    if (scene != nullptr) rtcReleaseScene(scene);
    if (device != nullptr) rtcReleaseDevice(device);
  }
};

namespace {

struct Query {
  const std::vector<Triangle>* triangles;
  const std::vector<Vec3>* vertices;
  Vec3 point;
  double best_squared;
  MeshIndex::Nearest found;
};

/// Nearest point of a triangle by its Voronoi regions. Source: C. Ericson, Real-Time Collision
/// Detection (2005), 5.1.5.
Vec3 nearest_weights(const Vec3& p, const Vec3& a, const Vec3& b, const Vec3& c) {
  const Vec3 ab = b - a;
  const Vec3 ac = c - a;
  const Vec3 ap = p - a;
  const double d1 = ab.dot(ap);
  const double d2 = ac.dot(ap);
  if (d1 <= 0 && d2 <= 0) return {1, 0, 0};
  const Vec3 bp = p - b;
  const double d3 = ab.dot(bp);
  const double d4 = ac.dot(bp);
  if (d3 >= 0 && d4 <= d3) return {0, 1, 0};
  const double vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) {
    const double v = d1 / (d1 - d3);
    return {1 - v, v, 0};
  }
  const Vec3 cp = p - c;
  const double d5 = ab.dot(cp);
  const double d6 = ac.dot(cp);
  if (d6 >= 0 && d5 <= d6) return {0, 0, 1};
  const double vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) {
    const double w = d2 / (d2 - d6);
    return {1 - w, 0, w};
  }
  const double va = d3 * d6 - d5 * d4;
  if (va <= 0 && (d4 - d3) >= 0 && (d5 - d6) >= 0) {
    const double w = (d4 - d3) / ((d4 - d3) + (d5 - d6));
    return {0, 1 - w, w};
  }
  const double sum = va + vb + vc;
  return {va / sum, vb / sum, vc / sum};
}

bool on_candidate(RTCPointQueryFunctionArguments* args) {
  auto& query = *static_cast<Query*>(args->userPtr);
  const Triangle& t = (*query.triangles)[args->primID];
  const Vec3& a = (*query.vertices)[t[0]];
  const Vec3& b = (*query.vertices)[t[1]];
  const Vec3& c = (*query.vertices)[t[2]];
  const Vec3 weights = nearest_weights(query.point, a, b, c);
  const Vec3 foot = weights[0] * a + weights[1] * b + weights[2] * c;
  const double squared = (foot - query.point).squaredNorm();
  if (!(squared < query.best_squared)) return false;
  query.best_squared = squared;
  query.found.triangle = args->primID;
  query.found.point = foot;
  query.found.weights = weights;
  // The search radius is a float: round it up so that the true nearest triangle is never culled.
  args->query->radius = std::nextafter(static_cast<float>(std::sqrt(squared) * (1 + 1e-6)),
                                       std::numeric_limits<float>::infinity());
  return true;
}

}  // namespace

MeshIndex::MeshIndex(const Mesh& mesh) : impl_(std::make_unique<Impl>()) {
  Impl& d = *impl_;
  const Box3 box = bounds(mesh);
  d.middle = box.isEmpty() ? Vec3(Vec3::Zero()) : Vec3(box.center());
  d.triangles = mesh.triangles;
  d.exact.resize(mesh.vertices.size());
  d.vertices.resize(3 * mesh.vertices.size() + 4, 0.0F);
  for (std::size_t i = 0; i < mesh.vertices.size(); ++i) {
    d.exact[i] = mesh.vertices[i] - d.middle;
    for (std::size_t k = 0; k < 3; ++k) {
      d.vertices[3 * i + k] = static_cast<float>(d.exact[i][static_cast<Eigen::Index>(k)]);
    }
  }
  d.triangles.push_back({0, 0, 0});  // padding
  d.device = rtcNewDevice("threads=2");
  d.scene = rtcNewScene(d.device);
  rtcSetSceneFlags(d.scene, RTC_SCENE_FLAG_ROBUST);
  RTCGeometry geometry = rtcNewGeometry(d.device, RTC_GEOMETRY_TYPE_TRIANGLE);
  rtcSetSharedGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3,
                             d.vertices.data(), 0, 3 * sizeof(float), mesh.vertices.size());
  rtcSetSharedGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3,
                             d.triangles.data(), 0, sizeof(Triangle), mesh.triangles.size());
  rtcCommitGeometry(geometry);
  rtcAttachGeometry(d.scene, geometry);
  rtcReleaseGeometry(geometry);
  rtcCommitScene(d.scene);
}

MeshIndex::~MeshIndex() = default;
MeshIndex::MeshIndex(MeshIndex&&) noexcept = default;
MeshIndex& MeshIndex::operator=(MeshIndex&&) noexcept = default;

std::optional<MeshIndex::Nearest> MeshIndex::nearest(const Vec3& point, double limit) const {
  const Impl& d = *impl_;
  const Vec3 local = point - d.middle;
  Query query{&d.triangles, &d.exact, local, limit < 1e15 ? limit * limit : 1e30, {}};
  RTCPointQuery position{};
  position.x = static_cast<float>(local.x());
  position.y = static_cast<float>(local.y());
  position.z = static_cast<float>(local.z());
  position.time = 0;
  position.radius = limit < 1e15 ? std::nextafter(static_cast<float>(limit * (1 + 1e-6)), 1e30F)
                                 : std::numeric_limits<float>::infinity();
  RTCPointQueryContext context;
  rtcInitPointQueryContext(&context);
  rtcPointQuery(d.scene, &position, &context, on_candidate, &query);
  if (query.found.triangle == kNone) return std::nullopt;
  query.found.point += d.middle;
  query.found.distance = std::sqrt(query.best_squared);
  return query.found;
}

std::optional<MeshIndex::Hit> MeshIndex::first_hit(const Vec3& origin,
                                                   const Vec3& direction) const {
  const Impl& d = *impl_;
  const Vec3 local = origin - d.middle;
  RTCRayHit ray{};
  ray.ray.org_x = static_cast<float>(local.x());
  ray.ray.org_y = static_cast<float>(local.y());
  ray.ray.org_z = static_cast<float>(local.z());
  ray.ray.dir_x = static_cast<float>(direction.x());
  ray.ray.dir_y = static_cast<float>(direction.y());
  ray.ray.dir_z = static_cast<float>(direction.z());
  ray.ray.tfar = std::numeric_limits<float>::infinity();
  ray.ray.mask = 0xffffffffU;
  ray.hit.geomID = RTC_INVALID_GEOMETRY_ID;
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  rtcIntersect1(d.scene, &context, &ray);
  if (ray.hit.geomID == RTC_INVALID_GEOMETRY_ID) return std::nullopt;
  Hit hit;
  hit.triangle = ray.hit.primID;
  // The exact parameter comes from the plane of the triangle in double precision.
  const Triangle& t = d.triangles[hit.triangle];
  const Vec3 normal = (d.exact[t[1]] - d.exact[t[0]]).cross(d.exact[t[2]] - d.exact[t[0]]);
  const double slope = normal.dot(direction);
  hit.t = static_cast<double>(ray.ray.tfar);
  // Where the ray runs along the triangle the plane says nothing; the library's own parameter
  // stands.
  const double exact = normal.dot(d.exact[t[0]] - local) / slope;
  if (std::abs(exact - hit.t) < 1e-3 * (1 + hit.t)) hit.t = exact;
  hit.point = origin + hit.t * direction;
  return hit;
}

}  // namespace lostline::scan
