#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Rounds edges with a ball of one radius.
struct Fillet {
  std::vector<EdgeRef> edges;
  Quantity radius;

  static const FeatureKind kind;
  static constexpr bool kChangesOneBody = true;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "fillet"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
