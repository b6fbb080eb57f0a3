#pragma once

#include "model/feature.h"

namespace lostline::model {

/// A curve in space through places: a body of its own, which sweeps, pipes and lofts follow.
struct SpaceCurve {
  SpacePath path;  ///< its places; bends only of a straight one
  enum class Runs { Smooth, Straight } runs = Runs::Smooth;
  bool closed = false;

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "curve"; }
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
