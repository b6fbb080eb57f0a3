#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Moves faces as one: a hole, pocket or boss with all its faces to another place, or flat faces
/// along their normals.
struct MoveFaces {
  std::vector<std::string> faces;
  Quantity x{0, 0}, y{0, 0}, z{0, 0};  ///< mm, along the datum's axes
  /// From the coordinates of the shifts to the part's: off the identity where the datum frame was
  /// set anew since.
  Transform frame = Transform::Identity();

  static const FeatureKind kind;
  static constexpr bool kChangesOneBody = true;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "moved faces"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
  [[nodiscard]] std::vector<NumberReading> read(const Site& site, const ScanEvidence& scan) const;
};

}  // namespace lostline::model
