#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Bores round holes of one diameter about circles of a sketch.
struct Hole {
  Id sketch = 0;
  std::vector<sketch::Id> circles;
  Quantity diameter;
  Extent extent{Reach::Through, {}, {}, {}, {}, {}};
  std::vector<std::string> bodies;  ///< keys of those it is bored into; empty: those it meets

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "hole"; }
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
