#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/result.h"
#include "model/model.h"
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

/// Curves that go into one file, at their places in space.
struct CurveSet {
  struct Drawing {
    std::string name;
    sketch::Sketch sketch;
    Placement plane;
    section::Section section;  ///< for formats of the plane
  };
  std::vector<Drawing> drawings;
  std::vector<std::pair<std::string, model::Model>> curves;  ///< bodies of kind curve

  /// A plane, an axis or a point of the datum or a fit.
  struct Mark {
    enum class Kind { Plane, Axis, Point } kind = Kind::Point;
    std::string name;
    Vec3 at = Vec3::Zero();
    Vec3 direction = Vec3::UnitZ();  ///< unit; of a plane its normal
    double size = 10;                ///< mm, how far a plane or axis is drawn to each side
  };
  std::vector<Mark> reference;
};
/// Writes all into one file by its extension: .step and .igs in space, where a plane is a square
/// face, an axis a line and a point a point (in STEP three short lines that cross); .dxf and .svg
/// flat, the sketches side by side. STEP and IGES are read back before they are kept.
/// @errors Unsupported  another extension;  InvalidInput  nothing to write, or nothing flat;
/// Degenerate; Io; Failed.
Status write_curve_set(const std::filesystem::path& path, const CurveSet& set);

}  // namespace lostline::io
