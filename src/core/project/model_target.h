#pragma once

#include "datum/place.h"
#include "model/solid.h"
#include "survey/survey.h"

namespace lostline::project {

/// A solid as something to bring a scan upon, with the exact surfaces of its faces.
/// @errors Failed  a face cannot be triangulated.
Result<datum::Target> target_of(const model::Solid& solid);

/// The surfaces of a survey's regions with their trust.
std::vector<datum::Found> found_of(const survey::Survey& survey);
/// Trust of every triangle: that of its region, a tenth without one.
std::vector<float> trust_of(const survey::Survey& survey);

}  // namespace lostline::project
