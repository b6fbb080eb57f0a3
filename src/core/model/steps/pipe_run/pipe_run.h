#pragma once

#include "model/feature.h"

namespace lostline::model {

/// A round pipe or bar along a path of straights and bends, as it was bent, or along a curve; or a
/// stretch of one that has another radius: a collar, a bead, a reduced end.
struct PipeRun {
  SpacePath path;
  std::vector<std::string> along{};  ///< key of a curve body, instead of the path
  Quantity radius{10, 0};            ///< mm, of its outside
  Quantity wall{0, 0};               ///< mm; 0: solid
  Quantity bend{0, 0};   ///< mm, of the centre line at every bend; 0: as the path has them
  bool in_part = false;  ///< only between two places of the path; not along a curve
  Quantity from{0, 0};   ///< mm along the centre line; below 0 it begins before the path
  Quantity to{10, 0};    ///< mm; more than the length of the path: it goes straight on
  Operation operation = Operation::Add;
  std::vector<std::string> bodies{};  ///< keys of those it is for; empty: those it touches

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const;
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
