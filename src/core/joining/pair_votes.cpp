#include "joining/pair_votes.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <unordered_map>

#include "base/parallel.h"
#include "cloud/neighbours.h"
#include "datum/place_search.h"

namespace lostline::joining {
namespace {

constexpr int kAngles = 15;           // classes of an angle between 0 and 180 degrees
constexpr int kTurns = 36;            // classes of the turn about a normal
constexpr std::size_t kCrowd = 4000;  // pairs of one kind: more are the flats that tell nothing

struct Oriented {
  Vec3 at;
  Vec3 normal;
};

/// Points far apart enough that about `count` are left.
std::vector<Oriented> spread(const Piece& piece, std::size_t count) {
  std::vector<Vec3> places;
  for (std::size_t k = 0; k < piece.sample.size(); ++k) places.push_back(piece.point(k));
  double apart = std::sqrt(piece.area / static_cast<double>(count));
  std::vector<std::uint32_t> kept = cloud::thinned(places, apart);
  while (kept.size() > 1.2 * static_cast<double>(count)) {
    apart *= 1.2;
    kept = cloud::thinned(places, apart);
  }
  std::vector<Oriented> points;
  for (const std::uint32_t k : kept) points.push_back({piece.point(k), piece.normal(k)});
  return points;
}

/// Distance and the three angles of two points with normals, in classes; none for two on one plane.
struct Pair {
  std::uint32_t key = 0;
  bool tells = false;
};
Pair pair_of(const Oriented& a, const Oriented& b, double step) {
  const Vec3 d = b.at - a.at;
  const double length = d.norm();
  if (!(length > step)) return {};
  const auto angle = [](double cosine) { return std::acos(std::clamp(cosine, -1.0, 1.0)); };
  const double first = angle(a.normal.dot(d) / length);
  const double second = angle(b.normal.dot(d) / length);
  const double between = angle(a.normal.dot(b.normal));
  const double flat = 6 * kDegree;
  if (between < flat && std::abs(first - std::numbers::pi / 2) < flat) return {};
  const auto in_class = [](double a_) {
    return static_cast<std::uint32_t>(
        std::min(kAngles - 1, static_cast<int>(a_ / std::numbers::pi * kAngles)));
  };
  const auto distance = static_cast<std::uint32_t>(length / step);
  return {((distance * kAngles + in_class(first)) * kAngles + in_class(second)) * kAngles +
              in_class(between),
          true};
}

/// Lays a point at the origin with its normal along x.
Transform laid(const Oriented& p) {
  Transform t = Transform::Identity();
  t.linear() = Eigen::Quaterniond::FromTwoVectors(p.normal, Vec3::UnitX()).toRotationMatrix();
  t.translation() = -(t.linear() * p.at);
  return t;
}
double turn_of(const Transform& frame, const Vec3& other) {
  const Vec3 p = frame * other;
  return std::atan2(-p.z(), p.y());
}

struct Voted {
  Transform motion;
  double votes;
};

}  // namespace

std::vector<Transform> vote_by_pairs(const Piece& first, const Piece& second,
                                     const VotesOptions& options, const Task& task) {
  const std::vector<Oriented> from = spread(first, options.points);
  const std::vector<Oriented> to = spread(second, options.points);
  if (from.size() < 20 || to.size() < 20) return {};
  const double size = std::max(first.size, second.size);
  const double step = size / 25;
  struct Entry {
    std::uint32_t reference;
    float turn;
  };
  std::unordered_map<std::uint32_t, std::vector<Entry>> table;
  std::vector<Transform> frames;
  for (const Oriented& p : to) frames.push_back(laid(p));
  for (std::uint32_t i = 0; i < to.size(); ++i) {
    if (i % 64 == 0 && task.stopped()) return {};
    for (std::uint32_t j = 0; j < to.size(); ++j) {
      if (i == j) continue;
      const Pair pair = pair_of(to[i], to[j], step);
      if (!pair.tells) continue;
      auto& list = table[pair.key];
      if (list.size() <= kCrowd)
        list.push_back({i, static_cast<float>(turn_of(frames[i], to[j].at))});
    }
  }
  task.report(0.3);
  const std::size_t stride = std::max<std::size_t>(1, from.size() / options.references);
  const std::size_t asking = (from.size() + stride - 1) / stride;
  std::vector<std::vector<Voted>> found(asking);
  parallel_for(asking, 2, [&](std::size_t begin, std::size_t end) {
    std::vector<float> votes(to.size() * kTurns);
    for (std::size_t q = begin; q < end; ++q) {
      if (task.stopped()) return;
      const Oriented& reference = from[q * stride];
      const Transform frame = laid(reference);
      std::fill(votes.begin(), votes.end(), 0.0F);
      for (std::size_t j = 0; j < from.size(); ++j) {
        if (j == q * stride) continue;
        const Pair pair = pair_of(reference, from[j], step);
        if (!pair.tells) continue;
        const auto list = table.find(pair.key);
        if (list == table.end() || list->second.size() > kCrowd) continue;
        const double turn = turn_of(frame, from[j].at);
        // What many pairs are like says less of each.
        const auto weight =
            static_cast<float>(1 / std::sqrt(static_cast<double>(list->second.size())));
        for (const Entry& e : list->second) {
          double by = (turn - static_cast<double>(e.turn)) / (2 * std::numbers::pi);
          by -= std::floor(by);
          const auto k = static_cast<std::size_t>(by * kTurns) % kTurns;
          votes[e.reference * kTurns + k] += weight;
        }
      }
      for (int peak = 0; peak < 3; ++peak) {
        const auto best = std::max_element(votes.begin(), votes.end());
        if (!(*best > 0)) break;
        const auto at = static_cast<std::size_t>(best - votes.begin());
        const std::size_t model = at / kTurns;
        const double turn =
            (static_cast<double>(at % kTurns) + 0.5) / kTurns * 2 * std::numbers::pi;
        // The second's frame, turned about x so that the other points coincide.
        Transform about = Transform::Identity();
        about.linear() = Eigen::AngleAxisd(turn, Vec3::UnitX()).toRotationMatrix();
        found[q].push_back({frames[model].inverse() * about * frame, static_cast<double>(*best)});
        *best = 0;
      }
    }
  });
  if (task.stopped()) return {};
  std::vector<Voted> all;
  for (const auto& list : found) all.insert(all.end(), list.begin(), list.end());
  std::stable_sort(all.begin(), all.end(),
                   [](const Voted& a, const Voted& b) { return a.votes > b.votes; });
  // Motions that are nearly one vote together.
  std::vector<Voted> kept;
  for (const Voted& v : all) {
    const auto same = std::find_if(kept.begin(), kept.end(), [&](const Voted& k) {
      return (k.motion * first.centre - v.motion * first.centre).norm() < 0.06 * size &&
             datum::angle_of(k.motion.linear().transpose() * v.motion.linear()) < 12 * kDegree;
    });
    if (same != kept.end()) {
      // The middle of those that agree, by their votes.
      const double share = v.votes / (same->votes + v.votes);
      const Vec3 at =
          (1 - share) * (same->motion * first.centre) + share * (v.motion * first.centre);
      const Eigen::Quaterniond turn = Eigen::Quaterniond(same->motion.linear())
                                          .slerp(share, Eigen::Quaterniond(v.motion.linear()));
      same->motion.linear() = turn.normalized().toRotationMatrix();
      same->motion.translation() = at - same->motion.linear() * first.centre;
      same->votes += v.votes;
    } else if (kept.size() < 2000)
      kept.push_back(v);
  }
  std::stable_sort(kept.begin(), kept.end(),
                   [](const Voted& a, const Voted& b) { return a.votes > b.votes; });
  if (kept.size() > options.most) kept.resize(options.most);
  std::vector<Transform> motions;
  for (const Voted& v : kept) motions.push_back(v.motion);
  task.report(1);
  return motions;
}

}  // namespace lostline::joining
