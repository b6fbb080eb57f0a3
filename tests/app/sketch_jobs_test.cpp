// Drawing and changing a sketch with the mouse.
#include <QListWidget>

#include "jobs.h"
#include "sketch/curve_kind.h"
#include "tools/trace/sketch_change.h"
#include "tools/trace/sketch_pen.h"

namespace lostline {
namespace {

using testing::Jobs;

class SketchJobs : public Jobs {
 protected:
  void begin() {
    open();
    survey();
    frame();
    section();
  }
  void clickAt(double x, double y) {
    const auto& t = driver_->lastSketch();
    driver_->clickPoint(t.base.to_space(Vec2(x, y), t.level));
  }
  /// As the sketch stands once its card is kept, and opened again.
  sketch::Sketch kept() {
    window_.bench().setFocus();
    driver_->key(Qt::Key_Return);
    EXPECT_TRUE(driver_->settle());
    sketch::Sketch s = driver_->lastSketch().sketch;
    EXPECT_TRUE(driver_->tool(QStringLiteral("Sketch")));
    EXPECT_TRUE(driver_->settle());
    return s;
  }
  void shot(const char* name) {
    if (const char* folder = std::getenv("LOSTLINE_SHOTS"))
      driver_->shot_folder = QString::fromLocal8Bit(folder);
    if (driver_->shot_folder.isEmpty()) return;
    QTest::qWait(150);
    driver_->shot(QString::fromUtf8(name));
  }
  void choose(const char* combo, const char* text) {
    auto* box = window_.card()->findChild<QComboBox*>(QLatin1String(combo));
    ASSERT_NE(box, nullptr);
    const int at = box->findText(QLatin1String(text));
    ASSERT_GE(at, 0) << text;
    box->setCurrentIndex(at);
  }
  void enter(const char* field, double value) {
    auto* box = window_.card()->findChild<QDoubleSpinBox*>(QLatin1String(field));
    ASSERT_NE(box, nullptr) << field;
    box->setValue(value);
  }
};

QPushButton* keep_button(const QWidget& card) {
  for (QPushButton* b : card.findChildren<QPushButton*>())
    if (b->accessibleName() == QStringLiteral("Keep")) return b;
  return nullptr;
}

TEST_F(Jobs, ALevelAlongAFaceIsToldAndLeftByAButton) {
  open();
  survey();
  frame();
  driver_->stage(app::kTrace);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Section")));
  driver_->number(QStringLiteral("sectionLevel"), 10);  // the top of the plate
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("runs along a face"))) << cardText().toStdString();
  EXPECT_FALSE(keep_button(*window_.card())->isEnabled());
  ASSERT_TRUE(driver_->button(QStringLiteral("cleanerLevel")));
  ASSERT_TRUE(driver_->settle());
  // Of a further level it is told; the button would set the first one.
  auto* further = window_.findChild<QLineEdit*>(QStringLiteral("sectionMore"));
  ASSERT_NE(further, nullptr);
  for (const bool along : {true, false}) {
    further->setFocus();
    further->selectAll();
    QTest::keyClick(further, Qt::Key_Delete);
    if (along) QTest::keyClicks(further, QStringLiteral("10"));
    QTest::keyClick(further, Qt::Key_Tab);
    ASSERT_TRUE(driver_->settle());
    EXPECT_EQ(cardText().contains(QStringLiteral("the plane runs along")), along);
    EXPECT_FALSE(window_.findChild<QPushButton*>(QStringLiteral("cleanerLevel"))->isVisible());
  }
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(keep_button(*window_.card())->isEnabled()) << cardText().toStdString();
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().sketches.size(), 1U);
  EXPECT_LT(driver_->document().sketches.back()->level, 9.9);
  EXPECT_EQ(driver_->document().sketches.back()->sketch.entities.size(), 5U);  // walls and bore
}

TEST_F(Jobs, ASectionThroughPickedRegionsCutsThemAlone) {
  open();
  survey();
  frame();
  driver_->stage(app::kTrace);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Section")));
  driver_->number(QStringLiteral("sectionLevel"), 5);
  driver_->choose(QStringLiteral("sectionScan"), 1);
  ASSERT_TRUE(driver_->settle());
  const auto keep = [&] { return keep_button(*window_.card()); };
  EXPECT_FALSE(keep()->isEnabled());  // nothing is picked yet
  ASSERT_TRUE(driver_->clickRegion(region({1, 0, 0}), {1, 0.2, 0.4}));
  ASSERT_TRUE(driver_->clickRegion(region(Vec3::Zero()), {0.5, 0.2, 1}));
  ASSERT_TRUE(driver_->clickRegion(region({1, 0, 0}), {1, 0.2, 0.4}));  // out again
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(keep()->isEnabled());
  window_.bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().sketches.size(), 1U);
  const project::TracedSketch& kept = *driver_->document().sketches.back();
  ASSERT_NE(kept.part, nullptr);
  EXPECT_EQ(kept.name, "xy + 5, in part");
  ASSERT_EQ(kept.sketch.entities.size(), 1U);
  EXPECT_EQ(kept.sketch.entities.front().type, sketch::EntityType::Circle);
}

TEST_F(SketchJobs, EveryPenDrawsWhatItSays) {
  begin();
  const auto count = [](const sketch::Sketch& s, sketch::EntityType type) {
    return std::count_if(s.entities.begin(), s.entities.end(),
                         [&](const auto& e) { return e.type == type && !e.construction; });
  };
  sketch::Sketch before = kept();
  // Each well away from the section and from what was drawn before.
  const std::array<Vec2, 12> places{Vec2(-38, 24), Vec2(-22, 24),  Vec2(-6, 24),   Vec2(10, 24),
                                    Vec2(26, 24),  Vec2(-38, -29), Vec2(-22, -29), Vec2(-6, -29),
                                    Vec2(10, -29), Vec2(26, -29),  Vec2(-25, -4),  Vec2(16, -4)};
  ASSERT_EQ(app::pens().size(), places.size() + 1);
  std::size_t place = 0;
  for (const app::Pen& pen : app::pens()) {
    if (pen.follows) continue;  // needs a section: below
    window_.bench().setFocus();
    driver_->key(Qt::Key_G);
    driver_->key(pen.key);
    const int clicks = pen.clicks == 0 ? 4 : pen.clicks;
    const std::array<Vec2, 4> at{Vec2(0, 0), Vec2(6, 1.4), Vec2(2, 4), Vec2(-2.5, 5)};
    const Vec2 from = places[place++];
    for (int k = 0; k < clicks; ++k) {
      const Vec2 p = from + at[static_cast<std::size_t>(k)];
      clickAt(p.x(), p.y());
    }
    if (pen.command == std::string("draw spline")) shot("pen");
    // What is begun ends first, then the pen.
    const bool begun = pen.clicks == 0 || pen.command == std::string("draw line");
    for (int k = 0; k < (begun ? 2 : 1); ++k) driver_->key(Qt::Key_Escape);
    ASSERT_TRUE(driver_->settle()) << pen.command;
    ASSERT_NE(window_.card(), nullptr) << pen.command;
    const sketch::Sketch now = kept();
    const auto more = [&](sketch::EntityType type) {
      return count(now, type) - count(before, type);
    };
    const std::string name = pen.command;
    using Type = sketch::EntityType;
    if (name == "draw line") {
      EXPECT_EQ(more(Type::Line), 1);
    }
    if (name == "draw arc" || name == "draw arc about") {
      EXPECT_EQ(more(Type::Arc), 1) << name;
    }
    if (name == "draw circle" || name == "draw circle through") {
      EXPECT_EQ(more(Type::Circle), 1) << name;
    }
    if (name == "draw ellipse") {
      EXPECT_EQ(more(Type::Ellipse), 1);
    }
    if (name == "draw rectangle" || name == "draw turned rectangle") {
      EXPECT_EQ(more(Type::Line), 4) << name;
    }
    if (name == "draw slot") {
      EXPECT_EQ(more(Type::Line), 2);
      EXPECT_EQ(more(Type::Arc), 2);
    }
    if (name == "draw polygon") {
      EXPECT_EQ(more(Type::Line), 6);
    }
    if (name == "draw spline") {
      EXPECT_EQ(more(Type::Spline), 1);
    }
    if (name == "draw point") {
      EXPECT_TRUE(std::any_of(now.points.begin(), now.points.end(),
                              [](const auto& point) { return point.own; }));
    }
    before = now;
  }
  shot("pens");
}

TEST_F(SketchJobs, TheSectionIsFollowedFromClickToClick) {
  begin();
  // The walls go, in order round; the bore stays.
  const sketch::Sketch all = kept();
  const auto loops = sketch::find_loops(all);
  const auto walls = std::find_if(loops.begin(), loops.end(),
                                  [](const sketch::Loop& l) { return l.uses.size() == 4; });
  ASSERT_NE(walls, loops.end());
  std::vector<Vec2> corners;
  for (const sketch::Loop::Use& use : walls->uses) {
    const sketch::Entity& e = *all.find_entity(use.entity);
    corners.push_back(all.position(use.reversed ? e.b : e.a));
  }
  for (std::size_t k = 0; k < 4; ++k) {
    const Vec2 on = 0.55 * corners[k] + 0.45 * corners[(k + 1) % 4];
    clickAt(on.x(), on.y());
  }
  driver_->button(QStringLiteral("deletePicked"));
  ASSERT_TRUE(driver_->settle());
  ASSERT_EQ(kept().entities.size(), 1U);
  window_.bench().setFocus();
  driver_->key(Qt::Key_G);
  driver_->key(Qt::Key_U);
  EXPECT_TRUE(cardText().contains(QStringLiteral("where on the section it begins")));
  clickAt(0, 0);  // in the middle of nowhere, or of the bore
  EXPECT_TRUE(cardText().contains(QStringLiteral("No section lies here")))
      << cardText().toStdString();
  clickAt(corners[0].x(), corners[0].y());
  const auto& t = driver_->lastSketch();
  for (std::size_t k = 1; k <= 4; ++k) {
    const Vec2 to = corners[k % 4];
    const Vec2 half = 0.5 * (corners[k - 1] + to);
    app::BenchView& bench = window_.bench();
    QTest::mouseMove(&bench, bench.camera().toScreen(t.base.to_space(half, t.level)).toPoint());
    QTest::qWait(20);
    // What the click would draw is told before.
    EXPECT_TRUE(cardText().contains(QStringLiteral("line \u00b7 RMS")))
        << k << ' ' << cardText().toStdString();
    if (k == 2) shot("along the section");
    clickAt(to.x(), to.y());
    ASSERT_TRUE(driver_->settle());
  }
  // It closed: the pen begins anew.
  EXPECT_TRUE(cardText().contains(QStringLiteral("where on the section it begins")))
      << cardText().toStdString();
  driver_->key(Qt::Key_Escape);
  const sketch::Sketch now = kept();
  ASSERT_EQ(now.entities.size(), 5U);
  const auto again = sketch::find_loops(now);
  EXPECT_TRUE(std::any_of(again.begin(), again.end(),
                          [](const sketch::Loop& l) { return l.uses.size() == 4; }));
  for (const Vec2& corner : corners) {
    double nearest = 1e300;
    for (const sketch::Point& p : now.points) nearest = std::min(nearest, (p.at - corner).norm());
    EXPECT_LT(nearest, 0.05);
  }
}

TEST_F(SketchJobs, APickedCurveNamesTheRegionItRestsOn) {
  begin();
  const project::TracedSketch traced = driver_->lastSketch();
  const auto circle =
      std::find_if(traced.sketch.entities.begin(), traced.sketch.entities.end(),
                   [](const auto& e) { return e.type == sketch::EntityType::Circle; });
  ASSERT_NE(circle, traced.sketch.entities.end());
  const Vec2 at = traced.sketch.position(circle->centre);
  clickAt(at.x() + circle->radius, at.y());
  ASSERT_TRUE(driver_->settle());
  shot("rests on");
  EXPECT_TRUE(cardText().contains(QStringLiteral("rests on region"))) << cardText().toStdString();
  EXPECT_TRUE(cardText().contains(QStringLiteral("cylinder, ")));
  // The diameter that the region says, with its U.
  const QString said = cardText().section(QStringLiteral("cylinder, "), 1);
  const double diameter = said.section(QLatin1Char(' '), 1, 1).toDouble();
  EXPECT_NEAR(diameter, 2 * circle->radius, 0.05) << said.toStdString();
  // Of several picks it is not said.
  clickAt(at.x(), at.y());
  ASSERT_TRUE(driver_->settle());
  EXPECT_FALSE(cardText().contains(QStringLiteral("rests on region")));
}

TEST_F(SketchJobs, ChangesOfThePicks) {
  begin();
  driver_->button(QStringLiteral("draw circle"));
  clickAt(-25, 26);
  clickAt(-22, 26);
  driver_->key(Qt::Key_Escape);
  ASSERT_TRUE(driver_->settle());
  const std::size_t before = kept().entities.size();
  clickAt(-22, 26);
  choose("sketchChange", "copies in a row");
  enter("changeCount", 4);
  enter("changeX", 9);
  enter("changeY", 0);
  driver_->button(QStringLiteral("applyChange"));
  ASSERT_TRUE(driver_->settle());
  shot("copies");
  sketch::Sketch s = kept();
  ASSERT_EQ(s.entities.size(), before + 3);
  const sketch::Entity& last = s.entities.back();
  EXPECT_NEAR(s.position(last.centre).x(), -25 + 27, 0.2);
  // Construction, by its key.
  clickAt(-22 + 27, 26);
  driver_->key(Qt::Key_G);
  driver_->key(Qt::Key_X);
  ASSERT_TRUE(driver_->settle());
  s = kept();
  EXPECT_TRUE(s.entities.back().construction);
  // Undo takes the change back, not the card.
  clickAt(-22, 26);
  choose("sketchChange", "move");
  enter("changeX", 0);
  enter("changeY", 2);
  driver_->button(QStringLiteral("applyChange"));
  ASSERT_TRUE(driver_->settle());
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  ASSERT_NE(window_.card(), nullptr);
}

TEST_F(SketchJobs, AStretchIsDrawnAnewAsAnotherKind) {
  begin();
  // A round of the section becomes a spline and an arc again.
  const sketch::Sketch s = kept();
  const auto arc = std::find_if(s.entities.begin(), s.entities.end(), [](const auto& e) {
    return e.type == sketch::EntityType::Arc || e.type == sketch::EntityType::Line;
  });
  ASSERT_NE(arc, s.entities.end());
  const Vec2 on = sketch::placed(s, *arc)->middle();
  clickAt(on.x(), on.y());
  choose("sketchChange", "draw anew as");
  choose("drawAs", "spline");
  driver_->button(QStringLiteral("applyChange"));
  ASSERT_TRUE(driver_->settle());
  shot("anew");
  EXPECT_TRUE(cardText().contains(QStringLiteral("drawn anew"))) << cardText().toStdString();
  const sketch::Sketch now = kept();
  EXPECT_EQ(std::count_if(now.entities.begin(), now.entities.end(),
                          [](const auto& e) { return e.type == sketch::EntityType::Spline; }),
            1);
}

TEST_F(SketchJobs, SuggestionsAreTakenOneByOneWithTheirCost) {
  begin();
  auto* offers = window_.card()->findChild<QListWidget*>(QStringLiteral("suggestions"));
  ASSERT_NE(offers, nullptr);
  ASSERT_TRUE(driver_->settle());
  // Without any of its constraints a sketch has much to be suggested.
  while (true) {
    auto* list = window_.card()->findChild<QListWidget*>();
    if (list == nullptr || list->count() == 0 || list == offers) break;
    list->setCurrentRow(0);
    driver_->button(QStringLiteral("deletePicked"));
    ASSERT_TRUE(driver_->settle());
    if (offers->count() > 3) break;
  }
  ASSERT_GT(offers->count(), 1);
  EXPECT_TRUE(offers->item(0)->text().contains(QStringLiteral("RMS")))
      << offers->item(0)->text().toStdString();
  shot("suggestions");
  const int had = offers->count();
  offers->setCurrentRow(1);
  driver_->button(QStringLiteral("acceptSuggestion"));
  ASSERT_TRUE(driver_->settle());
  EXPECT_LT(offers->count(), had);
}

TEST_F(SketchJobs, EdgesFacesAxesAndTheCutAreBroughtIn) {
  build();
  driver_->stage(app::kTrace);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Sketch")));
  ASSERT_TRUE(driver_->settle());
  const sketch::Sketch before = driver_->lastSketch().sketch;
  const auto construction = [](const sketch::Sketch& s) {
    return std::count_if(s.entities.begin(), s.entities.end(),
                         [](const auto& e) { return e.construction; });
  };
  // Chosen in a list without asking for it, nothing comes in.
  clickRow(row(QStringLiteral("cylinder")));
  EXPECT_TRUE(cardText().contains(QStringLiteral("bring in"))) << cardText().toStdString();
  window_.bench().setFocus();
  driver_->key(Qt::Key_G);
  driver_->key(Qt::Key_F);
  EXPECT_TRUE(cardText().contains(QStringLiteral("Click edges or faces")));
  // The top of the plate: four edges.
  clickAt(15, 12);
  ASSERT_TRUE(driver_->settle());
  shot("brought in");
  // The axis of the bore, picked in Evidence: a point where it stands on the plane.
  clickRow(row(QStringLiteral("cylinder")));
  ASSERT_TRUE(driver_->settle());
  clickRow(row(QStringLiteral("cylinder")));
  EXPECT_TRUE(cardText().contains(QStringLiteral("in the sketch already")));
  window_.bench().setFocus();
  driver_->key(Qt::Key_Escape);
  ASSERT_NE(window_.card(), nullptr);
  sketch::Sketch now = kept();
  EXPECT_EQ(construction(now), 4);
  EXPECT_TRUE(std::any_of(now.points.begin(), now.points.end(),
                          [](const auto& p) { return p.own && p.at.norm() < 0.05; }));
  // They are no part of the profile: the model is what it was.
  EXPECT_EQ(sketch::find_loops(now).size(), sketch::find_loops(before).size());
  EXPECT_EQ(state(0), model::StepState::Sound);
  // The cut lies where these edges are seen: nothing is drawn twice.
  window_.bench().setFocus();
  driver_->key(Qt::Key_G);
  driver_->key(Qt::Key_H);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("in the sketch already")))
      << cardText().toStdString();
  // Undone with the card open, the step before is there again.
  driver_->key(Qt::Key_Escape);
  ASSERT_TRUE(driver_->settle());
  driver_->key(Qt::Key_Z, Qt::ControlModifier);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(construction(driver_->lastSketch().sketch), 0);
}

}  // namespace
}  // namespace lostline
