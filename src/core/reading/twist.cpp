#include "reading/twist.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <set>

#include "base/median.h"
#include "base/parallel.h"
#include "sketch/curve_kind.h"
#include "sketch/nearest_curve.h"

namespace lostline::reading {
namespace {

/// A point of the scan's walls: where it lies in the sketch's plane about the axis, and how far
/// above the section.
struct WallPoint {
  Vec2 at;
  double height;
};

/// How a point lies to the profile once it is turned back.
struct Off {
  double distance = 0;  ///< mm, signed
  double slope = 0;     ///< mm for a rad/mm of turn
  bool told = false;
};

class Turning {
 public:
  Turning(const sketch::Sketch& profile, const Vec2& about, std::vector<WallPoint> points)
      : curves_(profile), about_(about), points_(std::move(points)), off_(points_.size()) {}

  /// The first points that lie within a height of the section; they come sorted by it.
  void look_within(double height) {
    count_ = static_cast<std::size_t>(
        std::partition_point(points_.begin(), points_.end(),
                             [&](const WallPoint& p) { return std::abs(p.height) <= height; }) -
        points_.begin());
  }
  [[nodiscard]] std::size_t count() const { return count_; }
  [[nodiscard]] const std::vector<WallPoint>& points() const { return points_; }
  [[nodiscard]] const std::vector<Off>& off() const { return off_; }

  /// Distances at a rate of turn, rad/mm.
  void turn_back(double rate) {
    parallel_for(count_, 2048, [&](std::size_t begin, std::size_t end) {
      std::vector<Vec2> turned;
      turned.reserve(end - begin);
      for (std::size_t i = begin; i < end; ++i) {
        off_[i] = {};
        turned.emplace_back(about_ + Eigen::Rotation2Dd(-rate * points_[i].height) * points_[i].at);
      }
      curves_.along(turned, 1e9, [&](std::size_t k, const sketch::NearestCurve::Found& found) {
        const Vec2 way = turned[k] - found.foot;
        // On the curve itself its normal is not told by the way to it.
        if (!(std::abs(found.drift) > 1e-9)) return;
        const Vec2 out = way / found.drift;
        const Vec2 arm = turned[k] - about_;
        off_[begin + k] = {found.drift,
                           -points_[begin + k].height * out.dot(Vec2(-arm.y(), arm.x())), true};
      });
    });
  }
  /// Robust spread of the distances, mm.
  [[nodiscard]] double spread() const {
    std::vector<double> sizes;
    for (std::size_t i = 0; i < count_; ++i)
      if (off_[i].told) sizes.push_back(std::abs(off_[i].distance));
    return sizes.empty() ? 0 : 1.4826 * median(sizes);
  }

 private:
  sketch::NearestCurve curves_;
  Vec2 about_;
  std::vector<WallPoint> points_;
  std::vector<Off> off_;
  std::size_t count_ = 0;
};

/// The chosen outlines alone; the rest of the sketch is no wall.
std::optional<sketch::Sketch> walls_of(const sketch::Sketch& s, const model::Choice& choice) {
  auto outline = model::make_outline(s, choice);
  if (!outline || outline->loops.empty()) return std::nullopt;
  std::set<sketch::Id> used;
  for (const sketch::Loop& loop : outline->loops)
    for (const auto& use : loop.uses) used.insert(use.entity);
  sketch::Sketch walls = outline->sketch;
  for (sketch::Entity& e : walls.entities) e.construction = !used.contains(e.id);
  return walls;
}

/// Points of the scan's walls between the levels, those next to the section first.
std::vector<WallPoint> wall_points(const project::Document& document,
                                   const project::TracedSketch& traced, const Vec2& about,
                                   double low, double high, double reach) {
  const scan::Mesh& mesh = *document.scan->mesh;
  const Transform to_part = document.to_part();
  const std::vector<Vec3> normals = scan::vertex_normals(mesh);
  constexpr double kLying = 0.75;  // cosine to the sketch's normal: floors and ends, no walls
  std::vector<WallPoint> points;
  for (std::size_t v = 0; v < mesh.vertices.size(); ++v) {
    if (std::abs((to_part.linear() * normals[v]).dot(traced.base.normal)) > kLying) continue;
    const Vec3 p = to_part * mesh.vertices[v];
    const double level = traced.base.level_of(p);
    if (level < low || level > high) continue;
    const Vec2 at = traced.base.to_plane(p) - about;
    if (at.norm() <= reach) points.push_back({at, level - traced.level});
  }
  // Evenly thinned: the numbers do not need more.
  constexpr std::size_t kMost = 60000;
  if (const std::size_t stride = points.size() / kMost + 1; stride > 1) {
    std::size_t kept = 0;
    for (std::size_t i = 0; i < points.size(); i += stride) points[kept++] = points[i];
    points.resize(kept);
  }
  std::stable_sort(points.begin(), points.end(), [](const WallPoint& a, const WallPoint& b) {
    return std::abs(a.height) < std::abs(b.height);
  });
  return points;
}

}  // namespace

std::optional<TwistReading> read_twist(const project::Document& document,
                                       const project::TracedSketch& traced,
                                       const model::Choice& choice, const Vec2& about, double from,
                                       double to, const Task& task) {
  if (!document.scan) return std::nullopt;
  const auto walls = walls_of(traced.sketch, choice);
  if (!walls) return std::nullopt;
  double radius = 0;
  for (const sketch::Entity& e : walls->entities) {
    if (e.construction) continue;
    for (const Vec2& p : sketch::placed(*walls, e)->chords())
      radius = std::max(radius, (p - about).norm());
  }
  const double spacing = document.scan->health.spacing;
  const double noise = document.scan->health.noise_sigma;
  // Ends are rounded by the scanner's spot.
  const double low = std::min(from, to) + 2 * spacing;
  const double high = std::max(from, to) - 2 * spacing;
  if (!(radius > 0) || !(high > low)) return std::nullopt;
  Turning turning(*walls, about,
                  wall_points(document, traced, about, low, high, radius + 2 * spacing));
  constexpr std::size_t kFewest = 60;
  if (turning.points().size() < kFewest) return std::nullopt;
  const double whole = std::abs(turning.points().back().height);

  // The first slab: every rate up to walls that lean by 65 degrees is tried.
  double slab = std::min(whole, std::max(3 * spacing, 0.02 * whole));
  turning.look_within(slab);
  while (turning.count() < kFewest) turning.look_within(slab *= 1.5);
  const double steepest = 2.1 / radius;
  const double step = 0.25 * std::max(spacing, 4 * noise) / (radius * slab);
  double rate = 0;
  double least = 1e300;
  // Points of other walls do not count more than by this.
  const double far = std::max(spacing, 5 * noise);
  for (int k = 0; k * step <= steepest; ++k) {
    for (const double sign : {1.0, -1.0}) {
      if (task.stopped()) return std::nullopt;
      turning.turn_back(sign * k * step);
      double cost = 0;
      for (std::size_t i = 0; i < turning.count(); ++i)
        cost += std::min(std::abs(turning.off()[i].distance), far);
      if (cost >= least * (1 - 1e-9)) continue;
      least = cost;
      rate = sign * k * step;
    }
  }
  // Further and further from the section.
  double cut = far;
  for (;;) {
    if (task.stopped()) return std::nullopt;
    constexpr int kRounds = 6;
    for (int round = 0; round < kRounds; ++round) {
      turning.turn_back(rate);
      cut = std::max(4.685 * std::max(turning.spread(), noise), 1e-9 * radius);
      double gg = 0;
      double gr = 0;
      for (std::size_t i = 0; i < turning.count(); ++i) {
        const Off& o = turning.off()[i];
        const double share = o.distance / cut;
        if (!o.told || std::abs(share) >= 1) continue;
        const double weight = (1 - share * share) * (1 - share * share);
        gg += weight * o.slope * o.slope;
        gr += weight * o.slope * o.distance;
      }
      if (!(gg > 0)) return std::nullopt;
      const double change = -gr / gg;
      rate += change;
      if (std::abs(change) * radius * slab < 1e-4 * spacing) break;
    }
    if (slab >= whole) break;
    slab = std::min(1.5 * slab, whole);
    turning.look_within(slab);
  }
  turning.turn_back(rate);
  // Scatter of cubes of eight spacings.
  std::map<std::array<int, 3>, double> cubes;
  double gg = 0;
  double squares = 0;
  std::size_t used = 0;
  for (std::size_t i = 0; i < turning.count(); ++i) {
    const Off& o = turning.off()[i];
    const double share = o.distance / cut;
    if (!o.told || std::abs(share) >= 1) continue;
    const double weight = (1 - share * share) * (1 - share * share);
    gg += weight * o.slope * o.slope;
    squares += o.distance * o.distance;
    ++used;
    const WallPoint& p = turning.points()[i];
    const double side = 8 * spacing;
    cubes[{static_cast<int>(std::floor(p.at.x() / side)),
           static_cast<int>(std::floor(p.at.y() / side)),
           static_cast<int>(std::floor(p.height / side))}] += weight * o.slope * o.distance;
  }
  // A profile round about the axis moves along itself: its slopes are rounding.
  constexpr double kMoves = 1e-3;  // of how far the outermost places go
  if (!(std::sqrt(gg / static_cast<double>(std::max<std::size_t>(used, 1))) >
        kMoves * radius * whole) ||
      std::abs(rate) > 1.1 * steepest)
    return std::nullopt;
  double scatter = 0;
  for (const auto& [key, sum] : cubes) scatter += sum * sum;
  TwistReading reading;
  reading.rms = std::sqrt(squares / static_cast<double>(std::max<std::size_t>(used, 1)));
  reading.points = used;
  reading.angle = rate * (to - from);
  reading.u = 2 * std::sqrt(scatter) / std::max(gg, 1e-300) * std::abs(to - from);
  // Most walls follow it, as closely as the section itself is known, and it is told to a degree.
  constexpr double kFollow = 0.6;
  constexpr double kTold = 0.035;  // rad
  const double close = std::max(4 * noise, 3 * traced.tolerance);
  if (static_cast<double>(used) < kFollow * static_cast<double>(turning.count()) ||
      reading.rms > close || !(reading.u < kTold + 0.05 * std::abs(reading.angle)))
    return std::nullopt;
  return reading;
}

}  // namespace lostline::reading
