#pragma once

#include "project/edits.h"

namespace lostline::project {

/// What to fit, and to which evidence: triangles of the scan, or points for curves.
struct FitRequest {
  fit::Kind kind = fit::Kind::Plane;
  std::shared_ptr<const std::vector<std::uint32_t>> triangles;
  std::vector<Vec3> points;                   ///< scan coordinates
  std::optional<fit::RelationType> relation;  ///< of one that names two fits, or of a fixed size
  FitRef relation_to;                         ///< stays as it is
  double value = 0;                           ///< of the relation, mm or rad
};

/// A fit before it is kept, with the cost of its relation.
struct FitTrial {
  Fit fit;
  survey::Patch patch;    ///< the points it rests on
  bool weighted = false;  ///< the points are trusted differently: rough ones count less
  std::optional<FitRelation> relation;
};
/// Weight of every point of a patch that a surface of a kind is fitted to: trust by the regions
/// round it, and what the rows beside edges count; empty where all count alike.
Eigen::VectorXd weights_of(const Document& document, const survey::Patch& patch, fit::Kind kind);

/// Fits as requested; with a relation once alone and once held, so that its cost is known.
/// @errors as fit_surface;  InvalidInput  no evidence, or the relation has no other fit.
Result<FitTrial> try_fit(const Document& document, const FitRequest& request,
                         const Task& task = {});

/// The rim of a patch nearest to a place: the ordered points of its border there.
/// @param near  scan coordinates.
std::vector<Vec3> rim_of(const Scan& scan, const std::vector<std::uint32_t>& triangles,
                         const Vec3& near);

/// Keeps a trial, with its relation.
Added add_fit(const Document& document, const FitTrial& trial);
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
