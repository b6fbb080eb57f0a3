#pragma once

#include <map>
#include <string>

#include "cli.h"
#include "fit/relations.h"

namespace lostline::cli {

/// Relations between fits by what files and options call them.
const std::map<std::string, fit::RelationType>& relation_types();
/// What a relation takes from the evidence.
Json cost_json(fit::RelationType type, const fit::RelationCost& cost);

}  // namespace lostline::cli
