#pragma once

#include "store/json_parts.h"

namespace lostline::store {

Json write_reference(const model::Reference& reference);
model::Reference read_reference(const Json& json);

/// The parts of a feature under their names, as its kind describes them.
Json write_feature(const model::Feature& feature);
/// Parts that are missing keep the kind's own value, so that files from before a part was added
/// read. Throws nlohmann::json::exception where a part is of another type than described.
void read_feature(const Json& json, model::Feature& feature);
/// JSON Schema (2020-12) of a step of any kind, as docs/design/project.schema.json holds it.
Json step_schema();

Json write_step(const model::Step& step);
/// Throws nlohmann::json::exception where it does not follow the schema. Reads every version.
model::Step read_step(const Json& json);

}  // namespace lostline::store
