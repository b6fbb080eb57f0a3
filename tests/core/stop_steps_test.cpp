#include <set>
#include <stop_token>

#include "model/steps/pattern/pattern.h"
#include "part_builder.h"

// Steps that take long stop when they are asked to, say how far they are, and leave nothing wrong
// behind.

namespace lostline::testing {
namespace {

using model::Wanted;

/// A plate with bosses in a row and a step on all of them.
struct Bosses {
  std::vector<model::Step> steps;
  std::map<model::Id, model::PlacedSketch> sketches;

  explicit Bosses(int many) {
    disc({0, 0}, 200, 0, 10);
    for (int k = 0; k < many; ++k) disc({-150.0 + 30 * k, 0}, 10, 5, 30);
  }
  void disc(const Vec2& at, double radius, double from, double to) {
    sketch::Sketch s;
    s.add_circle(s.add_point(at), radius);
    const model::Id id = steps.size() + 1;
    sketches[id] = {s, {}, from, {}};
    model::Extrude e;
    e.sketch = id;
    e.extent.from.value = from;
    e.extent.to.value = to;
    add(e);
  }
  void add(model::Feature feature) {
    const model::Id id = steps.size() + 1;
    steps.push_back({id, static_cast<int>(10 * id), "step", false, std::move(feature)});
  }
  [[nodiscard]] model::Model made() const {
    model::RouteCache cache;
    const auto results = model::recompute(steps, sketches, cache);
    EXPECT_TRUE(results);
    for (const auto& r : *results) EXPECT_EQ(r.state, model::StepState::Sound) << r.reason;
    return results->back().solid;
  }
  /// The rims at the top.
  [[nodiscard]] std::vector<model::EdgeRef> rims(double level) const {
    const model::Model solid = made();
    const auto shape = model::tessellate(solid);
    std::vector<model::EdgeRef> rims;
    for (const auto& line : shape->edges) {
      if (std::all_of(line.points.begin(), line.points.end(),
                      [&](const Vec3& p) { return std::abs(p.z() - level) < 1e-6; }))
        rims.push_back(solid.ref_of_edge(line.edge, line.points.front()));
    }
    return rims;
  }
};

/// Stops once the progress has come to a share.
void expect_stop(const Bosses& bosses, double share, const Wanted& wanted) {
  model::RouteCache cache;
  std::stop_source stop;
  double last = 0;
  bool backwards = false;
  const Task task(stop.get_token(), [&](double p) {
    backwards = backwards || p < last - 1e-9;
    last = p;
    if (p > share) stop.request_stop();
  });
  const auto stopped = model::recompute(bosses.steps, bosses.sketches, cache, task, wanted);
  ASSERT_FALSE(stopped) << "it went on to " << last;
  EXPECT_EQ(stopped.error().code, ErrorCode::Cancelled);
  EXPECT_LT(last, 1);
  EXPECT_FALSE(backwards);
  // What was stopped is not taken for broken.
  const auto whole = model::recompute(bosses.steps, bosses.sketches, cache, {}, wanted);
  ASSERT_TRUE(whole);
  EXPECT_EQ(whole->back().state, model::StepState::Sound) << whole->back().reason;
  EXPECT_NEAR(whole->back().solid.volume(), bosses.made().volume(), 1e-6);
}

TEST(StopSteps, BetweenChainsOfAFillet) {
  Bosses bosses(9);
  model::Fillet fillet;
  fillet.edges = bosses.rims(30);
  ASSERT_EQ(fillet.edges.size(), 9U);
  fillet.radius.value = 2;
  bosses.add(fillet);
  // The step is the last of eleven: a third of it is done.
  expect_stop(bosses, (10 + 0.33) / 11, {});
  expect_stop(bosses, (10 + 0.33) / 11, Wanted::last());
}

TEST(StopSteps, BetweenChainsOfAChamfer) {
  Bosses bosses(9);
  model::Chamfer chamfer;
  chamfer.edges = bosses.rims(30);
  chamfer.distance.value = 1;
  bosses.add(chamfer);
  expect_stop(bosses, (10 + 0.5) / 11, {});
}

TEST(StopSteps, WithinABoolean) {
  Bosses bosses(1);
  model::Pattern pattern;
  pattern.source = 2;
  pattern.arranged = model::Pattern::Kind::Linear;
  pattern.direction.datum = 0;
  pattern.count = 12;
  pattern.spacing.value = 25;
  bosses.add(pattern);
  expect_stop(bosses, 2.05 / 3, {});
}

TEST(Chains, OfAFilletAreMadeAsOneAfterAnother) {
  Bosses once(5);
  Bosses each(5);
  model::Fillet fillet;
  fillet.edges = once.rims(30);
  fillet.radius.value = 3;
  for (const model::EdgeRef& edge : fillet.edges) {
    model::Fillet own = fillet;
    own.edges = {edge};
    each.add(own);
  }
  once.add(fillet);
  const model::Model a = once.made();
  const model::Model b = each.made();
  EXPECT_EQ(a.face_count(), b.face_count());
  EXPECT_NEAR(a.volume(), b.volume(), 1e-6);
  // The ring that a rounded rim of radius 10 takes off (Pappus): a square less a quarter of a disc.
  const double square = 9 * 2 * kPi * (10 - 1.5);
  const double disc = kPi * 9 / 4 * 2 * kPi * (7 + 4 * 3 / (3 * kPi));
  Bosses bare(5);
  EXPECT_NEAR(bare.made().volume() - a.volume(), 5 * (square - disc), 1e-6 * a.volume());
  // Each is named for the faces it lies between.
  std::set<std::string> names;
  for (std::size_t f = 0; f < a.face_count(); ++f)
    if (a.face_name(f).find(":fillet:") != std::string::npos) names.insert(a.face_name(f));
  EXPECT_EQ(names.size(), 5U);
}

TEST(Chains, ThatRunOnSmoothlyAreOne) {
  // Two sides of a block and the round between them, of which the sides are picked.
  PartBuilder part;
  part.box({0, 0}, {40, 30}, 0, 20).fillet({40, 30, 10}, 6);
  const model::Model solid = part.solid();
  const auto shape = model::tessellate(solid);
  model::Fillet top;
  top.radius.value = 2;
  for (const auto& line : shape->edges) {
    const Vec3 middle = line.points[line.points.size() / 2];
    const bool side = (std::abs(line.points.front().y() - 30) < 1e-6 &&
                       std::abs(line.points.back().y() - 30) < 1e-6) ||
                      (std::abs(line.points.front().x() - 40) < 1e-6 &&
                       std::abs(line.points.back().x() - 40) < 1e-6);
    if (side && std::abs(line.points.front().z() - 20) < 1e-6 &&
        std::abs(line.points.back().z() - 20) < 1e-6)
      top.edges.push_back(solid.ref_of_edge(line.edge, middle));
  }
  ASSERT_EQ(top.edges.size(), 2U);
  part.then(top);
  EXPECT_EQ(part.refusal(), "");
  EXPECT_TRUE(part.solid().valid());
  EXPECT_EQ(part.solid().face_count(), solid.face_count() + 3);
}

TEST(Trials, AreTakenOverWhenTheyAreKept) {
  Bosses bosses(3);
  model::RouteCache cache;
  const auto before = model::recompute(bosses.steps, bosses.sketches, cache);
  ASSERT_TRUE(before);
  model::Fillet fillet;
  fillet.edges = bosses.rims(30);
  fillet.radius.value = 2;
  bosses.add(fillet);
  const model::Id step = bosses.steps.back().id;
  const auto trial =
      model::recompute(bosses.steps, bosses.sketches, cache, {}, Wanted::trial(step));
  ASSERT_TRUE(trial);
  const auto kept = model::recompute(bosses.steps, bosses.sketches, cache);
  ASSERT_TRUE(kept);
  EXPECT_EQ(&kept->back().solid.impl(), &trial->back().solid.impl());
  // One of other numbers is made anew.
  bosses.steps.back().feature.as<model::Fillet>()->radius.value = 3;
  const auto other = model::recompute(bosses.steps, bosses.sketches, cache);
  ASSERT_TRUE(other);
  EXPECT_GT(std::abs(other->back().solid.volume() - trial->back().solid.volume()), 1);
}

}  // namespace
}  // namespace lostline::testing
