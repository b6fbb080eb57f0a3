#include "datum/target.h"

#include <algorithm>

namespace lostline::datum {

void Target::settle() {
  index.emplace(mesh);
  features.clear();
  std::vector<Feature> by_face(faces.size());
  double whole = 0;
  centre = Vec3::Zero();
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const double area = 0.5 * mesh.area_vector(t).norm();
    whole += area;
    centre += area * mesh.centroid(t);
    if (triangle_face.empty()) continue;
    Feature& f = by_face[triangle_face[t]];
    f.area += area;
    for (int k = 0; k < 3; ++k) f.box.extend(mesh.corner(t, k));
  }
  if (whole > 0) centre /= whole;
  size = scan::bounds(mesh).diagonal().norm();
  for (std::size_t i = 0; i < faces.size(); ++i) {
    if (!faces[i] || !(by_face[i].area > 0)) continue;
    by_face[i].surface = *faces[i];
    // Halves of one surface, as files often store them, are one feature.
    const auto same = std::find_if(features.begin(), features.end(), [&](const Feature& f) {
      const fit::Surface& a = f.surface;
      const fit::Surface& b = *faces[i];
      if (a.kind != b.kind || a.hollow != b.hollow) return false;
      const double reach = 1e-4;
      if (fit::is_flat(b.kind))
        return a.axis.dot(b.axis) > 1 - 1e-9 && std::abs(a.distance(b.point)) < reach &&
               f.box.intersects(by_face[i].box);
      const Vec3 d = b.point - a.point;
      return b.kind == fit::Kind::Cylinder && std::abs(a.axis.dot(b.axis)) > 1 - 1e-9 &&
             std::abs(a.radius - b.radius) < reach && (d - d.dot(a.axis) * a.axis).norm() < reach;
    });
    if (same == features.end()) {
      features.push_back(by_face[i]);
    } else {
      same->area += by_face[i].area;
      same->box.extend(by_face[i].box);
    }
  }
  std::stable_sort(features.begin(), features.end(),
                   [](const Feature& a, const Feature& b) { return a.area > b.area; });
}

Cloud cloud_of(const scan::Mesh& mesh, const std::vector<float>& trust, std::size_t most) {
  std::vector<Vec3> normal(mesh.vertices.size(), Vec3::Zero());
  std::vector<double> weight(mesh.vertices.size(), 0);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const Vec3 area = mesh.area_vector(t);
    const double share = area.norm() * (trust.empty() ? 1.0 : static_cast<double>(trust[t]));
    for (const std::uint32_t v : mesh.triangles[t]) {
      normal[v] += area;
      weight[v] += share;
    }
  }
  Cloud cloud;
  const std::size_t stride =
      std::max<std::size_t>(1, mesh.vertices.size() / std::max<std::size_t>(1, most));
  double sum = 0;
  for (std::size_t v = 0; v < mesh.vertices.size(); v += stride) {
    const double length = normal[v].norm();
    if (!(length > 0)) continue;
    cloud.points.push_back(mesh.vertices[v]);
    cloud.normals.emplace_back(normal[v] / length);
    cloud.weight.push_back(weight[v]);
    sum += weight[v];
  }
  const double mean = sum / std::max<double>(1, static_cast<double>(cloud.points.size()));
  // Rough triangles count as few of the usual size at most.
  for (double& w : cloud.weight) w = mean > 0 ? std::min(w / mean, 4.0) : 1;
  return cloud;
}

}  // namespace lostline::datum
