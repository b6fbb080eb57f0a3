#pragma once

#include "cli.h"
#include "survey/survey.h"

// What the two ways of aligning share.

namespace lostline::cli {

struct AlignArguments {
  std::string scan, frame, out, model, pairs;
  double sensitivity = 0.5;
  double search = 0;
  double tolerance = 0;
  std::size_t candidate = 1;
};

/// Brings a surveyed scan upon a STEP model and prints the result.
void align_to_model(Common& common, const AlignArguments& arguments, const scan::Mesh& mesh,
                    const scan::Topology& topology, const survey::Survey& found,
                    const Stopwatch& watch);

/// One fit named in a file: {"region": 3} by its number in a survey, or {"near": [x, y, z]}: the
/// region under that point.
Result<fit::Surface> fit_named(const Json& item, const scan::Mesh& mesh,
                               const survey::Survey& found);
/// Writes the moved scan where --out says.
Status write_moved(const AlignArguments& arguments, const scan::Mesh& mesh,
                   const Transform& motion);
Json to_json(const Transform& motion);  ///< four rows of four

}  // namespace lostline::cli
