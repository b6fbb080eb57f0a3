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

/// A vane: a sector of a ring whose centre moves on a parabola as it rises.
struct Vane {
  double size = 1;
  double inner = 30, outer = 34;  // mm, times the size
  double from = -0.7, to = 0.6;   // rad
  double level0 = 5, level1 = 29;

  [[nodiscard]] Vec2 centre(double z) const {
    const double t = z / size;
    return size * Vec2(0.3 * t + 0.004 * t * t, -0.1 * t + 0.006 * t * t);
  }
  /// Told from another corner, and as another chain of curves, for each `begin`.
  [[nodiscard]] sketch::Sketch outline(double z, int begin) const {
    sketch::Sketch s;
    const Vec2 c = centre(z);
    const auto at = [&](double r, double a) {
      return s.add_point(c + size * r * Vec2(std::cos(a), std::sin(a)));
    };
    const std::array<sketch::Id, 4> p{at(inner, from), at(outer, from), at(outer, to),
                                      at(inner, to)};
    const sketch::Id m = s.add_point(c);
    for (int k = 0; k < 4; ++k) {
      switch ((k + begin) % 4) {
        case 0:
          s.add_line(p[0], p[1]);
          break;
        case 1:
          s.add_arc(m, p[1], p[2], size * outer);
          break;
        case 2:
          s.add_line(p[2], p[3]);
          break;
        default:
          s.add_arc(m, p[0], p[3], size * inner);
      }
    }
    return s;
  }
  [[nodiscard]] double area() const {
    return size * size * (outer * outer - inner * inner) / 2 * (to - from);
  }
  /// How far a place is from the sides that the vane has at its height.
  [[nodiscard]] double off(const Vec3& p) const {
    const Vec2 d = (Vec2(p.x(), p.y()) - centre(p.z())) / size;
    const double angle = std::atan2(d.y(), d.x());
    return size * std::min({std::abs(d.norm() - inner), std::abs(d.norm() - outer),
                            d.norm() * std::abs(angle - from), d.norm() * std::abs(angle - to)});
  }
  [[nodiscard]] model::Loft through(Stack& ground, const std::vector<double>& levels) const {
    model::Loft loft;
    int begin = 0;
    for (const double level : levels)
      loft.sections.push_back(ground.section(outline(size * level, begin++), size * level));
    return loft;
  }
  /// It stands in a plate, straight on from its lowest section at 10.
  [[nodiscard]] Result<model::Model> on_plate(double thick) const {
    Stack ground;
    ground.before =
        PartBuilder().box(size * Vec2(-20, -50), size * Vec2(70, 50), 0, size * thick).solid();
    model::Loft loft = through(ground, {10, 20, 29});
    loft.beyond_start.value = size * 6;
    return ground.loft(loft);
  }
  /// Its edges on the plate.
  [[nodiscard]] std::vector<model::EdgeRef> roots(const model::Model& part, double thick) const {
    std::vector<model::EdgeRef> roots;
    const auto shape = model::tessellate(part);
    for (const auto& line : shape->edges) {
      const bool root = std::all_of(line.points.begin(), line.points.end(), [&](const Vec3& p) {
        return std::abs(p.z() - thick * size) < 1e-4 * size && std::abs(p.y()) < 45 * size &&
               p.x() > -15 * size && p.x() < 65 * size;
      });
      if (root) roots.push_back(part.ref_of_edge(line.edge, line.points.front()));
    }
    return roots;
  }
};

}  // namespace lostline::testing
