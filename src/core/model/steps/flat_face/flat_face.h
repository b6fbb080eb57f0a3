#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Fills the outlines of a sketch with flat faces, a surface body: to split by, to sew to others.
struct FlatFace {
  std::vector<Id> sketch;  ///< one
  Quantity level;          ///< mm, along the sketch's normal

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "flat face"; }
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
