#include "reading/from_regions.h"

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <cmath>
#include <set>

#include "base/text.h"
#include "model/steps/extrude/extrude.h"
#include "model/steps/revolve/revolve.h"
#include "project/sketch_plane.h"
#include "reading/evidence.h"
#include "sketch/curve_kind.h"
#include "sketch/section_judge.h"

namespace lostline::reading {
namespace {

using project::Document;
using project::TracedSketch;

struct Picked {
  std::uint32_t id;
  fit::Surface surface;  // part coordinates
  double area;
  double u_angle;  // rad
};

std::string name_of(std::uint32_t id) { return "region " + std::to_string(id); }

/// Levels of a region along a direction, a hundredth left out at each end.
std::pair<double, double> span_of(const Document& d, std::uint32_t region, const Vec3& along) {
  std::vector<double> levels;
  const Transform to_part = d.to_part();
  const auto& mesh = *d.scan->mesh;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    if (d.survey->triangle_region[t] == region)
      levels.push_back((to_part * mesh.centroid(t)).dot(along));
  }
  if (levels.empty()) return {0, 0};
  std::sort(levels.begin(), levels.end());
  const std::size_t skip = levels.size() / 100;
  return {levels[skip], levels[levels.size() - 1 - skip]};
}

/// How far a wall leans from a direction, rad; none for what is no wall.
std::optional<double> lean(const fit::Surface& s, const Vec3& along) {
  const double c = std::abs(s.axis.dot(along));
  if (fit::is_flat(s.kind)) return std::asin(std::min(c, 1.0));
  if (s.kind == fit::Kind::Cylinder) return std::acos(std::min(c, 1.0));
  if (s.kind == fit::Kind::Cone) return std::acos(std::min(c, 1.0)) + std::abs(s.half_angle);
  return std::nullopt;
}

/// The direction that walls share: square to the normals of planes, along axes.
Result<Vec3> direction_of(const std::vector<Picked>& walls) {
  Eigen::Matrix3d against = Eigen::Matrix3d::Zero();  // least along the direction
  for (const Picked& wall : walls) {
    if (fit::is_flat(wall.surface.kind))
      against += wall.area * wall.surface.axis * wall.surface.axis.transpose();
    else
      against += wall.area *
                 (Eigen::Matrix3d::Identity() - wall.surface.axis * wall.surface.axis.transpose());
  }
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(against);
  // One plane alone, or parallel ones, leave a whole plane of directions.
  if (!(axes.eigenvalues()[1] > 1e-3 * axes.eigenvalues()[2]))
    return Error{
        ErrorCode::InvalidInput,
        "Walls that are all parallel have no direction of their own. Pick one across them, "
        "or an end as well."};
  return Vec3(axes.eigenvectors().col(0));
}

/// Regions that turn about an axis or close a wall, sorted into walls and ends along a direction.
struct Sorted {
  std::vector<Picked> walls, ends;
};

Result<std::vector<Picked>> picked_of(const Document& d,
                                      const std::vector<std::uint32_t>& regions) {
  if (!d.scan || !d.survey)
    return Error{ErrorCode::InvalidInput, "There are no regions yet. Survey the scan first."};
  if (regions.empty()) return Error{ErrorCode::InvalidInput, "Pick the walls first."};
  std::vector<Picked> picked;
  for (const std::uint32_t id : regions) {
    if (id == 0 || id > d.survey->regions.size())
      return Error{ErrorCode::InvalidInput, "There is no " + name_of(id) + "."};
    const survey::Region& region = d.survey->regions[id - 1];
    if (!region.fit) continue;  // free-form: part of the section, tells no direction
    picked.push_back(
        {id, fit::transformed(region.fit->surface, d.to_part()), region.area, region.fit->u_angle});
  }
  if (picked.empty())
    return Error{ErrorCode::InvalidInput,
                 "The picks are free-form: pick a plane, cylinder or cone among the walls."};
  return picked;
}

/// A direction put on a datum axis that the evidence leaves open.
Vec3 on_datum(const Vec3& direction, double open, int& axis) {
  axis = -1;
  for (int k = 0; k < 3; ++k) {
    if (std::acos(std::min(1.0, std::abs(direction[k]))) < open) axis = k;
  }
  if (axis < 0) {
    const Vec3 size = direction.cwiseAbs();
    Eigen::Index largest = 0;
    size.maxCoeff(&largest);
    return direction[largest] < 0 ? Vec3(-direction) : direction;
  }
  return Vec3::Unit(axis);
}

double signed_area(const std::vector<Vec2>& points) {
  double area = 0;
  for (std::size_t i = 0; i < points.size(); ++i) {
    const Vec2& a = points[i];
    const Vec2& b = points[(i + 1) % points.size()];
    area += 0.5 * (a.x() * b.y() - a.y() * b.x());
  }
  return area;
}

/// The runs of a section that go through picked regions, as a sketch.
void draw(const Document& d, const section::Section& cut, const std::set<std::uint32_t>& picked,
          const FromRegionsOptions& options, TracedSketch& traced, bool& hollow) {
  section::Section own;
  own.plane = cut.plane;
  hollow = true;
  for (const section::Polyline& line : cut.polylines) {
    std::size_t mine = 0;
    for (const std::uint32_t t : line.triangles) {
      // Over a gap there is none.
      const bool there = t < d.survey->triangle_region.size();
      mine += there && picked.contains(d.survey->triangle_region[t]) ? 1 : 0;
    }
    constexpr double kShare = 0.1;
    if (!line.triangles.empty() &&
        static_cast<double>(mine) < kShare * static_cast<double>(line.triangles.size()))
      continue;
    own.polylines.push_back(line);
    hollow = hollow && signed_area(line.points) < 0;
  }
  traced.sketch = sketch::sketch_from_section(own, traced.tolerance, d.scan->health.spacing);
  if (!options.suggested) return;
  for (const sketch::Constraint& c : sketch::suggest_constraints(
           traced.sketch, own, project::fit_options(d, traced), 0.25 * traced.tolerance))
    traced.sketch.add_constraint(c.type, c.first, c.second);
}

/// "3 lines, 2 arcs".
std::string curves_in_words(const sketch::Sketch& s) {
  std::string text;
  for (const sketch::CurveKind* kind : sketch::curve_kinds()) {
    const auto count = std::count_if(s.entities.begin(), s.entities.end(),
                                     [&](const auto& e) { return e.type == kind->type(); });
    if (count == 0) continue;
    text += (text.empty() ? "" : ", ") + std::to_string(count) + " " + kind->key() +
            (count > 1 ? "s" : "");
  }
  return text;
}

Result<FromRegions> extrude(const Document& d, const std::vector<Picked>& picked,
                            const std::set<std::uint32_t>& ids, const FromRegionsOptions& options,
                            const Task& task) {
  // What is square to most of the rest is an end.
  Sorted sorted;
  sorted.walls = picked;
  auto direction = direction_of(sorted.walls);
  for (int round = 0; round < 3; ++round) {
    // An end pulls the direction out of square: it is set apart and the walls are asked again.
    Sorted next;
    const Vec3 along = direction ? *direction : picked.front().surface.axis;
    constexpr double kEnd = 20 * kDegree;
    for (const Picked& p : picked) {
      const bool end = fit::is_flat(p.surface.kind) &&
                       std::acos(std::min(1.0, std::abs(p.surface.axis.dot(along)))) < kEnd;
      (end ? next.ends : next.walls).push_back(p);
    }
    if (next.walls.empty()) break;
    const bool same = next.walls.size() == sorted.walls.size();
    sorted = std::move(next);
    direction = direction_of(sorted.walls);
    if (!direction && !sorted.ends.empty()) direction = sorted.ends.front().surface.axis;
    if (same) break;
  }
  if (!direction) return direction.error();
  double open = 1.0 * kDegree;  // less is nobody's intent (common practice, no source)
  for (const Picked& wall : sorted.walls) open = std::max(open, 1.5 * wall.u_angle);
  constexpr double kMostOpen = 5 * kDegree;
  FromRegions made;
  int axis = -1;
  const Vec3 along = on_datum(*direction, std::min(open, kMostOpen), axis);
  made.off = std::acos(std::min(1.0, std::abs(along.dot(*direction))));
  constexpr double kLeans = 10 * kDegree;  // a wall with draft
  for (const Picked& wall : sorted.walls) {
    const auto leaning = lean(wall.surface, along);
    if (!leaning || *leaning > kLeans)
      return Error{ErrorCode::InvalidInput,
                   name_of(wall.id) + " does not run along the others. Leave it out."};
  }
  // Half way along what all walls share.
  double low = -1e300;
  double high = 1e300;
  for (const Picked& wall : sorted.walls) {
    const auto [from, to] = span_of(d, wall.id, along);
    low = std::max(low, from);
    high = std::min(high, to);
  }
  if (!(high > low))
    return Error{ErrorCode::InvalidInput,
                 "The walls do not lie beside each other: no section goes through all of them."};
  TracedSketch& traced = made.sketch;
  traced.plane = axis < 0    ? project::DatumPlane::Free
                 : axis == 2 ? project::DatumPlane::Xy
                 : axis == 1 ? project::DatumPlane::Xz
                             : project::DatumPlane::Yz;
  traced.base =
      axis < 0 ? placement_on(Vec3::Zero(), along) : project::datum_placement(traced.plane);
  const double sense = traced.base.normal.dot(along) < 0 ? -1 : 1;
  traced.level = sense * 0.5 * (low + high);
  traced.tolerance = options.tolerance > 0 ? options.tolerance : project::resolving_tolerance(d);
  const section::Section cut = project::cut_scan(d, traced, task);
  if (task.stopped()) return cancelled();
  bool hollow = false;
  draw(d, cut, ids, options, traced, hollow);
  const auto loops = sketch::find_loops(traced.sketch);
  if (loops.empty())
    return Error{
        ErrorCode::Failed,
        "The section through these walls does not close. Pick the walls all round, or draw "
        "the profile in Trace."};
  traced.name = project::section_name(d, traced);
  model::Extrude e;
  e.operation = hollow && !d.steps.empty() ? model::Operation::Cut : model::Operation::Add;
  for (const sketch::Loop& loop : loops) e.loops.push_back(loop.uses.front().entity);
  // Ends that were picked, else the flats next to the section.
  const std::vector<Level> levels = find_levels(d, traced, {e.loops, {}});
  LevelPair pair = suggest_extent(levels, traced.level);
  if (e.operation == model::Operation::Cut) {
    // Of a pocket: a floor that looks out of it; without one it goes through.
    pair = {};
    for (const Level& level : levels) {
      const double near =
          std::min(std::abs(level.level - sense * low), std::abs(level.level - sense * high));
      if (near > 3 * d.scan->health.spacing) continue;
      if (level.upward && level.level < traced.level) pair.below = level;
      if (!level.upward && level.level > traced.level) pair.above = level;
    }
  }
  for (const Picked& end : sorted.ends) {
    const fit::SurfaceFit& fit = *d.survey->regions[end.id - 1].fit;
    Level level;
    level.level = traced.base.level_of(end.surface.point);
    level.u = fit.u_offset;
    (level.level < traced.level ? pair.below : pair.above) = level;
  }
  const auto read = [&](const char* field, const Level& level) {
    made.readings.push_back({field, level.level, level.u, "flat of the scan", std::nullopt});
  };
  if (e.operation == model::Operation::Cut && !pair.below && !pair.above) {
    e.extent.reach = model::Reach::Through;
  } else {
    const double past = 0.5 * (high - low);  // open on one side: past the walls
    e.extent.from.value = pair.below ? pair.below->level : std::min(sense * low, sense * high);
    e.extent.to.value = pair.above ? pair.above->level : std::max(sense * low, sense * high);
    if (e.operation == model::Operation::Cut) {
      if (!pair.below) e.extent.from.value -= past;
      if (!pair.above) e.extent.to.value += past;
    }
    if (pair.below) read("from", *pair.below);
    if (pair.above) read("to", *pair.above);
  }
  made.said = (e.operation == model::Operation::Cut ? "cut along " : "extrude along ") +
              (axis < 0 ? std::string("an axis of its own") : std::string(1, "xyz"[axis])) + ": " +
              curves_in_words(traced.sketch) + " at " + format_trimmed(traced.level, 2);
  made.feature = e;
  return made;
}

Result<FromRegions> revolve(const Document& d, const std::vector<Picked>& picked,
                            const FromRegionsOptions& options, const Task& task) {
  // The longest piece of what is turned tells the axis.
  const Picked* best = nullptr;
  for (const Picked& p : picked) {
    const bool turned = p.surface.kind == fit::Kind::Cylinder ||
                        p.surface.kind == fit::Kind::Cone || p.surface.kind == fit::Kind::Torus;
    if (turned && (best == nullptr || p.area > best->area)) best = &p;
  }
  if (best == nullptr)
    return Error{ErrorCode::InvalidInput, "Pick a cylinder, cone or torus of what was turned."};
  FromRegions made;
  TracedSketch& traced = made.sketch;
  const fit::SurfaceFit& fit = *d.survey->regions[best->id - 1].fit;
  Vec3 point = best->surface.point;
  int axis = -1;
  const double open = std::clamp(1.5 * best->u_angle, 0.3 * kDegree, 3 * kDegree);
  const Vec3 along = on_datum(best->surface.axis, open, axis);
  made.off = std::acos(std::min(1.0, std::abs(along.dot(best->surface.axis))));
  if (axis >= 0) {
    const Vec3 off = point - point.dot(along) * along;
    const double near = std::max(3 * fit.u_offset, 0.5 * d.scan->health.spacing);
    if (off.norm() < near) {
      point = Vec3::Zero();
      traced.on.datum = axis;
    } else {
      axis = -1;
    }
  }
  if (axis < 0) traced.on.region = best->id;
  traced.on.surface = fit::Surface{};
  traced.on.surface->kind = fit::Kind::Line;
  traced.on.surface->point = point;
  traced.on.surface->axis = along;
  traced.turn = project::Turn{0, true};
  traced.base = project::half_plane(point, along, 0);
  traced.tolerance = options.tolerance > 0 ? options.tolerance : project::resolving_tolerance(d);
  const section::Section cut = project::cut_scan(d, traced, task);
  if (task.stopped()) return cancelled();
  traced.sketch = sketch::sketch_from_section(cut, traced.tolerance, d.scan->health.spacing);
  project::close_on_axis(traced.sketch, 3 * d.scan->health.spacing);
  if (options.suggested) {
    for (const sketch::Constraint& c : sketch::suggest_constraints(
             traced.sketch, cut, project::fit_options(d, traced), 0.25 * traced.tolerance))
      traced.sketch.add_constraint(c.type, c.first, c.second);
  }
  const auto loops = sketch::find_loops(traced.sketch);
  if (loops.empty())
    return Error{
        ErrorCode::Failed,
        "The profile about this axis does not close. Take a fan section in Trace and close "
        "it by hand."};
  traced.name = project::section_name(d, traced);
  model::Revolve r;
  r.axis = sketch::kYAxis;
  for (const sketch::Loop& loop : loops) r.loops.push_back(loop.uses.front().entity);
  made.said = "revolve about " +
              (axis < 0 ? "the axis of " + name_of(best->id) : std::string(1, "xyz"[axis])) + ": " +
              curves_in_words(traced.sketch);
  made.feature = r;
  return made;
}

}  // namespace

Result<FromRegions> from_regions(const Document& document,
                                 const std::vector<std::uint32_t>& regions, Making making,
                                 const FromRegionsOptions& options, const Task& task) {
  const auto picked = picked_of(document, regions);
  if (!picked) return picked.error();
  if (making == Making::Revolve) return revolve(document, *picked, options, task);
  return extrude(document, *picked, {regions.begin(), regions.end()}, options, task);
}

Result<project::Added> add_from_regions(const Document& document, const FromRegions& made,
                                        const std::string& name, project::Id after) {
  const auto sketch = project::add_sketch(document, made.sketch);
  if (!sketch) return sketch.error();
  model::Feature feature = made.feature;
  if (auto* extrude = feature.as<model::Extrude>()) extrude->sketch = sketch->id;
  if (auto* revolve = feature.as<model::Revolve>()) revolve->sketch = sketch->id;
  return project::add_step(sketch->document, feature, name, made.readings, after);
}

}  // namespace lostline::reading
