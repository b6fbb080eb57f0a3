#include "reading/evidence.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <map>
#include <numbers>

#include "sketch/curve_kind.h"

namespace lostline::reading {

using namespace project;  // the document and its edits
namespace {

/// The chosen loops as polygons; none wanted means all.
std::vector<sketch::Polygon> outlines(const sketch::Sketch& s, const model::Choice& choice) {
  std::vector<sketch::Polygon> result;
  const auto outline = model::make_outline(s, choice);
  if (!outline) return result;
  for (const sketch::Loop& loop : outline->loops)
    result.push_back(sketch::polygon_of(outline->sketch, loop));
  return result;
}

/// Inside an odd number of the polygons: loops within loops are holes.
bool inside(const std::vector<sketch::Polygon>& polygons, const Vec2& p) {
  bool in = false;
  for (const auto& polygon : polygons) in ^= sketch::contains(polygon, p);
  return in;
}

/// Vertices two rings inside a set of triangles: a scanner rounds the rim.
std::vector<std::uint32_t> inner_vertices(const scan::Mesh& mesh, const scan::Topology& topology,
                                          const std::vector<std::uint32_t>& triangles) {
  std::vector<char> inside(mesh.triangles.size(), 0);
  std::vector<std::uint32_t> vertices;
  for (const std::uint32_t t : triangles) {
    inside[t] = 1;
    vertices.insert(vertices.end(), mesh.triangles[t].begin(), mesh.triangles[t].end());
  }
  std::sort(vertices.begin(), vertices.end());
  vertices.erase(std::unique(vertices.begin(), vertices.end()), vertices.end());
  const auto whole = [&](std::uint32_t v) {
    const auto ring = topology.vertex_triangles[v];
    return std::all_of(ring.begin(), ring.end(), [&](std::uint32_t t) { return inside[t] != 0; });
  };
  std::erase_if(vertices, [&](std::uint32_t v) {
    const auto ring = topology.vertex_neighbours[v];
    return !whole(v) || !std::all_of(ring.begin(), ring.end(), whole);
  });
  return vertices;
}

double area_of(const std::vector<sketch::Polygon>& polygons) {
  double area = 0;
  for (const auto& polygon : polygons) area += sketch::signed_area(polygon);
  return std::abs(area);
}

/// Scan that looks along a sketch's normal, or against it, by level.
class LevelBins {
 public:
  explicit LevelBins(double width) : width_(width) {}

  void add(bool up, double level, double area, std::uint32_t triangle) {
    Bin& bin = bins_[{up, std::lround(std::floor(level / width_))}];
    bin.area += area;
    bin.triangles.push_back(triangle);
  }
  struct Peak {
    bool up;
    double area;
    std::vector<std::uint32_t> triangles;
  };
  /// Bins not less than their neighbours and, with them, of `least` area.
  [[nodiscard]] std::vector<Peak> peaks(double least) const {
    std::vector<Peak> found;
    for (const auto& [key, bin] : bins_) {
      const auto [up, k] = key;
      const double below = area_at(up, k - 1);
      const double above = area_at(up, k + 1);
      if (bin.area + below + above < least || bin.area < below || bin.area <= above ||
          bin.area < 0.3 * least)
        continue;
      Peak peak{up, bin.area + below + above, {}};
      for (long near = k - 1; near <= k + 1; ++near) {
        const auto it = bins_.find({up, near});
        if (it == bins_.end()) continue;
        peak.triangles.insert(peak.triangles.end(), it->second.triangles.begin(),
                              it->second.triangles.end());
      }
      found.push_back(std::move(peak));
    }
    return found;
  }

 private:
  struct Bin {
    double area = 0;
    std::vector<std::uint32_t> triangles;
  };
  [[nodiscard]] double area_at(bool up, long k) const {
    const auto it = bins_.find({up, k});
    return it == bins_.end() ? 0.0 : it->second.area;
  }
  double width_;
  std::map<std::pair<bool, long>, Bin> bins_;
};

/// The scan inside the outlines that is about square to the sketch's normal.
LevelBins scan_by_level(const Document& document, const TracedSketch& sketch,
                        const std::vector<sketch::Polygon>& outlines) {
  const scan::Mesh& mesh = *document.scan->mesh;
  const Transform to_part = document.to_part();
  // Fine enough to part neighbouring levels, coarse enough that a rough one falls into three.
  LevelBins bins(
      std::max(0.4 * document.scan->health.spacing, 4 * document.scan->health.noise_sigma));
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const Vec3 vector = to_part.linear() * mesh.area_vector(t);
    const double size = vector.norm();
    const double along = vector.dot(sketch.base.normal);
    // Single triangles of a rough surface lean far; 37 degrees keeps enough of them, the fit
    // averages.
    if (!(size > 0) || std::abs(along) < 0.8 * size) continue;
    const Vec3 centre = to_part * mesh.centroid(t);
    if (inside(outlines, sketch.base.to_plane(centre)))
      bins.add(along > 0, sketch.base.level_of(centre), 0.5 * size, static_cast<std::uint32_t>(t));
  }
  return bins;
}

/// A plane square to the sketch's normal through the inner points of triangles, in part
/// coordinates.
std::optional<fit::SurfaceFit> level_plane(const Document& document, const TracedSketch& sketch,
                                           const std::vector<std::uint32_t>& triangles) {
  const scan::Mesh& mesh = *document.scan->mesh;
  const Transform to_part = document.to_part();
  const std::vector<std::uint32_t> vertices =
      inner_vertices(mesh, document.scan->topology, triangles);
  if (vertices.size() < 30) return std::nullopt;
  Eigen::Matrix3Xd points(3, static_cast<Eigen::Index>(vertices.size()));
  for (std::size_t i = 0; i < vertices.size(); ++i)
    points.col(static_cast<Eigen::Index>(i)) = to_part * mesh.vertices[vertices[i]];
  fit::SurfaceFitOptions options;
  options.direction = {fit::DirectionRule::Type::Parallel, sketch.base.normal};
  fit::Surface start;
  start.axis = sketch.base.normal;
  start.point = points.rowwise().mean();
  auto plane = fit::fit_surface(fit::Kind::Plane, points, Eigen::Matrix3Xd(3, 0), start, options);
  if (!plane) return std::nullopt;
  return *std::move(plane);
}

/// U of a level: it is counted from the datum, which is itself only read.
double u_of_level(const Document& document, const TracedSketch& sketch,
                  const fit::SurfaceFit& plane) {
  const fit::SurfaceFit* primary =
      document.frame ? document.fit_of(document.frame->primary) : nullptr;
  if (primary == nullptr) return plane.u_offset;
  const Vec3 lever = plane.centroid - document.to_part() * primary->centroid;
  const double across = (lever - lever.dot(sketch.base.normal) * sketch.base.normal).norm();
  return std::hypot(plane.u_offset, primary->u_offset, across * primary->u_angle);
}

}  // namespace

std::vector<Level> find_levels(const Document& document, const TracedSketch& sketch,
                               const model::Choice& choice) {
  std::vector<Level> levels;
  if (!document.scan) return levels;
  const auto polygons = outlines(sketch.sketch, choice);
  if (polygons.empty()) return levels;
  const LevelBins bins = scan_by_level(document, sketch, polygons);
  for (const LevelBins::Peak& peak : bins.peaks(0.01 * area_of(polygons))) {
    const auto plane = level_plane(document, sketch, peak.triangles);
    if (!plane) continue;
    levels.push_back({sketch.base.level_of(plane->surface.point),
                      u_of_level(document, sketch, *plane), peak.area, peak.up});
  }
  std::sort(levels.begin(), levels.end(),
            [](const Level& a, const Level& b) { return a.level < b.level; });
  return levels;
}

LevelPair suggest_extent(const std::vector<Level>& levels, double section_level) {
  LevelPair pair;
  for (const Level& l : levels) {
    if (!l.upward && l.level < section_level) pair.below = l;
    if (l.upward && l.level > section_level && !pair.above) pair.above = l;
  }
  return pair;
}

std::optional<DraftReading> find_draft(const Document& document, const TracedSketch& sketch,
                                       const std::vector<sketch::Id>& loops) {
  if (!document.survey || !document.scan || loops.size() != 1) return std::nullopt;
  const sketch::Entity* circle = sketch.sketch.find_entity(loops.front());
  if (!sketch::has_radius(circle) || sketch::kind_of(*circle).has_ends()) return std::nullopt;
  const Vec3 centre = sketch.base.to_space(sketch.sketch.position(circle->centre), sketch.level);
  // The circle is the cone's own section: off by no more than the section's points can be.
  const scan::Health& health = document.scan->health;
  double nearest = std::max({health.spacing, 10 * health.noise_sigma, 3 * sketch.tolerance});
  std::optional<DraftReading> found;
  for (const survey::Region& region : document.survey->regions) {
    if (!region.fit || region.fit->surface.kind != fit::Kind::Cone) continue;
    const fit::Surface cone = fit::transformed(region.fit->surface, document.to_part());
    if (fit::angle_between(cone.axis, sketch.base.normal) > 0.03) continue;
    const double along = (centre - cone.point).dot(cone.axis);
    const Vec3 foot = cone.point + along * cone.axis;
    const double off =
        std::max((foot - centre).norm(),
                 std::abs(cone.radius + along * std::tan(cone.half_angle) - circle->radius));
    if (off > nearest) continue;
    nearest = off;
    const double widening =
        cone.axis.dot(sketch.base.normal) > 0 ? cone.half_angle : -cone.half_angle;
    found = DraftReading{-widening, region.fit->u_half_angle};
  }
  return found;
}

namespace {

/// Places along a line, evenly but for its ends, where other faces are near.
std::vector<Vec3> middle_of(const std::vector<Vec3>& line) {
  constexpr int kPlaces = 40;
  constexpr double kEnds = 0.1;  // of the length, on either side
  double length = 0;
  for (std::size_t i = 1; i < line.size(); ++i) length += (line[i] - line[i - 1]).norm();
  if (!(length > 0)) return line;
  std::vector<Vec3> places;
  double before = 0;
  std::size_t i = 1;
  for (int k = 0; k < kPlaces; ++k) {
    const double wanted = length * (kEnds + (1 - 2 * kEnds) * k / (kPlaces - 1));
    double piece = (line[i] - line[i - 1]).norm();
    while (before + piece < wanted && i + 1 < line.size()) {
      before += piece;
      ++i;
      piece = (line[i] - line[i - 1]).norm();
    }
    places.push_back(line[i - 1] +
                     (wanted - before) / std::max(piece, 1e-300) * (line[i] - line[i - 1]));
  }
  return places;
}

/// A fit as the bevel between two faces along an edge; empty where it is none.
std::optional<BevelReading> as_bevel(const fit::SurfaceFit& fit, const fit::Surface& bevel,
                                     const fit::Surface& first, const fit::Surface& second,
                                     const std::vector<Vec3>& edge) {
  constexpr double kFace = 0.12;  // rad: nearer to a face's direction it is that face
  BevelReading reading;
  double least = 1e300;
  double most = 0;
  for (const Vec3& p : edge) {
    const Vec3 normal = bevel.normal_at(p);
    const double angle = std::acos(std::clamp(normal.dot(first.normal_at(p)), -1.0, 1.0));
    const double other = std::acos(std::clamp(normal.dot(second.normal_at(p)), -1.0, 1.0));
    if (angle < kFace || other < kFace) return std::nullopt;
    const double leg = std::abs(bevel.distance(p)) / std::sin(angle);
    least = std::min(least, leg);
    most = std::max(most, leg);
    reading.leg += leg / static_cast<double>(edge.size());
    reading.angle += angle / static_cast<double>(edge.size());
  }
  // Not along this edge when its leg is not one, within what the points scatter.
  if (most - least > 0.3 * most + 5 * fit.rms) return std::nullopt;
  const double sine = std::sin(reading.angle);
  reading.u =
      std::hypot(fit.u_offset / sine, reading.leg * std::cos(reading.angle) / sine * fit.u_angle);
  reading.u_angle = std::max(fit.u_angle, fit.u_half_angle);
  return reading;
}

}  // namespace

std::optional<BevelReading> read_edge_bevel(const Document& document, const model::Model& model,
                                            const model::EdgeRef& edge,
                                            const std::vector<Vec3>& along) {
  if (!document.scan || !document.survey || along.size() < 2) return std::nullopt;
  model::Reference reference;
  reference.face = edge.face_a;
  const auto first = model::resolve(reference, model);
  reference.face = edge.face_b;
  const auto second = model::resolve(reference, model);
  if (!first || !second) return std::nullopt;
  // The region that the scan shows beside most of the edge.
  const Transform to_scan = document.to_part().inverse();
  const std::vector<Vec3> places = middle_of(along);
  std::map<std::uint32_t, std::size_t> votes;
  // No bevel is wider than a tenth of the part.
  const double reach = 0.1 * document.scan->health.box.diagonal().norm();
  for (const Vec3& p : places) {
    const auto nearest = document.scan->index->nearest(to_scan * p, reach);
    if (nearest) ++votes[document.survey->triangle_region[nearest->triangle]];
  }
  for (const auto& [region, count] : votes) {
    const fit::SurfaceFit* fit = document.fit_of({region, 0});
    if (fit == nullptr || fit->surface.kind == fit::Kind::Cylinder || 2 * count < places.size())
      continue;
    const fit::Surface bevel = fit::transformed(fit->surface, document.to_part());
    if (const auto reading = as_bevel(*fit, bevel, *first, *second, places)) return reading;
  }
  return std::nullopt;
}

std::vector<Id> rows_resting_on(const Document& document, const Place& place) {
  std::vector<Id> rows;
  // "s12:side:34": step 12, sketch entity 34.
  Id step = 0;
  sketch::Id entity = 0;
  if (place.face.size() > 1 && place.face[0] == 's') {
    step = std::strtoull(place.face.c_str() + 1, nullptr, 10);
    const auto side = place.face.find(":side:");
    if (side != std::string::npos)
      entity = static_cast<sketch::Id>(std::strtoul(place.face.c_str() + side + 6, nullptr, 10));
  }
  Id step_sketch = 0;
  if (const model::Step* s = document.find_step(step)) {
    step_sketch = model::uses_of(s->feature).sketch;
  }
  for (const Dimension& d : document.dimensions) {
    bool rests =
        place.region != 0 && std::any_of(d.owner.fits.begin(), d.owner.fits.end(),
                                         [&](const FitRef& r) { return r.region == place.region; });
    if (step != 0 && d.owner.step == step) rests = true;
    if (const TracedSketch* t = document.find_sketch(d.owner.sketch)) {
      const sketch::Constraint* c = t->sketch.find_constraint(d.owner.constraint);
      if (c != nullptr && entity != 0 && t->id == step_sketch &&
          (c->first == entity || c->second == entity))
        rests = true;
      if (c != nullptr && place.point &&
          std::abs(t->base.level_of(*place.point) - t->level) < place.near) {
        for (const sketch::Id id : {c->first, c->second}) {
          const sketch::Entity* e = t->sketch.find_entity(id);
          if (e != nullptr && std::abs(sketch::drift_of(
                                  t->sketch, *e, t->base.to_plane(*place.point))) < place.near)
            rests = true;
        }
      }
    }
    if (rests) rows.push_back(d.id);
  }
  return rows;
}

std::optional<DiameterReading> read_diameter(const TracedSketch& traced,
                                             const std::vector<sketch::Id>& circles) {
  if (circles.empty()) return std::nullopt;
  sketch::Sketch s = traced.sketch;
  const sketch::Id dimension = s.add_constraint(sketch::ConstraintType::Radius, circles.front());
  for (const sketch::Id id : circles) {
    if (id != circles.front()) s.add_constraint(sketch::ConstraintType::Equal, circles.front(), id);
  }
  sketch::FitOptions options;
  options.reach = traced.reach();
  options.hold_dimensions = false;
  options.asked = sketch::Asked::Places;
  const auto fit = sketch::fit_to_section(s, traced.section, options);
  if (!fit) return std::nullopt;
  for (const auto& r : fit->readings) {
    if (r.constraint == dimension && r.u) return DiameterReading{2 * r.value, 2 * *r.u};
  }
  return std::nullopt;
}

}  // namespace lostline::reading
