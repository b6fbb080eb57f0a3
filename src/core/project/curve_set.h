#pragma once

#include "io/curve_models.h"
#include "project/document.h"

namespace lostline::project {

struct CurveChoice {
  std::vector<Id> sketches;  ///< those that go along
  bool space_curves = true;  ///< all curve bodies of the model
  bool reference = false;    ///< planes, axes and points of the datum frame and the kept fits
};
/// All sketches there are.
std::vector<Id> all_sketches(const Document& document);
/// What goes into one file of curves, part coordinates.
io::CurveSet curve_set(const Document& document, const model::Model& model,
                       const CurveChoice& choice);

}  // namespace lostline::project
