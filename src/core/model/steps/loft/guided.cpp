#include "model/steps/loft/guided.h"

#include <BRepAdaptor_CompCurve.hxx>
#include <algorithm>
#include <cmath>

#include "base/text.h"

namespace lostline::model {
namespace {

constexpr std::size_t kAlongGuide = 401;
constexpr double kMiss = 0.02;  // of the loft's length: further off it is no guide of it

/// How far along the loft each section is, mm. Of sections on parallel planes it is their level, so
/// that what is designed over the height comes out as it was; where the loft leans far, or planes
/// turn, the mean distance from section to section, with which it does not swing out between them.
std::vector<double> along_of(const std::vector<LoftSection>& sections, const Vec3& normal) {
  constexpr double kLean = 1.5;    // of the level: leaning by 48 degrees
  constexpr double kLevel = 1e-6;  // of the distance: less is rounding
  std::vector<double> apart{0};
  std::vector<double> levels;
  double spread = 0;
  for (std::size_t k = 0; k < sections.size(); ++k) {
    if (k > 0) apart.push_back(apart.back() + std::max(sections[k - 1].apart(sections[k]), 1e-9));
    const auto [low, high] = sections[k].levels(normal);
    levels.push_back((low + high) / 2);
    spread = std::max(spread, high - low);
  }
  bool upright = spread <= kLevel * apart.back();
  for (std::size_t k = 1; k < sections.size(); ++k)
    upright = upright && apart[k] - apart[k - 1] < kLean * (levels[k] - levels[k - 1]);
  if (!upright) return apart;
  const double first = levels.front();
  for (double& level : levels) level -= first;
  return levels;
}

/// What lies between the sections where no guide draws it: cubic from each to the next.
class Between {
 public:
  Between(const std::vector<LoftSection>& sections, const Vec3& normal, std::optional<Vec3> start,
          std::optional<Vec3> end)
      : sections_(sections),
        start_(std::move(start)),
        end_(std::move(end)),
        along_(along_of(sections, normal)) {}
  [[nodiscard]] const std::vector<double>& along() const { return along_; }
  /// @param k, t  between section k and the next one, t of 0..1.
  [[nodiscard]] Vec3 at(std::size_t k, double t, std::size_t curve, double share) const {
    const double h = along_[k + 1] - along_[k];
    const Vec3 p = sections_[k].at(curve, share);
    const Vec3 q = sections_[k + 1].at(curve, share);
    const Vec3 a = h * slope(k, curve, share);
    const Vec3 b = h * slope(k + 1, curve, share);
    const double tt = t * t;
    const double ttt = tt * t;
    return (2 * ttt - 3 * tt + 1) * p + (ttt - 2 * tt + t) * a + (3 * tt - 2 * ttt) * q +
           (ttt - tt) * b;
  }

 private:
  [[nodiscard]] Vec3 chord(std::size_t k, std::size_t curve, double share) const {
    return (sections_[k + 1].at(curve, share) - sections_[k].at(curve, share)) /
           (along_[k + 1] - along_[k]);
  }
  /// As of the parabola through three sections; at the ends as wanted, or as the curve runs on.
  [[nodiscard]] Vec3 slope(std::size_t k, std::size_t curve, double share) const {
    const std::size_t last = along_.size() - 1;
    if (k == 0 && start_) return *start_;
    if (k == last && end_) return *end_;
    if (last == 1) return chord(0, curve, share);
    if (k == 0) return 1.5 * chord(0, curve, share) - 0.5 * slope(1, curve, share);
    if (k == last) return 1.5 * chord(last - 1, curve, share) - 0.5 * slope(last - 1, curve, share);
    const double before = along_[k] - along_[k - 1];
    const double after = along_[k + 1] - along_[k];
    return (after * chord(k - 1, curve, share) + before * chord(k, curve, share)) /
           (before + after);
  }
  const std::vector<LoftSection>& sections_;
  std::optional<Vec3> start_, end_;
  std::vector<double> along_;
};

/// Where a guide touches the sections.
struct Guide {
  std::vector<Vec3> places;
  struct Touch {
    double along;   ///< place on the guide
    double around;  ///< place on the section, counted through its curves
    Vec3 miss;      ///< from the section to the guide
  };
  std::vector<Touch> touches;

  [[nodiscard]] Vec3 at(double place) const {
    const auto k = std::min(static_cast<std::size_t>(std::max(place, 0.0)), places.size() - 2);
    const double t = place - static_cast<double>(k);
    return (1 - t) * places[k] + t * places[k + 1];
  }
};

/// A place counted through the curves of a section: which of them, and the share of its length.
std::pair<std::size_t, double> curve_at(double around, std::size_t curves) {
  const double place = around / (kPlaces - 1);
  const std::size_t curve = std::min(static_cast<std::size_t>(std::max(place, 0.0)), curves - 1);
  return {curve, place - static_cast<double>(curve)};
}

Result<Guide> guide_of(const TopoDS_Wire& wire, const std::vector<LoftSection>& sections,
                       double length) {
  const auto curve = EvenCurve::of(new BRepAdaptor_CompCurve(wire));
  if (!curve) return curve.error();
  Guide guide;
  for (std::size_t g = 0; g < kAlongGuide; ++g)
    guide.places.push_back(curve->at(static_cast<double>(g) / (kAlongGuide - 1)));
  for (std::size_t k = 0; k < sections.size(); ++k) {
    double least = 1e300;
    Guide::Touch touch{};
    for (std::size_t g = 0; g + 1 < guide.places.size(); ++g) {
      const Vec3 d = guide.places[g + 1] - guide.places[g];
      for (std::size_t flat = 0; flat < static_cast<std::size_t>(sections[k].period()); ++flat) {
        // The nearest places of two short stretches.
        const Vec3& p = sections[k].place(flat);
        const Vec3 e = sections[k].place(flat + 1) - p;
        const Vec3 r = guide.places[g] - p;
        const double a = d.squaredNorm();
        const double b = e.squaredNorm();
        const double c = d.dot(e);
        const double det = a * b - c * c;
        double s = det > 1e-12 * a * b ? (c * e.dot(r) - b * d.dot(r)) / det : 0;
        s = std::clamp(s, 0.0, 1.0);
        const double t = std::clamp((e.dot(r) + s * c) / std::max(b, 1e-300), 0.0, 1.0);
        const Vec3 miss = r + s * d - t * e;
        if (miss.norm() >= least) continue;
        least = miss.norm();
        touch.along = static_cast<double>(g) + s;
        touch.around = static_cast<double>(flat) + t;
      }
    }
    // From the curve itself, not from the places on it.
    const auto [curve, share] = curve_at(touch.around, sections[k].curves());
    touch.miss = guide.at(touch.along) - sections[k].at(curve, share);
    least = touch.miss.norm();
    if (least > kMiss * length)
      return Error{ErrorCode::InvalidInput, "A guide passes " + format_trimmed(least, 3) +
                                                " mm from section " + std::to_string(k + 1) +
                                                ". It must run through all sections."};
    guide.touches.push_back(touch);
  }
  return guide;
}

/// A section's place, counted through its curves, between two touches: the shorter way round.
double between_around(double a, double b, double t, double period, bool closed) {
  double way = b - a;
  if (closed) way = std::remainder(way, period);
  const double place = a + t * way;
  return closed ? place - period * std::floor(place / period) : place;
}

/// Which way out is at a place of a closed section: what a guide wants at one place it wants
/// likewise around the middle. Of an open one all places go the same way.
Eigen::Matrix3d frame_at(const Vec3& place, const Vec3& middle, const Vec3& axis, bool closed) {
  const Vec3 out = place - middle - (place - middle).dot(axis) * axis;
  if (!closed || !(out.norm() > 1e-12)) return Eigen::Matrix3d::Identity();
  Eigen::Matrix3d frame;
  frame.col(0) = out.normalized();
  frame.col(1) = axis.cross(frame.col(0));
  frame.col(2) = axis;
  return frame;
}

/// How far every place of an intermediate section is drawn, from what its guides want.
class Drawn {
 public:
  Drawn(double period, bool closed) : period_(period), closed_(closed) {}
  void want(double around, const Vec3& by) { wants_.emplace_back(around, by); }
  void settle() {
    std::sort(wants_.begin(), wants_.end(),
              [](const auto& a, const auto& b) { return a.first < b.first; });
  }
  [[nodiscard]] Vec3 at(double around) const {
    if (wants_.empty()) return Vec3::Zero();
    auto after = std::upper_bound(wants_.begin(), wants_.end(), around,
                                  [](double x, const auto& w) { return x < w.first; });
    if (!closed_ && after == wants_.begin()) return wants_.front().second;
    if (!closed_ && after == wants_.end()) return wants_.back().second;
    const auto& next = after == wants_.end() ? wants_.front() : *after;
    const auto& last = after == wants_.begin() ? wants_.back() : *(after - 1);
    const auto onward = [&](double from, double to) {
      const double way = to - from;
      return way < 0 ? way + period_ : way;
    };
    const double whole = wants_.size() == 1 ? period_ : onward(last.first, next.first);
    const double t = whole > 0 ? onward(last.first, around) / whole : 0;
    const double share = t * t * (3 - 2 * t);
    return (1 - share) * last.second + share * next.second;
  }

 private:
  double period_;
  bool closed_;
  std::vector<std::pair<double, Vec3>> wants_;
};

/// A row between two sections.
class BetweenRow {
 public:
  BetweenRow(const Between& between, const std::vector<LoftSection>& sections, std::size_t k,
             double t)
      : between_(between),
        k_(k),
        t_(t),
        curves_(sections.front().curves()),
        closed_(sections.front().closed()),
        period_(sections.front().period()),
        drawn_(period_, closed_) {
    for (std::size_t c = 0; c < curves_; ++c) {
      for (std::size_t i = 0; i < kPlaces; ++i)
        places_.push_back(between.at(k, t, c, static_cast<double>(i) / (kPlaces - 1)));
    }
    for (const Vec3& p : places_) middle_ += p / static_cast<double>(places_.size());
    for (std::size_t i = 1; i < places_.size(); ++i)
      axis_ += (places_[i - 1] - middle_).cross(places_[i] - middle_);
    axis_.normalize();
  }
  void follow(const std::vector<Guide>& guides) {
    for (const Guide& guide : guides) {
      const Guide::Touch& a = guide.touches[k_];
      const Guide::Touch& b = guide.touches[k_ + 1];
      const double around = between_around(a.around, b.around, t_, period_, closed_);
      const auto [curve, share] = curve_at(around, curves_);
      const Vec3 now = between_.at(k_, t_, curve, share);
      const Vec3 wanted = guide.at((1 - t_) * a.along + t_ * b.along);
      const Vec3 by = wanted - now - ((1 - t_) * a.miss + t_ * b.miss);
      drawn_.want(around, frame_at(now, middle_, axis_, closed_).transpose() * by);
    }
    drawn_.settle();
  }
  [[nodiscard]] Vec3 at(std::size_t curve, double share) const {
    const Vec3 own = between_.at(k_, t_, curve, share);
    const double around = (static_cast<double>(curve) + share) * (kPlaces - 1);
    return own + frame_at(own, middle_, axis_, closed_) *
                     drawn_.at(closed_ ? std::fmod(around, period_) : around);
  }

 private:
  const Between& between_;
  std::size_t k_;
  double t_;
  std::size_t curves_;
  bool closed_;
  double period_;
  Drawn drawn_;
  std::vector<Vec3> places_;
  Vec3 middle_ = Vec3::Zero();
  Vec3 axis_ = Vec3::Zero();
};

}  // namespace

Result<std::vector<LoftRow>> rows_along(
    const std::shared_ptr<const std::vector<LoftSection>>& sections,
    const std::vector<TopoDS_Wire>& wires, const LoftEnd& start, const LoftEnd& end) {
  struct Ground {
    std::shared_ptr<const std::vector<LoftSection>> sections;
    Between between;
  };
  const auto ground = std::make_shared<const Ground>(
      Ground{sections, {*sections, start.normal, start.way, end.way}});
  const std::vector<double>& along = ground->between.along();
  constexpr double kSame = 1e-6;  // of the loft's length
  for (std::size_t k = 1; k < along.size(); ++k) {
    if (along[k] - along[k - 1] > kSame * along.back()) continue;
    return Error{ErrorCode::InvalidInput, "Sections " + std::to_string(k) + " and " +
                                              std::to_string(k + 1) +
                                              " of the loft lie on each other. Leave one out."};
  }
  std::vector<Guide> guides;
  for (const TopoDS_Wire& wire : wires) {
    auto guide = guide_of(wire, *sections, along.back());
    if (!guide) return guide.error();
    guides.push_back(*std::move(guide));
  }
  // As many between the sections as follow a guide's turns.
  const std::size_t steps =
      guides.empty() ? 1 : std::clamp<std::size_t>(24 / (sections->size() - 1), 4, 12);
  std::vector<LoftRow> rows;
  for (std::size_t k = 0; k < sections->size(); ++k) {
    rows.push_back({along[k], true, [ground, k](std::size_t curve, double share) {
                      return (*ground->sections)[k].at(curve, share);
                    }});
    for (std::size_t step = 1; step < steps && k + 1 < sections->size(); ++step) {
      const double t = static_cast<double>(step) / static_cast<double>(steps);
      const auto row = std::make_shared<BetweenRow>(ground->between, *sections, k, t);
      row->follow(guides);
      rows.push_back(
          {(1 - t) * along[k] + t * along[k + 1], false,
           [ground, row](std::size_t curve, double share) { return row->at(curve, share); }});
    }
  }
  return rows;
}

}  // namespace lostline::model
