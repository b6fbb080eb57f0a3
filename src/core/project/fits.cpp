#include "project/fits.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

#include "project/relations.h"

namespace lostline::project {
namespace {

/// Mean trust of the regions about each point of a patch, mean 1; empty where it is the same
/// everywhere.
Eigen::VectorXd trust_of(const Document& document, const survey::Patch& patch) {
  if (!document.survey || patch.vertices.empty() ||
      document.survey->triangle_region.size() != document.scan->mesh->triangles.size())
    return {};
  Eigen::VectorXd weights(patch.points.cols());
  for (Eigen::Index i = 0; i < weights.size(); ++i) {
    double trust = 0;
    double count = 0;
    for (const std::uint32_t t :
         document.scan->topology.vertex_triangles[patch.vertices[static_cast<std::size_t>(i)]]) {
      const std::uint32_t region = document.survey->triangle_region[t];
      trust += region == 0 ? 0.1 : document.survey->regions[region - 1].trust;
      count += 1;
    }
    weights[i] = count > 0 ? trust / count : 0.1;
  }
  if (weights.maxCoeff() - weights.minCoeff() < 1e-3) return {};
  return weights / weights.mean();
}

}  // namespace

Eigen::VectorXd weights_of(const Document& document, const survey::Patch& patch, fit::Kind kind) {
  const Eigen::VectorXd trust = trust_of(document, patch);
  const Eigen::VectorXd rows = survey::row_weights(patch, kind, document.scan->health.noise_sigma);
  if (trust.size() == 0 || rows.size() == 0) return trust.size() == 0 ? rows : trust;
  return trust.cwiseProduct(rows);
}

Result<FitTrial> try_fit(const Document& document, const FitRequest& request, const Task& task) {
  const bool by_points = !request.points.empty();
  if (!document.scan || (!by_points && (!request.triangles || request.triangles->empty())))
    return Error{ErrorCode::InvalidInput, "Click the scan where the surface is."};
  FitTrial trial;
  trial.fit.triangles =
      request.triangles ? request.triangles : std::make_shared<const std::vector<std::uint32_t>>();
  trial.fit.points = request.points;
  if (by_points) {
    trial.patch.points = evidence_of(document, trial.fit);
    trial.patch.normals.resize(3, 0);
  } else {
    trial.patch =
        survey::patch_of(*document.scan->mesh, document.scan->topology, *request.triangles);
  }
  fit::SurfaceFitOptions options;
  options.weights = trust_of(document, trial.patch);
  trial.weighted = options.weights.size() > 0;
  // A handful of picked points are all meant, and show little of the noise.
  if (by_points && request.points.size() < 20) options.reject_beyond = 0;
  if (by_points) options.least_sigma = document.scan->health.noise_sigma;
  const bool two = request.relation && fit::members_of(*request.relation) == 2;
  const fit::SurfaceFit* other = two ? document.fit_of(request.relation_to) : nullptr;
  if (two && other == nullptr)
    return Error{ErrorCode::InvalidInput, "Pick the other fit of the relation."};
  auto alone = survey::fit_patch(request.kind, trial.patch, {}, options, task);
  // A narrow strip tells no axis of its own, but what lies about one that is known.
  const bool on_axis = other != nullptr && request.relation == fit::RelationType::Coaxial &&
                       fit::has_direction(other->surface.kind);
  const auto about_the_other = [&] {
    fit::SurfaceFitOptions held = options;
    held.direction = {fit::DirectionRule::Type::OnAxis, other->surface.axis, other->surface.point};
    return survey::fit_patch(request.kind, trial.patch, {}, held, task);
  };
  const bool borrowed = !alone && alone.error().code != ErrorCode::Cancelled && on_axis;
  if (borrowed) alone = about_the_other();
  if (!alone) return alone.error();
  trial.fit.alone = trial.fit.result = *alone;
  trial.fit.name =
      std::string(fit::kind_name(request.kind)) + " F" + std::to_string(document.fits.size() + 1);
  if (!request.relation) return trial;
  std::vector<fit::Member> members{
      {*alone, trial.patch.points, false, weights_of(document, trial.patch, request.kind)}};
  if (two) members.push_back({*other, {}, true});
  const std::vector<fit::Relation> relations{
      {*request.relation, 0, two ? 1U : 0U, 0, request.value}};
  auto held = fit::fit_related(members, relations, task);
  if (!held && held.error().code != ErrorCode::Cancelled && on_axis && !borrowed) {
    // Alone it lies too far off for the way to the axis.
    alone = about_the_other();
    if (!alone) return held.error();
    trial.fit.alone = members.front().fit = *alone;
    held = fit::fit_related(members, relations, task);
  }
  if (!held) return held.error();
  trial.fit.result = held->fits.front();
  FitRelation relation;
  relation.type = *request.relation;
  relation.b = request.relation_to;
  relation.value = request.value;
  relation.follow = true;
  relation.cost = held->costs.front();
  trial.relation = relation;
  return trial;
}

std::vector<Vec3> rim_of(const Scan& scan, const std::vector<std::uint32_t>& triangles,
                         const Vec3& near) {
  std::vector<char> in(scan.mesh->triangles.size(), 0);
  for (const std::uint32_t t : triangles) in[t] = 1;
  std::map<std::uint32_t, std::uint32_t> next;  // along the border, material on the left
  for (const std::uint32_t t : triangles) {
    for (std::size_t k = 0; k < 3; ++k) {
      const std::uint32_t other = scan.topology.across[3 * t + k];
      if (other == scan::kNone || in[other] == 0)
        next[scan.mesh->triangles[t][k]] = scan.mesh->triangles[t][(k + 1) % 3];
    }
  }
  std::vector<Vec3> best;
  double nearest = 1e300;
  while (!next.empty()) {
    std::vector<Vec3> rim;
    double distance = 1e300;
    for (auto at = next.begin(); at != next.end();) {
      rim.push_back(scan.mesh->vertices[at->first]);
      distance = std::min(distance, (rim.back() - near).squaredNorm());
      const std::uint32_t to = at->second;
      next.erase(at);
      at = next.find(to);
    }
    if (rim.size() >= 8 && distance < nearest) {
      nearest = distance;
      best = std::move(rim);
    }
  }
  return best;
}

Added add_fit(const Document& document, const FitTrial& trial) {
  Added added{document, document.next_id};
  Fit fit = trial.fit;
  fit.id = added.document.next_id++;
  added.document.fits.push_back(std::make_shared<const Fit>(std::move(fit)));
  if (trial.relation) {
    FitRelation relation = *trial.relation;
    relation.id = added.document.next_id++;
    relation.a = {0, added.id};
    added.document.relations.push_back(relation);
  }
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
  for (const auto& f : document.fits) {
    if (f->construction && uses(f->construction->from))
      return Error{ErrorCode::InvalidInput, f->name + " is made from " + found->name + "."};
  }
  for (const Dimension& d : document.dimensions) {
    if (uses(d.owner.fits))
      return Error{ErrorCode::InvalidInput,
                   "The Ledger row \"" + d.name + "\" rests on " + found->name + "."};
  }
  for (const FitRelation& r : document.relations) {
    if (r.b == ref || r.c == ref)
      return Error{ErrorCode::InvalidInput, document.name_of(r.a) + " is held " +
                                                fit::relation_word(r.type) + " " + found->name +
                                                ". Take that relation back first."};
  }
  Document next = document;
  std::erase_if(next.relations, [&](const FitRelation& r) { return r.a == ref; });
  std::erase_if(next.fits, [&](const auto& f) { return f->id == fit; });
  return set_relations(next, next.relations);  // what it was joined with is free of it
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
              : fit::is_flat(other.surface.kind)      ? std::abs(along)
                                                 : (between - along * other.surface.axis).norm();
    m.u = std::sqrt(ball.u_offset * ball.u_offset + other.u_offset * other.u_offset +
                    std::pow((ball.surface.point - other.centroid).norm() * other.u_angle, 2));
    return m;
  }
  const double turn = fit::angle_between(s.axis, t.axis);
  const double u_turn = std::hypot(first->u_angle, second->u_angle);
  if (angle) {
    m.quantity = standards::Quantity::Angle;
    const bool mixed = (fit::is_flat(s.kind)) != (fit::is_flat(t.kind));
    m.value = (mixed ? std::numbers::pi / 2 - turn : turn) * kDegrees;
    m.u = u_turn * kDegrees;
    m.what = "angle " + names;
    return m;
  }
  m.what = "distance " + names;
  const bool planes = fit::is_flat(s.kind) && fit::is_flat(t.kind);
  const bool axes = !fit::is_flat(s.kind) && !fit::is_flat(t.kind);
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
    const fit::SurfaceFit& plane = fit::is_flat(s.kind) ? *first : *second;
    const fit::SurfaceFit& axis = fit::is_flat(s.kind) ? *second : *first;
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
