#include "model/steps/shell/shell.h"

#include <algorithm>
#include <cmath>

#include "model/offsets.h"
#include "model/steps/kind_of.h"

namespace lostline::model {
namespace {

/// The walls as the difference of two solids that share no wall: what is kept open is moved out, so
/// that the hollow runs through it.
std::optional<Model> hollowed(const Site& site, const std::vector<std::size_t>& open,
                              double thickness, bool outwards) {
  const Model& before = site.before;
  const std::string prefix = prefix_of(site.step);
  std::map<std::size_t, double> inner;
  std::map<std::size_t, double> outer;
  for (std::size_t face = 0; face < before.face_count(); ++face) {
    const bool is_open = std::find(open.begin(), open.end(), face) != open.end();
    if (outwards) {
      if (!is_open) outer[face] = thickness;
      if (is_open) inner[face] = thickness;
    } else {
      inner[face] = is_open ? thickness : -thickness;
    }
  }
  const auto named = [&](const char* role) {
    return [&before, prefix, role](std::size_t face) {
      return prefix + ":" + role + ":" + before.face_name(face);
    };
  };
  const auto hollow =
      outwards ? move_faces(before, inner) : move_faces(before, inner, named("inner"));
  if (!hollow) return std::nullopt;
  if (!outwards) {
    const auto made =
        combine(before, {*hollow, Operation::Cut, {}, BodyKind::Solid}, prefix, site.setting.task);
    return made ? std::optional(*made) : std::nullopt;
  }
  const auto skin = move_faces(before, outer, named("outer"));
  if (!skin) return std::nullopt;
  const auto made =
      combine(make_solid(skin->shape, skin->names, prefix),
              {*hollow, Operation::Cut, {}, BodyKind::Solid}, prefix, site.setting.task);
  return made ? std::optional(*made) : std::nullopt;
}

}  // namespace

constinit const FeatureKind Shell::kind = kind_of<Shell>(
    "shell", "Shell", "hollow the part to a wall of one thickness", "package-open", 's');

void Shell::describe(Description& d) {
  d.faces("open", open);
  d.number({"thickness", NumberInfo::Unit::Length, NumberInfo::Sign::Positive}, thickness);
  d.flag("outwards", outwards);
}

Result<Model> Shell::build(const Site& site) const {
  if (!std::isfinite(thickness.value) || !(thickness.value > 0))
    return Error{ErrorCode::InvalidInput, "A shell needs a thickness greater than zero."};
  const auto left_out = find_faces(open, site.before, "leave open");
  if (!left_out) return left_out.error();
  if (left_out->size() == site.before.face_count())
    return Error{ErrorCode::InvalidInput,
                 "Every face is picked as open, so no wall would be left. Take one back."};
  return largest_or_explain(thickness.value, "A wall", in_millimetres,
                            [&](double size) { return hollowed(site, *left_out, size, outwards); });
}

std::vector<NumberReading> Shell::read(const Site& site, const ScanEvidence& scan) const {
  const auto left_out = find_faces(open, site.before, "leave open");
  if (!left_out) return {};
  // The wall that the scan tells best, among those that stay. What is half as thick as the part or
  // more is no wall round a hollow.
  const double thickest = 0.5 * site.before.box().sizes().minCoeff();
  std::optional<ScanEvidence::Wall> best;
  for (std::size_t face = 0; face < site.before.face_count(); ++face) {
    if (std::find(left_out->begin(), left_out->end(), face) != left_out->end()) continue;
    const auto wall = scan.wall_under(site.before, face);
    if (wall && wall->thickness < thickest && (!best || wall->u < best->u)) best = wall;
  }
  if (!best) return {};
  return {{"thickness", best->thickness, best->u, "wall of the scan"}};
}

}  // namespace lostline::model
