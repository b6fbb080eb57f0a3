#include "pipe/march.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "base/median.h"
#include "base/text.h"
#include "fit/surface_fit.h"

namespace lostline::pipe {
namespace {

// Of the radius. Slices this thick show a bend of twice the radius as straight within a fiftieth of
// the radius; thinner ones have too few points.
constexpr double kThick = 0.6;
constexpr double kStep = 0.4;
constexpr double kLeastCoverage = 0.7;  // rad: less of the circumference tells no centre
constexpr std::size_t kFewest = 8;      // points of a slice
constexpr int kMostStations = 20000;

/// The points of a slice across a pipe whose normals look away from its centre line.
std::vector<std::uint32_t> slice(const Evidence& e, const Station& at, double radius, bool hollow,
                                 double thick, double tolerance) {
  std::vector<std::uint32_t> found;
  e.grid.near(at.centre, std::hypot(radius * (1 + tolerance), thick / 2),
              [&](std::size_t i, double) {
                const Vec3 d = e.points[i] - at.centre;
                const double along = d.dot(at.along);
                if (std::abs(along) > thick / 2) return;
                const Vec3 out = d - along * at.along;
                const double reach = out.norm();
                if (std::abs(reach - radius) > tolerance * radius || !(reach > 0)) return;
                constexpr double kLooksAway = 0.7;  // cosine
                if ((hollow ? -1 : 1) * e.normals[i].dot(out) < kLooksAway * reach) return;
                found.push_back(static_cast<std::uint32_t>(i));
              });
  return found;
}

double coverage_of(const Evidence& e, const Station& at, const std::vector<std::uint32_t>& points) {
  const Vec3 u = at.along.unitOrthogonal();
  const Vec3 v = at.along.cross(u);
  constexpr int kBins = 72;
  std::array<char, kBins> seen{};
  for (const std::uint32_t i : points) {
    const Vec3 d = e.points[i] - at.centre;
    const double turn = std::atan2(d.dot(v), d.dot(u));
    seen[static_cast<std::size_t>(
        std::min(kBins - 1, static_cast<int>((turn + kPi) / (2 * kPi) * kBins)))] = 1;
  }
  return 2 * kPi / kBins * static_cast<double>(std::count(seen.begin(), seen.end(), 1));
}

std::string place_text(const Vec3& p) {
  return format_trimmed(p.x(), 2) + ", " + format_trimmed(p.y(), 2) + ", " +
         format_trimmed(p.z(), 2);
}

/// Moves and turns a station so that the points of its slice lie at the radius. False when they do
/// not: another radius, or no pipe.
bool settle(const Evidence& e, Station& at, double radius, bool hollow) {
  const double thick = std::max(kThick * radius, 3 * e.spacing);
  const Station start = at;
  double scatter = 0;
  for (int round = 0; round < 6; ++round) {
    const double tolerance = round < 2 ? 0.35 : 0.15;
    const auto points = slice(e, at, radius, hollow, thick, tolerance);
    if (points.size() < kFewest) return false;
    at.coverage = coverage_of(e, at, points);
    if (at.coverage < kLeastCoverage) return false;
    const Vec3 u = at.along.unitOrthogonal();
    const Vec3 v = at.along.cross(u);
    std::vector<double> sizes;
    for (const std::uint32_t i : points) {
      const Vec3 d = e.points[i] - at.centre;
      sizes.push_back(std::abs((d - d.dot(at.along) * at.along).norm() - radius));
    }
    const double cut = std::max(3.5 * 1.4826 * median(sizes), 1e-3 * radius);
    Eigen::Matrix4d hessian = Eigen::Matrix4d::Zero();
    Eigen::Vector4d gradient = Eigen::Vector4d::Zero();
    double sum = 0;
    int count = 0;
    for (const std::uint32_t i : points) {
      const Vec3 d = e.points[i] - at.centre;
      const double along = d.dot(at.along);
      const Vec3 out = d - along * at.along;
      const double reach = out.norm();
      const double off = reach - radius;
      if (std::abs(off) > cut) continue;
      const Vec3 n = out / reach;
      // By the centre, and by the tilt of the direction, at the rim of the slice.
      const Eigen::Vector4d row(-n.dot(u), -n.dot(v), -along * n.dot(u), -along * n.dot(v));
      hessian += row * row.transpose();
      gradient += off * row;
      sum += off * off;
      ++count;
    }
    // A direction that the slice does not tell stays as it was foreseen.
    const double stay = 0.02 * count;
    hessian.diagonal() += Eigen::Vector4d(1e-6 * count, 1e-6 * count, stay * thick * thick / 12,
                                          stay * thick * thick / 12);
    const Eigen::Vector4d step = hessian.ldlt().solve(-gradient);
    if (!step.allFinite()) return false;
    at.centre += step[0] * u + step[1] * v;
    at.along = (at.along + step[2] * u + step[3] * v).normalized();
    // Back into the plane it was foreseen in, so that stations keep their distance.
    const double back = (start.centre - at.centre).dot(start.along) / at.along.dot(start.along);
    at.centre += back * at.along;
    scatter = std::sqrt(sum / std::max(count, 1));
    if (step.head<2>().norm() < 1e-5 * radius) break;
  }
  constexpr double kBentOff = 0.03;  // of the radius: what a bend within the slice leaves
  return (at.centre - start.centre).norm() < 0.5 * radius && at.along.dot(start.along) > 0.6 &&
         scatter < std::max(5 * e.noise, kBentOff * radius);
}

/// Whether the points of a settled slice show the same radius as the pipe.
bool same_radius(const Evidence& e, const Station& at, double radius, bool hollow) {
  const auto points = slice(e, at, radius, hollow, std::max(kThick * radius, 3 * e.spacing), 0.35);
  if (points.empty()) return false;
  std::size_t inside = 0;
  for (const std::uint32_t i : points) {
    const Vec3 d = e.points[i] - at.centre;
    const double off = (d - d.dot(at.along) * at.along).norm() - radius;
    inside += std::abs(off) < std::max(6 * e.noise, 0.06 * radius) ? 1 : 0;
  }
  constexpr double kMost = 0.6;  // of the points that look away from the centre line
  return static_cast<double>(inside) > kMost * static_cast<double>(points.size());
}

/// From one station on, one way.
void march(const Evidence& e, const Seed& seed, double bridge, std::vector<Station>& stations,
           bool& closed, const Task& task) {
  const double step = std::max(kStep * seed.radius, 1.5 * e.spacing);
  Vec3 turning = Vec3::Zero();  // of the direction, each step
  for (int count = 0; count < kMostStations && !task.stopped(); ++count) {
    const Station last = stations.back();
    Station next;
    bool found = false;
    const int tries = 1 + static_cast<int>(bridge * seed.radius / step);
    Station ahead = last;
    for (int skipped = 0; skipped < tries && !found; ++skipped) {
      // On as it bent so far: half a turn, a step, half a turn.
      ahead.along = (ahead.along + 0.5 * turning).normalized();
      ahead.centre += step * ahead.along;
      ahead.along = (ahead.along + 0.5 * turning).normalized();
      next = ahead;
      found = settle(e, next, seed.radius, seed.hollow) &&
              same_radius(e, next, seed.radius, seed.hollow);
      next.after_gap = skipped > 0;
      if (!found && skipped == 0 && turning.norm() > 0) {
        // It may go straight on after a bend.
        next = last;
        next.centre += step * next.along;
        found = settle(e, next, seed.radius, seed.hollow) &&
                same_radius(e, next, seed.radius, seed.hollow);
        next.after_gap = false;
      }
    }
    if (!found) return;
    const double moved = (next.centre - last.centre).norm();
    if (moved < 0.2 * step) return;
    constexpr double kSharpest = 0.8;  // rad a step: sharper than any bend of a pipe
    turning = (next.along - last.along) * (step / moved);
    if (turning.norm() > kSharpest) turning.setZero();
    stations.push_back(next);
    // Round a ring it comes back to where it began.
    const Station& first = stations.front();
    if (stations.size() > 6 && (next.centre - first.centre).norm() < 0.75 * step &&
        next.along.dot(first.along) > 0.7) {
      closed = true;
      return;
    }
  }
}

}  // namespace

Result<Seed> seed_at(const Evidence& e, const Vec3& pick) {
  // The nearest point, within reach of a careless click.
  double reach = 2 * e.spacing;
  std::uint32_t nearest = 0;
  double best = 1e300;
  for (int k = 0; k < 6 && best == 1e300; ++k, reach *= 2) {
    e.grid.near(pick, reach, [&](std::size_t i, double) {
      const double d = (e.points[i] - pick).norm();
      if (d < best && d <= reach && e.normals[i].squaredNorm() > 0.5) {
        best = d;
        nearest = static_cast<std::uint32_t>(i);
      }
    });
  }
  if (best == 1e300)
    return Error{ErrorCode::NotFound, "No surface of the scan lies near " + place_text(pick) +
                                          ". Pick a place on the pipe."};
  const Vec3 look = e.normals[nearest];
  // A patch that grows until it tells a radius.
  Error why{ErrorCode::Degenerate, "The surface at " + place_text(pick) + " is not round."};
  constexpr double kGrow = 1.35;
  constexpr std::size_t kMostPoints = 2000;
  // A patch this wide shows any bend that matters above the noise.
  constexpr double kWidest = 200;  // spacings
  for (double size = 3 * e.spacing; size < kWidest * e.spacing; size *= kGrow) {
    std::vector<std::uint32_t> patch;
    e.grid.near(e.points[nearest], size, [&](std::size_t i, double) {
      if ((e.points[i] - e.points[nearest]).norm() < size && e.normals[i].dot(look) > 0.25)
        patch.push_back(static_cast<std::uint32_t>(i));
    });
    if (patch.size() < 20) continue;
    const std::size_t stride = 1 + patch.size() / kMostPoints;
    Eigen::Matrix3Xd points(3, static_cast<Eigen::Index>((patch.size() + stride - 1) / stride));
    Eigen::Matrix3Xd normals(3, points.cols());
    for (Eigen::Index k = 0; k < points.cols(); ++k) {
      points.col(k) = e.points[patch[static_cast<std::size_t>(k) * stride]];
      normals.col(k) = e.normals[patch[static_cast<std::size_t>(k) * stride]];
    }
    fit::SurfaceFitOptions options;
    options.correlate = false;
    options.least_sigma = e.noise;
    const auto found = fit::fit_surface(fit::Kind::Cylinder, points, normals, {}, options);
    if (!found) {
      if (patch.size() > 200) why.message = found.error().message;
      continue;
    }
    const double radius = found->surface.radius;
    // Beyond its own size a patch shows what lies round the pipe.
    if (size > 2.5 * radius) break;
    constexpr double kSure = 0.03;  // share of the radius
    if (found->u_radius > kSure * radius) continue;
    if (found->rms > std::max(4 * e.noise, 0.02 * radius)) {
      // Bent within the patch: good enough to begin with when it is a little only.
      if (found->rms > 0.06 * radius) continue;
    }
    Seed seed;
    seed.radius = radius;
    seed.hollow = found->surface.hollow;
    seed.station.along = found->surface.axis;
    const Vec3 d = e.points[nearest] - found->surface.point;
    seed.station.centre = found->surface.point + d.dot(seed.station.along) * seed.station.along;
    Station tried = seed.station;
    if (settle(e, tried, radius, seed.hollow)) {
      seed.station = tried;
      return seed;
    }
  }
  return why;
}

std::vector<Station> follow(const Evidence& e, const Seed& seed, double bridge, bool& closed,
                            const Task& task) {
  closed = false;
  std::vector<Station> ahead{seed.station};
  march(e, seed, bridge, ahead, closed, task);
  if (closed) return ahead;
  std::vector<Station> back{seed.station};
  back.front().along = -back.front().along;
  bool round = false;
  march(e, seed, bridge, back, round, task);
  std::vector<Station> all;
  for (std::size_t k = back.size(); k-- > 1;) {
    all.push_back(back[k]);
    all.back().along = -all.back().along;
    // Turned round, the gap lies before the next one.
    all.back().after_gap = k + 1 < back.size() && back[k + 1].after_gap;
  }
  const bool gap = back.size() > 1 && back[1].after_gap;
  all.insert(all.end(), ahead.begin(), ahead.end());
  all[back.size() - 1].after_gap = gap;
  return all;
}

}  // namespace lostline::pipe
