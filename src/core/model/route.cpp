#include "model/route.h"

#include <limits>
#include <mutex>
#include <optional>
#include <set>
#include <unordered_map>

#include "base/hash.h"
#include "model/apart/kernel_process.h"
#include "model/apart/steps_apart.h"
#include "model/model_impl.h"
#include "model/side_by_side.h"
#include "model/tool_body.h"

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
  add(hash, s.major);
  hash.add(s.kind).add(s.radius).add(s.minor_radius).add(s.half_angle).add(s.hollow);
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
  void place(const char*, Transform& place) override {
    for (Eigen::Index column = 0; column < 4; ++column) add(hash_, place.affine().col(column));
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

}  // namespace

struct RouteCache::Impl {
  std::mutex mutex;
  std::unordered_map<std::uint64_t, StepResult> results;
  std::pair<std::uint64_t, StepResult> trial;  ///< beside them: hundreds are made in a drag

  /// With the mutex locked; null where it is not known.
  const StepResult* find(std::uint64_t key) const {
    if (trial.first == key && trial.second.state != StepState::Stale) return &trial.second;
    const auto it = results.find(key);
    return it == results.end() ? nullptr : &it->second;
  }
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

namespace {

/// The way through the steps of one call.
class Way {
 public:
  Way(const std::vector<Step>& steps, const std::map<Id, PlacedSketch>& sketches,
      RouteCache::Impl& cache, const Wanted& wanted, const Task& task)
      : steps_(steps),
        setting_{sketches, steps, &before_step_, task},
        cache_(cache),
        wanted_(wanted),
        task_(task) {
    std::set<Id> known = wanted.before;
    for (const Step& step : steps) known.insert(uses_of(step.feature).step);
    for (const Step& step : steps) {
      contents_.push_back(step.parked ? 0 : content_key(step, setting_));
      begins_.push_back(wanted.every || known.contains(step.id));
    }
  }

  [[nodiscard]] std::size_t done() const { return results_.size(); }
  std::vector<StepResult> take() { return std::move(results_); }

  /// One step or several; none when the task is stopped meanwhile.
  void go_on() {
    const std::size_t i = done();
    const auto share = [&](std::size_t k) {
      return static_cast<double>(k) / static_cast<double>(steps_.size());
    };
    setting_.task = task_.part(share(i), share(i + 1));
    before_step_[steps_[i].id] = model_;
    if (steps_[i].parked) return results_.push_back({StepState::Parked, {}, model_});
    if (const auto known = furthest_known(i)) return go_to(known->end, known->key, known->result);
    if (!wanted_.every) {
      const SideBySide made = make_side_by_side(setting_, i, begins_, most_, model_);
      if (made.model) {
        most_ = 2 * std::max(most_ / 2, made.steps);
        std::uint64_t key = key_;
        for (std::size_t k = i; k < made.end; ++k) key = key_behind(key, k);
        return go_to(made.end, key, keep(key, {StepState::Sound, {}, *made.model}));
      }
      // Half as many may do; one that does not is found in the end.
      if (made.steps > 1) {
        most_ = made.steps / 2;
        if (most_ > 1) return;
      }
      most_ = std::max<std::size_t>(most_, 2);
    }
    const Result<Model> made = apply_feature(steps_[i], setting_, model_);
    if (!made && task_.stopped()) return;  // what it says is not the step's
    const std::uint64_t key = key_behind(key_, i);
    go_to(i + 1, key,
          keep(key, made ? StepResult{StepState::Sound, {}, *made}
                         : StepResult{StepState::Broken, made.error().message, model_}));
  }

 private:
  struct Known {
    std::size_t end;
    std::uint64_t key;
    StepResult result;
  };

  [[nodiscard]] std::uint64_t key_behind(std::uint64_t key, std::size_t i) const {
    return steps_[i].parked ? key : Hash().add(key).add(contents_[i]).value();
  }

  /// The last step from `first` on whose result is known and up to which no model is wanted. A
  /// result that is known by the keys of all steps between says that these are sound.
  std::optional<Known> furthest_known(std::size_t first) {
    std::optional<Known> furthest;
    const std::scoped_lock lock(cache_.mutex);
    std::uint64_t key = key_;
    for (std::size_t i = first; i < steps_.size() && (i == first || !begins_[i]); ++i) {
      if (steps_[i].parked) continue;
      key = key_behind(key, i);
      const StepResult* result = cache_.find(key);
      if (result == nullptr) continue;
      if (i == first || result->state == StepState::Sound) furthest = {i + 1, key, *result};
    }
    return furthest;
  }

  StepResult keep(std::uint64_t key, StepResult result) {
    const std::scoped_lock lock(cache_.mutex);
    if (wanted_.on_trial && done() + 1 == steps_.size()) {
      cache_.trial = {key, result};
      return result;
    }
    if (cache_.results.size() > 400) cache_.results.clear();  // bounds a long session's memory
    cache_.results[key] = result;
    return result;
  }

  /// The steps up to `end` are done; the model after the last is known.
  void go_to(std::size_t end, std::uint64_t key, const StepResult& result) {
    while (done() + 1 < end) {
      const bool parked = steps_[done()].parked;
      results_.push_back({parked ? StepState::Parked : StepState::Sound, {}, {}, false});
    }
    results_.push_back(result);
    // What follows a broken step stands on the model before it.
    if (result.state == StepState::Sound) key_ = key;
    model_ = result.solid;
  }

  const std::vector<Step>& steps_;
  std::map<Id, Model> before_step_;
  Setting setting_;
  RouteCache::Impl& cache_;
  const Wanted& wanted_;
  const Task& task_;
  std::vector<std::uint64_t> contents_;
  std::vector<bool> begins_;  ///< the model before the step has to be known
  std::vector<StepResult> results_;
  Model model_;
  std::uint64_t key_ = 0;
  std::size_t most_ = std::numeric_limits<std::size_t>::max();  ///< steps tried in one go
};

}  // namespace

Result<std::vector<StepResult>> recompute(const std::vector<Step>& steps,
                                          const std::map<Id, PlacedSketch>& sketches,
                                          RouteCache& cache, const Task& task,
                                          const Wanted& wanted) {
  Way way(steps, sketches, cache.impl(), wanted, task);
  while (way.done() < steps.size()) {
    if (task.stopped()) return cancelled();
    task.report(static_cast<double>(way.done()) / static_cast<double>(steps.size()));
    way.go_on();
  }
  task.report(1.0);
  return way.take();
}

Result<Model> apply_feature(const Step& step, const Setting& setting, const Model& before) {
  return has_kernel_process() ? apply_apart(step, setting, before)
                              : apply_here(step, setting, before);
}

Result<Model> apply_here(const Step& step, const Setting& given, const Model& before) {
  const auto sketches = placed_on(given.sketches, before);
  const Setting setting{sketches, given.steps, given.before_step, given.task};
  return guarded(title_of(step), [&]() -> Result<Model> {
    const Model own = private_copy(before);
    Result<Model> result = step.feature.kind().build(step.feature, {step, setting, own, own});
    if (result && !still_valid(*result, own))
      return Error{ErrorCode::Failed,
                   "The result is not sound geometry. Change the values of this step."};
    return result;
  });
}

}  // namespace lostline::model
