#include "model/steps/pattern/pattern.h"

#include <BRepAdaptor_CompCurve.hxx>
#include <BRepBndLib.hxx>
#include <Bnd_Box.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Ax1.hxx>
#include <gp_Trsf.hxx>

#include "base/text.h"
#include "model/copies.h"
#include "model/profile.h"
#include "model/steps/kind_of.h"
#include "sketch/curve_kind.h"

namespace lostline::model {

constinit const FeatureKind Pattern::kind = kind_of<Pattern>(
    "pattern", "Pattern", "repeat a step in a row, round an axis, at points or along a curve",
    "layout-grid", 'p');

void Pattern::describe(Description& d) {
  using Unit = NumberInfo::Unit;
  const bool counted = arranged != Kind::Points;
  const bool directed = arranged == Kind::Linear || arranged == Kind::Circular;
  d.step("source", source);
  d.choice({"kind", {"linear", "circular", "at points", "along a curve"}}, arranged);
  d.reference({"direction", ReferenceInfo::Wants::Axis, directed}, direction);
  d.count({"count", 2, 2000}, count);
  d.number({"spacing", arranged == Kind::Circular ? Unit::Angle : Unit::Length,
            NumberInfo::Sign::NotZero, counted},
           spacing);
  d.sketches({"points", 0, 1}, points);
  d.bodies({"along", false}, along);
  d.flag("turns", turns);
}

namespace {

Vec3 middle_of(const Named& body) {
  Bnd_Box box;
  BRepBndLib::Add(body.shape, box);
  double x0 = 0, y0 = 0, z0 = 0, x1 = 0, y1 = 0, z1 = 0;
  box.Get(x0, y0, z0, x1, y1, z1);
  return 0.5 * Vec3(x0 + x1, y0 + y1, z0 + z1);
}

using Motions = std::vector<gp_Trsf>;

Result<Motions> in_row_or_round(const Pattern& p, const Site& site) {
  const bool circular = p.arranged == Pattern::Kind::Circular;
  if (circular && std::abs(p.spacing.value) * (p.count - 1) > 2 * std::numbers::pi + 1e-9)
    return Error{ErrorCode::InvalidInput,
                 format_trimmed(p.count, 0) + " members " +
                     format_trimmed(p.spacing.value * 57.29577951308232, 3) +
                     "\u00b0 apart reach more than once round."};
  const auto axis = resolve(p.direction, site.before);
  if (!axis) return axis.error();
  Motions motions;
  for (int k = 1; k < p.count; ++k) {
    gp_Trsf motion;
    if (circular)
      motion.SetRotation(gp_Ax1(pnt(axis->point), dir(axis->axis)), k * p.spacing.value);
    else
      motion.SetTranslation(vec(axis->axis * (k * p.spacing.value)));
    motions.push_back(motion);
  }
  return motions;
}

Result<Motions> at_points(const Pattern& p, const Site& site, const Named& original) {
  if (p.points.size() != 1)
    return Error{ErrorCode::InvalidInput, "Choose the sketch at whose points it is repeated."};
  const PlacedSketch* placed = find_sketch(site.setting, p.points.front());
  if (placed == nullptr) return sketch_gone();
  std::vector<Vec2> places;
  for (const sketch::Point& point : placed->sketch.points) {
    if (point.own) places.push_back(point.at);
  }
  for (const sketch::Entity& e : placed->sketch.entities) {
    if (e.construction || sketch::kind_of(e).has_ends() || !sketch::has_radius(&e)) continue;
    if (const sketch::Point* centre = placed->sketch.find_point(e.centre))
      places.push_back(centre->at);
  }
  if (places.size() < 2)
    return Error{ErrorCode::InvalidInput, "The sketch has " + std::to_string(places.size()) +
                                              " points and circles. A pattern needs two or more."};
  const Vec2 own = placed->base.to_plane(middle_of(original));
  const auto first = std::min_element(
      places.begin(), places.end(),
      [&](const Vec2& a, const Vec2& b) { return (a - own).norm() < (b - own).norm(); });
  Motions motions;
  for (auto it = places.begin(); it != places.end(); ++it) {
    if (it == first || (*it - *first).norm() < 1e-9) continue;
    gp_Trsf motion;
    motion.SetTranslation(
        vec((it->x() - first->x()) * placed->base.x + (it->y() - first->y()) * placed->base.y));
    motions.push_back(motion);
  }
  return motions;
}

Result<Motions> along_curve(const Pattern& p, const Site& site, const Named& original) {
  if (p.along.size() != 1)
    return Error{ErrorCode::InvalidInput, "Choose the curve along which it is repeated."};
  const auto wire = curve_body(site.whole, p.along.front());
  if (!wire) return wire.error();
  const BRepAdaptor_CompCurve curve(*wire, true);  // by its length
  const double first = curve.FirstParameter();
  const double length = GCPnts_AbscissaPoint::Length(curve);
  const auto at = [&](double way, gp_Pnt& place, gp_Vec& towards) {
    const GCPnts_AbscissaPoint found(curve, way, first);
    curve.D1(found.Parameter(), place, towards);
  };
  // Where the original stands: the nearest of many places, halved on from there.
  const gp_Pnt own = pnt(middle_of(original));
  constexpr int kLooks = 400;
  double start = 0;
  double least = std::numeric_limits<double>::infinity();
  gp_Pnt place;
  gp_Vec towards;
  for (int k = 0; k <= kLooks; ++k) {
    at(length * k / kLooks, place, towards);
    if (place.Distance(own) >= least) continue;
    least = place.Distance(own);
    start = length * k / kLooks;
  }
  double step = length / kLooks;
  for (int k = 0; k < 40; ++k, step *= 0.7) {
    for (const double next : {start - step, start + step}) {
      if (next < 0 || next > length) continue;
      at(next, place, towards);
      if (place.Distance(own) >= least) continue;
      least = place.Distance(own);
      start = next;
    }
  }
  const double end = start + p.spacing.value * (p.count - 1);
  const bool closed = wire->Closed();
  if (!closed && (end < -1e-9 || end > length + 1e-9)) {
    const double room = p.spacing.value > 0 ? length - start : start;
    return Error{ErrorCode::InvalidInput, format_trimmed(p.count, 0) + " members " +
                                              format_trimmed(std::abs(p.spacing.value), 3) +
                                              " mm apart are longer than the " +
                                              format_trimmed(room, 2) +
                                              " mm that the curve goes on from the first."};
  }
  gp_Pnt from;
  gp_Vec along;
  at(start, from, along);
  Motions motions;
  for (int k = 1; k < p.count; ++k) {
    double way = start + k * p.spacing.value;
    if (closed) way -= std::floor(way / length) * length;
    at(std::clamp(way, 0.0, length), place, towards);
    gp_Trsf motion;
    motion.SetTranslation(from, place);
    if (p.turns) {
      const Vec3 a = Vec3(along.X(), along.Y(), along.Z()).normalized();
      const Vec3 b = Vec3(towards.X(), towards.Y(), towards.Z()).normalized();
      const Eigen::AngleAxisd turn(Eigen::Quaterniond::FromTwoVectors(a, b));
      if (turn.angle() > 1e-12) {
        gp_Trsf rotation;
        rotation.SetRotation(gp_Ax1(place, dir(turn.axis())), turn.angle());
        motion = rotation * motion;
      }
    }
    motions.push_back(motion);
  }
  return motions;
}

}  // namespace

Result<Model> Pattern::build(const Site& site) const {
  if (arranged != Kind::Points && (count < 2 || count > 2000))
    return Error{ErrorCode::InvalidInput, "A pattern has from 2 to 2000 members."};
  if (arranged != Kind::Points && (!std::isfinite(spacing.value) || std::abs(spacing.value) < 1e-6))
    return Error{ErrorCode::InvalidInput, "A pattern needs a spacing other than zero."};
  const auto tool = source_tool(site, source);
  if (!tool) return tool.error();
  const auto motions = arranged == Kind::Points  ? at_points(*this, site, tool->body)
                       : arranged == Kind::Curve ? along_curve(*this, site, tool->body)
                                                 : in_row_or_round(*this, site);
  if (!motions) return motions.error();
  const std::string prefix = prefix_of(site.step);
  std::vector<Named> copies;
  for (std::size_t k = 0; k < motions->size(); ++k)
    copies.push_back(moved(tool->body, (*motions)[k], prefix, std::to_string(k + 1)));
  ToolBody repeated = *tool;
  if (tool->operation == Operation::NewBody || tool->kind != BodyKind::Solid) {
    // Each copy of a body is one.
    Model model = site.before;
    for (const Named& copy : copies) {
      repeated.body = copy;
      const auto with = combine(model, repeated, prefix, site.setting.task);
      if (!with) return with.error();
      model = *with;
    }
    return model;
  }
  Gathered all;
  for (const Named& copy : copies) all.add(copy.shape, copy.names);
  repeated.body = all.take();
  return combine(site.before, repeated, prefix, site.setting.task);
}

}  // namespace lostline::model
