#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Moves faces along their normals; their neighbours follow.
struct OffsetFace {
  std::vector<std::string> faces;
  Quantity distance{1, 0};  ///< outwards, mm

  static const FeatureKind kind;
  static constexpr bool kChangesOneBody = true;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "offset face"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
  [[nodiscard]] std::vector<NumberReading> read(const Site& site, const ScanEvidence& scan) const;
};

}  // namespace lostline::model
