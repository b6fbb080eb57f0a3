#pragma once

#include <map>
#include <memory>
#include <string>
#include <variant>
#include <vector>

#include "base/task.h"
#include "model/solid.h"
#include "sketch/sketch.h"

namespace lostline::model {

using Id = std::uint64_t;

/// A number of a feature: the value in force and the Ledger row it belongs to.
struct Quantity {
  double value = 0;  ///< mm or rad
  Id dimension = 0;
  bool operator==(const Quantity&) const = default;
};

enum class Operation { Add, Cut };

/// Levels along the normal of the sketch's base plane between which a profile or hole extends.
struct Extent {
  Quantity from;
  Quantity to;
  bool through = false;  ///< through everything there is; `from` and `to` are not looked at
  bool operator==(const Extent&) const = default;
};

struct Extrude {
  Id sketch = 0;
  std::vector<sketch::Id> loops;  ///< one entity of each loop used; empty: all, inner ones as holes
  Operation operation = Operation::Add;
  Extent extent;
  Quantity draft;  ///< rad, narrowing towards `to`; neutral where the section was taken
  bool operator==(const Extrude&) const = default;
};

struct Hole {
  Id sketch = 0;
  std::vector<sketch::Id> circles;
  Quantity diameter;
  Extent extent{{}, {}, true};
  bool operator==(const Hole&) const = default;
};

struct Fillet {
  std::vector<EdgeRef> edges;
  Quantity radius;
  bool operator==(const Fillet&) const = default;
};

using Feature = std::variant<Extrude, Hole, Fillet>;
const char* feature_name(const Feature& feature);  ///< "extrude", "cut", "hole", "fillet"

struct Step {
  Id id = 0;
  int number = 0;  ///< 10, 20, 30 …
  std::string name;
  bool parked = false;
  Feature feature;
};

/// A sketch where a step finds it.
struct PlacedSketch {
  sketch::Sketch sketch;
  Placement base;            ///< plane of the levels
  double section_level = 0;  ///< where the section was taken, neutral for draft
};

enum class StepState { Sound, Stale, Broken, Parked };
const char* state_name(StepState state);

struct StepResult {
  StepState state = StepState::Stale;
  std::string reason;  ///< of a broken step: what, why and what to do
  Solid solid;         ///< after this step; that before it when broken or parked
};

/// Results by content: a step is computed again only when its parameters, its sketch or a step
/// before it changed.
class RouteCache {
 public:
  RouteCache();
  ~RouteCache();
  struct Impl;
  Impl& impl() { return *impl_; }

 private:
  std::unique_ptr<Impl> impl_;
};

/// Computes all steps in order. A broken step says why and is passed over; the rest stands.
/// @errors Cancelled.
/// Thread-safe for different caches.
Result<std::vector<StepResult>> recompute(const std::vector<Step>& steps,
                                          const std::map<Id, PlacedSketch>& sketches,
                                          RouteCache& cache, const Task& task = {});

/// The solid of one feature on top of `before`.
/// @errors Degenerate  the profile is open or empty;  NotFound  a sketch, loop or edge is gone;
/// InvalidInput  a number makes no sense;
///         Failed  the geometry is impossible: the message says what would work.
Result<Solid> apply_feature(const Step& step, const std::map<Id, PlacedSketch>& sketches,
                            const Solid& before);

}  // namespace lostline::model
