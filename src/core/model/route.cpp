#include "model/route.h"

#include <mutex>
#include <unordered_map>

#include "base/hash.h"
#include "base/linear.h"
#include "model/model_impl.h"

namespace lostline::model {
namespace {

void add(Hash& hash, const Vec3& v) { hash.add(v.x()).add(v.y()).add(v.z()); }

void add(Hash& hash, const Reference& reference) {
  hash.add(reference.datum)
      .add(std::string_view(reference.face))
      .add(reference.fit)
      .add(reference.region);
  if (!reference.surface) return;
  const fit::Surface& s = *reference.surface;
  add(hash, s.point);
  add(hash, s.axis);
  hash.add(s.kind).add(s.radius).add(s.half_angle).add(s.hollow);
}

void add(Hash& hash, const PlacedSketch& placed) {
  add(hash, placed.base.origin);
  add(hash, placed.base.x);
  add(hash, placed.base.normal);
  hash.add(placed.section_level).add(std::string_view(placed.face));
  for (const sketch::Point& p : placed.sketch.points)
    hash.add(p.id).add(p.at.x()).add(p.at.y()).add(p.own);
  for (const sketch::Entity& e : placed.sketch.entities) {
    hash.add(e.id).add(e.type).add(e.a).add(e.b).add(e.centre).add(e.radius);
    for (const sketch::Id pole : e.poles) hash.add(pole);
    for (const double knot : e.knots) hash.add(knot);
    hash.add(e.construction);
  }
  for (const sketch::Constraint& c : placed.sketch.constraints) {
    if (c.type == sketch::ConstraintType::Coincident)
      hash.add(c.first).add(c.second);  // closes loops
  }
}

/// What a step depends on besides the solid before it.
class Content : public Description {
 public:
  Content(Hash& hash, const Step& step, const Setting& setting)
      : hash_(hash), step_(step), setting_(setting) {
    hash.add(step.id).add(std::string_view(step.feature.kind().key));
    step.feature.describe(*this);
  }
  void number(const NumberInfo& info, Quantity& q) override {
    if (info.in_force) hash_.add(std::string_view(info.name)).add(q.value);
  }
  void count(const CountInfo&, int& n) override { hash_.add(n); }
  void flag(const char*, bool& on) override { hash_.add(on); }
  void reference(const ReferenceInfo& info, Reference& reference) override {
    if (info.in_force) add(hash_, reference);
  }
  void sketches(const SketchesInfo&, std::vector<Id>& ids) override {
    hash_.add(ids.size());
    for (Id& id : ids) {
      hash_.add(id);
      sketch("", id);
    }
  }
  void path(const char*, SpacePath& path) override {
    hash_.add(path.corners.size());
    for (const Vec3& corner : path.corners) add(hash_, corner);
    for (const double bend : path.bends) hash_.add(bend);
  }
  void surface(const char*, std::shared_ptr<const patch::SplineSurface>& surface) override {
    hash_.add(surface != nullptr);
    if (surface != nullptr) add_face(*surface);
  }
  void surfaces(const char*, std::shared_ptr<const patch::SplineSurfaces>& surfaces) override {
    hash_.add(surfaces == nullptr ? 0 : surfaces->size());
    if (surfaces == nullptr) return;
    for (const patch::SplineSurface& surface : *surfaces) add_face(surface);
  }
  void sketch(const char*, Id& id) override {
    const auto it = setting_.sketches.find(id);
    hash_.add(it != setting_.sketches.end());
    if (it != setting_.sketches.end()) add(hash_, it->second);
  }
  void curves(const char*, std::vector<sketch::Id>& ids) override {
    hash_.add(ids.size());
    for (const sketch::Id id : ids) hash_.add(id);
  }
  void curve(const char*, sketch::Id& id) override { hash_.add(id); }
  void areas(const char*, std::vector<Vec2>& areas) override {
    hash_.add(areas.size());
    for (const Vec2& p : areas) hash_.add(p.x()).add(p.y());
  }
  void edges(const char*, std::vector<EdgeRef>& edges) override {
    hash_.add(edges.size());
    for (const EdgeRef& edge : edges) {
      hash_.add(std::string_view(edge.face_a)).add(std::string_view(edge.face_b));
      add(hash_, edge.near);
    }
  }
  void faces(const char*, std::vector<std::string>& faces) override {
    hash_.add(faces.size());
    for (const std::string& face : faces) hash_.add(std::string_view(face));
  }
  void bodies(const BodiesInfo&, std::vector<std::string>& bodies) override {
    hash_.add(bodies.size());
    for (const std::string& body : bodies) hash_.add(std::string_view(body));
  }
  void imported(const char*, std::shared_ptr<const Imported>& imported) override {
    hash_.add(imported ? imported->hash : 0);
  }
  void step(const char*, Id& id) override {
    hash_.add(id);
    for (const Step& s : setting_.steps) {
      if (s.id == step_.id) break;
      if (s.id == id && id != 0) Content(hash_, s, setting_);
    }
  }

 private:
  void choose(const ChoiceInfo&, int& value) override { hash_.add(value); }
  void add_face(const patch::SplineSurface& surface) {
    hash_.add(surface.nu).add(surface.nv);
    for (const Vec3& pole : surface.poles) add(hash_, pole);
    for (const double knot : surface.u_knots) hash_.add(knot);
    for (const double knot : surface.v_knots) hash_.add(knot);
  }
  Hash& hash_;
  const Step& step_;
  const Setting& setting_;
};

/// A sketch's base put onto the face it lies on, turned and shifted as little as possible.
Result<Placement> on_face(const PlacedSketch& placed, const Model& before) {
  Reference reference;
  reference.face = placed.face;
  const auto face = resolve(reference, before);
  if (!face) return face.error();
  if (!fit::is_flat(face->kind)) return placed.base;
  const Vec3 normal = face->axis.dot(placed.base.normal) < 0 ? Vec3(-face->axis) : face->axis;
  const Eigen::Matrix3d turn = rotation_onto(placed.base.normal, normal);
  Placement base{placed.base.origin, turn * placed.base.x, turn * placed.base.y, normal};
  base.origin += normal * (face->point - base.origin).dot(normal);
  return base;
}

}  // namespace

struct RouteCache::Impl {
  std::mutex mutex;
  std::unordered_map<std::uint64_t, StepResult> results;
};

RouteCache::RouteCache() : impl_(std::make_unique<Impl>()) {}
RouteCache::~RouteCache() = default;

std::uint64_t content_key(const Step& step, const Setting& setting) {
  Hash hash;
  Content(hash, step, setting);
  return hash.value();
}

const char* state_name(StepState state) {
  switch (state) {
    case StepState::Sound:
      return "sound";
    case StepState::Stale:
      return "stale";
    case StepState::Broken:
      return "broken";
    case StepState::Parked:
      return "parked";
  }
  return "";
}

Result<std::vector<StepResult>> recompute(const std::vector<Step>& steps,
                                          const std::map<Id, PlacedSketch>& sketches,
                                          RouteCache& cache, const Task& task) {
  std::vector<StepResult> results;
  std::map<Id, Model> before_step;
  const Setting setting{sketches, steps, &before_step};
  std::uint64_t key = 0;
  Model solid;
  for (std::size_t i = 0; i < steps.size(); ++i) {
    if (task.stopped()) return cancelled();
    task.report(static_cast<double>(i) / static_cast<double>(steps.size()));
    const Step& step = steps[i];
    before_step[step.id] = solid;
    if (step.parked) {
      results.push_back({StepState::Parked, {}, solid});
      continue;
    }
    const std::uint64_t step_key = Hash().add(key).add(content_key(step, setting)).value();
    StepResult result;
    bool known = false;
    {
      const std::scoped_lock lock(cache.impl().mutex);
      const auto it = cache.impl().results.find(step_key);
      if (it != cache.impl().results.end()) {
        result = it->second;
        known = true;
      }
    }
    if (!known) {
      Result<Model> made = apply_feature(step, setting, solid);
      result = made ? StepResult{StepState::Sound, {}, *made}
                    : StepResult{StepState::Broken, made.error().message, solid};
      const std::scoped_lock lock(cache.impl().mutex);
      if (cache.impl().results.size() > 400)
        cache.impl().results.clear();  // bounds the memory of a long session
      cache.impl().results[step_key] = result;
    }
    // What follows a broken step stands on the solid before it.
    if (result.state == StepState::Sound) key = step_key;
    solid = result.solid;
    results.push_back(std::move(result));
  }
  task.report(1.0);
  return results;
}

Result<Model> apply_feature(const Step& step, const Setting& given, const Model& before) {
  std::map<Id, PlacedSketch> sketches = given.sketches;
  for (auto& [id, placed] : sketches) {
    if (placed.face.empty()) continue;
    // A sketch whose face comes later in the Route is none of this step's.
    if (const auto base = on_face(placed, before)) placed.base = *base;
  }
  const Setting setting{sketches, given.steps, given.before_step};
  return guarded("The " + step.feature.words() + " " + step.name, [&]() -> Result<Model> {
    const Model own = private_copy(before);
    Result<Model> result = step.feature.kind().build(step.feature, {step, setting, own, own});
    if (result && !result->valid())
      return Error{ErrorCode::Failed,
                   "The result is not sound geometry. Change the values of this step."};
    return result;
  });
}

}  // namespace lostline::model
