#pragma once

#include <array>

#include "sketch/jet.h"
#include "sketch/system.h"

namespace lostline::sketch {

/// The unknowns that one equation touches, as jets.
class Terms {
 public:
  Terms(const System& system, const Eigen::VectorXd& x) : system_(system), x_(x) {}

  [[nodiscard]] Refs refs() const { return Refs(system_); }
  [[nodiscard]] const Entity& entity(Id id) const { return *system_.entity(id); }
  JetPoint point(Id id);  ///< the origin is fixed
  /// Where a point is now, without touching its unknowns.
  [[nodiscard]] Vec2 place(Id id) const;
  Jet radius(const Entity& entity) { return unknown(system_.radius_unknown(entity.id)); }
  JetPoint centre(const Entity& entity) { return point(entity.centre); }
  /// A straight entity or an axis of the sketch.
  JetLine line(Id id);
  /// Signed distance of a point from an endless curve or axis.
  Jet distance(Id curve, const JetPoint& p);

  /// Calls `take(unknown, derivative)` for each unknown touched so far.
  template <class Take>
  void spread(const Jet& jet, const Take& take) const {
    for (std::size_t k = 0; k < used_; ++k) take(slots_[k], jet.d[static_cast<Eigen::Index>(k)]);
  }

 private:
  Jet unknown(Eigen::Index i);

  const System& system_;
  const Eigen::VectorXd& x_;
  std::array<Eigen::Index, Jet::kSize> slots_{};
  std::size_t used_ = 0;
};

}  // namespace lostline::sketch
