#include "reading/probe.h"

#include <Eigen/Dense>
#include <cmath>
#include <set>

namespace lostline::reading {

using namespace project;  // the document and its edits
namespace {

constexpr double kReach = 4;      // spacings that a probed point is averaged over
constexpr double kSameWay = 0.9;  // cosine of how far normals there may differ

Result<Vec2> circle_through(const Vec3& a, const Vec3& b, const Vec3& c) {
  // Radius, and how well the triangle determines it.
  const double doubled = (b - a).cross(c - a).norm();
  const double longest = std::max({(b - a).norm(), (c - b).norm(), (a - c).norm()});
  if (!(doubled > 1e-4 * longest * longest))
    return Error{ErrorCode::Degenerate,
                 "The three points lie on a straight line. Pick one further round."};
  return Vec2((b - a).norm() * (c - b).norm() * (a - c).norm() / (2 * doubled), doubled);
}

}  // namespace

Result<Probe> probe_scan(const Scan& scan, std::uint32_t triangle, const Vec3& point,
                         double reach) {
  const scan::Mesh& mesh = *scan.mesh;
  if (triangle >= mesh.triangles.size())
    return Error{ErrorCode::InvalidInput, "Click the scan itself."};
  if (!(reach > 0)) reach = kReach * std::max(scan.health.spacing, 1e-6);
  const Vec3 facing = mesh.area_vector(triangle).normalized();
  std::set<std::uint32_t> seen(mesh.triangles[triangle].begin(), mesh.triangles[triangle].end());
  std::vector<std::uint32_t> near(seen.begin(), seen.end());
  for (std::size_t i = 0; i < near.size() && near.size() < 4000; ++i) {
    for (const std::uint32_t v : scan.topology.vertex_neighbours[near[i]]) {
      if ((mesh.vertices[v] - point).norm() > reach || !seen.insert(v).second) continue;
      Vec3 normal = Vec3::Zero();
      for (const std::uint32_t t : scan.topology.vertex_triangles[v]) normal += mesh.area_vector(t);
      if (normal.dot(facing) < kSameWay * 0.5 * normal.norm()) continue;
      near.push_back(v);
    }
  }
  Eigen::Matrix3Xd points(3, static_cast<Eigen::Index>(near.size()));
  for (std::size_t i = 0; i < near.size(); ++i)
    points.col(static_cast<Eigen::Index>(i)) = mesh.vertices[near[i]];
  fit::SurfaceFitOptions options;
  options.reject_beyond = near.size() > 12 ? 3.5 : 0;
  options.least_sigma = scan.health.noise_sigma;
  options.correlate = near.size() > 100;  // roughness is shared by neighbours
  const auto plane =
      fit::fit_surface(fit::Kind::Plane, points, Eigen::Matrix3Xd(3, 0), {}, options);
  if (!plane)
    return Error{ErrorCode::InvalidInput,
                 "There is too little scan around this point. Click further inside."};
  Probe probe;
  probe.normal =
      plane->surface.axis.dot(facing) < 0 ? Vec3(-plane->surface.axis) : plane->surface.axis;
  probe.point = point - probe.normal * (point - plane->surface.point).dot(probe.normal);
  probe.sigma = std::max(plane->sigma, scan.health.noise_sigma) * std::sqrt(plane->inflation) /
                std::sqrt(std::max(1.0, static_cast<double>(plane->used) / 3));
  return probe;
}

Result<Measurement> radius_by_three(const std::vector<Probe>& three) {
  if (three.size() != 3) return Error{ErrorCode::InvalidInput, "Pick three points."};
  std::array<Vec3, 3> p{three[0].point, three[1].point, three[2].point};
  const auto circle = circle_through(p[0], p[1], p[2]);
  if (!circle) return circle.error();
  Measurement m;
  m.quantity = standards::Quantity::Radius;
  m.value = circle->x();
  m.what = "radius by three points";
  double variance = 0;
  for (std::size_t k = 0; k < 3; ++k) {
    constexpr double kStep = 1e-4;
    auto moved = p;
    moved[k] += kStep * three[k].normal;
    const auto other = circle_through(moved[0], moved[1], moved[2]);
    if (!other) return other.error();
    variance += std::pow((other->x() - m.value) / kStep * three[k].sigma, 2);
  }
  m.u = 2 * std::sqrt(variance);
  if (m.u > 0.5 * m.value)
    return Error{ErrorCode::Degenerate, "The arc is too short for its radius: R " +
                                            format_reading(m.value, m.u) +
                                            ". Pick the points further apart."};
  return m;
}

Result<Thickness> wall_thickness(const Scan& scan, const Probe& near) {
  const double start = 2 * std::max(scan.health.spacing, 1e-6);
  const auto hit = scan.index->first_hit(near.point - start * near.normal, -near.normal);
  const Error open{ErrorCode::InvalidInput,
                   "Nothing lies opposite this point: the scan is open there."};
  if (!hit) return open;
  const Vec3 facing = scan.mesh->area_vector(hit->triangle).normalized();
  if (facing.dot(near.normal) > -0.2) return open;
  const auto far = probe_scan(scan, hit->triangle, hit->point);
  if (!far) return far.error();
  Thickness t{{}, near, *far};
  // Along the near normal: where it meets the averaged far surface.
  const double slope = -far->normal.dot(near.normal);
  const double along = (near.point - far->point).dot(far->normal) / far->normal.dot(near.normal);
  t.far.point = near.point - along * near.normal;
  t.measurement.value = along;
  t.measurement.u = 2 * std::hypot(near.sigma, far->sigma / slope);
  t.measurement.what = "wall thickness";
  return t;
}

Result<Measurement> point_distance(const Probe& a, const Probe& b) {
  Measurement m;
  const Vec3 d = b.point - a.point;
  m.value = d.norm();
  if (!(m.value > 0)) return Error{ErrorCode::InvalidInput, "Pick two different points."};
  const Vec3 u = d / m.value;
  m.u = 2 * std::hypot(a.sigma * a.normal.dot(u), b.sigma * b.normal.dot(u));
  m.what = "distance of two points";
  return m;
}

Added add_point_measurement(const Document& document, const Measurement& m,
                            const std::vector<Probe>& probes) {
  Added added{document, document.next_id};
  Dimension row;
  row.id = added.document.next_id++;
  row.name = m.what;
  row.quantity = m.quantity;
  row.reading = m.value;
  row.u = m.u;
  row.source = "picked on the scan";
  for (const Probe& p : probes) row.owner.points.push_back(p.point);
  added.document.dimensions.push_back(std::move(row));
  return added;
}

}  // namespace lostline::reading
