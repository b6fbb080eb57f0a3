// Stretches of another radius along pipes made at random, against what they were made of.
#include "pipe/collar.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "model/path_pieces.h"

namespace lostline::pipe {
namespace {

/// A pipe with one stretch of another radius, as points with normals.
struct Made {
  Centreline line;  ///< of the pipe itself
  double from = 0, to = 0, radius = 0;
  std::vector<Vec3> points, normals;
  Vec3 place = Vec3::Zero();  ///< on the wall of the stretch
};

class Maker {
 public:
  Maker(double size, unsigned seed) : size_(size), random_(seed) {}
  double share(double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random_);
  }

  /// @param at  0: on the first straight; 1: over the bend; 2: beyond the end.
  Made make(int at, double wider) {
    Made m;
    const double r = size_;
    model::SpacePath path;
    path.corners = {r * Vec3(3, -2, 5), r * Vec3(23, 1, 4), r * Vec3(20, 22, 9)};
    path.bends = {r * share(4, 7)};
    m.line.pieces = *model::pieces_of(path, 0);
    m.line.radius = r;
    const double length = m.line.length();
    const double first = m.line.pieces[0].length();
    const double bend = m.line.pieces[1].length();
    m.from = at == 0 ? share(0.2, 0.5) * first : at == 1 ? first + 0.2 * bend : length;
    m.to = at == 0 ? m.from + r * share(1, 4) : at == 1 ? first + 0.8 * bend : length + 3 * r;
    m.radius = wider * r;
    cover(m, 0, std::min(m.from, length), r);
    if (at != 2) cover(m, m.to, length, r);
    cover(m, m.from, m.to, m.radius);
    face(m, m.from, -1);
    face(m, m.to, 1, at == 2);
    const auto middle = model::stretch_of(m.line.pieces, m.from, 0.5 * (m.from + m.to));
    const Vec3 ahead = middle.back().direction(1);
    m.place = middle.back().b + m.radius * ahead.unitOrthogonal();
    return m;
  }
  static constexpr double kSpacing = 0.1;  // of the size
  static constexpr double kNoise = 0.003;

 private:
  Vec3 any_out(const Vec3& ahead) {
    const Vec3 u = ahead.unitOrthogonal();
    return Eigen::AngleAxisd(share(0, 2 * kPi), ahead) * u;
  }
  Vec3 tilted(const Vec3& n) {
    std::normal_distribution<double> tilt(0, 0.05);
    return (n + Vec3(tilt(random_), tilt(random_), tilt(random_))).normalized();
  }
  void cover(Made& m, double from, double to, double radius) {
    std::normal_distribution<double> noise(0, kNoise * size_);
    for (const Piece& piece : model::stretch_of(m.line.pieces, from, to)) {
      const int count = static_cast<int>(piece.length() * 2 * kPi * radius /
                                         (kSpacing * kSpacing * size_ * size_));
      for (int k = 0; k < count; ++k) {
        const double s = share(0, 1);
        const Vec3 out = any_out(piece.direction(s));
        m.points.push_back(piece.at(s) + (radius + noise(random_)) * out);
        m.normals.push_back(tilted(out));
      }
    }
  }
  void face(Made& m, double at, int looks, bool whole = false) {
    std::normal_distribution<double> noise(0, kNoise * size_);
    const auto before = model::stretch_of(m.line.pieces, at - size_, at);
    const Vec3 centre = before.back().b;
    const Vec3 ahead = before.back().direction(1);
    const double low = whole ? 0 : std::min(m.radius, m.line.radius);
    const double high = whole ? m.radius : std::max(m.radius, m.line.radius);
    // The face of a reduced stretch belongs to the pipe and looks towards the stretch.
    const double sense = m.radius < m.line.radius && !whole ? -looks : looks;
    const int count =
        static_cast<int>(kPi * (high * high - low * low) / (kSpacing * kSpacing * size_ * size_));
    for (int k = 0; k < count; ++k) {
      const double r = std::sqrt(share(low * low, high * high));
      m.points.push_back(centre + r * any_out(ahead) + noise(random_) * ahead);
      m.normals.push_back(tilted(sense * ahead));
    }
  }
  double size_;
  std::mt19937 random_;
};

class CollarsOfSize : public ::testing::TestWithParam<double> {};

TEST_P(CollarsOfSize, AreReadWithTheirEnds) {
  const double size = GetParam();
  int covered = 0;
  int all = 0;
  int ends_covered = 0;
  for (const int at : {0, 1, 2}) {
    for (const double wider : {1.4, 1.1, 0.8}) {
      for (unsigned seed = 1; seed <= 5; ++seed) {
        Maker maker(size, 1000 * seed + 100 * static_cast<unsigned>(at) +
                              static_cast<unsigned>(10 * wider));
        const Made m = maker.make(at, wider);
        const auto found =
            find_collar(m.points, m.normals, m.line, m.place,
                        {.noise = Maker::kNoise * size, .spacing = Maker::kSpacing * size});
        ASSERT_TRUE(found) << found.error().message << " at " << at << ", wider " << wider;
        EXPECT_FALSE(found->hollow);
        EXPECT_NEAR(found->radius, m.radius, 0.002 * size) << at << ' ' << wider;
        EXPECT_NEAR(found->from, m.from, 0.02 * size) << at << ' ' << wider;
        EXPECT_NEAR(found->to, m.to, 0.02 * size) << at << ' ' << wider;
        EXPECT_LT(found->u_radius, 0.0004 * size) << "and U says no more than it must";
        EXPECT_LT(found->u_from, 0.05 * size);
        ++all;
        covered += std::abs(found->radius - m.radius) <= found->u_radius ? 1 : 0;
        ends_covered += std::abs(found->from - m.from) <= found->u_from ? 1 : 0;
        ends_covered += std::abs(found->to - m.to) <= found->u_to ? 1 : 0;
      }
    }
  }
  EXPECT_GE(covered, 0.85 * all);
  EXPECT_GE(ends_covered, 0.85 * 2 * all);
}

INSTANTIATE_TEST_SUITE_P(Sizes, CollarsOfSize, ::testing::Values(0.2, 6.0, 150.0));

TEST(Collars, WhatIsNoneIsToldWhy) {
  Maker maker(5, 9);
  const Made m = maker.make(0, 1.3);
  const auto message = [&](const Vec3& place) {
    const auto found = find_collar(m.points, m.normals, m.line, place);
    return found ? std::string() : found.error().message;
  };
  // On the pipe itself.
  const Piece& last = m.line.pieces.back();
  EXPECT_NE(
      message(last.at(0.5) + 5 * last.direction(0.5).unitOrthogonal()).find("own radius of 5"),
      std::string::npos);
  // On the face at its end.
  const auto before = model::stretch_of(m.line.pieces, 0, m.to);
  const Vec3 ahead = before.back().direction(1);
  EXPECT_NE(
      message(before.back().b + 5.75 * ahead.unitOrthogonal()).find("does not run along the pipe"),
      std::string::npos);
  EXPECT_FALSE(find_collar({}, {}, m.line, m.place));
}

}  // namespace
}  // namespace lostline::pipe
