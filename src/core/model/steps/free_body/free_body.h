#pragma once

#include "model/feature.h"

namespace lostline::model {

/// A wholly free shape as a solid of smooth patches that were fitted to a closed scan.
struct FreeBody {
  std::shared_ptr<const patch::SplineSurfaces> faces;  ///< part coordinates; their sides meet
  Operation operation = Operation::Add;
  std::vector<std::string> bodies{};  ///< keys of those it is for; empty: those it touches

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const { return "free body"; }
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
