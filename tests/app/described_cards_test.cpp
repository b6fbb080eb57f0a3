// Cards that are made from the description of their kind of step, in the real window.
#include <QTreeWidget>
#include <cstdlib>
#include <filesystem>

#include "io/step.h"
#include "jobs.h"
#include "model/steps/kinds.h"
#include "project/bodies.h"
#include "support/places.h"
#include "tools/tool.h"

namespace lostline {
namespace {

using testing::Jobs;

class DescribedCards : public Jobs {
 protected:
  void build() {
    Jobs::build();
    window_.bench().lookAt(Vec3(1, 0.35, 0.6).normalized(), Vec3::UnitZ());
    QTest::qWait(30);
  }
  /// Clicks a face of the plate by the direction it looks in.
  void clickFace(const Vec3& out) {
    const Vec3 half(30, 20, 5);
    // Off the middle of the top, where the bore is.
    Vec3 at = out.cwiseProduct(half);
    if (std::abs(out.z()) > 0.5) at += Vec3(20, 10, 0);
    at.z() += at.z() == 0 ? 5 : 5;
    driver_->clickPoint(at);
    ASSERT_TRUE(driver_->settle());
  }
  void shot(const char* name) {
    if (const char* folder = std::getenv("LOSTLINE_SHOTS")) {
      driver_->shot_folder = QString::fromLocal8Bit(folder);
      driver_->shot(QString::fromUtf8(name));
    }
  }
  double volume() { return window_.session().route()->solid.volume(); }
  void keep() {
    window_.bench().setFocus();
    driver_->key(Qt::Key_Return);
    ASSERT_TRUE(driver_->settle());
    ASSERT_EQ(window_.card(), nullptr) << cardText().toStdString();
  }
};

TEST_F(DescribedCards, AWallIsDraftedThePlateShelledAndTakenBack) {
  build();
  const double plate = volume();
  ASSERT_TRUE(driver_->tool(QStringLiteral("Draft")));
  EXPECT_TRUE(cardText().contains(QStringLiteral("Click faces"))) << cardText().toStdString();
  clickFace({1, 0, 0});
  EXPECT_TRUE(cardText().contains(QStringLiteral("Now say the neutral")))
      << cardText().toStdString();
  driver_->choose(QStringLiteral("neutral"), 3);
  auto* neutral = window_.card()->findChild<QComboBox*>(QStringLiteral("neutral"));
  Q_EMIT neutral->activated(3);
  ASSERT_TRUE(driver_->settle());
  // The wall of this plate is square: that is what the scan says.
  EXPECT_TRUE(cardText().contains(QStringLiteral("scan: angle"))) << cardText().toStdString();
  driver_->number(QStringLiteral("angle"), 10);
  ASSERT_TRUE(driver_->settle());
  if (const char* folder = std::getenv("LOSTLINE_SHOTS")) {
    driver_->shot_folder = QString::fromLocal8Bit(folder);
    driver_->shot(QStringLiteral("draft"));
  }
  keep();
  ASSERT_EQ(driver_->document().steps.size(), 2U);
  ASSERT_EQ(state(1), model::StepState::Sound) << window_.session().route()->steps[1].reason;
  const double wedge = 0.5 * 10 * 10 * std::tan(10 * std::numbers::pi / 180) * 40;
  EXPECT_NEAR(plate - volume(), wedge, 0.01 * wedge);
  // Its angle stands in the Ledger, decided, beside what the scan says.
  const project::Dimension* row = nullptr;
  for (const auto& d : driver_->document().dimensions) {
    if (d.owner.step == driver_->document().steps[1].id) row = &d;
  }
  ASSERT_NE(row, nullptr);
  EXPECT_EQ(row->quantity, standards::Quantity::Angle);
  ASSERT_TRUE(row->reading);
  EXPECT_NEAR(*row->reading, 0, 2 * row->u + 0.05);
  EXPECT_NEAR(row->intent.value_or(0), 10, 1e-9);

  ASSERT_TRUE(driver_->tool(QStringLiteral("Shell")));
  clickFace({0, 0, 1});
  driver_->number(QStringLiteral("thickness"), 2);
  ASSERT_TRUE(driver_->settle());
  if (!driver_->shot_folder.isEmpty()) driver_->shot(QStringLiteral("shell"));
  keep();
  ASSERT_EQ(driver_->document().steps.size(), 3U);
  EXPECT_EQ(state(2), model::StepState::Sound) << window_.session().route()->steps[2].reason;
  const double hollow = volume();
  EXPECT_LT(hollow, 0.6 * plate);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  ASSERT_TRUE(driver_->settle());
  EXPECT_NEAR(plate - volume(), wedge, 0.01 * wedge);
  driver_->key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(driver_->settle());
  EXPECT_NEAR(volume(), hollow, 1e-9 * hollow);
}

TEST_F(DescribedCards, AFaceIsOffsetThickenedAndEditedAgain) {
  build();
  const double plate = volume();
  ASSERT_TRUE(driver_->tool(QStringLiteral("Offset")));
  clickFace({1, 0, 0});
  EXPECT_TRUE(cardText().contains(QStringLiteral("scan: distance"))) << cardText().toStdString();
  driver_->number(QStringLiteral("distance"), 3);
  ASSERT_TRUE(driver_->settle());
  keep();
  ASSERT_EQ(driver_->document().steps.size(), 2U);
  EXPECT_NEAR(volume() - plate, 3 * 40 * 10, 0.01 * 1200);
  // Opened again it shows what was kept; another value replaces it.
  auto* list = window_.findChild<QListWidget*>();
  ASSERT_NE(list, nullptr);
  Q_EMIT list->itemActivated(list->item(1));
  ASSERT_TRUE(driver_->settle());
  ASSERT_NE(window_.card(), nullptr);
  auto* box = window_.card()->findChild<QDoubleSpinBox*>(QStringLiteral("distance"));
  ASSERT_NE(box, nullptr);
  EXPECT_NEAR(box->value(), 3, 1e-9);
  driver_->number(QStringLiteral("distance"), 5);
  ASSERT_TRUE(driver_->settle());
  keep();
  EXPECT_EQ(driver_->document().steps.size(), 2U);
  EXPECT_NEAR(volume() - plate, 5 * 40 * 10, 0.01 * 2000);

  ASSERT_TRUE(driver_->tool(QStringLiteral("Thicken")));
  clickFace({0, 0, 1});
  driver_->number(QStringLiteral("thickness"), 1.5);
  ASSERT_TRUE(driver_->settle());
  keep();
  EXPECT_EQ(driver_->document().steps.size(), 3U);
  EXPECT_EQ(state(2), model::StepState::Sound) << window_.session().route()->steps[2].reason;
}

TEST_F(DescribedCards, FacesMoveAndAPrimitiveStandsOnOneOfThem) {
  build();
  const double plate = volume();
  ASSERT_TRUE(driver_->tool(QStringLiteral("Move faces")));
  clickFace({1, 0, 0});
  driver_->number(QStringLiteral("x"), 5);
  ASSERT_TRUE(driver_->settle());
  shot("move-faces");
  keep();
  EXPECT_GT(volume(), 1.05 * plate);
  const double wider = volume();

  ASSERT_TRUE(driver_->tool(QStringLiteral("Primitive")));
  auto* shape = window_.card()->findChild<QComboBox*>(QStringLiteral("shape"));
  ASSERT_NE(shape, nullptr);
  shape->setCurrentIndex(1);
  ASSERT_TRUE(driver_->settle());
  clickFace({0, 0, 1});
  driver_->number(QStringLiteral("radius"), 4);
  driver_->number(QStringLiteral("from"), 0);
  driver_->number(QStringLiteral("to"), 40);
  ASSERT_TRUE(driver_->settle());
  shot("primitive");
  keep();
  EXPECT_NE(volume(), wider);
}

TEST_F(DescribedCards, FacesBecomeSurfacesAndABodyIsMadeLarger) {
  build();
  const double plate = volume();
  const auto bodies = [&] { return window_.session().route()->solid.body_count(); };
  ASSERT_TRUE(driver_->tool(QStringLiteral("Offset surface")));
  clickFace({0, 0, 1});
  driver_->number(QStringLiteral("distance"), 4);
  ASSERT_TRUE(driver_->settle());
  shot("offset-surface");
  keep();
  EXPECT_EQ(bodies(), 2U);
  EXPECT_NEAR(volume(), plate, 1e-9 * plate);

  ASSERT_TRUE(driver_->tool(QStringLiteral("Flat face")));
  auto* sketches = window_.card()->findChild<QListWidget*>(QStringLiteral("sketch"));
  ASSERT_NE(sketches, nullptr);
  ASSERT_GT(sketches->count(), 0);
  sketches->item(0)->setCheckState(Qt::Checked);
  driver_->number(QStringLiteral("level"), 25);
  ASSERT_TRUE(driver_->settle());
  shot("flat-face");
  keep();
  EXPECT_EQ(bodies(), 3U);

  // The outline of the plate closes, so that no rib hangs on it; the card says so.
  ASSERT_TRUE(driver_->tool(QStringLiteral("Rib")));
  sketches = window_.card()->findChild<QListWidget*>(QStringLiteral("sketch"));
  ASSERT_NE(sketches, nullptr);
  sketches->item(0)->setCheckState(Qt::Checked);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("does not close"))) << cardText().toStdString();
  shot("rib");
  driver_->key(Qt::Key_Escape);

  ASSERT_TRUE(driver_->tool(QStringLiteral("Scale body")));
  clickFace({1, 0, 0});
  driver_->number(QStringLiteral("from"), 100);
  driver_->number(QStringLiteral("to"), 101);
  ASSERT_TRUE(driver_->settle());
  keep();
  EXPECT_NEAR(volume(), std::pow(1.01, 3) * plate, 1e-6 * plate);
}

TEST_F(DescribedCards, EveryCardOfBuildSurvivesEscapeUndoRedoAndAFreshDocument) {
  build();
  for (const app::Tool& tool : app::tools()) {
    if (tool.kind == nullptr) continue;
    driver_->stage(tool.stage);
    ASSERT_TRUE(driver_->tool(tool.title())) << tool.name;
    EXPECT_NE(window_.card(), nullptr) << tool.name;
    driver_->key(Qt::Key_Z, Qt::ControlModifier);
    ASSERT_TRUE(driver_->settle());
    EXPECT_TRUE(driver_->document().steps.empty());
    while (window_.session().undoStack()->canRedo())
      driver_->key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_TRUE(driver_->settle());
    window_.bench().setFocus();
    driver_->key(Qt::Key_Escape);
    EXPECT_EQ(window_.card(), nullptr) << tool.name;
    ASSERT_EQ(driver_->document().steps.size(), 1U) << tool.name;
  }
}

TEST_F(DescribedCards, GoingThroughTheStagesLeavesTheWindowItsSize) {
  build();
  const QSize size = window_.size();
  for (const int stage : {0, 4, 1, 4, 2, 4, 3, 4, 5, 4, 6, 4, 0}) {
    driver_->stage(stage);
    QTest::qWait(20);
    EXPECT_EQ(window_.size(), size) << stage;
  }
}

TEST_F(DescribedCards, APlateIsSplitItsPiecesNamedHiddenAndCombinedAndAModelImported) {
  build();
  const double plate = volume();
  ASSERT_TRUE(driver_->tool(QStringLiteral("Split")));
  clickFace({0, 0, 1});
  EXPECT_TRUE(cardText().contains(QStringLiteral("Now say the surface")))
      << cardText().toStdString();
  auto* by = window_.card()->findChild<QComboBox*>(QStringLiteral("surface"));
  ASSERT_NE(by, nullptr);
  driver_->choose(QStringLiteral("surface"), 1);
  Q_EMIT by->activated(1);
  ASSERT_TRUE(driver_->settle());
  keep();
  const auto model = [&] { return window_.session().route()->solid; };
  ASSERT_EQ(model().body_count(), 2U);
  EXPECT_NEAR(volume(), plate, 1e-6 * plate);

  ASSERT_TRUE(driver_->tool(QStringLiteral("Bodies")));
  auto* list = window_.card()->findChild<QTreeWidget*>(QStringLiteral("bodies"));
  ASSERT_EQ(list->topLevelItemCount(), 2);
  list->topLevelItem(1)->setText(0, QStringLiteral("left half"));
  list->topLevelItem(1)->setCheckState(0, Qt::Unchecked);
  shot("bodies");
  keep();
  EXPECT_EQ(project::body_title(driver_->document(), model().body(1)), "left half");
  const auto triangles = [&](const auto& shape) { return shape->mesh.triangles.size(); };
  EXPECT_LT(triangles(window_.session().route()->shown),
            triangles(window_.session().route()->tessellation));
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(triangles(window_.session().route()->shown),
            triangles(window_.session().route()->tessellation));

  // Material can be meant for one of them.
  ASSERT_TRUE(driver_->tool(QStringLiteral("Cut")));
  auto* onto = window_.card()->findChild<QComboBox*>(QStringLiteral("onto"));
  ASSERT_NE(onto, nullptr);
  ASSERT_TRUE(onto->isVisible());
  ASSERT_EQ(onto->count(), 3);
  driver_->choose(QStringLiteral("onto"), 2);
  ASSERT_TRUE(driver_->settle());
  EXPECT_FALSE(cardText().contains(QStringLiteral("is gone"))) << cardText().toStdString();
  window_.bench().setFocus();
  driver_->key(Qt::Key_Escape);
  ASSERT_TRUE(driver_->settle());

  const auto file = testing::scratch() / "half.step";
  ASSERT_TRUE(io::write_step(file, model().only(1), "half"));
  ASSERT_TRUE(driver_->tool(QStringLiteral("Import")));
  EXPECT_TRUE(cardText().contains(QStringLiteral("STEP"))) << cardText().toStdString();
  driver_->text(QStringLiteral("model"), QString::fromStdString(file.string()));
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  std::filesystem::remove(file);
  shot("import");
  keep();
  EXPECT_EQ(model().body_count(), 3U);
  EXPECT_NEAR(volume(), plate + model().only(1).volume(), 1e-6 * plate);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  ASSERT_TRUE(driver_->settle());

  ASSERT_TRUE(driver_->tool(QStringLiteral("Combine")));
  window_.bench().lookAt(Vec3(0, 0, 1), Vec3::UnitY());
  QTest::qWait(30);
  const auto click_body = [&](std::size_t body) {
    const Box3 box = model().only(body).box();
    driver_->clickPoint(
        {0.8 * box.center().x() + 0.2 * box.max().x(), box.min().y() + 4, box.max().z()});
    ASSERT_TRUE(driver_->settle());
  };
  click_body(0);
  ASSERT_TRUE(driver_->button(QStringLiteral("others")));
  click_body(1);
  shot("combine");
  keep();
  EXPECT_EQ(model().body_count(), 1U);
  EXPECT_NEAR(volume(), plate, 1e-6 * plate);
}

}  // namespace
}  // namespace lostline
