#include "base/hull.h"

#include <algorithm>
#include <limits>

namespace lostline {

std::vector<Vec2> convex_hull(std::vector<Vec2> points) {
  std::sort(points.begin(), points.end(), [](const Vec2& a, const Vec2& b) {
    return a.x() != b.x() ? a.x() < b.x() : a.y() < b.y();
  });
  points.erase(std::unique(points.begin(), points.end()), points.end());
  if (points.size() < 3) return points;
  std::vector<Vec2> hull;
  // The lower side from left to right, then the upper one back.
  const auto add = [&](const Vec2& p, std::size_t fewest) {
    while (hull.size() > fewest && cross(hull.back() - hull[hull.size() - 2], p - hull.back()) <= 0)
      hull.pop_back();
    hull.push_back(p);
  };
  for (const Vec2& p : points) add(p, 1);
  const std::size_t lower = hull.size();
  for (std::size_t i = points.size() - 1; i-- > 0;) add(points[i], lower);
  hull.pop_back();  // the first once more
  return hull;
}

Vec2 smallest_rectangle(const std::vector<Vec2>& points) {
  const std::vector<Vec2> hull = convex_hull(points);
  if (hull.empty()) return Vec2::Zero();
  if (hull.size() < 3) return {(hull.back() - hull.front()).norm(), 0};
  Vec2 best(0, 0);
  double least = std::numeric_limits<double>::infinity();
  for (std::size_t i = 0; i < hull.size(); ++i) {
    const Vec2 along = (hull[(i + 1) % hull.size()] - hull[i]).normalized();
    Eigen::AlignedBox2d box;
    for (const Vec2& p : hull) box.extend(Vec2(along.dot(p), cross(along, p)));
    const Vec2 sides = box.sizes();
    if (sides.prod() >= least) continue;
    least = sides.prod();
    best = {sides.maxCoeff(), sides.minCoeff()};
  }
  return best;
}

}  // namespace lostline
