#pragma once

#include <map>
#include <memory>
#include <set>
#include <string>
#include <vector>

#include "base/task.h"
#include "model/feature.h"

namespace lostline::model {

struct Step {
  Id id = 0;
  int number = 0;  ///< 10, 20, 30 …; 15 when inserted
  std::string name;
  bool parked = false;
  Feature feature;
};

enum class StepState { Sound, Stale, Broken, Parked };
const char* state_name(StepState state);

struct StepResult {
  StepState state = StepState::Stale;
  std::string reason;  ///< of a broken step: what, why and what to do
  Model solid;         ///< after this step; that before it when broken or parked
  bool kept = true;    ///< off: made in one go with steps behind it, `solid` is not known
};

/// The models that a caller wants besides the last.
struct Wanted {
  bool every = true;      ///< after each step
  std::set<Id> before;    ///< else before these steps
  bool on_trial = false;  ///< the last step: its result is kept until the next trial's

  static Wanted trial(Id last) { return {false, {last}, true}; }
  /// Steps that lie clear of each other are then made in one go.
  static Wanted last(std::set<Id> before = {}) { return {false, std::move(before), false}; }
};

/// A hash of everything that a step's result depends on besides the part before it.
std::uint64_t content_key(const Step& step, const Setting& setting);

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
                                          RouteCache& cache, const Task& task = {},
                                          const Wanted& wanted = {});

/// The solid of one feature on top of `before`.
/// @errors Degenerate  the profile is open or empty;  NotFound  a sketch, loop, edge or step is
/// gone;  InvalidInput  a number makes no sense;  Failed  the geometry is impossible: the message
/// says what would work.
/// Made by a process of the kernel where there is one: a step that it goes down on, or does not
/// come back from, has failed, and this process goes on.
Result<Model> apply_feature(const Step& step, const Setting& setting, const Model& before);

}  // namespace lostline::model
