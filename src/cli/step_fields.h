#pragma once

#include <map>
#include <set>
#include <string>
#include <vector>

#include "cli.h"
#include "project/document.h"

namespace lostline::cli {

/// The parts of a kind of step as a caller may say them: name, what it takes, words of a choice.
Json describe_fields(const model::FeatureKind& kind);

/// Fills parts of a step from words, each "NAME=VALUE" with the names that `describe_fields` gives:
/// a number in mm or degrees, a word of a choice, names of sketches, bodies and steps, places
/// ("x,y,z", several parted by ";") on faces and edges of the model before it.
/// @param typed  the numbers said.
/// @errors InvalidInput  no such part, or a value it does not take;  NotFound  nothing of this name
/// or at this place.
Status set_fields(const project::Document& document, const model::Model& before,
                  const std::vector<std::string>& words, model::Feature& feature,
                  std::set<std::string>& typed);

}  // namespace lostline::cli
