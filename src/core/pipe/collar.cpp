#include "pipe/collar.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <map>

#include "base/median.h"
#include "base/text.h"

namespace lostline::pipe {
namespace {

constexpr double kRunsAlong = 0.8;  // cosine of a wall's normal to the direction off the line
constexpr double kAcross = 0.85;    // cosine of an end face's normal to the line

/// A point as the centre line sees it.
struct Seen {
  double along;   ///< mm from the start of the line
  double off;     ///< mm from the line
  double turn;    ///< rad about it
  double faces;   ///< cosine of the normal to the direction off the line
  double across;  ///< cosine of the normal to the line
  bool straight;
};

/// The centre line with straight ends that go on.
class Ruler {
 public:
  Ruler(const Centreline& line, double beyond) {
    const auto add = [&](const Piece& piece, double begin) {
      Vec3 side = turned_.empty() ? Vec3(piece.direction(0).unitOrthogonal())
                                  : Vec3(turned_.back().end_side);
      const Vec3 ahead = piece.direction(0);
      side = (side - side.dot(ahead) * ahead).normalized();
      const Vec3 end_side =
          piece.straight ? side : Vec3(Eigen::AngleAxisd(piece.angle(), piece.axis) * side);
      turned_.push_back({piece, begin, piece.length(), side, end_side});
    };
    const Piece& first = line.pieces.front();
    if (!line.closed) add(straight_piece(first.a - beyond * first.direction(0), first.a), -beyond);
    double begin = 0;
    for (const Piece& piece : line.pieces) {
      add(piece, begin);
      begin += piece.length();
    }
    const Piece& last = line.pieces.back();
    if (!line.closed) add(straight_piece(last.b, last.b + beyond * last.direction(1)), begin);
  }

  [[nodiscard]] Seen see(const Vec3& p, const Vec3& normal) const {
    Seen best{};
    best.off = 1e300;
    for (const Turned& t : turned_) {
      const double share = t.piece.share_of(p);
      const Vec3 foot = t.piece.at(share);
      const Vec3 out = p - foot;
      const double off = out.norm();
      if (off >= best.off) continue;
      const Vec3 ahead = t.piece.direction(share);
      const Vec3 side =
          t.piece.straight
              ? t.side
              : Vec3(Eigen::AngleAxisd(share * t.piece.angle(), t.piece.axis) * t.side);
      best = {t.begin + share * t.length,
              off,
              std::atan2(out.dot(ahead.cross(side)), out.dot(side)),
              off > 0 ? normal.dot(out) / off : 0,
              normal.dot(ahead),
              t.piece.straight};
    }
    return best;
  }

 private:
  struct Turned {
    Piece piece;
    double begin, length;
    Vec3 side, end_side;  ///< from which turns are counted, at its start and its end
  };
  std::vector<Turned> turned_;
};

/// Radius, and where the stretch is straight an offset across, of wall points.
struct Ring {
  double radius = 0, u_radius = 0, rms = 0;
  std::size_t points = 0;
};
Ring fit_ring(const std::vector<Seen>& wall, double spacing) {
  const bool offset =
      std::all_of(wall.begin(), wall.end(), [](const Seen& s) { return s.straight; });
  const Eigen::Index n = offset ? 3 : 1;
  std::vector<double> offs;
  for (const Seen& s : wall) offs.push_back(s.off);
  Eigen::VectorXd x = Eigen::VectorXd::Zero(n);
  x[0] = median(offs);
  const auto row = [&](const Seen& s) {
    Eigen::VectorXd r(n);
    r[0] = 1;
    if (offset) r.tail<2>() << std::cos(s.turn), std::sin(s.turn);
    return r;
  };
  Eigen::MatrixXd hessian(n, n);
  double cut = 0;
  for (int round = 0; round < 12; ++round) {
    std::vector<double> sizes;
    for (const Seen& s : wall) sizes.push_back(std::abs(s.off - row(s).dot(x)));
    cut = 4.685 * 1.4826 * median(sizes) + 1e-12 * x[0];
    hessian.setZero();
    Eigen::VectorXd gradient = Eigen::VectorXd::Zero(n);
    for (const Seen& s : wall) {
      const Eigen::VectorXd a = row(s);
      const double r = s.off - a.dot(x);
      if (std::abs(r) >= cut) continue;
      const double weight = std::pow(1 - r * r / (cut * cut), 2);
      hessian += weight * a * a.transpose();
      gradient += weight * r * a;
    }
    const Eigen::VectorXd step = hessian.ldlt().solve(gradient);
    if (!step.allFinite()) break;
    x += step;
    if (step.norm() < 1e-10 * x[0]) break;
  }
  // Points within three spacings share their noise. The slope of Tukey's influence stands where the
  // curvature of a plain sum of squares would.
  Eigen::MatrixXd slopes = Eigen::MatrixXd::Zero(n, n);
  std::map<std::pair<long, long>, Eigen::VectorXd> clusters;
  Ring ring;
  ring.radius = x[0];
  double sum = 0;
  for (const Seen& s : wall) {
    const Eigen::VectorXd a = row(s);
    const double r = s.off - a.dot(x);
    if (std::abs(r) >= cut) continue;
    const double weight = std::pow(1 - r * r / (cut * cut), 2);
    const double cell = 3 * spacing;
    const std::pair key(std::lround(s.along / cell), std::lround(s.turn * ring.radius / cell));
    auto [it, made] = clusters.try_emplace(key, Eigen::VectorXd::Zero(n));
    it->second += weight * r * a;
    const double share = r * r / (cut * cut);
    slopes += (1 - share) * (1 - 5 * share) * a * a.transpose();
    sum += r * r;
    ++ring.points;
  }
  ring.rms = std::sqrt(sum / std::max<double>(static_cast<double>(ring.points), 1));
  Eigen::MatrixXd meat = Eigen::MatrixXd::Zero(n, n);
  for (const auto& [key, g] : clusters) meat += g * g.transpose();
  const auto count = static_cast<double>(clusters.size());
  const double few = count > static_cast<double>(n) ? count / (count - static_cast<double>(n)) : 1;
  const Eigen::MatrixXd inverse = slopes.inverse();
  ring.u_radius = 2 * std::sqrt(std::max(0.0, few * (inverse * meat * inverse)(0, 0)));
  return ring;
}

struct End {
  double at, u;
};
/// Where one end lies: at the face across the pipe that ends it, where the scan shows one.
/// @param looks  +1 at the end of the stretch, -1 at its start.
End end_at(const std::vector<Seen>& near, double rough, double radius, double pipe_radius,
           int looks, double spacing) {
  // The face reaches from the pipe's wall to the collar's; of a reduced stretch it looks inwards,
  // and a free end may have one to the axis.
  const double low = std::min(radius, pipe_radius);
  const double high = std::max(radius, pipe_radius);
  const double margin = std::min(0.5 * spacing, 0.2 * (high - low));
  std::vector<double> places;
  for (const Seen& s : near) {
    if (std::abs(s.along - rough) > 2.5 * spacing || std::abs(s.across) < kAcross) continue;
    const bool ends_it = s.off < radius - margin && looks * s.across > 0;
    const bool between = s.off > low + margin && s.off < high - margin;
    if (ends_it || between) places.push_back(s.along);
  }
  constexpr std::size_t kFewest = 8;
  if (places.size() < kFewest) return {rough, spacing};
  const double at = median(places);
  std::vector<double> sizes;
  for (const double p : places) sizes.push_back(std::abs(p - at));
  // Neighbours share their noise: nine points weigh as one.
  const double count = std::max(1.0, static_cast<double>(places.size()) / 9);
  return {at, 2 * 1.2533 * 1.4826 * median(sizes) / std::sqrt(count)};
}

}  // namespace

Result<Collar> find_collar(const std::vector<Vec3>& points, const std::vector<Vec3>& normals,
                           const Centreline& line, const Vec3& place,
                           const CentrelineOptions& options) {
  if (line.pieces.empty() || points.size() != normals.size())
    return Error{ErrorCode::InvalidInput, "The pipe has no centre line to read along."};
  // The nearest point that has a normal.
  std::size_t nearest = points.size();
  for (std::size_t i = 0; i < points.size(); ++i) {
    if (normals[i].squaredNorm() < 0.5) continue;
    if (nearest == points.size() ||
        (points[i] - place).squaredNorm() < (points[nearest] - place).squaredNorm())
      nearest = i;
  }
  if (nearest == points.size())
    return Error{ErrorCode::NotFound, "No surface of the scan lies near the place."};
  const Ruler about(line, 1e-3 * line.radius);
  const double reach =
      std::max(4 * line.radius, 1.5 * about.see(points[nearest], Vec3::Zero()).off);
  const Ruler ruler(line, 4 * reach);
  const Seen seed = ruler.see(points[nearest], normals[nearest]);
  const int side = seed.faces < 0 ? -1 : 1;
  if (side * seed.faces < kRunsAlong || seed.off > reach)
    return Error{ErrorCode::Degenerate,
                 "The surface there does not run along the pipe. Click the round wall of the "
                 "stretch that has another radius."};
  const double far = 2 * seed.off + line.radius;
  Box3 box;  // about the line and its straight ends
  for (const Vec3& p : line.points_along(line.radius)) box.extend(p);
  const Vec3 margin = Vec3::Constant(far + 4 * reach);
  box = Box3(box.min() - margin, box.max() + margin);
  std::vector<Seen> near;  // what looks along or across the pipe
  for (std::size_t i = 0; i < points.size(); ++i) {
    if (normals[i].squaredNorm() < 0.5 || !box.contains(points[i])) continue;
    const Seen s = ruler.see(points[i], normals[i]);
    if (s.off < far && (side * s.faces > kRunsAlong || std::abs(s.across) > kAcross))
      near.push_back(s);
  }
  const auto wall_within = [&](double low, double high, double radius, double tolerance) {
    std::vector<Seen> wall;
    for (const Seen& s : near) {
      if (s.along > low && s.along < high && side * s.faces > kRunsAlong &&
          std::abs(s.off - radius) < tolerance)
        wall.push_back(s);
    }
    return wall;
  };
  // The radius near the place, then what goes on with it.
  double spacing = options.spacing;
  if (!(spacing > 0))
    spacing = std::sqrt(2 * kPi * line.radius * std::max(line.length(), line.radius) /
                        static_cast<double>(points.size()));
  std::vector<double> offs;
  for (const Seen& s :
       wall_within(seed.along - 2 * spacing, seed.along + 2 * spacing, seed.off, 0.1 * seed.off))
    offs.push_back(s.off);
  const double radius = median(offs);
  std::vector<double> scatter;
  for (const double off : offs) scatter.push_back(std::abs(off - radius));
  const double noise = std::max(options.noise, 1.4826 * median(scatter));
  const double step = std::abs(radius - line.radius);
  if (offs.size() < 8)
    return Error{ErrorCode::Degenerate, "Too few points of the scan lie round the pipe there."};
  if ((side < 0) == line.hollow && step < std::max(4 * noise, 0.02 * line.radius))
    return Error{ErrorCode::InvalidInput, "The pipe has its own radius of " +
                                              format_trimmed(line.radius, 2) +
                                              " mm there. Click where it is thicker or thinner."};
  const double tolerance =
      std::max(5 * noise, std::min(0.06 * radius, step > 0 ? 0.4 * step : 0.06 * radius));
  const std::vector<Seen> all = wall_within(-1e300, 1e300, radius, tolerance);
  std::map<long, int> bins;
  for (const Seen& s : all) ++bins[std::lround(std::floor(s.along / spacing))];
  const long at = std::lround(std::floor(seed.along / spacing));
  std::vector<double> counts;
  for (long k = at - 2; k <= at + 2; ++k) {
    if (bins.contains(k)) counts.push_back(bins[k]);
  }
  const double least = std::max(2.0, 0.2 * median(counts));
  const long gap = std::max<long>(2, std::lround(0.2 * radius / spacing));
  const auto grow = [&](int way) {
    long last = at;
    for (long k = at; std::abs(k - last) <= gap; k += way) {
      const auto it = bins.find(k);
      if (it != bins.end() && it->second >= least) last = k;
    }
    return last;
  };
  const double low = static_cast<double>(grow(-1)) * spacing;
  const double high = static_cast<double>(grow(1) + 1) * spacing;
  Collar collar;
  collar.hollow = side < 0;
  // Rows next to the ends share what the scanner rounded.
  const double inner = std::min(spacing, 0.25 * (high - low));
  std::vector<Seen> wall = wall_within(low + inner, high - inner, radius, tolerance);
  if (wall.size() < 20) wall = wall_within(low, high, radius, tolerance);
  const Ring ring = fit_ring(wall, spacing);
  collar.radius = ring.radius;
  collar.u_radius = ring.u_radius;
  collar.rms = ring.rms;
  collar.points = ring.points;
  const End from = end_at(near, low, collar.radius, line.radius, -1, spacing);
  const End to = end_at(near, high, collar.radius, line.radius, 1, spacing);
  collar.from = from.at;
  collar.u_from = from.u;
  collar.to = to.at;
  collar.u_to = to.u;
  return collar;
}

}  // namespace lostline::pipe
