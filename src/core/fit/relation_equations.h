#pragma once

#include <vector>

#include "fit/relations.h"

// What a relation asks of surfaces, for the solver of relations.

namespace lostline::fit {

/// The equations of one relation: zero where it holds.
struct Equations {
  std::vector<double> values;
  std::vector<bool> angles;  ///< rad; the others mm
  void angle(double v) { values.push_back(v), angles.push_back(true); }
  void length(double v) { values.push_back(v), angles.push_back(false); }
};

/// @errors InvalidInput  the members cannot have the relation.
Result<Equations> equations(const Relation& relation, const std::vector<Surface>& surfaces);

}  // namespace lostline::fit
