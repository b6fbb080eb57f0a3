#include "project/curve_set.h"

#include <algorithm>

#include "fit/surface_kind.h"
#include "project/bodies.h"

namespace lostline::project {
namespace {

using Mark = io::CurveSet::Mark;

/// A surface as the plane, axis or point that it stands for.
Mark mark_of(const fit::Surface& s, const Vec3& at, const std::string& name, double size) {
  const bool plane = fit::is_flat(s.kind);
  const bool axis = !plane && fit::has_direction(s.kind);
  Vec3 place = at;
  if (axis) place = s.point + (at - s.point).dot(s.axis) * s.axis;
  if (plane) place -= s.distance(at) * s.axis;
  if (!plane && !axis) place = s.point;
  return {plane  ? Mark::Kind::Plane
          : axis ? Mark::Kind::Axis
                 : Mark::Kind::Point,
          name, place, s.axis, size};
}

}  // namespace

std::vector<Id> all_sketches(const Document& document) {
  std::vector<Id> ids;
  for (const auto& s : document.sketches) ids.push_back(s->id);
  return ids;
}

io::CurveSet curve_set(const Document& document, const model::Model& model,
                       const CurveChoice& choice) {
  io::CurveSet set;
  for (const Id id : choice.sketches) {
    const TracedSketch* s = document.find_sketch(id);
    if (s != nullptr && !s->sketch.entities.empty())
      set.drawings.push_back({s->name, s->sketch, s->base.shifted(s->level), s->section});
  }
  if (choice.space_curves && !model.empty()) {
    for (std::size_t k = 0; k < model.body_count(); ++k) {
      if (model.body(k).kind == model::BodyKind::Curve)
        set.curves.emplace_back(body_title(document, model.body(k)), model.only(k));
    }
  }
  if (!choice.reference) return set;
  double size = model.empty() ? 0 : model.box().diagonal().norm();
  if (document.scan) size = std::max(size, document.scan->health.box.diagonal().norm());
  if (!(size > 0)) size = 100;
  // Drawn past the part, so that they are seen; fits within it.
  const double datum = 0.6 * size;
  const double fit = 0.15 * size;
  constexpr std::array kAxes{"x axis", "y axis", "z axis"};
  constexpr std::array kPlanes{"yz plane", "xz plane", "xy plane"};
  set.reference.push_back({Mark::Kind::Point, "origin", Vec3::Zero(), Vec3::UnitZ(), datum});
  for (Eigen::Index k = 0; k < 3; ++k) {
    const auto index = static_cast<std::size_t>(k);
    set.reference.push_back(
        {Mark::Kind::Axis, kAxes.at(index), Vec3::Zero(), Vec3::Unit(k), datum});
    set.reference.push_back(
        {Mark::Kind::Plane, kPlanes.at(index), Vec3::Zero(), Vec3::Unit(k), datum});
  }
  const Transform to_part = document.to_part();
  for (const auto& f : document.fits)
    set.reference.push_back(mark_of(fit::transformed(f->result.surface, to_part),
                                    to_part * f->result.centroid, f->name, fit));
  return set;
}

}  // namespace lostline::project
