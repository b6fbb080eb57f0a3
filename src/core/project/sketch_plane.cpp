#include "project/sketch_plane.h"

#include <numbers>

#include "base/linear.h"
#include "section/turn.h"

namespace lostline::project {
namespace {

Placement moved(const Placement& p, const Transform& rigid) {
  return {rigid * p.origin, rigid.linear() * p.x, rigid.linear() * p.y, rigid.linear() * p.normal};
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

section::Section cut_scan(const Document& document, const TracedSketch& sketch) {
  if (!sketch.turn) return cut_scan(document, sketch.base, sketch.level);
  section::Section section;
  if (document.scan) {
    const Placement in_scan = moved(sketch.base, document.to_part().inverse());
    section = sketch.turn->fan ? section::cut_fan(*document.scan->sections, in_scan, kFanBlades)
                               : section::half_of(document.scan->sections->cut(in_scan));
  }
  section.plane = sketch.base;
  return section;
}

std::string section_name(const Document& document, const TracedSketch& sketch) {
  if (sketch.turn) {
    if (sketch.turn->fan) return "fan";
    return "turn " + format_trimmed(sketch.turn->angle * 180 / std::numbers::pi, 1) + "\u00b0";
  }
  std::string plane = plane_name(sketch.plane);
  if (!sketch.on.face.empty()) plane = face_title(document, sketch.on.face);
  if (sketch.on.fit != 0 || sketch.on.region != 0)
    plane = document.name_of({sketch.on.region, sketch.on.fit});
  return plane + (sketch.level < 0 ? " \u2212 " : " + ") +
         format_trimmed(std::abs(sketch.level), 2);
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
