#pragma once

#include "model/feature.h"

namespace lostline::model {

/// A wall of one thickness, half to either side of a sketch, from an open outline down to the part.
struct Rib {
  std::vector<Id> sketch;    ///< one, whose outline does not close
  Quantity thickness{5, 0};  ///< mm
  bool other_side = false;   ///< of the outline

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "rib"; }
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
