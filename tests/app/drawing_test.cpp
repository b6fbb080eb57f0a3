// What stands on the Bench while a tool runs: the sketch as a drawing, previews, handles; and the
// flat pictures below it.
#include <QClipboard>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <chrono>
#include <thread>

#include "bench/gl_canvas.h"
#include "bench/sketch_marks.h"
#include "jobs.h"
#include "look/theme.h"
#include "panels/ledger_model.h"
#include "panels/strip.h"
#include "sketch/curve_kind.h"

namespace lostline {
namespace {

using testing::Jobs;

class Drawing : public Jobs {
 protected:
  void drag(const QPointF& from, const QPointF& to) {
    Jobs::drag(Qt::LeftButton, from.toPoint(), to.toPoint());
  }
  /// The text of the only dimension, once painted.
  app::Drafting::Placed text() {
    QTest::qWait(60);
    for (const auto& placed : bench().drafted()) {
      if (placed.dimension) return placed;
    }
    return {};
  }
  void dimensionTheBore() {
    const auto& sketch = driver_->lastSketch().sketch;
    for (const auto& e : sketch.entities) {
      if (e.type != sketch::EntityType::Circle) continue;
      driver_->clickPoint(driver_->lastSketch().base.to_space(
          sketch.position(e.centre) + e.radius * Vec2(std::cos(2.0), std::sin(2.0)),
          driver_->lastSketch().level));
    }
    ASSERT_TRUE(driver_->button(QStringLiteral("addDimension")));
  }
};

/// Red on the left half, white on the right, with a blue mark over it.
class HalfRed : public app::GlCanvas {
 public:
  using GlCanvas::GlCanvas;
  using GlCanvas::redraw;
  int prepared = 0;

 protected:
  void initializeGL() override { ++prepared; }
  Pieces paintGL() override {
    QOpenGLFunctions* gl = QOpenGLContext::currentContext()->functions();
    gl->glClearColor(1, 1, 1, 1);
    gl->glClear(GL_COLOR_BUFFER_BIT);
    gl->glEnable(GL_SCISSOR_TEST);
    gl->glScissor(0, 0, width() / 2, height());
    gl->glClearColor(1, 0, 0, 1);
    gl->glClear(GL_COLOR_BUFFER_BIT);
    gl->glScissor(0, 0, width(), 10);  // at the foot of the picture
    gl->glClearColor(0, 1, 0, 1);
    gl->glClear(GL_COLOR_BUFFER_BIT);
    gl->glDisable(GL_SCISSOR_TEST);
    return {};
  }
  void paintOver(QPainter& painter) override { painter.fillRect(5, 5, 10, 10, Qt::blue); }
};

/// Ten stripes from left to right, each of which takes longer than a turn of the event loop may.
class SlowStripes : public app::GlCanvas {
 public:
  using GlCanvas::GlCanvas;
  using GlCanvas::redraw;
  int begun = 0, drawn = 0, overtakings = 0;
  bool hasty = false;

 protected:
  void initializeGL() override {}
  Pieces paintGL() override {
    ++begun;
    Pieces pieces;
    for (int k = 0; k < 10; ++k) {
      pieces.emplace_back([this, k, green = begun > 1] {
        QOpenGLFunctions* gl = QOpenGLContext::currentContext()->functions();
        gl->glEnable(GL_SCISSOR_TEST);
        gl->glScissor(k * width() / 10, 0, width() / 10, height());
        gl->glClearColor(green ? 0 : 1, green ? 1 : 0, 0, 1);
        gl->glClear(GL_COLOR_BUFFER_BIT);
        gl->glDisable(GL_SCISSOR_TEST);
        std::this_thread::sleep_for(std::chrono::milliseconds(20));
        ++drawn;
      });
    }
    return pieces;
  }
  bool roughly() const override { return hasty; }
  void overtaken() override { ++overtakings; }
  void paintOver(QPainter&) override {}
};

TEST(GlCanvas, APictureThatTakesLongIsDrawnBetweenTurnsAndTheOneBeforeStays) {
  SlowStripes canvas;
  canvas.resize(200, 100);
  canvas.grab();
  EXPECT_EQ(canvas.drawn, 1) << "one piece in a turn";
  EXPECT_TRUE(canvas.drawing());
  canvas.grab();  // painted again, not begun again
  EXPECT_EQ(canvas.begun, 1);
  const auto done = [&] { return !canvas.drawing(); };
  ASSERT_TRUE(QTest::qWaitFor(done, 1000 * static_cast<int>(testing::kPatience)));
  EXPECT_EQ(canvas.drawn, 10);
  EXPECT_EQ(canvas.framesDrawn(), 1U);
  for (const int x : {5, 105, 195})
    EXPECT_EQ(canvas.grab().toImage().pixelColor(x, 50), QColor(Qt::red));
  // Overtaken half way: what is shown is the picture before until the one after is done.
  canvas.redraw();
  canvas.grab();
  ASSERT_TRUE(canvas.drawing());
  canvas.redraw();
  EXPECT_EQ(canvas.grab().toImage().pixelColor(5, 50), QColor(Qt::red));
  EXPECT_EQ(canvas.overtakings, 1);
  EXPECT_EQ(canvas.begun, 3);
  ASSERT_TRUE(QTest::qWaitFor(done, 1000 * static_cast<int>(testing::kPatience)));
  EXPECT_EQ(canvas.framesDrawn(), 2U);
  for (const int x : {5, 105, 195})
    EXPECT_EQ(canvas.grab().toImage().pixelColor(x, 50), QColor(Qt::green));
  // A rough one is there at once.
  canvas.hasty = true;
  canvas.redraw();
  canvas.grab();
  EXPECT_EQ(canvas.framesDrawn(), 3U);
}

TEST(GlCanvas, DrawsItsPictureOnceAndWhatLiesOverItEachTime) {
  HalfRed canvas;
  canvas.resize(200, 100);
  const QImage first = canvas.grab().toImage();
  EXPECT_EQ(first.pixelColor(60, 50), QColor(Qt::red));
  EXPECT_EQ(first.pixelColor(150, 50), QColor(Qt::white));
  EXPECT_EQ(first.pixelColor(100, 95), QColor(Qt::green));
  EXPECT_EQ(first.pixelColor(8, 8), QColor(Qt::blue));
  EXPECT_EQ(canvas.picture().pixelColor(8, 8), QColor(Qt::red));
  EXPECT_EQ(canvas.framesDrawn(), 1);
  canvas.update();
  EXPECT_EQ(canvas.grab().toImage(), first);
  EXPECT_EQ(canvas.framesDrawn(), 1);
  canvas.redraw();
  canvas.grab();
  EXPECT_EQ(canvas.framesDrawn(), 2);
  canvas.resize(120, 90);
  EXPECT_EQ(canvas.grab().toImage().pixelColor(90, 40), QColor(Qt::white));
  EXPECT_EQ(canvas.framesDrawn(), 3);
  EXPECT_EQ(canvas.prepared, 1);
}

TEST(GlCanvas, SaysWhatIsMissingWhereNothingCanBeDrawn) {
  HalfRed canvas(nullptr, 9, 9);  // a version that nobody offers
  canvas.resize(400, 200);
  const QImage shown = canvas.grab().toImage();
  EXPECT_EQ(canvas.framesDrawn(), 0);
  EXPECT_EQ(canvas.prepared, 0);
  int ink = 0;
  for (int y = 0; y < shown.height(); ++y) {
    for (int x = 0; x < shown.width(); ++x) ink += shown.pixelColor(x, y).lightness() < 110 ? 1 : 0;
  }
  EXPECT_GT(ink, 300);  // letters
}

TEST_F(Drawing, ADimensionIsDrawnTypedAndDraggedWhereItStands) {
  open();
  survey();
  frame();
  section();
  dimensionTheBore();
  const app::Drafting::Placed read = text();
  ASSERT_NE(read.constraint, 0U);
  // A click chooses it in the list, a double click lets its value be typed.
  QTest::mouseDClick(&bench(), Qt::LeftButton, {}, read.box.center().toPoint());
  auto* edit = bench().findChild<QLineEdit*>(QStringLiteral("dimensionText"));
  ASSERT_NE(edit, nullptr);
  EXPECT_NEAR(edit->text().toDouble(), 16, 0.05);
  edit->selectAll();
  QTest::keyClicks(edit, QStringLiteral("16.5"));
  QTest::keyClick(edit, Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_TRUE(cardText().contains(QStringLiteral("RMS"))) << cardText().toStdString();
  // Its text goes where it is dragged, and stays there.
  const QPointF from = text().box.center();
  drag(from, from + QPointF(70, 40));
  const QPointF to = text().box.center();
  EXPECT_NEAR(to.x() - from.x(), 70, 6);
  EXPECT_NEAR(to.y() - from.y(), 40, 6);
  bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  ASSERT_EQ(driver_->document().dimensions.size(), 1U);
  const project::Dimension& row = driver_->document().dimensions.front();
  ASSERT_TRUE(row.intent);
  EXPECT_NEAR(*row.intent, 16.5, 1e-9);
  EXPECT_NEAR(*row.reading, 16, 0.05) << "the reading stays the scan's";
  ASSERT_EQ(driver_->lastSketch().text_places.size(), 1U);
  for (const auto& e : driver_->lastSketch().sketch.entities) {
    if (e.type == sketch::EntityType::Circle) {
      EXPECT_NEAR(e.radius, 8.25, 1e-6);
    }
  }
}

TEST_F(Drawing, ADistanceAlongAnAxisIsChosenReadAndDrawn) {
  open();
  survey();
  frame();
  section();
  // The longest line of the outline, by the mouse.
  const project::TracedSketch traced = driver_->lastSketch();
  sketch::Id longest = 0;
  Vec2 reach = Vec2::Zero();
  for (const auto& e : traced.sketch.entities) {
    if (e.type != sketch::EntityType::Line) continue;
    const Vec2 along = traced.sketch.position(e.b) - traced.sketch.position(e.a);
    if (along.norm() <= reach.norm()) continue;
    longest = e.id;
    reach = along;
  }
  ASSERT_NE(longest, 0U);
  driver_->clickEntity(traced, traced.sketch, longest);
  auto* kinds = window_.findChild<QComboBox*>(QStringLiteral("constraintType"));
  ASSERT_NE(kinds, nullptr);
  const bool level = std::abs(reach.x()) > std::abs(reach.y());
  const int index = kinds->findText(level ? QStringLiteral("distance along x")
                                          : QStringLiteral("distance along y"));
  ASSERT_GE(index, 0);
  driver_->choose(QStringLiteral("constraintType"), index);
  ASSERT_TRUE(driver_->button(QStringLiteral("addConstraint")));
  ASSERT_TRUE(driver_->settle());
  ASSERT_NE(text().constraint, 0U) << cardText().toStdString();
  bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  ASSERT_EQ(driver_->document().dimensions.size(), 1U);
  const project::Dimension& row = driver_->document().dimensions.front();
  EXPECT_EQ(row.name.rfind(level ? "along x, " : "along y, ", 0), 0U) << row.name;
  EXPECT_NEAR(*row.reading, reach.cwiseAbs().maxCoeff(), 0.05);
}

TEST_F(Drawing, EveryConstraintHasItsMark) {
  // One sketch with a constraint of every kind that is no dimension, painted without a window.
  sketch::Sketch s;
  const auto line = [&](double x0, double y0, double x1, double y1) {
    return s.add_line(s.add_point({x0, y0}), s.add_point({x1, y1}));
  };
  const sketch::Id a = line(0, 0, 40, 0), b = line(0, 20, 40, 20), c = line(0, 0, 0, 20);
  const sketch::Id p = s.add_point({10, 5});
  const sketch::Id c1 = s.add_circle(s.add_point({60, 10}), 5);
  const sketch::Id c2 = s.add_circle(s.add_point({60, 10}), 8);
  for (int k = 0; k <= static_cast<int>(sketch::ConstraintType::Angle); ++k) {
    const auto type = static_cast<sketch::ConstraintType>(k);
    sketch::Sketch one = s;
    using T = sketch::ConstraintType;
    const bool round = type == T::Concentric || type == T::Radius;
    const sketch::Id first = round                      ? c1
                             : type == T::Coincident    ? p
                             : type == T::Midpoint      ? p
                             : type == T::Perpendicular ? c
                             : type == T::Angle         ? c
                                                        : a;
    const sketch::Id second = type == T::Concentric ? c2
                              : type == T::Horizontal || type == T::Vertical || type == T::Radius
                                  ? 0
                              : type == T::Coincident || type == T::Midpoint ? a
                              : type == T::Perpendicular || type == T::Angle ? a
                                                                             : b;
    const sketch::Id id = one.add_constraint(type, first, second);
    app::Drafting drafting;
    drafting.sketch = one;
    QImage image(600, 400, QImage::Format_ARGB32);
    QPainter painter(&image);
    app::Camera camera;
    camera.look(Vec3::UnitZ(), Vec3::UnitY());
    camera.target = Vec3(30, 10, 0);
    camera.size = image.size();
    camera.scale = 5;
    const auto placed = drafting.paint(painter, camera);
    ASSERT_FALSE(placed.empty()) << sketch::constraint_name(type);
    EXPECT_EQ(placed.front().constraint, id);
    EXPECT_EQ(placed.front().dimension, one.find_constraint(id)->is_dimension());
    EXPECT_TRUE(QRectF(image.rect()).contains(placed.front().box)) << sketch::constraint_name(type);
  }
}

TEST_F(Drawing, WhiskersHaveOneRoundGainAndStayInThePicture) {
  section::Section section;
  section::Polyline square;
  square.points = {{0, 0}, {100, 0}, {100, 60}, {0, 60}};
  square.closed = true;
  section.polylines = {square};
  for (const double size : {0.005, 0.02, 0.3, 4.0}) {
    sketch::Drift drift;
    for (int k = 0; k < 200; ++k) drift.whiskers.push_back({{0, 0}, {0, size}, size, 0});
    drift.whiskers.push_back({{0, 0}, {0, 200 * size}, 200 * size, 0});
    const app::WhiskerScale scale = app::whisker_scale(drift, section);
    const double lead = scale.gain / std::pow(10, std::floor(std::log10(scale.gain) + 1e-9));
    EXPECT_TRUE(std::abs(lead - 1) < 1e-6 || std::abs(lead - 2) < 1e-6 || std::abs(lead - 5) < 1e-6)
        << scale.gain;
    EXPECT_LE(scale.longest, std::hypot(100, 60) / 10);
    if (scale.gain > 1) {
      EXPECT_LE(scale.gain * size, std::hypot(100, 60) / 100 + 1e-9);
    }
  }
}

TEST_F(Drawing, AStepIsPreviewedShadedAndDraggedByItsHandles) {
  open();
  survey();
  frame();
  section();
  driver_->key(Qt::Key_Return);
  driver_->stage(app::kBuild);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Extrude")));
  ASSERT_TRUE(driver_->settle());
  bench().lookAt(Vec3(0.3, -0.9, 0.4).normalized(), Vec3::UnitZ());
  QTest::qWait(100);
  EXPECT_TRUE(bench().hasPreview());
  ASSERT_EQ(bench().handles().size(), 3U);  // from, to, draft
  auto* to = window_.card()->findChild<QDoubleSpinBox*>(QStringLiteral("to"));
  const double read = to->value();
  EXPECT_NEAR(read, 10, 0.05);
  const auto handle = bench().handles()[1];
  const QPointF at = bench().camera().toScreen(handle.at);
  const QPointF up = bench().camera().toScreen(handle.at + 7 * handle.along) - at;
  drag(at, at + up);
  EXPECT_NEAR(to->value(), read + 7, 0.6);
  EXPECT_NEAR(to->value(), std::round(to->value() * 100) / 100, 1e-9) << "round numbers";
  // Back near the reading it snaps to it.
  const QPointF now = bench().camera().toScreen(bench().handles()[1].at);
  drag(now, at + QPointF(0, 2));
  EXPECT_NEAR(to->value(), read, 0.001);
  EXPECT_TRUE(bench().handles()[1].text.contains(QStringLiteral("scan")))
      << bench().handles()[1].text.toStdString();
  // The wall leans outwards with the handle of its draft.
  auto* draft = window_.card()->findChild<QDoubleSpinBox*>(QStringLiteral("draft"));
  const auto lean = bench().handles()[2];
  const QPointF rim = bench().camera().toScreen(lean.at);
  drag(rim, rim + (bench().camera().toScreen(lean.at + lean.along) - rim));
  EXPECT_LT(draft->value(), -2);
  driver_->number(QStringLiteral("draft"), 0);
  ASSERT_TRUE(driver_->settle());
  bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().steps.size(), 1U);
  EXPECT_FALSE(bench().hasPreview());
  EXPECT_TRUE(bench().handles().empty());
}

TEST_F(Drawing, EditingAStepShowsTheModelBeforeIt) {
  build();
  ASSERT_TRUE(driver_->tool(QStringLiteral("Fillet")));
  const model::Tessellation triangles = *window_.session().route()->tessellation;
  bench().lookAt(Vec3(0.5, -0.7, 0.6).normalized(), Vec3::UnitZ());
  QTest::qWait(60);
  bool clicked = false;
  for (const auto& line : triangles.edges) {
    const QPointF at = bench().camera().toScreen(line.points[line.points.size() / 2]);
    if (clicked || bench().pickAt(QPointF(at.toPoint())).edge != line.edge) continue;
    driver_->click(at);
    clicked = true;
  }
  ASSERT_TRUE(clicked);
  driver_->number(QStringLiteral("radius"), 1.5);
  ASSERT_TRUE(driver_->settle());
  bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_EQ(driver_->document().steps.size(), 2U);
  const std::size_t faces = window_.session().route()->solid.face_count();
  auto* route = window_.findChild<QListWidget*>();
  Q_EMIT route->itemActivated(route->item(1));
  ASSERT_TRUE(driver_->settle());
  ASSERT_NE(window_.card(), nullptr);
  // What is under the pointer belongs to the model without the fillet.
  std::set<std::uint32_t> seen;
  for (int x = 20; x < bench().width(); x += 5) {
    for (int y = 20; y < bench().height(); y += 5) {
      const app::Pick pick = bench().pickAt(QPointF(x, y));
      if (pick.what == app::Pick::What::Model && pick.face != scan::kNone) seen.insert(pick.face);
    }
  }
  for (const std::uint32_t face : seen) EXPECT_LT(face, faces - 1);
  // One more edge is picked on it, and both are rounded.
  for (const auto& line : triangles.edges) {
    const QPointF at = bench().camera().toScreen(line.points[line.points.size() / 2]);
    const app::Pick pick = bench().pickAt(QPointF(at.toPoint()));
    if (pick.edge != line.edge || cardText().contains(QStringLiteral("2 edges"))) continue;
    driver_->click(at);
    driver_->settle();
    if (cardText().contains(QStringLiteral("0 edges")) || cardText().contains("Click an edge"))
      driver_->click(at), driver_->settle();  // it was the one there is
  }
  EXPECT_TRUE(cardText().contains(QStringLiteral("2 edges"))) << cardText().toStdString();
  bench().setFocus();
  driver_->key(Qt::Key_Return);
  ASSERT_TRUE(driver_->settle());
  EXPECT_EQ(state(1), model::StepState::Sound) << window_.session().route()->steps[1].reason;
  EXPECT_GT(window_.session().route()->solid.face_count(), faces);
}

TEST_F(Drawing, AnExtrudeSaysWhatItLeaves) {
  open();
  survey();
  frame();
  section();
  driver_->key(Qt::Key_Return);
  driver_->stage(app::kBuild);
  ASSERT_TRUE(driver_->tool(QStringLiteral("Extrude")));
  ASSERT_TRUE(driver_->settle());
  // The largest outline is taken; the bore inside it is left, and said.
  EXPECT_TRUE(cardText().contains(QStringLiteral("leaves 1 outline"))) << cardText().toStdString();
}

TEST_F(Drawing, TheSectionInTheStripIsZoomedPannedAndFitted) {
  open();
  survey();
  frame();
  section();
  auto* plot = window_.findChild<app::SectionPlot*>();
  ASSERT_NE(plot, nullptr);
  const double whole = plot->scale();
  const Vec2 middle = plot->middle();
  const QPointF at(plot->width() / 2.0 + 30, plot->height() / 2.0 + 10);
  QWheelEvent wheel(at, plot->mapToGlobal(at), {}, {0, 240}, Qt::NoButton, {}, Qt::NoScrollPhase,
                    false);
  QApplication::sendEvent(plot, &wheel);
  EXPECT_NEAR(plot->scale(), whole * std::pow(1.0015, 240), 1e-9);
  // What was under the pointer is there still.
  const Vec2 off(30, -10);
  EXPECT_LT((plot->middle() + off / plot->scale() - (middle + off / whole)).norm(), 1e-9);
  QTest::mouseDClick(plot, Qt::LeftButton);
  EXPECT_NEAR(plot->scale(), whole, 1e-9);
}

TEST_F(Drawing, MarksLeaveTheDrawingFreeUntilThereIsRoomForThem) {
  open();
  survey();
  frame();
  section();
  const auto marks = [&] {
    driver_->rest();
    std::vector<QRectF> boxes;
    for (const auto& placed : bench().drafted()) {
      if (!placed.dimension) boxes.push_back(placed.box);
    }
    for (std::size_t i = 0; i < boxes.size(); ++i) {
      for (std::size_t k = i + 1; k < boxes.size(); ++k)
        EXPECT_FALSE(boxes[i].intersects(boxes[k])) << i << " " << k;
    }
    return boxes.size();
  };
  const auto zoom = [&](double by) {
    bench().camera().scale *= by;
    bench().setShow(bench().show());  // drawn anew
  };
  const std::size_t near = marks();
  ASSERT_GE(near, 4U);
  zoom(0.05);
  EXPECT_LT(marks(), near / 2);
  const auto far = bench().drafted();
  // What is picked shows what holds it, however small it is.
  zoom(20);
  const auto& traced = driver_->lastSketch();
  const auto among = [](const auto& all, sketch::Id constraint) {
    return std::any_of(all.begin(), all.end(),
                       [&](const auto& placed) { return placed.constraint == constraint; });
  };
  sketch::Id held = 0;
  for (const auto& c : traced.sketch.constraints) {
    const sketch::Entity* line = traced.sketch.find_entity(c.first);
    if (line == nullptr || line->type != sketch::EntityType::Line || among(far, c.id)) continue;
    driver_->rest();
    driver_->clickEntity(traced, traced.sketch, line->id);
    held = c.id;
    break;
  }
  ASSERT_NE(held, 0U);
  zoom(0.05);
  driver_->rest();
  EXPECT_TRUE(among(bench().drafted(), held));
}

TEST(Ledger, ANameThatIsCutKeepsTheNumbersOfWhatItMeasures) {
  const QFontMetrics metrics(app::body_font(12));
  const QString whole = QStringLiteral("centre of circle 143 to centre of circle 27");
  EXPECT_EQ(app::fitted_name(whole, metrics, 1000), whole);
  for (int room = metrics.horizontalAdvance(whole); room > 80; --room) {
    const QString cut = app::fitted_name(whole, metrics, room);
    EXPECT_LE(metrics.horizontalAdvance(cut), room) << cut.toStdString();
    EXPECT_TRUE(cut.contains(QStringLiteral("143")) && cut.endsWith(QStringLiteral("27")))
        << cut.toStdString();
  }
  const QString one = QStringLiteral("a name that somebody gave it");
  EXPECT_LE(metrics.horizontalAdvance(app::fitted_name(one, metrics, 70)), 70);
}

TEST_F(Drawing, LedgerRowsStandByStepAndAreCopiedAsText) {
  build();
  auto* table = window_.findChild<QTableView*>(QStringLiteral("ledger"));
  ASSERT_NE(table, nullptr);
  EXPECT_EQ(table->model()->index(0, 0).data().toString(), QStringLiteral("10  plate"));
  EXPECT_EQ(table->model()->rowCount(),
            1 + static_cast<int>(driver_->document().dimensions.size()));
  table->setFocus();
  table->selectAll();
  QTest::keyClick(table, Qt::Key_C, Qt::ControlModifier);
  const QStringList lines = QGuiApplication::clipboard()->text().split(QLatin1Char('\n'));
  ASSERT_EQ(lines.size(), 1 + static_cast<qsizetype>(driver_->document().dimensions.size()));
  EXPECT_EQ(lines[1].split(QLatin1Char('\t')).size(), 6);
  EXPECT_TRUE(lines[1].startsWith(QString::fromStdString(driver_->document().dimensions[0].name)));
  // Sorted by a head the groups go.
  table->sortByColumn(1, Qt::AscendingOrder);
  EXPECT_EQ(table->model()->rowCount(), static_cast<int>(driver_->document().dimensions.size()));
}

}  // namespace
}  // namespace lostline
