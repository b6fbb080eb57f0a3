#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Parts solids and surface bodies along a plane, cylinder or cone, or along surface bodies; with
/// one side kept it trims them. The piece on the far side
/// of the surface stays the body it was; the others are bodies of the step.
struct Split {
  std::vector<std::string> bodies;
  Reference by;                    ///< a plane, cylinder or cone; not in force with `along`
  std::vector<std::string> along;  ///< surface bodies instead
  bool keep = true;                ///< the surface bodies stay
  /// Of the pieces of each body; the far side is that which the surface's normal points to, along
  /// surface bodies that of the largest piece.
  enum class Keeps { Both, FarSide, NearSide } keeps = Keeps::Both;

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "split"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
