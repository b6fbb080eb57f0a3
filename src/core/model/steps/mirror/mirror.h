#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Mirrors a step's material, or the whole part when `source` is 0, and adds it.
struct Mirror {
  Id source = 0;
  Reference plane;

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "mirror"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
