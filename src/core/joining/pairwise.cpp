#include "joining/pairwise.h"

#include <algorithm>
#include <cmath>

#include "datum/place_search.h"
#include "joining/adjust.h"
#include "joining/pair_votes.h"
#include "joining/surface_places.h"

namespace lostline::joining {
namespace {

/// Nearer agrees: several times what noise and the distance between points leave.
double tolerance_of(const Piece& a, const Piece& b) {
  return std::max({4 * std::hypot(a.noise, b.noise), 0.1 * std::max(a.spacing, b.spacing),
                   2e-4 * std::max(a.size, b.size)});
}
/// Whether an overlap is enough to lay one scan on another.
bool convinces(const Overlap& overlap, const Piece& a, const Piece& b) {
  constexpr std::size_t kPoints = 60;
  return overlap.agrees > kLeast * std::min(a.area, b.area) && overlap.points > kPoints &&
         overlap.contradicts < kContradicts * overlap.agrees;
}

/// Whether nothing speaks against a way that convinces: of scans that lie right nothing
/// contradicts.
bool holds(const Overlap& overlap, const Piece& a, const Piece& b) {
  constexpr double kNothing = 0.001;  // of what agrees: a point or two
  return convinces(overlap, a, b) && overlap.contradicts <= kNothing * overlap.agrees;
}

class Pairwise {
 public:
  Pairwise(const Piece& first, const Piece& second) : first_(first), second_(second) {}

  std::vector<Way> ways(const Task& task) {
    const std::vector<Transform> starts = places_by_surfaces(first_, second_, 400, task);
    if (task.stopped()) return {};
    settle(starts, 0.03, task);
    // Where surfaces of known types leave it open, the shape itself is asked.
    if (!found() || open()) {
      settle(vote_by_pairs(first_, second_, {}, task), kVoted, task);
      std::vector<Transform> back;
      for (const Transform& motion : vote_by_pairs(second_, first_, {}, task))
        back.push_back(motion.inverse());
      settle(back, kVoted, task);
    }
    return ways_;
  }

 private:
  static constexpr double kVoted = 0.1;  // of the size: how far motions by votes are off

  [[nodiscard]] bool found() const {
    return !ways_.empty() && holds(ways_.front().overlap, first_, second_);
  }
  [[nodiscard]] bool open() const {
    return ways_.size() > 1 && ways_[1].overlap.worth() > 0.8 * ways_[0].overlap.worth();
  }
  /// Judges starts roughly, draws the best on to the surface, judges again.
  /// @param off  share of the size that the starts may be off by.
  void settle(const std::vector<Transform>& starts, double off, const Task& task) {
    const double size = std::max(first_.size, second_.size);
    struct Start {
      Transform motion;
      double worth;
    };
    std::vector<Start> judged;
    OverlapOptions rough;
    rough.tolerance = std::max(0.012, 0.4 * off) * size;
    rough.far = 2 * rough.tolerance;
    rough.most = 300;
    for (const Transform& motion : starts) {
      if (task.stopped()) return;
      const Overlap overlap = overlap_of(first_, second_, motion, rough);
      // Rough poses contradict at edges without reason.
      judged.push_back({motion, overlap.agrees - overlap.contradicts});
    }
    std::stable_sort(judged.begin(), judged.end(),
                     [](const Start& a, const Start& b) { return a.worth > b.worth; });
    // Motions by votes are few, and too far off to be judged before they are drawn on.
    const std::size_t enough = off < kVoted ? 14 : 30;
    constexpr std::size_t kMostTried = 60;  // where the first ones leave doubts
    std::vector<Transform> tried;
    for (const Start& start : judged) {
      if (task.stopped() || tried.size() >= kMostTried) break;
      if (tried.size() == enough) sort();
      if (tried.size() >= enough && found()) break;
      const auto known = [&](const Transform& t) { return alike(t, start.motion, first_, 0.015); };
      if (std::any_of(tried.begin(), tried.end(), known)) continue;
      tried.push_back(start.motion);
      AdjustOptions options;
      options.search = off * size;
      options.most_rounds = 30;
      options.stride = std::max<std::size_t>(1, first_.with_edges.size() / 1200);
      options.few_do = true;
      const auto drawn =
          adjust({&second_, &first_}, {Transform::Identity(), start.motion}, options, {});
      if (!drawn) continue;
      Way way{drawn->poses[1], {}};
      const auto same = [&](const Way& w) { return alike(w.motion, way.motion, first_, 0.005); };
      if (std::any_of(ways_.begin(), ways_.end(), same)) continue;
      way.overlap = overlap_both(first_, second_, way.motion, fine(first_, second_));
      const bool better = ways_.empty() || way.overlap.worth() > ways_.front().overlap.worth();
      ways_.insert(better ? ways_.begin() : ways_.end(), std::move(way));
    }
    sort();
    constexpr std::size_t kKept = 8;
    if (ways_.size() > kKept) ways_.resize(kKept);
  }

  void sort() {
    std::stable_sort(ways_.begin(), ways_.end(), [](const Way& a, const Way& b) {
      return a.overlap.worth() > b.overlap.worth();
    });
  }

  const Piece& first_;
  const Piece& second_;
  std::vector<Way> ways_;
};

}  // namespace

std::vector<Way> ways_of(const Piece& first, const Piece& second, const Task& task) {
  return Pairwise(first, second).ways(task);
}

OverlapOptions fine(const Piece& a, const Piece& b) {
  OverlapOptions options;
  options.tolerance = tolerance_of(a, b);
  options.far = std::max(10 * options.tolerance, 0.015 * std::max(a.size, b.size));
  return options;
}

bool alike(const Transform& a, const Transform& b, const Piece& piece, double share) {
  const double size = piece.size;
  return (a * piece.centre - b * piece.centre).norm() < share * size &&
         datum::angle_of(a.linear().transpose() * b.linear()) < share * 100 * kDegree;
}

}  // namespace lostline::joining
