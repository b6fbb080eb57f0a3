#include <algorithm>
#include <cmath>
#include <numbers>

#include "fit/estimate.h"
#include "reading/evidence.h"

namespace lostline::reading {

using namespace project;  // the document and its edits

namespace {

constexpr std::size_t kFewest = 40;  // points between the tangent lines that tell a radius
constexpr int kChoosing = 20;        // rounds in which strays are told apart; then the points stay
constexpr int kRounds = 80;

/// A surveyed surface in part coordinates.
struct Side {
  fit::Surface surface;
  const fit::SurfaceFit* fit = nullptr;
  Vec3 centre = Vec3::Zero();  ///< of its evidence
  double area = 0;             ///< mm2
  double off = 0;              ///< greatest distance from the edge, mm

  /// Expanded uncertainty of where the surface lies at a place.
  [[nodiscard]] double u_at(const Vec3& place) const {
    return std::hypot(fit->u_offset, fit->u_angle * (place - centre).norm(), fit->u_radius);
  }
};

/// The two surfaces that meet along an edge: those nearest to all of it that cross each other
/// there; of surfaces equally near within the scan's noise the larger.
std::optional<std::pair<Side, Side>> sides_of(const Document& document,
                                              const std::vector<Vec3>& along) {
  const scan::Health& health = document.scan->health;
  // An edge of the model lies off the scan's by what its values were decided away from the
  // readings: a few spacings at most, or the drawing would show another part.
  const double reach = std::max(2.5 * health.spacing, 10 * health.noise_sigma);
  const double alike = std::max(health.noise_sigma, 0.1 * health.spacing);
  const Transform to_part = document.to_part();
  std::vector<Side> sides;
  for (const survey::Region& r : document.survey->regions) {
    if (!r.fit) continue;
    Side side{fit::transformed(r.fit->surface, to_part), &*r.fit, to_part * r.fit->centroid,
              r.area};
    for (const Vec3& p : along) side.off = std::max(side.off, std::abs(side.surface.distance(p)));
    if (side.off <= reach) sides.push_back(side);
  }
  std::sort(sides.begin(), sides.end(), [&](const Side& a, const Side& b) {
    const double step_a = std::floor(a.off / alike);
    const double step_b = std::floor(b.off / alike);
    return step_a != step_b ? step_a < step_b : a.area > b.area;
  });
  const Vec3& middle = along[along.size() / 2];
  for (std::size_t i = 0; i < sides.size(); ++i) {
    for (std::size_t j = 0; j < i; ++j) {
      const double cosine =
          sides[i].surface.normal_at(middle).dot(sides[j].surface.normal_at(middle));
      if (std::abs(cosine) < 0.97) return std::pair(sides[j], sides[i]);  // 14 degrees
    }
  }
  return std::nullopt;
}

/// A scan point by its signed distances from both surfaces.
struct Sample {
  Vec3 point;
  double da, db, cosine;  ///< cosine of the angle between the normals there
};

/// What one radius leaves: residuals with their slopes by the radius and by both surfaces.
struct Rows {
  std::vector<std::size_t> sample;
  std::vector<double> residual, by_radius, by_a, by_b;
};

/// @param side  1 where the ball rolls outside the material, -1 inside it.
/// @param held  the samples to take, whatever their residual; null: those between the tangent lines
/// with a residual within `gate`.
Rows rows_of(const std::vector<Sample>& samples, double radius, double side, double gate,
             const std::vector<std::size_t>* held) {
  Rows rows;
  const std::size_t count = held != nullptr ? held->size() : samples.size();
  for (std::size_t k = 0; k < count; ++k) {
    const std::size_t i = held != nullptr ? (*held)[k] : k;
    const Sample& s = samples[i];
    // Position relative to the ball's centre, whose distances from both faces are the radius.
    const double xa = side * s.da - radius;
    const double xb = side * s.db - radius;
    const double det = 1 - s.cosine * s.cosine;
    if (det < 0.05) continue;
    // Between the tangent lines: the direction from the centre is a combination of both normals
    // with negative weights. Points beside the lines tell faces, not the round.
    const double wa = (xa - s.cosine * xb) / det;
    const double wb = (xb - s.cosine * xa) / det;
    if (held == nullptr && (wa > -0.1 * radius || wb > -0.1 * radius)) continue;
    const double length = std::sqrt(std::max(1e-24, wa * xa + wb * xb));
    const double r = radius - length;
    if (held == nullptr && std::abs(r) > gate) continue;
    rows.sample.push_back(i);
    rows.residual.push_back(r);
    rows.by_radius.push_back(1 + (wa + wb) / length);
    rows.by_a.push_back(-side * wa / length);
    rows.by_b.push_back(-side * wb / length);
  }
  return rows;
}

/// Robust standard deviation of residuals about zero.
double scatter_of(std::vector<double> residuals) {
  for (double& r : residuals) r = std::abs(r);
  const auto middle = residuals.begin() + static_cast<std::ptrdiff_t>(residuals.size() / 2);
  std::nth_element(residuals.begin(), middle, residuals.end());
  return 1.4826 * *middle;
}

double dot(const std::vector<double>& a, const std::vector<double>& b) {
  double sum = 0;
  for (std::size_t i = 0; i < a.size(); ++i) sum += a[i] * b[i];
  return sum;
}

/// How far the scan stays off the sharp edge, as a radius: of a ball in a corner of opening angle
/// w the nearest point lies r (1 / sin(w / 2) - 1) from the corner.
std::optional<double> first_radius(const Document& document, const Side& a, const Side& b,
                                   const std::vector<Vec3>& along) {
  const Transform to_scan = document.to_part().inverse();
  std::vector<double> off;
  for (const Vec3& p : along) {
    const auto nearest = document.scan->index->nearest(to_scan * p);
    if (nearest) off.push_back(nearest->distance);
  }
  if (off.empty()) return std::nullopt;
  const auto middle = off.begin() + static_cast<std::ptrdiff_t>(off.size() / 2);
  std::nth_element(off.begin(), middle, off.end());
  const Vec3& place = along[along.size() / 2];
  const double between =
      std::acos(std::clamp(a.surface.normal_at(place).dot(b.surface.normal_at(place)), -1.0, 1.0));
  const double half = 0.5 * (std::numbers::pi - between);
  const double share = 1 / std::max(std::sin(half), 0.05) - 1;
  if (!(share > 0.01)) return std::nullopt;
  return *middle / share;
}

std::vector<Sample> samples_near(const Document& document, const Side& a, const Side& b,
                                 const std::vector<Vec3>& along, double reach) {
  std::vector<Sample> samples;
  Box3 box;
  for (const Vec3& p : along) box.extend(p);
  const Transform to_part = document.to_part();
  for (const Vec3& v : document.scan->mesh->vertices) {
    const Vec3 p = to_part * v;
    if (box.squaredExteriorDistance(p) > reach * reach) continue;
    const double da = a.surface.distance(p);
    const double db = b.surface.distance(p);
    if (std::abs(da) > reach || std::abs(db) > reach) continue;
    double nearest = 1e300;
    for (const Vec3& q : along) nearest = std::min(nearest, (q - p).squaredNorm());
    if (nearest > reach * reach) continue;
    samples.push_back({p, da, db, a.surface.normal_at(p).dot(b.surface.normal_at(p))});
  }
  return samples;
}

/// Points of a polyline at most `step` apart.
std::vector<Vec3> densified(const std::vector<Vec3>& along, double step) {
  std::vector<Vec3> dense;
  for (std::size_t i = 0; i < along.size(); ++i) {
    dense.push_back(along[i]);
    if (i + 1 == along.size()) break;
    const double length = (along[i + 1] - along[i]).norm();
    const int pieces = std::min(2000, static_cast<int>(std::ceil(length / step)));
    for (int k = 1; k < pieces; ++k)
      dense.push_back(along[i] + (along[i + 1] - along[i]) * k / pieces);
  }
  return dense;
}

}  // namespace

std::optional<RadiusReading> read_edge_radius(const Document& document,
                                              const std::vector<Vec3>& edge) {
  if (!document.survey || !document.scan || edge.empty()) return std::nullopt;
  const scan::Health& health = document.scan->health;
  const double spacing = std::max(health.spacing, 1e-9);
  const std::vector<Vec3> along = densified(edge, 2 * spacing);
  const auto sides = sides_of(document, along);
  if (!sides) return std::nullopt;
  const auto& [a, b] = *sides;
  const auto first = first_radius(document, a, b, along);
  if (!first || *first < 2 * spacing) return std::nullopt;
  // The tangent lines of a round between faces at 40 degrees lie 2.7 radii from the sharp edge.
  const double reach = 3 * *first + 4 * spacing;
  const std::vector<Sample> samples = samples_near(document, a, b, along, reach);
  // Concave edges have the rolling ball outside the material, convex ones inside: the side where
  // the scan departs from both surfaces says which.
  double proud = 0;
  for (const Sample& s : samples) {
    // Between the tangent lines of a right angle; further off lies scan of other features.
    if (std::abs(s.da) > *first || std::abs(s.db) > *first) continue;
    proud += std::min(std::abs(s.da), std::abs(s.db)) * (s.da + s.db > 0 ? 1 : -1);
  }
  const double side = proud > 0 ? 1 : -1;
  double radius = *first;
  double gate = 0.2 * radius;
  bool settled = false;
  Rows rows;
  std::vector<std::size_t> held;
  for (int iteration = 0; iteration < kRounds && !settled; ++iteration) {
    const bool hold = iteration >= kChoosing;
    rows = rows_of(samples, radius, side, gate, hold ? &held : nullptr);
    if (rows.sample.size() < kFewest) return std::nullopt;
    const double information = dot(rows.by_radius, rows.by_radius);
    if (!(information > 0)) return std::nullopt;
    const double step =
        std::clamp(-dot(rows.by_radius, rows.residual) / information, -0.2 * radius, 0.2 * radius);
    radius += step;
    if (!(radius > spacing) || radius > 3 * reach) return std::nullopt;
    // Strays, and scan of other features, stay out by what the round itself scatters.
    if (iteration > 4 && !hold)
      gate = std::max(3.5 * scatter_of(rows.residual), 4 * health.noise_sigma) + 1e-6 * radius;
    held = rows.sample;
    settled = hold && std::abs(step) < 1e-7 * radius;
  }
  if (!settled) return std::nullopt;
  const auto n = static_cast<Eigen::Index>(rows.sample.size());
  const double information = dot(rows.by_radius, rows.by_radius);
  Eigen::Matrix3Xd points(3, n);
  Eigen::VectorXd residuals(n);
  Eigen::MatrixXd leverage(n, 1);
  for (Eigen::Index i = 0; i < n; ++i) {
    const auto k = static_cast<std::size_t>(i);
    points.col(i) = samples[rows.sample[k]].point;
    residuals[i] = rows.residual[k];
    leverage(i, 0) = rows.by_radius[k] / std::sqrt(information);
  }
  const double inflation = fit::shared_noise(points, residuals, leverage, Eigen::MatrixXd::Identity(1, 1))(0, 0);
  const double sigma =
      std::max(std::sqrt(residuals.squaredNorm() / static_cast<double>(n - 1)), health.noise_sigma);
  const Vec3& place = along[along.size() / 2];
  // A surface that lies off by d moves the radius by -(slopes . slopes) / information times d.
  const double u_noise = 2 * sigma * std::sqrt(inflation / information);
  const double u_a = dot(rows.by_radius, rows.by_a) / information * a.u_at(place);
  const double u_b = dot(rows.by_radius, rows.by_b) / information * b.u_at(place);
  return RadiusReading{radius, std::hypot(u_noise, u_a, u_b), rows.sample.size()};
}

}  // namespace lostline::reading
