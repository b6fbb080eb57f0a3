// What a distance from a part must be, whatever its shape, and what figures of many distances are.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <random>

#include "deviation/deviation.h"
#include "part_builder.h"

namespace lostline {
namespace {

using testing::PartBuilder;

/// A plate with a slot, a turned post with a round at its foot and a leaning wall.
model::Model bracket(double size) {
  return PartBuilder()
      .box(size * Vec2(-40, -25), size * Vec2(40, 25), 0, size * 10)
      .box(size * Vec2(-35, -4), size * Vec2(-15, 4), 0, size * 10, model::Operation::Cut)
      .disc({size * 15, 0}, size * 9, size * 10, size * 30, model::Operation::Add, 0.05)
      .fillet(size * Vec3(15, 9, 10), size * 2)
      .solid();
}

std::vector<Vec3> around(const model::Model& part, std::size_t count, unsigned seed) {
  std::mt19937_64 random(seed);
  std::uniform_real_distribution<double> share(-0.05, 1.05);
  const Box3 box = part.box();
  std::vector<Vec3> places;
  for (std::size_t i = 0; i < count; ++i)
    places.push_back(
        box.min() +
        Vec3(share(random), share(random), share(random)).cwiseProduct(Vec3(box.sizes())));
  return places;
}

TEST(DeviationProperties, TheFootLiesOnThePartAtTheDistanceTold) {
  for (const double size : {0.06, 1.0, 30.0}) {
    const model::Model part = bracket(size);
    const auto comparator = deviation::Comparator::build(part);
    ASSERT_TRUE(comparator);
    const double far = 100 * size;
    for (const Vec3& p : around(part, 1500, 3)) {
      const auto d = comparator->at(p, far);
      ASSERT_NE(d.face, scan::kNone);
      EXPECT_NEAR((p - d.foot).norm(), std::abs(d.distance), 1e-6 * size);
      const auto foot = comparator->at(d.foot, far);
      EXPECT_NEAR(foot.distance, 0, 2e-6 * size)
          << p.transpose() << " on " << part.face_name(d.face) << " at " << d.foot.transpose()
          << ", " << d.distance;
    }
  }
}

TEST(DeviationProperties, NoStepIsLongerThanTheWayThatMakesIt) {
  // A distance changes by no more than the place moves, through edges and from one face to the
  // next; through the surface its sign changes with it.
  const model::Model part = bracket(1);
  const auto comparator = deviation::Comparator::build(part);
  ASSERT_TRUE(comparator);
  std::mt19937_64 random(5);
  std::normal_distribution<double> step(0, 0.3);
  for (const Vec3& p : around(part, 3000, 4)) {
    const Vec3 q = p + Vec3(step(random), step(random), step(random));
    const double change = comparator->at(q, 100).distance - comparator->at(p, 100).distance;
    EXPECT_LE(std::abs(change), (q - p).norm() + 2e-5) << p.transpose() << " to " << q.transpose();
  }
}

TEST(DeviationProperties, GrowsWithThePartAndNamesTheSameFace) {
  const model::Model part = bracket(1);
  const auto comparator = deviation::Comparator::build(part);
  ASSERT_TRUE(comparator);
  for (const double size : {0.06, 30.0}) {
    const model::Model large = bracket(size);
    const auto scaled = deviation::Comparator::build(large);
    ASSERT_TRUE(scaled);
    std::size_t other_face = 0;
    for (const Vec3& p : around(part, 800, 6)) {
      const auto a = comparator->at(p, 100);
      const auto b = scaled->at(size * p, 100 * size);
      EXPECT_NEAR(b.distance, size * a.distance, 2e-5 * size) << p.transpose();
      other_face += part.face_name(a.face) == large.face_name(b.face) ? 0 : 1;
    }
    EXPECT_LE(other_face, 8U);  // midway between two faces either is right
  }
}

TEST(DeviationProperties, ManyPointsAreComparedAsOne) {
  const model::Model part = bracket(1);
  const auto comparator = deviation::Comparator::build(part);
  ASSERT_TRUE(comparator);
  const auto places = around(part, 4000, 7);
  const auto map = comparator->compare(places, 3);
  ASSERT_TRUE(map);
  for (std::size_t i = 0; i < places.size(); ++i) {
    const auto one = comparator->at(places[i], 3);
    ASSERT_EQ(map->face[i], one.face);
    if (one.face == scan::kNone) {
      EXPECT_TRUE(std::isnan(map->value[i]));
    } else {
      EXPECT_NEAR(map->value[i], one.distance, 1e-6);
    }
  }
}

TEST(DeviationProperties, FiguresAreThoseOfTheirDefinitions) {
  std::mt19937_64 random(9);
  std::normal_distribution<float> normal(0.02F, 0.05F);
  deviation::Map map;
  std::vector<double> values;
  for (int k = 0; k < 5000; ++k) {
    const bool none = k % 17 == 0;
    map.value.push_back(none ? std::nanf("") : normal(random));
    map.face.push_back(none ? scan::kNone : 0);
    if (!none) values.push_back(map.value.back());
  }
  const auto s = deviation::statistics(map, 0.06);
  ASSERT_EQ(s.n, values.size());
  EXPECT_EQ(s.unmatched, map.value.size() - values.size());
  double sum = 0;
  double squares = 0;
  std::size_t within = 0;
  std::vector<double> sizes;
  for (const double v : values) {
    sum += v;
    squares += v * v;
    within += std::abs(v) <= 0.06 ? 1 : 0;
    sizes.push_back(std::abs(v));
  }
  const auto n = static_cast<double>(values.size());
  EXPECT_NEAR(s.mean, sum / n, 1e-9);
  EXPECT_NEAR(s.rms, std::sqrt(squares / n), 1e-9);
  EXPECT_NEAR(s.sd, std::sqrt((squares - sum * sum / n) / n), 1e-9);
  EXPECT_NEAR(s.within_fraction, static_cast<double>(within) / n, 1e-12);
  EXPECT_EQ(s.max, *std::max_element(values.begin(), values.end()));
  EXPECT_EQ(s.min, *std::min_element(values.begin(), values.end()));
  EXPECT_EQ(map.value[s.max_at], static_cast<float>(s.max));
  EXPECT_EQ(map.value[s.min_at], static_cast<float>(s.min));
  std::sort(sizes.begin(), sizes.end());
  EXPECT_NEAR(s.p95_abs, sizes[static_cast<std::size_t>(0.95 * n)], 0.002);
  for (const std::size_t bins : {std::size_t{1}, std::size_t{10}, std::size_t{41}}) {
    const auto h = deviation::histogram(map, -0.05, 0.05, bins);
    ASSERT_EQ(h.counts.size(), bins);
    std::size_t all = 0;
    for (const std::size_t c : h.counts) all += c;
    EXPECT_EQ(all, values.size());  // what lies outside is in the end bins
  }
  // Turning every sign turns mean, extremes and histogram round and leaves the rest.
  deviation::Map turned = map;
  for (float& v : turned.value) v = -v;
  const auto t = deviation::statistics(turned, 0.06);
  EXPECT_NEAR(t.mean, -s.mean, 1e-12);
  EXPECT_NEAR(t.rms, s.rms, 1e-12);
  EXPECT_EQ(t.max, -s.min);
  EXPECT_EQ(t.within_fraction, s.within_fraction);
  EXPECT_NEAR(t.p95_abs, s.p95_abs, 1e-12);
}

}  // namespace
}  // namespace lostline
