#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Takes bodies out of the model.
struct RemoveBody {
  std::vector<std::string> bodies;

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "remove body"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
