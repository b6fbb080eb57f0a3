// Curves in space clicked on the scan, and steps that follow them.
#include <QListWidget>

#include "curve/space_spline.h"
#include "jobs.h"
#include "model/steps/pipe_run/pipe_run.h"
#include "model/steps/space_curve/space_curve.h"
#include "model/steps/sweep/sweep.h"
#include "project/edits.h"
#include "sketch/drawing.h"

namespace lostline {
namespace {

using testing::Jobs;

class CurveJobs : public Jobs {
 protected:
  void shot(const char* name) {
    const char* folder = std::getenv("LOSTLINE_SHOTS");
    if (folder == nullptr) return;
    driver_->shot_folder = QString::fromLocal8Bit(folder);
    QTest::qWait(200);
    driver_->shot(QString::fromUtf8(name));
  }
  const model::SpaceCurve& curve() {
    return *driver_->document().steps.back().feature.as<model::SpaceCurve>();
  }
  void keep(std::size_t steps) {
    bench().setFocus();
    driver_->key(Qt::Key_Return);
    ASSERT_TRUE(driver_->settle());
    ASSERT_EQ(driver_->document().steps.size(), steps) << cardText().toStdString();
    EXPECT_EQ(state(steps - 1), model::StepState::Sound)
        << window_.session().route()->steps.back().reason;
  }
};

TEST_F(CurveJobs, ACurveIsClickedOnTheScanDraggedAndFollowedByAPipe) {
  open();
  survey();
  frame();
  driver_->stage(app::kTrace);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Curve")));
  bench().lookAt({0.2, -0.4, 1}, Vec3::UnitZ());
  QTest::qWait(30);
  // On the plate's top, clear of the bore.
  const Vec3 middle =
      driver_->document().to_part() * scan::bounds(*driver_->document().scan->mesh).center();
  const double top = 10;
  const auto place = [&](double x, double y) { return Vec3(middle.x() + x, middle.y() + y, top); };
  driver_->clickPoint(place(-25, -15));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("Click places"))) << cardText().toStdString();
  for (const Vec3& p : {place(-25, 0), place(-20, 14), place(0, 15), place(22, 12)})
    driver_->clickPoint(p);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("long"))) << cardText().toStdString();
  shot("curve");
  // A place is dragged where it was taken; the next one is taken back.
  const QPoint from = bench().camera().toScreen(place(0, 15)).toPoint();
  const QPoint to = bench().camera().toScreen(place(0, 11)).toPoint();
  drag(Qt::LeftButton, from, to);
  ASSERT_TRUE(driver_->button(QStringLiteral("takeBack")));
  ASSERT_TRUE(driver_->settle());
  keep(1);
  ASSERT_GE(curve().path.corners.size(), 4U);
  EXPECT_LT((curve().path.corners.back() - place(0, 11)).norm(), 0.6);
  for (const Vec3& p : curve().path.corners) EXPECT_NEAR(p.z(), top, 0.1);
  // A pipe along it: the curve is clicked, the radius typed.
  driver_->stage(app::kBuild);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Pipe")));
  bench().setShow(app::Show::Both);
  ASSERT_TRUE(driver_->settle());
  const auto spline = curve::SpaceSpline::through(curve().path.corners, false);
  ASSERT_TRUE(spline);
  driver_->clickPoint(spline->at(0.4 * spline->range()));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("along a curve"))) << cardText().toStdString();
  driver_->number(QStringLiteral("radius"), 2);
  ASSERT_TRUE(driver_->settle());
  shot("pipe-along-curve");
  keep(2);
  const double volume = window_.session().route()->solid.volume();
  EXPECT_NEAR(volume, 4 * 3.14159265 * spline->length(), 0.02 * volume);
  // The curve is edited as it was kept.
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(driver_->document().steps.empty());
}

TEST_F(CurveJobs, TheBorderOfARegionAndTheCrossingOfSketchesAreCurves) {
  open();
  survey();
  frame();
  driver_->stage(app::kTrace);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Curve")));
  driver_->choose(QStringLiteral("curveFollows"), 1);
  bench().lookAt({0.1, -0.2, 1}, Vec3::UnitY());
  QTest::qWait(30);
  // The plate's top, beside the bore of radius 8.
  const Vec3 middle =
      driver_->document().to_part() * scan::bounds(*driver_->document().scan->mesh).center();
  driver_->clickPoint({middle.x() + 10, middle.y(), 10});
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("RMS"))) << cardText().toStdString();
  shot("curve-border");
  keep(1);
  EXPECT_TRUE(curve().closed);
  // All round the top, which the mesh of this plate cuts open from its edge to the bore.
  EXPECT_GT(curve().path.corners.size(), 20U);
  for (const Vec3& p : curve().path.corners) EXPECT_NEAR(p.z(), 10, 0.2);
  driver_->key(Qt::Key_Escape);
  // Without two sketches there is nothing to cross, which is said.
  ASSERT_TRUE(driver_->tool(QStringLiteral("Curve")));
  driver_->choose(QStringLiteral("curveFollows"), 4);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("Choose two sketches")))
      << cardText().toStdString();
}

}  // namespace
}  // namespace lostline
