#include <algorithm>
#include <cmath>

#include "fit/surface_kind.h"
#include "survey/survey.h"

namespace lostline::survey {
namespace {

/// A set of numbers, asked by bisection: a region's own size counts and not that of the scan.
class NumberSet {
 public:
  explicit NumberSet(std::vector<std::uint32_t> numbers) : sorted_(std::move(numbers)) {
    std::sort(sorted_.begin(), sorted_.end());
    sorted_.erase(std::unique(sorted_.begin(), sorted_.end()), sorted_.end());
  }
  [[nodiscard]] bool has(std::uint32_t n) const {
    return std::binary_search(sorted_.begin(), sorted_.end(), n);
  }
  template <class Range>
  [[nodiscard]] bool has_all(const Range& range) const {
    return std::all_of(range.begin(), range.end(), [&](std::uint32_t n) { return has(n); });
  }
  [[nodiscard]] const std::vector<std::uint32_t>& numbers() const { return sorted_; }

 private:
  std::vector<std::uint32_t> sorted_;
};

Patch patch_at(const scan::Mesh& mesh, const scan::Topology& topology,
               std::vector<std::uint32_t> vertices, const NumberSet& inside) {
  Patch patch;
  const auto n = static_cast<Eigen::Index>(vertices.size());
  patch.points.resize(3, n);
  patch.normals.setZero(3, n);
  for (Eigen::Index i = 0; i < n; ++i) {
    const std::uint32_t v = vertices[static_cast<std::size_t>(i)];
    patch.points.col(i) = mesh.vertices[v];
    Vec3 normal = Vec3::Zero();
    for (const std::uint32_t t : topology.vertex_triangles[v]) {
      if (inside.has(t)) normal += mesh.area_vector(t);
    }
    const double length = normal.norm();
    if (length > 0) patch.normals.col(i) = normal / length;
  }
  patch.vertices = std::move(vertices);
  return patch;
}

/// How far a row beside an edge stands off as a whole, k = 1. In standard deviations of the noise,
/// where the rows further in say where the surface lies and points off it do not count.
constexpr double kStandsOff = 0.5;
/// On a band that is hardly more than such rows, in spacings: the surface follows them.
constexpr double kBandStandsOff = 0.03;
/// Rows within, as a multiple of those at the rim, below which a curved surface follows them too:
/// what tells its radius is how they stand to the middle.
constexpr double kRound = 2.5;

double mean_edge(const scan::Mesh& mesh, const std::vector<std::uint32_t>& triangles) {
  double sum = 0;
  for (const std::uint32_t t : triangles)
    for (std::size_t k = 0; k < 3; ++k)
      sum += (mesh.vertices[mesh.triangles[t][k]] - mesh.vertices[mesh.triangles[t][(k + 1) % 3]])
                 .norm();
  return triangles.empty() ? 0 : sum / (3 * static_cast<double>(triangles.size()));
}

/// What rows beside edges may have moved a curved surface by is not in its residuals: how far it
/// moves when they count like all others is another part of its uncertainty (JCGM 100:2008, 4.3,
/// an evaluation by other means than statistics).
void widen(fit::SurfaceFit& fit, const fit::SurfaceFit& with_rows) {
  const fit::Surface& a = fit.surface;
  const fit::Surface& b = with_rows.surface;
  Vec3 between = b.point - a.point;
  if (fit::is_turned(a.kind)) {
    // Across the axis, where the points are.
    const Vec3 at = b.point + (fit.centroid - b.point).dot(b.axis) * b.axis;
    between = at - a.point - (at - a.point).dot(a.axis) * a.axis;
  }
  fit.u_offset = std::hypot(fit.u_offset, between.norm());
  if (fit::has_direction(a.kind))
    fit.u_angle = std::hypot(fit.u_angle, fit::angle_between(a.axis, b.axis));
  const double radius = a.kind == fit::Kind::Cone
                            ? b.radius + std::tan(b.half_angle) * (a.point - b.point).dot(b.axis)
                            : b.radius;
  fit.u_radius = std::hypot(fit.u_radius, radius - a.radius);
  fit.u_half_angle = std::hypot(fit.u_half_angle, b.half_angle - a.half_angle);
  fit.u_minor_radius = std::hypot(fit.u_minor_radius, b.minor_radius - a.minor_radius);
}

}  // namespace

Patch patch_of(const scan::Mesh& mesh, const scan::Topology& topology,
               const std::vector<std::uint32_t>& triangles,
               const std::function<bool(std::uint32_t)>& lies_on) {
  const NumberSet inside(triangles);
  std::vector<std::uint32_t> corners;
  for (const std::uint32_t t : triangles)
    corners.insert(corners.end(), mesh.triangles[t].begin(), mesh.triangles[t].end());
  const NumberSet all(std::move(corners));
  std::vector<std::uint32_t> on;
  for (const std::uint32_t v : all.numbers())
    if (lies_on ? lies_on(v) : inside.has_all(topology.vertex_triangles[v])) on.push_back(v);
  // A strip of triangles without a vertex inside.
  if (!lies_on && on.size() < 30) on = all.numbers();
  const NumberSet held(on);
  std::vector<std::uint32_t> inner;
  std::vector<char> is_inner;
  for (const std::uint32_t v : on) {
    is_inner.push_back(held.has_all(topology.vertex_neighbours[v]) &&
                               inside.has_all(topology.vertex_triangles[v])
                           ? 1
                           : 0);
    if (is_inner.back() != 0) inner.push_back(v);
  }
  const std::size_t beside = on.size() - inner.size();
  // Rows at the rim add nothing where there are three times as many others.
  if (inner.size() > 3 * beside && inner.size() >= 60)
    return patch_at(mesh, topology, std::move(inner), inside);
  Patch patch = patch_at(mesh, topology, std::move(on), inside);
  patch.narrow = inner.size() < 30 || inner.size() < beside;
  patch.spacing = mean_edge(mesh, triangles);
  for (const char in : is_inner) patch.rim.push_back(in == 0 ? 1 : 0);
  return patch;
}

Eigen::VectorXd row_weights(const Patch& patch, fit::Kind kind, double sigma) {
  if (patch.rim.empty()) return {};
  const auto beside = static_cast<double>(std::count(patch.rim.begin(), patch.rim.end(), 1));
  const double inner = static_cast<double>(patch.rim.size()) - beside;
  const bool follows = patch.narrow || (fit::about(kind).has_radius && inner < kRound * beside);
  const double off = std::max(kStandsOff * sigma, follows ? kBandStandsOff * patch.spacing : 0.0);
  const double side = 0.5 * beside;  // of a band
  const double weight = 1 / (1 + side * std::pow(off / std::max(sigma, 1e-9), 2));
  Eigen::VectorXd weights = Eigen::VectorXd::Ones(patch.points.cols());
  for (std::size_t i = 0; i < patch.rim.size(); ++i)
    if (patch.rim[i] != 0) weights[static_cast<Eigen::Index>(i)] = weight;
  return weights;
}

Result<fit::SurfaceFit> fit_patch(fit::Kind kind, const Patch& patch,
                                  const std::optional<fit::Surface>& start,
                                  fit::SurfaceFitOptions options, const Task& task) {
  if (patch.rim.empty())
    return fit::fit_surface(kind, patch.points, patch.normals, start, options, task);
  fit::SurfaceFitOptions plain = options;
  plain.correlate = false;
  plain.hopeless = 0;
  const auto all = fit::fit_surface(kind, patch.points, patch.normals, start, plain, task);
  if (!all) return all.error();
  const Eigen::VectorXd rows = row_weights(patch, kind, all->sigma);
  fit::SurfaceFitOptions weighted = options;
  weighted.weights =
      options.weights.size() == 0 ? rows : Eigen::VectorXd(options.weights.cwiseProduct(rows));
  weighted.least_sigma = std::max(options.least_sigma, all->sigma);
  auto fitted = fit::fit_surface(kind, patch.points, patch.normals, all->surface, weighted, task);
  if (!fitted && fitted.error().code == ErrorCode::Cancelled) return fitted.error();
  // A few points within may say too little by themselves: then all count alike.
  constexpr double kWorse = 1.5;
  if (!fitted || fitted->rms > kWorse * all->sigma)
    return fit::fit_surface(kind, patch.points, patch.normals, all->surface, options, task);
  fit::SurfaceFit result = *std::move(fitted);
  result.sigma = std::max(result.sigma, all->sigma);
  if (fit::about(kind).has_radius) widen(result, *all);
  return result;
}

}  // namespace lostline::survey
