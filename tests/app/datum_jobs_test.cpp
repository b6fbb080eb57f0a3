// Jobs of datums, patterns and alignment in the real window.
#include "../core/part_family.h"
#include "io/step.h"
#include "jobs.h"
#include "simulate/scanner.h"

namespace lostline {
namespace {

using testing::Jobs;

/// The plate as a model, beside the origin and turned, as a file from elsewhere lies.
std::string plate_model(const QTemporaryDir& folder) {
  const model::Solid solid = testing::PartBuilder()
                                 .box({100, 50}, {140, 110}, -5, 5)
                                 .holes({{120, 80}}, 2 * testing::PlateScan::kRadius)
                                 .solid();
  const std::string path = folder.filePath(QStringLiteral("plate.step")).toStdString();
  EXPECT_TRUE(io::write_step(path, solid, "plate"));
  return path;
}

TEST_F(Jobs, AScanIsBroughtUponAModelInAnyOfTheWaysItLies) {
  open();
  survey();
  driver_->stage(app::kDatum);
  ASSERT_TRUE(driver_->tool(QStringLiteral("To model")));
  driver_->text(QStringLiteral("modelPath"), folder_.filePath(QStringLiteral("none.step")));
  auto* path = window_.findChild<QLineEdit*>(QStringLiteral("modelPath"));
  QTest::keyClick(path, Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("none.step"))) << cardText().toStdString();
  driver_->text(QStringLiteral("modelPath"), QString::fromStdString(plate_model(folder_)));
  QTest::keyClick(path, Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  auto* ways = window_.findChild<QComboBox*>(QStringLiteral("candidate"));
  ASSERT_EQ(ways->count(), 4) << cardText().toStdString();  // a plate lies alike in four ways
  EXPECT_EQ(driver_->document().frame, nullptr);            // nothing is kept yet
  driver_->choose(QStringLiteral("candidate"), 2);
  ASSERT_TRUE(driver_->settle());
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  ASSERT_NE(driver_->document().frame, nullptr) << cardText().toStdString();
  ASSERT_TRUE(driver_->document().frame->upon);
  EXPECT_EQ(driver_->document().frame->upon->model, "plate.step");
  EXPECT_LT(driver_->document().frame->upon->rms, 0.03);
  const Vec3 bore = driver_->document().to_part() * Vec3(30, 20, 5);
  EXPECT_LT((bore - Vec3(120, 80, 0)).norm(), 0.02);
  window_.session().undoStack()->undo();
  EXPECT_EQ(driver_->document().frame, nullptr);
}

TEST_F(Jobs, AProposedFrameIsAcceptedWithItsReasons) {
  open();
  survey();
  driver_->stage(app::kDatum);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Frame")));
  ASSERT_TRUE(driver_->button(QStringLiteral("proposeFrame")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("stand on"))) << cardText().toStdString();
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  ASSERT_NE(driver_->document().frame, nullptr) << cardText().toStdString();
}

TEST_F(Jobs, MidplanesAndPlanesOfSymmetryAreKept) {
  open();
  survey();
  driver_->stage(app::kDatum);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Feature")));
  ASSERT_TRUE(driver_->clickRegion(region({1, 0, 0}), {1, 0.2, 0.4}));
  ASSERT_TRUE(driver_->clickRegion(region({-1, 0, 0}), {-1, 0.2, 0.4}));
  ASSERT_TRUE(driver_->settle());
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  ASSERT_EQ(driver_->document().fits.size(), 3U) << cardText().toStdString();  // with both sides
  const fit::Surface middle = driver_->document().fits.back()->result.surface;
  EXPECT_NEAR(middle.distance(Vec3(30, 5, 5)), 0, 0.01);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Feature")));
  driver_->choose(QStringLiteral("constructionType"),
                  static_cast<int>(project::Construction::Type::Symmetry));
  ASSERT_TRUE(driver_->settle());
  auto* found = window_.findChild<QComboBox*>(QStringLiteral("symmetryPlane"));
  ASSERT_GE(found->count(), 3) << cardText().toStdString();  // a plate has three
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  ASSERT_EQ(driver_->document().fits.size(), 4U);
  EXPECT_NEAR(driver_->document().fits.back()->result.surface.distance(Vec3(30, 20, 5)), 0, 0.02);
}

TEST_F(Jobs, PatternsAreTickedAndAcceptedAndAFinishIsOverruled) {
  // A plate of four holes and a bore instead of the plain one.
  const model::Solid solid = testing::PartBuilder()
                                 .box({-40, -30}, {40, 30}, 0, 8)
                                 .holes({{-30, -20}, {30, -20}, {30, 20}, {-30, 20}}, 9)
                                 .holes({{0, 0}}, 24)
                                 .solid();
  simulate::ScanOptions options;
  options.random_pose = false;
  options.strays = 0;
  const auto scanned = simulate::simulate_scan(solid, {}, options);
  ASSERT_TRUE(scanned);
  ASSERT_TRUE(io::write_stl(scan_.toStdString(), scanned->mesh));
  open();
  survey();
  driver_->stage(app::kSurvey);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Patterns")));
  auto* list = window_.findChild<QListWidget*>(QStringLiteral("patterns"));
  ASSERT_NE(list, nullptr);
  ASSERT_GT(list->count(), 0) << cardText().toStdString();
  ASSERT_TRUE(driver_->button(QStringLiteral("allPatterns")));
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_FALSE(driver_->document().relations.empty()) << cardText().toStdString();
  window_.session().undoStack()->undo();
  EXPECT_TRUE(driver_->document().relations.empty());

  ASSERT_TRUE(driver_->tool(QStringLiteral("Repaint")));
  const std::uint32_t top = region({0, 0, 1});
  ASSERT_TRUE(driver_->clickRegion(top, {0.2, 0.1, 1}));
  auto* finish = window_.findChild<QComboBox*>(QStringLiteral("finish"));
  ASSERT_NE(finish, nullptr);
  finish->setFocus();
  QTest::keyClick(finish, Qt::Key_Down);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(driver_->document().survey->regions[top - 1].finish, survey::Finish::AsCast);
  EXPECT_TRUE(driver_->document().survey->regions[top - 1].finish_by_hand);
}

}  // namespace
}  // namespace lostline
