#pragma once

#include "project/edits.h"

namespace lostline::reading {

/// What picked regions become.
enum class Making { Extrude, Revolve };

struct FromRegionsOptions {
  double tolerance = 0;   ///< mm of resolving; larger is simpler; 0: from the scan
  bool suggested = true;  ///< with the constraints that the section suggests
};

/// A sketch and the step that stands on it, made from picked regions; nothing is in the project
/// yet.
struct FromRegions {
  project::TracedSketch sketch;
  model::Feature feature;  ///< its sketch is to be named when the sketch has an id
  std::vector<project::FieldReading> readings;
  std::string said;  ///< in words: which way, between what, how many curves
  double off = 0;    ///< rad: the direction that the walls say, from the one taken
};

/// Walls that run in one direction, and ends if wanted, as an extrude; what is round about one axis
/// as a revolve. The direction is that of the walls, put on a datum axis where they leave it open;
/// the profile is their section half way along, the levels those of the ends picked, else of the
/// flats that the scan has next to the section. Walls that all enclose emptiness are cut from what
/// is there.
/// @errors InvalidInput  nothing picked, or walls that have no direction in common: the message
/// says which region disagrees;  Failed  their section does not close;  Cancelled.
Result<FromRegions> from_regions(const project::Document& document,
                                 const std::vector<std::uint32_t>& regions, Making making,
                                 const FromRegionsOptions& options = {}, const Task& task = {});

/// Adds both to the project; the step is the last, or stands behind step `after`.
Result<project::Added> add_from_regions(const project::Document& document, const FromRegions& made,
                                        const std::string& name, project::Id after = 0);

}  // namespace lostline::reading
