#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/result.h"
#include "section/section.h"
#include "sketch/sketch.h"

namespace lostline::io {

/// Writes the curves of a sketch, at their place in space, as ISO 10303 (STEP AP214) or IGES 5.3
/// wireframe: lines, circles, ellipses and B-splines, each with the name of its entity. The plane
/// is that of the section. Read back before it is kept.
/// @errors InvalidInput  a sketch without curves;  Io;  Failed  what was read back has other
/// curves.
Status write_curves_step(const std::filesystem::path& path, const sketch::Sketch& sketch,
                         const section::Section& section);
Status write_curves_iges(const std::filesystem::path& path, const sketch::Sketch& sketch,
                         const section::Section& section);

/// A straight line or an arc in space, with its name.
struct SpaceCurve {
  Vec3 a = Vec3::Zero(), b = Vec3::Zero();
  std::optional<Vec3> centre;  ///< of an arc, right-handed about `axis` from a to b
  Vec3 axis = Vec3::UnitZ();
  std::string name;
};
/// Writes curves as .step or .igs, read back before the file is kept.
/// @errors Unsupported  another extension;  InvalidInput  no curves;  Degenerate; Io; Failed.
Status write_space_curves(const std::filesystem::path& path, const std::vector<SpaceCurve>& curves);

}  // namespace lostline::io
