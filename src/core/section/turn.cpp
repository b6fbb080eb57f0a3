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

/// Points of all blades by the cells of a grid.
class Cells {
 public:
  explicit Cells(double cell) : cell_(cell) {}
  void add(const Vec2& p, std::size_t blade) { cells_[at(p)].push_back({p, blade}); }
  /// Calls `take` for the points within one cell's size of `p`, with their blades.
  template <class Take>
  void near(const Vec2& p, const Take& take) const {
    const auto [x, y] = at(p);
    for (long dx = -1; dx <= 1; ++dx) {
      for (long dy = -1; dy <= 1; ++dy) {
        const auto it = cells_.find({x + dx, y + dy});
        if (it == cells_.end()) continue;
        for (const auto& [q, blade] : it->second) {
          if ((q - p).squaredNorm() < cell_ * cell_) take(q, blade);
        }
      }
    }
  }

 private:
  [[nodiscard]] std::pair<long, long> at(const Vec2& p) const {
    return {std::lround(p.x() / cell_), std::lround(p.y() / cell_)};
  }
  double cell_;
  std::map<std::pair<long, long>, std::vector<std::pair<Vec2, std::size_t>>> cells_;
};

/// How many of the blades pass near each point of a run.
std::vector<double> agreement(const Polyline& line, const Cells& cells, std::size_t blades) {
  std::vector<double> shares;
  std::vector<char> seen(blades);
  for (const Vec2& p : line.points) {
    std::fill(seen.begin(), seen.end(), 0);
    std::size_t count = 0;
    cells.near(p, [&](const Vec2&, std::size_t blade) {
      count += seen[blade] == 0;
      seen[blade] = 1;
    });
    shares.push_back(static_cast<double>(count) / static_cast<double>(blades));
  }
  // Over a few points, so that one is not cut out by chance.
  std::vector<double> smooth(shares.size());
  for (std::size_t i = 0; i < shares.size(); ++i) {
    const std::size_t low = i > 3 ? i - 3 : 0;
    const std::size_t high = std::min(shares.size(), i + 4);
    double sum = 0;
    for (std::size_t k = low; k < high; ++k) sum += shares[k];
    smooth[i] = sum / static_cast<double>(high - low);
  }
  return smooth;
}

/// Scatter of the points of all blades about a drawn profile, across it.
std::optional<double> spread_about(const std::vector<Polyline>& drawn, const Cells& cells) {
  double sum = 0;
  std::size_t count = 0;
  for (const Polyline& line : drawn) {
    for (std::size_t i = 2; i + 2 < line.points.size(); i += 3) {
      const Vec2 along = (line.points[i + 2] - line.points[i - 2]).normalized();
      if (!along.allFinite()) continue;
      double mean = 0;
      double squared = 0;
      int n = 0;
      cells.near(line.points[i], [&](const Vec2& q, std::size_t) {
        const Vec2 d = q - line.points[i];
        const double off = along.x() * d.y() - along.y() * d.x();
        mean += off;
        squared += off * off;
        ++n;
      });
      if (n < 8) continue;
      mean /= n;
      sum += squared / n - mean * mean;
      ++count;
    }
  }
  if (count == 0) return std::nullopt;
  return std::sqrt(std::max(0.0, sum / static_cast<double>(count)));
}

/// One profile of all blades: the run that most of them follow over the greatest length draws it;
/// what it leaves is drawn by the next; what few blades see is drawn apart.
Section folded(const Placement& base, std::vector<Section>& cuts) {
  constexpr double kMost = 0.5;  // of the blades: what is seen all round but for openings
  constexpr double kFew = 0.35;  // below it is a feature of its own, not the profile's
  std::vector<std::pair<Polyline, std::size_t>> all;
  for (std::size_t blade = 0; blade < cuts.size(); ++blade) {
    for (Polyline& line : cuts[blade].polylines) all.emplace_back(std::move(line), blade);
  }
  std::vector<Polyline> runs;
  for (const auto& [line, blade] : all) runs.push_back(line);
  Section fan{base, {}};
  const double step = median_step(runs);
  if (!(step > 0)) return fan;
  Cells cells(3 * step);
  for (const auto& [line, blade] : all) {
    for (const Vec2& p : line.points) cells.add(p, blade);
  }
  struct Candidate {
    const Polyline* line;
    std::vector<double> shares;
    double agreed = 0;  // length that most blades follow, less what few do
  };
  std::vector<Candidate> candidates(all.size());
  parallel_for(all.size(), 4, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      Candidate& c = candidates[i];
      c.line = &all[i].first;
      c.shares = agreement(*c.line, cells, cuts.size());
      for (std::size_t k = 1; k < c.shares.size(); ++k) {
        const double l = (c.line->points[k] - c.line->points[k - 1]).norm();
        c.agreed += c.shares[k] > kMost ? l : c.shares[k] < kFew ? -l : 0;
      }
    }
  });
  std::stable_sort(
      candidates.begin(), candidates.end(), [](const Candidate& a, const Candidate& b) {
        const double whole_a = a.agreed - (a.line->gaps.empty() ? 0 : 0.1 * a.line->length());
        const double whole_b = b.agreed - (b.line->gaps.empty() ? 0 : 0.1 * b.line->length());
        return whole_a > whole_b;
      });
  Cells drawn(4 * step);
  const auto fresh_runs = [&](const Candidate& c, double low, double high, bool few) {
    std::vector<Polyline> fresh;
    std::size_t at = 0;
    runs_of(
        *c.line,
        [&](const Vec2& p) {
          // runs_of asks in order of the points, but for the first one twice.
          while (at < c.line->points.size() && c.line->points[at] != p) ++at;
          if (at == c.line->points.size()) at = 0;
          while (c.line->points[at] != p) ++at;
          const double share = c.shares[at];
          if (!(share >= low && share < high)) return false;
          bool known = false;
          drawn.near(p, [&](const Vec2&, std::size_t) { known = true; });
          return !known;
        },
        [](const Vec2&, const Vec2&) -> std::optional<Vec2> { return std::nullopt; }, fresh);
    std::erase_if(fresh, [&](const Polyline& p) { return p.length() < 12 * step; });
    for (Polyline& run : fresh) {
      for (const Vec2& p : run.points) drawn.add(p, 0);
      run.few = few;
      fan.polylines.push_back(std::move(run));
    }
  };
  for (const Candidate& c : candidates) fresh_runs(c, kFew, 2, false);
  fan.spread = spread_about(fan.polylines, cells);
  for (const Candidate& c : candidates) fresh_runs(c, 0, kFew, true);
  for (const Candidate& c : candidates) {
    Polyline support = *c.line;
    support.support = true;
    fan.polylines.push_back(std::move(support));
  }
  return fan;
}

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
  return folded(base, cuts);
}

}  // namespace lostline::section
