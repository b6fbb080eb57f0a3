#include "sketch/curves/kinds.h"

#include <algorithm>
#include <array>

#include "sketch/terms.h"

namespace lostline::sketch {

std::span<const CurveKind* const> curve_kinds() {
  static const std::array kinds{&line_kind(),         &arc_kind(),         &circle_kind(),
                                &ellipse_kind(),      &ellipse_arc_kind(), &spline_kind(),
                                &closed_spline_kind()};
  return kinds;
}

const CurveKind& kind_of(EntityType type) { return *curve_kinds()[static_cast<std::size_t>(type)]; }

const CurveKind* find_curve_kind(std::string_view key) {
  const auto kinds = curve_kinds();
  const auto it =
      std::find_if(kinds.begin(), kinds.end(), [&](const CurveKind* k) { return k->key() == key; });
  return it != kinds.end() ? *it : nullptr;
}

std::vector<Jet> CurveKind::ties(Terms&, const Entity&) const { return {}; }

JetPoint CurveKind::direction(Terms&, const Entity&, Id) const { return {}; }

std::optional<Jet> CurveKind::curvature(Terms&, const Entity&, Id) const { return std::nullopt; }

Result<Entity> CurveKind::offset(const Sketch& sketch, const Entity& entity, double,
                                 Sketch&) const {
  return Error{ErrorCode::InvalidInput,
               "There is no offset of " + name_of(sketch, entity.id) + "."};
}

bool CurveKind::add_beside(Sketch&, const Entity&, const Entity&, Id, Id, bool, bool) const {
  return false;
}

}  // namespace lostline::sketch
