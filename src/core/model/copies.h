#pragma once

#include <gp_Trsf.hxx>

#include "model/tool_body.h"

// What patterns and mirrors share.

namespace lostline::model {

/// A copy of a named shape; its names tell which copy they are of.
Named moved(const Named& original, const gp_Trsf& motion, const std::string& prefix,
            const std::string& mark);

/// What an earlier step adds, cuts or keeps.
/// @errors NotFound  it is gone or comes later;  Unsupported  it has no material of its own.
Result<ToolBody> source_tool(const Site& site, Id source);

}  // namespace lostline::model
