#pragma once

#include <optional>
#include <span>

#include "section/resolve.h"
#include "sketch/sketch.h"

namespace lostline::sketch {

/// What a stretch of a sketch can be drawn as instead.
enum class As { Fewest, Line, Arc, Circle, Ellipse, Spline, Rectangle, Slot, Polygon };
struct AsKind {
  As as;
  const char* name;  ///< "fewest curves", "rectangle"
  bool open;         ///< of a stretch with two ends
  bool closed;       ///< of one that closes
  /// The one curve it is; empty of the fewest curves and of shapes.
  std::optional<section::CurveType> curve;
};
std::span<const AsKind> as_kinds();

struct RedrawOptions {
  double reach = 1;      ///< mm: section points further off are no evidence of the picks
  double tolerance = 0;  ///< mm, as section::ResolveOptions has it
  int sides = 6;         ///< of a polygon
};

/// A stretch drawn anew.
struct Redrawn {
  Sketch sketch;
  std::vector<Id> entities;                        ///< the new ones
  double rms_before = 0, rms_after = 0;            ///< mm, of the section points of the stretch
  double greatest_before = 0, greatest_after = 0;  ///< mm
  std::size_t points = 0;
  /// Of a spline: its RMS is so far below what the noise lets expect of it that it follows noise.
  bool follows_noise = false;
};

/// Replaces the picked curves by what the section says of their stretch: pieces become one or
/// change their kind. Picks on both sides of a gap are drawn through it. The outer ends stay, with
/// what is joined to them.
/// @errors InvalidInput  nothing picked, or the stretch does not close where it must;  NotFound
/// no section points lie along the picks;  Degenerate  they do not determine such a curve.
Result<Redrawn> redraw(const Sketch& sketch, const section::Section& section,
                       const std::vector<Id>& picks, As as, const RedrawOptions& options = {});

}  // namespace lostline::sketch
