#pragma once

#include "project/json_parts.h"

namespace lostline::project {

Json write_reference(const model::Reference& reference);
model::Reference read_reference(const Json& json);

Json write_step(const model::Step& step);
/// Throws nlohmann::json::exception where it does not follow the schema. Reads every version.
model::Step read_step(const Json& j);

}  // namespace lostline::project
