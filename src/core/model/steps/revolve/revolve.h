#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Turns closed areas about a line of their own sketch.
struct Revolve {
  Id sketch = 0;
  std::vector<sketch::Id> loops;
  sketch::Id axis = sketch::kYAxis;  ///< a line of the sketch, or one of its axes
  Operation operation = Operation::Add;
  std::vector<std::string> bodies;          ///< keys of those it is for; empty: those it touches
  Quantity angle{2 * std::numbers::pi, 0};  ///< rad, 0 … 2 pi
  bool both_ways = false;                   ///< half of the angle on either side of the sketch
  std::vector<Vec2> areas;                  ///< as of an extrude

  bool surface = false;  ///< the curves sweep out a surface body; they may be open

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const;
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
  [[nodiscard]] bool stands_alone() const { return true; }
};

}  // namespace lostline::model
