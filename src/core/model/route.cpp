#include "model/route.h"

#include <mutex>
#include <unordered_map>

#include "base/hash.h"

namespace lostline::model {
namespace {

void add(Hash& hash, const Vec3& v) { hash.add(v.x()).add(v.y()).add(v.z()); }

void add(Hash& hash, const Extent& extent) {
  hash.add(extent.through);
  if (!extent.through) hash.add(extent.from.value).add(extent.to.value);
}

void add(Hash& hash, const PlacedSketch& placed) {
  add(hash, placed.base.origin);
  add(hash, placed.base.x);
  add(hash, placed.base.normal);
  hash.add(placed.section_level);
  for (const sketch::Point& p : placed.sketch.points) hash.add(p.id).add(p.at.x()).add(p.at.y());
  for (const sketch::Entity& e : placed.sketch.entities)
    hash.add(e.id).add(e.type).add(e.a).add(e.b).add(e.centre).add(e.radius);
  for (const sketch::Constraint& c : placed.sketch.constraints) {
    if (c.type == sketch::ConstraintType::Coincident)
      hash.add(c.first).add(c.second);  // closes loops
  }
}

std::uint64_t key_of(const Step& step, const std::map<Id, PlacedSketch>& sketches,
                     std::uint64_t before) {
  Hash hash;
  hash.add(before).add(step.id).add(step.feature.index());
  const auto add_sketch = [&](Id id) {
    const auto it = sketches.find(id);
    hash.add(it != sketches.end());
    if (it != sketches.end()) add(hash, it->second);
  };
  if (const auto* e = std::get_if<Extrude>(&step.feature)) {
    add_sketch(e->sketch);
    for (const sketch::Id id : e->loops) hash.add(id);
    hash.add(e->operation).add(e->draft.value);
    add(hash, e->extent);
  } else if (const auto* h = std::get_if<Hole>(&step.feature)) {
    add_sketch(h->sketch);
    for (const sketch::Id id : h->circles) hash.add(id);
    hash.add(h->diameter.value);
    add(hash, h->extent);
  } else if (const auto* f = std::get_if<Fillet>(&step.feature)) {
    for (const EdgeRef& edge : f->edges) {
      hash.add(std::string_view(edge.face_a)).add(std::string_view(edge.face_b));
      add(hash, edge.near);
    }
    hash.add(f->radius.value);
  }
  return hash.value();
}

}  // namespace

struct RouteCache::Impl {
  std::mutex mutex;
  std::unordered_map<std::uint64_t, StepResult> results;
};

RouteCache::RouteCache() : impl_(std::make_unique<Impl>()) {}
RouteCache::~RouteCache() = default;

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
  std::uint64_t key = 0;
  Solid solid;
  for (std::size_t i = 0; i < steps.size(); ++i) {
    if (task.stopped()) return cancelled();
    task.report(static_cast<double>(i) / static_cast<double>(steps.size()));
    const Step& step = steps[i];
    if (step.parked) {
      results.push_back({StepState::Parked, {}, solid});
      continue;
    }
    const std::uint64_t step_key = key_of(step, sketches, key);
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
      Result<Solid> made = apply_feature(step, sketches, solid);
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

}  // namespace lostline::model
