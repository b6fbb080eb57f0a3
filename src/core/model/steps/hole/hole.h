#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Bores round holes of one diameter about circles of a sketch.
struct Hole {
  Id sketch = 0;
  std::vector<sketch::Id> circles;
  Quantity diameter;
  Extent extent{Reach::Through, {}, {}, {}, {}, {}};

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "hole"; }
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
