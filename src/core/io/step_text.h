#pragma once

#include <string>
#include <string_view>

#include "base/result.h"

// The text of a STEP file before the kernel reads it; inside of this module.

namespace lostline::io {

/// Whether a text is an exchange structure (ISO 10303-21) in which every instance has a name of its
/// own: the kernel's reader turns for ever where two have one.
/// @param shown  what messages call the file.
/// @errors InvalidInput  with the lines.
Status check_step_text(std::string_view text, const std::string& shown);

}  // namespace lostline::io
