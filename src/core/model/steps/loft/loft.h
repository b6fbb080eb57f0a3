#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Goes over from section to section: the outer outlines of sketches, in order. Where sketches have
/// several, as sections through many blades do, it goes from one to the nearest of the next.
struct Loft {
  std::vector<Id> sections;  ///< sketches, two or more
  /// Where the first section has several outlines: a place in or near the one that is meant.
  std::vector<Vec2> outline{};
  bool ruled = false;  ///< straight from section to section
  /// Key of a curve body that runs through the sections: they go over along it.
  std::vector<std::string> spine{};
  /// Keys of curve bodies that run through all sections: the surface touches them all along.
  std::vector<std::string> guides{};
  bool square_start = false;  ///< it leaves the first section square to its plane
  bool square_end = false;    ///< and comes to the last one so
  Quantity beyond_start{};    ///< mm, it goes straight on before its first section
  Quantity beyond_end{};      ///< mm, and past its last one
  Operation operation = Operation::Add;
  std::vector<std::string> bodies{};  ///< keys of those it is for; empty: those it touches
  bool surface = false;               ///< the curves span a surface body; they may be open

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const;
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
};

}  // namespace lostline::model
