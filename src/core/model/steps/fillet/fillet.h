#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Rounds edges with a ball of one radius, or one that grows evenly along each chain of edges.
struct Fillet {
  std::vector<EdgeRef> edges;
  Quantity radius;
  bool grows = false;         ///< to another radius at the other end of each chain
  Quantity end_radius{0, 0};  ///< mm, there
  bool other_end = false;     ///< the radius is that of the last end, not the first

  static const FeatureKind kind;
  static constexpr bool kChangesOneBody = true;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "fillet"; }
  [[nodiscard]] Result<Model> build(const Site& site) const;
  /// The one radius of all edges, where the scan shows them round.
  [[nodiscard]] std::vector<NumberReading> read(const Site& site, const ScanEvidence& scan) const;
};

}  // namespace lostline::model
