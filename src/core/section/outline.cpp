#include "section/outline.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <map>
#include <numeric>

#include "base/parallel.h"

namespace lostline::section {
namespace {

/// Nodes of a square grid over the plane.
struct Grid {
  Vec2 low;
  double cell = 1;
  std::size_t wide = 0, high = 0;

  [[nodiscard]] std::size_t size() const { return wide * high; }
  [[nodiscard]] std::size_t index(std::size_t x, std::size_t y) const { return y * wide + x; }
  [[nodiscard]] Vec2 at(std::size_t x, std::size_t y) const {
    return low + cell * Vec2(static_cast<double>(x), static_cast<double>(y));
  }
  /// The range of nodes along one axis that [a, b] holds.
  [[nodiscard]] static std::pair<std::size_t, std::size_t> range(double a, double b, double low,
                                                                 double cell, std::size_t count) {
    const double first = std::ceil((a - low) / cell);
    const double last = std::floor((b - low) / cell);
    if (last < 0 || first > static_cast<double>(count) - 1 || last < first) return {1, 0};
    return {static_cast<std::size_t>(std::max(0.0, first)),
            static_cast<std::size_t>(std::min(last, static_cast<double>(count) - 1))};
  }
};

Grid grid_over(const Eigen::AlignedBox2d& box, double cell, double margin) {
  constexpr double kMost = 64e6;  // nodes
  Grid grid;
  const Vec2 size = box.sizes() + Vec2::Constant(2 * margin);
  const double nodes = (size.x() / cell + 1) * (size.y() / cell + 1);
  grid.cell = nodes > kMost ? cell * std::sqrt(nodes / kMost) : cell;
  grid.low = box.min() - Vec2::Constant(margin);
  grid.wide = static_cast<std::size_t>(size.x() / grid.cell) + 2;
  grid.high = static_cast<std::size_t>(size.y() / grid.cell) + 2;
  return grid;
}

using Corners = std::array<Vec2, 3>;

/// Nodes that a triangle covers.
template <class Take>
void each_node(const Grid& grid, const Corners& t, const Take& take) {
  const double least_y = std::min({t[0].y(), t[1].y(), t[2].y()});
  const double most_y = std::max({t[0].y(), t[1].y(), t[2].y()});
  const auto [y0, y1] = Grid::range(least_y, most_y, grid.low.y(), grid.cell, grid.high);
  for (std::size_t y = y0; y <= y1 && y0 <= y1; ++y) {
    const double level = grid.low.y() + grid.cell * static_cast<double>(y);
    double left = 1e300;
    double right = -1e300;
    for (std::size_t k = 0; k < 3; ++k) {
      const Vec2& a = t[k];
      const Vec2& b = t[(k + 1) % 3];
      if ((a.y() > level) == (b.y() > level) && a.y() != level && b.y() != level) continue;
      const double share = a.y() == b.y() ? 0 : (level - a.y()) / (b.y() - a.y());
      if (share < 0 || share > 1) continue;
      const double x = a.x() + share * (b.x() - a.x());
      left = std::min(left, x);
      right = std::max(right, x);
    }
    const auto [x0, x1] = Grid::range(left, right, grid.low.x(), grid.cell, grid.wide);
    for (std::size_t x = x0; x <= x1 && x0 <= x1; ++x) take(x, y);
  }
}

/// Closed runs round where `value` is below zero, which lies to their left.
template <class Value>
std::vector<std::vector<Vec2>> contours(const Grid& grid, const Value& value) {
  // One point on each edge of the grid that is crossed: edges along x first, then along y.
  std::map<std::size_t, std::pair<Vec2, std::size_t>> next;  // from crossing to crossing
  const auto point = [&](std::size_t x, std::size_t y, bool upright) {
    const double a = value(x, y);
    const double b = upright ? value(x, y + 1) : value(x + 1, y);
    const double share = a / (a - b);
    return Vec2(grid.at(x, y) + grid.cell * share * (upright ? Vec2(0, 1) : Vec2(1, 0)));
  };
  for (std::size_t y = 0; y + 1 < grid.high; ++y) {
    for (std::size_t x = 0; x + 1 < grid.wide; ++x) {
      const std::array in{value(x, y) < 0, value(x + 1, y) < 0, value(x + 1, y + 1) < 0,
                          value(x, y + 1) < 0};
      const int count = in[0] + in[1] + in[2] + in[3];
      if (count == 0 || count == 4) continue;
      // Edges of the cell, counter-clockwise from the lower one.
      const std::array<std::size_t, 4> key{2 * grid.index(x, y), 2 * grid.index(x + 1, y) + 1,
                                           2 * grid.index(x, y + 1), 2 * grid.index(x, y) + 1};
      const auto at = [&](std::size_t side) {
        switch (side) {
          case 0:
            return point(x, y, false);
          case 1:
            return point(x + 1, y, true);
          case 2:
            return point(x, y + 1, false);
          default:
            return point(x, y, true);
        }
      };
      // With what is inside on the left, a run enters where it goes from inside to outside
      // counter-clockwise, and leaves at the next edge that goes back.
      for (std::size_t side = 0; side < 4; ++side) {
        if (in[side] && !in[(side + 1) % 4]) {
          std::size_t out = (side + 1) % 4;
          while (!(!in[out] && in[(out + 1) % 4])) out = (out + 1) % 4;
          next[key[side]] = {at(side), key[out]};
        }
      }
    }
  }
  std::vector<std::vector<Vec2>> runs;
  while (!next.empty()) {
    std::vector<Vec2> run;
    const std::size_t begin = next.begin()->first;
    std::size_t key = begin;
    for (auto it = next.find(key); it != next.end(); it = next.find(key)) {
      run.push_back(it->second.first);
      key = it->second.second;
      next.erase(it);
    }
    if (key == begin && run.size() > 3) runs.push_back(std::move(run));
  }
  return runs;
}

double area_of(const std::vector<Vec2>& run) {
  double sum = 0;
  for (std::size_t i = 0; i < run.size(); ++i) sum += cross(run[i], run[(i + 1) % run.size()]);
  return 0.5 * sum;
}

/// Triangles by the cells of a coarse grid that they touch.
class Buckets {
 public:
  Buckets(const std::vector<Corners>& triangles, const Vec2& low, double cell)
      : triangles_(triangles), low_(low), cell_(cell) {
    for (std::uint32_t t = 0; t < triangles.size(); ++t) {
      Eigen::AlignedBox2d box;
      for (const Vec2& p : triangles[t]) box.extend(p);
      const auto [x0, y0] = place(box.min());
      const auto [x1, y1] = place(box.max());
      for (long y = y0; y <= y1; ++y)
        for (long x = x0; x <= x1; ++x) cells_.emplace_back(key(x, y), t);
    }
    std::sort(cells_.begin(), cells_.end());
  }

  /// How far from `p` along the unit vector `d`, within [-reach, reach], triangles that hold the
  /// line reach outwards without a break from inside; 0 where none does.
  [[nodiscard]] double end_along(const Vec2& p, const Vec2& d, double reach) const {
    std::vector<std::pair<double, double>> held;
    std::vector<std::uint32_t> seen;
    const auto [x0, y0] = place(p - Vec2::Constant(reach));
    const auto [x1, y1] = place(p + Vec2::Constant(reach));
    for (long y = y0; y <= y1; ++y) {
      for (long x = x0; x <= x1; ++x) {
        auto it = std::lower_bound(cells_.begin(), cells_.end(), std::pair(key(x, y), 0U));
        for (; it != cells_.end() && it->first == key(x, y); ++it) seen.push_back(it->second);
      }
    }
    std::sort(seen.begin(), seen.end());
    seen.erase(std::unique(seen.begin(), seen.end()), seen.end());
    for (const std::uint32_t t : seen) {
      double low = 1e300;
      double high = -1e300;
      for (std::size_t k = 0; k < 3; ++k) {
        const Vec2 a = triangles_[t][k] - p;
        const Vec2 b = triangles_[t][(k + 1) % 3] - p;
        const double sa = cross(d, a);
        const double sb = cross(d, b);
        if ((sa > 0) == (sb > 0)) continue;
        const double at = (a + sa / (sa - sb) * (b - a)).dot(d);
        low = std::min(low, at);
        high = std::max(high, at);
      }
      if (high >= -reach && low <= reach && high >= low) held.emplace_back(low, high);
    }
    if (held.empty()) return 0;
    std::sort(held.begin(), held.end());
    double end = held.front().second;
    for (const auto& [low, high] : held) {
      // Beyond a break lies another part of the outline.
      if (low > end + 0.05 * cell_ && low > 0) break;
      end = std::max(end, high);
    }
    return std::clamp(end, -reach, reach);
  }

 private:
  [[nodiscard]] std::pair<long, long> place(const Vec2& p) const {
    return {static_cast<long>(std::floor((p.x() - low_.x()) / cell_)),
            static_cast<long>(std::floor((p.y() - low_.y()) / cell_))};
  }
  static std::uint64_t key(long x, long y) {
    return static_cast<std::uint64_t>(x + (1L << 24)) << 32U |
           static_cast<std::uint64_t>(y + (1L << 24));
  }
  const std::vector<Corners>& triangles_;
  Vec2 low_;
  double cell_;
  std::vector<std::pair<std::uint64_t, std::uint32_t>> cells_;
};

/// Moves the points of a run outwards or inwards to where the triangles end.
void refine(std::vector<Vec2>& run, const Buckets& buckets, double cell) {
  const std::size_t n = run.size();
  std::vector<Vec2> moved(n);
  parallel_for(n, 64, [&](std::size_t begin, std::size_t end) {
    for (std::size_t i = begin; i < end; ++i) {
      const Vec2 along = run[(i + 3) % n] - run[(i + n - 3) % n];
      const Vec2 d = Vec2(along.y(), -along.x()).normalized();
      moved[i] = run[i];
      if (d.allFinite()) moved[i] += buckets.end_along(run[i], d, 2 * cell) * d;
    }
  });
  run = std::move(moved);
}

double spacing_of(const scan::Mesh& mesh) {
  std::vector<double> edges;
  const std::size_t stride = std::max<std::size_t>(1, mesh.triangles.size() / 2000);
  for (std::size_t t = 0; t < mesh.triangles.size(); t += stride)
    edges.push_back((mesh.corner(t, 1) - mesh.corner(t, 0)).norm());
  const auto middle = edges.begin() + static_cast<std::ptrdiff_t>(edges.size() / 2);
  std::nth_element(edges.begin(), middle, edges.end());
  return *middle;
}

/// A side of a closed run.
struct Side {
  Vec2 a, along;
  double squared;

  [[nodiscard]] float distance(const Vec2& place) const {
    const Vec2 p = place - a;
    return static_cast<float>((p - std::clamp(p.dot(along) / squared, 0.0, 1.0) * along).norm());
  }
};

/// Signed distance of grid nodes from the outline, negative inside. Each node asks the sides that
/// its neighbours are nearest to, in two passes over the grid however far the outline is. Source:
/// P.-E. Danielsson, Euclidean distance mapping, Computer Graphics and Image Processing 14 (1980).
std::vector<float> distances(const Grid& grid, const std::vector<std::vector<Vec2>>& runs,
                             const Task& task) {
  constexpr auto kNone = static_cast<std::uint32_t>(-1);
  std::vector<float> field(grid.size(), 1e30F);
  std::vector<std::uint32_t> nearest(grid.size(), kNone);
  std::vector<Side> sides;
  const auto ask = [&](std::size_t x, std::size_t y, std::uint32_t side) {
    const std::size_t here = grid.index(x, y);
    if (side == kNone || side == nearest[here]) return;
    const float off = sides[side].distance(grid.at(x, y));
    if (off >= field[here]) return;
    field[here] = off;
    nearest[here] = side;
  };
  for (const auto& run : runs) {
    for (std::size_t i = 0; i < run.size(); ++i) {
      const Vec2& a = run[i];
      const Vec2& b = run[(i + 1) % run.size()];
      const auto side = static_cast<std::uint32_t>(sides.size());
      sides.push_back({a, b - a, std::max((b - a).squaredNorm(), 1e-300)});
      const double reach = 2 * grid.cell;  // every node beside it is told by itself
      const auto [x0, x1] =
          Grid::range(std::min(a.x(), b.x()) - reach, std::max(a.x(), b.x()) + reach, grid.low.x(),
                      grid.cell, grid.wide);
      const auto [y0, y1] =
          Grid::range(std::min(a.y(), b.y()) - reach, std::max(a.y(), b.y()) + reach, grid.low.y(),
                      grid.cell, grid.high);
      for (std::size_t y = y0; y <= y1 && y0 <= y1; ++y) {
        for (std::size_t x = x0; x <= x1 && x0 <= x1; ++x) ask(x, y, side);
      }
    }
  }
  const auto row = [&](std::size_t y, std::size_t from) {
    for (std::size_t x = 0; x < grid.wide; ++x) {
      ask(x, y, nearest[grid.index(x, from)]);
      if (x > 0) ask(x, y, nearest[grid.index(x - 1, from)]);
      if (x + 1 < grid.wide) ask(x, y, nearest[grid.index(x + 1, from)]);
      if (x > 0) ask(x, y, nearest[grid.index(x - 1, y)]);
    }
    for (std::size_t x = grid.wide - 1; x-- > 0;) ask(x, y, nearest[grid.index(x + 1, y)]);
  };
  for (std::size_t y = 1; y < grid.high; ++y) {
    if (task.stopped()) return field;
    row(y, y - 1);
  }
  for (std::size_t y = grid.high - 1; y-- > 0;) {
    if (task.stopped()) return field;
    row(y, y + 1);
  }
  // Inside by the crossings of each row.
  std::vector<std::vector<double>> crossings(grid.high);
  for (const auto& run : runs) {
    for (std::size_t i = 0; i < run.size(); ++i) {
      const Vec2& a = run[i];
      const Vec2& b = run[(i + 1) % run.size()];
      // A row more to either side: which ends count is for the comparison to say, alike for all.
      const auto [y0, y1] =
          Grid::range(std::min(a.y(), b.y()) - grid.cell, std::max(a.y(), b.y()) + grid.cell,
                      grid.low.y(), grid.cell, grid.high);
      for (std::size_t y = y0; y <= y1 && y0 <= y1; ++y) {
        const double level = grid.at(0, y).y();
        if ((a.y() > level) != (b.y() > level))
          crossings[y].push_back(a.x() + (level - a.y()) / (b.y() - a.y()) * (b.x() - a.x()));
      }
    }
  }
  for (std::size_t y = 0; y < grid.high; ++y) {
    std::sort(crossings[y].begin(), crossings[y].end());
    for (std::size_t k = 0; k + 1 < crossings[y].size(); k += 2) {
      const auto [x0, x1] =
          Grid::range(crossings[y][k], crossings[y][k + 1], grid.low.x(), grid.cell, grid.wide);
      for (std::size_t x = x0; x <= x1 && x0 <= x1; ++x) field[grid.index(x, y)] *= -1;
    }
  }
  return field;
}

}  // namespace

Result<Section> outline(const scan::Mesh& mesh, const Placement& plane,
                        const OutlineOptions& options, const Task& task) {
  if (mesh.triangles.empty())
    return Error{ErrorCode::InvalidInput, "There are no triangles to outline."};
  const double spacing = options.spacing > 0 ? options.spacing : spacing_of(mesh);
  std::vector<Vec2> flat(mesh.vertices.size());
  Eigen::AlignedBox2d box;
  for (std::size_t v = 0; v < flat.size(); ++v) flat[v] = plane.to_plane(mesh.vertices[v]);
  std::vector<Corners> triangles;
  triangles.reserve(mesh.triangles.size());
  for (const scan::Triangle& t : mesh.triangles) {
    triangles.push_back({flat[t[0]], flat[t[1]], flat[t[2]]});
    for (const Vec2& p : triangles.back()) box.extend(p);
  }
  const Grid grid = grid_over(box, spacing / 3, 2 * spacing);
  std::vector<char> covered(grid.size(), 0);
  for (const Corners& t : triangles)
    each_node(grid, t, [&](std::size_t x, std::size_t y) { covered[grid.index(x, y)] = 1; });
  if (task.stopped()) return cancelled();
  std::vector<std::vector<Vec2>> runs = contours(grid, [&](std::size_t x, std::size_t y) {
    return covered[grid.index(x, y)] != 0 ? -0.5 : 0.5;
  });
  // Specks, and where the scan has a hole.
  const double least = 9 * spacing * spacing;
  std::erase_if(runs, [&](const std::vector<Vec2>& run) {
    const double area = area_of(run);
    return std::abs(area) < least || (area < 0 && !options.openings);
  });
  if (runs.empty())
    return Error{ErrorCode::Degenerate, "Seen along this direction the scan covers nothing."};
  const Buckets buckets(triangles, grid.low, std::max(spacing, 2 * grid.cell));
  for (auto& run : runs) {
    if (task.stopped()) return cancelled();
    refine(run, buckets, grid.cell);
  }
  if (options.offset != 0) {
    const Grid wider = grid_over(box, grid.cell, std::max(0.0, options.offset) + 3 * grid.cell);
    const std::vector<float> field = distances(wider, runs, task);
    if (task.stopped()) return cancelled();
    runs = contours(wider, [&](std::size_t x, std::size_t y) {
      return static_cast<double>(field[wider.index(x, y)]) - options.offset;
    });
    std::erase_if(runs,
                  [&](const std::vector<Vec2>& run) { return std::abs(area_of(run)) < least; });
    if (runs.empty())
      return Error{ErrorCode::Degenerate,
                   "Nothing of the outline is left so far inside. Use a smaller offset."};
  }
  Section section{plane, {}};
  for (auto& run : runs) {
    Polyline line;
    line.points = std::move(run);
    line.closed = true;
    section.polylines.push_back(std::move(line));
  }
  std::stable_sort(section.polylines.begin(), section.polylines.end(),
                   [](const Polyline& a, const Polyline& b) { return a.length() > b.length(); });
  return section;
}

}  // namespace lostline::section
