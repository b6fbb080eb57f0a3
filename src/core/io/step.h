#pragma once

#include <filesystem>
#include <memory>
#include <string>

#include "model/parts.h"

namespace lostline::io {

/// Reads the solids, surfaces and curves of a STEP file (ISO 10303-21, AP203, AP214 or AP242) in
/// mm, each a body with the name and colour of its product, assemblies with their parts in place.
/// @errors Io  missing or unreadable;  InvalidInput  not STEP, damaged, or without a body: the
/// message says which.
Result<model::Model> read_step(const std::filesystem::path& path);

/// Reads a model to be imported by a step, with the bytes that a project keeps of it.
/// @errors as read_step.
Result<std::shared_ptr<const model::Imported>> import_step(const std::filesystem::path& path);
/// The same from bytes that a project kept; `file` is the name it had, `shown` is for messages.
Result<std::shared_ptr<const model::Imported>> import_text(std::string text,
                                                           const std::string& shown,
                                                           const std::string& file);

/// Writes AP214 in mm, one product for each body with its name and colour, the part's name where a
/// body has none, and the persistent face names; then reads the file back and compares bodies,
/// volume and area. Atomic.
/// @errors InvalidInput  an empty model;  Io;  Failed  when the file read back differs by more than
/// 1e-6 of the volume or area.
Status write_step(const std::filesystem::path& path, const model::Model& model,
                  const std::string& part_name);

}  // namespace lostline::io
