// A part scanned on the stand-in turntable and probed with the stand-in probe, with the mouse.
#include <QListWidget>

#include "io/formats.h"
#include "jobs.h"
#include "model/steps/extrude/extrude.h"

namespace lostline {
namespace {

using testing::Jobs;

class InstrumentsJobs : public Jobs {
 protected:
  /// Presses a button of the card without waiting for what it starts.
  void press(const char* name) {
    QTest::mouseClick(window_.card()->findChild<QPushButton*>(QString::fromLatin1(name)),
                      Qt::LeftButton);
  }
  /// The plate of the last sketch with its bore.
  model::Model bored() {
    const project::Document& d = driver_->document();
    model::Extrude plate;
    plate.sketch = driver_->lastSketch().id;
    for (const auto& loop : sketch::find_loops(driver_->lastSketch().sketch))
      plate.loops.push_back(loop.uses.front().entity);
    plate.extent.from.value = 0;
    plate.extent.to.value = 10;
    const model::Step step{1, 10, "plate", false, plate};
    model::RouteCache cache;
    return model::recompute({step}, d.placed_sketches(), cache)->back().solid;
  }
  void shot(const char* name) {
    const char* folder = std::getenv("LOSTLINE_SHOTS");
    if (folder == nullptr) return;
    driver_->shot_folder = QString::fromLocal8Bit(folder);
    driver_->shot(QString::fromLatin1(name));
  }
};

TEST_F(InstrumentsJobs, AScanComesFromTheTurntable) {
  driver_->stage(app::kReceive);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Scanner")));
  press("scannerScan");
  // Points appear while it scans; after some views it is enough.
  const auto drawn = [&] {
    std::size_t count = 0;
    for (const auto& batch : bench().points()) count += batch->count();
    return count;
  };
  ASSERT_TRUE(QTest::qWaitFor([&] { return bench().points().size() >= 2; }, 100000));
  auto* cut = window_.card()->findChild<QCheckBox*>(QStringLiteral("cutTable"));
  ASSERT_NE(cut, nullptr);
  // What is wanted of the table while it scans holds for the views that follow.
  cut->setChecked(false);
  ASSERT_TRUE(QTest::qWaitFor([&] { return bench().points().size() >= 4; }, 100000));
  press("scannerStop");
  ASSERT_TRUE(driver_->settle());
  QTest::qWait(120);
  const std::size_t views = bench().points().size();
  const std::size_t with = drawn();
  cut->setChecked(true);
  ASSERT_TRUE(driver_->settle());
  EXPECT_GT(with, drawn() + drawn() / 10);
  EXPECT_LT(views, 12U);
  EXPECT_TRUE(cardText().contains(QStringLiteral("still open"))) << cardText().toStdString();
  EXPECT_TRUE(cardText().contains(QStringLiteral("the table is found")))
      << cardText().toStdString();
  // The points of the table are not drawn, unless it is wanted.
  const std::size_t without = drawn();
  for (const bool on : {false, true}) {
    cut->setChecked(on);
    ASSERT_TRUE(driver_->settle());
    EXPECT_EQ(bench().points().size(), views);
    if (on) {
      EXPECT_EQ(drawn(), without);
    } else {
      EXPECT_GT(drawn(), without + without / 10);
    }
  }
  shot("scanner");
  bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  ASSERT_NE(driver_->document().scan, nullptr) << said_.toStdString();
  EXPECT_TRUE(bench().points().empty());
  // The boss stands 84 high on the table, which is gone.
  const Box3 box = scan::bounds(*driver_->document().scan->mesh);
  EXPECT_NEAR(box.max().z(), 84, 0.2);
  EXPECT_GT(box.min().z(), 0);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(driver_->document().scan, nullptr);
}

TEST_F(InstrumentsJobs, WhatDoesNotAnswerIsSaidAndACardLeftStopsTheTalk) {
  driver_->stage(app::kReceive);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Scanner")));
  driver_->choose(QStringLiteral("instrument"), 1);
  driver_->text(QStringLiteral("instrumentWhere"), folder_.filePath(QStringLiteral("nobody")));
  ASSERT_TRUE(driver_->button(QStringLiteral("scannerScan")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("No instrument answers")))
      << cardText().toStdString();
  driver_->choose(QStringLiteral("instrument"), 0);
  for (QLineEdit* edit :
       window_.card()->findChildren<QLineEdit*>(QStringLiteral("instrumentWhere")))
    edit->clear();
  press("scannerScan");
  ASSERT_TRUE(QTest::qWaitFor([&] { return !bench().points().empty(); }, 100000));
  driver_->key(Qt::Key_Escape);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(window_.card(), nullptr);
  EXPECT_TRUE(bench().points().empty());
  EXPECT_EQ(driver_->document().scan, nullptr);
}

TEST_F(InstrumentsJobs, ProbedFeaturesStandBesideTheScan) {
  build();
  const QString part = folder_.filePath(QStringLiteral("plate.step"));
  ASSERT_TRUE(io::write_model(part.toStdString(), bored(), "plate"));
  driver_->stage(app::kReceive);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Probe")));
  driver_->text(QStringLiteral("instrumentWhere"), part);
  // One touch after another, then the programme to its end.
  ASSERT_TRUE(driver_->button(QStringLiteral("probeNext")));
  ASSERT_TRUE(driver_->settle());
  auto* list = window_.card()->findChild<QListWidget*>(QStringLiteral("probedFeatures"));
  ASSERT_NE(list, nullptr);
  ASSERT_EQ(list->count(), 1);
  EXPECT_TRUE(cardText().contains(QStringLiteral("to go"))) << cardText().toStdString();
  ASSERT_TRUE(driver_->button(QStringLiteral("probeAll")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(list->count(), 7);
  EXPECT_TRUE(list->item(0)->text().contains(QStringLiteral("form")))
      << list->item(0)->text().toStdString();
  ASSERT_TRUE(driver_->button(QStringLiteral("probeMatch")));
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("matched"))) << cardText().toStdString();
  EXPECT_EQ(bench().points().size(), static_cast<std::size_t>(list->count()));
  // Matched, a click on the scan sends the probe there.
  list->setCurrentRow(0);
  const QString before = list->item(0)->text();
  const std::uint32_t top = region({0, 0, 1});
  ASSERT_TRUE(driver_->clickRegion(top, {0.3, 0.2, 1}));
  ASSERT_TRUE(driver_->settle());
  EXPECT_NE(list->item(0)->text(), before);
  shot("probe");
  const std::size_t fits = driver_->document().fits.size();
  const std::size_t rows = driver_->document().dimensions.size();
  bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_GE(driver_->document().fits.size(), fits + 7);
  ASSERT_GT(driver_->document().dimensions.size(), rows);
  // The bore by probe and scan, the one of smaller U first; they agree.
  const project::Dimension& bore = driver_->document().dimensions.back();
  ASSERT_EQ(bore.typed.size(), 1U);
  EXPECT_LE(bore.u, bore.typed[0].u);
  EXPECT_LT(project::en_score(*bore.reading, bore.u, bore.typed[0].value, bore.typed[0].u), 1.5);
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(driver_->document().fits.size(), fits);
}

}  // namespace
}  // namespace lostline
