#include "survey/shared_rows.h"

#include <algorithm>
#include <cmath>

namespace lostline::survey {
namespace {

/// Labels of the surfaces that a patch touches, a row of free vertices between them or not.
std::vector<int> touching(const Patch& patch, int label, const std::vector<int>& labels,
                          const scan::Topology& topology) {
  std::vector<int> found;
  const auto add = [&](std::uint32_t v) {
    if (labels[v] >= 0 && labels[v] != label && (found.empty() || found.back() != labels[v]))
      found.push_back(labels[v]);
  };
  for (const std::uint32_t v : patch.vertices) {
    for (const std::uint32_t near : topology.vertex_neighbours[v]) {
      if (labels[near] == label) continue;
      add(near);
      for (const std::uint32_t far : topology.vertex_neighbours[near]) add(far);
    }
  }
  std::sort(found.begin(), found.end());
  found.erase(std::unique(found.begin(), found.end()), found.end());
  return found;
}

Eigen::Matrix3Xd columns_of(const Eigen::Matrix3Xd& all, const std::vector<Eigen::Index>& which) {
  Eigen::Matrix3Xd some(3, static_cast<Eigen::Index>(which.size()));
  for (std::size_t i = 0; i < which.size(); ++i)
    some.col(static_cast<Eigen::Index>(i)) = all.col(which[i]);
  return some;
}

}  // namespace

void leave_out_shared_rows(Patch& patch, int label, const Grower& grower,
                           const scan::Topology& topology, const SurveyOptions& options) {
  constexpr std::size_t kEnough = 30;  // points, as for a patch of inner rows
  const std::vector<int> others = touching(patch, label, grower.labels(), topology);
  if (others.empty()) return;
  const Grower::Candidate& own = grower.surfaces()[static_cast<std::size_t>(label)];
  const double level = std::cos(options.normal_limit);
  std::vector<Eigen::Index> kept;
  for (Eigen::Index i = 0; i < patch.points.cols(); ++i) {
    const Vec3 normal = own.surface.normal_at(patch.points.col(i));
    const Vec3 foot = patch.points.col(i) - own.surface.distance(patch.points.col(i)) * normal;
    const bool shared = std::any_of(others.begin(), others.end(), [&](int other) {
      const Grower::Candidate& c = grower.surfaces()[static_cast<std::size_t>(other)];
      const double reach = options.reach * std::max({own.sigma, c.sigma, grower.noise()});
      return std::abs(c.surface.distance(foot)) < reach &&
             c.surface.normal_at(foot).dot(normal) > level;
    });
    if (!shared) kept.push_back(i);
  }
  if (kept.size() == static_cast<std::size_t>(patch.points.cols()) || kept.size() < kEnough ||
      2 * kept.size() < static_cast<std::size_t>(patch.points.cols()))
    return;
  patch.points = columns_of(patch.points, kept);
  patch.normals = columns_of(patch.normals, kept);
  std::vector<std::uint32_t> vertices;
  std::vector<char> rim;
  for (const Eigen::Index i : kept) {
    vertices.push_back(patch.vertices[static_cast<std::size_t>(i)]);
    if (!patch.rim.empty()) rim.push_back(patch.rim[static_cast<std::size_t>(i)]);
  }
  patch.vertices = std::move(vertices);
  patch.rim = std::move(rim);
}

}  // namespace lostline::survey
