#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Repeats what an earlier step adds or cuts, all copies in one boolean.
struct Pattern {
  Id source = 0;  ///< a step before this one
  enum class Kind {
    Linear,
    Circular,
    Points,  ///< at points and centres of a sketch; the original stands at the one nearest to it
    Curve    ///< along a curve in space, from the place nearest to the original on
  } arranged = Kind::Circular;
  Reference direction;               ///< axis turned about, or direction moved along
  int count = 2;                     ///< with the original
  Quantity spacing;                  ///< between neighbours: mm, or rad
  std::vector<Id> points{};          ///< a sketch
  std::vector<std::string> along{};  ///< key of a curve body
  bool turns = false;                ///< copies along a curve turn with it

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "pattern"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
