#pragma once

#include "model/route.h"
#include "model/steps/loft/loft.h"
#include "model/steps/space_curve/space_curve.h"
#include "step_trial.h"

namespace lostline::testing {

/// Sketches at levels and curves in space, with a loft over them.
struct Stack {
  std::map<model::Id, model::PlacedSketch> sketches;
  model::Model before;
  int next = 1;

  /// @param turn  rad, of the sketch's axes about z.
  model::Id section(const sketch::Sketch& s, double level, double turn = 0) {
    Placement base;
    base.origin = Vec3(0, 0, level);
    base.x = Vec3(std::cos(turn), std::sin(turn), 0);
    base.y = Vec3(-std::sin(turn), std::cos(turn), 0);
    sketches[sketches.size() + 1] = {s, base, 0, {}};
    return sketches.size();
  }
  model::Id circle(double radius, double level, double turn = 0) {
    sketch::Sketch s;
    s.add_circle(s.add_point({0, 0}), radius);
    return section(s, level, turn);
  }
  std::string curve(const std::vector<Vec3>& places) {
    model::SpaceCurve made;
    made.path.corners = places;
    model::Step step;
    step.id = static_cast<model::Id>(next++);
    step.name = "curve";
    step.feature = made;
    const std::vector<model::Step> none;
    const auto with = model::apply_feature(step, {sketches, none}, before);
    EXPECT_TRUE(with) << with.error().message;
    before = *with;
    return "s" + std::to_string(step.id);
  }
  [[nodiscard]] Result<model::Model> loft(const model::Loft& loft) const {
    model::Step step;
    step.id = 90;
    step.name = "loft";
    step.feature = loft;
    const std::vector<model::Step> none;
    return model::apply_feature(step, {sketches, none}, before);
  }
};

}  // namespace lostline::testing
