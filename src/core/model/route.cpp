#include "model/route.h"

#include <mutex>
#include <unordered_map>

#include "base/hash.h"

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

void add(Hash& hash, const std::vector<EdgeRef>& edges) {
  for (const EdgeRef& edge : edges) {
    hash.add(std::string_view(edge.face_a)).add(std::string_view(edge.face_b));
    add(hash, edge.near);
  }
}

void add(Hash& hash, const PlacedSketch& placed) {
  add(hash, placed.base.origin);
  add(hash, placed.base.x);
  add(hash, placed.base.normal);
  hash.add(placed.section_level).add(std::string_view(placed.face));
  for (const sketch::Point& p : placed.sketch.points) hash.add(p.id).add(p.at.x()).add(p.at.y());
  for (const sketch::Entity& e : placed.sketch.entities)
    hash.add(e.id).add(e.type).add(e.a).add(e.b).add(e.centre).add(e.radius);
  for (const sketch::Constraint& c : placed.sketch.constraints) {
    if (c.type == sketch::ConstraintType::Coincident)
      hash.add(c.first).add(c.second);  // closes loops
  }
}

/// What a step depends on besides the solid before it.
void add_content(Hash& hash, const Step& step, const Setting& setting) {
  hash.add(step.id).add(step.feature.index());
  Feature feature = step.feature;
  for (const Field& field : fields_of(feature))
    hash.add(std::string_view(field.name)).add(field.quantity->value);
  const auto add_sketch = [&](Id id, const std::vector<sketch::Id>& chosen) {
    const auto it = setting.sketches.find(id);
    hash.add(it != setting.sketches.end());
    if (it != setting.sketches.end()) add(hash, it->second);
    for (const sketch::Id entity : chosen) hash.add(entity);
  };
  const auto add_extent = [&](const Extent& extent) {
    hash.add(extent.reach);
    if (extent.reach == Reach::UpTo) add(hash, extent.target);
  };
  const auto add_source = [&](Id source) {
    hash.add(source);
    for (const Step& s : setting.steps) {
      if (s.id == step.id) break;
      if (s.id == source && source != 0) add_content(hash, s, setting);
    }
  };
  if (const auto* e = std::get_if<Extrude>(&feature)) {
    add_sketch(e->sketch, e->loops);
    for (const Vec2& p : e->areas) hash.add(p.x()).add(p.y());
    hash.add(e->operation);
    add_extent(e->extent);
  } else if (const auto* r = std::get_if<Revolve>(&feature)) {
    add_sketch(r->sketch, r->loops);
    for (const Vec2& p : r->areas) hash.add(p.x()).add(p.y());
    hash.add(r->operation).add(r->axis).add(r->both_ways);
  } else if (const auto* h = std::get_if<Hole>(&feature)) {
    add_sketch(h->sketch, h->circles);
    add_extent(h->extent);
  } else if (const auto* f = std::get_if<Fillet>(&feature)) {
    add(hash, f->edges);
  } else if (const auto* c = std::get_if<Chamfer>(&feature)) {
    add(hash, c->edges);
  } else if (const auto* p = std::get_if<Pattern>(&feature)) {
    hash.add(p->kind).add(p->count);
    add(hash, p->direction);
    add_source(p->source);
  } else if (const auto* m = std::get_if<Mirror>(&feature)) {
    add(hash, m->plane);
    add_source(m->source);
  }
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
  const Setting setting{sketches, steps};
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
    Hash hash;
    hash.add(key);
    add_content(hash, step, setting);
    const std::uint64_t step_key = hash.value();
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
      Result<Solid> made = apply_feature(step, setting, solid);
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
