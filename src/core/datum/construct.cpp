#include "datum/construct.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "datum/propagate.h"
#include "fit/uncertainty.h"

namespace lostline::datum {
namespace {

using fit::Kind;
using fit::SurfaceFit;

bool has_axis(const SurfaceFit& f) {
  return fit::has_direction(f.surface.kind) && !fit::is_flat(f.surface.kind);
}
bool has_centre(const SurfaceFit& f) { return fit::has_centre(f.surface.kind); }

/// Foot of the fit's evidence on its axis.
Vec3 foot(const SurfaceFit& f) {
  if (has_centre(f)) return f.surface.point;
  return f.surface.point + (f.centroid - f.surface.point).dot(f.surface.axis) * f.surface.axis;
}

/// Standard uncertainty of a fit's place, of one of the coordinates that it has.
double sigma_of_place(const SurfaceFit& f) {
  return f.u_offset / fit::coverage_factor(has_centre(f) ? 3 : 2);
}

/// That of an axis across itself at a place.
double sigma_at(const SurfaceFit& f, const Vec3& p) {
  const double lever = has_centre(f) ? 0 : (p - foot(f)).norm();
  return std::hypot(sigma_of_place(f), lever * f.u_angle / fit::coverage_factor(2));
}

SurfaceFit made(Kind kind) {
  SurfaceFit f;
  f.surface.kind = kind;
  return f;
}

}  // namespace

namespace {

Result<SurfaceFit> plane_between(const SurfaceFit& a, const SurfaceFit& b) {
  if (!fit::is_flat(a.surface.kind) || !fit::is_flat(b.surface.kind))
    return Error{ErrorCode::InvalidInput, "A midplane lies between two planes: pick two."};
  SurfaceFit f = made(Kind::Plane);
  // Faces of a slot or a web look apart or at each other: their normals are turned alike first.
  const Vec3 second =
      a.surface.axis.dot(b.surface.axis) < 0 ? Vec3(-b.surface.axis) : b.surface.axis;
  f.surface.axis = (a.surface.axis + second).normalized();
  // Each plane above the middle of both evidences, along the common direction.
  const Vec3 middle = 0.5 * (a.centroid + b.centroid);
  const auto level = [&](const SurfaceFit& plane) {
    const double slope = plane.surface.axis.dot(f.surface.axis);
    return plane.surface.axis.dot(plane.surface.point - middle) / slope;
  };
  const double first = level(a);
  const double other = level(b);
  if (std::abs(first - other) < 1e-6 && fit::angle_between(a.surface.axis, second) < 1e-6)
    return Error{ErrorCode::Degenerate, "Both planes are one: there is nothing between them."};
  f.surface.point = middle + 0.5 * (first + other) * f.surface.axis;
  f.centroid = f.surface.point;
  f.form_error = std::max(a.form_error, b.form_error);
  f.rms = std::max(a.rms, b.rms);
  f.points = f.used = 2;
  return f;
}

}  // namespace

Result<SurfaceFit> midplane(const SurfaceFit& a, const SurfaceFit& b) {
  const auto plane = plane_between(a, b);
  if (!plane) return plane;
  return propagated(
      {a, b}, [](const auto& fits) { return plane_between(fits[0], fits[1]); }, *plane);
}

namespace {

Result<SurfaceFit> line_through(const SurfaceFit& a, const SurfaceFit& b,
                                const SurfaceFit* through) {
  for (const SurfaceFit* f : {&a, &b}) {
    if (!has_axis(*f) && !has_centre(*f))
      return Error{
          ErrorCode::InvalidInput,
          "A line through two centres needs holes, circles, spheres or points: a plane has "
          "no centre."};
  }
  Vec3 on = 0.5 * (foot(a) + foot(b));
  Vec3 normal = Vec3::Zero();
  if (through != nullptr) {
    if (!fit::is_flat(through->surface.kind))
      return Error{ErrorCode::InvalidInput,
                   "The centres are taken in a plane: pick a plane third."};
    on = through->surface.point;
    normal = through->surface.axis;
  } else {
    for (const SurfaceFit* f : {&a, &b}) {
      if (has_centre(*f)) continue;
      normal += normal.dot(f->surface.axis) < 0 ? Vec3(-f->surface.axis) : f->surface.axis;
    }
    if (normal.norm() > 0) normal.normalize();
  }
  const auto centre = [&](const SurfaceFit& f) {
    if (has_centre(f) || !(normal.norm() > 0)) return foot(f);
    const double slope = normal.dot(f.surface.axis);
    if (std::abs(slope) < 0.1) return foot(f);
    return Vec3(f.surface.point + normal.dot(on - f.surface.point) / slope * f.surface.axis);
  };
  const Vec3 p = centre(a);
  const Vec3 q = centre(b);
  const double length = (q - p).norm();
  if (length < 1e-3)
    return Error{ErrorCode::Degenerate, "Both centres are one: they give no direction."};
  SurfaceFit f = made(Kind::Line);
  f.surface.point = f.centroid = 0.5 * (p + q);
  f.surface.axis = (q - p) / length;
  f.points = f.used = 2;
  return f;
}

}  // namespace

Result<SurfaceFit> axis_of_two(const SurfaceFit& a, const SurfaceFit& b,
                               const SurfaceFit* through) {
  const auto line = line_through(a, b, through);
  if (!line) return line;
  std::vector<SurfaceFit> from{a, b};
  if (through != nullptr) from.push_back(*through);
  return propagated(
      from,
      [](const auto& fits) {
        return line_through(fits[0], fits[1], fits.size() > 2 ? &fits[2] : nullptr);
      },
      *line);
}

Result<SurfaceFit> common_axis(const std::vector<SurfaceFit>& fits) {
  if (fits.size() < 2)
    return Error{ErrorCode::InvalidInput, "A common axis needs two features or more."};
  Vec3 mean = Vec3::Zero();
  Vec3 direction = Vec3::Zero();
  for (const SurfaceFit& f : fits) {
    if (!has_axis(f))
      return Error{ErrorCode::InvalidInput, "Only features with an axis have one in common."};
    mean += foot(f) / static_cast<double>(fits.size());
    direction += direction.dot(f.surface.axis) < 0 ? Vec3(-f.surface.axis) : f.surface.axis;
  }
  direction.normalize();
  for (const SurfaceFit& f : fits) {
    if (fit::angle_between(f.surface.axis, direction) > 0.09)
      return Error{ErrorCode::Degenerate,
                   "The axes differ by more than 5 degrees: they are not one axis."};
  }
  // x(z) = x0 + t z in both directions across, from each axis's place and tilt.
  const Vec3 u = any_perpendicular(direction);
  const Vec3 v = direction.cross(u);
  Eigen::Matrix2d normal = Eigen::Matrix2d::Zero();
  Eigen::Matrix2d right = Eigen::Matrix2d::Zero();  // columns: along u, along v
  for (const SurfaceFit& f : fits) {
    const Vec3 d = foot(f) - mean;
    const double z = d.dot(direction);
    const double place = 1 / std::pow(std::max(sigma_of_place(f), 1e-4), 2);
    normal += place * Vec2(1, z) * Vec2(1, z).transpose();
    right += place * Vec2(1, z) * Vec2(d.dot(u), d.dot(v)).transpose();
    if (has_centre(f)) continue;
    const Vec3 axis = f.surface.axis * (f.surface.axis.dot(direction) < 0 ? -1 : 1);
    const double turn = 1 / std::pow(std::max(f.u_angle / fit::coverage_factor(2), 1e-6), 2);
    normal(1, 1) += turn;
    right.row(1) += turn * Vec2(axis.dot(u), axis.dot(v)).transpose();
  }
  const Eigen::Matrix2d covariance = normal.inverse();
  const Eigen::Matrix2d solved = covariance * right;
  SurfaceFit f = made(Kind::Line);
  f.surface.axis = (direction + solved(1, 0) * u + solved(1, 1) * v).normalized();
  f.surface.point = f.centroid = mean + solved(0, 0) * u + solved(0, 1) * v;
  double squares = 0;
  double chi = 0;
  for (const SurfaceFit& g : fits) {
    const Vec3 d = foot(g) - f.surface.point;
    const double off = (d - d.dot(f.surface.axis) * f.surface.axis).norm();
    squares += off * off;
    chi += std::pow(off / std::max(sigma_of_place(g), 1e-4), 2);
    f.form_error = std::max(f.form_error, 2 * off);
  }
  f.rms = std::sqrt(squares / static_cast<double>(fits.size()));
  // Axes that scatter more than they say make the common one as much less certain.
  const double factor = std::sqrt(std::max(1.0, chi / (2.0 * static_cast<double>(fits.size()))));
  // Alike in both directions across.
  f.u_offset = fit::coverage_factor(2) * factor * std::sqrt(covariance(0, 0));
  f.u_angle = fit::coverage_factor(2) * factor * std::sqrt(covariance(1, 1));
  f.points = f.used = fits.size();
  return f;
}

Result<SurfaceFit> bolt_circle(const std::vector<SurfaceFit>& fits) {
  if (fits.size() < 3)
    return Error{ErrorCode::InvalidInput, "A bolt circle needs three holes or more."};
  Vec3 mean = Vec3::Zero();
  Vec3 direction = Vec3::Zero();
  double variance = 0;
  for (const SurfaceFit& f : fits) {
    if (!has_axis(f) && !has_centre(f))
      return Error{ErrorCode::InvalidInput, "A plane among the holes of a bolt circle."};
    mean += foot(f) / static_cast<double>(fits.size());
    if (has_axis(f))
      direction += direction.dot(f.surface.axis) < 0 ? Vec3(-f.surface.axis) : f.surface.axis;
  }
  Eigen::Matrix3Xd places(3, static_cast<Eigen::Index>(fits.size()));
  const bool axes = direction.norm() > 0.5;
  if (axes) direction.normalize();
  for (std::size_t i = 0; i < fits.size(); ++i) {
    const SurfaceFit& f = fits[i];
    Vec3 p = foot(f);
    if (axes && has_axis(f)) {
      if (fit::angle_between(f.surface.axis, direction) > 0.09)
        return Error{ErrorCode::Degenerate,
                     "The holes are not parallel: they lie on no one circle."};
      if (!has_centre(f))
        p = f.surface.point +
            direction.dot(mean - f.surface.point) / direction.dot(f.surface.axis) * f.surface.axis;
    }
    places.col(static_cast<Eigen::Index>(i)) = p;
    variance += std::pow(sigma_at(f, p), 2) / static_cast<double>(fits.size());
  }
  fit::SurfaceFitOptions options;
  options.reject_beyond = 0;
  options.hopeless = 0;
  options.least_sigma = std::sqrt(variance);
  if (axes) {
    options.direction.type = fit::DirectionRule::Type::Parallel;
    options.direction.direction = direction;
  }
  auto circle = fit::fit_surface(Kind::Circle, places, Eigen::Matrix3Xd(3, 0), {}, options);
  if (!circle && circle.error().code == ErrorCode::Degenerate)
    return Error{ErrorCode::Degenerate, "The holes lie in one line: no circle goes through them."};
  return circle;
}

namespace {

Result<SurfaceFit> meeting_point(const std::vector<SurfaceFit>& fits) {
  std::vector<const SurfaceFit*> planes;
  std::vector<const SurfaceFit*> axes;
  for (const SurfaceFit& f : fits) {
    if (fit::is_flat(f.surface.kind)) {
      planes.push_back(&f);
    } else if (has_axis(f)) {
      axes.push_back(&f);
    }
  }
  SurfaceFit point = made(Kind::Point);
  point.points = point.used = fits.size();
  if (planes.size() == 3 && axes.empty() && fits.size() == 3) {
    Eigen::Matrix3d normals;
    Vec3 offsets;
    for (int k = 0; k < 3; ++k) {
      const fit::Surface& s = planes[static_cast<std::size_t>(k)]->surface;
      normals.row(k) = s.axis.transpose();
      offsets[k] = s.axis.dot(s.point);
    }
    if (std::abs(normals.determinant()) < 0.02)
      return Error{ErrorCode::Degenerate, "Two of the planes are parallel: they meet in no point."};
    point.surface.point = normals.inverse() * offsets;
  } else if (planes.size() == 1 && axes.size() == 1 && fits.size() == 2) {
    const fit::Surface& s = planes[0]->surface;
    const fit::Surface& t = axes[0]->surface;
    const double slope = s.axis.dot(t.axis);
    if (std::abs(slope) < 0.02)
      return Error{ErrorCode::Degenerate, "The axis lies along the plane: they meet in no point."};
    point.surface.point = t.point + s.axis.dot(s.point - t.point) / slope * t.axis;
  } else if (axes.size() == 2 && fits.size() == 2) {
    const fit::Surface& s = axes[0]->surface;
    const fit::Surface& t = axes[1]->surface;
    const double c = s.axis.dot(t.axis);
    const double sine = 1 - c * c;
    if (sine < 1e-3)
      return Error{ErrorCode::Degenerate, "The axes are parallel: they meet in no point."};
    const Vec3 d = t.point - s.point;
    const Vec3 p = s.point + (d.dot(s.axis) - c * d.dot(t.axis)) / sine * s.axis;
    const Vec3 q = t.point + (c * d.dot(s.axis) - d.dot(t.axis)) / sine * t.axis;
    point.surface.point = 0.5 * (p + q);
    point.form_error = (p - q).norm();  // how far the axes miss each other
  } else {
    return Error{ErrorCode::InvalidInput,
                 "A point of intersection needs three planes, a plane and an axis, or two axes."};
  }
  point.centroid = point.surface.point;
  return point;
}

}  // namespace

Result<SurfaceFit> intersection(const std::vector<SurfaceFit>& fits) {
  const auto point = meeting_point(fits);
  if (!point) return point;
  return propagated(fits, meeting_point, *point);
}

}  // namespace lostline::datum
