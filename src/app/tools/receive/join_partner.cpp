#include "tools/receive/join_partner.h"

#include <QGuiApplication>

#include "look/theme.h"

namespace lostline::app {

JoinPartner::Surface JoinPartner::surface_of(std::shared_ptr<const project::Scan> scan,
                                             const Transform& pose) {
  model::Tessellation surface;
  surface.mesh = scan::transformed(*scan->mesh, pose);
  surface.normals = scan::vertex_normals(surface.mesh);
  surface.parameters.assign(surface.mesh.vertices.size(), Vec2::Zero());
  surface.triangle_face.assign(surface.mesh.triangles.size(), 0);
  auto guest = std::make_shared<BenchView::Guest>();
  guest->index = std::make_shared<const scan::MeshIndex>(surface.mesh);
  guest->tessellation = std::make_shared<const model::Tessellation>(std::move(surface));
  guest->scan = std::move(scan);
  return guest;
}

Transform JoinPartner::beside(const Box3& box, const scan::Mesh& mesh, const Transform& pose) {
  Transform turned = Transform::Identity();
  turned.linear() = pose.linear();
  const Box3 own = scan::bounds(scan::transformed(mesh, turned));
  constexpr double kGap = 0.15;  // of the first one's size
  Vec3 place = box.center();
  place.x() = box.max().x() + kGap * box.diagonal().norm() + 0.5 * own.sizes().x();
  turned.pretranslate(place - own.center());
  return turned;
}

void JoinPartner::show(Surface surface, const Transform& pose) {
  scan_ = surface->scan;
  pose_ = pose;
  held_.reset();
  bench_.setGuest(std::move(surface));
  bench_.setShow(Show::Both);
}

void JoinPartner::hide() {
  if (!shown()) return;
  scan_.reset();
  held_.reset();
  bench_.setGuest({});
  bench_.setShow(Show::Scan);
}

bool JoinPartner::drag(const QPointF& at, bool released) {
  if (!shown()) return false;
  const Camera& camera = bench_.camera();
  if (held_) {
    const QPointF by = at - *held_;
    const Eigen::Matrix3d to_part = camera.rotation.conjugate().toRotationMatrix();
    const Vec3 right = to_part.col(0);
    const Vec3 up = to_part.col(1);
    Transform motion = Transform::Identity();
    if ((QGuiApplication::keyboardModifiers() & Qt::ControlModifier) != 0) {
      constexpr double kTurn = 0.005;  // rad a pixel: a half turn across a usual view
      const Vec3 middle = pose_ * scan_->health.box.center();
      motion.translate(middle);
      motion.rotate(Eigen::AngleAxisd(kTurn * by.x(), up) *
                    Eigen::AngleAxisd(kTurn * by.y(), right));
      motion.translate(-middle);
    } else {
      motion.translate((by.x() * right - by.y() * up) / camera.scale);
    }
    pose_ = motion * pose_;
  }
  held_ = released ? std::nullopt : std::optional(at);
  bench_.stir();
  return released;
}

LineBatch JoinPartner::lines() const { return lines_of(*scan_->mesh, pose_, role::red_pencil); }

LineBatch lines_of(const scan::Mesh& mesh, const Transform& pose, const QColor& colour) {
  constexpr std::size_t kMost = 6000;  // edges
  LineBatch batch{{}, colour, 1.0F, false};
  const std::size_t stride = std::max<std::size_t>(1, mesh.triangles.size() / kMost);
  for (std::size_t t = 0; t < mesh.triangles.size(); t += stride)
    batch.segments.emplace_back(pose * mesh.corner(t, 0), pose * mesh.corner(t, 1));
  return batch;
}

}  // namespace lostline::app
