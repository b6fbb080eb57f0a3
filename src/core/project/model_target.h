#pragma once

#include "datum/place.h"
#include "model/model.h"
#include "survey/survey.h"

namespace lostline::project {

/// A solid as something to bring a scan upon, with the exact surfaces of its faces.
/// @errors Failed  a face cannot be triangulated.
Result<datum::Target> target_of(const model::Model& solid);

/// The surfaces of a survey's regions with their trust.
std::vector<datum::Found> found_of(const survey::Survey& survey);
/// Trust of every triangle: that of its region; a tenth without one, and along the borders, where a
/// scanner rounds the edge.
std::vector<float> trust_of(const survey::Survey& survey, const scan::Mesh& mesh);

/// How a scan is to be laid upon a model.
struct PlaceRequest {
  double search = 0;  ///< mm, as in datum::BestFitOptions
  /// What belongs together, as the engineer says; empty: surfaces are matched with faces.
  std::vector<datum::Pair> pairs;
  Transform hint = Transform::Identity();  ///< tried with the others
};
/// Places a surveyed scan upon a model, weighted by trust: every way it lies alike, best first; one
/// way by pairs.
/// @errors as datum::place_on, datum::place_by_pairs and datum::best_fit.
Result<std::vector<datum::Candidate>> place_scan(const scan::Mesh& mesh,
                                                 const survey::Survey& survey,
                                                 const datum::Target& target,
                                                 const PlaceRequest& request,
                                                 const Task& task = {});

}  // namespace lostline::project
