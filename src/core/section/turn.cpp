#include "section/turn.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <optional>

#include "base/parallel.h"

namespace lostline::section {
namespace {

/// Runs of consecutive points for which `inside` holds; `cut` gives the point between the last
/// inside and the first outside.
template <class Inside, class Cut>
void runs_of(const Polyline& line, const Inside& inside, const Cut& cut,
             std::vector<Polyline>& runs) {
  const std::size_t n = line.points.size();
  std::size_t start = 0;
  if (line.closed) {
    while (start < n && inside(line.points[start])) ++start;
    if (start == n) return runs.push_back(line);
  }
  std::vector<char> gap(n, 0);
  for (const std::size_t g : line.gaps) gap[g] = 1;
  Polyline run;
  const auto finish = [&] {
    if (run.points.size() > 1) runs.push_back(run);
    run = {};
  };
  for (std::size_t k = 0; k < n; ++k) {
    const std::size_t i = (start + k) % n;
    const bool here = inside(line.points[i]);
    if (here) {
      if (run.points.empty() && (k > 0 || line.closed)) {
        const Vec2& before = line.points[(i + n - 1) % n];
        if (!inside(before)) {
          if (const auto p = cut(before, line.points[i])) run.points.push_back(*p);
        }
      }
      run.points.push_back(line.points[i]);
    }
    const bool last = k + 1 == n && !line.closed;
    const Vec2& next = line.points[(i + 1) % n];
    if (!here) continue;
    if (last || k + 1 == n) {
      if (!last && !inside(next)) {
        if (const auto p = cut(line.points[i], next)) run.points.push_back(*p);
      }
      finish();
    } else if (!inside(next)) {
      if (const auto p = cut(line.points[i], next)) run.points.push_back(*p);
      finish();
    } else if (gap[i] != 0) {
      run.gaps.push_back(run.points.size() - 1);
    }
  }
  finish();
}

/// Cells of a grid that a drawn profile passes through, with their neighbours.
class Drawn {
 public:
  explicit Drawn(double cell) : cell_(cell) {}
  void add(const Vec2& p) {
    const auto [x, y] = at(p);
    for (long dx = -1; dx <= 1; ++dx) {
      for (long dy = -1; dy <= 1; ++dy) cells_[{x + dx, y + dy}] = true;
    }
  }
  [[nodiscard]] bool has(const Vec2& p) const { return cells_.contains(at(p)); }

 private:
  [[nodiscard]] std::pair<long, long> at(const Vec2& p) const {
    return {std::lround(p.x() / cell_), std::lround(p.y() / cell_)};
  }
  double cell_;
  std::map<std::pair<long, long>, bool> cells_;
};

}  // namespace

Section half_of(const Section& section) {
  Section half{section.plane, {}};
  for (const Polyline& line : section.polylines) {
    runs_of(
        line, [](const Vec2& p) { return p.x() >= 0; },
        [](const Vec2& a, const Vec2& b) -> std::optional<Vec2> {
          const double t = a.x() / (a.x() - b.x());
          return Vec2(0, a.y() + t * (b.y() - a.y()));
        },
        half.polylines);
  }
  std::stable_sort(half.polylines.begin(), half.polylines.end(),
                   [](const Polyline& a, const Polyline& b) { return a.length() > b.length(); });
  return half;
}

Section cut_fan(const SectionIndex& index, const Placement& base, int blades,
                const SectionOptions& options) {
  std::vector<Section> cuts(static_cast<std::size_t>(std::max(1, blades)));
  parallel_for(cuts.size(), 1, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      const double angle =
          2 * std::numbers::pi * static_cast<double>(i) / static_cast<double>(cuts.size());
      Placement blade = base;
      blade.x = Eigen::AngleAxisd(angle, base.y) * base.x;
      blade.normal = blade.x.cross(blade.y);
      cuts[i] = half_of(index.cut(blade, options));
    }
  });
  std::vector<Polyline> all;
  for (Section& cut : cuts)
    for (Polyline& line : cut.polylines) all.push_back(std::move(line));
  std::stable_sort(all.begin(), all.end(), [](const Polyline& a, const Polyline& b) {
    const double la = a.length() - (a.gaps.empty() ? 0 : 1e6);
    const double lb = b.length() - (b.gaps.empty() ? 0 : 1e6);
    return la > lb;  // whole runs before those with gaps
  });
  Section fan{base, {}};
  const double step = median_step(all);
  if (!(step > 0)) return fan;
  Drawn drawn(4 * step);
  std::vector<Polyline> support;
  for (const Polyline& line : all) {
    std::vector<Polyline> fresh;
    runs_of(
        line, [&](const Vec2& p) { return !drawn.has(p); },
        [](const Vec2&, const Vec2&) -> std::optional<Vec2> { return std::nullopt; }, fresh);
    std::erase_if(fresh, [&](const Polyline& p) { return p.length() < 12 * step; });
    for (Polyline& run : fresh) {
      for (const Vec2& p : run.points) drawn.add(p);
      fan.polylines.push_back(std::move(run));
    }
    support.push_back(line);
    support.back().support = true;
  }
  fan.polylines.insert(fan.polylines.end(), support.begin(), support.end());
  return fan;
}

}  // namespace lostline::section
