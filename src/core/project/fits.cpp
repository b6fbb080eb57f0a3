#include "project/fits.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace lostline::project {
namespace {

constexpr double kDegrees = 180 / std::numbers::pi;

}  // namespace

Result<FitTrial> try_fit(const Document& document, const FitRequest& request, const Task& task) {
  if (!document.scan || !request.triangles || request.triangles->empty())
    return Error{ErrorCode::InvalidInput, "Click the scan where the surface is."};
  FitTrial trial;
  trial.patch = survey::patch_of(*document.scan->mesh, document.scan->topology, *request.triangles);
  const auto free =
      fit::fit_surface(request.kind, trial.patch.points, trial.patch.normals, {}, {}, task);
  if (!free) return free.error();
  trial.fit.result = *free;
  trial.fit.free_rms = free->rms;
  trial.fit.triangles = request.triangles;
  trial.fit.name =
      std::string(fit::kind_name(request.kind)) + " F" + std::to_string(document.fits.size() + 1);
  if (request.relation == fit::DirectionRule::Type::Free) return trial;
  const fit::SurfaceFit* other = document.fit_of(request.relation_to);
  if (other == nullptr)
    return Error{ErrorCode::InvalidInput, "Pick the fit that gives the direction."};
  if (!fit::has_direction(request.kind) || !fit::has_direction(other->surface.kind))
    return Error{ErrorCode::InvalidInput, "A sphere has no direction that could be imposed."};
  fit::SurfaceFitOptions options;
  options.direction.direction = other->surface.axis;
  // A plane's direction is its normal: plane parallel to axis means normal square to it.
  const bool mixed =
      (request.kind == fit::Kind::Plane) != (other->surface.kind == fit::Kind::Plane);
  const bool parallel = (request.relation == fit::DirectionRule::Type::Parallel) != mixed;
  options.direction.type =
      parallel ? fit::DirectionRule::Type::Parallel : fit::DirectionRule::Type::Perpendicular;
  const auto held = fit::fit_surface(request.kind, trial.patch.points, trial.patch.normals,
                                     free->surface, options, task);
  if (!held) return held.error();
  trial.fit.result = *held;
  trial.fit.relation = request.relation;
  trial.fit.relation_to = request.relation_to;
  trial.turned = fit::angle_between(held->surface.axis, free->surface.axis);
  trial.within_noise =
      trial.turned <= std::max(free->u_angle, 1e-9) || held->rms - free->rms < 0.02 * free->rms;
  return trial;
}

Added add_fit(const Document& document, Fit fit) {
  Added added{document, document.next_id};
  fit.id = added.document.next_id++;
  added.document.fits.push_back(std::make_shared<const Fit>(std::move(fit)));
  return added;
}

Result<Document> remove_fit(const Document& document, Id fit) {
  const Fit* found = document.find_fit(fit);
  if (found == nullptr) return Error{ErrorCode::NotFound, "This fit is already gone."};
  const FitRef ref{0, fit};
  const auto uses = [&](const std::vector<FitRef>& list) {
    return std::find(list.begin(), list.end(), ref) != list.end();
  };
  if (document.frame && (document.frame->primary == ref || uses(document.frame->secondary) ||
                         uses(document.frame->origin))) {
    return Error{ErrorCode::InvalidInput,
                 "The datum frame rests on " + found->name + ". Change the frame first."};
  }
  for (const Dimension& d : document.dimensions) {
    if (uses(d.owner.fits))
      return Error{ErrorCode::InvalidInput,
                   "The Ledger row \"" + d.name + "\" rests on " + found->name + "."};
  }
  Document next = document;
  std::erase_if(next.fits, [&](const auto& f) { return f->id == fit; });
  return next;
}

Result<Measurement> measure(const Document& document, const FitRef& a, const FitRef& b,
                            bool angle) {
  const fit::SurfaceFit* first = document.fit_of(a);
  const fit::SurfaceFit* second = document.fit_of(b);
  if (first == nullptr || second == nullptr)
    return Error{ErrorCode::InvalidInput, "Pick two planes or axes."};
  if (a == b) return Error{ErrorCode::InvalidInput, "Pick two different fits."};
  const fit::Surface& s = first->surface;
  const fit::Surface& t = second->surface;
  const std::string names = document.name_of(a) + " to " + document.name_of(b);
  Measurement m;
  if (!fit::has_direction(s.kind) || !fit::has_direction(t.kind)) {
    // Centres: of two spheres, or of a sphere to a plane or an axis.
    if (angle)
      return Error{ErrorCode::InvalidInput, "A sphere has no direction to measure an angle to."};
    const bool first_is_sphere = !fit::has_direction(s.kind);
    const fit::SurfaceFit& ball = first_is_sphere ? *first : *second;
    const fit::SurfaceFit& other = first_is_sphere ? *second : *first;
    const Vec3 between = ball.surface.point - other.surface.point;
    const double along = between.dot(other.surface.axis);
    m.what = "distance " + names;
    m.value = !fit::has_direction(other.surface.kind) ? between.norm()
              : other.surface.kind == fit::Kind::Plane
                  ? std::abs(along)
                  : (between - along * other.surface.axis).norm();
    m.u = std::sqrt(ball.u_offset * ball.u_offset + other.u_offset * other.u_offset +
                    std::pow((ball.surface.point - other.centroid).norm() * other.u_angle, 2));
    return m;
  }
  const double turn = fit::angle_between(s.axis, t.axis);
  const double u_turn = std::hypot(first->u_angle, second->u_angle);
  if (angle) {
    m.quantity = standards::Quantity::Angle;
    const bool mixed = (s.kind == fit::Kind::Plane) != (t.kind == fit::Kind::Plane);
    m.value = (mixed ? std::numbers::pi / 2 - turn : turn) * kDegrees;
    m.u = u_turn * kDegrees;
    m.what = "angle " + names;
    return m;
  }
  m.what = "distance " + names;
  const bool planes = s.kind == fit::Kind::Plane && t.kind == fit::Kind::Plane;
  const bool axes = s.kind != fit::Kind::Plane && t.kind != fit::Kind::Plane;
  const double off_parallel = planes || axes ? turn : std::numbers::pi / 2 - turn;
  if (off_parallel > std::max(0.02, 3 * u_turn)) {
    return Error{ErrorCode::InvalidInput,
                 "They are " + format_fixed(off_parallel * kDegrees, 2) +
                     "\u00b0 from parallel, so they have no one distance. Measure the angle."};
  }
  const Vec3 d = second->centroid - first->centroid;
  if (planes) {
    m.value = std::abs((second->centroid - s.point).dot(s.axis));
    const double lever = (d - d.dot(s.axis) * s.axis).norm();
    m.u = std::sqrt(first->u_offset * first->u_offset + second->u_offset * second->u_offset +
                    std::pow(lever * first->u_angle, 2));
  } else if (axes) {
    const Vec3 between = t.point - s.point;
    m.value = (between - between.dot(s.axis) * s.axis).norm();
    m.u = std::sqrt(
        first->u_offset * first->u_offset + second->u_offset * second->u_offset +
        std::pow(std::abs(d.dot(s.axis)) * std::hypot(first->u_angle, second->u_angle), 2));
  } else {
    const fit::SurfaceFit& plane = s.kind == fit::Kind::Plane ? *first : *second;
    const fit::SurfaceFit& axis = s.kind == fit::Kind::Plane ? *second : *first;
    m.value = std::abs((axis.surface.point - plane.surface.point).dot(plane.surface.axis));
    m.u = std::sqrt(plane.u_offset * plane.u_offset + axis.u_offset * axis.u_offset +
                    std::pow(d.norm() * plane.u_angle, 2));
  }
  return m;
}

Result<Added> add_measurement(const Document& document, const FitRef& a, const FitRef& b,
                              bool angle) {
  const auto m = measure(document, a, b, angle);
  if (!m) return m.error();
  Added added{document, document.next_id};
  Dimension row;
  row.id = added.document.next_id++;
  row.name = m->what;
  row.quantity = m->quantity;
  row.reading = m->value;
  row.u = m->u;
  row.source = m->what;
  row.owner.fits = {a, b};
  added.document.dimensions.push_back(std::move(row));
  return added;
}

}  // namespace lostline::project
