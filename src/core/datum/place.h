#pragma once

#include <variant>

#include "datum/best_fit.h"

// Bringing a scan that lies anywhere upon a model.

namespace lostline::datum {

/// A surface of the scan, as matching sees it.
struct Found {
  fit::Surface surface;
  double area = 0;             ///< mm2
  Vec3 centre = Vec3::Zero();  ///< area centroid
  double trust = 1;
};

struct PlaceOptions {
  BestFitOptions fit;
  std::size_t most = 24;    ///< candidates offered
  double like_best = 0.03;  ///< share of agreement a candidate may lack to be offered
};

/// One way the scan lies on the model.
struct Candidate {
  BestFit fit;
  double agreement = 0;  ///< share of the scan's weight within the scatter of the best candidate
};

/// Places a scan upon a model without any help: surfaces of the scan and faces of the model are
/// matched by type, size and the angles between them, each way they fit is tried on points, refined
/// by a best fit, and those that agree with the model nearly as well as the best are kept, best
/// first. A symmetric part gives one candidate for each way it lies alike.
/// @param hint  a placing that is tried with the others, such as where the scan lies now.
/// @errors Degenerate  no surface of a known type to match;  Failed  nothing agrees on a third of
/// the scan: the message says how far the best got;  Cancelled.
/// About 1 s. Deterministic.
Result<std::vector<Candidate>> place_on(const Target& target, const std::vector<Found>& found,
                                        const Cloud& cloud, const PlaceOptions& options = {},
                                        const Task& task = {},
                                        const Transform& hint = Transform::Identity());

/// What the engineer says belongs together: points, or surfaces of one kind.
struct Pair {
  std::variant<Vec3, fit::Surface> scan;
  std::variant<Vec3, fit::Surface> model;
};
/// Rigid motion from pairs, by least squares of the distances (directions count as distances over
/// the spread of the pairs).
/// @param size  of the part, mm: tells clustered points from spread ones.
/// @errors InvalidInput  a pair of two kinds;  Degenerate  the pairs do not hold the motion: too
/// few, on one line, clustered, or all parallel; the message says which.
Result<BestFit> place_by_pairs(const std::vector<Pair>& pairs, double size);

}  // namespace lostline::datum
