#include "project/datums.h"

#include <algorithm>

#include "datum/construct.h"
#include "datum/propose.h"
#include "project/model_target.h"
#include "project/relations.h"
#include "project/sketch_plane.h"
#include "survey/finish.h"

namespace lostline::project {
namespace {

/// Where a sketch plane comes to lie after the part frame has moved by `motion`: on a datum
/// direction where it nearly is: within 3 degrees, and within `near` mm of the datum plane (common
/// practice, no source).
Placement reframed(const Placement& base, const Transform& motion, double near) {
  const Placement moved{motion * base.origin, motion.linear() * base.x, motion.linear() * base.y,
                        motion.linear() * base.normal};
  const auto snapped = [](const Vec3& v) {
    Eigen::Index axis = 0;
    v.cwiseAbs().maxCoeff(&axis);
    const Vec3 unit = Vec3::Unit(axis) * (v[axis] > 0 ? 1 : -1);
    return v.dot(unit) > std::cos(3 / kDegrees) ? unit : v;
  };
  Placement result = moved;
  result.normal = snapped(moved.normal);
  result.x = snapped(moved.x);
  result.x = (result.x - result.x.dot(result.normal) * result.normal).normalized();
  result.y = result.normal.cross(result.x);
  double level = moved.origin.dot(result.normal);
  if (std::abs(level) < near) level = 0;
  result.origin = level * result.normal;
  return result;
}

/// Corners of triangles that belong to a surface: strays and islands are no extremes.
std::vector<Vec3> surveyed_points(const Document& document) {
  std::vector<Vec3> points;
  if (!document.scan || !document.survey) return points;
  const scan::Mesh& mesh = *document.scan->mesh;
  for (std::size_t t = 0; t < mesh.triangles.size(); t += 3) {
    const std::uint32_t region = document.survey->triangle_region[t];
    if (region != 0 && document.survey->regions[region - 1].fit)
      points.push_back(mesh.corner(t, 0));
  }
  return points;
}

}  // namespace

Result<datum::Frame> compute_frame(const Document& document, const DatumFrame& specification) {
  if (specification.upon) return specification.frame;
  datum::FrameInput input;
  const auto resolve = [&](const FitRef& ref, const char* role) -> Result<fit::Surface> {
    const fit::SurfaceFit* fit = document.fit_of(ref);
    if (fit == nullptr)
      return Error{ErrorCode::InvalidInput,
                   std::string("Pick a plane or an axis as ") + role + "."};
    return fit->surface;
  };
  const auto primary = resolve(specification.primary, "primary");
  if (!primary) return primary.error();
  input.primary = *primary;
  input.primary_axis = specification.primary_axis;
  input.secondary_axis = specification.secondary_axis;
  for (const FitRef& ref : specification.secondary) {
    const auto s = resolve(ref, "secondary");
    if (!s) return s.error();
    input.secondary.push_back(*s);
  }
  for (const FitRef& ref : specification.origin) {
    const auto s = resolve(ref, "origin");
    if (!s) return s.error();
    input.origin.push_back(*s);
  }
  std::vector<Vec3> outer;
  if (specification.extremes) {
    outer = surveyed_points(document);
    input.extremes = &outer;
  }
  return datum::frame_321(input);
}

namespace {

/// Moves paths and free-form faces of steps with the scan that they were read from.
class WithTheScan : public model::Description {
 public:
  explicit WithTheScan(const Transform& motion) : motion_(motion) {}
  void path(const char*, model::SpacePath& path) override {
    for (Vec3& corner : path.corners) corner = motion_ * corner;
  }
  void surface(const char*, std::shared_ptr<const patch::SplineSurface>& surface) override {
    if (surface == nullptr) return;
    auto moved = std::make_shared<patch::SplineSurface>(*surface);
    for (Vec3& pole : moved->poles) pole = motion_ * pole;
    surface = std::move(moved);
  }
  void surfaces(const char*, std::shared_ptr<const patch::SplineSurfaces>& surfaces) override {
    if (surfaces == nullptr) return;
    auto moved = std::make_shared<patch::SplineSurfaces>(*surfaces);
    for (patch::SplineSurface& surface : *moved)
      for (Vec3& pole : surface.poles) pole = motion_ * pole;
    surfaces = std::move(moved);
  }

 private:
  const Transform& motion_;
};

}  // namespace

Result<Document> set_frame(const Document& document, const DatumFrame& specification) {
  const auto frame = compute_frame(document, specification);
  if (!frame) return frame.error();
  Document next = document;
  auto datum = std::make_shared<DatumFrame>(specification);
  datum->frame = *frame;
  const Transform motion = frame->to_part * document.to_part().inverse();
  next.frame = std::move(datum);
  // A three hundredth of the part: a new frame that is nearly the old one.
  const double near = document.scan ? document.scan->health.box.diagonal().norm() / 300 : 0;
  for (auto& shared : next.sketches) {
    auto traced = std::make_shared<TracedSketch>(*shared);
    traced->base = reframed(shared->base, motion, near);
    for (sketch::Point& p : traced->sketch.points)
      p.at = traced->base.to_plane(motion * shared->base.to_space(p.at, shared->level));
    for (double& level : traced->more_levels)
      level = traced->base.level_of(motion * shared->base.shifted(level).origin);
    // A plane that was put onto a datum keeps its section at the same place of the scan.
    traced->level = traced->base.level_of(motion * shared->base.shifted(shared->level).origin);
    if (traced->on.datum >= 0 && traced->turn) {  // about a datum axis: it stays there
      traced->base = shared->base;
      traced->level = shared->level;
    }
    if (std::abs(traced->level - shared->level) < near) traced->level = shared->level;
    shared = std::move(traced);
  }
  // What follows the scan freely lies on it by itself.
  WithTheScan moved(motion);
  for (model::Step& step : next.steps) step.feature.describe(moved);
  return refresh(std::move(next));
}

Result<Document> set_frame_upon(const Document& document, const Transform& to_part,
                                const BroughtUpon& upon) {
  DatumFrame frame;
  frame.upon = upon;
  frame.frame.to_part = to_part;
  frame.frame.held_by = {"best fit to " + upon.model, "best fit", "best fit"};
  return set_frame(document, frame);
}

std::vector<ProposedFrame> propose_frames(const Document& document) {
  std::vector<ProposedFrame> result;
  if (!document.survey) return result;
  std::vector<datum::Found> found;
  std::vector<std::uint32_t> ids;
  for (const survey::Region& r : document.survey->regions) {
    if (!r.fit || r.triangles == 0) continue;
    found.push_back({r.fit->surface, r.area, r.centre, r.trust});
    ids.push_back(r.id);
  }
  for (const datum::Proposal& p : datum::propose_datums(found, surveyed_points(document))) {
    ProposedFrame proposed;
    DatumFrame& f = proposed.specification;
    f.primary = {ids[p.primary], 0};
    // A plane the part stands on looks down; an axis goes up.
    const bool plane = fit::is_flat(found[p.primary].surface.kind);
    f.primary_axis = plane ? datum::Axis::MinusZ : datum::Axis::Z;
    for (const std::size_t i : p.secondary) f.secondary.push_back({ids[i], 0});
    f.secondary_axis = p.secondary.size() == 1 && fit::is_flat(found[p.secondary[0]].surface.kind)
                           ? datum::Axis::MinusX
                           : datum::Axis::X;
    for (const std::size_t i : p.origin) f.origin.push_back({ids[i], 0});
    f.extremes = p.extremes;
    proposed.reason = p.reason;
    const auto frame = compute_frame(document, f);
    if (!frame) continue;
    f.frame = *frame;
    result.push_back(std::move(proposed));
  }
  return result;
}

const char* construction_name(Construction::Type type) {
  switch (type) {
    case Construction::Type::Midplane:
      return "midplane";
    case Construction::Type::AxisOfTwo:
      return "axis of two";
    case Construction::Type::CommonAxis:
      return "common axis";
    case Construction::Type::BoltCircle:
      return "bolt circle";
    case Construction::Type::Intersection:
      return "intersection";
    case Construction::Type::Symmetry:
      return "symmetry plane";
    case Construction::Type::Targets:
      return "datum targets";
  }
  return "";
}

Result<fit::SurfaceFit> construct(const Document& document, const Construction& construction) {
  std::vector<fit::SurfaceFit> fits;
  for (const FitRef& ref : construction.from) {
    const fit::SurfaceFit* f = document.fit_of(ref);
    if (f == nullptr)
      return Error{ErrorCode::InvalidInput, document.name_of(ref) + " has no surface."};
    fits.push_back(*f);
  }
  const auto need = [&](std::size_t count) -> Status {
    if (fits.size() >= count) return Done{};
    return Error{ErrorCode::InvalidInput, "Pick " + std::to_string(count) + " features for the " +
                                              construction_name(construction.type) + "."};
  };
  switch (construction.type) {
    case Construction::Type::Midplane:
      if (const Status s = need(2); !s) return s.error();
      return datum::midplane(fits[0], fits[1]);
    case Construction::Type::AxisOfTwo:
      if (const Status s = need(2); !s) return s.error();
      return datum::axis_of_two(fits[0], fits[1], fits.size() > 2 ? &fits[2] : nullptr);
    case Construction::Type::CommonAxis:
      return datum::common_axis(fits);
    case Construction::Type::BoltCircle:
      return datum::bolt_circle(fits);
    case Construction::Type::Intersection:
      return datum::intersection(fits);
    case Construction::Type::Symmetry:
    case Construction::Type::Targets:
      return Error{ErrorCode::InvalidInput, "This feature is found on the scan, not constructed."};
  }
  return Error{ErrorCode::InvalidInput, "There is no such construction."};
}

namespace {

Added keep(Document document, Fit fit) {
  fit.id = document.next_id++;
  fit.triangles = std::make_shared<const std::vector<std::uint32_t>>();
  const Id id = fit.id;
  document.fits.push_back(std::make_shared<const Fit>(std::move(fit)));
  return {std::move(document), id};
}

std::string numbered(const Document& document, const char* name) {
  return std::string(name) + " F" + std::to_string(document.fits.size() + 1);
}

}  // namespace

Result<Added> add_construction(const Document& document, Construction construction) {
  const auto made = construct(document, construction);
  if (!made) return made.error();
  Document next = document;
  for (FitRef& ref : construction.from) {
    if (ref.region != 0) ref = keep_region(next, ref.region);
  }
  Fit fit;
  fit.name = numbered(next, construction_name(construction.type));
  fit.result = fit.alone = *made;
  fit.construction = std::move(construction);
  return keep(std::move(next), std::move(fit));
}

Added add_symmetry(const Document& document, const fit::SurfaceFit& plane) {
  Fit fit;
  fit.name = numbered(document, construction_name(Construction::Type::Symmetry));
  fit.result = fit.alone = plane;
  fit.construction = Construction{Construction::Type::Symmetry, {}};
  return keep(document, std::move(fit));
}

Result<Document> set_frame_on_targets(const Document& document,
                                      const std::array<datum::TargetPoint, 6>& targets,
                                      datum::Axis primary, datum::Axis secondary) {
  const auto planes = datum::planes_of_targets(targets);
  if (!planes) return planes.error();
  Document next = document;
  DatumFrame frame;
  frame.primary_axis = primary;
  frame.secondary_axis = secondary;
  constexpr std::array<std::size_t, 4> kFirst{0, 3, 5, 6};
  for (std::size_t k = 0; k < 3; ++k) {
    Fit fit;
    fit.name = std::string("targets ") + "ABC"[k] + " F" + std::to_string(next.fits.size() + 1);
    fit.result = fit.alone = (*planes)[k];
    for (std::size_t i = kFirst[k]; i < kFirst[k + 1]; ++i) fit.points.push_back(targets[i].point);
    fit.construction = Construction{Construction::Type::Targets, {}};
    Added added = keep(std::move(next), std::move(fit));
    next = std::move(added.document);
    const FitRef ref{0, added.id};
    if (k == 0) {
      frame.primary = ref;
    } else {
      if (k == 1) frame.secondary = {ref};
      frame.origin.push_back(ref);
    }
  }
  return set_frame(next, frame);
}

void follow_constructions(Document& document) {
  for (auto& shared : document.fits) {
    if (!shared->construction || shared->construction->type == Construction::Type::Symmetry ||
        shared->construction->type == Construction::Type::Targets)
      continue;
    const auto made = construct(document, *shared->construction);
    if (!made) continue;  // it keeps what it was
    auto changed = std::make_shared<Fit>(*shared);
    changed->result = changed->alone = *made;
    shared = std::move(changed);
  }
}

Result<Document> set_finish(const Document& document, const std::vector<std::uint32_t>& regions,
                            survey::Finish finish) {
  if (!document.survey) return Error{ErrorCode::NotFound, "There is no survey yet."};
  auto survey = std::make_shared<survey::Survey>(*document.survey);
  for (const std::uint32_t id : regions) {
    if (id == 0 || id > survey->regions.size())
      return Error{ErrorCode::NotFound, "There is no region " + std::to_string(id) + "."};
    survey::Region& r = survey->regions[id - 1];
    r.finish = finish;
    r.finish_by_hand = true;
    r.trust = r.fit ? survey::trust_of(finish) : 0.1;
  }
  Document next = document;
  next.survey = std::move(survey);
  return next;
}

}  // namespace lostline::project
