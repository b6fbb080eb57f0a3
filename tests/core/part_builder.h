#pragma once

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <memory>
#include <numbers>
#include <string>
#include <vector>

#include "model/route.h"
#include "model/steps/chamfer/chamfer.h"
#include "model/steps/extrude/extrude.h"
#include "model/steps/fillet/fillet.h"
#include "model/steps/hole/hole.h"
#include "model/steps/revolve/revolve.h"

// Parts with known surfaces, built step by step.

namespace lostline::testing {

/// Distance of a place from a line through points: from its stretches, not only its points, since a
/// straight edge has just two.
inline double off_line(const std::vector<Vec3>& points, const Vec3& place) {
  double best = 1e300;
  for (std::size_t i = 1; i < points.size(); ++i) {
    const Vec3 side = points[i] - points[i - 1];
    const double along = std::clamp(
        (place - points[i - 1]).dot(side) / std::max(side.squaredNorm(), 1e-12), 0.0, 1.0);
    best = std::min(best, (points[i - 1] + along * side - place).norm());
  }
  return best;
}

/// Builds a part step by step; every number is the truth.
class PartBuilder {
 public:
  /// A closed polygon, extruded.
  PartBuilder& extrude(const std::vector<Vec2>& corners, double from, double to,
                       model::Operation operation = model::Operation::Add, double draft = 0,
                       const Placement& base = {}) {
    model::Extrude e;
    e.sketch = polygon(corners, base);
    e.operation = operation;
    e.extent.from.value = from;
    e.extent.to.value = to;
    e.draft.value = draft;
    return add(e);
  }
  PartBuilder& box(const Vec2& low, const Vec2& high, double from, double to,
                   model::Operation operation = model::Operation::Add, double draft = 0) {
    return extrude({low, {high.x(), low.y()}, high, {low.x(), high.y()}}, from, to, operation,
                   draft);
  }
  PartBuilder& disc(const Vec2& centre, double radius, double from, double to,
                    model::Operation operation = model::Operation::Add, double draft = 0) {
    model::Extrude e;
    e.sketch = next_sketch_++;
    sketch::Sketch s;
    s.add_circle(s.add_point(centre), radius);
    sketches_[e.sketch] = {s, {}, from, {}};
    e.operation = operation;
    e.extent.from.value = from;
    e.extent.to.value = to;
    e.draft.value = draft;
    return add(e);
  }
  PartBuilder& holes(const std::vector<Vec2>& centres, double diameter) {
    model::Hole h;
    h.sketch = next_sketch_++;
    sketch::Sketch s;
    for (const Vec2& c : centres) h.circles.push_back(s.add_circle(s.add_point(c), diameter / 2));
    sketches_[h.sketch] = {s, {}, 0, {}};
    h.diameter.value = diameter;
    return add(h);
  }
  /// A hole through everything, square to `base`.
  PartBuilder& cross_hole(const Placement& base, const Vec2& centre, double radius) {
    model::Hole h;
    h.sketch = next_sketch_++;
    sketch::Sketch s;
    h.circles = {s.add_circle(s.add_point(centre), radius)};
    sketches_[h.sketch] = {s, base, 0, {}};
    h.diameter.value = 2 * radius;
    return add(h);
  }
  /// A ring of round section about z, cut or added.
  PartBuilder& ring(double radius, double height, double tube,
                    model::Operation operation = model::Operation::Cut) {
    model::Revolve r;
    r.sketch = next_sketch_++;
    sketch::Sketch s;
    s.add_circle(s.add_point({radius, height}), tube);
    sketches_[r.sketch] = {s, upright(), 0, {}};
    r.operation = operation;
    return add(r);
  }
  /// A ball about a point on z, cut or added.
  PartBuilder& ball(double height, double radius, model::Operation operation) {
    model::Revolve r;
    r.sketch = next_sketch_++;
    sketch::Sketch s;
    const sketch::Id centre = s.add_point({0, height});
    const sketch::Id low = s.add_point({0, height - radius});
    const sketch::Id high = s.add_point({0, height + radius});
    s.add_arc(centre, low, high, radius);
    s.add_line(high, low);
    sketches_[r.sketch] = {s, upright(), 0, {}};
    r.operation = operation;
    return add(r);
  }
  /// A profile of (radius, height) turned about z.
  PartBuilder& turn(const std::vector<Vec2>& profile) {
    model::Revolve r;
    r.sketch = polygon(profile, upright());
    return add(r);
  }
  /// Rounds the edge nearest to a place.
  PartBuilder& fillet(const Vec3& near, double radius) {
    model::Fillet f;
    f.edges = {edge_near(near)};
    f.radius.value = radius;
    return add(f);
  }
  /// Bevels the edge nearest to a place at 45 degrees.
  PartBuilder& chamfer(const Vec3& near, double distance) {
    model::Chamfer c;
    c.edges = {edge_near(near)};
    c.distance.value = distance;
    return add(c);
  }
  /// Keeps a sketch for a step to come.
  model::Id place(sketch::Sketch sketch, const Placement& base) {
    sketches_[next_sketch_] = {std::move(sketch), base, 0, {}};
    return next_sketch_++;
  }
  /// Any other step.
  PartBuilder& then(model::Feature feature) { return add(std::move(feature)); }
  /// An open or closed chain of lines, extruded to a surface.
  PartBuilder& sheet(const std::vector<Vec2>& corners, bool closed, double from, double to) {
    model::Extrude e;
    e.sketch = polygon(corners, {}, closed);
    e.surface = true;
    e.extent.from.value = from;
    e.extent.to.value = to;
    return add(e);
  }
  /// What the last step says when it cannot be built; empty when it can.
  [[nodiscard]] std::string refusal() const {
    const auto results = model::recompute(steps_, sketches_, *cache_);
    return results->back().reason;
  }
  /// Takes the last step back when it cannot be built; for parts made at random.
  PartBuilder& if_possible() {
    const auto results = model::recompute(steps_, sketches_, *cache_);
    EXPECT_TRUE(results);
    const model::StepResult& last = results->back();
    if (last.state != model::StepState::Sound || !last.solid.valid() ||
        !model::tessellate(last.solid))
      steps_.pop_back();
    return *this;
  }
  [[nodiscard]] model::Model solid() const {
    const auto results = model::recompute(steps_, sketches_, *cache_);
    EXPECT_TRUE(results);
    for (const auto& r : *results) EXPECT_EQ(r.state, model::StepState::Sound) << r.reason;
    return results->back().solid;
  }

 private:
  /// The xz plane seen from the front: x away from the axis, y along it.
  static Placement upright() {
    Placement base;
    base.y = Vec3::UnitZ();
    base.normal = -Vec3::UnitY();
    return base;
  }
  [[nodiscard]] model::EdgeRef edge_near(const Vec3& place) const {
    const model::Model so_far = solid();
    const auto tessellation = model::tessellate(so_far);
    model::EdgeRef nearest;
    double best = 1e300;
    for (const auto& line : tessellation->edges) {
      const double off = off_line(line.points, place);
      if (off >= best) continue;
      best = off;
      nearest = so_far.ref_of_edge(line.edge, place);
    }
    return nearest;
  }
  model::Id polygon(const std::vector<Vec2>& corners, const Placement& base, bool closed = true) {
    sketch::Sketch s;
    std::vector<sketch::Id> points;
    for (const Vec2& c : corners) points.push_back(s.add_point(c));
    for (std::size_t i = 0; i + (closed ? 0 : 1) < points.size(); ++i)
      s.add_line(points[i], points[(i + 1) % points.size()]);
    sketches_[next_sketch_] = {s, base, 0, {}};
    return next_sketch_++;
  }
  PartBuilder& add(model::Feature feature) {
    const model::Id id = steps_.size() + 1;
    steps_.push_back(
        {id, static_cast<int>(10 * id), "step " + std::to_string(id), false, std::move(feature)});
    return *this;
  }
  std::vector<model::Step> steps_;
  std::map<model::Id, model::PlacedSketch> sketches_;
  model::Id next_sketch_ = 1;
  std::shared_ptr<model::RouteCache> cache_ = std::make_shared<model::RouteCache>();
};

}  // namespace lostline::testing
