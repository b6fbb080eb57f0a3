#include "model_places.h"

#include <algorithm>
#include <limits>

#include "deviation/deviation.h"

namespace lostline::cli {
namespace {

double near_enough(const model::Model& model) { return 0.01 * model.box().diagonal().norm(); }

}  // namespace

std::optional<std::size_t> face_near(const model::Model& model, const Vec3& at) {
  if (model.empty()) return std::nullopt;
  const auto comparator = deviation::Comparator::build(model);
  if (!comparator) return std::nullopt;
  const auto value = comparator->at(at, near_enough(model));
  if (value.face == scan::kNone) return std::nullopt;
  return value.face;
}

std::optional<std::size_t> edge_near(const model::Model& model, const Vec3& at) {
  if (model.empty()) return std::nullopt;
  const auto shape = model::tessellate(model);
  double nearest = std::numeric_limits<double>::infinity();
  std::optional<std::size_t> found;
  for (std::size_t e = 0; shape && e < shape->edges.size(); ++e) {
    const auto& points = shape->edges[e].points;
    for (std::size_t i = 1; i < points.size(); ++i) {
      const Vec3 along = points[i] - points[i - 1];
      const double length = along.squaredNorm();
      const double t =
          length > 0 ? std::clamp((at - points[i - 1]).dot(along) / length, 0.0, 1.0) : 0.0;
      const double off = (points[i - 1] + t * along - at).norm();
      if (off >= nearest) continue;
      nearest = off;
      found = shape->edges[e].edge;
    }
  }
  return nearest <= near_enough(model) ? found : std::nullopt;
}

}  // namespace lostline::cli
