#include "joining/laid.h"

#include <algorithm>

namespace lostline::joining {

Result<std::vector<SharedPlace>> places_as_laid(const scan::MeshIndex& first, std::size_t scan_a,
                                                const scan::Mesh& second, std::size_t scan_b,
                                                const Transform& pose) {
  constexpr std::size_t kTried = 3000;
  constexpr std::size_t kPlaces = 24;
  const std::size_t stride = std::max<std::size_t>(1, second.vertices.size() / kTried);
  struct Near {
    double distance;
    Vec3 a, b;
  };
  std::vector<Near> near;
  for (std::size_t v = 0; v < second.vertices.size(); v += stride) {
    const Vec3& b = second.vertices[v];
    if (const auto foot = first.nearest(pose * b)) near.push_back({foot->distance, foot->point, b});
  }
  // What overlaps lies nearer than what only one of them shows: the nearest fifth of the points,
  // unless even that is far for the size of the scan.
  std::sort(near.begin(), near.end(),
            [](const Near& a, const Near& b) { return a.distance < b.distance; });
  near.resize(near.size() / 5);
  const double size = scan::bounds(second).diagonal().norm();
  if (near.size() < 3 || near.back().distance > 0.1 * size)
    return Error{ErrorCode::Failed,
                 "The scan hardly touches the other as it lies. Move it to where it belongs."};
  // The ones furthest from each other.
  std::vector<SharedPlace> places{{scan_a, near.front().a, scan_b, near.front().b, {}, true}};
  std::vector<double> apart(near.size(), 1e300);
  while (places.size() < std::min(kPlaces, near.size())) {
    std::size_t furthest = 0;
    for (std::size_t i = 0; i < near.size(); ++i) {
      apart[i] = std::min(apart[i], (near[i].b - places.back().b).norm());
      if (apart[i] > apart[furthest]) furthest = i;
    }
    places.push_back({scan_a, near[furthest].a, scan_b, near[furthest].b, {}, true});
  }
  return places;
}

}  // namespace lostline::joining
