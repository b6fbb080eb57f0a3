// Curves drawn along a section from place to place.
#include "sketch/along_section.h"

#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "sketch/curve_kind.h"
#include "sketch/solver.h"

namespace lostline::sketch {
namespace {

/// A closed run along straight edges, points every `step` with noise; it begins where chance says.
section::Section along_edges(const std::vector<Vec2>& corners, double step, double noise,
                             std::mt19937& random) {
  std::normal_distribution<double> off(0, noise);
  section::Polyline run;
  run.closed = true;
  for (std::size_t i = 0; i < corners.size(); ++i) {
    const Vec2 a = corners[i];
    const Vec2 b = corners[(i + 1) % corners.size()];
    const Vec2 u = (b - a).normalized();
    for (double s = 0.3 * step; s < (b - a).norm(); s += step)
      run.points.push_back(a + s * u + off(random) * Vec2(-u.y(), u.x()));
  }
  std::uniform_int_distribution<std::ptrdiff_t> any(0, std::ssize(run.points) - 1);
  std::rotate(run.points.begin(), run.points.begin() + any(random), run.points.end());
  section::Section section;
  section.polylines.push_back(run);
  return section;
}

class AlongSection : public ::testing::TestWithParam<double> {};

TEST_P(AlongSection, FromCornerToCornerAnOutlineBecomesItsLines) {
  const double size = GetParam();
  for (unsigned seed = 1; seed <= 6; ++seed) {
    std::mt19937 random(seed);
    std::vector<Vec2> corners{{0, 0}, {60, 0}, {60, 25}, {35, 25}, {35, 40}, {0, 40}};
    for (Vec2& c : corners) c *= size;
    if (seed % 2 == 0) std::reverse(corners.begin(), corners.end());
    section::Section section = along_edges(corners, 0.5 * size, 0.01 * size, random);
    // The pointer goes with the run or against it.
    if (seed % 3 == 0)
      std::reverse(section.polylines[0].points.begin(), section.polylines[0].points.end());
    const auto begun = static_cast<long>(nearest_place(section, corners[0])->point);
    AlongRun run{{0, begun, begun}};
    Sketch s;
    for (std::size_t k = 1; k <= corners.size(); ++k) {
      // Clicks are a little off, and on the way the pointer is anywhere.
      const Vec2 half = 0.5 * (corners[k - 1] + corners[k % corners.size()]);
      run.stretch.go_to(section, nearest_place(section, half)->point);
      run.stretch.go_to(section, nearest_place(section, corners[k % corners.size()])->point);
      const bool closes = k == corners.size();
      const auto drawn = run.draw(s, section, {.tolerance = 0.05 * size}, closes ? run.first : 0);
      ASSERT_TRUE(drawn) << drawn.error().message;
      ASSERT_EQ(drawn->size(), 1U) << "edge " << k << ", seed " << seed;
      EXPECT_EQ(s.find_entity(drawn->front())->type, EntityType::Line);
    }
    EXPECT_EQ(std::labs(run.stretch.to - begun), std::ssize(section.polylines[0].points));
    EXPECT_EQ(s.points.size(), corners.size());
    EXPECT_EQ(find_loops(s).size(), 1U);
    FitOptions options;
    options.reach = size;
    options.corner_margin = 0.75 * size;
    const auto fitted = fit_to_section(s, section, options);
    ASSERT_TRUE(fitted) << fitted.error().message;
    for (const Vec2& c : corners) {
      double nearest = 1e300;
      for (const Point& p : fitted->solution.sketch.points)
        nearest = std::min(nearest, (p.at - c).norm());
      EXPECT_LT(nearest, 0.02 * size);
    }
  }
}

TEST_P(AlongSection, AllRoundACircleItIsWhole) {
  const double size = GetParam();
  section::Section section;
  section.polylines.emplace_back();
  section.polylines[0].closed = true;
  std::mt19937 random(5);
  std::normal_distribution<double> noise(0, 0.01 * size);
  for (int k = 0; k < 200; ++k) {
    const double turn = 2 * std::numbers::pi * k / 200;
    section.polylines[0].points.emplace_back((12 * size + noise(random)) *
                                             Vec2(std::cos(turn), std::sin(turn)));
  }
  for (const int way : {1, -1}) {
    SectionStretch stretch{0, 30, 30};
    for (int k = 1; k <= 4; ++k) {
      EXPECT_FALSE(stretch.whole(section));
      stretch.go_to(section, static_cast<std::size_t>((30 + way * 50 * k + 400) % 200));
    }
    EXPECT_TRUE(stretch.whole(section));
    Sketch s;
    const auto drawn = draw_along(s, section, stretch, {});
    ASSERT_TRUE(drawn);
    ASSERT_EQ(s.entities.size(), 1U);
    EXPECT_EQ(s.entities[0].type, EntityType::Circle);
    EXPECT_NEAR(s.entities[0].radius, 12 * size, 0.005 * size);
  }
  // Back again it is no more than it was.
  SectionStretch stretch{0, 30, 30};
  for (const std::size_t point : {80U, 120U, 80U, 40U}) stretch.go_to(section, point);
  EXPECT_EQ(stretch.to, 40);
  EXPECT_EQ(points_along(section, stretch).points.size(), 11U);
}

INSTANTIATE_TEST_SUITE_P(Sizes, AlongSection, ::testing::Values(0.1, 1.0, 50.0));

TEST(SectionStretches, AStretchOverACornerIsTwoCurvesAndGapsAreKept) {
  std::mt19937 random(3);
  section::Section section = along_edges({{0, 0}, {40, 0}, {40, 30}, {0, 30}}, 0.5, 0.005, random);
  section::Polyline& run = section.polylines[0];
  const auto a = static_cast<long>(nearest_place(section, {30, 0})->point);
  SectionStretch stretch{0, a, a};
  stretch.go_to(section, nearest_place(section, {40, 20})->point);
  Sketch s;
  const auto drawn = draw_along(s, section, stretch, {});
  ASSERT_TRUE(drawn);
  ASSERT_EQ(drawn->size(), 2U);
  EXPECT_EQ(s.points.size(), 3U) << "they meet";
  // A gap lies between the same points whichever way it is passed.
  const auto n = std::ssize(run.points);
  const auto gap = static_cast<std::size_t>(((a + 10) % n + n) % n);
  run.gaps = {gap};
  for (const bool back : {false, true}) {
    const SectionStretch over{0, back ? a + 20 : a, back ? a : a + 20};
    const section::Polyline part = points_along(section, over);
    ASSERT_EQ(part.gaps.size(), 1U);
    const Vec2 low = run.points[gap];
    const Vec2 high = run.points[(gap + 1) % run.points.size()];
    EXPECT_EQ(part.points[part.gaps[0]], back ? high : low);
    EXPECT_EQ(part.points[part.gaps[0] + 1], back ? low : high);
  }
  // An open run has no way past its ends.
  run.closed = false;
  SectionStretch end{0, 5, 5};
  end.go_to(section, run.points.size() - 3);
  EXPECT_EQ(end.to, n - 3);
  // Too little tells nothing.
  const auto short_one = draw_along(s, section, {0, 5, 7}, {});
  ASSERT_FALSE(short_one);
  EXPECT_EQ(short_one.error().code, ErrorCode::InvalidInput);
  EXPECT_FALSE(nearest_place({}, Vec2::Zero()));
}

}  // namespace
}  // namespace lostline::sketch
