#include "deviation/borders.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

namespace lostline::deviation {
namespace {

struct CellHash {
  std::size_t operator()(const std::array<std::int64_t, 3>& c) const {
    std::uint64_t h = 0x9e3779b97f4a7c15ULL;
    for (const std::int64_t v : c) h = (h ^ static_cast<std::uint64_t>(v)) * 0x100000001b3ULL;
    return h ^ (h >> 32U);
  }
};

/// Gives vertices closer than `tolerance` one number.
std::vector<std::uint32_t> places_of(const std::vector<Vec3>& vertices, double tolerance,
                                     std::uint32_t& count) {
  std::unordered_map<std::array<std::int64_t, 3>, std::vector<std::uint32_t>, CellHash> cells;
  std::vector<std::uint32_t> place(vertices.size());
  std::vector<Vec3> first;
  for (std::size_t v = 0; v < vertices.size(); ++v) {
    std::array<std::int64_t, 3> home{};
    for (int k = 0; k < 3; ++k)
      home[static_cast<std::size_t>(k)] = std::llround(vertices[v][k] / (4 * tolerance));
    std::uint32_t found = scan::kNone;
    for (int n = 0; n < 27 && found == scan::kNone; ++n) {
      const auto it =
          cells.find({home[0] + n % 3 - 1, home[1] + n / 3 % 3 - 1, home[2] + n / 9 - 1});
      if (it == cells.end()) continue;
      for (const std::uint32_t other : it->second) {
        if ((first[other] - vertices[v]).squaredNorm() < tolerance * tolerance) found = other;
      }
    }
    if (found == scan::kNone) {
      found = static_cast<std::uint32_t>(first.size());
      first.push_back(vertices[v]);
      cells[home].push_back(found);
    }
    place[v] = found;
  }
  count = static_cast<std::uint32_t>(first.size());
  return place;
}

}  // namespace

Borders::Borders(const model::Tessellation& shape) : shape_(shape) {
  const scan::Mesh& mesh = shape.mesh;
  Box3 box;
  for (const Vec3& v : mesh.vertices) box.extend(v);
  const double size = box.isEmpty() ? 1.0 : box.diagonal().norm();
  std::uint32_t places = 0;
  place_of_ = places_of(mesh.vertices, 1e-7 * std::max(size, 1e-9), places);
  corner_normal_.assign(places, Vec3::Zero());
  on_border_.assign(mesh.vertices.size(), 0);
  across_.assign(mesh.triangles.size(), {scan::kNone, scan::kNone, scan::kNone});
  std::unordered_map<std::uint64_t, std::pair<std::uint32_t, int>> open;
  for (std::uint32_t t = 0; t < mesh.triangles.size(); ++t) {
    const scan::Triangle& corner = mesh.triangles[t];
    const Vec3 normal = mesh.area_vector(t).normalized();
    for (int k = 0; k < 3; ++k) {
      const auto at = [&](int i) { return corner[static_cast<std::size_t>((k + i) % 3)]; };
      const Vec3 a = mesh.vertices[at(1)] - mesh.vertices[at(0)];
      const Vec3 b = mesh.vertices[at(2)] - mesh.vertices[at(0)];
      const double angle = std::atan2(a.cross(b).norm(), a.dot(b));
      if (normal.allFinite()) corner_normal_[place_of_[at(0)]] += angle * normal;
      const auto [low, high] = std::minmax(place_of_[at(1)], place_of_[at(2)]);
      const std::uint64_t key = (static_cast<std::uint64_t>(low) << 32U) | high;
      const auto it = open.find(key);
      if (it == open.end()) {
        open.emplace(key, std::pair(t, k));
        continue;
      }
      const auto [other, side] = it->second;
      across_[t][static_cast<std::size_t>(k)] = other;
      across_[other][static_cast<std::size_t>(side)] = t;
      open.erase(it);
    }
  }
  first_.assign(places + 1, 0);
  for (const scan::Triangle& t : mesh.triangles) {
    for (const std::uint32_t v : t) ++first_[place_of_[v] + 1];
  }
  for (std::uint32_t p = 0; p < places; ++p) first_[p + 1] += first_[p];
  around_.resize(first_[places]);
  std::vector<std::uint32_t> next(first_.begin(), first_.end() - 1);
  for (std::uint32_t t = 0; t < mesh.triangles.size(); ++t) {
    for (const std::uint32_t v : mesh.triangles[t]) around_[next[place_of_[v]]++] = t;
  }
  for (std::uint32_t t = 0; t < mesh.triangles.size(); ++t) {
    for (int k = 0; k < 3; ++k) {
      if (!is_border(t, k)) continue;
      for (const int i : {1, 2})
        on_border_[mesh.triangles[t][static_cast<std::size_t>((k + i) % 3)]] = 1;
    }
  }
}

std::optional<Borders::Edge> Borders::edge_through(std::uint32_t vertex) const {
  const std::uint32_t place = place_of_[vertex];
  std::uint32_t one = scan::kNone;
  std::uint32_t two = scan::kNone;
  std::optional<Edge> edge;
  for (std::uint32_t i = first_[place]; i < first_[place + 1]; ++i) {
    const std::uint32_t t = around_[i];
    const std::uint32_t face = shape_.triangle_face[t];
    if (one == scan::kNone || face == one)
      one = face;
    else if (two == scan::kNone || face == two)
      two = face;
    else
      return std::nullopt;  // a corner
    for (int k = 0; k < 3 && !edge; ++k) {
      // The edge opposite k ends at the place when its corner k is another.
      if (place_of_[shape_.mesh.triangles[t][static_cast<std::size_t>(k)]] != place &&
          is_border(t, k))
        edge = Edge{t, k};
    }
  }
  return two == scan::kNone ? std::nullopt : edge;
}

bool Borders::is_border(std::uint32_t triangle, int k) const {
  const std::uint32_t other = across(triangle, k);
  return other == scan::kNone || shape_.triangle_face[other] != shape_.triangle_face[triangle];
}

Vec3 Borders::outwards_at_edge(std::uint32_t triangle, int k) const {
  Vec3 out = shape_.mesh.area_vector(triangle).normalized();
  const std::uint32_t other = across(triangle, k);
  if (other != scan::kNone) out += shape_.mesh.area_vector(other).normalized();
  return out;
}

}  // namespace lostline::deviation
