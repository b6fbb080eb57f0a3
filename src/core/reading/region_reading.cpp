#include "reading/region_reading.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "fit/surface_kind.h"
#include "project/fits.h"
#include "project/ledger.h"
#include "project/stated.h"
#include "reading/curve_evidence.h"
#include "sketch/curve_kind.h"
#include "sketch/solver.h"

namespace lostline::reading {
namespace {

// A surface counts as square to the section, or parallel to its axis, within this: the size of a
// bore that leans by it is off by less than 2e-4 of itself.
constexpr double kSquare = 0.02;  // rad

/// The curve that a name of a dimension stands for: itself, or the round one about a centre.
const sketch::Entity* curve_of(const sketch::Sketch& sketch, sketch::Id id) {
  if (const sketch::Entity* e = sketch.find_entity(id)) return e;
  for (const sketch::Entity& e : sketch.entities) {
    if (e.centre == id && sketch::has_radius(&e) && !e.construction) return &e;
  }
  return nullptr;
}

/// Looks up the regions of the curves of one dimension.
class Regions {
 public:
  Regions(const Document& document, const TracedSketch& traced, const sketch::Constraint& c)
      : document_(document), traced_(traced) {
    // The curves of the dimension alone: the others would only cost time.
    sketch::Sketch few = traced.sketch;
    std::vector<sketch::Id> wanted;
    for (const sketch::Id id : {c.first, c.second}) {
      if (const sketch::Entity* e = curve_of(traced.sketch, id)) wanted.push_back(e->id);
    }
    std::erase_if(few.entities, [&](const sketch::Entity& e) {
      return std::find(wanted.begin(), wanted.end(), e.id) == wanted.end();
    });
    if (few.entities.empty()) return;
    evidence_ = curve_evidence(document, traced,
                               sketch::measure_drift(few, traced.section, traced.reach()));
  }
  /// The region of the curve that a name stands for; 0 for none that has a fit.
  [[nodiscard]] std::uint32_t of(sketch::Id id) const {
    const sketch::Entity* e = curve_of(traced_.sketch, id);
    for (const CurveEvidence& known : evidence_) {
      if (e != nullptr && known.entity == e->id && document_.fit_of({known.region, 0}) != nullptr)
        return known.region;
    }
    return 0;
  }

 private:
  const Document& document_;
  const TracedSketch& traced_;
  std::vector<CurveEvidence> evidence_;
};

/// How far the direction of a region's surface is from the normal of the section, rad.
double lean(const Document& d, const TracedSketch& traced, std::uint32_t region) {
  const fit::Surface s = fit::transformed(d.fit_of({region, 0})->surface, d.to_part());
  return fit::angle_between(s.axis, traced.base.normal);
}

/// A radius that the region of a curve has in the plane of the section.
std::optional<RegionReading> radius_of(const Document& d, const TracedSketch& traced,
                                       std::uint32_t region) {
  if (region == 0) return std::nullopt;
  const fit::SurfaceFit& f = *d.fit_of({region, 0});
  const double off = lean(d, traced, region);
  if (f.surface.kind == fit::Kind::Cylinder && off <= kSquare)
    return RegionReading{f.surface.radius, f.u_radius, {region}};
  // A ring that a section through its axis cuts in its tube.
  if (f.surface.kind == fit::Kind::Torus && traced.turn &&
      std::abs(off - std::numbers::pi / 2) <= kSquare)
    return RegionReading{f.surface.minor_radius, f.u_minor_radius, {region}};
  return std::nullopt;
}

/// Whether a region is a wall of the section or a bore square to it, so that what lies between two
/// of them lies in the section's plane.
bool stands(const Document& d, const TracedSketch& traced, std::uint32_t region) {
  const fit::Kind kind = d.fit_of({region, 0})->surface.kind;
  const double off = lean(d, traced, region);
  if (kind == fit::Kind::Plane) return std::abs(off - std::numbers::pi / 2) <= kSquare;
  return kind == fit::Kind::Cylinder && off <= kSquare;
}

std::optional<RegionReading> between(const Document& d, const TracedSketch& traced,
                                     const Regions& regions, const sketch::Constraint& c,
                                     double expected) {
  const bool angle = c.type == sketch::ConstraintType::Angle;
  const std::uint32_t a = regions.of(c.first);
  const std::uint32_t b = regions.of(c.second);
  if (a == 0 || b == 0 || a == b || !stands(d, traced, a) || !stands(d, traced, b))
    return std::nullopt;
  const auto said = project::measure(d, {a, 0}, {b, 0}, angle);
  if (!said) return std::nullopt;
  RegionReading reading{said->value, said->u, {a, b}};
  // Between surfaces the lesser angle is told.
  if (angle && std::abs(180 - reading.value - expected) < std::abs(reading.value - expected))
    reading.value = 180 - reading.value;
  return reading;
}

}  // namespace

std::optional<RegionReading> region_reading(const Document& document, const Dimension& row) {
  if (!document.survey || !row.reading) return std::nullopt;
  const TracedSketch* traced = document.find_sketch(row.owner.sketch);
  if (traced == nullptr || traced->drawn) return std::nullopt;
  const sketch::Constraint* c = traced->sketch.find_constraint(row.owner.constraint);
  if (c == nullptr || traced->section.polylines.empty()) return std::nullopt;
  const Regions regions(document, *traced, *c);
  const double stated = project::stated_factor(traced->sketch, *c, traced->turn.has_value());
  std::optional<RegionReading> reading;
  if (c->type == sketch::ConstraintType::Radius) {
    reading = radius_of(document, *traced, regions.of(c->first));
  } else if (traced->turn && (c->first == sketch::kYAxis || c->second == sketch::kYAxis)) {
    // From the axis of a turned part to a line along it: the radius of a cylinder about that axis.
    const std::uint32_t region = regions.of(c->first == sketch::kYAxis ? c->second : c->first);
    const fit::SurfaceFit* f = region != 0 ? document.fit_of({region, 0}) : nullptr;
    if (f == nullptr || f->surface.kind != fit::Kind::Cylinder) return std::nullopt;
    const Vec3 axis = document.to_part().linear() * f->surface.axis;
    if (fit::angle_between(axis, traced->base.y) > kSquare) return std::nullopt;
    reading = RegionReading{f->surface.radius, f->u_radius, {region}};
  } else if (c->second != 0 && !c->along_axis()) {
    reading = between(document, *traced, regions, *c, *row.reading);
  }
  if (!reading || !(reading->u > 0)) return std::nullopt;
  if (c->type == sketch::ConstraintType::Angle) return reading;  // in degrees already
  reading->value *= stated;
  reading->u *= stated;
  return reading;
}

std::optional<SurestReading> surest_reading(const Document& document, const Dimension& row) {
  if (!row.reading) return std::nullopt;
  SurestReading surest{*row.reading, row.u};
  const auto regions = region_reading(document, row);
  if (!regions) return surest;
  surest.agree = project::en_score(*row.reading, row.u, regions->value, regions->u) <= 1;
  if (surest.agree && (!(row.u > 0) || regions->u < row.u)) {
    surest.value = regions->value;
    surest.u = regions->u;
  }
  return surest;
}

}  // namespace lostline::reading
