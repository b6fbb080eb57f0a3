#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Faces of the model once more as a surface body of its own, at a distance along their normals; a
/// single face may go on past its borders.
struct OffsetSurface {
  std::vector<std::string> faces;
  Quantity distance{1, 0};  ///< outwards, mm; 0: where they are
  Quantity beyond{0, 0};    ///< mm that a single face goes on past its borders; 0: not

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "offset surface"; }
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
  [[nodiscard]] std::vector<NumberReading> read(const Site& site, const ScanEvidence& scan) const;
};

}  // namespace lostline::model
