// A scan that was meshed from points: where it comes from is known, and it is meshed another way.
#include "project/cloud_scan.h"

#include <gtest/gtest.h>

#include <cmath>
#include <filesystem>
#include <numbers>
#include <random>

#include "io/formats.h"
#include "project/edits.h"
#include "scan/clean.h"
#include "store/project_file.h"
#include "support/places.h"

namespace lostline::project {
namespace {

class CloudScan : public ::testing::Test {
 protected:
  void TearDown() override { std::filesystem::remove(path_); }

  /// Three quarters of a ball of 25 mm and a clutch of points far off it, in the file's unit.
  void write(double factor) {
    std::mt19937_64 random(17);
    std::uniform_real_distribution<double> share(0, 1);
    std::normal_distribution<double> noise(0, 0.03);
    scan::PointCloud cloud;
    for (int i = 0; i < 12000; ++i) {
      const double z = -1 + 1.5 * share(random);
      const double turn = 2 * std::numbers::pi * share(random);
      const double across = std::sqrt(1 - z * z);
      cloud.points.emplace_back(factor * (25 + noise(random)) *
                                Vec3(across * std::cos(turn), across * std::sin(turn), z));
    }
    for (int i = 0; i < 20; ++i) cloud.points.emplace_back(factor * Vec3(40 + 0.3 * i, 60, 70));
    ASSERT_TRUE(io::write_points(path_, cloud));
  }
  [[nodiscard]] static double scatter(const Scan& scan) {
    double sum = 0;
    for (const Vec3& p : scan.mesh->vertices) sum += std::pow(p.norm() - 25, 2);
    return std::sqrt(sum / static_cast<double>(scan.mesh->vertices.size()));
  }
  std::string path_ = testing::scratch() / "cloud.xyz";
};

TEST_F(CloudScan, IsMeshedAnotherWayFromItsPoints) {
  for (const Unit unit : {Unit::Millimetre, Unit::Inch, Unit::Metre}) {
    write(1 / mm_per(unit));
    const auto scan = open_scan(path_, unit);
    ASSERT_TRUE(scan) << scan.error().message;
    ASSERT_TRUE((*scan)->points);
    const FromPoints& from = *(*scan)->points;
    EXPECT_EQ(from.count, 12020U);
    EXPECT_EQ(from.columns, "x y z");
    EXPECT_NEAR(from.noise, 0.03, 0.006);
    EXPECT_NEAR(from.spacing, (*scan)->health.spacing, 0.5 * from.spacing);
    // The clutch, and hardly any of the ball's.
    EXPECT_GE(from.dropped, 20U);
    EXPECT_LE(from.dropped, 40U);
    ASSERT_TRUE(from.u);
    EXPECT_EQ(from.u->size(), (*scan)->mesh->vertices.size());
    const auto cloud = points_of(**scan);
    ASSERT_TRUE(cloud) << cloud.error().message;
    ASSERT_EQ(cloud->points.size(), from.count);
    EXPECT_LT((*scan)->index->nearest(cloud->points.front())->distance, 0.3);
    // Less averaged more is left of the noise; wider apart there are fewer.
    cloud::MeshingOptions options;
    options.smooth = 0;
    const auto raw = meshed_anew(**scan, *cloud, options);
    ASSERT_TRUE(raw) << raw.error().message;
    EXPECT_NEAR(scatter(**raw), 0.03, 0.004);
    EXPECT_LT(scatter(**scan), 0.02);
    EXPECT_EQ((*raw)->points->options, options);
    options.smooth = 3;
    options.spacing = 2 * from.spacing;
    const auto wide = meshed_anew(**scan, *cloud, options);
    ASSERT_TRUE(wide) << wide.error().message;
    EXPECT_NEAR((*wide)->health.spacing / (*scan)->health.spacing, 2, 0.4);
    EXPECT_GE((*wide)->points->dropped, 20U);  // points, not what is left of them when thinned
    EXPECT_LE((*wide)->points->dropped, 60U);
    EXPECT_EQ((*wide)->name, (*scan)->name);
    EXPECT_EQ((*wide)->unit, unit);
  }
}

TEST_F(CloudScan, TheProjectKnowsWhereItComesFrom) {
  write(1);
  const auto scan = open_scan(path_, Unit::Millimetre);
  ASSERT_TRUE(scan);
  const std::string project = testing::scratch() / "cloud.lostline";
  ASSERT_TRUE(store::save_project(project, with_scan({}, *scan)));
  const auto back = store::load_project(project);
  ASSERT_TRUE(back) << back.error().message;
  std::filesystem::remove(project);
  ASSERT_TRUE(back->scan->points);
  const FromPoints& from = *back->scan->points;
  EXPECT_EQ(from.count, 12020U);
  EXPECT_EQ(from.columns, "x y z");
  EXPECT_EQ(from.options, (*scan)->points->options);
  EXPECT_DOUBLE_EQ(from.noise, (*scan)->points->noise);
  EXPECT_EQ(from.dropped, (*scan)->points->dropped);
  const auto cloud = points_of(*back->scan);
  ASSERT_TRUE(cloud);
  const auto again = meshed_anew(*back->scan, *cloud, from.options);
  ASSERT_TRUE(again);
  EXPECT_EQ((*again)->mesh->vertices.size(), (*scan)->mesh->vertices.size());
}

TEST_F(CloudScan, SaysWhyThereAreNoPoints) {
  write(1);
  const auto scan = open_scan(path_, Unit::Millimetre);
  ASSERT_TRUE(scan);
  // Worked on: the points no longer say what it is.
  const auto cleaned =
      scan::drop_spikes(*(*scan)->mesh, (*scan)->topology, (*scan)->health.noise_sigma, 3);
  const auto worked_on = prepare_scan(cleaned.mesh, "worked on", path_, Unit::Millimetre);
  ASSERT_TRUE(worked_on);
  const auto none = points_of(**worked_on);
  ASSERT_FALSE(none);
  EXPECT_NE(none.error().message.find("worked on since"), std::string::npos);
  std::filesystem::remove(path_);
  const auto gone = points_of(**scan);
  ASSERT_FALSE(gone);
  EXPECT_EQ(gone.error().code, ErrorCode::Io);
  EXPECT_NE(gone.error().message.find("no longer there"), std::string::npos);
}

}  // namespace
}  // namespace lostline::project
