#pragma once

#include <filesystem>

#include "section/section.h"
#include "sketch/sketch.h"

namespace lostline::io {

/// Writes a sketch as DXF (release 12: LINE, ARC, CIRCLE entities on layer SKETCH, the section
/// points as polylines on layer SECTION), mm.
/// @errors Io.
Status write_dxf(const std::filesystem::path& path, const sketch::Sketch& sketch,
                 const section::Section& section);

/// Writes the same as SVG in millimetres, y upwards on paper.
Status write_svg(const std::filesystem::path& path, const sketch::Sketch& sketch,
                 const section::Section& section);

}  // namespace lostline::io
