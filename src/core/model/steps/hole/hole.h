#pragma once

#include "model/feature.h"

namespace lostline::model {

/// Bores round holes of one diameter about circles or points of a sketch, through or to a depth,
/// plain or with a seat for a screw's head.
struct Hole {
  Id sketch = 0;
  std::vector<sketch::Id> circles;  ///< or points drawn for themselves
  Quantity diameter;
  Extent extent{Reach::Through, {}, {}, {}, {}, {}};
  std::vector<std::string> bodies;  ///< keys of those it is bored into; empty: those it meets

  enum class Bottom { Flat, Drilled } bottom = Bottom::Flat;  ///< of one that does not go through
  enum class Head { None, Counterbore, Countersink } head = Head::None;
  Quantity head_diameter{18, 0};                 ///< mm
  Quantity head_depth{10, 0};                    ///< mm, of a counterbore
  Quantity head_angle{std::numbers::pi / 2, 0};  ///< rad, the whole angle of a countersink
  Quantity entry{0, 0};     ///< level of the surface that the head is sunk into, mm
  bool from_below = false;  ///< it is bored against the normal of the sketch
  int thread = 0;           ///< place in `threads`; its diameter is then that of the tap drill
  /// Tolerance class of the thread (ISO 965-1).
  enum class Fit { Medium6H, Close5H, Coarse7H, Medium6G } fit = Fit::Medium6H;
  bool modelled = false;  ///< the thread's turns are cut, not only said

  /// Coarse threads that a hole can be tapped with; the first is none.
  static const std::vector<const char*>& threads();

  static const FeatureKind kind;
  void describe(Description& d);
  [[nodiscard]] std::string words() const;
  [[nodiscard]] Result<ToolBody> tool(const Site& site) const;
  [[nodiscard]] bool stands_alone() const { return thread == 0 || !modelled; }
};

/// The angle of a twist drill's point, rad (common practice, no source: 118 degrees).
constexpr double kDrillPoint = 118 * std::numbers::pi / 180;

}  // namespace lostline::model
