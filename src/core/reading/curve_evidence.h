#pragma once

#include "reading/names.h"
#include "sketch/solver.h"

namespace lostline::reading {

/// The region of the survey that a curve of a sketch rests on.
struct CurveEvidence {
  sketch::Id entity = 0;
  std::uint32_t region = 0;
  double share = 0;  ///< of the section that lies at the curve, by length: 0 to 1
};

/// For each curve of a sketch the region that most of its section runs through. Left out are curves
/// of which less than half runs through any one region: a corner, a round that no region is of, a
/// gap. Empty for a section whose triangles are not known (a fan, an outline) and for a document
/// without a survey.
/// @param drift  of the sketch from its section: says which of its points lies at which curve.
std::vector<CurveEvidence> curve_evidence(const Document& document, const TracedSketch& sketch,
                                          const sketch::Drift& drift);

}  // namespace lostline::reading
