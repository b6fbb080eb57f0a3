#include "joining/surface_places.h"

#include <algorithm>
#include <cmath>

#include "base/linear.h"
#include "datum/place_search.h"

namespace lostline::joining {
namespace {

/// Surfaces that share a direction: planes look one way, axes have no sense.
struct Family {
  Vec3 axis;
  bool sense;
  double weight;
};

std::vector<Family> families_of(const std::vector<datum::Found>& found, std::size_t most) {
  std::vector<Family> families;
  for (const datum::Found& f : found) {
    const bool plane = fit::is_flat(f.surface.kind);
    if (!plane && !fit::is_turned(f.surface.kind)) continue;
    const auto same = std::find_if(families.begin(), families.end(), [&](const Family& k) {
      const double cosine = k.axis.dot(f.surface.axis);
      return k.sense == plane && (plane ? cosine : std::abs(cosine)) > std::cos(1 * kDegree);
    });
    // A short band tells its direction badly, but there are few of them.
    if (same != families.end())
      same->weight += f.area;
    else
      families.push_back({f.surface.axis, plane, f.area});
  }
  std::stable_sort(families.begin(), families.end(),
                   [](const Family& a, const Family& b) { return a.weight > b.weight; });
  if (families.size() > most) families.resize(most);
  return families;
}

struct Turn {
  Eigen::Matrix3d rotation;
  double weight;
};

/// The lighter of each two families that a turn lays on each other, added up.
double agreement(const Eigen::Matrix3d& rotation, const std::vector<Family>& from,
                 const std::vector<Family>& to) {
  double sum = 0;
  for (const Family& f : from) {
    double best = 0;
    for (const Family& t : to) {
      const double cosine = (rotation * f.axis).dot(t.axis);
      if (f.sense == t.sense && (f.sense ? cosine : std::abs(cosine)) > std::cos(2 * kDegree))
        best = std::max(best, std::min(f.weight, t.weight));
    }
    sum += best;
  }
  return sum;
}

void keep_turn(std::vector<Turn>& turns, const Turn& turn) {
  const auto same = std::find_if(turns.begin(), turns.end(), [&](const Turn& t) {
    return datum::angle_of(t.rotation.transpose() * turn.rotation) < 2 * kDegree;
  });
  if (same == turns.end())
    turns.push_back(turn);
  else if (turn.weight > same->weight)
    *same = turn;
}

std::vector<Turn> turns_of(const std::vector<Family>& from, const std::vector<Family>& to) {
  std::vector<Turn> turns;
  const auto senses = [](const Family& f) {
    return f.sense ? std::vector<double>{1} : std::vector<double>{1, -1};
  };
  for (std::size_t a = 0; a < from.size(); ++a) {
    for (std::size_t b = a + 1; b < from.size(); ++b) {
      const double want = std::acos(std::clamp(from[a].axis.dot(from[b].axis), -1.0, 1.0));
      if (want < 20 * kDegree || want > 160 * kDegree) continue;
      for (std::size_t c = 0; c < to.size(); ++c) {
        if (to[c].sense != from[a].sense) continue;
        for (std::size_t d = 0; d < to.size(); ++d) {
          if (d == c || to[d].sense != from[b].sense) continue;
          for (const double sa : senses(to[c])) {
            for (const double sb : senses(to[d])) {
              const Vec3 u = sa * to[c].axis;
              const Vec3 v = sb * to[d].axis;
              const double have = std::acos(std::clamp(u.dot(v), -1.0, 1.0));
              if (std::abs(want - have) > 2 * kDegree) continue;
              const Eigen::Matrix3d rotation =
                  datum::rotation_by_pairs(from[a].axis, from[b].axis, u, v);
              keep_turn(turns, {rotation, agreement(rotation, from, to)});
            }
          }
        }
      }
    }
  }
  if (turns.empty() && !from.empty()) {
    // One direction only: the turn about it is tried all round.
    for (const Family& t : to) {
      if (t.sense != from[0].sense) continue;
      for (const double sense : senses(t)) {
        const Vec3 axis = sense * t.axis;
        const Eigen::Matrix3d base = rotation_onto(from[0].axis, axis);
        for (int k = 0; k < 36; ++k) {
          const Eigen::Matrix3d rotation =
              Eigen::AngleAxisd(10 * k * kDegree, axis).toRotationMatrix() * base;
          turns.push_back({rotation, agreement(rotation, from, to)});
        }
      }
    }
  }
  std::stable_sort(turns.begin(), turns.end(),
                   [](const Turn& a, const Turn& b) { return a.weight > b.weight; });
  constexpr std::size_t kMost = 120;
  if (turns.size() > kMost) turns.resize(kMost);
  return turns;
}

/// Two holes as far from each other as two of the other scan, of the same sizes: turns that lay
/// them on each other, the more the more such pairs agree.
std::vector<Turn> turns_by_spacing(const std::vector<datum::Found>& from,
                                   const std::vector<datum::Found>& to, double near) {
  struct Two {
    const fit::Surface* a;
    const fit::Surface* b;
    Vec3 across;
  };
  const auto pairs_of = [&](const std::vector<datum::Found>& found) {
    std::vector<Two> pairs;
    for (const datum::Found& a : found) {
      for (const datum::Found& b : found) {
        if (&a == &b || a.surface.kind != fit::Kind::Cylinder ||
            b.surface.kind != fit::Kind::Cylinder ||
            fit::angle_between(a.surface.axis, b.surface.axis) > 3 * kDegree)
          continue;
        const Vec3 d = b.surface.point - a.surface.point;
        const Vec3 across = d - d.dot(a.surface.axis) * a.surface.axis;
        if (across.norm() > 8 * near) pairs.push_back({&a.surface, &b.surface, across});
      }
    }
    // The widest apart tell a turn best.
    std::stable_sort(pairs.begin(), pairs.end(), [](const Two& x, const Two& y) {
      return x.across.squaredNorm() > y.across.squaredNorm();
    });
    constexpr std::size_t kMost = 300;
    if (pairs.size() > kMost) pairs.resize(kMost);
    return pairs;
  };
  const auto alike = [&](const fit::Surface& x, const fit::Surface& y) {
    return x.hollow == y.hollow && std::abs(x.radius - y.radius) < std::max(near, 0.03 * y.radius);
  };
  std::vector<Turn> turns;
  const std::vector<Two> there = pairs_of(to);
  for (const Two& f : pairs_of(from)) {
    for (const Two& t : there) {
      if (std::abs(f.across.norm() - t.across.norm()) > near || !alike(*f.a, *t.a) ||
          !alike(*f.b, *t.b))
        continue;
      for (const double sense : {1.0, -1.0}) {
        const Eigen::Matrix3d rotation = datum::rotation_by_pairs(
            f.a->axis, f.across.normalized(), sense * t.a->axis, t.across.normalized());
        const auto same = std::find_if(turns.begin(), turns.end(), [&](const Turn& k) {
          return datum::angle_of(k.rotation.transpose() * rotation) < 1.5 * kDegree;
        });
        if (same != turns.end())
          same->weight += 1;
        else
          turns.push_back({rotation, 1});
      }
    }
  }
  std::stable_sort(turns.begin(), turns.end(),
                   [](const Turn& a, const Turn& b) { return a.weight > b.weight; });
  constexpr std::size_t kMost = 60;
  if (turns.size() > kMost) turns.resize(kMost);
  return turns;
}

/// Two surfaces that a turn lays parallel: what shift lays them on each other.
struct Match {
  const datum::Found* first;
  const datum::Found* second;
  Vec3 from;  ///< a point of the first's surface, turned
  double weight;
  bool plane;
};

/// How far two matched surfaces lie from each other after a shift, mm; and whether their areas can
/// overlap at all.
bool laid(const Match& m, const Eigen::Matrix3d& rotation, const Vec3& shift, double near) {
  const fit::Surface& to = m.second->surface;
  const Vec3 d = m.from + shift - to.point;
  if (m.plane) {
    if (std::abs(d.dot(to.axis)) > near) return false;
  } else if ((d - d.dot(to.axis) * to.axis).norm() > near) {
    return false;
  }
  const Vec3 apart = rotation * m.first->centre + shift - m.second->centre;
  const double reach = 1.5 * (std::sqrt(m.first->area) + std::sqrt(m.second->area));
  return apart.norm() < reach;
}

class Shifts {
 public:
  Shifts(const Piece& first, const Piece& second, const Eigen::Matrix3d& rotation, double near)
      : first_(first), second_(second), rotation_(rotation), near_(near) {
    for (const datum::Found& a : first.found) {
      const Vec3 axis = rotation * a.surface.axis;
      for (const datum::Found& b : second.found) {
        const bool plane = fit::is_flat(a.surface.kind);
        if (plane != fit::is_flat(b.surface.kind)) continue;
        if (!plane && (!fit::is_turned(a.surface.kind) || a.surface.kind != b.surface.kind))
          continue;
        const double cosine = axis.dot(b.surface.axis);
        if ((plane ? cosine : std::abs(cosine)) < std::cos(3 * kDegree)) continue;
        if (!plane && (a.surface.hollow != b.surface.hollow ||
                       (a.surface.kind == fit::Kind::Cylinder &&
                        std::abs(a.surface.radius - b.surface.radius) >
                            std::max(near, 0.02 * b.surface.radius))))
          continue;
        // At the middle of the area: a turn that is a little off tells most there.
        const Vec3 from = rotation * (plane ? a.centre : a.surface.point);
        matches_.push_back({&a, &b, from, std::min(a.area, b.area), plane});
      }
    }
    std::stable_sort(matches_.begin(), matches_.end(),
                     [](const Match& a, const Match& b) { return a.weight > b.weight; });
    constexpr std::size_t kMost = 250;
    if (matches_.size() > kMost) matches_.resize(kMost);
  }

  /// Shifts with the area that each lays on alike surfaces.
  std::vector<std::pair<Vec3, double>> best(std::size_t most) {
    std::vector<Vec3> directions = independent();
    if (directions.empty()) return {};
    std::vector<std::vector<double>> offsets;
    for (const Vec3& d : directions) offsets.push_back(peaks(d));
    // Where a direction is open, the middles of both and some way to either side.
    Eigen::Matrix3d rows;
    for (int k = 0; k < 3; ++k) {
      if (k < static_cast<int>(directions.size())) {
        rows.row(k) = directions[static_cast<std::size_t>(k)].transpose();
        continue;
      }
      Vec3 free = k == 1 ? any_perpendicular(directions[0])
                         : Vec3(Vec3(rows.row(0).transpose())
                                    .cross(Vec3(rows.row(1).transpose()))
                                    .normalized());
      rows.row(k) = free.transpose();
      const double middle = free.dot(second_.centre - rotation_ * first_.centre);
      std::vector<double> spread;
      for (int s = -3; s <= 3; ++s) spread.push_back(middle + 0.1 * s * second_.size);
      offsets.push_back(spread);
    }
    const Eigen::Matrix3d inverse = rows.inverse();
    std::vector<std::pair<Vec3, double>> shifts;
    for (const double a : offsets[0]) {
      for (const double b : offsets[1]) {
        for (const double c : offsets[2]) {
          const Vec3 shift = inverse * Vec3(a, b, c);
          double sum = 0;
          for (const Match& m : matches_) {
            if (laid(m, rotation_, shift, 1.5 * near_)) sum += m.weight;
          }
          shifts.emplace_back(shift, sum);
        }
      }
    }
    std::stable_sort(shifts.begin(), shifts.end(),
                     [](const auto& x, const auto& y) { return x.second > y.second; });
    if (shifts.size() > most) shifts.resize(most);
    return shifts;
  }

 private:
  /// Up to three directions in which matches tell a shift, the weightiest first.
  [[nodiscard]] std::vector<Vec3> independent() const {
    struct Says {
      Vec3 direction;
      double weight;
    };
    std::vector<Says> all;
    const auto add = [&](const Vec3& d, double weight) {
      const auto same = std::find_if(all.begin(), all.end(), [&](const Says& s) {
        return std::abs(s.direction.dot(d)) > std::cos(3 * kDegree);
      });
      if (same != all.end())
        same->weight += weight;
      else
        all.push_back({d, weight});
    };
    for (const Match& m : matches_) {
      if (m.plane) add(m.second->surface.axis, m.weight);
    }
    for (const Match& m : matches_) {
      if (m.plane) continue;
      // Across an axis: along what planes there are, else any two.
      const Vec3& axis = m.second->surface.axis;
      const auto across = std::find_if(all.begin(), all.end(), [&](const Says& s) {
        return std::abs(s.direction.dot(axis)) < 0.05;
      });
      const Vec3 u = across != all.end() ? across->direction : any_perpendicular(axis);
      add(u, m.weight);
      add(axis.cross(u).normalized(), m.weight);
    }
    std::stable_sort(all.begin(), all.end(),
                     [](const Says& a, const Says& b) { return a.weight > b.weight; });
    std::vector<Vec3> chosen;
    std::vector<Vec3> span;
    for (const Says& s : all) {
      Vec3 rest = s.direction;
      for (const Vec3& held : span) rest -= held.dot(rest) * held;
      if (rest.norm() < 0.5) continue;
      chosen.push_back(s.direction);
      span.push_back(rest.normalized());
      if (chosen.size() == 3) break;
    }
    return chosen;
  }
  /// Offsets along a direction that most area agrees on.
  [[nodiscard]] std::vector<double> peaks(const Vec3& d) const {
    std::vector<std::pair<double, double>> votes;
    for (const Match& m : matches_) {
      const Vec3& axis = m.second->surface.axis;
      const double along = std::abs(axis.dot(d));
      if (m.plane ? along < std::cos(4 * kDegree) : along > 0.1) continue;
      votes.emplace_back(d.dot(m.second->surface.point - m.from), m.weight);
      if (m.plane) {
        // Planes by their own normal, measured along d.
        const double off = axis.dot(m.second->surface.point - m.from);
        votes.back().first = off / axis.dot(d);
      }
    }
    std::sort(votes.begin(), votes.end());
    std::vector<std::pair<double, double>> groups;  // weight, offset
    for (std::size_t i = 0; i < votes.size();) {
      double weight = 0;
      double sum = 0;
      std::size_t k = i;
      for (; k < votes.size() && votes[k].first - votes[i].first < near_; ++k) {
        weight += votes[k].second;
        sum += votes[k].second * votes[k].first;
      }
      groups.emplace_back(weight, sum / weight);
      i = k;
    }
    std::stable_sort(groups.begin(), groups.end(),
                     [](const auto& a, const auto& b) { return a.first > b.first; });
    constexpr std::size_t kMost = 10;
    std::vector<double> offsets;
    for (std::size_t k = 0; k < std::min(kMost, groups.size()); ++k)
      offsets.push_back(groups[k].second);
    return offsets;
  }

  const Piece& first_;
  const Piece& second_;
  Eigen::Matrix3d rotation_;
  double near_;
  std::vector<Match> matches_;
};

}  // namespace

std::vector<Transform> places_by_surfaces(const Piece& first, const Piece& second, std::size_t most,
                                          const Task& task) {
  const double near = 0.004 * std::max(first.size, second.size);
  const auto from = families_of(first.found, 9);
  const auto to = families_of(second.found, 16);
  struct Scored {
    Transform motion;
    double weight;
  };
  std::vector<Scored> all;
  std::vector<Turn> turns = turns_by_spacing(first.found, second.found, near);
  for (const Turn& turn : turns_of(from, to)) turns.push_back(turn);
  for (const Turn& turn : turns) {
    if (task.stopped()) return {};
    Shifts shifts(first, second, turn.rotation, near);
    constexpr std::size_t kEach = 40;
    for (const auto& [shift, weight] : shifts.best(kEach)) {
      Transform motion(turn.rotation);
      motion.translation() = shift;
      all.push_back({motion, weight});
    }
  }
  std::stable_sort(all.begin(), all.end(),
                   [](const Scored& a, const Scored& b) { return a.weight > b.weight; });
  std::vector<Transform> kept;
  for (const Scored& s : all) {
    const bool known = std::any_of(kept.begin(), kept.end(), [&](const Transform& k) {
      return (k * first.centre - s.motion * first.centre).norm() < 2 * near &&
             datum::angle_of(k.linear().transpose() * s.motion.linear()) < 2 * kDegree;
    });
    if (!known) kept.push_back(s.motion);
    if (kept.size() >= most) break;
  }
  return kept;
}

}  // namespace lostline::joining
