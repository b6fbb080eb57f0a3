#pragma once

#include "part_builder.h"
#include "simulate/scanner.h"

// A family of varied parts with known surfaces: milled, turned, cast with draft, fabricated.

namespace lostline::testing {

struct Part {
  std::string name;
  model::Model solid;
  simulate::SurfaceState surface = {};
};

inline std::vector<Part> part_family() {
  using model::Operation;
  const double degree = std::numbers::pi / 180;
  std::vector<Part> parts;
  // Milled: pocket, slot, counterbores, a slope.
  parts.push_back({"milled block", PartBuilder()
                                       .box({0, 0}, {160, 100}, 0, 40)
                                       .box({20, 20}, {90, 80}, 22, 45, Operation::Cut)
                                       .box({110, -5}, {122, 105}, 30, 45, Operation::Cut)
                                       .holes({{140, 20}, {140, 80}, {10, 10}, {10, 90}}, 9)
                                       .disc({140, 20}, 8, 31, 45, Operation::Cut)
                                       .disc({140, 80}, 8, 31, 45, Operation::Cut)
                                       .solid()});
  // Turned: steps, a cone, a groove, a bore.
  parts.push_back({"turned shaft", PartBuilder()
                                       .turn({{10, 0},
                                              {30, 0},
                                              {30, 25},
                                              {24, 31},
                                              {24, 70},
                                              {20, 70},
                                              {20, 76},
                                              {24, 76},
                                              {24, 110},
                                              {16, 150},
                                              {16, 180},
                                              {10, 180}})
                                       .solid()});
  // Cast: drafted boss and walls on a plate, rounded at the foot.
  parts.push_back({"cast cover", PartBuilder()
                                     .box({-90, -60}, {90, 60}, 0, 12)
                                     .disc({0, 0}, 35, 12, 60, Operation::Add, 3 * degree)
                                     .box({-80, -6}, {-40, 6}, 12, 40, Operation::Add, 2 * degree)
                                     .holes({{-75, -45}, {75, -45}, {75, 45}, {-75, 45}}, 11)
                                     .holes({{0, 0}}, 30)
                                     .fillet({0, -35, 12}, 5)
                                     .solid()});
  // Fabricated: thin plates, off the square by a degree.
  const double lean = std::tan(1 * degree);
  Placement upright;  // xz, seen from the front
  upright.y = Vec3::UnitZ();
  upright.normal = -Vec3::UnitY();
  parts.push_back(
      {"welded bracket",
       PartBuilder()
           .box({0, 0}, {180, 80}, 0, 8)
           .extrude({{0, 4}, {8, 4}, {8 + 120 * lean, 124}, {120 * lean, 124}}, -80, 0,
                    Operation::Add, 0, upright)
           .extrude({{6, 6}, {70, 6}, {6 + 60 * lean, 70}}, -44, -38, Operation::Add, 0, upright)
           .holes({{100, 20}, {100, 60}, {150, 40}}, 14)
           .solid()});
  // A flange with a bolt circle, a register and a conical seat.
  std::vector<Vec2> circle;
  for (int k = 0; k < 8; ++k)
    circle.emplace_back(70 * std::cos(k * 45 * degree), 70 * std::sin(k * 45 * degree));
  parts.push_back({"flange", PartBuilder()
                                 .turn({{25, 0},
                                        {90, 0},
                                        {90, 18},
                                        {50, 18},
                                        {50, 22},
                                        {42, 22},
                                        {42, 60},
                                        {31, 60},
                                        {25, 40}})
                                 .holes(circle, 11)
                                 .solid()});
  // Turned with rounds and chamfers.
  parts.push_back({"rounded hub", PartBuilder()
                                      .turn({{15, 2},
                                             {17, 0},
                                             {58, 0},
                                             {60, 2},
                                             {60, 16},
                                             {34, 16},
                                             {34, 60},
                                             {32, 62},
                                             {17, 62},
                                             {15, 60}})
                                      .fillet({34, 0, 16}, 6)
                                      .fillet({60, 0, 16}, 3)
                                      .solid()});
  // Many faces: a plate full of holes with slots between.
  std::vector<Vec2> field;
  for (int i = 0; i < 12; ++i) {
    for (int j = 0; j < 8; ++j) field.emplace_back(-88 + 16 * i, -56 + 16 * j);
  }
  parts.push_back({"hole plate", PartBuilder()
                                     .box({-100, -70}, {100, 70}, 0, 10)
                                     .holes(field, 8)
                                     .box({-70, -50}, {-34, -46}, 4, 12, model::Operation::Cut)
                                     .box({40, 45}, {70, 51}, 4, 12, model::Operation::Cut)
                                     .solid()});
  // Thin walls: a tray with ribs, bosses and counterbored feet.
  parts.push_back({"thin tray", PartBuilder()
                                    .box({-80, -50}, {80, 50}, 0, 32)
                                    .box({-77, -47}, {77, 47}, 3, 40, Operation::Cut)
                                    .box({-77, -1.25}, {77, 1.25}, 2, 18)
                                    .disc({-50, 25}, 9, 2, 28)
                                    .disc({50, -25}, 9, 2, 28)
                                    .holes({{-50, 25}, {50, -25}}, 6)
                                    .disc({-50, 25}, 5.5, -1, 4, Operation::Cut)
                                    .disc({50, -25}, 5.5, -1, 4, Operation::Cut)
                                    .solid()});
  // Few faces.
  parts.push_back({"cone plug", PartBuilder().turn({{0, 0}, {40, 0}, {25, 70}, {0, 70}}).solid()});
  return parts;
}

}  // namespace lostline::testing
