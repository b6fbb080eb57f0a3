#include "fit/relation_equations.h"

#include <algorithm>
#include <cmath>

#include "fit/surface_kind.h"

namespace lostline::fit {
namespace {

bool is_planar(Kind kind) { return is_flat(kind); }
bool has_plane(Kind kind) { return is_flat(kind) || kind == Kind::Circle || kind == Kind::Ellipse; }
bool has_size(Kind kind) { return about(kind).size() != nullptr; }

double size_of(const Surface& s) { return s.*about(s.kind).size()->value; }

Error impossible(const Relation& r, const Surface& a, const Surface* b) {
  std::string text = std::string("A ") + kind_name(a.kind) + " cannot be " + relation_word(r.type);
  if (b != nullptr) text += std::string(" a ") + kind_name(b->kind);
  return {ErrorCode::InvalidInput, text + ". Pick other fits or another relation."};
}

/// Directions along one line, as two small angles; or square to each other, as one.
void align(const Surface& a, const Surface& b, bool along, Equations& e) {
  if (!along) return e.angle(a.axis.dot(b.axis));
  const Vec3 u = any_perpendicular(a.axis);
  e.angle(u.dot(b.axis));
  e.angle(a.axis.cross(u).dot(b.axis));
}

void across(const Vec3& d, const Vec3& axis, Equations& e) {
  const Vec3 u = any_perpendicular(axis);
  e.length(u.dot(d));
  e.length(axis.cross(u).dot(d));
}

Surface mirrored(Surface s, const Surface& plane) {
  s.axis -= 2 * s.axis.dot(plane.axis) * plane.axis;
  s.point -= 2 * (s.point - plane.point).dot(plane.axis) * plane.axis;
  return s;
}

/// Signed where the two have sides to each other, so that a solver can pass through zero.
double distance_between(const Surface& a, const Surface& b) {
  const Vec3 d = b.point - a.point;
  if (is_planar(a.kind)) return d.dot(a.axis);
  if (is_planar(b.kind)) return -d.dot(b.axis);
  if (has_direction(a.kind)) return (d - d.dot(a.axis) * a.axis).norm();
  if (has_direction(b.kind)) return (d - d.dot(b.axis) * b.axis).norm();
  return d.norm();
}

}  // namespace

Result<Equations> equations(const Relation& r, const std::vector<Surface>& surfaces) {
  const int named = members_of(r.type);
  if (r.a >= surfaces.size() || (named > 1 && r.b >= surfaces.size()) ||
      (named > 2 && r.c >= surfaces.size()))
    return Error{ErrorCode::InvalidInput, "A relation names a fit that is not there."};
  if (named > 1 && r.a == r.b)
    return Error{ErrorCode::InvalidInput, "A relation needs two different fits."};
  const Surface& a = surfaces[r.a];
  const Surface& b = surfaces[named > 1 ? r.b : r.a];
  const bool directed = has_direction(a.kind) && has_direction(b.kind);
  const bool mixed = is_planar(a.kind) != is_planar(b.kind);
  Equations e;
  switch (r.type) {
    case RelationType::Parallel:
    case RelationType::Perpendicular:
      if (!directed) return impossible(r, a, &b);
      // A plane's direction is its normal: a plane along an axis has it square to the normal.
      align(a, b, (r.type == RelationType::Parallel) != mixed, e);
      return e;
    case RelationType::Angle: {
      if (!directed) return impossible(r, a, &b);
      const double dot = a.axis.dot(b.axis);
      const double wanted = mixed ? std::sin(r.value) : std::cos(r.value);
      // The slope of the cosine turns the difference into an angle.
      const double slope = std::max(std::abs(mixed ? std::cos(r.value) : std::sin(r.value)), 1e-3);
      e.angle((std::abs(dot) - std::abs(wanted)) / slope);
      return e;
    }
    case RelationType::Coaxial:
      if (is_planar(a.kind) || is_planar(b.kind)) return impossible(r, a, &b);
      if (directed) {
        align(a, b, true, e);
        across(b.point - a.point, a.axis, e);
      } else if (has_direction(a.kind) || has_direction(b.kind)) {
        across(b.point - a.point, has_direction(a.kind) ? a.axis : b.axis, e);
      } else {
        for (int k = 0; k < 3; ++k) e.length(b.point[k] - a.point[k]);
      }
      return e;
    case RelationType::Coplanar:
      if (!has_plane(a.kind) || !has_plane(b.kind)) return impossible(r, a, &b);
      align(a, b, true, e);
      e.length((b.point - a.point).dot(a.axis));
      return e;
    case RelationType::EqualSize:
      if (!has_size(a.kind) || !has_size(b.kind) ||
          (a.kind == Kind::Cone) != (b.kind == Kind::Cone))
        return impossible(r, a, &b);
      a.kind == Kind::Cone ? e.angle(size_of(a) - size_of(b)) : e.length(size_of(a) - size_of(b));
      return e;
    case RelationType::Size:
      if (!has_size(a.kind)) return impossible(r, a, nullptr);
      a.kind == Kind::Cone ? e.angle(size_of(a) - r.value) : e.length(size_of(a) - r.value);
      return e;
    case RelationType::Distance: {
      if (directed) align(a, b, !mixed, e);
      const double d = distance_between(a, b);
      e.length(std::abs(d) - r.value);
      return e;
    }
    case RelationType::Symmetric: {
      const Surface& plane = surfaces[r.c];
      if (!is_planar(plane.kind) || a.kind != b.kind) return impossible(r, a, &b);
      const Surface image = mirrored(a, plane);
      const Vec3 d = b.point - image.point;
      if (has_direction(a.kind)) align(image, b, true, e);
      if (is_planar(a.kind)) {
        e.length(d.dot(image.axis));
      } else if (a.kind == Kind::Cylinder || a.kind == Kind::Line || a.kind == Kind::Cone) {
        across(d, image.axis, e);  // of a cone too the axis is mirrored, not the apex
      } else {
        for (int k = 0; k < 3; ++k) e.length(d[k]);
      }
      return e;
    }
  }
  return e;
}

}  // namespace lostline::fit
