// Jobs of datums, patterns and alignment in the real window.
#include "../core/part_family.h"
#include "io/step.h"
#include "jobs.h"
#include "jobs/aside.h"
#include "simulate/scanner.h"

namespace lostline {
namespace {

using testing::Jobs;

/// The plate as a model, beside the origin and turned, as a file from elsewhere lies.
std::string plate_model(const QTemporaryDir& folder) {
  const model::Model solid = testing::PartBuilder()
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

/// Where a point of the plate's scan lies in the model of `plate_model`, in one of the four ways.
Vec3 on_model(const Vec3& p) { return {140 - p.y(), 50 + p.x(), p.z() - 5}; }

TEST_F(Jobs, PointsAndFeaturesThatBelongTogetherPlaceTheScan) {
  open();
  survey();
  driver_->stage(app::kDatum);
  ASSERT_TRUE(driver_->tool(QStringLiteral("To model")));
  driver_->choose(QStringLiteral("placeBy"), 2);
  driver_->text(QStringLiteral("modelPath"), QString::fromStdString(plate_model(folder_)));
  QTest::keyClick(window_.findChild<QLineEdit*>(QStringLiteral("modelPath")), Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("point on the scan"))) << cardText().toStdString();
  const auto pair_of = [&](const Vec3& p, const Vec3& q) {
    driver_->clickPoint(p);
    ASSERT_TRUE(driver_->settle());
    EXPECT_TRUE(cardText().contains(QStringLiteral("on the model"))) << cardText().toStdString();
    driver_->clickPoint(q);
    ASSERT_TRUE(driver_->settle());
  };
  const auto pair = [&](const Vec3& p) { pair_of(p, on_model(p)); };
  pair({6, 4, 10});
  EXPECT_TRUE(cardText().contains(QStringLiteral("at least three"))) << cardText().toStdString();
  pair({54, 4, 10});
  pair({30, 4, 10});
  EXPECT_TRUE(cardText().contains(QStringLiteral("on one line"))) << cardText().toStdString();
  EXPECT_FALSE(window_.card()->findChild<QPushButton*>(QStringLiteral("keep"))->isEnabled());
  ASSERT_TRUE(driver_->button(QStringLiteral("pairs")));  // the last one is taken back
  ASSERT_TRUE(driver_->settle());
  pair({50, 36, 10});
  auto* ways = window_.findChild<QComboBox*>(QStringLiteral("candidate"));
  EXPECT_EQ(ways->count(), 1) << cardText().toStdString();
  // One more, on the scan where it is shown now: upon the model.
  pair_of(on_model({54, 20, 10}), on_model({54, 20, 10}));
  EXPECT_EQ(ways->count(), 1) << cardText().toStdString();
  EXPECT_TRUE(cardText().contains(QStringLiteral("RMS 0.0"))) << cardText().toStdString();

  // The same by features: the top, the front and the bore.
  driver_->choose(QStringLiteral("placeBy"), 1);
  ASSERT_TRUE(driver_->settle());
  pair({50, 6, 10});
  pair({12, 0, 5});
  // What is seen of the bore's wall lies on its far side, in the scan as in the model.
  pair_of({30 - 8 * 0.59, 20 + 8 * 0.807, 9}, {120 - 8 * 0.59, 80 + 8 * 0.807, 4});
  ASSERT_EQ(ways->count(), 1) << cardText().toStdString();
  driver_->choose(QStringLiteral("checkView"), 3);
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  ASSERT_NE(driver_->document().frame, nullptr) << cardText().toStdString();
  const Transform to_part = driver_->document().to_part();
  for (const Vec3& p : {Vec3(0, 0, 0), Vec3(60, 0, 10), Vec3(60, 40, 0)})
    EXPECT_LT((to_part * p - on_model(p)).norm(), 0.03);
}

TEST_F(Jobs, SixTargetsLayThePartDown) {
  open();
  driver_->stage(app::kDatum);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Targets")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("A1"))) << cardText().toStdString();
  driver_->number(QStringLiteral("targetDiameter"), 5);
  for (const Vec3& p : {Vec3(6, 5, 10), Vec3(54, 5, 10), Vec3(50, 35, 10), Vec3(8, 0, 5)})
    driver_->clickPoint(p);
  // Beside the last one: it does not hold the turn.
  driver_->clickPoint({8.8, 0, 5});
  driver_->clickPoint({60, 20, 5});
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("B1 and B2"))) << cardText().toStdString();
  ASSERT_TRUE(driver_->button(QStringLiteral("takeBack")));
  ASSERT_TRUE(driver_->button(QStringLiteral("takeBack")));
  driver_->clickPoint({52, 0, 5});
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("C1"))) << cardText().toStdString();
  driver_->clickPoint({60, 20, 5});
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("Preview shown"))) << cardText().toStdString();
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  ASSERT_NE(driver_->document().frame, nullptr) << cardText().toStdString();
  // Top on z = 0 looking down, front on x = 0: the corner of the three is the origin.
  EXPECT_LT((driver_->document().to_part() * Vec3(60, 0, 10)).norm(), 0.03);
  EXPECT_EQ(driver_->document().fits.size(), 3U);
  window_.session().undoStack()->undo();
  EXPECT_EQ(driver_->document().frame, nullptr);
  EXPECT_TRUE(driver_->document().fits.empty());
}

TEST_F(Jobs, AFinishIsSeenAsAPatternOfTheWash) {
  open();
  survey();
  driver_->stage(app::kSurvey);
  window_.bench().lookAlong(0);
  ASSERT_TRUE(driver_->settle());
  const auto shot = [&](survey::Finish finish) {
    auto next = project::set_finish(driver_->document(), {region({0, 0, 1})}, finish);
    EXPECT_TRUE(next);
    window_.session().commit(QStringLiteral("finish"), *std::move(next));
    EXPECT_TRUE(driver_->settle());
    return window_.bench().picture();
  };
  const QImage plain = shot(survey::Finish::Machined);
  const QImage strokes = shot(survey::Finish::Formed);
  const QImage stipple = shot(survey::Finish::AsCast);
  // Around a place on the top: one tone when machined, a share of darker pixels otherwise.
  const QPointF at = window_.bench().camera().toScreen({12, 20, 10});
  const auto darker = [&](const QImage& image) {
    int count = 0;
    const double ratio = image.devicePixelRatio();
    for (int x = -14; x < 14; ++x) {
      for (int y = -5; y < 5; ++y) {
        const QPoint p((QPointF(at.x() + x, at.y() + y) * ratio).toPoint());
        count += qGray(image.pixel(p)) < 0.93 * qGray(plain.pixel(p)) ? 1 : 0;
      }
    }
    return count / 280.0;
  };
  EXPECT_EQ(darker(plain), 0);
  EXPECT_GT(darker(strokes), 0.05);
  EXPECT_LT(darker(strokes), 0.35);
  EXPECT_GT(darker(stipple), 0.05);
  EXPECT_LT(darker(stipple), 0.35);
  EXPECT_NE(strokes, stipple);
}

TEST_F(Jobs, LongComputationsOfACardTellTheirProgress) {
  app::Aside aside(window_.session());
  QSignalSpy told(&aside, &app::Aside::progressed);
  QSignalSpy settled(&aside, &app::Aside::settled);
  aside.run([](const Task& task) -> app::Session::Finish {
    task.report(0.1);  // too early to be worth showing
    QThread::msleep(400);
    task.report(0.5);
    return {};
  });
  ASSERT_TRUE(settled.wait(10000));
  ASSERT_EQ(told.size(), 1);
  EXPECT_DOUBLE_EQ(told[0][0].toDouble(), 0.5);
}

TEST_F(Jobs, AFeatureLosesThePartsThatUndoTookAway) {
  open();
  survey();
  driver_->stage(app::kDatum);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Feature")));
  ASSERT_TRUE(driver_->clickRegion(region({1, 0, 0}), {1, 0.2, 0.4}));
  ASSERT_TRUE(driver_->clickRegion(region({-1, 0, 0}), {-1, 0.2, 0.4}));
  ASSERT_TRUE(driver_->settle());
  auto* keep = window_.card()->findChild<QPushButton*>(QStringLiteral("keep"));
  EXPECT_TRUE(keep->isEnabled());
  window_.session().undoStack()->undo();  // the survey goes
  ASSERT_TRUE(driver_->settle());
  ASSERT_EQ(driver_->document().survey, nullptr);
  // Without a survey there is nothing to make a feature of: the card goes, and says why.
  EXPECT_EQ(window_.card(), nullptr);
  EXPECT_TRUE(statusText().contains(QStringLiteral("Feature was closed")))
      << statusText().toStdString();
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
  const model::Model solid = testing::PartBuilder()
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
