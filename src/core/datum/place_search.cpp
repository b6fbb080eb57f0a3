#include "datum/place_search.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "base/linear.h"
#include "base/parallel.h"

namespace lostline::datum {
namespace {

bool matched_kind(fit::Kind kind) { return fit::is_flat(kind) || fit::is_turned(kind); }

/// A direction that surfaces share: of plane normals, which have a sense, or of axes, which have
/// none.
struct Direction {
  Vec3 axis;
  bool sense = true;
  double weight = 0;
};

template <class Feature>
std::vector<Direction> directions_of(const std::vector<Feature>& features,
                                     const std::vector<double>& weights, std::size_t most) {
  std::vector<Direction> found;
  for (std::size_t i = 0; i < features.size(); ++i) {
    const fit::Surface& s = features[i].surface;
    if (!matched_kind(s.kind)) continue;
    const bool sense = fit::is_flat(s.kind);
    const auto same = std::find_if(found.begin(), found.end(), [&](const Direction& d) {
      const double cosine = d.axis.dot(s.axis);
      return d.sense == sense && (sense ? cosine : std::abs(cosine)) > std::cos(0.7 * kDegree);
    });
    if (same == found.end()) {
      found.push_back({s.axis, sense, weights[i]});
    } else {
      same->weight += weights[i];
    }
  }
  std::stable_sort(found.begin(), found.end(),
                   [](const Direction& a, const Direction& b) { return a.weight > b.weight; });
  if (found.size() > most) found.resize(most);
  return found;
}

void keep_best(std::vector<Scored>& list, std::size_t most, double angle, double shift,
               const Vec3& at) {
  std::stable_sort(list.begin(), list.end(),
                   [](const Scored& a, const Scored& b) { return a.score > b.score; });
  std::vector<Scored> kept;
  for (const Scored& s : list) {
    const bool known = std::any_of(kept.begin(), kept.end(), [&](const Scored& k) {
      return (k.motion * at - s.motion * at).norm() < shift &&
             angle_of(k.motion.linear().transpose() * s.motion.linear()) < angle;
    });
    if (!known) kept.push_back(s);
    if (kept.size() >= most) break;
  }
  list.swap(kept);
}

class Search {
 public:
  Search(const Target& target, const std::vector<Found>& found, const Cloud& cloud)
      : target_(target), cloud_(cloud), near_(nearness(target)) {
    for (const Found& f : found) {
      if (matched_kind(f.surface.kind)) found_.push_back(f);
    }
    std::stable_sort(found_.begin(), found_.end(), [](const Found& a, const Found& b) {
      return a.area * a.trust > b.area * b.trust;
    });
    if (found_.size() > 40) found_.resize(40);
    double weight = 0;
    for (std::size_t i = 0; i < cloud.points.size(); ++i) {
      middle_ += cloud.weight[i] * cloud.points[i];
      weight += cloud.weight[i];
    }
    if (weight > 0) middle_ /= weight;
    features_.assign(target.features.begin(),
                     target.features.begin() + static_cast<std::ptrdiff_t>(std::min<std::size_t>(
                                                   80, target.features.size())));
  }

  [[nodiscard]] bool hopeless() const { return found_.empty() || features_.empty(); }

  std::vector<Scored> run(const Transform& hint, const Task& task) {
    std::vector<Scored> places;
    for (const Scored& turn : turns()) {
      if (task.stopped()) return {};
      shifts(turn.motion.linear(), places);
    }
    places.push_back({hint, 1e300});
    keep_best(places, 160, 2 * kDegree, near_, middle_);
    parallel_for(places.size(), 1, [&](std::size_t begin, std::size_t end) {
      for (std::size_t i = begin; i < end; ++i) places[i].score = agreement(places[i].motion);
    });
    keep_best(places, 40, 2 * kDegree, near_, middle_);
    return places;
  }

 private:
  std::vector<Scored> turns() const {
    std::vector<double> scan_weight;
    for (const Found& f : found_) scan_weight.push_back(f.area * f.trust);
    std::vector<double> model_weight;
    for (const Target::Feature& f : features_) model_weight.push_back(f.area);
    const auto from = directions_of(found_, scan_weight, 10);
    const auto to = directions_of(features_, model_weight, 40);
    struct Two {
      std::size_t a, b;
      double weight;
    };
    std::vector<Two> pairs;
    for (std::size_t a = 0; a < from.size(); ++a) {
      for (std::size_t b = a + 1; b < from.size(); ++b) {
        const double angle = fit::angle_between(from[a].axis, from[b].axis);
        if (angle > 20 * kDegree)
          pairs.push_back({a, b, std::min(from[a].weight, from[b].weight) * std::sin(angle)});
      }
    }
    std::stable_sort(pairs.begin(), pairs.end(),
                     [](const Two& a, const Two& b) { return a.weight > b.weight; });
    if (pairs.size() > 5) pairs.resize(5);
    std::vector<Scored> turns;
    const auto offer = [&](const Eigen::Matrix3d& r) {
      double score = 0;
      for (const Direction& d : from) {
        double best = 0;
        for (const Direction& m : to) {
          const double cosine = (r * d.axis).dot(m.axis);
          if (d.sense == m.sense && (d.sense ? cosine : std::abs(cosine)) > std::cos(2 * kDegree))
            best = std::max(best, std::min(d.weight, m.weight));
        }
        score += best;
      }
      turns.push_back({Transform(r), score});
    };
    const auto senses = [](const Direction& d) {
      return d.sense ? std::vector<double>{1} : std::vector<double>{1, -1};
    };
    for (const Two& pair : pairs) {
      const Direction& a = from[pair.a];
      const Direction& b = from[pair.b];
      for (const Direction& ma : to) {
        if (ma.sense != a.sense) continue;
        for (const double sa : senses(a)) {
          for (const Direction& mb : to) {
            if (mb.sense != b.sense || &mb == &ma) continue;
            for (const double sb : senses(b)) {
              const double want = std::acos(std::clamp(a.axis.dot(b.axis), -1.0, 1.0));
              const double have = std::acos(std::clamp(sa * ma.axis.dot(sb * mb.axis), -1.0, 1.0));
              if (std::abs(want - have) < 1.5 * kDegree)
                offer(rotation_by_pairs(a.axis, b.axis, sa * ma.axis, sb * mb.axis));
            }
          }
        }
      }
      keep_best(turns, 80, 2 * kDegree, 1e9, Vec3::Zero());
    }
    by_spacing(offer);
    keep_best(turns, 120, 1 * kDegree, 1e9, Vec3::Zero());
    if (turns.empty()) {
      // All directions parallel: the turn about them is tried all round.
      for (const Direction& m : to) {
        if (m.sense != from[0].sense) continue;
        for (const double sense : senses(from[0])) {
          const Vec3 axis = sense * m.axis;
          const Eigen::Matrix3d base = rotation_by_pairs(
              from[0].axis, any_perpendicular(from[0].axis), axis, any_perpendicular(axis));
          for (int k = 0; k < 36; ++k)
            offer(Eigen::AngleAxisd(k * 10 * kDegree, axis).toRotationMatrix() * base);
        }
      }
      keep_best(turns, 150, 2 * kDegree, 1e9, Vec3::Zero());
    }
    return turns;
  }

  /// Two parallel axes a distance apart tell the turn about them: a bolt circle, a pair of dowels.
  template <class Offer>
  void by_spacing(const Offer& offer) const {
    struct Two {
      const fit::Surface* a;
      const fit::Surface* b;
      Vec3 across;  // from a to b, square to both
      double weight;
    };
    const auto pairs_of = [&](const auto& features) {
      std::vector<Two> pairs;
      for (const auto& a : features) {
        for (const auto& b : features) {
          if (&a == &b || !fit::is_turned(a.surface.kind) || !fit::is_turned(b.surface.kind))
            continue;
          if (fit::angle_between(a.surface.axis, b.surface.axis) > 1 * kDegree) continue;
          const Vec3 d = b.surface.point - a.surface.point;
          const Vec3 across = d - d.dot(a.surface.axis) * a.surface.axis;
          if (across.norm() > 2 * near_)
            pairs.push_back(
                {&a.surface, &b.surface, across, across.norm() * std::min(a.area, b.area)});
        }
      }
      return pairs;
    };
    std::vector<Two> from = pairs_of(found_);
    std::stable_sort(from.begin(), from.end(),
                     [](const Two& a, const Two& b) { return a.weight > b.weight; });
    if (from.size() > 8) from.resize(8);
    const std::vector<Two> to = pairs_of(features_);
    for (const Two& f : from) {
      for (const Two& m : to) {
        if (std::abs(f.across.norm() - m.across.norm()) > near_ || f.a->hollow != m.a->hollow ||
            f.b->hollow != m.b->hollow || std::abs(f.a->radius - m.a->radius) > near_ ||
            std::abs(f.b->radius - m.b->radius) > near_)
          continue;
        for (const double sense : {1.0, -1.0})
          offer(rotation_by_pairs(f.a->axis, f.across.normalized(), sense * m.a->axis,
                                  m.across.normalized()));
      }
    }
  }

  [[nodiscard]] bool alike(const fit::Surface& s, const Vec3& axis,
                           const Target::Feature& m) const {
    const fit::Surface& f = m.surface;
    const bool plane = fit::is_flat(s.kind);
    if (plane != fit::is_flat(f.kind)) return false;
    const double cosine = axis.dot(f.axis);
    if ((plane ? cosine : std::abs(cosine)) < std::cos(2.5 * kDegree)) return false;
    if (plane) return true;
    if (s.hollow != f.hollow) return false;
    if (std::abs(s.half_angle - std::abs(f.half_angle)) > 1.5 * kDegree) return false;
    if (s.kind == fit::Kind::Cylinder && f.kind == fit::Kind::Cylinder)
      return std::abs(s.radius - f.radius) < std::max(near_ / 3, 0.02 * f.radius);
    return true;
  }

  /// What holds a shift so far: rows n . t = o, found one surface after the other.
  struct Rows {
    Eigen::Matrix<double, 6, 3> normals = Eigen::Matrix<double, 6, 3>::Zero();
    Eigen::Matrix<double, 6, 1> offsets = Eigen::Matrix<double, 6, 1>::Zero();
    int count = 0;
    std::vector<Vec3> span;  ///< square directions held

    void add(const Vec3& normal, double offset) {
      if (count >= 6) return;
      normals.row(count) = normal.transpose();
      offsets[count++] = offset;
    }
  };
  /// The shifts of one turn.
  struct Turned {
    Eigen::Matrix3d turn;
    std::vector<Vec3> axes;                        ///< of the scan's surfaces, turned
    std::vector<std::vector<std::size_t>> alikes;  ///< features of the model like each of them
    std::vector<Scored> shifts;
    int tried = 0;
  };

  /// Directions along which a surface holds a shift.
  static std::vector<Vec3> held_by(const fit::Surface& s, const Vec3& axis) {
    if (fit::is_flat(s.kind)) return {axis};
    const Vec3 first = any_perpendicular(axis);
    return {first, axis.cross(first)};
  }
  /// `span` with what of the directions is new to it.
  static std::vector<Vec3> widened(std::vector<Vec3> span, const std::vector<Vec3>& directions) {
    for (Vec3 rest : directions) {
      for (const Vec3& held : span) rest -= held.dot(rest) * held;
      if (rest.norm() > 0.4) span.push_back(rest.normalized());
    }
    return span;
  }

  /// Shifts that bring some surfaces of the scan, turned, onto alike ones of the model.
  void shifts(const Eigen::Matrix3d& turn, std::vector<Scored>& places) const {
    Turned turned{turn,
                  std::vector<Vec3>(found_.size()),
                  std::vector<std::vector<std::size_t>>(found_.size()),
                  {},
                  0};
    for (std::size_t i = 0; i < found_.size(); ++i) {
      turned.axes[i] = turn * found_[i].surface.axis;
      for (std::size_t m = 0; m < features_.size() && turned.alikes[i].size() < 14; ++m) {
        if (alike(found_[i].surface, turned.axes[i], features_[m])) turned.alikes[i].push_back(m);
      }
    }
    for (std::size_t root = 0; root < std::min<std::size_t>(deepest(), 4); ++root)
      hold_next({}, root, turned);
    keep_best(turned.shifts, 30, 2 * kDegree, near_, middle_);
    places.insert(places.end(), turned.shifts.begin(), turned.shifts.end());
  }
  /// Surfaces of the scan that shifts are made from: the largest.
  [[nodiscard]] std::size_t deepest() const { return std::min<std::size_t>(found_.size(), 9); }

  /// Holds more of a shift by the first surface from `from` on that adds something, in each way it
  /// lies on one of the model's; others are tried as roots.
  void hold_next(const Rows& rows, std::size_t from, Turned& turned) const {
    constexpr int kMost = 3000;
    if (++turned.tried > kMost) return;
    for (std::size_t i = from; i < deepest(); ++i) {
      const fit::Surface& s = found_[i].surface;
      const std::vector<Vec3> normals = held_by(s, turned.axes[i]);
      const std::vector<Vec3> span = widened(rows.span, normals);
      if (span.size() == rows.span.size() || turned.alikes[i].empty()) continue;
      for (const std::size_t m : turned.alikes[i]) {
        Rows next = rows;
        next.span = span;
        for (const Vec3& normal : normals)
          next.add(normal, normal.dot(features_[m].surface.point - turned.turn * s.point));
        if (span.size() >= 3)
          add_shift(next, turned);
        else
          hold_next(next, i + 1, turned);
      }
      return;
    }
    if (rows.count > 0) add_shift(rows, turned);
  }
  void add_shift(const Rows& rows, Turned& turned) const {
    Vec3 t = target_.centre - turned.turn * middle_;  // where nothing else holds it
    const Eigen::MatrixXd a = rows.normals.topRows(rows.count);
    t += solve_least_norm(a, rows.offsets.head(rows.count) - a * t);
    Transform motion(turned.turn);
    motion.translation() = t;
    turned.shifts.push_back({motion, score(motion, turned.alikes, turned.axes)});
  }

  /// Area of the scan's surfaces that lie on alike ones of the model.
  double score(const Transform& motion, const std::vector<std::vector<std::size_t>>& alikes,
               const std::vector<Vec3>& axes) const {
    double sum = 0;
    for (std::size_t i = 0; i < found_.size(); ++i) {
      const Found& f = found_[i];
      const Vec3 point = motion * f.surface.point;
      const Vec3 centre = motion * f.centre;
      for (const std::size_t m : alikes[i]) {
        const Target::Feature& model = features_[m];
        if (model.box.exteriorDistance(centre) > near_) continue;
        double off = 0;
        if (fit::is_flat(model.surface.kind)) {
          off = std::abs(model.surface.distance(centre));
        } else {
          const Vec3 d = model.surface.point - point;
          off = (d - d.dot(axes[i]) * axes[i]).norm();
        }
        if (off > near_) continue;
        sum += f.area * f.trust;
        break;
      }
    }
    return sum;
  }

  [[nodiscard]] double agreement(const Transform& motion) const {
    const std::size_t stride = std::max<std::size_t>(1, cloud_.points.size() / 500);
    double on = 0;
    double all = 0;
    for (std::size_t i = 0; i < cloud_.points.size(); i += stride) {
      all += cloud_.weight[i];
      const auto nearest = target_.index->nearest(motion * cloud_.points[i], near_);
      if (!nearest) continue;
      const Vec3 facet = target_.mesh.area_vector(nearest->triangle).normalized();
      if (facet.dot(motion.linear() * cloud_.normals[i]) > 0.7) on += cloud_.weight[i];
    }
    return all > 0 ? on / all : 0;
  }

  const Target& target_;
  const Cloud& cloud_;
  double near_;  ///< mm
  std::vector<Found> found_;
  std::vector<Target::Feature> features_;
  Vec3 middle_ = Vec3::Zero();
};

}  // namespace

Eigen::Matrix3d rotation_by_pairs(const Vec3& a, const Vec3& b, const Vec3& to_a,
                                  const Vec3& to_b) {
  const auto frame = [](const Vec3& u, const Vec3& v) {
    Eigen::Matrix3d f;
    f.col(0) = u;
    f.col(2) = u.cross(v).normalized();
    f.col(1) = f.col(2).cross(f.col(0));
    return f;
  };
  return frame(to_a, to_b) * frame(a, b).transpose();
}

double angle_of(const Eigen::Matrix3d& rotation) {
  return std::acos(std::clamp((rotation.trace() - 1) / 2, -1.0, 1.0));
}

std::vector<Scored> rough_places(const Target& target, const std::vector<Found>& found,
                                 const Cloud& cloud, const Transform& hint, const Task& task) {
  Search search(target, found, cloud);
  return search.hopeless() ? std::vector<Scored>{} : search.run(hint, task);
}

bool can_be_matched(const Target& target, const std::vector<Found>& found) {
  return !target.features.empty() && std::any_of(found.begin(), found.end(), [](const Found& f) {
    return matched_kind(f.surface.kind);
  });
}

}  // namespace lostline::datum
