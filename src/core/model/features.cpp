#include <Eigen/Geometry>
#include <mutex>

#include "model/tool_body.h"

namespace lostline::model {

const char* feature_name(const Feature& feature) {
  struct Name {
    const char* operator()(const Extrude& e) const {
      return e.operation == Operation::Add   ? "extrude"
             : e.operation == Operation::Cut ? "cut"
                                             : "common";
    }
    const char* operator()(const Revolve& r) const {
      return r.operation == Operation::Add   ? "revolve"
             : r.operation == Operation::Cut ? "turned cut"
                                             : "turned common";
    }
    const char* operator()(const Hole&) const { return "hole"; }
    const char* operator()(const Fillet&) const { return "fillet"; }
    const char* operator()(const Chamfer&) const { return "chamfer"; }
    const char* operator()(const Pattern&) const { return "pattern"; }
    const char* operator()(const Mirror&) const { return "mirror"; }
  };
  return std::visit(Name{}, feature);
}

std::vector<Field> fields_of(Feature& feature) {
  std::vector<Field> fields;
  const auto extent = [&](Extent& e) {
    if (e.reach == Reach::Levels || e.reach == Reach::UpTo) fields.push_back({"from", &e.from});
    if (e.reach == Reach::Levels) fields.push_back({"to", &e.to});
    if (e.reach == Reach::Symmetric) {
      fields.push_back({"middle", &e.middle});
      fields.push_back({"thickness", &e.thickness});
    }
  };
  if (auto* e = std::get_if<Extrude>(&feature)) {
    extent(e->extent);
    fields.push_back({"draft", &e->draft, true});
  } else if (auto* r = std::get_if<Revolve>(&feature)) {
    fields.push_back({"angle", &r->angle, true});
  } else if (auto* h = std::get_if<Hole>(&feature)) {
    fields.push_back({"diameter", &h->diameter});
    extent(h->extent);
  } else if (auto* f = std::get_if<Fillet>(&feature)) {
    fields.push_back({"radius", &f->radius});
  } else if (auto* c = std::get_if<Chamfer>(&feature)) {
    fields.push_back({"leg", &c->distance});
    fields.push_back({"angle", &c->angle, true});
  } else if (auto* p = std::get_if<Pattern>(&feature)) {
    fields.push_back({"spacing", &p->spacing, p->kind == Pattern::Kind::Circular});
  }
  return fields;
}

namespace {

/// A sketch's base put onto the face it lies on, turned and shifted as little as possible.
Result<Placement> on_face(const PlacedSketch& placed, const Solid& before) {
  Reference reference;
  reference.face = placed.face;
  const auto face = resolve(reference, before);
  if (!face) return face.error();
  if (face->kind != fit::Kind::Plane) return placed.base;
  const Vec3 normal = face->axis.dot(placed.base.normal) < 0 ? Vec3(-face->axis) : face->axis;
  const auto turn = Eigen::Quaterniond::FromTwoVectors(placed.base.normal, normal);
  Placement base{placed.base.origin, turn * placed.base.x, turn * placed.base.y, normal};
  base.origin += normal * (face->point - base.origin).dot(normal);
  return base;
}

}  // namespace

Result<Solid> apply_feature(const Step& step, const Setting& given, const Solid& before) {
  const std::scoped_lock lock(shape_mutex());
  std::map<Id, PlacedSketch> sketches = given.sketches;
  for (auto& [id, placed] : sketches) {
    if (placed.face.empty()) continue;
    // A sketch whose face comes later in the Route is none of this step's.
    if (const auto base = on_face(placed, before)) placed.base = *base;
  }
  const Setting setting{sketches, given.steps};
  return guarded(
      "The " + std::string(feature_name(step.feature)) + " " + step.name, [&]() -> Result<Solid> {
        Result<Solid> result = std::visit(
            [&](const auto& feature) -> Result<Solid> {
              using T = std::decay_t<decltype(feature)>;
              if constexpr (std::is_same_v<T, Fillet>) {
                return fillet(step, feature, before);
              } else if constexpr (std::is_same_v<T, Chamfer>) {
                return chamfer(step, feature, before);
              } else if constexpr (std::is_same_v<T, Pattern>) {
                return pattern(step, feature, setting, before);
              } else if constexpr (std::is_same_v<T, Mirror>) {
                return mirror(step, feature, setting, before);
              } else {
                const Result<ToolBody> tool = make_tool(step, setting, before);
                if (!tool) return tool.error();
                return combine(before, tool->body, tool->operation, prefix_of(step));
              }
            },
            step.feature);
        if (result && !result->valid())
          return Error{ErrorCode::Failed,
                       "The result is not a sound solid. Change the values of this step."};
        return result;
      });
}

}  // namespace lostline::model
