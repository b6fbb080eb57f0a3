// The clip plane, its handle, and the mark of the axes that can be clicked.
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "bench/bench_view.h"
#include "look/theme.h"

namespace lostline::app {

void BenchView::setClip(std::optional<Clip> clip) {
  clip_ = clip;
  redraw();
}

void BenchView::clipAcrossView() {
  const Box3 box = shownBox();
  if (box.isEmpty()) return;
  const Vec3 eye = -camera_.viewDirection();
  Eigen::Index axis = 0;
  eye.cwiseAbs().maxCoeff(&axis);
  Clip clip;
  clip.normal = Vec3::Unit(axis) * (eye[axis] > 0 ? 1 : -1);
  clip.offset = clip.normal.dot(box.center());
  setClip(clip);
}

QPointF BenchView::clipHandle() const {
  if (!clip_) return {};
  const Vec3 c = shownBox().center();
  return camera_.toScreen(c + (clip_->offset - clip_->normal.dot(c)) * clip_->normal);
}

std::vector<Item> BenchView::itemsIn(const QRectF& box) const {
  std::vector<Item> items;
  const project::Document& d = session_.document();
  const bool scan_seen = d.scan && (show_ != Show::Model || !model_on_card_);
  if (scan_seen && d.survey && d.survey->triangle_region.size() == d.scan->mesh->triangles.size()) {
    std::vector<std::uint8_t> out(d.survey->regions.size() + 1, 0);
    // One affine map from scan to screen: a large scan has a million vertices.
    const Transform to_part = placement();
    const auto on_screen = [&](const Vec3& v) {
      const QPointF at = camera_.toScreen(to_part * v);
      return Vec2(at.x(), at.y());
    };
    const Vec2 origin = on_screen(Vec3::Zero());
    Eigen::Matrix<double, 2, 3> slope;
    for (int k = 0; k < 3; ++k) slope.col(k) = on_screen(Vec3::Unit(k)) - origin;
    const Eigen::AlignedBox2d frame(Vec2(box.left(), box.top()), Vec2(box.right(), box.bottom()));
    std::vector<std::uint8_t> inside(d.scan->mesh->vertices.size());
    for (std::size_t v = 0; v < inside.size(); ++v)
      inside[v] = frame.contains(origin + slope * d.scan->mesh->vertices[v]) ? 1 : 0;
    for (std::size_t t = 0; t < d.scan->mesh->triangles.size(); ++t) {
      for (const std::uint32_t v : d.scan->mesh->triangles[t]) {
        if (inside[v] == 0) out[d.survey->triangle_region[t]] = 1;
      }
    }
    for (const survey::Region& r : d.survey->regions) {
      if (r.triangles > 0 && out[r.id] == 0 && !showing_.hidden_regions.contains(r.id))
        items.push_back({Item::Kind::Region, r.id});
    }
    return items;
  }
  if (!model_on_card_ || guest_) return items;
  const model::Model& solid = session_.route()->solid;
  std::vector<std::uint8_t> state(solid.face_count(), 0);  // 1 seen, 2 partly outside
  for (std::size_t t = 0; t < model_on_card_->mesh.triangles.size(); ++t) {
    std::uint8_t& face = state[model_on_card_->triangle_face[t]];
    face = std::max<std::uint8_t>(face, 1);
    for (int k = 0; k < 3; ++k) {
      if (!box.contains(camera_.toScreen(model_on_card_->mesh.corner(t, k)))) face = 2;
    }
  }
  for (std::size_t f = 0; f < state.size(); ++f) {
    if (state[f] == 1) items.push_back({Item::Kind::Face, 0, solid.face_name(f)});
  }
  return items;
}

void BenchView::paintClip(QPainter& painter) {
  if (!clip_) return;
  // Where the plane cuts the box about the part.
  const Box3 box = shownBox();
  const Vec3 n = clip_->normal;
  const Vec3 u = any_perpendicular(n).normalized();
  const Vec3 v = n.cross(u);
  const Vec3 c = box.center() + (clip_->offset - n.dot(box.center())) * n;
  double reach_u = 0;
  double reach_v = 0;
  for (int corner = 0; corner < 8; ++corner) {
    const Vec3 p = box.corner(static_cast<Box3::CornerType>(corner)) - c;
    reach_u = std::max(reach_u, std::abs(p.dot(u)));
    reach_v = std::max(reach_v, std::abs(p.dot(v)));
  }
  QPolygonF outline;
  for (const auto& [a, b] : {std::pair{-1, -1}, {1, -1}, {1, 1}, {-1, 1}})
    outline << camera_.toScreen(c + 1.05 * (a * reach_u * u + b * reach_v * v));
  painter.setPen(QPen(role::red_pencil, 1, Qt::DashDotLine));
  painter.setBrush(Qt::NoBrush);
  painter.drawPolygon(outline);
  // The handle: an arrow both ways along the normal, or a dot where it points at the eye.
  const QPointF at = clipHandle();
  const Vec3 seen = camera_.rotation * n;
  const QPointF along(seen.x(), -seen.y());
  const double length = std::hypot(along.x(), along.y());
  painter.setPen(QPen(role::red_pencil, 2));
  if (length > 0.15) {
    const QPointF d = along / length;
    const QPointF side(-d.y(), d.x());
    painter.drawLine(at - 18 * d, at + 18 * d);
    for (const double s : {-1.0, 1.0}) {
      const QPointF tip = at + s * 18 * d;
      painter.drawLine(tip, tip - s * 6 * d + 4 * side);
      painter.drawLine(tip, tip - s * 6 * d - 4 * side);
    }
  }
  painter.setBrush(role::card);
  painter.drawEllipse(at, 5, 5);
}

bool BenchView::clickTriad(const QPointF& at) {
  const auto tips = triadTips();
  for (std::size_t k = 0; k < 3; ++k) {
    if ((at - tips[k]).manhattanLength() > 12) continue;
    // Against the axis; once more, along it.
    const Vec3 axis = Vec3::Unit(static_cast<Eigen::Index>(k));
    const bool there = camera_.viewDirection().dot(axis) < -0.999;
    lookAlong(there ? Vec3(-axis) : axis, k == 2 ? Vec3::UnitY() : Vec3::UnitZ());
    return true;
  }
  return false;
}

}  // namespace lostline::app
