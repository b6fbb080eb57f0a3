#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Repeats what an earlier step adds or cuts, all copies in one boolean.
struct Pattern {
  Id source = 0;  ///< a step before this one
  enum class Kind { Linear, Circular } arranged = Kind::Circular;
  Reference direction;  ///< axis turned about, or direction moved along
  int count = 2;        ///< with the original
  Quantity spacing;     ///< between neighbours: mm, or rad

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "pattern"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
