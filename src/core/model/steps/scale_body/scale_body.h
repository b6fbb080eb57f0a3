#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Makes bodies larger or smaller about the origin of the datum frame, so that one length becomes
/// another: for shrinkage of castings and mouldings.
struct ScaleBody {
  std::vector<std::string> bodies;
  Quantity from{100, 0};  ///< mm, as it is
  Quantity to{100, 0};    ///< mm, as it shall be
  /// Whose origin stays where it is: off the identity where the datum frame was set anew since.
  Transform frame = Transform::Identity();

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "scale body"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
