#include "datum/propose.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace lostline::datum {
namespace {

constexpr double kSquare = 0.01;  // rad: closer to square or parallel is meant so

bool turned(const Found& f) {
  return f.surface.kind == fit::Kind::Cylinder || f.surface.kind == fit::Kind::Cone;
}
bool plane(const Found& f) { return f.surface.kind == fit::Kind::Plane; }
bool square(const Vec3& a, const Vec3& b) { return std::abs(a.dot(b)) < kSquare; }
bool parallel(const Vec3& a, const Vec3& b) { return fit::angle_between(a, b) < kSquare; }
bool machined(const Found& f) { return f.trust > 0.8; }

std::string finish_of(const Found& f) { return machined(f) ? "machined" : "rough"; }

/// Whether nothing of the part stands out beyond a plane.
bool outermost(const Found& f, const std::vector<Vec3>& outer) {
  std::size_t beyond = 0;
  for (const Vec3& p : outer) beyond += f.surface.distance(p) > 0.3 ? 1 : 0;
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

/// What fixes the turn and the shifts across a primary.
void complete(Proposal& p, const std::vector<Found>& found, const std::vector<Vec3>& outer) {
  const Found& primary = found[p.primary];
  const Vec3& axis = primary.surface.axis;
  // Axes along the primary direction, best first: machined, large, a bore before a hole.
  std::vector<std::size_t> axes;
  std::vector<std::size_t> sides;
  for (std::size_t i = 0; i < found.size(); ++i) {
    if (i == p.primary) continue;
    if (turned(found[i]) && parallel(found[i].surface.axis, axis)) axes.push_back(i);
    if (plane(found[i]) && square(found[i].surface.axis, axis)) sides.push_back(i);
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
    // The turn about the main axis: a second axis that lies apart, the further the better.
    std::optional<std::size_t> second;
    double best = 0;
    for (const std::size_t i : axes) {
      if (i == *main) continue;
      const Vec3 d = found[i].surface.point - m.point;
      const double apart = (d - d.dot(axis) * axis).norm();
      if (apart < 2) continue;
      const double worth = apart * (machined(found[i]) ? 2.0 : 0.5);
      if (worth > best) {
        best = worth;
        second = i;
      }
    }
    p.origin = {*main};
    p.reason[2] = fmt::format("{} {} of {:.1f} mm radius: its axis is the origin",
                              finish_of(found[*main]), m.hollow ? "bore" : "boss", m.radius);
    if (!sides.empty() && machined(found[sides[0]]) &&
        (!second || found[sides[0]].area > 20 * found[*second].area)) {
      p.secondary = {sides[0]};
      p.reason[1] = "machined side square to the primary: it fixes the turn";
    } else if (second) {
      p.secondary = {*main, *second};
      p.reason[1] =
          fmt::format("line from that axis to the {} hole furthest off: it fixes the turn",
                      finish_of(found[*second]));
    } else if (!sides.empty()) {
      p.secondary = {sides[0]};
      p.reason[1] = finish_of(found[sides[0]]) + " side square to the primary: it fixes the turn";
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
    p.secondary = {sides[0]};
    p.reason[1] = fmt::format("{} side square to the primary, {:.0f} mm\u00b2",
                              finish_of(found[sides[0]]), found[sides[0]].area);
    for (const std::size_t i : sides) {
      if (!square(found[i].surface.axis, found[sides[0]].surface.axis)) continue;
      p.origin = {sides[0], i};
      p.reason[2] = finish_of(found[i]) + " side square to both: it fixes the last shift";
      break;
    }
    if (p.origin.empty()) {
      p.origin = {sides[0]};
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
    if (result.size() >= most) break;
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
