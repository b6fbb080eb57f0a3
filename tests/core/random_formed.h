#pragma once

#include "chance.h"
#include "part_builder.h"

// Parts at random as they come from bending, punching and the foundry.

namespace lostline::testing {

class FormedPart : protected Chance {
 public:
  using Chance::Chance;

  /// A tube or bar bent two to four times, straight between the bends, perhaps with a foot.
  model::Model tube() {
    const double radius = size(4, 14);
    const double inner = chance(0.5) ? radius - size(1.5, 3) : 0;
    const double bend = radius * between(1.8, 4);
    Placement at;  // of the end that has been reached, its normal along the tube
    PartBuilder part;
    if (chance(0.4)) {
      part.disc({0, 0}, radius + size(12, 20), 0, size(5, 9)).if_possible();
      part.holes(circle(count(3, 6), radius + 8, between(0, 1)), size(4, 6)).if_possible();
    }
    for (int k = count(2, 4); k >= 0; --k) {
      const double length = size(2.5 * radius, 6 * radius);
      straight(part, at, radius, inner, length);
      at.origin += length * at.normal;
      if (k == 0) break;
      const double roll = between(0, 2 * std::numbers::pi);
      const Vec3 u = std::cos(roll) * at.x + std::sin(roll) * at.y;
      const double angle = 15 * kDegree * count(2, 6);
      at = bent(part, at, u, radius, inner, bend, angle);
    }
    return part.solid();
  }

  /// A strip of sheet bent two to four times, with holes in its flanges.
  model::Model sheet() {
    const double t = size(1.5, 4);
    const double inside = t * between(0.8, 2);
    const double wide = size(40, 90);
    std::vector<Vec2> middle{{0, 0}};
    double heading = 0;
    std::vector<double> turns;
    const int bends = count(1, 4);
    for (int k = 0; k <= bends; ++k) {
      const double length = size(30, 60);
      middle.push_back(middle.back() + length * Vec2(std::cos(heading), std::sin(heading)));
      // Up and down in turn, so that the strip does not meet itself.
      const double turn = (k % 2 == 0 ? 1 : -1) * (chance(0.6) ? 90.0 : 15.0 * count(2, 5));
      turns.push_back(turn * kDegree);
      heading += turns.back();
    }
    const auto offset = [&](double by) {
      std::vector<Vec2> line;
      for (std::size_t i = 0; i < middle.size(); ++i) {
        const Vec2 before =
            (middle[std::max<std::size_t>(i, 1)] - middle[std::max<std::size_t>(i, 1) - 1])
                .normalized();
        const Vec2 after =
            i + 1 < middle.size() ? Vec2((middle[i + 1] - middle[i]).normalized()) : before;
        const Vec2 left =
            (Vec2(-before.y(), before.x()) + Vec2(-after.y(), after.x())).normalized();
        line.push_back(middle[i] + by / left.dot(Vec2(-before.y(), before.x())) * left);
      }
      return line;
    };
    const std::vector<Vec2> low = offset(-t / 2);
    const std::vector<Vec2> high = offset(t / 2);
    std::vector<Vec2> outline = low;
    outline.insert(outline.end(), high.rbegin(), high.rend());
    PartBuilder part;
    part.extrude(outline, 0, wide);
    for (std::size_t i = 1; i + 1 < middle.size(); ++i) {
      const bool left = turns[i - 1] > 0;  // the inner side of the bend
      const Vec2& in = left ? high[i] : low[i];
      const Vec2& out = left ? low[i] : high[i];
      part.fillet({in.x(), in.y(), wide / 2}, inside).if_possible();
      part.fillet({out.x(), out.y(), wide / 2}, inside + t).if_possible();
    }
    for (std::size_t i = 0; i + 1 < middle.size(); ++i) {
      Placement flange;
      const Vec2 along = (middle[i + 1] - middle[i]).normalized();
      flange.origin = Vec3(middle[i].x(), middle[i].y(), 0);
      flange.x = Vec3(along.x(), along.y(), 0);
      flange.y = Vec3::UnitZ();
      flange.normal = flange.x.cross(flange.y);
      const double length = (middle[i + 1] - middle[i]).norm();
      const double r = size(3, 6);
      for (const double z : {0.25 * wide, 0.75 * wide}) {
        if (chance(0.7)) local_hole(part, flange, {0.5 * length, z}, r, t);
      }
    }
    return part.solid();
  }

  /// A thin plate with rows and circles of holes.
  model::Model punched() {
    const double t = size(2, 5);
    const double l = size(90, 160);
    const double w = size(60, 110);
    PartBuilder part;
    part.box({0, 0}, {l, w}, 0, t);
    const double r = size(3.5, 6);
    const double pitch = std::max(2.6 * r, size(12, 20));
    std::vector<Vec2> row;
    for (double x = pitch; x < 0.55 * l; x += pitch)
      for (double y = pitch; y < w - 0.7 * pitch; y += pitch) row.emplace_back(x, y);
    part.holes(row, 2 * r).if_possible();
    const double around = std::min(0.14 * l, 0.3 * w);
    const Vec2 hub(0.8 * l, 0.5 * w);
    part.disc(hub, 0.5 * around, -1, t + 1, Operation::Cut).if_possible();
    std::vector<Vec2> ring;
    for (const Vec2& c : circle(count(4, 8), around, between(0, 1))) ring.push_back(hub + c);
    part.holes(ring, 2 * size(2.5, 4)).if_possible();
    if (chance(0.6)) {
      const double corner = size(4, 10);
      for (const Vec3& p : {Vec3(0, 0, 1), Vec3(l, 0, 1), Vec3(l, w, 1), Vec3(0, w, 1)})
        part.fillet(p, corner).if_possible();
    }
    return part.solid();
  }

  /// A bearing support as the foundry leaves it: drafted, rounded at every foot. The bore alone is
  /// machined.
  model::Model foundry() {
    const double l = size(90, 150);
    const double w = size(60, 90);
    const double t = size(9, 14);
    const double draft = size(1, 3) * kDegree;
    PartBuilder part;
    part.box({-l / 2, -w / 2}, {l / 2, w / 2}, 0, t, Operation::Add, draft);
    const double r = size(16, 0.33 * w);
    const double h = t + size(25, 45);
    part.disc({0, 0}, r, t - 1, h, Operation::Add, draft).if_possible();
    const double rib = size(6, 9);
    if (chance(0.6))
      part.box({-l / 2 + 8, -rib / 2}, {l / 2 - 8, rib / 2}, t - 1, t + size(8, 14), Operation::Add,
               draft)
          .if_possible();
    part.disc({0, 0}, size(7, r - 7), -1, h + 1, Operation::Cut).if_possible();
    for (const double x : {-1.0, 1.0})
      for (const double y : {-1.0, 1.0})
        part.disc({x * (l / 2 - 13), y * (w / 2 - 13)}, 8, t - 1, t + 3, Operation::Add, draft)
            .if_possible();
    const double corner = size(6, 12);
    for (const Vec3& p : {Vec3(-l / 2, -w / 2, 1), Vec3(l / 2, -w / 2, 1), Vec3(l / 2, w / 2, 1),
                          Vec3(-l / 2, w / 2, 1)})
      part.fillet(p, corner).if_possible();
    part.fillet({0, -r, t}, size(3, 6)).if_possible();
    return part.solid();
  }

 private:
  using Operation = model::Operation;

  static sketch::Sketch ring_at(const Vec2& centre, double radius, double inner) {
    sketch::Sketch s;
    const sketch::Id point = s.add_point(centre);
    s.add_circle(point, radius);
    if (inner > 0) s.add_circle(point, inner);
    return s;
  }
  static void straight(PartBuilder& part, const Placement& at, double radius, double inner,
                       double length) {
    model::Extrude e;
    e.sketch = part.place(ring_at({0, 0}, radius, inner), at);
    e.extent.to.value = length;
    part.then(e);
  }
  /// Bends towards `u` and returns the placement of the new end.
  static Placement bent(PartBuilder& part, const Placement& at, const Vec3& u, double radius,
                        double inner, double bend, double angle) {
    Placement base = at;
    base.x = u;
    base.y = at.normal.cross(u);
    base.origin = at.origin + bend * u;  // the sketch's y axis is that of the bend
    model::Revolve r;
    r.sketch = part.place(ring_at({-bend, 0}, radius, inner), base);
    r.angle.value = angle;
    part.then(r);
    Placement end;
    end.normal = std::cos(angle) * at.normal + std::sin(angle) * u;
    end.x = std::cos(angle) * u - std::sin(angle) * at.normal;
    end.y = end.normal.cross(end.x);
    end.origin = base.origin - bend * end.x;
    return end;
  }
  /// A hole through one flange only.
  static void local_hole(PartBuilder& part, const Placement& flange, const Vec2& centre,
                         double radius, double thickness) {
    model::Extrude e;
    e.sketch = part.place(ring_at(centre, radius, 0), flange);
    e.operation = Operation::Cut;
    e.extent.from.value = -thickness;
    e.extent.to.value = thickness;
    part.then(e).if_possible();
  }
};

}  // namespace lostline::testing
