#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Puts a surface in the place of a face of a solid: the walls around the face grow or shrink to
/// meet it.
struct ReplaceFace {
  std::vector<std::string> faces;  ///< of one solid
  std::vector<std::string> with;   ///< keys of surface bodies that reach past the walls all round
  bool keep = false;               ///< the surface bodies stay

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "replaced face"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
