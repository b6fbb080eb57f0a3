#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Lays material of one thickness over faces of the part, or takes it away from under them.
struct Thicken {
  std::vector<std::string> faces;
  Quantity thickness{2, 0};  ///< mm
  enum class Side { Outwards, Inwards, Both } side = Side::Outwards;
  Operation operation = Operation::Add;
  std::vector<std::string> bodies{};  ///< keys of those it is for; empty: those it touches

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const;
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
  [[nodiscard]] std::vector<NumberReading> read(const Site& site, const ScanEvidence& scan) const;
};

}  // namespace lostline::model
