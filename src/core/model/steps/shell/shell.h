#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Hollows the part to a wall of one thickness, open at the faces picked.
struct Shell {
  std::vector<std::string> open;  ///< faces that are left out
  Quantity thickness{2, 0};       ///< mm
  bool outwards = false;          ///< the wall is added outside, the part becomes the hollow

  static const FeatureKind kind;
  static constexpr bool kChangesOneBody = true;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "shell"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
  [[nodiscard]] std::vector<NumberReading> read(const Site& site, const ScanEvidence& scan) const;
};

}  // namespace lostline::model
