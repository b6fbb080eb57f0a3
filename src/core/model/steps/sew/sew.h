#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Sews surface bodies together along edges that meet: a solid when they close, else one surface.
struct Sew {
  std::vector<std::string> bodies;
  Quantity gap{0.01, 0};  ///< mm: the widest gap between edges that is closed

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "sew"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
