// The part frame by the 3-2-1 principle (ISO 5459:2011): what it fixes, in every choice of axes,
// and that it goes with the part wherever the scan lies.
#include "datum/frame.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

namespace lostline::datum {
namespace {

constexpr Axis kAxes[] = {Axis::X, Axis::Y, Axis::Z, Axis::MinusX, Axis::MinusY, Axis::MinusZ};

fit::Surface plane(const Vec3& point, const Vec3& normal) {
  fit::Surface s;
  s.kind = fit::Kind::Plane;
  s.point = point;
  s.axis = normal.normalized();
  return s;
}

fit::Surface bore(const Vec3& point, const Vec3& axis) {
  fit::Surface s;
  s.kind = fit::Kind::Cylinder;
  s.point = point;
  s.axis = axis.normalized();
  s.radius = 5;
  return s;
}

/// A foot with two walls that lean a little, as real ones do, and two bores.
struct Part {
  fit::Surface foot = plane({3, 4, -2}, {0.001, -0.002, -1});
  fit::Surface front = plane({10, -30, 6}, {0.01, -1, 0.003});
  fit::Surface side = plane({-40, 7, 9}, {-1, 0.02, 0.004});
  fit::Surface one = bore({-20, 5, 3}, {0.002, 0.001, 1});
  fit::Surface other = bore({25, 6, 3}, {-0.001, 0.002, 1});

  [[nodiscard]] Part moved(const Transform& by) const {
    Part p;
    for (auto of : {&Part::foot, &Part::front, &Part::side, &Part::one, &Part::other})
      p.*of = fit::transformed(this->*of, by);
    return p;
  }
};

/// Inputs of every make: planes alone, an axis as the primary, the line of two bores.
std::vector<FrameInput> inputs_of(const Part& p) {
  FrameInput planes;
  planes.primary = p.foot;
  planes.secondary = {p.front};
  planes.origin = {p.front, p.side};
  FrameInput turned;
  turned.primary = p.one;
  turned.primary_axis = Axis::Z;
  turned.secondary = {p.side};
  turned.origin = {p.one, p.foot};
  FrameInput bores;
  bores.primary = p.foot;
  bores.secondary = {p.one, p.other};
  bores.origin = {p.one};
  FrameInput between;
  between.primary = p.foot;
  between.secondary = {p.one, p.other};
  return {planes, turned, bores, between};
}

Transform any_motion(std::mt19937_64& random) {
  std::normal_distribution<double> normal(0, 1);
  Transform t = Transform::Identity();
  t.linear() = Eigen::Quaterniond(normal(random), normal(random), normal(random), normal(random))
                   .normalized()
                   .toRotationMatrix();
  t.translation() = 500 * Vec3(normal(random), normal(random), normal(random));
  return t;
}

TEST(Frame, GoesWithThePartWhereverTheScanLies) {
  std::mt19937_64 random(4);
  const Part part;
  const auto here = inputs_of(part);
  for (int k = 0; k < 20; ++k) {
    const Transform motion = any_motion(random);
    const auto there = inputs_of(part.moved(motion));
    for (std::size_t i = 0; i < here.size(); ++i) {
      const auto a = frame_321(here[i]);
      const auto b = frame_321(there[i]);
      ASSERT_TRUE(a && b) << i;
      EXPECT_LT(((b->to_part * motion).matrix() - a->to_part.matrix()).norm(), 1e-9) << i;
      EXPECT_EQ(a->held_by, b->held_by);
    }
  }
}

TEST(Frame, IsRightHandedAndObeysEveryChoiceOfAxes) {
  const Part part;
  for (const FrameInput& base : inputs_of(part)) {
    for (const Axis first : kAxes) {
      for (const Axis second : kAxes) {
        FrameInput input = base;
        input.primary_axis = first;
        input.secondary_axis = second;
        const auto frame = frame_321(input);
        if (std::abs(axis_vector(first).dot(axis_vector(second))) > 0.5) {
          EXPECT_FALSE(frame);
          continue;
        }
        ASSERT_TRUE(frame);
        const Eigen::Matrix3d turn = frame->to_part.linear();
        EXPECT_NEAR(turn.determinant(), 1, 1e-12);
        EXPECT_LT((turn.transpose() * turn - Eigen::Matrix3d::Identity()).norm(), 1e-12);
        // The primary lies exactly, the secondary as near as the primary lets it.
        EXPECT_LT((turn * input.primary.axis - axis_vector(first)).norm(), 1e-12);
        const Vec3 wanted = input.secondary.size() > 1
                                ? Vec3(input.secondary[1].point - input.secondary[0].point)
                                : input.secondary[0].axis;
        const Vec3 there = turn * wanted;
        const Vec3 rest = there - there.dot(axis_vector(first)) * axis_vector(first);
        EXPECT_LT((rest.normalized() - axis_vector(second)).norm(), 1e-9);
        EXPECT_STREQ(axis_name(*parse_axis(axis_name(first))), axis_name(first));
      }
    }
  }
}

TEST(Frame, TheOriginLiesOnWhatFixesIt) {
  const Part part;
  const auto inputs = inputs_of(part);
  const auto level = [](const Frame& f, const fit::Surface& s, const Vec3& direction) {
    return direction.dot(f.to_part * s.point);
  };
  const auto planes = frame_321(inputs[0]);
  ASSERT_TRUE(planes);
  EXPECT_NEAR(level(*planes, part.foot, Vec3::UnitZ()), 0, 1e-9);
  // The origin is on every plane, leaning or not.
  const Vec3 origin = planes->to_part.inverse() * Vec3::Zero();
  for (const fit::Surface& s : {part.foot, part.front, part.side})
    EXPECT_NEAR(s.distance(origin), 0, 1e-9);
  const auto bores = frame_321(inputs[2]);
  ASSERT_TRUE(bores);
  const Vec3 at_bore = bores->to_part.inverse() * Vec3::Zero();
  EXPECT_NEAR(part.foot.distance(at_bore), 0, 1e-9);
  // On the axis as far as the foot, that is not quite square to it, lets it be.
  const Vec3 off = at_bore - part.one.point;
  EXPECT_LT((off - off.dot(part.one.axis) * part.one.axis).norm(), 0.02);
  // Midway between both bores where nothing else is asked.
  const auto between = frame_321(inputs[3]);
  ASSERT_TRUE(between);
  const Vec3 one = between->to_part * part.one.point;
  const Vec3 other = between->to_part * part.other.point;
  EXPECT_NEAR(one.x() + other.x(), 0, 0.05);
}

TEST(Frame, GrowsWithThePart) {
  const Part part;
  const auto here = inputs_of(part);
  for (const double size : {0.02, 15.0}) {
    Part large = part;
    for (auto of : {&Part::foot, &Part::front, &Part::side, &Part::one, &Part::other})
      (large.*of).point *= size;
    const auto there = inputs_of(large);
    for (std::size_t i = 0; i < here.size(); ++i) {
      const auto a = frame_321(here[i]);
      const auto b = frame_321(there[i]);
      ASSERT_TRUE(a && b) << i;
      EXPECT_LT((b->to_part.linear() - a->to_part.linear()).norm(), 1e-12);
      EXPECT_LT((b->to_part.translation() - size * a->to_part.translation()).norm(), 1e-9 * size);
    }
  }
}

TEST(Frame, TheScansLeastCoordinatesFixWhatIsLeftOpen) {
  const Part part;
  FrameInput input;
  input.primary = part.foot;
  input.secondary = {part.front};
  std::mt19937_64 random(8);
  std::uniform_real_distribution<double> anywhere(-60, 60);
  std::vector<Vec3> scan;
  for (int k = 0; k < 500; ++k)
    scan.emplace_back(anywhere(random), anywhere(random), anywhere(random));
  input.extremes = &scan;
  const auto frame = frame_321(input);
  ASSERT_TRUE(frame) << frame.error().message;
  double least = 1e300;
  for (const Vec3& p : scan) least = std::min(least, (frame->to_part * p).y());
  // x is the secondary's, z the primary's: y is what the scan fixes.
  EXPECT_NEAR(least, 0, 1e-9);
}

}  // namespace
}  // namespace lostline::datum
