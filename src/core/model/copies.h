#pragma once

#include <gp_Trsf.hxx>

#include "model/tool_body.h"

// What patterns and mirrors share.

namespace lostline::model {

/// A copy of what one step makes; its names tell which copy they are of.
Named moved(const Named& original, const gp_Trsf& motion, const std::string& prefix,
            const std::string& mark);

/// A copy of a body, whose faces many steps may have made: the names tell whose they are too.
Named moved_body(const Named& original, const gp_Trsf& motion, const std::string& prefix,
                 const std::string& mark);

/// A shape taken from a step's own coordinates to the part's; its names stay.
Named placed(const Named& original, const Transform& frame);

/// What an earlier step adds, cuts or keeps.
/// @errors NotFound  it is gone or comes later;  Unsupported  it has no material of its own.
Result<ToolBody> source_tool(const Site& site, Id source);

}  // namespace lostline::model
