#pragma once

#include <filesystem>

#include "project/edits.h"

namespace lostline::project {

/// Where the curves of a file are put.
struct DrawingPlace {
  std::optional<Placement> base;  ///< empty: where the file has them
  DatumPlane plane = DatumPlane::Free;
  double level = 0;  ///< mm above it
  std::string name;  ///< empty: the file's
};
struct DrawingAdded {
  Document document;
  Id sketch = 0;
  std::size_t curves = 0, points = 0;
  std::vector<std::string> left_out;  ///< in words
};
/// Adds the plane curves of a DXF, IGES or STEP file as a sketch, whose numbers stay as drawn; the
/// scan's section lies beside it.
/// @errors as io::read_curves and add_sketch.
Result<DrawingAdded> add_drawing(const Document& document, const std::filesystem::path& file,
                                 const DrawingPlace& place = {});

}  // namespace lostline::project
