#pragma once

#include "model/screw_motion.h"
#include "model/tool_body.h"

namespace lostline::model {

/// What a profile passes over while it is turned and shifted: a solid for a face, a shell for the
/// curves of a surface.
/// @param part  one of the profile's shapes.
/// @errors Failed  it crosses itself.
Result<Named> twisted(const TopoDS_Shape& part, const Profile& profile, const ScrewMotion& motion,
                      const std::string& prefix);

}  // namespace lostline::model
