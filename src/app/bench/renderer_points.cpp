#include <algorithm>

#include "bench/gl_values.h"
#include "bench/renderer.h"

// Points that nothing joins.

namespace lostline::app {
namespace {

constexpr std::size_t kReducedPoints = 150000;   // of all batches while the view moves
constexpr std::size_t kPointsOfAPiece = 100000;  // as quickly drawn as a piece of triangles

}  // namespace

void Renderer::setPoints(const std::vector<std::shared_ptr<const PointBatch>>& batches) {
  std::vector<Points> next;
  for (const auto& batch : batches) {
    const auto known = std::find_if(points_.begin(), points_.end(),
                                    [&](const Points& p) { return p.batch == batch; });
    if (known != points_.end()) {
      next.push_back(std::move(*known));
      points_.erase(known);
      continue;
    }
    Points points{batch, {}};
    points.surface.origin = batch->origin.cast<float>();
    upload(points.surface.full, batch->numbers, {});
    points.surface.full.count = static_cast<GLsizei>(batch->count());
    upload_values(points.surface.full, std::vector<float>(batch->count(), -1.0F));
    next.push_back(std::move(points));
  }
  for (Points& p : points_) drop(p.surface);
  points_ = std::move(next);
}

void Renderer::addPoints(Pieces& pieces, const SharedFrame& frame) {
  std::size_t all = 0;
  for (const Points& p : points_) all += p.batch->count();
  const double share =
      frame->moving ? std::min(1.0, static_cast<double>(kReducedPoints) / static_cast<double>(all))
                    : 1.0;
  for (std::size_t k = 0; k < points_.size(); ++k) {
    const auto count =
        static_cast<std::size_t>(share * static_cast<double>(points_[k].surface.full.count));
    for (std::size_t first = 0; first < count; first += kPointsOfAPiece) {
      pieces.emplace_back([this, frame, k, first, count] {
        drawPoints(*frame, points_[k], first, std::min(kPointsOfAPiece, count - first));
      });
    }
  }
}

void Renderer::drawPoints(const Frame& frame, const Points& points, std::size_t first,
                          std::size_t count) {
  lit_->bind();
  setClip(*lit_, frame);
  lit_->setUniformValue("view_projection", qt(frame.view_projection));
  QMatrix3x3 rotation;
  for (int r = 0; r < 3; ++r) {
    for (int c = 0; c < 3; ++c) rotation(r, c) = frame.view_rotation(r, c);
  }
  lit_->setUniformValue("view_rotation", rotation);
  lit_->setUniformValue("paint", 0);
  lit_->setUniformValue("as_points", true);
  lit_->setUniformValue("opacity", 1.0F);
  QMatrix4x4 placement;
  placement.translate(points.surface.origin.x(), points.surface.origin.y(),
                      points.surface.origin.z());
  lit_->setUniformValue("placement", placement);
  lit_->setUniformValue("colour", rgb(points.batch->colour));
  glPointSize(points.batch->size * frame.pixel_ratio);
  glBindVertexArray(points.surface.full.array);
  glDrawArrays(GL_POINTS, static_cast<GLint>(first), static_cast<GLsizei>(count));
  glBindVertexArray(0);
  lit_->release();
}

}  // namespace lostline::app
