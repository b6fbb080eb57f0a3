// Bent pipes of random straights and bends, seen from all or from one side, against what they were
// made of.
#include "pipe/centreline.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace lostline::pipe {
namespace {

struct TruePipe {
  std::vector<Piece> pieces;
  double radius = 0;
};

/// @param size  mm: the pipe's radius.
TruePipe random_pipe(std::mt19937& random, double size, int bends, bool tight) {
  std::uniform_real_distribution<double> share(0, 1);
  TruePipe truth;
  truth.radius = size;
  Vec3 at(size * 10 * share(random), size * 5, -size * 7);
  Vec3 along = Vec3(share(random) - 0.5, share(random) - 0.5, share(random) - 0.5).normalized();
  const auto straight = [&](double length) {
    Piece p;
    p.a = at;
    p.b = at + length * along;
    at = p.b;
    truth.pieces.push_back(p);
  };
  straight(size * (3 + 6 * share(random)));
  Vec3 side = along.unitOrthogonal();
  const double bend = size * (2 + 3 * share(random));
  for (int k = 0; k < bends; ++k) {
    side = Eigen::AngleAxisd(2 * kPi * share(random), along) * side;
    Piece p;
    p.straight = false;
    p.radius = share(random) < 0.7 ? bend : size * (2 + 4 * share(random));
    p.a = at;
    p.centre = at + p.radius * side;
    p.axis = along.cross(side).normalized();
    const double angle = (20 + 80 * share(random)) * kPi / 180;
    p.b = p.centre + Eigen::AngleAxisd(angle, p.axis) * (p.a - p.centre);
    truth.pieces.push_back(p);
    at = p.b;
    along = Eigen::AngleAxisd(angle, p.axis) * along;
    side = Eigen::AngleAxisd(angle, p.axis) * side;
    if (tight && k + 1 < bends && share(random) < 0.4) continue;  // bend on bend
    straight(size * (2 + 5 * share(random)));
  }
  return truth;
}

struct Seen {
  std::vector<Vec3> points, normals;
};

/// @param arc  rad of the circumference that is seen.
Seen scan_of(const TruePipe& truth, double spacing, double noise, double arc, std::mt19937& random,
             bool hollow = false) {
  std::uniform_real_distribution<double> share(0, 1);
  std::normal_distribution<double> normal(0, 1);
  Seen seen;
  const Vec3 light = Vec3(0.3, 0.5, 0.8).normalized();
  for (const Piece& piece : truth.pieces) {
    const auto count =
        static_cast<int>(piece.length() * 2 * kPi * truth.radius / (spacing * spacing));
    for (int k = 0; k < count; ++k) {
      const double s = share(random);
      const Vec3 along = piece.direction(s);
      Vec3 up = light - light.dot(along) * along;
      if (up.norm() < 0.2) up = along.unitOrthogonal();
      const double turn = arc * (share(random) - 0.5);
      const Vec3 out = Eigen::AngleAxisd(turn, along) * up.normalized();
      seen.points.push_back(piece.at(s) + (truth.radius + noise * normal(random)) * out);
      const Vec3 tilted = out + 0.08 * Vec3(normal(random), normal(random), normal(random));
      seen.normals.push_back((hollow ? -1 : 1) * tilted.normalized());
    }
  }
  return seen;
}

double distance_from(const std::vector<Piece>& pieces, const Vec3& p) {
  Centreline line;  // of no thickness
  line.pieces = pieces;
  return std::abs(line.distance(p));
}

struct Score {
  double rms = 0;
  int bends = 0;
};
Score compare(const TruePipe& truth, const Centreline& found) {
  Score score;
  double sum = 0;
  int count = 0;
  // Apart from the ends, which the scan cuts where it likes.
  const auto points = found.points_along(0.5 * truth.radius);
  for (std::size_t k = 1; k + 1 < points.size(); ++k) {
    const double d = distance_from(truth.pieces, points[k]);
    sum += d * d;
    ++count;
  }
  score.rms = std::sqrt(sum / std::max(count, 1));
  for (const Piece& piece : found.pieces) score.bends += piece.straight ? 0 : 1;
  return score;
}

class Pipes : public ::testing::TestWithParam<double> {};

TEST_P(Pipes, AreWhatTheyWereBentFrom) {
  const double size = GetParam();
  const double spacing = 0.12 * size;
  const double noise = 0.003 * size;
  int right = 0;
  int covered = 0;
  int radii = 0;
  int radii_right = 0;
  constexpr int kPipes = 12;
  for (unsigned seed = 1; seed <= kPipes; ++seed) {
    std::mt19937 random(100 * seed + 7);
    const TruePipe truth = random_pipe(random, size, 1 + static_cast<int>(seed % 5), seed % 3 == 0);
    const double arc = seed % 2 == 0 ? 2 * kPi : 2.6;
    const bool hollow = seed % 4 == 3;
    const Seen seen = scan_of(truth, spacing, noise, arc, random, hollow);
    CentrelineOptions options;
    options.spacing = spacing;
    options.noise = noise;
    const Vec3 pick = seen.points[random() % seen.points.size()];
    const auto found = find_centreline(seen.points, seen.normals, {pick}, options);
    ASSERT_TRUE(found) << seed << ": " << found.error().message;
    EXPECT_EQ(found->hollow, hollow);
    EXPECT_TRUE(found->settled) << seed;
    const Score score = compare(truth, *found);
    int bends = 0;
    for (const Piece& p : truth.pieces) bends += p.straight ? 0 : 1;
    const bool good = score.rms < noise && score.bends == bends;
    right += good ? 1 : 0;
    if (!good)
      std::printf("pipe %u: rms %.4f of noise %.4f, bends %d of %d, length %.2f\n", seed, score.rms,
                  noise, score.bends, bends, found->length());
    covered += std::abs(found->radius - truth.radius) <= found->u_radius ? 1 : 0;
    EXPECT_LT(found->u_radius, 0.02 * size);
    if (score.bends != bends) continue;
    std::vector<double> wanted;
    std::vector<double> got;
    for (const Piece& p : truth.pieces) {
      if (!p.straight) wanted.push_back(p.radius);
    }
    for (const Piece& p : found->pieces) {
      if (!p.straight) got.push_back(p.radius);
    }
    // Followed from the other end it is the other way round.
    if ((found->pieces.front().a - truth.pieces.front().a).norm() >
        (found->pieces.front().a - truth.pieces.back().b).norm())
      std::reverse(got.begin(), got.end());
    for (std::size_t k = 0; k < wanted.size(); ++k) {
      ++radii;
      radii_right += std::abs(got[k] / wanted[k] - 1) < 0.01 ? 1 : 0;
    }
  }
  EXPECT_GE(right, kPipes - 1);
  EXPECT_GE(covered, kPipes - 3) << "of 12 at 95 %: fewer has a chance of two in a thousand";
  EXPECT_GE(radii_right, static_cast<int>(0.9 * radii)) << radii_right << " of " << radii;
}

TEST_P(Pipes, AreTheSameAfterARigidMotion) {
  const double size = GetParam();
  std::mt19937 random(3);
  const TruePipe truth = random_pipe(random, size, 2, false);
  Seen seen = scan_of(truth, 0.15 * size, 0.002 * size, 2 * kPi, random);
  CentrelineOptions options;
  options.spacing = 0.15 * size;
  options.noise = 0.002 * size;
  const auto first = find_centreline(seen.points, seen.normals, {seen.points[40]}, options);
  ASSERT_TRUE(first) << first.error().message;
  const Transform motion = Eigen::Translation3d(Vec3(3, -8, 5) * size) *
                           Eigen::AngleAxisd(1.1, Vec3(1, 2, -1).normalized());
  Seen moved = seen;
  for (Vec3& p : moved.points) p = motion * p;
  for (Vec3& n : moved.normals) n = motion.linear() * n;
  const auto second = find_centreline(moved.points, moved.normals, {moved.points[40]}, options);
  ASSERT_TRUE(second) << second.error().message;
  ASSERT_EQ(second->pieces.size(), first->pieces.size());
  EXPECT_NEAR(second->radius, first->radius, 0.5 * first->u_radius);
  for (std::size_t k = 0; k < first->pieces.size(); ++k) {
    const Vec3 a = motion * first->pieces[k].at(0.5);
    const std::size_t other =
        (second->pieces[k].at(0.5) - a).norm() < size ? k : first->pieces.size() - 1 - k;
    EXPECT_LT((second->pieces[other].at(0.5) - a).norm(), 0.05 * size);
  }
}

INSTANTIATE_TEST_SUITE_P(Sizes, Pipes, ::testing::Values(1.0, 12.0, 250.0));

TEST(Pipe, GapsAreBridgedAndTold) {
  std::mt19937 random(8);
  const TruePipe truth = random_pipe(random, 10, 1, false);
  Seen seen = scan_of(truth, 1.2, 0.02, 2 * kPi, random);
  const Vec3 hole = truth.pieces[0].at(0.5);
  Seen cut;
  for (std::size_t i = 0; i < seen.points.size(); ++i) {
    if (std::abs((seen.points[i] - hole).dot(truth.pieces[0].direction(0))) < 8) continue;
    cut.points.push_back(seen.points[i]);
    cut.normals.push_back(seen.normals[i]);
  }
  CentrelineOptions options;
  options.spacing = 1.2;
  options.noise = 0.02;
  const Vec3 pick = truth.pieces[1].at(0.5) + Vec3(0, 0, 0.0) + 10 * truth.pieces[1].axis;
  const auto over = find_centreline(cut.points, cut.normals, {pick}, options);
  ASSERT_TRUE(over) << over.error().message;
  EXPECT_EQ(over->bridged.size(), 1U);
  EXPECT_NEAR(over->length(),
              truth.pieces[0].length() + truth.pieces[1].length() + truth.pieces[2].length(), 3);
  options.bridge = 0;
  const auto up_to = find_centreline(cut.points, cut.normals, {pick}, options);
  ASSERT_TRUE(up_to);
  EXPECT_TRUE(up_to->bridged.empty());
  EXPECT_LT(up_to->length(), over->length() - 10);
}

TEST(Pipe, WhatIsNoPipeIsRefused) {
  std::mt19937 random(2);
  std::normal_distribution<double> off(0, 0.01);
  Seen flat;
  for (int k = 0; k < 5000; ++k) {
    flat.points.emplace_back(0.5 * (k % 70), 0.5 * (k / 70), off(random));
    flat.normals.emplace_back(0, 0, 1);
  }
  CentrelineOptions options;
  options.spacing = 0.5;
  options.noise = 0.01;
  const auto plane = find_centreline(flat.points, flat.normals, {Vec3(15, 15, 0)}, options);
  ASSERT_FALSE(plane);
  const auto away = find_centreline(flat.points, flat.normals, {Vec3(0, 0, 500)}, options);
  ASSERT_FALSE(away);
  EXPECT_EQ(away.error().code, ErrorCode::NotFound);
  EXPECT_FALSE(find_centreline(flat.points, flat.normals, {}, options));
}

TEST(Pipe, ABendingTableSaysWhatWasBent) {
  // Two bends of 90 degrees, the second turned by 90 about the straight between.
  Centreline line;
  Piece a;
  a.a = {0, 0, 0};
  a.b = {100, 0, 0};
  Piece bend;
  bend.straight = false;
  bend.a = a.b;
  bend.centre = {100, 40, 0};
  bend.axis = Vec3::UnitZ();
  bend.radius = 40;
  bend.b = {140, 40, 0};
  Piece b;
  b.a = bend.b;
  b.b = {140, 90, 0};
  Piece second;
  second.straight = false;
  second.a = b.b;
  second.centre = {140, 90, 30};
  second.axis = Vec3::UnitX();
  second.radius = 30;
  second.b = {140, 120, 30};
  line.pieces = {a, bend, b, second};
  const auto table = bending_table(line);
  ASSERT_EQ(table.size(), 3U);
  EXPECT_NEAR(table[0].straight, 100, 1e-12);
  EXPECT_NEAR(table[0].angle, kPi / 2, 1e-12);
  EXPECT_NEAR(table[1].straight, 50, 1e-12);
  EXPECT_NEAR(std::abs(table[1].turn), kPi / 2, 1e-12);
  EXPECT_NEAR(table[1].radius, 30, 1e-12);
  EXPECT_NEAR(table[2].straight, 0, 1e-12);
}

}  // namespace
}  // namespace lostline::pipe
