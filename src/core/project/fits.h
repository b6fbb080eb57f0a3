#pragma once

#include "project/edits.h"

namespace lostline::project {

/// What to fit, and to which triangles of the scan.
struct FitRequest {
  fit::Kind kind = fit::Kind::Plane;
  std::shared_ptr<const std::vector<std::uint32_t>> triangles;
  fit::DirectionRule::Type relation = fit::DirectionRule::Type::Free;
  FitRef relation_to;  ///< gives the direction of the relation
};

/// A fit before it is kept, with the cost of its relation.
struct FitTrial {
  Fit fit;
  survey::Patch patch;  ///< the points it rests on
  double turned = 0;    ///< rad, by how much the relation turns the free direction
  /// The relation turns the direction by no more than its uncertainty, or adds less than 2 % to the
  /// RMS.
  bool within_noise = true;
};
/// Fits as requested; with a relation once free and once held, so that its cost is known.
/// @errors as fit_surface;  InvalidInput  no triangles, or the relation has no other fit.
Result<FitTrial> try_fit(const Document& document, const FitRequest& request,
                         const Task& task = {});

/// Keeps a fit; returns the document and the fit's id.
Added add_fit(const Document& document, Fit fit);
/// @errors InvalidInput  the frame or a measurement rests on it: the message names it.
Result<Document> remove_fit(const Document& document, Id fit);

/// Distance or angle between two fits, or the diameter of one, as a Ledger row.
struct Measurement {
  standards::Quantity quantity = standards::Quantity::Length;
  double value = 0;  ///< mm or degrees
  double u = 0;
  std::string what;  ///< "distance plane 1 to plane 5"
  bool hole = false;
};
/// @errors InvalidInput  the two do not have a distance or angle of this kind: the message says
/// why.
Result<Measurement> measure(const Document& document, const FitRef& a, const FitRef& b, bool angle);
Result<Added> add_measurement(const Document& document, const FitRef& a, const FitRef& b,
                              bool angle);

}  // namespace lostline::project
