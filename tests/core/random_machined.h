#pragma once

#include <algorithm>

#include "chance.h"
#include "part_builder.h"

// Parts at random as they come from machines, or are cast and then machined all over.

namespace lostline::testing {

class MachinedPart : protected Chance {
 public:
  using Chance::Chance;

  model::Model milled() {
    const double l = size(90, 200);
    const double w = size(60, 140);
    const double h = size(18, 60);
    PartBuilder part;
    part.box({0, 0}, {l, w}, 0, h);
    if (chance(0.5)) {  // a slope over one end
      const double run = size(10, 0.3 * l);
      const double drop = size(5, 0.5 * h);
      Placement side;
      side.y = Vec3::UnitZ();
      side.normal = -Vec3::UnitY();
      part.extrude(
              {{l - run, h + 1}, {l + 1, h + 1}, {l + 1, h - drop}, {l, h - drop}, {l - run, h}},
              -w - 1, 1, Operation::Cut, 0, side)
          .if_possible();
    }
    if (chance(0.7)) {  // a pocket with rounded corners
      const double x0 = size(8, 20);
      const double x1 = size(0.35 * l, 0.6 * l);
      const double y0 = size(8, 16);
      const double y1 = w - size(8, 16);
      const double floor = size(0.3 * h, 0.7 * h);
      part.box({x0, y0}, {x1, y1}, floor, h + 5, Operation::Cut).if_possible();
      if (chance(0.6)) {
        const double r = size(3, 8);
        const double z = 0.5 * (floor + h);
        for (const Vec3& corner :
             {Vec3(x0, y0, z), Vec3(x1, y0, z), Vec3(x1, y1, z), Vec3(x0, y1, z)})
          part.fillet(corner, r).if_possible();
      }
    }
    if (chance(0.5)) {
      const double x = size(0.65 * l, 0.72 * l);
      part.box({x, -5}, {x + size(6, 14), w + 5}, h - size(4, 0.4 * h), h + 5, Operation::Cut)
          .if_possible();
    }
    const double d = size(5, 14);
    const double edge = size(d, d + 6);
    const std::vector<Vec2> corners{
        {edge, edge}, {l - edge, edge}, {l - edge, w - edge}, {edge, w - edge}};
    part.holes(corners, d).if_possible();
    if (chance(0.5)) {
      for (const Vec2& c : corners)
        part.disc(c, 0.9 * d, 0.6 * h, h + 5, Operation::Cut).if_possible();
    }
    if (chance(0.5)) {
      const double r = size(5, 12);
      for (const Vec3& corner : {Vec3(0, 0, 1), Vec3(l, 0, 1), Vec3(l, w, 1), Vec3(0, w, 1)})
        part.fillet(corner, r).if_possible();
    }
    if (chance(0.5)) {
      const double c = size(1.5, 5);
      part.chamfer({0.5 * l, 0, h}, c).if_possible();
      part.chamfer({0.5 * l, w, h}, c).if_possible();
    }
    return part.solid();
  }

  model::Model turned() {
    const bool bored = chance(0.7);
    const double bore = bored ? size(6, 14) : 0;
    std::vector<Vec2> profile{{bore, 0}};
    const int steps = count(3, 7);
    double z = 0;
    double r = size(22, 60);
    profile.emplace_back(r, 0);
    for (int k = 0; k < steps; ++k) {
      z += size(8, 30);
      profile.emplace_back(r, z);
      if (k + 1 == steps) break;
      const double next = std::max(bore + 6, size(bore + 6, 60));
      if (std::abs(next - r) < 1) continue;
      if (chance(0.3)) z += size(0.3, 2.0) * std::abs(next - r);  // a cone
      profile.emplace_back(next, z);
      r = next;
    }
    profile.emplace_back(bore, z);
    PartBuilder part;
    part.turn(profile);
    if (bored && chance(0.5))
      part.disc({0, 0}, size(bore + 1, std::min(bore + 5, r - 3)), z - size(5, 0.4 * z), z + 1,
                Operation::Cut)
          .if_possible();
    if (chance(0.4)) part.ring(r, z - size(3.5, 6), size(1.5, 3)).if_possible();
    if (!bored && chance(0.5))
      part.ball(z, size(6, 0.8 * r), chance(0.5) ? Operation::Cut : Operation::Add).if_possible();
    if (chance(0.6)) part.chamfer({r, 0, z}, size(1, 3)).if_possible();
    if (chance(0.6)) part.chamfer({profile[1].x(), 0, 0}, size(1, 3)).if_possible();
    for (std::size_t k = 2; k + 2 < profile.size(); ++k) {
      if (chance(0.3)) part.fillet({profile[k].x(), 0, profile[k].y()}, size(1.5, 5)).if_possible();
    }
    if (chance(0.4)) {  // a cross hole
      Placement side;
      side.y = Vec3::UnitZ();
      side.normal = -Vec3::UnitY();
      part.cross_hole(side, {0, size(8, 0.5 * z)}, size(3, 6)).if_possible();
    }
    return part.solid();
  }

  model::Model flange() {
    const double bore = size(12, 30);
    const double hub = bore + size(6, 15);
    const double outer = hub + size(25, 45);
    const double thick = size(8, 22);
    const double high = thick + size(15, 60);
    PartBuilder part;
    const bool tapered = chance(0.4);
    part.turn({{bore, 0},
               {outer, 0},
               {outer, thick},
               {hub + (tapered ? size(3, 9) : 0), thick},
               {hub, high},
               {bore, high}});
    const int n = count(3, 10);
    const double d = size(5, 13);
    const auto centres = circle(n, 0.5 * (hub + outer) + 2, between(0, 1));
    part.holes(centres, d).if_possible();
    if (chance(0.4)) {
      for (const Vec2& c : centres)
        part.disc(c, 0.8 * d, 0.6 * thick, thick + 2, Operation::Cut).if_possible();
    } else if (chance(0.5)) {
      for (const Vec2& c : centres)
        part.disc(c, d, thick - 0.5 * d, thick, Operation::Cut, -45 * kDegree).if_possible();
    }
    if (!tapered && chance(0.6)) part.fillet({hub, 0, thick}, size(2, 7)).if_possible();
    if (chance(0.6)) part.chamfer({outer, 0, thick}, size(1, 3)).if_possible();
    if (chance(0.4)) part.fillet({outer, 0, 0}, size(1.5, 4)).if_possible();
    if (chance(0.5)) part.chamfer({bore, 0, high}, size(1, 2.5)).if_possible();
    if (chance(0.4)) part.ring(0.5 * (hub + bore) + 14, 0, size(1.5, 3)).if_possible();
    return part.solid();
  }

  model::Model cast() {
    const double l = size(100, 190);
    const double w = size(70, 130);
    const double t = size(8, 18);
    const double draft = size(1, 3) * kDegree;
    PartBuilder part;
    part.box({-l / 2, -w / 2}, {l / 2, w / 2}, 0, t, Operation::Add);
    const double r = size(16, 30);
    const double h = size(30, 70);
    const double x = chance(0.5) ? 0 : size(-0.2 * l, 0.2 * l);
    part.disc({x, 0}, r, t, h, Operation::Add, draft).if_possible();
    if (chance(0.6))
      part.box({x, -5}, {x + r + size(10, 20), 5}, t, size(t + 10, h - 4), Operation::Add, draft)
          .if_possible();
    part.disc({x, 0}, size(6, r - 6), -1, h + 1, Operation::Cut).if_possible();
    const double d = size(7, 14);
    const double edge = size(d, d + 4);
    const std::vector<Vec2> corners{{-l / 2 + edge, -w / 2 + edge},
                                    {l / 2 - edge, -w / 2 + edge},
                                    {l / 2 - edge, w / 2 - edge},
                                    {-l / 2 + edge, w / 2 - edge}};
    part.holes(corners, d).if_possible();
    if (chance(0.5))
      for (const Vec2& c : corners) part.disc(c, d, t - 1.5, t + 2, Operation::Cut).if_possible();
    const double corner = size(6, 16);
    for (const Vec3& p : {Vec3(-l / 2, -w / 2, 1), Vec3(l / 2, -w / 2, 1), Vec3(l / 2, w / 2, 1),
                          Vec3(-l / 2, w / 2, 1)})
      part.fillet(p, corner).if_possible();
    if (chance(0.7)) part.fillet({x, -r, t}, size(2.5, 6)).if_possible();
    if (chance(0.4)) part.fillet({0, -w / 2, t}, size(1.5, 3)).if_possible();
    return part.solid();
  }

  model::Model bracket() {
    const double l = size(90, 180);
    const double w = size(40, 90);
    const double t = size(5, 12);
    const double h = size(50, 120);
    PartBuilder part;
    Placement side;
    side.y = Vec3::UnitZ();
    side.normal = -Vec3::UnitY();
    const double lean = chance(0.4) ? std::tan(between(-3, 20) * kDegree) : 0;
    part.box({0, 0}, {l, w}, 0, t);
    part.extrude({{0, 0.5 * t}, {t, 0.5 * t}, {t + h * lean, h}, {h * lean, h}}, -w, 0,
                 Operation::Add, 0, side)
        .if_possible();
    if (chance(0.7))
      part.extrude({{0.5 * t, 0.5 * t}, {0.5 * l, 0.5 * t}, {0.5 * t + 0.7 * h * lean, 0.7 * h}},
                   -0.5 * w - 3, -0.5 * w + 3, Operation::Add, 0, side)
          .if_possible();
    const double d = size(6, 14);
    part.holes({{l - 1.5 * d, 1.2 * d}, {l - 1.5 * d, w - 1.2 * d}}, d).if_possible();
    if (chance(0.5)) part.fillet({t, 1, t}, size(2, 6)).if_possible();
    if (chance(0.6)) {
      const double r = size(5, 15);
      part.fillet({l, 0, 1}, r).if_possible();
      part.fillet({l, w, 1}, r).if_possible();
    }
    if (lean == 0 && chance(0.7)) {
      Placement wall;
      wall.x = Vec3::UnitY();
      wall.y = Vec3::UnitZ();
      wall.normal = Vec3::UnitX();
      part.cross_hole(wall, {0.25 * w, 0.8 * h}, size(4, 8)).if_possible();
    }
    return part.solid();
  }

  model::Model housing() {
    const double l = size(100, 190);
    const double w = size(70, 130);
    const double h = size(25, 60);
    const double wall = size(3, 8);
    PartBuilder part;
    part.box({-l / 2, -w / 2}, {l / 2, w / 2}, 0, h);
    const double corner = size(8, 20);
    if (chance(0.7))
      for (const Vec3& p : {Vec3(-l / 2, -w / 2, 1), Vec3(l / 2, -w / 2, 1), Vec3(l / 2, w / 2, 1),
                            Vec3(-l / 2, w / 2, 1)})
        part.fillet(p, corner).if_possible();
    const double a = l / 2 - wall;
    const double b = w / 2 - wall;
    part.box({-a, -b}, {a, b}, wall, h + 5, Operation::Cut, chance(0.5) ? -1.5 * kDegree : 0)
        .if_possible();
    if (chance(0.6)) part.fillet({0, -b, wall}, size(2, 5)).if_possible();
    const double r = size(6, 10);
    const double top = h - size(3, 10);
    const std::vector<Vec2> posts{{-a + 2 * r, -b + 2 * r},
                                  {a - 2 * r, -b + 2 * r},
                                  {a - 2 * r, b - 2 * r},
                                  {-a + 2 * r, b - 2 * r}};
    for (const Vec2& c : posts) part.disc(c, r, wall - 1, top).if_possible();
    for (const Vec2& c : posts)
      part.disc(c, size(2, 3.5), wall + 2, h + 5, Operation::Cut).if_possible();
    if (chance(0.5)) {
      const double q = size(12, 22);
      part.disc({0, 0}, q, 0, wall + 8).if_possible();
      part.disc({0, 0}, q - size(3, 6), -1, h, Operation::Cut).if_possible();
    }
    if (chance(0.5)) part.chamfer({0, -w / 2, 0}, size(1, 3)).if_possible();
    return part.solid();
  }

  /// What is small beside the part: floors a millimetre apart, thin ribs, countersinks, narrow
  /// bevels.
  model::Model detailed() {
    const double l = size(70, 130);
    const double w = size(50, 90);
    const double h = size(12, 25);
    PartBuilder part;
    part.box({0, 0}, {l, w}, 0, h);
    const double floor = h - size(2, 5);
    const double middle = size(0.3 * l, 0.45 * l);
    part.box({8, 8}, {middle, w - 8}, floor, h + 2, Operation::Cut).if_possible();
    part.box({middle - 2, 8}, {0.7 * l, w - 8}, floor + size(1, 1.5), h + 2, Operation::Cut)
        .if_possible();
    const double rib = size(2, 3);
    part.box({0.3 * l, 0.5 * w}, {0.6 * l, 0.5 * w + rib}, floor - 1, h + size(8, 20))
        .if_possible();
    const double d = size(5, 8);
    for (const double y : {0.25 * w, 0.75 * w}) {
      part.holes({{0.85 * l, y}}, d).if_possible();
      part.disc({0.85 * l, y}, d, h - 0.5 * d, h, Operation::Cut, -45 * kDegree).if_possible();
    }
    const double c = size(1, 2);
    part.chamfer({0.5 * l, 0, 0}, c).if_possible();
    part.chamfer({0.5 * l, w, 0}, c).if_possible();
    if (chance(0.5)) part.chamfer({0, 0.5 * w, 0}, c).if_possible();
    return part.solid();
  }
  /// A turned part all of whose edges are broken.
  model::Model bevelled() {
    const double bore = size(6, 14);
    std::vector<Vec2> profile{{bore, 0}};
    std::vector<Vec2> outer;
    double z = 0;
    for (int k = count(2, 4); k > 0; --k) {
      const double r = size(bore + 8, 45);
      if (!outer.empty() && std::abs(r - outer.back().x()) < 4) continue;
      const double c = size(1, 2);
      const double length = size(10, 25);
      outer.emplace_back(r - c, z);
      outer.emplace_back(r, z + c);
      outer.emplace_back(r, z + length - c);
      outer.emplace_back(r - c, z + length);
      z += length;
    }
    const double c = size(1, 2);
    profile = {{bore + c, 0}};
    profile.insert(profile.end(), outer.begin(), outer.end());
    profile.emplace_back(bore + c, z);
    profile.emplace_back(bore, z - c);
    profile.emplace_back(bore, c);
    PartBuilder part;
    part.turn(profile);
    if (chance(0.5)) {
      const double d = size(4, 7);
      const double r = outer[outer.size() - 1].x();
      if (r - bore > 2.5 * d + 2)
        for (const Vec2& p : circle(count(3, 6), 0.5 * (r + bore), between(0, 1)))
          part.disc(p, 0.5 * d, -1, z + 1, Operation::Cut).if_possible();
    }
    return part.solid();
  }

 private:
  using Operation = model::Operation;
};

}  // namespace lostline::testing
