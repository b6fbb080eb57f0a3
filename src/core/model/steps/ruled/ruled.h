#pragma once

#include "model/feature.h"

namespace lostline::model {

/// A surface straight from one curve in space to another.
struct Ruled {
  std::vector<std::string> curves;  ///< keys of two curve bodies
  bool other_way = false;           ///< the second runs the other way than looks natural

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "ruled surface"; }
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
