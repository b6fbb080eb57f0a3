#include "datum/symmetry.h"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "base/linear.h"
#include "base/parallel.h"
#include "fit/uncertainty.h"

namespace lostline::datum {
namespace {

struct Plane {
  Vec3 normal;
  double offset;  // along the normal
  [[nodiscard]] Vec3 image(const Vec3& p) const {
    return p - 2 * (normal.dot(p) - offset) * normal;
  }
  [[nodiscard]] Vec3 image_of_direction(const Vec3& d) const {
    return d - 2 * normal.dot(d) * normal;
  }
};

struct Mirrored {
  double distance = 0;
  Vec3 normal = Vec3::Zero();
  bool met = false;
};

std::vector<Mirrored> mirror(const Target& scan, const Cloud& cloud, const Plane& plane,
                             double search, std::size_t stride) {
  const std::size_t n = (cloud.points.size() + stride - 1) / stride;
  std::vector<Mirrored> result(n);
  parallel_for(n, 256, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      const Vec3 p = plane.image(cloud.points[i * stride]);
      const auto nearest = scan.index->nearest(p, search);
      if (!nearest) continue;
      const Vec3 facet = scan.mesh.area_vector(nearest->triangle).normalized();
      if (facet.dot(plane.image_of_direction(cloud.normals[i * stride])) < 0.6) continue;
      // On the border of the scan the foot says nothing: the surface goes on there unseen.
      const Vec3 d = p - nearest->point;
      if (std::abs(d.dot(facet)) < 0.7 * nearest->distance) continue;
      result[i] = {std::copysign(nearest->distance, d.dot(facet)), facet, true};
    }
  });
  return result;
}

double agreement_of(const Cloud& cloud, const std::vector<Mirrored>& met, std::size_t stride,
                    double reach) {
  double on = 0;
  double all = 0;
  for (std::size_t i = 0; i < met.size(); ++i) {
    all += cloud.weight[i * stride];
    if (met[i].met && std::abs(met[i].distance) < reach) on += cloud.weight[i * stride];
  }
  return all > 0 ? on / all : 0;
}

double scatter_of(const std::vector<Mirrored>& met) {
  std::vector<double> sizes;
  for (const Mirrored& m : met) {
    if (m.met) sizes.push_back(std::abs(m.distance));
  }
  if (sizes.size() < 30) return 1e300;
  const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2);
  std::nth_element(sizes.begin(), middle, sizes.end());
  return std::max(1.4826 * *middle, 1e-4);
}

std::vector<Plane> candidates(const Target& scan, const std::vector<Found>& found) {
  std::vector<Plane> planes;
  const double near = 0.01 * scan.size;
  const auto add = [&](const Vec3& normal, double offset) {
    if (std::abs(normal.dot(scan.centre) - offset) > 0.2 * scan.size || planes.size() > 600) return;
    const bool known = std::any_of(planes.begin(), planes.end(), [&](const Plane& k) {
      const double sign = k.normal.dot(normal) > 0 ? 1 : -1;
      return fit::angle_between(k.normal, normal) < 0.02 &&
             std::abs(k.offset - sign * offset) < near;
    });
    if (!known) planes.push_back({normal, offset});
  };
  const std::size_t n = std::min<std::size_t>(found.size(), 40);
  for (std::size_t i = 0; i < n; ++i) {
    const fit::Surface& s = found[i].surface;
    if (fit::has_direction(s.kind)) {  // a middle plane of what lies across it
      add(s.axis, s.axis.dot(scan.centre));
      if (!fit::is_flat(s.kind)) add(s.axis, s.axis.dot(found[i].centre));
    }
    for (std::size_t j = i + 1; j < n; ++j) {
      const fit::Surface& t = found[j].surface;
      if (s.kind != t.kind || s.hollow != t.hollow) continue;
      if (fit::is_flat(s.kind)) {
        const Vec3 d = s.axis - t.axis;
        if (d.norm() < 0.2) continue;
        const Vec3 normal = d.normalized();
        add(normal, normal.dot(0.5 * (found[i].centre + found[j].centre)));
      } else if (std::abs(s.radius - t.radius) < 0.3) {
        const Vec3 d = found[j].centre - found[i].centre;
        if (d.norm() > 1)
          add(d.normalized(), d.normalized().dot(0.5 * (found[i].centre + found[j].centre)));
      }
    }
  }
  // Planes through every axis and another feature's middle.
  for (std::size_t i = 0; i < std::min<std::size_t>(n, 8); ++i) {
    const fit::Surface& s = found[i].surface;
    if (fit::is_flat(s.kind) || !fit::has_direction(s.kind)) continue;
    for (std::size_t j = 0; j < n; ++j) {
      const Vec3 d = found[j].centre - s.point;
      const Vec3 across = d - d.dot(s.axis) * s.axis;
      if (across.norm() < 1) continue;
      const Vec3 normal = s.axis.cross(across).normalized();
      add(normal, normal.dot(s.point));
      add(across.normalized(), across.normalized().dot(s.point));
      if (fit::has_direction(found[j].surface.kind)) {
        const Vec3 level = s.axis.cross(found[j].surface.axis);
        if (level.norm() > 0.3) add(level.normalized(), level.normalized().dot(s.point));
      }
    }
  }
  return planes;
}

std::optional<Symmetry> refine(const Target& scan, const Cloud& cloud, Plane plane, double noise,
                               std::size_t stride) {
  Symmetry result;
  double search = scan.size / 40;
  Eigen::Matrix3d normal_matrix = Eigen::Matrix3d::Zero();
  double scatter = 0;
  Vec3 middle = scan.centre;
  double sum = 0;
  double squares = 0;
  Vec3 u;
  Vec3 v;
  for (int round = 0; round < 40; ++round) {
    const auto met = mirror(scan, cloud, plane, search, stride);
    scatter = std::max(scatter_of(met), noise);
    if (scatter > 1e299) return std::nullopt;
    const double reach = 4.685 * scatter;
    u = any_perpendicular(plane.normal);
    v = plane.normal.cross(u);
    middle = plane.image(scan.centre);
    middle = 0.5 * (middle + scan.centre);  // on the plane
    normal_matrix.setZero();
    Vec3 right = Vec3::Zero();
    sum = squares = 0;
    for (std::size_t i = 0; i < met.size(); ++i) {
      if (!met[i].met || std::abs(met[i].distance) >= reach) continue;
      const double inside = 1 - met[i].distance * met[i].distance / (reach * reach);
      const double w = cloud.weight[i * stride] * inside * inside;
      // image(p) = p - 2 h n, with h = n . (p - middle): by tilts of n about u and v, and a shift.
      const Vec3 d = cloud.points[i * stride] - middle;
      const double h = plane.normal.dot(d);
      const double along = met[i].normal.dot(plane.normal);
      Vec3 row;
      row << -2 * (d.dot(u) * along + h * met[i].normal.dot(u)),
          -2 * (d.dot(v) * along + h * met[i].normal.dot(v)), 2 * along;
      normal_matrix += w * row * row.transpose();
      right -= w * met[i].distance * row;
      sum += w;
      squares += w * met[i].distance * met[i].distance;
    }
    if (!(sum > 0)) return std::nullopt;
    const Eigen::LDLT<Eigen::Matrix3d> ldlt(normal_matrix);
    if (ldlt.info() != Eigen::Success || ldlt.rcond() < 1e-14) return std::nullopt;
    const Vec3 step = ldlt.solve(right);
    plane.normal = (plane.normal + step[0] * u + step[1] * v).normalized();
    plane.offset = plane.normal.dot(middle) + step[2];
    search = std::max(scan.size / 200, 3 * reach);
    if (std::abs(step[2]) + scan.size * step.head<2>().norm() < 1e-3 * scatter) break;
  }
  const auto met = mirror(scan, cloud, plane, search, stride);
  result.agreement = agreement_of(cloud, met, stride, std::max(5 * scatter, 0.05));
  fit::SurfaceFit& f = result.plane;
  f.surface.kind = fit::Kind::Plane;
  f.surface.axis = plane.normal;
  f.surface.point = f.centroid =
      scan.centre - (plane.normal.dot(scan.centre) - plane.offset) * plane.normal;
  f.rms = std::sqrt(squares / sum);
  f.sigma = scatter;
  f.form_error = 2 * scatter;
  f.points = met.size();
  f.used = static_cast<std::size_t>(result.agreement * static_cast<double>(met.size()));
  // Every point comes twice, once from each side, and neighbours agree: 8 for both together.
  const Eigen::Matrix3d covariance = 8 * scatter * scatter * normal_matrix.inverse();
  f.u_angle = fit::expanded_length(covariance.topLeftCorner<2, 2>());
  f.u_offset = 2 * std::sqrt(std::max(0.0, covariance(2, 2)));
  return result;
}

}  // namespace

Result<std::vector<Symmetry>> find_symmetry(const Target& scan, const Cloud& cloud,
                                            const std::vector<Found>& found,
                                            const std::optional<fit::Surface>& guess,
                                            const Task& task) {
  if (cloud.points.size() < 100)
    return Error{ErrorCode::Degenerate, "The scan has too few points for a plane of symmetry."};
  std::vector<std::pair<double, Plane>> scored;
  const double noise = 1e-3;
  if (guess) {
    scored.emplace_back(
        1.0, Plane{guess->axis.normalized(), guess->axis.normalized().dot(guess->point)});
  } else {
    std::vector<Found> sorted = found;
    std::stable_sort(sorted.begin(), sorted.end(), [](const Found& a, const Found& b) {
      return a.area * a.trust > b.area * b.trust;
    });
    // Main axes of inertia too, for parts whose surfaces say little.
    Eigen::Matrix3d moment = Eigen::Matrix3d::Zero();
    for (std::size_t i = 0; i < cloud.points.size(); i += 7)
      moment += (cloud.points[i] - scan.centre) * (cloud.points[i] - scan.centre).transpose();
    const auto axes = symmetric_eigen<3>(moment);
    std::vector<Plane> planes = candidates(scan, sorted);
    for (int k = 0; k < 3; ++k) {
      const Vec3 n = axes.vectors.col(k);
      planes.push_back({n, n.dot(scan.centre)});
    }
    const std::size_t stride = std::max<std::size_t>(1, cloud.points.size() / 600);
    for (std::size_t i = 0; i < planes.size(); ++i) {
      if (task.stopped()) return cancelled();
      if (i % 16 == 0)
        task.report(0.5 * static_cast<double>(i) / static_cast<double>(planes.size()));
      const auto met = mirror(scan, cloud, planes[i], scan.size / 80, stride);
      scored.emplace_back(agreement_of(cloud, met, stride, scan.size / 80), planes[i]);
    }
    std::stable_sort(scored.begin(), scored.end(),
                     [](const auto& a, const auto& b) { return a.first > b.first; });
    if (scored.size() > 16) scored.resize(16);
  }
  std::vector<Symmetry> result;
  double best = 0;
  for (std::size_t i = 0; i < scored.size(); ++i) {
    if (task.stopped()) return cancelled();
    task.report(0.5 + 0.5 * static_cast<double>(i) / static_cast<double>(scored.size()));
    auto s = refine(scan, cloud, scored[i].second, noise,
                    std::max<std::size_t>(1, cloud.points.size() / 1500));
    if (!s) continue;
    best = std::max(best, s->agreement);
    const fit::Surface& p = s->plane.surface;
    const bool known = std::any_of(result.begin(), result.end(), [&](const Symmetry& k) {
      return fit::angle_between(k.plane.surface.axis, p.axis) < 0.01 &&
             std::abs(k.plane.surface.distance(p.point)) < 0.005 * scan.size;
    });
    if (s->agreement > 0.5 && !known) result.push_back(*s);
  }
  if (result.empty())
    return Error{
        ErrorCode::Failed,
        fmt::format("No plane mirrors the scan upon itself: the best agrees for {:.0f} % of "
                    "it{}.",
                    100 * best, guess ? " near the guess" : ". Give a guess, such as two faces")};
  std::stable_sort(result.begin(), result.end(),
                   [](const Symmetry& a, const Symmetry& b) { return a.agreement > b.agreement; });
  if (result.size() > 8) result.resize(8);
  for (Symmetry& s : result) {  // all points for what is offered
    const fit::Surface& p = s.plane.surface;
    if (auto fine = refine(scan, cloud, {p.axis, p.axis.dot(p.point)}, noise, 1)) s = *fine;
  }
  return result;
}

}  // namespace lostline::datum
