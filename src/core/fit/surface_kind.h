#pragma once

#include <array>
#include <span>
#include <string_view>

#include "fit/surface_fit.h"

namespace lostline::fit {

/// A number that says how large a surface is, beside where it lies.
struct SizeInfo {
  enum class Unit {
    Diameter,  ///< stored as a radius, said as a diameter
    Radius,
    Angle,  ///< rad, said in degrees
  };
  const char* name;    ///< in JSON: "major_radius"
  const char* symbol;  ///< before the value, for a reader: "S\u2300"
  Unit unit;
  double Surface::*value;
  double SurfaceFit::*u;  ///< its expanded uncertainty

  /// As it is said: mm of a diameter or radius, degrees of an angle.
  [[nodiscard]] double said(const Surface& s) const { return factor() * (s.*value); }
  [[nodiscard]] double said_u(const SurfaceFit& f) const { return factor() * (f.*u); }
  /// As relations hold it: mm of a radius, degrees of an angle.
  [[nodiscard]] double held(const Surface& s) const {
    return unit == Unit::Angle ? said(s) : s.*value;
  }
  [[nodiscard]] double factor() const;
};

/// Everything about a kind of surface, curve or point but its formulas (surface_kernels.h) and its
/// first estimate: one entry in a table. Freedoms of fits, JSON, words and cards follow from it.
struct SurfaceKind {
  Kind kind;
  const char* name;  ///< "plane": in files, JSON and messages
  enum class Nature { Surface, Curve, Point } nature;
  const char* place;               ///< what `anchor` is called in JSON
  Vec3 (*anchor)(const Surface&);  ///< the point that says where it lies
  const char* direction;           ///< what `axis` is called in JSON; null: it has none
  enum class Shifts { Along, Across, All } shifts;  ///< relative to the axis, that change it
  int fewest_points;                                ///< that determine it with its noise
  // What fits move beside direction and place.
  bool has_radius;
  double Surface::*last;  ///< half angle or minor radius; null
  double SurfaceFit::*last_u;
  bool turns;  ///< about its axis: an ellipse
  // What is said of it.
  std::array<SizeInfo, 2> sizes;
  std::size_t size_count;
  std::size_t main_size;  ///< which of them relations hold equal or to a value

  [[nodiscard]] std::span<const SizeInfo> size_list() const { return {sizes.data(), size_count}; }
  /// Null for what has no size.
  [[nodiscard]] const SizeInfo* size() const {
    return size_count > 0 ? &sizes[main_size] : nullptr;
  }
};

std::span<const SurfaceKind> surface_kinds();
const SurfaceKind& about(Kind kind);
/// Null for a name that is not known.
const SurfaceKind* find_surface_kind(std::string_view name);

}  // namespace lostline::fit
