#include "datum/best_fit.h"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <limits>

#include "base/linear.h"
#include "base/parallel.h"

namespace lostline::datum {
namespace {

using Matrix6 = Eigen::Matrix<double, 6, 6>;
using Vector6 = Eigen::Matrix<double, 6, 1>;

constexpr double kNone = std::numeric_limits<double>::quiet_NaN();

/// Where a moved point meets the model.
struct Meeting {
  double distance = kNone;  // signed, mm; NaN: none
  Vec3 normal = Vec3::Zero();
};

Meeting meet(const Target& target, const Vec3& p, const Vec3& normal, double search) {
  const auto nearest = target.index->nearest(p, search);
  if (!nearest) return {};
  Meeting m;
  const Vec3 facet = target.mesh.area_vector(nearest->triangle);
  const double length = facet.norm();
  if (!(length > 0)) return {};
  m.normal = facet / length;
  const Vec3 d = p - nearest->point;
  m.distance = std::copysign(nearest->distance, d.dot(m.normal));
  if (!target.triangle_face.empty()) {
    const auto& face = target.faces[target.triangle_face[nearest->triangle]];
    // Beyond the face's border its unbounded surface says nothing.
    if (face) {
      const double exact = face->distance(p);
      if (std::abs(std::abs(exact) - nearest->distance) <
          0.03 + 0.1 * std::max(std::abs(exact), nearest->distance)) {
        m.distance = exact;
        m.normal = face->normal_at(p);
      } else if (std::abs(m.normal.dot(d)) < 0.9 * nearest->distance) {
        return {};
      }
    }
  }
  if (normal.squaredNorm() > 0.5 && normal.dot(m.normal) < 0.5) return {};
  return m;
}

std::vector<Meeting> meet_all(const Target& target, const std::vector<Vec3>& points,
                              const std::vector<Vec3>& normals, std::size_t stride,
                              const Transform& motion, double search) {
  const std::size_t n = (points.size() + stride - 1) / stride;
  std::vector<Meeting> met(n);
  parallel_for(n, 512, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      const Vec3 normal =
          normals.empty() ? Vec3(Vec3::Zero()) : Vec3(motion.linear() * normals[i * stride]);
      met[i] = meet(target, motion * points[i * stride], normal, search);
    }
  });
  return met;
}

double robust_scatter(const std::vector<Meeting>& met) {
  std::vector<double> sizes;
  sizes.reserve(met.size());
  for (const Meeting& m : met) {
    if (!std::isnan(m.distance)) sizes.push_back(std::abs(m.distance));
  }
  if (sizes.empty()) return 0;
  const auto middle = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2);
  std::nth_element(sizes.begin(), middle, sizes.end());
  return 1.4826 * *middle;
}

/// A motion that is not held, as a turn about an axis or a shift.
BestFit::Loose loose_motion(const Vector6& motion, const Vec3& centre, double lever) {
  const Vec3 turn = motion.head<3>() / lever;
  const Vec3 shift = motion.tail<3>();
  if (turn.norm() * lever < 0.2) return {false, shift.normalized(), centre};
  const Vec3 axis = turn.normalized();
  return {true, axis, centre + axis.cross(shift) / turn.norm()};
}

}  // namespace

std::string BestFit::Loose::words() const {
  const auto list = [](const Vec3& v) {
    return fmt::format("{:.3g}, {:.3g}, {:.3g}", v.x() + 0.0, v.y() + 0.0, v.z() + 0.0);
  };
  return turns ? "turn about the axis along " + list(axis) + " through " + list(through)
               : "shift along " + list(axis);
}

Result<BestFit> best_fit(const Target& target, const Cloud& cloud, const Transform& start,
                         const BestFitOptions& options, const Task& task) {
  BestFit fit;
  fit.motion = start;
  const double search = options.search > 0 ? options.search : target.size / 30;
  const double lever = std::max(target.size / 4, 1e-3);  // turns as shifts at this distance
  // Few points first; all of them for the last steps.
  std::size_t stride = std::max<std::size_t>(1, cloud.points.size() / 4000);
  double total = 0;
  for (const double w : cloud.weight) total += w;
  for (; fit.iterations < options.max_iterations; ++fit.iterations) {
    if (task.stopped()) return cancelled();
    task.report(static_cast<double>(fit.iterations) / options.max_iterations);
    const auto met = meet_all(target, cloud.points, cloud.normals, stride, fit.motion, search);
    const double scatter = std::max(robust_scatter(met), options.noise);
    fit.sigma = scatter;
    const double reach = 4.685 * scatter;
    Matrix6 normal = Matrix6::Zero();
    Vector6 right = Vector6::Zero();
    double sum = 0;
    double squares = 0;
    double seen = 0;
    double within = 0;
    std::size_t used = 0;
    for (std::size_t i = 0; i < met.size(); ++i) {
      const double trust = cloud.weight[i * stride];
      seen += trust;
      const double d = met[i].distance;
      if (std::isnan(d) || std::abs(d) >= reach || !(trust > 0)) continue;
      const double inside = 1 - d * d / (reach * reach);
      const double w = trust * inside * inside;
      Vector6 row;
      row << (fit.motion * cloud.points[i * stride] - target.centre).cross(met[i].normal) / lever,
          met[i].normal;
      normal.selfadjointView<Eigen::Lower>().rankUpdate(row, w);
      right -= w * d * row;
      sum += w;
      squares += w * d * d;
      within += trust;
      ++used;
    }
    if (used < 30) {
      return Error{
          ErrorCode::Degenerate,
          fmt::format("Only {} points of the scan lie within {:.3g} mm of the model. Place "
                      "it closer first, or search further.",
                      used, search)};
    }
    fit.rms = std::sqrt(squares / sum);
    fit.used_fraction = seen > 0 ? within / seen : 0;
    const auto eigen = symmetric_eigen<6>(normal);
    const Vector6 along = eigen.vectors.transpose() * right;
    Vector6 step = Vector6::Zero();
    fit.loose.clear();
    for (int k = 0; k < 6; ++k) {
      // What the surfaces hold a thousand times weaker than the rest is held by noise alone.
      if (eigen.values[k] < 1e-4 * eigen.values[5]) {
        fit.loose.push_back(loose_motion(eigen.vectors.col(k), target.centre, lever));
        continue;
      }
      step += along[k] / eigen.values[k] * eigen.vectors.col(k);
    }
    const Vec3 turn = step.head<3>() / lever;
    const double angle = turn.norm();
    Transform move = Transform::Identity();
    if (angle > 0) {
      move = Eigen::Translation3d(target.centre) * Eigen::AngleAxisd(angle, turn / angle) *
             Eigen::Translation3d(-target.centre);
    }
    move.pretranslate(Vec3(step.tail<3>()));
    fit.motion = move * fit.motion;
    const bool settled = step.norm() < std::max(1e-6, 2e-3 * scatter / std::sqrt(sum));
    const bool near = step.norm() < 0.02 * scatter;
    if (stride > 1 && near) {
      stride = 1;
    } else if (settled || (stride == 1 && cloud.points.size() > 20000 && step.norm() < 1e-4)) {
      ++fit.iterations;
      fit.settled = true;
      break;
    }
  }
  fit.motion.linear() = Eigen::Quaterniond(fit.motion.linear()).normalized().toRotationMatrix();
  return fit;
}

std::vector<float> distances(const Target& target, const std::vector<Vec3>& points,
                             const std::vector<Vec3>& normals, const Transform& motion,
                             double search) {
  const auto met = meet_all(target, points, normals, 1, motion, search);
  std::vector<float> result(met.size());
  for (std::size_t i = 0; i < met.size(); ++i) result[i] = static_cast<float>(met[i].distance);
  return result;
}

std::vector<Difference> differences(const Target& target, const scan::Mesh& mesh,
                                    const scan::Topology& topology, const Transform& motion,
                                    double tolerance, double search, double smallest) {
  const auto met = meet_all(target, mesh.vertices, {}, 1, motion, search);
  std::vector<char> off(mesh.triangles.size(), 0);
  for (std::size_t t = 0; t < off.size(); ++t) {
    int count = 0;
    for (const std::uint32_t v : mesh.triangles[t]) {
      count += !(std::abs(met[v].distance) <= tolerance) ? 1 : 0;  // NaN differs too
    }
    off[t] = count >= 2 ? 1 : 0;
  }
  std::vector<Difference> found;
  for (std::size_t seed = 0; seed < off.size(); ++seed) {
    if (off[seed] != 1) continue;
    Difference d;
    d.triangles.push_back(static_cast<std::uint32_t>(seed));
    off[seed] = 2;
    double weight = 0;
    for (std::size_t i = 0; i < d.triangles.size(); ++i) {
      const std::uint32_t t = d.triangles[i];
      const double area = 0.5 * mesh.area_vector(t).norm();
      d.area += area;
      d.centre += area * mesh.centroid(t);
      for (const std::uint32_t v : mesh.triangles[t]) {
        const double value = met[v].distance;
        if (std::isnan(value)) continue;
        d.mean += area * value;
        weight += area;
        if (std::abs(value) > std::abs(d.greatest)) d.greatest = value;
      }
      for (std::size_t k = 0; k < 3; ++k) {
        const std::uint32_t other = topology.across[3 * t + k];
        if (other == scan::kNone || off[other] != 1) continue;
        off[other] = 2;
        d.triangles.push_back(other);
      }
    }
    if (d.area < smallest) continue;
    d.centre = motion * Vec3(d.centre / d.area);
    d.mean = weight > 0 ? d.mean / weight : kNone;
    found.push_back(std::move(d));
  }
  std::stable_sort(found.begin(), found.end(),
                   [](const Difference& a, const Difference& b) { return a.area > b.area; });
  return found;
}

}  // namespace lostline::datum
