#pragma once

#include <map>
#include <memory>
#include <numbers>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "base/task.h"
#include "fit/surface.h"
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

enum class Operation { Add, Cut, Common };

/// A plane or an axis that a feature refers to: a datum, a face of the model before the step, or a
/// fit or region of the scan.
struct Reference {
  int datum = -1;    ///< 0, 1, 2: the axis x, y, z, or the plane square to it
  std::string face;  ///< persistent name
  Id fit = 0;
  std::uint32_t region = 0;
  /// Of a fit or region, in part coordinates; kept up to date by whoever owns the steps.
  std::optional<fit::Surface> surface;

  [[nodiscard]] bool empty() const { return datum < 0 && face.empty() && fit == 0 && region == 0; }
};
/// The surface a reference means on a model: a plane, or a surface with an axis.
/// @errors NotFound  the face or fit is gone;  InvalidInput  nothing is referred to, or a face that
/// is neither plane nor turned.
Result<fit::Surface> resolve(const Reference& reference, const Solid& before);

enum class Reach {
  Levels,     ///< between `from` and `to`
  Symmetric,  ///< `thickness` about the level `middle`
  UpTo,       ///< from `from` up to a surface
  Through,    ///< through everything there is
};
/// Levels along the normal of the sketch's base plane between which a profile or hole extends.
struct Extent {
  Reach reach = Reach::Levels;
  Quantity from;
  Quantity to;
  Quantity middle;
  Quantity thickness;
  Reference target;  ///< of UpTo: a plane, cylinder, cone
};

struct Extrude {
  Id sketch = 0;
  std::vector<sketch::Id> loops;  ///< one entity of each loop used; empty: all, inner ones as holes
  Operation operation = Operation::Add;
  Extent extent;
  Quantity draft;  ///< rad, narrowing towards `to`; neutral where the section was taken
  /// A point inside each area used among lines that cross and end loosely; instead of `loops`.
  std::vector<Vec2> areas;
};

/// Turns closed areas about a line of their own sketch.
struct Revolve {
  Id sketch = 0;
  std::vector<sketch::Id> loops;
  sketch::Id axis = sketch::kYAxis;  ///< a line of the sketch, or one of its axes
  Operation operation = Operation::Add;
  Quantity angle{2 * std::numbers::pi, 0};  ///< rad, 0 … 2 pi
  bool both_ways = false;                   ///< half of the angle on either side of the sketch
  std::vector<Vec2> areas;                  ///< as of an extrude
};

struct Hole {
  Id sketch = 0;
  std::vector<sketch::Id> circles;
  Quantity diameter;
  Extent extent{Reach::Through, {}, {}, {}, {}, {}};
};

struct Fillet {
  std::vector<EdgeRef> edges;
  Quantity radius;
};

struct Chamfer {
  std::vector<EdgeRef> edges;
  Quantity distance;                        ///< on the first face of each edge, mm
  Quantity angle{std::numbers::pi / 4, 0};  ///< to the first face, rad
};

/// Repeats what an extrude, revolve or hole adds or cuts, all copies in one boolean.
struct Pattern {
  Id source = 0;  ///< a step before this one
  enum class Kind { Linear, Circular } kind = Kind::Circular;
  Reference direction;  ///< axis turned about, or direction moved along
  int count = 2;        ///< with the original
  Quantity spacing;     ///< between neighbours: mm, or rad
};

/// Mirrors a step's material, or the whole part when `source` is 0, and adds it.
struct Mirror {
  Id source = 0;
  Reference plane;
};

using Feature = std::variant<Extrude, Revolve, Hole, Fillet, Chamfer, Pattern, Mirror>;
/// "extrude", "cut", "common", "revolve", "turned cut", "hole", "fillet", "chamfer", "pattern",
/// "mirror".
const char* feature_name(const Feature& feature);

/// A number of a feature with its name in the Ledger.
struct Field {
  const char* name;  ///< "from", "to", "middle", "thickness", "draft", "diameter", "radius" …
  Quantity* quantity;
  bool angle = false;  ///< shown in degrees
};
/// The numbers of a feature that are in force: those of its kind of extent.
std::vector<Field> fields_of(Feature& feature);

struct Step {
  Id id = 0;
  int number = 0;  ///< 10, 20, 30 …; 15 when inserted
  std::string name;
  bool parked = false;
  Feature feature;
};

/// A sketch where a step finds it.
struct PlacedSketch {
  sketch::Sketch sketch;
  Placement base;            ///< plane of the levels
  double section_level = 0;  ///< where the section was taken, neutral for draft
  std::string face;          ///< of the model that the base lies on; empty elsewhere
};

/// What a feature may refer to besides the part before it.
struct Setting {
  const std::map<Id, PlacedSketch>& sketches;
  const std::vector<Step>& steps;
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
/// @errors Degenerate  the profile is open or empty;  NotFound  a sketch, loop, edge or step is
/// gone;  InvalidInput  a number makes no sense;  Failed  the geometry is impossible: the message
/// says what would work.
Result<Solid> apply_feature(const Step& step, const Setting& setting, const Solid& before);

}  // namespace lostline::model
