// Several scans of one part, and clouds, opened and brought together with the mouse.
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QTest>
#include <optional>
#include <random>

#include "io/formats.h"
#include "jobs.h"

namespace lostline {
namespace {

using testing::Jobs;

class JoiningJobs : public Jobs {
 protected:
  /// A cast surface that is like itself nowhere.
  static scan::Mesh casting() {
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
    return whole;
  }
  /// What lies on one side of a plane, some of it beyond.
  scan::Mesh half(const scan::Mesh& mesh, const Vec3& normal, double from) {
    std::vector<char> keep(mesh.triangles.size(), 0);
    for (std::size_t t = 0; t < keep.size(); ++t)
      keep[t] = mesh.centroid(t).dot(normal) > from ? 1 : 0;
    return scan::extract(mesh, keep);
  }
  /// Opens *Join* on both halves of a part: `share` beyond its middle on either side, the second
  /// one moved.
  void joinHalves(const scan::Mesh& whole, double share, const Transform& motion) {
    const Vec3 middle = scan::bounds(whole).center();
    const QString first = folder_.filePath(QStringLiteral("left.ply"));
    const QString second = folder_.filePath(QStringLiteral("right.ply"));
    ASSERT_TRUE(
        io::write_mesh(first.toStdString(), half(whole, Vec3::UnitX(), middle.x() - share)));
    ASSERT_TRUE(io::write_mesh(
        second.toStdString(),
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
  }
};

TEST_F(JoiningJobs, TwoHalvesOfAPartBecomeOneScan) {
  const scan::Mesh whole = casting();
  const Box3 box = scan::bounds(whole);
  Transform motion(Eigen::AngleAxisd(1.1, Vec3(0.3, -1, 0.5).normalized()));
  motion.pretranslate(Vec3(80, -20, 35));
  const double share = 0.15 * box.sizes().x();
  ASSERT_NO_FATAL_FAILURE(joinHalves(whole, share, motion));
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

TEST_F(JoiningJobs, AScanIsLaidByPairsAndByHand) {
  const scan::Mesh whole = casting();
  const Box3 box = scan::bounds(whole);
  const Vec3 middle = box.center();
  const double share = 0.2 * box.sizes().x();
  Transform motion(Eigen::AngleAxisd(0.5, Vec3::UnitZ()));
  motion.pretranslate(Vec3(40, 300, 10));
  ASSERT_NO_FATAL_FAILURE(joinHalves(whole, share, motion));
  if (const char* folder = std::getenv("LOSTLINE_SHOTS"))
    driver_->shot_folder = QString::fromLocal8Bit(folder);
  auto* drift = window_.card()->findChild<QCheckBox*>(QStringLiteral("joinDrift"));
  drift->click();
  ASSERT_TRUE(driver_->settle());
  if (!driver_->shot_folder.isEmpty()) driver_->shot(QStringLiteral("join-drift"));
  drift->click();

  // By pairs: three places in the middle, which both show, seen from above.
  auto* how = window_.card()->findChild<QComboBox*>(QStringLiteral("joinHow"));
  driver_->key(Qt::Key_5);
  app::BenchView& bench = window_.bench();
  const auto far_off = [&] {  // drawn where the second scan lies in its file
    bench.camera().fit(scan::bounds(*driver_->document().other_scans.front()->mesh));
    bench.setGrid(false);  // draws anew
    driver_->settle();
    const QImage picture = bench.grab().toImage();
    return picture.pixelColor(picture.rect().center()) != picture.pixelColor(40, 40);
  };
  EXPECT_TRUE(far_off());
  how->setCurrentIndex(1);
  ASSERT_TRUE(driver_->settle());
  // It stands beside the first one now, and there alone.
  EXPECT_FALSE(far_off());
  bench.fitView();
  ASSERT_TRUE(driver_->settle());
  // The same place on either scan, wherever the second one is shown beside the first.
  const auto seen = [&](app::Pick::What what) {
    std::vector<std::pair<QPointF, Vec3>> places;
    for (int x = 10; x < bench.width(); x += 6) {
      for (int y = 10; y < bench.height(); y += 6) {
        const app::Pick pick = bench.pickAt(QPointF(x, y));
        if (pick.what == what) places.emplace_back(QPointF(x, y), pick.point);
      }
    }
    return places;
  };
  const auto on_first = seen(app::Pick::What::Scan);
  const auto on_second = seen(app::Pick::What::Model);
  ASSERT_GT(on_first.size(), 100U);
  ASSERT_GT(on_second.size(), 100U);
  // It is shown as it lies, moved beside the first.
  const Box3 left = scan::bounds(half(whole, Vec3::UnitX(), middle.x() - share));
  const Box3 right = scan::bounds(half(whole, -Vec3::UnitX(), -middle.x() - share));
  Vec3 by = left.center() - right.center();
  by.x() = left.max().x() + 0.15 * left.diagonal().norm() - right.min().x();
  int clicked = 0;
  for (const Vec2& wanted : {Vec2(0.15, 0.2), Vec2(0.5, 0.85), Vec2(0.85, 0.3)}) {
    const Vec3 place(middle.x() + 2 * (wanted.x() - 0.5) * share,
                     box.min().y() + wanted.y() * box.sizes().y(), 0);
    const auto nearest = [&](const auto& places, const Vec3& to) {
      return *std::min_element(places.begin(), places.end(), [&](const auto& a, const auto& b) {
        return (a.second - to).template head<2>().norm() <
               (b.second - to).template head<2>().norm();
      });
    };
    const auto one = nearest(on_first, place);
    const auto other = nearest(on_second, Vec3(one.second + by));
    driver_->click(one.first);
    driver_->click(other.first);
    ++clicked;
    // A line that all but fills the card's width is seen whole.
    const auto* bar = window_.card()->findChild<QScrollArea*>()->verticalScrollBar();
    EXPECT_EQ(bar->maximum(), 0) << cardText().toStdString();
    if (clicked == 2 && !driver_->shot_folder.isEmpty())
      driver_->shot(QStringLiteral("join-pairs"));
  }
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("RMS"))) << cardText().toStdString();
  // The drift is seen in this way of laying too.
  drift->click();
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("Pairs: 3"))) << cardText().toStdString();
  drift->click();
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("Pairs: 3"))) << cardText().toStdString();

  // By hand: dragged away, it is told; joined again, it lies right.
  how->setCurrentIndex(2);
  ASSERT_TRUE(driver_->settle());
  const auto over = seen(app::Pick::What::Model);
  ASSERT_FALSE(over.empty());
  const QPointF grip = over[over.size() / 2].first;
  const QPoint from = grip.toPoint();
  QTest::mousePress(&bench, Qt::LeftButton, {}, from);
  for (int k = 1; k <= 3; ++k) QTest::mouseMove(&bench, from + k * QPoint(3, -2));
  QTest::mouseRelease(&bench, Qt::LeftButton, {}, from + QPoint(9, -6));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("where you left it"))) << cardText().toStdString();
  if (!driver_->shot_folder.isEmpty()) driver_->shot(QStringLiteral("join-hand"));
  window_.card()->findChild<QPushButton*>(QStringLiteral("joinAgain"))->click();
  ASSERT_TRUE(driver_->settle());
  auto* weight = window_.card()->findChild<QDoubleSpinBox*>(QStringLiteral("joinWeight"));
  weight->setValue(0.5);
  bench.setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  ASSERT_EQ(driver_->document().scan->name, "joined") << cardText().toStdString();
  const scan::MeshIndex truth(whole);
  std::size_t off = 0;
  for (const Vec3& p : driver_->document().scan->mesh->vertices)
    off += truth.nearest(p, 0.1) ? 0 : 1;
  EXPECT_LT(off, driver_->document().scan->mesh->vertices.size() / 200);
}

TEST_F(JoiningJobs, AClickBesideAHoleMeansItsCentre) {
  open();
  Transform motion(Eigen::AngleAxisd(0.4, Vec3::UnitZ()));
  motion.pretranslate(Vec3(90, 20, 5));
  const QString second = folder_.filePath(QStringLiteral("again.ply"));
  ASSERT_TRUE(io::write_mesh(second.toStdString(),
                             scan::transformed(testing::plate_mesh(0.01, 8), motion)));
  window_.addScans({second});
  ASSERT_TRUE(driver_->settle());
  driver_->stage(app::kReceive);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Join")));
  ASSERT_TRUE(driver_->settle());
  auto* means = window_.card()->findChild<QComboBox*>(QStringLiteral("joinMeans"));
  ASSERT_NE(means, nullptr);
  EXPECT_FALSE(means->isVisible());  // there are no clicks to mean anything
  driver_->key(Qt::Key_5);
  driver_->choose(QStringLiteral("joinHow"), 1);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(means->isVisible());
  driver_->choose(QStringLiteral("joinMeans"), 2);
  app::BenchView& bench = window_.bench();
  const auto click_near = [&](const Vec3& place) {
    std::optional<QPointF> best;
    double least = 2;  // mm
    for (int x = 4; x < bench.width(); x += 4) {
      for (int y = 4; y < bench.height(); y += 4) {
        const app::Pick pick = bench.pickAt(QPointF(x, y));
        if (pick.what != app::Pick::What::Scan || (pick.point - place).norm() > least) continue;
        least = (pick.point - place).norm();
        best = QPointF(x, y);
      }
    }
    ASSERT_TRUE(best);
    driver_->click(*best);
    ASSERT_TRUE(driver_->settle());
  };
  // In the corner of the plate there is nothing round.
  ASSERT_NO_FATAL_FAILURE(click_near({4, 4, 10}));
  EXPECT_TRUE(cardText().contains(QStringLiteral("no round rim"))) << cardText().toStdString();
  using Plate = testing::PlateScan;
  const Vec3 centre(Plate::kLength / 2, Plate::kWidth / 2, Plate::kHeight);
  ASSERT_NO_FATAL_FAILURE(click_near(centre + (Plate::kRadius + 2) * Vec3(-0.8, 0.6, 0)));
  EXPECT_TRUE(cardText().contains(QStringLiteral("Now the same place on scan 2")))
      << cardText().toStdString();
  if (const char* folder = std::getenv("LOSTLINE_SHOTS")) {
    driver_->shot_folder = QString::fromLocal8Bit(folder);
    driver_->shot(QStringLiteral("join-circles"));
  }
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

TEST_F(JoiningJobs, ACloudIsMeshedAnotherWayAndDrawnByItsPoints) {
  if (const char* folder = std::getenv("LOSTLINE_SHOTS"))
    driver_->shot_folder = QString::fromLocal8Bit(folder);
  scan::PointCloud cloud;
  cloud.points = casting().vertices;
  std::mt19937_64 random(5);
  std::normal_distribution<double> noise(0, 0.04);
  for (Vec3& p : cloud.points) p.z() += noise(random);
  for (int i = 0; i < 8; ++i) cloud.points.emplace_back(30 + i, 20, 60);  // a hair above it
  const QString path = folder_.filePath(QStringLiteral("casting.xyz"));
  ASSERT_TRUE(io::write_points(path.toStdString(), cloud));
  window_.openFile(path);
  ASSERT_TRUE(driver_->settle());
  driver_->key(Qt::Key_Escape);
  const auto opened = driver_->document().scan;
  ASSERT_TRUE(driver_->tool(QStringLiteral("Mesh")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("read as x y z"))) << cardText().toStdString();
  EXPECT_TRUE(cardText().contains(QStringLiteral("8 belong to no surface")))
      << cardText().toStdString();
  const auto drawn = [&] {
    std::size_t count = 0;
    for (const auto& batch : window_.bench().points()) count += batch->count();
    return count;
  };
  EXPECT_EQ(drawn(), cloud.points.size());
  // Nothing to keep while it is meshed as it was.
  auto* keep = window_.card()->findChild<QPushButton*>(QStringLiteral("keep"));
  ASSERT_NE(keep, nullptr);
  EXPECT_FALSE(keep->isEnabled());
  if (!driver_->shot_folder.isEmpty()) driver_->shot(QStringLiteral("mesh-points"));
  driver_->number(QStringLiteral("meshSpacing"), 2);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(keep->isEnabled());
  driver_->choose(QStringLiteral("meshShown"), 1);
  ASSERT_TRUE(driver_->settle());
  EXPECT_LT(drawn(), cloud.points.size() / 2);  // the vertices of the mesh
  if (!driver_->shot_folder.isEmpty()) driver_->shot(QStringLiteral("mesh-noise"));
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(window_.bench().points().empty());
  EXPECT_LT(driver_->document().scan->mesh->vertices.size(), opened->mesh->vertices.size() / 2);
  // The scan itself by its points, and its surface again.
  ASSERT_TRUE(driver_->settle());
  driver_->rest();
  const QImage surface = window_.bench().grab().toImage();
  driver_->key(Qt::Key_W);
  driver_->key(Qt::Key_P);
  driver_->rest();
  EXPECT_TRUE(window_.bench().scanAsPoints());
  EXPECT_NE(window_.bench().grab().toImage(), surface);
  if (!driver_->shot_folder.isEmpty()) driver_->shot(QStringLiteral("as-points"));
  driver_->key(Qt::Key_W);
  driver_->key(Qt::Key_P);
  driver_->rest();
  EXPECT_EQ(window_.bench().grab().toImage(), surface);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(driver_->document().scan, opened);
  // A mesh has no points to go back to.
  open();
  ASSERT_TRUE(driver_->tool(QStringLiteral("Mesh")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("no cloud of points")))
      << cardText().toStdString();
}

}  // namespace
}  // namespace lostline
