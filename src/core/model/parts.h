#pragma once

#include <cstdint>
#include <map>
#include <numbers>
#include <optional>
#include <string>
#include <vector>

#include "base/task.h"
#include "fit/surface.h"
#include "model/model.h"
#include "sketch/sketch.h"

// What the descriptions of steps are put together from.

namespace lostline::model {

using Id = std::uint64_t;

/// A number of a feature: the value in force and the Ledger row it belongs to.
struct Quantity {
  double value = 0;  ///< mm or rad
  Id dimension = 0;
  bool operator==(const Quantity&) const = default;
};

/// What a step's material does with the bodies it names, or with those it touches when it names
/// none. Added to nothing that it touches, it is a body of its own.
enum class Operation { Add, Cut, Common, NewBody };

/// A model read from a file, kept as the file's bytes so that the project has it.
struct Imported {
  std::string file;        ///< name without its folder
  std::string bytes;       ///< of the file
  std::uint64_t hash = 0;  ///< of the bytes
  Model model;             ///< its faces named for their geometry
};

/// A plane or an axis that a feature refers to: a datum, a face of the model before the step, or a
/// fit or region of the scan.
struct Reference {
  int datum = -1;    ///< 0, 1, 2: the axis x, y, z, or the plane square to it
  std::string face;  ///< persistent name
  Id fit = 0;
  std::uint32_t region = 0;
  /// Of a fit or region, in part coordinates; kept up to date by whoever owns the steps. Of a datum
  /// only where the frame was set anew since and has it elsewhere: where it was.
  std::optional<fit::Surface> surface;

  [[nodiscard]] bool empty() const { return datum < 0 && face.empty() && fit == 0 && region == 0; }
};
/// The surface a reference means on a model: a plane, or a surface with an axis.
/// @errors NotFound  the face or fit is gone;  InvalidInput  nothing is referred to, or a face that
/// is neither plane nor turned.
Result<fit::Surface> resolve(const Reference& reference, const Model& before);

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

/// A sketch where a step finds it.
struct PlacedSketch {
  sketch::Sketch sketch;
  Placement base;            ///< plane of the levels
  double section_level = 0;  ///< where the section was taken, neutral for draft
  std::string face;          ///< of the model that the base lies on; empty elsewhere
};

/// A way through space: straight from corner to corner, bent at each one between; part coordinates.
struct SpacePath {
  std::vector<Vec3> corners;  ///< mm, with both ends
  std::vector<double> bends;  ///< mm, radius at each inner corner, 0: a mitre; none of a curve
};

struct Step;

/// What a feature may refer to besides the part before it.
struct Setting {
  const std::map<Id, PlacedSketch>& sketches;
  const std::vector<Step>& steps;
  /// The part that each earlier step was made on, for those that repeat it; null: unknown.
  const std::map<Id, Model>* before_step = nullptr;
  Task task{};  ///< stops what takes long and hears how far it is
};

}  // namespace lostline::model
