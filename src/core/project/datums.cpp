#include "project/datums.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "datum/construct.h"
#include "datum/propose.h"
#include "model/steps/import/import.h"
#include "project/model_target.h"
#include "project/relations.h"
#include "project/sketch_plane.h"
#include "survey/finish.h"

namespace lostline::project {
namespace {

/// Directions nearer than this to those of a new frame are taken for them (common practice, no
/// source).
constexpr double kSnap = 3 * kDegree;

/// Whether a constraint holds something to the origin or an axis of the sketch's plane.
bool names_axes(const sketch::Sketch& sketch) {
  const auto own = [](sketch::Id id) {
    return id == sketch::kOrigin || id == sketch::kXAxis || id == sketch::kYAxis;
  };
  return std::any_of(sketch.constraints.begin(), sketch.constraints.end(),
                     [&](const auto& c) { return own(c.first) || own(c.second) || own(c.third); });
}

/// Where a sketch plane comes to lie after the part frame has moved by `motion`: on a datum
/// direction where it nearly is, and within `near` mm of the datum plane (common practice, no
/// source). Its origin is put where that of the datum is seen, unless something in the sketch is
/// held to the origin or an axis: then it stays what it was held to.
Placement reframed(const TracedSketch& sketch, const Transform& motion, double near) {
  const Placement& base = sketch.base;
  const Placement moved{motion * base.origin, motion.linear() * base.x, motion.linear() * base.y,
                        motion.linear() * base.normal};
  const auto snapped = [](const Vec3& v) {
    Eigen::Index axis = 0;
    v.cwiseAbs().maxCoeff(&axis);
    const Vec3 unit = Vec3::Unit(axis) * (v[axis] > 0 ? 1 : -1);
    return v.dot(unit) > std::cos(kSnap) ? unit : v;
  };
  Placement result = moved;
  result.normal = snapped(moved.normal);
  result.x = snapped(moved.x);
  result.x = (result.x - result.x.dot(result.normal) * result.normal).normalized();
  result.y = result.normal.cross(result.x);
  double level = moved.origin.dot(result.normal);
  if (std::abs(level) < near) level = 0;
  result.origin = level * result.normal;
  const Vec3 aside = moved.origin - moved.origin.dot(result.normal) * result.normal;
  if (aside.norm() > near && names_axes(sketch.sketch)) result.origin += aside;
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

/// Moves what has a place or a direction in steps, where a datum frame is set anew. Everything that
/// a kind of step describes says here how it follows.
class WithTheFrame : public model::Description {
 public:
  /// @param motion  from the former part coordinates to the new ones.
  /// @param near    mm, a place that is taken for the same.
  WithTheFrame(const Transform& motion, double near, const Document& before, const Document& after)
      : motion_(motion), near_(near), before_(before), after_(after) {}

  // Sizes, and places along what moves by itself: the sketch's plane, a face, the step's own frame.
  void number(const model::NumberInfo&, model::Quantity&) override {}
  void count(const model::CountInfo&, int&) override {}
  void flag(const char*, bool&) override {}
  /// A datum stays what it is called where the new frame has it at the same place.
  void reference(const model::ReferenceInfo&, model::Reference& reference) override {
    if (reference.datum < 0) return;  // faces, fits and regions are found again by their names
    fit::Surface datum;
    datum.axis = Vec3::Unit(reference.datum % 3);
    const fit::Surface was =
        fit::transformed(reference.surface ? *reference.surface : datum, motion_);
    // An axis may shift along itself, a plane within itself: which of both is meant is not told.
    const bool same = was.axis.dot(datum.axis) > std::cos(kSnap) && was.point.norm() < near_;
    reference.surface = same ? std::nullopt : std::optional(was);
  }
  void sketch(const char*, model::Id& id) override { sketch_ = id; }
  void sketches(const model::SketchesInfo&, std::vector<model::Id>& ids) override {
    sketch_ = ids.empty() ? 0 : ids.front();
  }
  void curves(const char*, std::vector<sketch::Id>&) override {}
  void curve(const char*, sketch::Id&) override {}
  void areas(const char*, std::vector<Vec2>& areas) override {
    const TracedSketch* was = before_.find_sketch(sketch_);
    const TracedSketch* is = after_.find_sketch(sketch_);
    if (was == nullptr || is == nullptr) return;
    for (Vec2& p : areas) p = is->base.to_plane(motion_ * was->base.to_space(p, was->level));
  }
  void edges(const char*, std::vector<model::EdgeRef>& edges) override {
    for (model::EdgeRef& edge : edges)
      if (!stays(edge.face_a) && !stays(edge.face_b)) edge.near = motion_ * edge.near;
  }
  void faces(const char*, std::vector<std::string>&) override {}
  void bodies(const model::BodiesInfo&, std::vector<std::string>&) override {}
  void imported(const char*, std::shared_ptr<const model::Imported>&) override {}
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
  void step(const char*, model::Id&) override {}
  /// A model that the scan was brought upon is where the frame is: it and what is done to whole
  /// bodies stay.
  void place(const char*, Transform& place) override {
    if (upon_model()) return;
    place = motion_ * place;
    const bool same =
        Eigen::AngleAxisd(place.linear()).angle() < kSnap && place.translation().norm() < near_;
    if (same) place.setIdentity();
  }

 private:
  void choose(const model::ChoiceInfo&, int&) override {}
  [[nodiscard]] bool upon_model() const { return after_.frame && after_.frame->upon; }
  /// A face of such a model.
  [[nodiscard]] bool stays(const std::string& face) const {
    if (!upon_model() || face.size() < 2 || face.front() != 's') return false;
    const model::Step* step = before_.find_step(std::strtoull(face.c_str() + 1, nullptr, 10));
    return step != nullptr && step->feature.as<model::Import>() != nullptr;
  }
  const Transform& motion_;
  const double near_;
  const Document& before_;
  const Document& after_;
  Id sketch_ = 0;
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
    traced->base = reframed(*shared, motion, near);
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
  WithTheFrame moved(motion, near, document, next);
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
