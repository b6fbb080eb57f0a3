#include "project/sketch_plane.h"

#include <algorithm>
#include <array>
#include <map>
#include <numbers>

#include "base/linear.h"
#include "base/parallel.h"
#include "section/outline.h"
#include "section/turn.h"
#include "section/walls.h"
#include "sketch/curve_kind.h"

namespace lostline::project {
namespace {

Placement moved(const Placement& p, const Transform& rigid) {
  return {rigid * p.origin, rigid.linear() * p.x, rigid.linear() * p.y, rigid.linear() * p.normal};
}

std::shared_ptr<const std::vector<bool>> flags_of(const std::vector<std::uint32_t>& part,
                                                  std::size_t triangles) {
  auto flags = std::make_shared<std::vector<bool>>(triangles, false);
  for (const std::uint32_t t : part) (*flags)[t] = true;
  return flags;
}

/// The cut of one scan where a sketch lies, by its plane or planes, half-plane or fan.
section::Section cut_of(const Scan& scan, const TracedSketch& sketch, const Transform& to_scan,
                        const section::SectionOptions& options) {
  const section::SectionIndex& index = *scan.sections;
  if (sketch.turn) {
    const Placement base = moved(sketch.base, to_scan);
    return sketch.turn->fan ? section::cut_fan(index, base, kFanBlades, options)
                            : section::half_of(index.cut(base, options));
  }
  section::Section section = index.cut(moved(sketch.base.shifted(sketch.level), to_scan), options);
  // The frame of a plane moved along its normal is the same: the runs lie above each other.
  for (const double level : sketch.more_levels) {
    section::Section more = index.cut(moved(sketch.base.shifted(level), to_scan), options);
    std::move(more.polylines.begin(), more.polylines.end(), std::back_inserter(section.polylines));
  }
  return section;
}

}  // namespace

section::Section cut_scan(const Document& document, const Placement& base, double level) {
  section::Section section;
  if (document.scan)
    section =
        document.scan->sections->cut(moved(base.shifted(level), document.to_part().inverse()));
  section.plane = base.shifted(level);
  return section;
}

section::Section cut_scan(const Document& document, const TracedSketch& sketch, const Task& task) {
  if (sketch.silhouette) {
    section::Section section;
    if (document.scan) {
      section::OutlineOptions options;
      options.openings = sketch.silhouette->openings;
      options.offset = sketch.silhouette->offset;
      options.spacing = document.scan->health.spacing;
      const Placement in_scan = moved(sketch.base, document.to_part().inverse());
      if (auto found = section::outline(*document.scan->mesh, in_scan, options, task))
        section = *std::move(found);
    }
    section.plane = sketch.base.shifted(sketch.level);
    return section;
  }
  section::Section section;
  if (document.scan) {
    const Transform to_scan = document.to_part().inverse();
    section::SectionOptions options;
    if (sketch.part) options.part = flags_of(*sketch.part, document.scan->mesh->triangles.size());
    section = cut_of(*document.scan, sketch, to_scan, options);
    for (const auto& other : document.other_scans) {
      if (std::find(sketch.also.begin(), sketch.also.end(), other->name) == sketch.also.end())
        continue;
      for (section::Polyline& line : cut_of(*other, sketch, to_scan, {}).polylines) {
        line.triangles.clear();  // of another mesh than the regions
        section.polylines.push_back(std::move(line));
      }
    }
  }
  section.plane = sketch.turn ? sketch.base : sketch.base.shifted(sketch.level);
  return section;
}

Result<std::shared_ptr<const std::vector<std::uint32_t>>> part_of_regions(
    const Document& document, const std::vector<std::uint32_t>& regions) {
  auto part = std::make_shared<std::vector<std::uint32_t>>();
  const std::size_t count = document.survey ? document.survey->regions.size() : 0;
  std::vector<char> wanted(count + 1, 0);
  for (const std::uint32_t region : regions) {
    if (region == 0 || region > count)
      return Error{ErrorCode::NotFound, "There is no region " + std::to_string(region) +
                                            ": the survey has " + std::to_string(count) + "."};
    wanted[region] = 1;
  }
  if (count > 0) {
    const auto& labels = document.survey->triangle_region;
    for (std::size_t t = 0; t < labels.size(); ++t) {
      if (wanted[labels[t]] != 0) part->push_back(static_cast<std::uint32_t>(t));
    }
  }
  return std::shared_ptr<const std::vector<std::uint32_t>>(std::move(part));
}

std::shared_ptr<const std::vector<std::uint32_t>> carried_part(
    const std::vector<std::uint32_t>& part, const Scan& before, const Scan& now) {
  const scan::Mesh& mesh = *now.mesh;
  const std::size_t count = before.mesh->triangles.size();
  // Scaled or turned inside out, the triangles are the same.
  if (mesh.triangles.size() == count && mesh.vertices.size() == before.mesh->vertices.size())
    return std::make_shared<const std::vector<std::uint32_t>>(part);
  const auto flags = flags_of(part, count);
  // Further off than a few spacings there is another face (common practice, no source).
  const double limit = 3 * std::max(before.health.spacing, now.health.spacing);
  std::vector<char> inside(mesh.triangles.size(), 0);
  parallel_for(inside.size(), 4096, [&](std::size_t begin, std::size_t end) {
    for (std::size_t t = begin; t < end; ++t) {
      const scan::Triangle& corners = mesh.triangles[t];
      const Vec3 middle =
          (mesh.vertices[corners[0]] + mesh.vertices[corners[1]] + mesh.vertices[corners[2]]) / 3;
      const auto near = before.index->nearest(middle, limit);
      if (near && (*flags)[near->triangle]) inside[t] = 1;
    }
  });
  auto found = std::make_shared<std::vector<std::uint32_t>>();
  for (std::size_t t = 0; t < inside.size(); ++t) {
    if (inside[t] != 0) found->push_back(static_cast<std::uint32_t>(t));
  }
  return found;
}

sketch::FitOptions fit_options(const Document& document, const TracedSketch& sketch) {
  sketch::FitOptions options;
  options.reach = sketch.reach();
  if (document.scan) options.corner_margin = 1.5 * document.scan->health.spacing;
  return options;
}

std::optional<double> cleaner_level(const Document& document, const TracedSketch& sketch) {
  if (!document.scan || sketch.part) return std::nullopt;  // of a part the engineer chose the faces
  const double spacing = document.scan->health.spacing;
  const Placement in_scan = moved(sketch.base.shifted(sketch.level), document.to_part().inverse());
  const auto off =
      section::cleaner_level(*document.scan->sections, in_scan, 0.5 * spacing, 10 * spacing);
  if (!off) return std::nullopt;
  return std::round((sketch.level + *off) * 100) / 100;
}

std::optional<AlongFace> along_face(const Document& document, const TracedSketch& sketch) {
  if (!document.scan || sketch.part || sketch.turn || sketch.silhouette) return std::nullopt;
  const Transform to_scan = document.to_part().inverse();
  std::vector<double> levels = sketch.more_levels;
  levels.insert(levels.begin(), sketch.level);
  for (const double level : levels) {
    const section::Section cut =
        document.scan->sections->cut(moved(sketch.base.shifted(level), to_scan));
    if (!section::runs_along_a_face(cut, *document.scan->mesh)) continue;
    TracedSketch here = sketch;
    here.level = level;
    AlongFace along{cut.polylines.size(), level, cleaner_level(document, here)};
    if (!along.better) {
      const double spacing = document.scan->health.spacing;
      const auto off = section::level_off_the_face(*document.scan->sections,
                                                   moved(sketch.base.shifted(level), to_scan),
                                                   0.5 * spacing, 10 * spacing);
      if (off) along.better = std::round((level + *off) * 100) / 100;
    }
    return along;
  }
  return std::nullopt;
}

double resolving_tolerance(const Document& document) {
  if (!document.scan) return TracedSketch().tolerance;
  const scan::Health& health = document.scan->health;
  // Three standard deviations of a point, but no finer than a scan of this spacing shows corners;
  // on steps of 5 um.
  constexpr double kStep = 0.005;
  const double wanted = std::max(3 * health.noise_sigma, 0.03 * health.spacing);
  return std::max(kStep, std::ceil(wanted / kStep) * kStep);
}

namespace {

std::string place_name(const Document& document, const TracedSketch& sketch) {
  if (sketch.turn) {
    if (sketch.turn->fan) return "fan";
    return "turn " + format_trimmed(sketch.turn->angle * 180 / std::numbers::pi, 1) + "\u00b0";
  }
  std::string plane = plane_name(sketch.plane);
  if (!sketch.on.face.empty()) plane = face_title(document, sketch.on.face);
  if (sketch.on.fit != 0 || sketch.on.region != 0)
    plane = document.name_of({sketch.on.region, sketch.on.fit});
  if (sketch.silhouette) {
    constexpr std::array kSquare{"z", "y", "x"};  // to xy, xz and yz
    const bool datum = sketch.on.empty() && sketch.plane != DatumPlane::Free;
    std::string along =
        datum ? kSquare[static_cast<std::size_t>(sketch.plane)] : "the normal of " + plane;
    const double offset = sketch.silhouette->offset;
    if (offset != 0)
      along += (offset < 0 ? " \u2212 " : " + ") + format_trimmed(std::abs(offset), 2);
    return "outline along " + along;
  }
  std::string name =
      plane + (sketch.level < 0 ? " \u2212 " : " + ") + format_trimmed(std::abs(sketch.level), 2);
  if (!sketch.more_levels.empty())
    name += " and " + std::to_string(sketch.more_levels.size()) + " more";
  return name;
}

}  // namespace

std::string section_name(const Document& document, const TracedSketch& sketch) {
  const std::string name = place_name(document, sketch);
  return sketch.part ? name + ", in part" : name;
}

Placement half_plane(const Vec3& point, const Vec3& axis, double angle) {
  Placement p;
  p.origin = point;
  p.y = axis.normalized();
  const Vec3 start = placement_on(point, p.y).x;
  p.x = Eigen::AngleAxisd(angle, p.y) * start;
  p.normal = p.x.cross(p.y);
  return p;
}

void close_on_axis(sketch::Sketch& s, double reach) {
  std::map<sketch::Id, int> uses;
  for (const sketch::Entity& e : s.entities) {
    if (e.construction || !sketch::kind_of(e).has_ends()) continue;
    ++uses[e.a];
    ++uses[e.b];
  }
  std::vector<sketch::Id> ends;
  for (const auto& [point, count] : uses) {
    if (count == 1 && std::abs(s.position(point).x()) < reach) ends.push_back(point);
  }
  if (ends.size() != 2) return;
  s.add_line(ends[0], ends[1]);
  for (const sketch::Id end : ends)
    s.add_constraint(sketch::ConstraintType::Coincident, end, sketch::kYAxis);
}

void follow_reference(const Document& document, TracedSketch& sketch) {
  if (sketch.on.fit == 0 && sketch.on.region == 0) return;
  const fit::SurfaceFit* found = document.fit_of({sketch.on.region, sketch.on.fit});
  if (found == nullptr) return;
  const fit::Surface surface = fit::transformed(found->surface, document.to_part());
  sketch.on.surface = surface;
  Vec3& wanted = sketch.turn ? sketch.base.y : sketch.base.normal;
  const Vec3 axis = surface.axis.dot(wanted) < 0 ? Vec3(-surface.axis) : surface.axis;
  const Eigen::Matrix3d turn = rotation_onto(wanted, axis);
  Placement base = sketch.base;
  base.x = turn * base.x;
  base.y = turn * base.y;
  base.normal = turn * base.normal;
  const Vec3 off = surface.point - base.origin;
  base.origin += sketch.turn ? Vec3(off - off.dot(axis) * axis) : Vec3(off.dot(axis) * axis);
  sketch.base = base;
}

}  // namespace lostline::project
