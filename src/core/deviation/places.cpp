#include "deviation/places.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numeric>

#include "base/parallel.h"

namespace lostline::deviation {

std::vector<std::uint32_t> bodies_of(const Map& map, const model::Model& model) {
  std::vector<std::uint32_t> bodies(map.face.size(), scan::kNone);
  for (std::size_t i = 0; i < bodies.size(); ++i) {
    if (map.face[i] != scan::kNone)
      bodies[i] = static_cast<std::uint32_t>(model.body_of_face(map.face[i]));
  }
  return bodies;
}

std::vector<GroupStatistics> by_group(const Map& map, const std::vector<std::uint32_t>& group,
                                      const std::function<double(std::uint32_t)>& tolerance) {
  std::map<std::uint32_t, Map> parts;
  std::map<std::uint32_t, std::vector<std::size_t>> where;
  for (std::size_t i = 0; i < map.value.size() && i < group.size(); ++i) {
    if (group[i] == scan::kNone) continue;
    parts[group[i]].value.push_back(map.value[i]);
    where[group[i]].push_back(i);
  }
  std::vector<GroupStatistics> result;
  for (const auto& [id, part] : parts) {
    Statistics s = statistics(part, tolerance(id));
    if (s.n == 0) continue;
    s.max_at = where[id][s.max_at];
    s.min_at = where[id][s.min_at];
    result.push_back({id, s});
  }
  return result;
}

std::vector<Place> worst_places(const Map& map, const std::vector<Vec3>& points, std::size_t most,
                                double apart) {
  struct Cell {
    std::vector<std::uint32_t> points;
  };
  std::map<std::array<long, 3>, Cell> cells;
  for (std::size_t i = 0; i < points.size(); ++i) {
    if (!std::isfinite(map.value[i])) continue;
    const Vec3 c = points[i] / apart;
    cells[{std::lround(std::floor(c.x())), std::lround(std::floor(c.y())),
           std::lround(std::floor(c.z()))}]
        .points.push_back(static_cast<std::uint32_t>(i));
  }
  std::vector<Place> places;
  for (auto& [key, cell] : cells) {
    if (cell.points.size() < 8) continue;
    const auto ninth =
        cell.points.begin() + static_cast<std::ptrdiff_t>(9 * cell.points.size() / 10);
    std::nth_element(cell.points.begin(), ninth, cell.points.end(),
                     [&](std::uint32_t a, std::uint32_t b) {
                       return std::abs(map.value[a]) < std::abs(map.value[b]);
                     });
    places.push_back({points[*ninth], map.value[*ninth], map.face[*ninth], cell.points.size()});
  }
  std::stable_sort(places.begin(), places.end(), [](const Place& a, const Place& b) {
    return std::abs(a.value) > std::abs(b.value);
  });
  std::vector<Place> chosen;
  for (const Place& p : places) {
    if (chosen.size() >= most) break;
    const bool near = std::any_of(chosen.begin(), chosen.end(),
                                  [&](const Place& c) { return (c.at - p.at).norm() < apart; });
    if (!near) chosen.push_back(p);
  }
  return chosen;
}

Result<Coverage> coverage(const model::Tessellation& model, std::size_t faces,
                          const scan::MeshIndex& scan, const Transform& to_scan, double limit,
                          const Task& task) {
  // Triangles are cut into pieces no longer than the limit, and each counts by its middle.
  const std::size_t n = model.mesh.triangles.size();
  std::vector<double> seen(n, 0.0);
  std::vector<std::vector<std::array<Vec3, 3>>> unseen(n);
  std::vector<double> area(n, 0.0);
  parallel_for(n, 64, [&](std::size_t begin, std::size_t end) {
    for (std::size_t t = begin; t < end && !task.stopped(); ++t) {
      area[t] = 0.5 * model.mesh.area_vector(t).norm();
      const Vec3 a = model.mesh.corner(t, 0);
      const Vec3 u = model.mesh.corner(t, 1) - a;
      const Vec3 v = model.mesh.corner(t, 2) - a;
      const double longest = std::max({u.norm(), v.norm(), (v - u).norm()});
      const int pieces = std::clamp(static_cast<int>(std::ceil(longest / limit)), 1, 40);
      int hits = 0;
      int count = 0;
      for (int i = 0; i < pieces; ++i) {
        for (int j = 0; j + i < pieces; ++j) {
          const double s = (i + 1.0 / 3) / pieces;
          const double r = (j + 1.0 / 3) / pieces;
          ++count;
          if (scan.nearest(to_scan * Vec3(a + s * u + r * v), limit)) {
            ++hits;
            continue;
          }
          const auto at = [&](int p, int q) {
            return Vec3(a + u * (static_cast<double>(p) / pieces) +
                        v * (static_cast<double>(q) / pieces));
          };
          unseen[t].push_back({at(i, j), at(i + 1, j), at(i, j + 1)});
        }
      }
      seen[t] = area[t] * hits / count;
    }
  });
  if (task.stopped()) return cancelled();
  Coverage result;
  for (const auto& list : unseen)
    result.unseen.insert(result.unseen.end(), list.begin(), list.end());
  result.face_share.assign(faces, 0.0);
  std::vector<double> face_area(faces, 0.0);
  for (std::size_t t = 0; t < n; ++t) {
    result.face_share[model.triangle_face[t]] += seen[t];
    face_area[model.triangle_face[t]] += area[t];
  }
  for (std::size_t f = 0; f < faces; ++f) {
    if (face_area[f] > 0) result.face_share[f] /= face_area[f];
  }
  const double whole = std::accumulate(area.begin(), area.end(), 0.0);
  result.share = whole > 0 ? std::accumulate(seen.begin(), seen.end(), 0.0) / whole : 0;
  return result;
}

}  // namespace lostline::deviation
