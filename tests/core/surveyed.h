#pragma once

#include "model/model.h"
#include "simulate/scanner.h"
#include "survey/survey.h"

namespace lostline::testing {

struct Surveyed {
  simulate::SimulatedScan scan;
  survey::Survey survey;
  scan::Topology topology;
};

/// A part as it is scanned and split into regions.
inline Surveyed surveyed(const model::Model& solid, const simulate::ScanOptions& options,
                         const simulate::SurfaceState& surface = {}) {
  auto scan = simulate::simulate_scan(solid, surface, options);
  EXPECT_TRUE(scan);
  scan::Topology topology = scan::build_topology(scan->mesh);
  auto found = survey::split_into_regions(scan->mesh, topology);
  EXPECT_TRUE(found);
  return {*std::move(scan), *std::move(found), std::move(topology)};
}

inline Surveyed surveyed(const model::Model& solid, double spacing, std::uint64_t seed,
                         const simulate::SurfaceState& surface = {}) {
  simulate::ScanOptions options;
  options.spacing = spacing;
  options.seed = seed;
  return surveyed(solid, options, surface);
}

}  // namespace lostline::testing
