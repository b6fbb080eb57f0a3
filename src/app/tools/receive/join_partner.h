#pragma once

#include "bench/bench_view.h"
#include "joining/join.h"
#include "project/document.h"

namespace lostline::app {

/// The scan that is laid on the first one with the mouse: shown as a surface of its own beside or
/// over it, picked, moved and turned there.
class JoinPartner {
 public:
  explicit JoinPartner(BenchView& bench) : bench_(bench) {}

  using Surface = std::shared_ptr<const BenchView::Guest>;
  /// For a worker: the scan as a surface where `pose` puts it, part coordinates.
  static Surface surface_of(std::shared_ptr<const project::Scan> scan, const Transform& pose);
  /// Where a scan lies beside a box, turned as `pose` turns it.
  static Transform beside(const Box3& box, const scan::Mesh& mesh, const Transform& pose);

  void show(Surface surface, const Transform& pose);
  void hide();
  [[nodiscard]] bool shown() const { return scan_ != nullptr; }
  [[nodiscard]] const std::shared_ptr<const project::Scan>& scan() const { return scan_; }
  [[nodiscard]] const Transform& pose() const { return pose_; }
  /// A picked place in the scan's own coordinates.
  [[nodiscard]] Vec3 own(const Vec3& point) const { return pose_.inverse() * point; }

  /// Follows a drag: moves the scan in the plane of the view, with Ctrl turns it about its middle.
  /// @return whether it has come to rest, so that its surface is to be made anew.
  bool drag(const QPointF& at, bool released);
  /// Some of its edges, where it is dragged to.
  [[nodiscard]] LineBatch lines() const;

 private:
  BenchView& bench_;
  std::shared_ptr<const project::Scan> scan_;
  Transform pose_ = Transform::Identity();
  std::optional<QPointF> held_;  ///< where the pointer was last
};

/// A scan drawn by some of its edges.
LineBatch lines_of(const scan::Mesh& mesh, const Transform& pose, const QColor& colour);

}  // namespace lostline::app
