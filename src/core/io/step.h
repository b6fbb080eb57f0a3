#pragma once

#include <filesystem>
#include <string>

#include "model/solid.h"

namespace lostline::io {

/// Reads all solids of a STEP file (ISO 10303-21, AP203, AP214 or AP242) as one body in mm.
/// @errors Io  missing or unreadable;  InvalidInput  not STEP, or without a solid: the message says
/// which.
Result<model::Solid> read_step(const std::filesystem::path& path);

/// Writes AP214 in mm with the part's name, the persistent face names and a colour, then reads the
/// file back and compares volume and area. Atomic.
/// @errors InvalidInput  an empty solid;  Io;  Failed  when the file read back differs by more than
/// 1e-6 of the volume.
Status write_step(const std::filesystem::path& path, const model::Solid& solid,
                  const std::string& part_name);

}  // namespace lostline::io
