#include "datum/propose.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace lostline::datum {
namespace {

constexpr double kSquare = 0.01;  // rad: closer to square or parallel is meant so

bool turned(const Found& f) { return fit::is_turned(f.surface.kind); }
bool plane(const Found& f) { return fit::is_flat(f.surface.kind); }
bool square(const Vec3& a, const Vec3& b) { return std::abs(a.dot(b)) < kSquare; }
bool parallel(const Vec3& a, const Vec3& b) { return fit::angle_between(a, b) < kSquare; }
bool machined(const Found& f) { return f.trust > 0.8; }

std::string finish_of(const Found& f) { return machined(f) ? "machined" : "rough"; }

/// Whether nothing of the part stands out beyond a plane.
bool outermost(const Found& f, const std::vector<Vec3>& outer) {
  Box3 box;
  for (const Vec3& p : outer) box.extend(p);
  // Nearer than this share of the size is the face's own roughness and form.
  const double slack = box.isEmpty() ? 0 : 2e-3 * box.diagonal().norm();
  std::size_t beyond = 0;
  for (const Vec3& p : outer) beyond += f.surface.distance(p) > slack ? 1 : 0;
  return beyond * 200 <= outer.size();
}

/// Area of what stands square on or runs parallel to a direction: how much of the part it orders.
double ordered(const std::vector<Found>& found, const Vec3& direction) {
  double area = 0;
  for (const Found& f : found) {
    if (!fit::has_direction(f.surface.kind)) continue;
    if (square(f.surface.axis, direction) || parallel(f.surface.axis, direction)) area += f.area;
  }
  return area;
}

/// Directions across a primary axis, folded to a quarter turn: a wall and the wall square to it, a
/// row of holes and its column, vote for the same one.
class Turns {
 public:
  Turns(const std::vector<Found>& found, const Vec3& axis, const std::vector<std::size_t>& axes,
        const std::vector<std::size_t>& sides)
      : found_(found), axis_(axis), u_(any_perpendicular(axis)), v_(axis.cross(u_)) {
    double walls = 0;
    for (const std::size_t i : sides) walls += found[i].area;
    for (const std::size_t i : sides) vote(found[i].surface.axis, found[i].area / walls);
    // Holes of one size stand in rows; each pair counts alike.
    std::vector<Vec3> rows;
    for (std::size_t a = 0; a < axes.size(); ++a) {
      for (std::size_t b = a + 1; b < axes.size(); ++b) {
        const fit::Surface& s = found[axes[a]].surface;
        const fit::Surface& t = found[axes[b]].surface;
        const Vec3 d = between(axes[a], axes[b]);
        const bool alike = s.kind == t.kind && s.hollow == t.hollow &&
                           std::abs(s.radius - t.radius) < 0.02 * s.radius;
        if (alike && d.norm() > s.radius) rows.push_back(d);
      }
    }
    for (const Vec3& d : rows) vote(d, 1.0 / static_cast<double>(rows.size()));
  }
  /// From one axis to another, across the primary one.
  [[nodiscard]] Vec3 between(std::size_t a, std::size_t b) const {
    const Vec3 d = found_[b].surface.point - found_[a].surface.point;
    return d - d.dot(axis_) * axis_;
  }
  /// Share of the evidence that a direction has, 0 … 2 (walls and rows).
  [[nodiscard]] double support(const Vec3& direction) const {
    const double angle = folded(direction);
    double sum = 0;
    for (const auto& [other, weight] : votes_) {
      if (std::abs(std::remainder(other - angle, kQuarter)) < kSquare) sum += weight;
    }
    return sum;
  }

 private:
  static constexpr double kQuarter = std::numbers::pi / 2;
  [[nodiscard]] double folded(const Vec3& d) const { return std::atan2(d.dot(v_), d.dot(u_)); }
  void vote(const Vec3& d, double weight) { votes_.emplace_back(folded(d), weight); }

  const std::vector<Found>& found_;
  Vec3 axis_, u_, v_;
  std::vector<std::pair<double, double>> votes_;
};

/// What may fix the turn about a primary axis.
struct Turn {
  std::vector<std::size_t> features;
  double support = 0;
  double worth = 0;  ///< among those of equal support
  std::string reason;
};

/// The way to fix the turn that most of the evidence shares.
std::optional<Turn> best_turn(const std::vector<Found>& found, const Vec3& axis,
                              std::optional<std::size_t> main, const std::vector<std::size_t>& axes,
                              const std::vector<std::size_t>& sides) {
  const Turns turns(found, axis, axes, sides);
  std::vector<Turn> ways;
  for (const std::size_t i : sides) {
    ways.push_back({{i},
                    turns.support(found[i].surface.axis),
                    std::sqrt(found[i].area) * (machined(found[i]) ? 2.0 : 0.3),
                    finish_of(found[i]) + " side square to the primary"});
  }
  for (std::size_t i = 0; i < found.size(); ++i) {
    if (!turned(found[i]) || !square(found[i].surface.axis, axis)) continue;
    ways.push_back({{i},
                    turns.support(found[i].surface.axis),
                    std::sqrt(found[i].area) * (machined(found[i]) ? 1.0 : 0.3),
                    finish_of(found[i]) + " cross hole square to the primary"});
  }
  const std::size_t most = std::min<std::size_t>(axes.size(), 40);
  for (std::size_t a = 0; a < most; ++a) {
    for (std::size_t b = a + 1; b < most; ++b) {
      const Vec3 d = turns.between(axes[a], axes[b]);
      // Axes of one place give no direction.
      if (d.norm() < 0.5 * std::max(found[axes[a]].surface.radius, found[axes[b]].surface.radius))
        continue;
      const bool both = machined(found[axes[a]]) && machined(found[axes[b]]);
      const bool from_main = main && (axes[a] == *main || axes[b] == *main);
      ways.push_back({from_main && axes[b] == *main ? std::vector{axes[b], axes[a]}
                                                    : std::vector{axes[a], axes[b]},
                      turns.support(d), d.norm() * (both ? 1.0 : 0.3) * (from_main ? 1.5 : 1.0),
                      std::string("line ") + (from_main ? "from that axis to" : "through") +
                          (from_main ? " a " : " two ") + (both ? "machined" : "rough") +
                          (from_main ? " hole" : " holes")});
    }
  }
  if (ways.empty()) return std::nullopt;
  const auto best = std::max_element(ways.begin(), ways.end(), [](const Turn& a, const Turn& b) {
    // A tenth of the evidence more or less is no reason.
    if (std::abs(a.support - b.support) > 0.1) return a.support < b.support;
    return a.worth < b.worth;
  });
  Turn turn = *best;
  turn.reason += fmt::format(": {} of the walls and rows of holes {} that direction",
                             turn.support > 1.2   ? "most"
                             : turn.support > 0.4 ? "a good part"
                                                  : "little",
                             turn.support > 1.2 ? "share" : "shares");
  return turn;
}

/// What fixes the turn and the shifts across a primary.
void complete(Proposal& p, const std::vector<Found>& found, const std::vector<Vec3>& outer) {
  const Found& primary = found[p.primary];
  const Vec3& axis = primary.surface.axis;
  // Axes along the primary direction, best first: machined, large, a bore before a hole.
  std::vector<std::size_t> axes;
  std::vector<std::size_t> sides;
  for (std::size_t i = 0; i < found.size(); ++i) {
    if (turned(found[i]) && parallel(found[i].surface.axis, axis)) axes.push_back(i);
    if (i != p.primary && plane(found[i]) && square(found[i].surface.axis, axis))
      sides.push_back(i);
  }
  const auto better = [&](std::size_t a, std::size_t b) {
    const auto worth = [&](std::size_t i) {
      return found[i].area * found[i].trust * found[i].trust;
    };
    return worth(a) > worth(b);
  };
  std::stable_sort(axes.begin(), axes.end(), better);
  std::stable_sort(sides.begin(), sides.end(), better);
  std::optional<std::size_t> main;
  if (turned(primary)) {
    main = p.primary;
  } else if (!axes.empty() && machined(found[axes[0]])) {
    main = axes[0];
  }
  if (main) {
    const fit::Surface& m = found[*main].surface;
    p.origin = {*main};
    p.reason[2] = fmt::format("{} {} of {:.1f} mm radius: its axis is the origin",
                              finish_of(found[*main]), m.hollow ? "bore" : "boss", m.radius);
    if (const auto turn = best_turn(found, axis, main, axes, sides)) {
      p.secondary = turn->features;
      p.reason[1] = turn->reason;
    }
    // A turned primary fixes no shift along itself: an end face does.
    if (turned(primary)) {
      for (std::size_t i = 0; i < found.size(); ++i) {
        if (plane(found[i]) && parallel(found[i].surface.axis, axis) &&
            outermost(found[i], outer)) {
          p.origin.push_back(i);
          p.reason[2] += ", and its end face the zero along it";
          break;
        }
      }
      p.extremes = p.origin.size() < 2;
    }
  } else if (!sides.empty()) {
    const auto turn = best_turn(found, axis, main, {}, sides);
    const std::size_t side = turn->features.front();
    p.secondary = {side};
    p.reason[1] = fmt::format("{}, {:.0f} mm\u00b2", turn->reason, found[side].area);
    for (const std::size_t i : sides) {
      if (!square(found[i].surface.axis, found[side].surface.axis)) continue;
      p.origin = {side, i};
      p.reason[2] = finish_of(found[i]) + " side square to both: it fixes the last shift";
      break;
    }
    if (p.origin.empty()) {
      p.origin = {side};
      p.extremes = true;
      p.reason[2] = "no third face: the scan's extreme fixes the last shift";
    }
  }
}

}  // namespace

std::vector<Proposal> propose_datums(const std::vector<Found>& found,
                                     const std::vector<Vec3>& outer, std::size_t most) {
  struct Primary {
    std::size_t index;
    double worth;
    bool stands;
  };
  std::vector<Primary> primaries;
  double widest = 0;
  for (const Found& f : found) {
    if (plane(f) || turned(f)) widest = std::max(widest, f.area);
  }
  for (std::size_t i = 0; i < found.size(); ++i) {
    const Found& f = found[i];
    if ((!plane(f) && !turned(f)) || f.area < 0.02 * widest) continue;
    const bool stands = plane(f) && outermost(f, outer);
    const double order = ordered(found, f.surface.axis);
    // Machined counts four times, standing on it twice; an axis leads where it is the part.
    const double worth = f.area * (machined(f) ? 4 : f.trust) * (stands ? 2 : 1) *
                         (turned(f) ? 0.5 : 1) * std::sqrt(order);
    primaries.push_back({i, worth, stands});
  }
  std::stable_sort(primaries.begin(), primaries.end(),
                   [](const Primary& a, const Primary& b) { return a.worth > b.worth; });
  std::vector<Proposal> result;
  for (const Primary& candidate : primaries) {
    // What orders far less of the part than the best is no datum, even where nothing else is left.
    if (result.size() >= most || candidate.worth < 0.02 * primaries.front().worth) break;
    const Found& f = found[candidate.index];
    Proposal p;
    p.primary = candidate.index;
    p.reason[0] =
        fmt::format("{} {} of {:.0f} mm\u00b2{}", finish_of(f), fit::kind_name(f.surface.kind),
                    f.area, candidate.stands ? " that the part can stand on" : "");
    complete(p, found, outer);
    if (!p.secondary.empty()) result.push_back(std::move(p));
  }
  return result;
}

}  // namespace lostline::datum
