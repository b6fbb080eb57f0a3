#include <gtest/gtest.h>

#include <algorithm>
#include <set>

#include "chance.h"
#include "model/route.h"
#include "model/steps/extrude/extrude.h"
#include "model/steps/fillet/fillet.h"
#include "model/steps/hole/hole.h"
#include "model/steps/pattern/pattern.h"
#include "support/rounds.h"

// Steps made in one go come out as one after another would give them.

namespace lostline::testing {
namespace {

using model::Id;
using model::StepState;
using model::Wanted;

/// A plate of 200 x 120 x 12 times `scale` with whatever chance puts on it: holes, pockets, bosses
/// and slots, some on top of each other, some beside the plate, some that part a face.
class RandomPlate : public Chance {
 public:
  RandomPlate(unsigned seed, double scale) : Chance(seed), scale_(scale) {
    block({0, 0}, {200, 120}, 0, 12, model::Operation::Add);
    const int many = count(8, 16);
    for (int k = 0; k < many; ++k) something();
  }

  /// Changes a number of an early step.
  void change() {
    auto* block = steps[0].feature.as<model::Extrude>();
    block->extent.from.value -= 0.5 * scale_;
  }

  std::vector<model::Step> steps;
  std::map<Id, model::PlacedSketch> sketches;

 private:
  void something() {
    const Vec2 at{between(10, 190), between(10, 110)};
    const double a = between(2, 9);
    switch (count(0, 9)) {
      case 0:
      case 1:
      case 2:
        hole(at, a, {});
        break;
      case 3:
        hole(at, a, {});
        steps.back().parked = chance(0.4);
        break;
      case 4:  // a pocket
        block(at, at + Vec2(a, between(3, 12)), between(4, 11), 20, model::Operation::Cut);
        break;
      case 5:  // two bosses
        block(at, at + Vec2(a, a), 5, between(14, 30), model::Operation::Add);
        disc({between(10, 190), between(10, 110)}, a, 5, between(14, 30));
        break;
      case 6:  // parts the top
        block({at.x(), -10}, {at.x() + a, 130}, 8, 20, model::Operation::Cut);
        break;
      case 7:  // beside the plate
        hole({-50 - at.x(), at.y()}, a, {});
        break;
      case 8: {  // the last hole once more
        const auto last = std::find_if(steps.rbegin(), steps.rend(), [](const model::Step& s) {
          return s.feature.as<model::Hole>() != nullptr && !s.parked;
        });
        if (last == steps.rend()) break;
        model::Pattern pattern;
        pattern.source = last->id;
        pattern.direction.datum = 0;
        pattern.count = 2;
        pattern.spacing.value = 7 * scale_;
        add(pattern);
        break;
      }
      default:  // from the top down, on the face that is there
        hole(at, a, "s1:end");
        break;
    }
  }
  void add(model::Feature feature) {
    const Id id = steps.size() + 1;
    steps.push_back(
        {id, static_cast<int>(10 * id), "step " + std::to_string(id), false, std::move(feature)});
  }
  void hole(const Vec2& at, double diameter, const std::string& face) {
    model::Hole h;
    h.sketch = sketches.size() + 1;
    sketch::Sketch s;
    h.circles = {s.add_circle(s.add_point(scale_ * at), scale_ * diameter / 2)};
    sketches[h.sketch] = {s, {}, 0, face};
    h.diameter.value = scale_ * diameter;
    if (!face.empty()) {
      h.extent.reach = model::Reach::Levels;
      h.extent.from.value = -4 * scale_;
      h.extent.to.value = 3 * scale_;
    }
    add(h);
  }
  void disc(const Vec2& at, double radius, double from, double to) {
    sketch::Sketch s;
    s.add_circle(s.add_point(scale_ * at), scale_ * radius);
    extrude(std::move(s), from, to, model::Operation::Add);
  }
  void block(const Vec2& low, const Vec2& high, double from, double to,
             model::Operation operation) {
    sketch::Sketch s;
    std::vector<sketch::Id> corners;
    for (const Vec2& corner : {low, Vec2(high.x(), low.y()), high, Vec2(low.x(), high.y())})
      corners.push_back(s.add_point(scale_ * corner));
    for (std::size_t k = 0; k < 4; ++k) s.add_line(corners[k], corners[(k + 1) % 4]);
    extrude(std::move(s), from, to, operation);
  }
  void extrude(sketch::Sketch s, double from, double to, model::Operation operation) {
    model::Extrude e;
    e.sketch = sketches.size() + 1;
    sketches[e.sketch] = {std::move(s), {}, 0, {}};
    e.operation = operation;
    e.extent.from.value = scale_ * from;
    e.extent.to.value = scale_ * to;
    add(e);
  }
  double scale_;
};

std::set<std::string> names_of(const model::Model& model) {
  std::set<std::string> names;
  for (std::size_t f = 0; f < model.face_count(); ++f) names.insert(model.face_name(f));
  return names;
}

/// The same states, reasons and, where both know it, the same models.
void expect_same(const std::vector<model::StepResult>& one,
                 const std::vector<model::StepResult>& other) {
  ASSERT_EQ(one.size(), other.size());
  for (std::size_t i = 0; i < one.size(); ++i) {
    SCOPED_TRACE(i);
    EXPECT_EQ(one[i].state, other[i].state) << one[i].reason << " | " << other[i].reason;
    EXPECT_EQ(one[i].reason, other[i].reason);
    if (!one[i].kept || !other[i].kept) continue;
    EXPECT_NEAR(one[i].solid.volume(), other[i].solid.volume(), 1e-9 * one[i].solid.volume());
    EXPECT_EQ(names_of(one[i].solid), names_of(other[i].solid));
  }
}

TEST(SideBySide, GivesWhatOneAfterAnotherGives) {
  int saved = 0;
  for (unsigned seed = 0; seed < static_cast<unsigned>(rounds(40, 6, 6)); ++seed) {
    SCOPED_TRACE(seed);
    RandomPlate plate(4100 + seed, seed % 3 == 0 ? 0.05 : seed % 3 == 1 ? 1 : 15);
    model::RouteCache by_itself;
    model::RouteCache in_one_go;
    for (int round = 0; round < 2; ++round) {  // and once more after a change early in the Route
      const auto one = model::recompute(plate.steps, plate.sketches, by_itself);
      const auto other =
          model::recompute(plate.steps, plate.sketches, in_one_go, {}, Wanted::last());
      ASSERT_TRUE(one && other);
      expect_same(*one, *other);
      EXPECT_TRUE(other->back().kept);
      for (const auto& result : *other) saved += result.kept ? 0 : 1;
      // Asked again, it is all there.
      const auto again =
          model::recompute(plate.steps, plate.sketches, in_one_go, {}, Wanted::last());
      ASSERT_TRUE(again);
      EXPECT_EQ(&again->back().solid.impl(), &other->back().solid.impl());
      plate.change();
    }
  }
  EXPECT_GT(saved, 20);  // of about 140
}

TEST(SideBySide, ModelsThatAreWantedAreThere) {
  RandomPlate plate(4200, 1);
  for (std::size_t k = 1; k < plate.steps.size(); k += 4) {
    model::RouteCache cache;
    const auto first = model::recompute(plate.steps, plate.sketches, cache, {}, Wanted::last());
    const auto then =
        model::recompute(plate.steps, plate.sketches, cache, {}, Wanted::last({plate.steps[k].id}));
    model::RouteCache fresh;
    const auto all = model::recompute(plate.steps, plate.sketches, fresh);
    ASSERT_TRUE(first && then && all);
    ASSERT_TRUE((*then)[k - 1].kept);
    expect_same(*all, *then);
  }
}

TEST(SideBySide, AHundredHolesAreOneOperation) {
  model::Extrude block;
  block.sketch = 1;
  block.extent.to.value = 10;
  std::map<Id, model::PlacedSketch> sketches;
  sketch::Sketch outline;
  outline.add_circle(outline.add_point({0, 0}), 200);
  sketches[1] = {outline, {}, 0, {}};
  std::vector<model::Step> steps{{1, 10, "plate", false, block}};
  for (int k = 0; k < 99; ++k) {
    model::Hole hole;
    hole.sketch = sketches.size() + 1;
    sketch::Sketch s;
    hole.circles = {s.add_circle(s.add_point({-90 + 20 * (k % 10), -90 + 20 * (k / 10)}), 2)};
    sketches[hole.sketch] = {s, {}, 0, {}};
    hole.diameter.value = 4 + 0.05 * k;
    const Id id = steps.size() + 1;
    steps.push_back({id, 0, "hole", false, hole});
  }
  model::RouteCache cache;
  const auto results = model::recompute(steps, sketches, cache, {}, Wanted::last());
  ASSERT_TRUE(results);
  EXPECT_EQ(std::count_if(results->begin(), results->end(), [](const auto& r) { return r.kept; }),
            2);
  EXPECT_EQ(results->back().solid.face_count(), 3U + 99U);
  EXPECT_TRUE(results->back().solid.valid());
}

}  // namespace
}  // namespace lostline::testing
