#pragma once

#include <vector>

#include "reading/names.h"

namespace lostline::reading {

/// RMS deviation of the scan from the model against one value: where it is least, the evidence
/// lies.
struct Valley {
  struct Sample {
    double value = 0;  ///< mm or degrees, as in the Ledger
    double rms = 0;    ///< mm, over `points`
  };
  std::vector<Sample> samples;  ///< ascending by value; values that break the Route are left out
  double lowest = 0;            ///< value where the curve is least, between the samples
  std::size_t points = 0;       ///< scan points on the part affected
};

struct ValleyOptions {
  int samples = 17;            ///< odd: the value in force is one of them
  double reach = 0;            ///< half the width of the curve; 0: chosen from value and noise
  std::size_t points = 12000;  ///< at most; spread over the part affected
};

/// Computes the model for values around the one in force and compares each with the scan where it
/// moves the surface: points whose distance differs between the two ends of the curve by more than
/// a tenth of the change.
/// @errors NotFound  the row is gone or does not belong to a step or sketch dimension;
/// InvalidInput  no scan or no model;  Degenerate  the value moves nothing that the scan shows;
/// Cancelled.
Result<Valley> compute_valley(const Document& document, Id dimension,
                              const ValleyOptions& options = {}, const Task& task = {});

}  // namespace lostline::reading
