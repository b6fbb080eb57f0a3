#pragma once

#include "cli.h"
#include "section/section.h"
#include "sketch/shapes.h"

namespace lostline::cli {

/// Runs of points with the curves that explain them.
struct Curves {
  sketch::Sketch sketch;
  std::vector<sketch::Shape> shapes;
  double reach = 1;  ///< mm: points further from every curve are not counted
};
Curves resolved(const section::Section& section, double tolerance);

/// `polylines`, `entities`, `shapes`, `frame`, `rms` and `max_drift` of the contract.
/// @param points  whether the points of the runs are listed, or only counted.
Json json_of(const section::Section& section, const Curves& curves, bool points);

}  // namespace lostline::cli
