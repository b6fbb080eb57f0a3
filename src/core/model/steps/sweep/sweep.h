#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Moves closed areas of a sketch along a path: the curves of another sketch, or a curve in space.
struct Sweep {
  std::vector<Id> profile;           ///< one sketch
  std::vector<Id> path;              ///< one sketch, whose curves are one chain; none with a curve
  std::vector<std::string> along{};  ///< key of a curve body, instead of a sketch
  enum class Hold {
    Square,   ///< the profile stays square to the path
    Parallel  ///< it keeps its direction
  } hold = Hold::Square;
  Operation operation = Operation::Add;
  std::vector<std::string> bodies{};  ///< keys of those it is for; empty: those it touches
  bool surface = false;               ///< the curves sweep out a surface body

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const;
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
