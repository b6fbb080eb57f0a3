#include "model/steps/move_body/move_body.h"

#include <BRepBuilderAPI_Transform.hxx>
#include <cmath>
#include <gp_Ax1.hxx>
#include <gp_Trsf.hxx>

#include "model/copies.h"
#include "model/steps/kind_of.h"

namespace lostline::model {

constinit const FeatureKind MoveBody::kind = kind_of<MoveBody>(
    "move_body", "Move body", "shift and turn bodies, or copies of them", "move", 'v');

void MoveBody::describe(Description& d) {
  using Unit = NumberInfo::Unit;
  d.bodies({"bodies"}, bodies);
  d.number({"x", Unit::Length}, x);
  d.number({"y", Unit::Length}, y);
  d.number({"z", Unit::Length}, z);
  d.number({"angle", Unit::Angle}, angle);
  d.reference({"axis", ReferenceInfo::Wants::Axis, angle.value != 0}, axis);
  d.flag("copy", copy);
  d.place("frame", frame);
}

Result<Model> MoveBody::build(const Site& site) const {
  const auto found = find_bodies(bodies, site.before, copy ? "copy" : "move");
  if (!found) return found.error();
  const Vec3 shift = frame.linear() * Vec3(x.value, y.value, z.value);
  if (!shift.allFinite() || !std::isfinite(angle.value))
    return Error{ErrorCode::InvalidInput, "Give shifts and an angle that are numbers."};
  if (shift.isZero() && angle.value == 0)
    return Error{ErrorCode::InvalidInput, "Give a shift or an angle other than zero."};
  gp_Trsf motion;
  if (angle.value != 0) {
    const auto about = resolve(axis, site.whole);
    if (!about) return about.error();
    motion.SetRotation(gp_Ax1(pnt(about->point), dir(about->axis)), angle.value);
  }
  gp_Trsf translation;
  translation.SetTranslation(vec(shift));
  motion.PreMultiply(translation);
  const std::string prefix = prefix_of(site.step);
  std::vector<BodyShape> all = site.before.impl().bodies;
  FaceNames names = names_of(site.before);
  for (const std::size_t body : *found) {
    const Named original = named_body(site.before, body);
    if (copy) {
      const Named image = moved_body(original, motion, prefix, "copy");
      Body made;
      made.key = prefix;
      made.kind = site.before.body(body).kind;
      made.colour = site.before.body(body).colour;
      all.push_back({std::move(made), image.shape});
      names.insert(names.end(), image.names.begin(), image.names.end());
      continue;
    }
    BRepBuilderAPI_Transform transform(original.shape, motion, true);
    all[body].shape = transform.Shape();
    for (const auto& [face, list] : original.names)
      names.emplace_back(transform.ModifiedShape(face), list);
  }
  return make_model(std::move(all), names, prefix);
}

}  // namespace lostline::model
