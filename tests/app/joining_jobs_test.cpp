// Several scans of one part, and clouds, opened and brought together with the mouse.
#include <QListWidget>

#include "io/formats.h"
#include "jobs.h"

namespace lostline {
namespace {

using testing::Jobs;

class JoiningJobs : public Jobs {
 protected:
  /// What lies on one side of a plane, some of it beyond.
  scan::Mesh half(const scan::Mesh& mesh, const Vec3& normal, double from) {
    std::vector<char> keep(mesh.triangles.size(), 0);
    for (std::size_t t = 0; t < keep.size(); ++t)
      keep[t] = mesh.centroid(t).dot(normal) > from ? 1 : 0;
    return scan::extract(mesh, keep);
  }
};

TEST_F(JoiningJobs, TwoHalvesOfAPartBecomeOneScan) {
  // A cast surface that is like itself nowhere.
  scan::Mesh whole;
  constexpr std::uint32_t kAcross = 90;
  constexpr std::uint32_t kDeep = 60;
  for (std::uint32_t i = 0; i <= kAcross; ++i) {
    for (std::uint32_t j = 0; j <= kDeep; ++j) {
      const double x = i;
      const double y = j;
      whole.vertices.emplace_back(
          x, y, 5 * std::sin(x / 9 + y / 33) + 4 * std::cos(y / 7 - x / 23) + 0.002 * x * y);
    }
  }
  for (std::uint32_t i = 0; i < kAcross; ++i) {
    for (std::uint32_t j = 0; j < kDeep; ++j) {
      const std::uint32_t a = i * (kDeep + 1) + j;
      whole.triangles.push_back({a, a + kDeep + 1, a + kDeep + 2});
      whole.triangles.push_back({a, a + kDeep + 2, a + 1});
    }
  }
  const Box3 box = scan::bounds(whole);
  const Vec3 middle = box.center();
  Transform motion(Eigen::AngleAxisd(1.1, Vec3(0.3, -1, 0.5).normalized()));
  motion.pretranslate(Vec3(80, -20, 35));
  const double share = 0.15 * box.sizes().x();
  const QString first = folder_.filePath(QStringLiteral("left.ply"));
  const QString second = folder_.filePath(QStringLiteral("right.ply"));
  ASSERT_TRUE(io::write_mesh(first.toStdString(), half(whole, Vec3::UnitX(), middle.x() - share)));
  ASSERT_TRUE(
      io::write_mesh(second.toStdString(),
                     scan::transformed(half(whole, -Vec3::UnitX(), -middle.x() - share), motion)));
  window_.openFile(first);
  ASSERT_TRUE(driver_->settle());
  driver_->key(Qt::Key_Escape);
  window_.addScans({second});
  ASSERT_TRUE(driver_->settle());
  ASSERT_EQ(driver_->document().other_scans.size(), 1U);
  driver_->stage(app::kReceive);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Join")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("RMS"))) << cardText().toStdString();
  auto* links = window_.card()->findChild<QListWidget*>(QStringLiteral("joinLinks"));
  ASSERT_NE(links, nullptr);
  EXPECT_EQ(links->count(), 1);
  if (const char* folder = std::getenv("LOSTLINE_SHOTS")) {
    driver_->shot_folder = QString::fromLocal8Bit(folder);
    driver_->shot(QStringLiteral("join"));
  }
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(driver_->document().scan->name, "joined");
  EXPECT_EQ(driver_->document().other_scans.size(), 2U);
  // The first half stays where it lies, so the whole is where it was.
  const scan::MeshIndex truth(whole);
  for (const Vec3& p : driver_->document().scan->mesh->vertices)
    EXPECT_TRUE(truth.nearest(p, 0.1)) << p.transpose();
  const Box3 joined = scan::bounds(*driver_->document().scan->mesh);
  EXPECT_LT((joined.sizes() - box.sizes()).norm(), 0.05 * box.sizes().norm());
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(driver_->document().other_scans.size(), 1U);
}

TEST_F(JoiningJobs, ACloudOpensAsAScan) {
  open();
  scan::PointCloud cloud;
  cloud.points = driver_->document().scan->mesh->vertices;
  const Box3 box = scan::bounds(*driver_->document().scan->mesh);
  const QString path = folder_.filePath(QStringLiteral("cloud.xyz"));
  ASSERT_TRUE(io::write_points(path.toStdString(), cloud));
  window_.openFile(path);
  ASSERT_TRUE(driver_->settle());
  const auto& scan = driver_->document().scan;
  ASSERT_NE(scan, nullptr);
  EXPECT_EQ(scan->name, "cloud");
  EXPECT_GT(scan->mesh->triangles.size(), cloud.points.size());
  EXPECT_LT((scan::bounds(*scan->mesh).sizes() - box.sizes()).norm(), 0.01 * box.sizes().norm());
}

}  // namespace
}  // namespace lostline
