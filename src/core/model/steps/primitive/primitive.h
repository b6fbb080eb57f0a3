#pragma once

#include "model/feature.h"

namespace lostline::model {

/// A block, cylinder, cone, ball or ring straight from a fitted surface, a face or a datum, with
/// its ends where the scan has them.
struct Primitive {
  enum class Shape { Block, Cylinder, Cone, Ball, Ring } shape = Shape::Cylinder;
  Reference on;            ///< all but a block: whose axis or centre it has
  Quantity radius{10, 0};  ///< mm; of a cone: at the level `at`; of a ring: of its middle circle
  Quantity at{0, 0};       ///< mm, of a cone: its ends may move, it stays where it is
  Quantity tube{2, 0};     ///< mm, of a ring
  Quantity half_angle{0.1, 0};  ///< rad, of a cone: positive where it grows from `from` to `to`
  /// mm, places of the ends along the axis, from where a plane square to it runs through the origin
  /// of the datum frame; the axis points along the datum axis that it is nearest to.
  Quantity from{0, 0}, to{10, 0};
  Quantity x_from{0, 0}, x_to{10, 0};  ///< mm, of a block, along the datum's axes
  Quantity y_from{0, 0}, y_to{10, 0};
  Quantity z_from{0, 0}, z_to{10, 0};
  /// From the coordinates that levels are counted in to the part's: off the identity where the
  /// datum frame was set anew since.
  Transform frame = Transform::Identity();
  Operation operation = Operation::Add;
  std::vector<std::string> bodies{};  ///< keys of those it is for; empty: those it touches
  bool surface = false;               ///< its round face alone, a surface body

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const;
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
  [[nodiscard]] bool stands_alone() const { return true; }
  [[nodiscard]] std::vector<NumberReading> read(const Site& site, const ScanEvidence& scan) const;
};

}  // namespace lostline::model
