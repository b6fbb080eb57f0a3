#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Joins bodies to one, cuts them from it, or keeps what it has in common with them.
struct Boolean {
  std::vector<std::string> target;  ///< key of the one body that is changed
  std::vector<std::string> tools;
  enum class Kind { Join, Cut, Common };
  Kind makes = Kind::Join;
  bool keep = false;  ///< the tools stay as bodies

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const;
  [[nodiscard]] Result<Model> build(const Site& site) const;
};

}  // namespace lostline::model
