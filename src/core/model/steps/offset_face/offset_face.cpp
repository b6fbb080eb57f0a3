#include "model/steps/offset_face/offset_face.h"

#include <cmath>

#include "model/offsets.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind OffsetFace::kind = kind_of<OffsetFace>(
    "offset_face", "Offset", "move faces of the model along their normals", "unfold-vertical", 'o');

void OffsetFace::describe(Description& d) {
  d.faces("faces", faces);
  d.number({"distance", NumberInfo::Unit::Length, NumberInfo::Sign::NotZero}, distance);
}

Result<Model> OffsetFace::build(const Site& site) const {
  if (!std::isfinite(distance.value) || distance.value == 0)
    return Error{ErrorCode::InvalidInput, "A face is offset by a distance other than zero."};
  const auto moved = find_faces(faces, site.before, "offset");
  if (!moved) return moved.error();
  return largest_or_explain(distance.value, "An offset", in_millimetres,
                            [&](double size) -> std::optional<Model> {
                              std::map<std::size_t, double> distances;
                              for (const std::size_t face : *moved) distances[face] = size;
                              const auto made = move_faces(site.before, distances);
                              if (!made) return std::nullopt;
                              return make_solid(made->shape, made->names, prefix_of(site.step));
                            });
}

std::vector<NumberReading> OffsetFace::read(const Site& site, const ScanEvidence& scan) const {
  return read_shift(faces, site, scan, "distance");
}

}  // namespace lostline::model
