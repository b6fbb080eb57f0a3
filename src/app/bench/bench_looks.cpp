// Where the Bench looks from: principal views, what is selected, a window, kept views; and how the
// view follows the part.
#include <Eigen/Eigenvalues>
#include <array>
#include <cmath>
#include <set>

#include "bench/bench_view.h"

namespace lostline::app {

void BenchView::fitView() {
  camera_.fit(shownBox());
  redraw();
}

bool BenchView::fitSelection() {
  Box3 box;
  for (const auto& triangle : selectedTriangles()) {
    for (const Vec3& corner : triangle) box.extend(corner);
  }
  if (box.isEmpty()) return false;
  camera_.fit(box);
  redraw();
  return true;
}

bool BenchView::lookNormalToSelection() {
  Vec3 sum = Vec3::Zero();
  Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
  double area = 0;
  for (const auto& [a, b, c] : selectedTriangles()) {
    const Vec3 vector = (b - a).cross(c - a);
    const double size = vector.norm();
    if (!(size > 0)) continue;
    sum += vector;
    spread += vector * vector.transpose() / size;
    area += size;
  }
  if (!(area > 0)) return false;
  // Normals all round cancel out: what they are square to is the axis.
  constexpr double kRound = 0.3;
  Vec3 normal = sum;
  if (sum.norm() < kRound * area)
    normal = Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(spread).eigenvectors().col(0);
  normal.normalize();
  if (normal.dot(camera_.viewDirection()) > 0 && sum.norm() < kRound * area) normal = -normal;
  lookAlong(normal, std::abs(normal.z()) < 0.9 ? Vec3::UnitZ() : Vec3::UnitY());
  return true;
}

void BenchView::zoomByWindow() {
  window_wanted_ = true;
  setCursor(Qt::CrossCursor);
}

void BenchView::keepView() {
  if (!kept_camera_) kept_camera_ = camera_;
}

void BenchView::restoreView() {
  if (!kept_camera_) return;
  const QSizeF size = camera_.size;
  camera_ = *std::exchange(kept_camera_, std::nullopt);
  camera_.size = size;
  redraw();
}

void BenchView::lookAlong(int principal) {
  struct View {
    Vec3 normal, up;
  };
  static const std::array<View, 7> kViews{{{{0.55, -0.75, 0.5}, Vec3::UnitZ()},
                                           {-Vec3::UnitY(), Vec3::UnitZ()},
                                           {Vec3::UnitY(), Vec3::UnitZ()},
                                           {-Vec3::UnitX(), Vec3::UnitZ()},
                                           {Vec3::UnitX(), Vec3::UnitZ()},
                                           {Vec3::UnitZ(), Vec3::UnitY()},
                                           {-Vec3::UnitZ(), Vec3::UnitY()}}};
  const View& view = kViews.at(static_cast<std::size_t>(principal));
  lookAlong(view.normal, view.up);
}

void BenchView::lookAlong(const Vec3& normal, const Vec3& up) {
  const Box3 box = shownBox();
  const auto whole = [&] {
    for (int corner = 0; !box.isEmpty() && corner < 8; ++corner) {
      if (!QRectF(QPointF(), camera_.size)
               .contains(camera_.toScreen(box.corner(static_cast<Box3::CornerType>(corner)))))
        return false;
    }
    return true;
  };
  const bool seen_whole = whole();
  const Vec3 pivot = pivotAt({camera_.size.width() / 2, camera_.size.height() / 2});
  camera_.target = pivot;
  camera_.look(normal, up);
  if (seen_whole && !whole()) camera_.fit(box);
  redraw();
}

void BenchView::lookAt(const Vec3& normal, const Vec3& up) {
  camera_.look(normal, up);
  fitView();
}

void BenchView::flyTo(const Vec3& point) {
  const project::Document& d = session_.document();
  if (d.scan) {
    const Transform to_part = placement();
    if (const auto nearest = d.scan->index->nearest(to_part.inverse() * point)) {
      const Vec3 normal =
          to_part.linear() * d.scan->mesh->area_vector(nearest->triangle).normalized();
      const Vec3 up = std::abs(normal.z()) < 0.8 ? Vec3::UnitZ() : Vec3::UnitY();
      camera_.look(normal + 0.4 * up + 0.25 * any_perpendicular(normal), up);
    }
  }
  camera_.target = point;
  constexpr double kClose = 12;  // pixels per mm
  camera_.scale = kClose;
  redraw();
}

project::SavedView BenchView::savedView(const std::string& name) const {
  project::SavedView view;
  view.name = name;
  view.centre = camera_.target;
  view.towards = camera_.viewDirection();
  view.up = camera_.rotation.conjugate() * Vec3::UnitY();
  view.height = height() / camera_.scale;
  view.scan = show_ != Show::Model;
  view.model = show_ != Show::Scan;
  view.deviation = paint_ == Paint::Deviation;
  return view;
}

void BenchView::recall(const project::SavedView& view) {
  camera_.look(-view.towards, view.up);
  camera_.target = view.centre;
  camera_.scale = height() / std::max(view.height, 1e-6);
  show_ = view.scan && view.model ? Show::Both : view.model ? Show::Model : Show::Scan;
  setPaint(view.deviation ? Paint::Deviation : Paint::Plain);
}

std::vector<std::array<Vec3, 3>> BenchView::selectedTriangles() const {
  std::vector<std::array<Vec3, 3>> all;
  const project::Document& d = session_.document();
  if (d.scan) {
    const scan::Mesh& mesh = *d.scan->mesh;
    const Transform to_part = placement();
    const auto take = [&](std::size_t t) {
      if (t < mesh.triangles.size())
        all.push_back({to_part * mesh.corner(t, 0), to_part * mesh.corner(t, 1),
                       to_part * mesh.corner(t, 2)});
    };
    for (const std::uint32_t t : selected_triangles_) take(t);
    if (d.survey) {
      for (const std::uint32_t region : selected_regions_) {
        for (const std::uint32_t t : survey::triangles_of(*d.survey, region)) take(t);
      }
    }
  }
  if (model_on_card_) {
    const std::set<std::uint32_t> faces(selected_faces_.begin(), selected_faces_.end());
    const scan::Mesh& mesh = model_on_card_->mesh;
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
      if (faces.contains(model_on_card_->triangle_face[t]))
        all.push_back({mesh.corner(t, 0), mesh.corner(t, 1), mesh.corner(t, 2)});
    }
  }
  return all;
}

Box3 BenchView::shownBox() const {
  Box3 box;
  const project::Document& d = session_.document();
  if (d.scan) {
    for (std::size_t i = 0; i < d.scan->mesh->vertices.size(); i += 17)
      box.extend(placement() * d.scan->mesh->vertices[i]);
  }
  for (const auto& batch : points_) {
    for (std::size_t i = 0; i < batch->count(); i += 17) box.extend(batch->point(i));
  }
  if (model_on_card_ && (!d.scan || (guest_ && show_ == Show::Model)))
    box = scan::bounds(model_on_card_->mesh);
  else if (guest_ && show_ == Show::Both)
    box.extend(scan::bounds(guest_->tessellation->mesh));
  return box;
}

void BenchView::followPlacement() {
  const Transform now = placement();
  const Transform motion = now * placed_.inverse();
  placed_ = now;
  if (motion.isApprox(Transform::Identity(), 1e-12)) return;
  if (kept_camera_) kept_camera_->follow(motion);
  // In the check views the directions are the engineer's, against which the part is judged.
  if (grid_)
    camera_.target = motion * camera_.target;
  else
    camera_.follow(motion);
  redraw();
}

void BenchView::followScale(const project::Scan& before, const project::Scan& now) {
  double factor = mm_per(now.unit) / mm_per(before.unit);
  if (now.health.triangles == before.health.triangles && before.health.box.diagonal().norm() > 0)
    factor = now.health.box.diagonal().norm() / before.health.box.diagonal().norm();
  if (!(factor > 0) || std::abs(factor - 1) < 1e-9) return;
  const Vec3 origin = placement() * Vec3::Zero();
  camera_.target = origin + factor * (camera_.target - origin);
  camera_.scale /= factor;
}

}  // namespace lostline::app
