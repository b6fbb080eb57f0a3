#pragma once

#include <Adaptor3d_Curve.hxx>
#include <TopoDS_Wire.hxx>
#include <vector>

#include "base/geometry.h"
#include "base/result.h"

// The sections of a loft, told alike: curve by curve, each from the same corner and the same way
// round, so that what lies at the same share of the same curve belongs together.

namespace lostline::model {

/// A curve by shares of its length. It is asked at thousands of them in no order; the kernel's
/// GCPnts_AbscissaPoint integrates from an end each time, this from the nearest of its steps.
class EvenCurve {
 public:
  /// @errors Degenerate  it has no length.
  static Result<EvenCurve> of(const Handle(Adaptor3d_Curve) & curve);
  [[nodiscard]] Vec3 at(double share) const;  ///< of 0..1
  [[nodiscard]] double length() const { return lengths_.back(); }
  void turn() { backwards_ = !backwards_; }

 private:
  [[nodiscard]] double length_between(double a, double b) const;
  Handle(Adaptor3d_Curve) curve_;
  double first_ = 0;
  double step_ = 0;              ///< of the parameter
  std::vector<double> lengths_;  ///< from the beginning up to each step
  bool backwards_ = false;
};

constexpr std::size_t kPlaces = 25;  ///< of a curve by which sections are compared

/// A section as a chain of curves.
class LoftSection {
 public:
  /// @errors Degenerate  a curve without length, or none.
  static Result<LoftSection> of(const TopoDS_Wire& wire);

  [[nodiscard]] std::size_t curves() const { return curves_.size(); }
  [[nodiscard]] bool closed() const { return closed_; }
  /// One curve that runs on smoothly where it closes: it has no corner to be told from.
  [[nodiscard]] bool ring() const { return ring_; }
  void cut_ring() { ring_ = false; }
  [[nodiscard]] Vec3 at(std::size_t curve, double share) const;
  [[nodiscard]] const TopoDS_Shape& edge(std::size_t curve) const { return edges_[curve]; }

  /// Places are counted through all curves, the last of one being the first of the next.
  [[nodiscard]] double period() const {
    return static_cast<double>(curves_.size() * (kPlaces - 1));
  }
  [[nodiscard]] const Vec3& place(std::size_t flat) const {
    const std::size_t curve = std::min(flat / (kPlaces - 1), curves_.size() - 1);
    return places_[curve][flat - curve * (kPlaces - 1)];
  }
  /// Least and greatest of its places in a direction.
  [[nodiscard]] std::pair<double, double> levels(const Vec3& direction) const;
  /// Mean distance between places that belong together.
  [[nodiscard]] double apart(const LoftSection& other) const;
  /// Told so that it lies nearest to the one before.
  void tell_like(const LoftSection& before);

 private:
  void turn();
  void begin_at(std::size_t curve);
  void begin_ring_at(double share);
  std::vector<EvenCurve> curves_;
  std::vector<TopoDS_Shape> edges_;
  std::vector<std::vector<Vec3>> places_;
  double begin_ = 0;  ///< of a ring, as a share
  bool closed_ = false;
  bool ring_ = false;
};

/// The sections of a loft told alike.
/// @errors Degenerate  as above;  InvalidInput  they have different numbers of curves: the message
/// says which.
Result<std::vector<LoftSection>> told_alike(const std::vector<TopoDS_Wire>& wires);

}  // namespace lostline::model
