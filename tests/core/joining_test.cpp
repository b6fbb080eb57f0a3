// Scans of one part from several places brought together: the truth is where the simulator put
// each.
#include <chrono>

#include "deviation/deviation.h"
#include "joining/join.h"
#include "joining/layout.h"
#include "joining/targets.h"
#include "partial_scans.h"
#include "support/rounds.h"

namespace lostline {
namespace {

using testing::PartialScan;

std::vector<const scan::Mesh*> meshes_of(const std::vector<PartialScan>& scans) {
  std::vector<const scan::Mesh*> meshes;
  for (const PartialScan& s : scans) meshes.push_back(&s.mesh);
  return meshes;
}

/// How far the points of all scans lie from the part where the poses put them, by the truth of the
/// first: rms of the nearer 99 %, mm. A turn about the axis of what is turned, or on to an equal
/// place of what is symmetric, is no error.
double off_the_part(const deviation::Comparator& part, const std::vector<PartialScan>& scans,
                    const std::vector<Transform>& poses) {
  std::vector<Vec3> points;
  for (std::size_t k = 0; k < scans.size(); ++k) {
    const Transform to_model = scans[0].pose.inverse() * poses[k];
    for (std::size_t v = 0; v < scans[k].mesh.vertices.size(); v += 7)
      points.emplace_back(to_model * scans[k].mesh.vertices[v]);
  }
  const auto map = part.compare(points);
  EXPECT_TRUE(map);
  std::vector<double> sizes;
  for (const float value : map->value)
    sizes.push_back(std::isfinite(value) ? std::abs(static_cast<double>(value)) : 10.0);
  std::sort(sizes.begin(), sizes.end());
  sizes.resize(sizes.size() * 99 / 100);
  double squares = 0;
  for (const double d : sizes) squares += d * d;
  return std::sqrt(squares / static_cast<double>(sizes.size()));
}

/// How far a pose is off, at the points of the scan, mm.
double off_by(const PartialScan& first, const PartialScan& scan, const Transform& pose) {
  const Transform truth = first.pose * scan.pose.inverse();
  double worst = 0;
  const std::size_t stride = std::max<std::size_t>(1, scan.mesh.vertices.size() / 200);
  for (std::size_t v = 0; v < scan.mesh.vertices.size(); v += stride)
    worst = std::max(worst, (pose * scan.mesh.vertices[v] - truth * scan.mesh.vertices[v]).norm());
  return worst;
}

TEST(Joining, ScansOfPartsMadeAtRandomComeTogether) {
  const int tried = testing::rounds(40, 1, 1);
  std::setvbuf(stdout, nullptr, _IOLBF, 0);
  int right = 0;
  int doubted = 0;
  int wrong = 0;
  const char* first = std::getenv("LOSTLINE_FIRST_PART");  // to look at one of them
  for (int round = 0; round < tried; ++round) {
    const unsigned seed = (first != nullptr ? static_cast<unsigned>(std::atoi(first)) : 400U) +
                          static_cast<unsigned>(round);
    const auto made = testing::RandomPart(seed).make();
    const auto scans = testing::partial_scans(made.solid, 4, 0.8, 0.02, seed, made.surface);
    const auto begin = std::chrono::steady_clock::now();
    const auto joined = joining::join_scans(meshes_of(scans));
    const double seconds =
        std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    double worst = 0;
    std::size_t triangles = 0;
    std::vector<Transform> truth;
    for (std::size_t k = 0; k < scans.size(); ++k) {
      triangles += scans[k].mesh.triangles.size();
      truth.push_back(scans[0].pose * scans[k].pose.inverse());
      if (joined) worst = std::max(worst, off_by(scans[0], scans[k], joined->poses[k]));
    }
    const auto part = deviation::Comparator::build(made.solid);
    ASSERT_TRUE(part);
    const double best = off_the_part(*part, scans, truth);
    const double got = joined ? off_the_part(*part, scans, joined->poses) : 10;
    // Two hundredths beside what the points scatter by themselves.
    const bool near = std::sqrt(std::max(0.0, got * got - best * best)) < 0.02;
    // A doubt, or a U beyond what is asked for.
    const bool warned = !joined || !joined->doubts.empty() ||
                        *std::max_element(joined->u_shift.begin(), joined->u_shift.end()) > 0.02;
    right += near ? 1 : 0;
    doubted += !near && warned ? 1 : 0;
    wrong += !near && !warned ? 1 : 0;
    std::printf(
        "%-9s %u: %zu triangles, off the part by %.4f, the truth by %.4f; pose off by %.3f, rms "
        "%.4f, %.1f s%s%s\n",
        made.kind, seed, triangles, got, best, worst, joined ? joined->rms : 0.0, seconds,
        warned ? ", doubt: " : "",
        !joined ? joined.error().message.c_str()
                : (joined->doubts.empty() ? "" : joined->doubts.front().c_str()));
  }
  EXPECT_EQ(wrong, 0);
  // What is not right is said to be undecided, never passed over.
  EXPECT_GE(right, 0.85 * tried);
  std::printf("right %d, wrong but doubted %d, wrong %d of %d\n", right, doubted, wrong, tried);
}

TEST(Joining, AWayThatNothingDisputesComesFirstWhereItIsWorthNearlyAsMuch) {
  // Three pairs of each layout: what agrees, what contradicts, mm2.
  const auto layout = [](const std::vector<std::pair<double, double>>& pairs) {
    joining::Layout l;
    for (const auto& [agrees, contradicts] : pairs) {
      joining::Overlap one;
      one.agrees = agrees;
      one.contradicts = contradicts;
      one.rms = 0.02;
      add(l, one);
    }
    return l;
  };
  const auto first_agrees = [](std::vector<joining::Layout> layouts) {
    joining::weigh(layouts);
    joining::prefer_undisputed(layouts);
    return layouts.front().overlap.agrees;
  };
  // One pair of the larger one disputes it: the others would outvote it.
  EXPECT_EQ(first_agrees({layout({{12000, 0}, {12000, 0}, {6000, 24}}),
                          layout({{10000, 0}, {9000, 0}, {5000, 0}})}),
            24000);
  // Of one that agrees over twice the area it does not take the lead away.
  EXPECT_EQ(first_agrees({layout({{12000, 0}, {12000, 0}, {6000, 24}}),
                          layout({{7000, 0}, {6000, 0}, {2000, 0}})}),
            30000);
  // What contradicts a little is the scanner's doing, and a disputed one is no better than another.
  EXPECT_EQ(first_agrees({layout({{12000, 2}, {12000, 3}, {6000, 3}}),
                          layout({{10000, 0}, {9000, 0}, {5000, 0}})}),
            30000);
  EXPECT_EQ(first_agrees({layout({{12000, 0}, {12000, 0}, {6000, 24}}),
                          layout({{10000, 0}, {9000, 0}, {5000, 18}})}),
            30000);
}

TEST(Joining, RoundHolesAndDiscsGiveTheirCentres) {
  // A plate with two holes and a boss, with a scanner's noise and rounded edges, seen from above.
  unsigned seed = 77;
  for (const double size : {0.2, 1.0, 25.0}) {
    SCOPED_TRACE(size);
    struct Round {
      Vec2 centre;
      double radius, top;
    };
    const std::array<Round, 3> rounds{{{{14, 12}, 6, 8}, {{45, 25}, 4, 8}, {{30, 30}, 5, 12}}};
    testing::PartBuilder plate;
    plate.box({0, 0}, Vec2(60, 40) * size, 0, 8 * size)
        .holes({rounds[0].centre * size}, 12 * size)
        .holes({rounds[1].centre * size}, 8 * size)
        .disc(rounds[2].centre * size, 5 * size, 8 * size, 12 * size);
    const auto scan = testing::partial_scan(plate.solid(), Vec3(0.2, 0.1, 1).normalized(),
                                            0.6 * size, 0.015 * size, seed++);
    for (const Round& r : rounds) {
      const Vec3 centre = size * Vec3(r.centre.x(), r.centre.y(), r.top);
      // A click on the face, just beside the rim.
      const double beside = r.top > 8 ? r.radius - 0.5 : r.radius + 0.5;
      for (const double turn : {0.3, 2.2}) {
        const Vec3 click = centre + size * beside * Vec3(std::cos(turn), std::sin(turn), 0);
        const auto found =
            joining::target_at(joining::TargetKind::Circle, scan.mesh, scan.pose * click);
        ASSERT_TRUE(found) << found.error().message;
        EXPECT_NEAR(found->radius, r.radius * size, 1.5 * 0.6 * size);
        EXPECT_LT((found->centre - scan.pose * centre).norm(), 0.12 * size);
        EXPECT_LT((found->centre - scan.pose * centre).norm(), 1.5 * found->u);
      }
    }
    const auto at = [&](const Round& r) {
      const Vec3 click(r.centre.x() + r.radius + 0.5, r.centre.y(), r.top);
      return *joining::target_at(joining::TargetKind::Circle, scan.mesh,
                                 scan.pose * (size * click));
    };
    EXPECT_TRUE(joining::alike(at(rounds[0]), at(rounds[0])));
    EXPECT_FALSE(joining::alike(at(rounds[0]), at(rounds[1])));
    // Far from any rim there is none.
    const auto none = joining::target_at(joining::TargetKind::Circle, scan.mesh,
                                         scan.pose * Vec3(size * Vec3(3, 37, 8)));
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().code, ErrorCode::Degenerate);
  }
}

}  // namespace
}  // namespace lostline
