#include "model/steps/draft/draft.h"

#include <BRepOffsetAPI_DraftAngle.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Pln.hxx>

#include "base/text.h"
#include "model/offsets.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

Result<fit::Surface> neutral_plane(const Reference& reference, const Model& before) {
  const auto plane = resolve(reference, before);
  if (!plane) return plane.error();
  if (!fit::is_flat(plane->kind))
    return Error{ErrorCode::InvalidInput,
                 "Walls are drafted from a plane. Pick a datum plane or a flat face."};
  return *plane;
}

}  // namespace

constinit const FeatureKind Draft::kind =
    kind_of<Draft>("draft", "Draft", "tilt walls from a neutral plane", "triangle-right", 'd');

void Draft::describe(Description& d) {
  d.faces("faces", faces);
  d.reference({"neutral", ReferenceInfo::Wants::Plane}, neutral);
  d.number({"angle", NumberInfo::Unit::Angle, NumberInfo::Sign::NotZero}, angle);
}

Result<Model> Draft::build(const Site& site) const {
  if (!std::isfinite(angle.value) || std::abs(angle.value) < 1e-9 || std::abs(angle.value) > 1.0)
    return Error{ErrorCode::InvalidInput,
                 "A draft is an angle other than 0\u00b0 and of at most 57\u00b0."};
  const auto walls = find_faces(faces, site.before, "draft");
  if (!walls) return walls.error();
  const auto plane = neutral_plane(neutral, site.whole);
  if (!plane) return plane.error();
  const gp_Pln about(pnt(plane->point), dir(plane->axis));
  const auto attempt = [&](double size) -> std::optional<Model> {
    BRepOffsetAPI_DraftAngle make(site.before.impl().shape);
    for (const std::size_t wall : *walls) {
      make.Add(TopoDS::Face(site.before.impl().faces(static_cast<int>(wall) + 1)), dir(plane->axis),
               size, about);
      if (!make.AddDone()) return std::nullopt;
    }
    make.Build();
    if (!make.IsDone()) return std::nullopt;
    FaceNames names;
    for (const auto& [face, list] : names_of(site.before))
      names.emplace_back(make.ModifiedShape(face), list);
    return make_solid(make.Shape(), names, prefix_of(site.step));
  };
  const auto says = [](double size) {
    return format_trimmed(std::trunc(size * kDegrees * 10) / 10, 1) + "\u00b0";
  };
  return largest_or_explain(angle.value, "A draft", says, attempt);
}

std::vector<NumberReading> Draft::read(const Site& site, const ScanEvidence& scan) const {
  const auto walls = find_faces(faces, site.before, "draft");
  const auto plane = neutral_plane(neutral, site.whole);
  if (!walls || !plane) return {};
  // Each wall by itself, weighted by how sure it is.
  double sum = 0;
  double weights = 0;
  for (const std::size_t wall : *walls) {
    const auto behind = scan.behind_face(site.before, wall);
    if (!behind || !(behind->u_slope > 0)) continue;
    const double slope = std::asin(std::clamp(behind->normal.dot(plane->axis), -1.0, 1.0));
    const double weight = 1 / (behind->u_slope * behind->u_slope);
    sum += weight * slope;
    weights += weight;
  }
  if (!(weights > 0)) return {};
  return {{"angle", sum / weights, 1 / std::sqrt(weights), "walls of the scan"}};
}

}  // namespace lostline::model
