#include "survey/bands.h"

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <cmath>

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
  if (s.kind == fit::Kind::Plane) {
    flat -= s.axis * (s.axis.transpose() * flat).eval();
    squares = Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(flat * flat.transpose(),
                                                             Eigen::EigenvaluesOnly)
                  .eigenvalues()[1];
  } else if (s.kind == fit::Kind::Cylinder || s.kind == fit::Kind::Cone) {
    squares = (s.axis.transpose() * flat).squaredNorm() / std::pow(std::cos(s.half_angle), 2);
  }
  const double width = std::sqrt(12 * squares / static_cast<double>(flat.cols()));
  if (!(width > 0)) return;
  const double tilt = kStandOff * spacing / (0.5 * width);
  fit.u_angle = std::hypot(fit.u_angle, tilt);
  if (s.kind == fit::Kind::Cone) fit.u_half_angle = std::hypot(fit.u_half_angle, tilt);
}

void take_as_cylinder(fit::SurfaceFit& cone, const Patch& patch) {
  if (std::abs(cone.surface.half_angle) > cone.u_half_angle) return;
  fit::SurfaceFitOptions options;
  options.hopeless = 0;
  fit::Surface start = cone.surface;
  start.kind = fit::Kind::Cylinder;
  start.half_angle = 0;
  const auto fitted =
      fit::fit_surface(fit::Kind::Cylinder, patch.points, patch.normals, start, options);
  // 99 % point of chi-squared with one freedom; tilt that edges have made is no evidence.
  const double most =
      patch.narrow
          ? 1.15 * cone.sigma
          : cone.sigma * std::sqrt(1 + 6.63 * cone.inflation / static_cast<double>(cone.used));
  if (!fitted || fitted->sigma > most) return;
  const double u_angle = cone.u_angle;
  cone = *fitted;
  if (patch.narrow) cone.u_angle = std::max(cone.u_angle, u_angle);
}

}  // namespace lostline::survey
