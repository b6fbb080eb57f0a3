#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Tilts walls about where a neutral plane meets them.
struct Draft {
  std::vector<std::string> faces;
  Reference neutral;                          ///< plane; the walls narrow along its normal
  Quantity angle{std::numbers::pi / 180, 0};  ///< of the walls to that normal, rad

  static const FeatureKind kind;
  static constexpr bool kChangesOneBody = true;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "draft"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
  [[nodiscard]] std::vector<NumberReading> read(const Site& site, const ScanEvidence& scan) const;
};

}  // namespace lostline::model
