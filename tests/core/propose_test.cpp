// Proposed datum systems lie as the part was designed.
#include "datum/propose.h"

#include <gtest/gtest.h>

#include <map>
#include <random>

#include "model/faces.h"
#include "random_parts.h"
#include "support/rounds.h"
#include "survey/survey.h"

namespace lostline::datum {
namespace {

using lostline::testing::PartBuilder;
using lostline::testing::RandomPart;

/// What a survey would find of a part: its faces, a little off, moved into some pose.
struct Seen {
  std::vector<Found> found;
  std::vector<Vec3> outer;
};

Seen see(const model::Model& part, const Transform& pose, double rough_walls,
         std::mt19937& random) {
  const auto shape = model::tessellate(part, {0.1, 0.3});
  Seen seen;
  std::vector<double> area(part.face_count(), 0);
  std::vector<Vec3> centre(part.face_count(), Vec3::Zero());
  for (std::size_t t = 0; t < shape->mesh.triangles.size(); ++t) {
    const double a = 0.5 * shape->mesh.area_vector(t).norm();
    area[shape->triangle_face[t]] += a;
    centre[shape->triangle_face[t]] += a * shape->mesh.centroid(t);
  }
  for (const Vec3& v : shape->mesh.vertices) seen.outer.push_back(pose * v);
  double whole = 0;
  for (const double a : area) whole += a;
  std::normal_distribution<double> normal(0, 3e-4);
  for (std::size_t f = 0; f < part.face_count(); ++f) {
    const auto exact = model::surface_of_face(part, f);
    if (!exact || area[f] < 1e-3 * whole) continue;
    Found one;
    one.surface = fit::transformed(*exact, pose);
    one.surface.axis =
        (one.surface.axis + Vec3(normal(random), normal(random), normal(random))).normalized();
    one.area = area[f];
    one.centre = pose * Vec3(centre[f] / area[f]);
    const bool wall = exact->kind == fit::Kind::Plane && std::abs(exact->axis.z()) < 0.9;
    one.trust = wall ? rough_walls : 1.0;
    seen.found.push_back(one);
  }
  return seen;
}

/// Direction that a proposal gives to the frame's x, or to the wall that fixes the turn.
Vec3 turn_of(const Proposal& p, const std::vector<Found>& found) {
  const Vec3& axis = found[p.primary].surface.axis;
  Vec3 d = found[p.secondary[0]].surface.axis;
  if (p.secondary.size() > 1)
    d = found[p.secondary[1]].surface.point - found[p.secondary[0]].surface.point;
  else if (found[p.secondary[0]].surface.kind != fit::Kind::Plane)
    d = found[p.secondary[0]].surface.axis;
  return (d - d.dot(axis) * axis).normalized();
}

/// Whether a direction is one of the axes along which the part was designed.
bool designed(const Vec3& d) { return d.cwiseAbs().maxCoeff() > std::cos(0.01); }

/// Whether the first proposal lies as a part of a kind was designed.
bool lies_as_designed(const std::string& kind, const Vec3& primary, const Vec3& turn) {
  // About the axis of a flange the holes say where x is, wherever they begin.
  if (kind == "flange" || kind == "bevelled") return std::abs(primary.z()) > 0.9999;
  if (kind == "turned") return std::abs(primary.z()) > 0.9999 && designed(turn);
  // The flanges of a bent sheet stand at any angle about the direction of its bends, z.
  const auto along_or_across = [](const Vec3& d) {
    return std::abs(d.z()) < 0.01 || std::abs(d.z()) > 0.9999;
  };
  if (kind == "sheet") return along_or_across(primary) && along_or_across(turn);
  return designed(primary) && designed(turn);
}

/// How many parts made at random have been proposed a system, and how many as they were designed.
struct Tally {
  std::map<std::string, std::pair<int, int>> by_kind;

  void judge(const RandomPart::Made& part, const Transform& pose, const Seen& seen) {
    const std::string kind = part.kind;
    const auto proposals = propose_datums(seen.found, seen.outer);
    if (proposals.empty()) {
      // A turned part without anything that fixes its turn has no system of three.
      EXPECT_TRUE(kind == "turned" || kind == "bevelled") << kind;
      return;
    }
    const Proposal& p = proposals.front();
    const Eigen::Matrix3d back = pose.linear().transpose();
    const Vec3 primary = back * seen.found[p.primary].surface.axis;
    ++by_kind[kind].second;
    by_kind[kind].first += lies_as_designed(kind, primary, back * turn_of(p, seen.found)) ? 1 : 0;
    for (const std::string& reason : {p.reason[0], p.reason[1]}) EXPECT_FALSE(reason.empty());
    EXPECT_LE(proposals.size(), 3U);
  }
  /// Nine of ten at least.
  void expect_nine_of_ten() const {
    int right = 0;
    int asked = 0;
    std::string table;
    for (const auto& [kind, count] : by_kind) {
      right += count.first;
      asked += count.second;
      table += kind + " " + std::to_string(count.first) + "/" + std::to_string(count.second) + "; ";
    }
    std::printf("%d of %d: %s\n", right, asked, table.c_str());
    EXPECT_GE(right, 0.9 * asked) << table;
  }
};

/// A bent tube may be dimensioned from either end: there is no one system.
bool has_a_system(const RandomPart& part) { return part.kind() != std::string("tube"); }

TEST(Propose, TheDesignedAxesComeFirstOnPartsMadeAtRandom) {
  std::mt19937 random(606);
  std::uniform_real_distribution<double> any(-1, 1);
  const int parts = lostline::testing::rounds(300, 10, 4);
  Tally tally;
  for (int k = 0; k < parts; ++k) {
    const RandomPart maker(9000 + static_cast<unsigned>(k));
    if (!has_a_system(maker)) continue;
    const RandomPart::Made part = maker.make();
    const Transform pose =
        Eigen::Translation3d(100 * any(random), 50 * any(random), 80 * any(random)) *
        Eigen::AngleAxisd(3 * any(random),
                          Vec3(any(random), any(random), any(random)).normalized());
    const bool cast = std::string(part.kind) == "cast" || std::string(part.kind) == "foundry";
    tally.judge(part, pose, see(part.solid, pose, cast ? 0.4 : 1.0, random));
  }
  tally.expect_nine_of_ten();
}

TEST(Propose, TheDesignedAxesComeFirstOnScans) {
  const int parts = lostline::testing::rounds(60, 3, 1);
  Tally tally;
  for (int k = 0; k < parts; ++k) {
    const RandomPart maker(9600 + static_cast<unsigned>(k));
    if (!has_a_system(maker)) continue;
    const RandomPart::Made part = maker.make();
    simulate::ScanOptions options;
    options.spacing = 1.2;
    options.seed = static_cast<std::uint64_t>(k + 1);
    const auto scan = simulate::simulate_scan(part.solid, part.surface, options);
    ASSERT_TRUE(scan) << scan.error().message;
    const auto survey = survey::split_into_regions(scan->mesh, scan::build_topology(scan->mesh));
    ASSERT_TRUE(survey) << survey.error().message;
    Seen seen;
    for (std::size_t t = 0; t < scan->mesh.triangles.size(); ++t) {
      const std::uint32_t region = survey->triangle_region[t];
      if (region != 0 && survey->regions[region - 1].fit)
        seen.outer.push_back(scan->mesh.centroid(t));
    }
    for (const survey::Region& r : survey->regions) {
      if (r.fit) seen.found.push_back({r.fit->surface, r.area, r.centre, r.trust});
    }
    tally.judge(part, scan->pose, seen);
  }
  tally.expect_nine_of_ten();
}

TEST(Propose, ARectangularFootLiesAlongItsWallsNotAlongItsDiagonal) {
  // A cast foot with four holes at the corners of a rectangle about a machined bore.
  for (const double size : {0.1, 1.0, 20.0}) {
    PartBuilder part;
    part.box(size * Vec2(-60, -40), size * Vec2(60, 40), 0, size * 12)
        .disc({0, 0}, size * 22, size * 12, size * 60)
        .disc({0, 0}, size * 12, -size, size * 61, model::Operation::Cut)
        .holes({size * Vec2(-45, -28), size * Vec2(45, -28), size * Vec2(45, 28),
                size * Vec2(-45, 28)},
               size * 9);
    std::mt19937 random(2);
    const Transform pose(Eigen::AngleAxisd(0.6, Vec3(1, 1, 2).normalized()));
    const Seen seen = see(part.solid(), pose, 0.3, random);
    const auto proposals = propose_datums(seen.found, seen.outer);
    ASSERT_FALSE(proposals.empty());
    const Vec3 turn = pose.linear().transpose() * turn_of(proposals.front(), seen.found);
    EXPECT_TRUE(designed(turn)) << size << ": " << turn.transpose();
    // The axis of the bore is the origin, as a draughtsman would have it.
    ASSERT_FALSE(proposals.front().origin.empty());
    const fit::Surface& origin = seen.found[proposals.front().origin[0]].surface;
    const Vec3 middle = pose.inverse() * origin.point;
    EXPECT_NEAR(middle.head<2>().norm(), 0, 0.05 * size);
    EXPECT_NE(proposals.front().reason[1].find("share"), std::string::npos);
  }
}

}  // namespace
}  // namespace lostline::datum
