#pragma once

#include <optional>
#include <vector>

#include "model/route.h"

// Steps that add or cut clear of each other are made with one boolean for all that is added and one
// for all that is cut: a plate with a hundred holes takes one operation, not a hundred on ever more
// faces.

namespace lostline::model {

/// A try to make several steps in one go.
struct SideBySide {
  std::size_t end = 0;         ///< behind the last of them
  std::size_t steps = 0;       ///< how many, parked ones not counted
  std::optional<Model> model;  ///< after the last; empty when one by one is needed to be sure
};

/// Makes the step `first` and as many behind it as can be made with it.
///
/// Those are steps that say so (`stands_alone`), that add to or cut from the only solid, and whose
/// material lies clear of that of the others. The model is as one after another would give it,
/// names and all; where that is not certain (a step does nothing, a face falls into pieces,
/// something that a step refers to goes) there is none.
/// @param begins  steps before which the model has to be known: none of them but `first` is taken.
/// @param most    steps tried.
SideBySide make_side_by_side(const Setting& setting, std::size_t first,
                             const std::vector<bool>& begins, std::size_t most,
                             const Model& before);

/// The same within this process.
SideBySide make_side_by_side_here(const Setting& setting, std::size_t first,
                                  const std::vector<bool>& begins, std::size_t most,
                                  const Model& before);

/// The sketches with those that lie on a face of the model put onto it, turned and shifted as
/// little as possible.
std::map<Id, PlacedSketch> placed_on(const std::map<Id, PlacedSketch>& sketches,
                                     const Model& before);

}  // namespace lostline::model
