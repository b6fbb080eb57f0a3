#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Moves closed areas of a sketch along its normal.
struct Extrude {
  Id sketch = 0;
  std::vector<sketch::Id> loops;  ///< one entity of each loop used; empty: all, inner ones as holes
  Operation operation = Operation::Add;
  std::vector<std::string> bodies;  ///< keys of those it is for; empty: those it touches
  Extent extent;
  Quantity draft;  ///< rad, narrowing towards `to`; neutral where the section was taken
  /// A point inside each area used among lines that cross and end loosely; instead of `loops`.
  std::vector<Vec2> areas;

  bool surface = false;  ///< the curves sweep out a surface body; they may be open
  /// rad, by which the profile turns from `from` to `to`, counter-clockwise about the sketch's
  /// normal; it is as drawn where the section was taken.
  Quantity twist;
  /// The axis it turns about, along the sketch's normal; empty: through the sketch's origin.
  Reference about;

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const;
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
  [[nodiscard]] bool stands_alone() const { return twist.value == 0; }
};

}  // namespace lostline::model
