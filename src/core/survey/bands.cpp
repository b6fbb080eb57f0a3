#include "survey/bands.h"

#include <algorithm>
#include <cmath>

#include "base/linear.h"

namespace lostline::survey {

bool is_band(const scan::Mesh& mesh, const std::vector<std::uint32_t>& triangles, double rows) {
  std::vector<std::uint32_t> vertices;
  for (const std::uint32_t t : triangles)
    vertices.insert(vertices.end(), mesh.triangles[t].begin(), mesh.triangles[t].end());
  std::sort(vertices.begin(), vertices.end());
  const auto count = std::unique(vertices.begin(), vertices.end()) - vertices.begin();
  return static_cast<double>(triangles.size()) < 2 * (1 - 1 / rows) * static_cast<double>(count);
}

void add_rounding(fit::SurfaceFit& fit, const Patch& band, double spacing) {
  constexpr double kStandOff = 0.05;  // spacings, k = 2
  const fit::Surface& s = fit.surface;
  Eigen::Matrix3Xd flat = band.points.colwise() - Vec3(band.points.rowwise().mean());
  double squares = 0;  // across the band
  if (fit::is_flat(s.kind)) {
    flat -= s.axis * (s.axis.transpose() * flat).eval();
    squares = symmetric_eigen<3>(scatter_of(flat)).values[1];
  } else if (s.kind == fit::Kind::Cylinder) {
    squares = (s.axis.transpose() * flat).squaredNorm();
  }
  const double width = std::sqrt(12 * squares / static_cast<double>(flat.cols()));
  if (!(width > 0)) return;
  fit.u_angle = std::hypot(fit.u_angle, kStandOff * spacing / (0.5 * width));
}

void take_as_cylinder(fit::SurfaceFit& cone, const Patch& patch) {
  if (std::abs(cone.surface.half_angle) > cone.u_half_angle) return;
  fit::SurfaceFitOptions options;
  options.hopeless = 0;
  fit::Surface start = cone.surface;
  start.kind = fit::Kind::Cylinder;
  start.half_angle = 0;
  const auto fitted = fit_patch(fit::Kind::Cylinder, patch, start, options);
  // 99 % point of chi-squared with one freedom; tilt that edges have made is no evidence.
  const double most =
      patch.narrow
          ? 1.15 * cone.sigma
          : cone.sigma * std::sqrt(1 + 6.63 * cone.inflation / static_cast<double>(cone.used));
  if (!fitted || fitted->sigma > most) return;
  cone = *fitted;
}

namespace {

/// Cones that a cylinder or ball through a narrow piece of one may have been taken for, to start
/// from: about its middle with the same curvature, at several angles.
std::vector<fit::Surface> cones_like(const fit::Surface& round, const Patch& patch) {
  const Vec3 middle = patch.points.rowwise().mean();
  const Vec3 out = (round.hollow ? -1 : 1) * round.normal_at(middle);
  // Straight lines of the cone run along the cylinder; on a ball, across the band.
  Vec3 straight = round.axis;
  if (round.kind == fit::Kind::Sphere) {
    Eigen::Matrix3Xd flat = patch.points.colwise() - middle;
    flat -= out * (out.transpose() * flat).eval();
    straight = symmetric_eigen<3>(scatter_of(flat)).vectors.col(1);
  }
  straight = (straight - straight.dot(out) * out).normalized();
  std::vector<fit::Surface> cones;
  for (const double degrees : {-65.0, -45.0, -20.0, 20.0, 45.0, 65.0}) {
    const double half = degrees * kDegree;
    fit::Surface cone = round;
    cone.kind = fit::Kind::Cone;
    cone.half_angle = half;
    cone.axis = std::cos(half) * straight - std::sin(half) * out;
    cone.radius = round.radius * std::cos(half);
    cone.point = middle - cone.radius * (std::sin(half) * straight + std::cos(half) * out);
    cones.push_back(cone);
  }
  return cones;
}

}  // namespace

void take_as_cone(fit::SurfaceFit& round, const Patch& patch, double noise) {
  // Of a quarter of a cone four spacings wide a cylinder askew leaves 1.2 to 1.5 times the scatter.
  constexpr double kBetter = 1.12;
  constexpr double kSteepest = 1.5;  // rad: beyond it is a plane
  if (round.surface.kind != fit::Kind::Cylinder && round.surface.kind != fit::Kind::Sphere) return;
  if (round.sigma < kBetter * noise) return;
  fit::SurfaceFitOptions options;
  options.hopeless = 0;
  options.max_iterations = 200;  // tilt, angle and place of so little of a cone hang together
  std::optional<fit::SurfaceFit> cone;
  for (const fit::Surface& start : cones_like(round.surface, patch)) {
    const auto fitted = fit_patch(fit::Kind::Cone, patch, start, options);
    if (fitted && (!cone || fitted->sigma < cone->sigma)) cone = *fitted;
  }
  // An angle that is not told from none is a cylinder's.
  if (!cone || cone->sigma * kBetter > round.sigma ||
      cone->surface.half_angle < 2 * cone->u_half_angle || cone->surface.half_angle > kSteepest ||
      static_cast<double>(cone->used) < 0.95 * static_cast<double>(round.used))
    return;
  round = *cone;
}

}  // namespace lostline::survey
