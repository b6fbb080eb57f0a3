#include <algorithm>

#include "bench/gl_values.h"
#include "bench/renderer.h"

// Points that nothing joins.

namespace lostline::app {
namespace {

constexpr std::size_t kReducedPoints = 150000;  // of all batches while the view moves

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

void Renderer::drawPoints(const Frame& frame) {
  std::size_t all = 0;
  for (const Points& p : points_) all += p.batch->count();
  if (all == 0) return;
  const double share =
      frame.moving ? std::min(1.0, static_cast<double>(kReducedPoints) / static_cast<double>(all))
                   : 1.0;
  lit_->bind();
  setClip(*lit_, frame);
  lit_->setUniformValue("view_projection", qt(frame.view_projection));
  QMatrix3x3 rotation;
  for (int r = 0; r < 3; ++r) {
    for (int c = 0; c < 3; ++c) rotation(r, c) = frame.view_rotation(r, c);
  }
  lit_->setUniformValue("view_rotation", rotation);
  lit_->setUniformValue("paint", 4);
  lit_->setUniformValue("opacity", 1.0F);
  for (const Points& p : points_) {
    QMatrix4x4 placement;
    placement.translate(p.surface.origin.x(), p.surface.origin.y(), p.surface.origin.z());
    lit_->setUniformValue("placement", placement);
    lit_->setUniformValue("colour", rgb(p.batch->colour));
    glPointSize(p.batch->size * frame.pixel_ratio);
    glBindVertexArray(p.surface.full.array);
    glDrawArrays(GL_POINTS, 0,
                 static_cast<GLsizei>(share * static_cast<double>(p.surface.full.count)));
  }
  glBindVertexArray(0);
  lit_->release();
}

}  // namespace lostline::app
