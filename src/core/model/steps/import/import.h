#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Brings a model from a file into the Route, each of its bodies as a body of its own, where the
/// file has it. Its faces are named for their geometry: the names hold whatever the order in the
/// file.
struct Import {
  std::shared_ptr<const Imported> model;
  Transform frame = Transform::Identity();  ///< from the file's coordinates to the part's

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "import"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
