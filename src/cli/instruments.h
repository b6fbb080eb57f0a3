#pragma once

#include "cli.h"
#include "project/probed.h"

namespace lostline::cli {

/// Features of a probe's own programme.
struct ProbedProgramme {
  std::string name;  ///< of the instrument
  double tip = 0;    ///< mm, diameter
  std::vector<project::ProbedFeature> features;
  std::vector<std::pair<std::string, std::string>> refused;  ///< names, and why
};
/// @errors as instruments::Client;  Failed  nothing could be fitted.
Result<ProbedProgramme> probe_programme(const Common& common, const std::string& socket);
Json features_json(const ProbedProgramme& programme);

}  // namespace lostline::cli
