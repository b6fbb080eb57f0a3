#include "fit/surface_kind.h"

#include <cmath>
#include <numbers>

namespace lostline::fit {
namespace {

using Unit = SizeInfo::Unit;
using Nature = SurfaceKind::Nature;
using Shifts = SurfaceKind::Shifts;

constexpr SizeInfo radius(const char* name, const char* symbol, Unit unit = Unit::Diameter) {
  return {name, symbol, unit, &Surface::radius, &SurfaceFit::u_radius};
}
constexpr SizeInfo minor(const char* symbol, Unit unit) {
  return {"minor_radius", symbol, unit, &Surface::minor_radius, &SurfaceFit::u_minor_radius};
}
constexpr SizeInfo kHalfAngle{"half_angle", "half angle", Unit::Angle, &Surface::half_angle,
                              &SurfaceFit::u_half_angle};

Vec3 point_of(const Surface& s) { return s.point; }
Vec3 apex_of(const Surface& s) { return s.apex(); }

constexpr auto kNoLast = static_cast<double Surface::*>(nullptr);
constexpr auto kNoU = static_cast<double SurfaceFit::*>(nullptr);
constexpr auto kMinor = &Surface::minor_radius;
constexpr auto kMinorU = &SurfaceFit::u_minor_radius;

// In the order of `Kind`. A cone's radius depends on where along its axis it is given: its angle is
// its size.
constexpr std::array kKinds{
    SurfaceKind{Kind::Plane,
                "plane",
                Nature::Surface,
                "point",
                point_of,
                "normal",
                Shifts::Along,
                3,
                false,
                kNoLast,
                kNoU,
                false,
                {},
                0,
                0},
    SurfaceKind{Kind::Cylinder,
                "cylinder",
                Nature::Surface,
                "point",
                point_of,
                "axis",
                Shifts::Across,
                6,
                true,
                kNoLast,
                kNoU,
                false,
                {radius("radius", "\u2300")},
                1,
                0},
    SurfaceKind{Kind::Cone,
                "cone",
                Nature::Surface,
                "apex",
                apex_of,
                "axis",
                Shifts::Across,
                7,
                true,
                &Surface::half_angle,
                &SurfaceFit::u_half_angle,
                false,
                {kHalfAngle},
                1,
                0},
    SurfaceKind{Kind::Sphere,
                "sphere",
                Nature::Surface,
                "centre",
                point_of,
                nullptr,
                Shifts::All,
                5,
                true,
                kNoLast,
                kNoU,
                false,
                {radius("radius", "S\u2300")},
                1,
                0},
    SurfaceKind{Kind::Torus,
                "torus",
                Nature::Surface,
                "centre",
                point_of,
                "axis",
                Shifts::All,
                14,
                true,
                kMinor,
                kMinorU,
                false,
                {radius("major_radius", "ring \u2300"), minor("R", Unit::Radius)},
                2,
                1},
    SurfaceKind{Kind::Line,
                "line",
                Nature::Curve,
                "point",
                point_of,
                "axis",
                Shifts::Across,
                2,
                false,
                kNoLast,
                kNoU,
                false,
                {},
                0,
                0},
    SurfaceKind{Kind::Circle,
                "circle",
                Nature::Curve,
                "centre",
                point_of,
                "axis",
                Shifts::All,
                3,
                true,
                kNoLast,
                kNoU,
                false,
                {radius("radius", "\u2300")},
                1,
                0},
    SurfaceKind{Kind::Ellipse,
                "ellipse",
                Nature::Curve,
                "centre",
                point_of,
                "axis",
                Shifts::All,
                6,
                true,
                kMinor,
                kMinorU,
                true,
                {radius("major_radius", "long \u2300"), minor("short \u2300", Unit::Diameter)},
                2,
                0},
    SurfaceKind{Kind::Point,
                "point",
                Nature::Point,
                "point",
                point_of,
                nullptr,
                Shifts::All,
                1,
                false,
                kNoLast,
                kNoU,
                false,
                {},
                0,
                0},
};

}  // namespace

double SizeInfo::factor() const {
  return unit == Unit::Diameter ? 2 : unit == Unit::Angle ? 180 / std::numbers::pi : 1;
}

std::span<const SurfaceKind> surface_kinds() { return kKinds; }

const SurfaceKind& about(Kind kind) { return kKinds[static_cast<std::size_t>(kind)]; }

const SurfaceKind* find_surface_kind(std::string_view name) {
  for (const SurfaceKind& k : kKinds) {
    if (name == k.name) return &k;
  }
  return nullptr;
}

const char* kind_name(Kind kind) { return about(kind).name; }
bool is_curve(Kind kind) { return about(kind).nature == Nature::Curve; }
bool is_flat(Kind kind) { return about(kind).shifts == Shifts::Along; }
bool is_turned(Kind kind) {
  return about(kind).nature == Nature::Surface && about(kind).shifts == Shifts::Across;
}
bool has_centre(Kind kind) { return about(kind).shifts == Shifts::All; }
Surface at_distance(Surface s, double distance) {
  const SurfaceKind& kind = about(s.kind);
  const double grown = s.hollow ? -distance : distance;
  if (is_flat(s.kind))
    s.point += distance * s.axis;
  else if (kind.last == kMinor)
    s.minor_radius += grown;
  else
    s.radius += grown / std::cos(s.half_angle);
  return s;
}
bool has_direction(Kind kind) { return about(kind).direction != nullptr; }

}  // namespace lostline::fit
