#include "project/drawing_in.h"

#include "io/formats.h"
#include "project/sketch_plane.h"
#include "sketch/drawing.h"

namespace lostline::project {

Result<DrawingAdded> add_drawing(const Document& document, const std::filesystem::path& file,
                                 const DrawingPlace& place) {
  const auto read = io::read_curves(file);
  if (!read) return read.error();
  TracedSketch traced;
  traced.plane = place.base ? place.plane : DatumPlane::Free;
  traced.base = place.base.value_or(read->plane);
  traced.level = place.level;
  traced.tolerance = resolving_tolerance(document);
  constexpr double kSame = 1e-4;  // mm: ends this near were meant to be one
  traced.sketch = sketch::sketch_of(read->curves, read->points, kSame);
  traced.drawn = true;
  traced.name = place.name.empty() ? file.stem().string() : place.name;
  const auto added = add_sketch(document, traced);
  if (!added) return added.error();
  return DrawingAdded{added->document, added->id, read->curves.size(), read->points.size(),
                      read->left_out};
}

}  // namespace lostline::project
