#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Bevels edges.
struct Chamfer {
  std::vector<EdgeRef> edges;
  Quantity distance;                        ///< on the first face of each edge, mm
  Quantity angle{std::numbers::pi / 4, 0};  ///< to the first face, rad

  static const FeatureKind kind;
  static constexpr bool kChangesOneBody = true;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "chamfer"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
