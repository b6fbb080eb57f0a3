#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Turns bodies about an axis, then shifts them; or makes copies there.
struct MoveBody {
  std::vector<std::string> bodies;
  Quantity x, y, z;  ///< mm, along the datum axes
  Reference axis;    ///< that they turn about; not needed without an angle
  Quantity angle;    ///< rad
  bool copy = false;
  /// From the coordinates of the shifts to the part's: off the identity where the datum frame was
  /// set anew since.
  Transform frame = Transform::Identity();

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return copy ? "copy body" : "move body"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
