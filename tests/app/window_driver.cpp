#include "window_driver.h"

#include <QtTest>
#include <QtWidgets>

#include "sketch/curve_kind.h"

namespace lostline::testing {

WindowDriver::WindowDriver(app::MainWindow& window) : window_(window) {
  // Without a window manager nobody else gives the focus.
  QApplication::setActiveWindow(&window);
  QTest::qWait(50);
}

bool WindowDriver::settle(double seconds) {
  QElapsedTimer timer;
  timer.start();
  // One piece of work may start the next: idle means idle over several turns of the event loop.
  int idle = 0;
  while (idle < 3 && timer.elapsed() < seconds * 1000) {
    QTest::qWait(5);
    idle = window_.session().busy() || window_.bench().drawing() ? 0 : idle + 1;
  }
  return idle >= 3;
}

void WindowDriver::rest() {
  std::size_t frames = 0;
  do {
    frames = window_.bench().framesDrawn();
    QTest::qWait(400);  // longer than a view is left alone before it is drawn finely
  } while (window_.bench().drawing() || window_.bench().framesDrawn() != frames);
}

void WindowDriver::key(int key, Qt::KeyboardModifiers modifiers) {
  QWidget* target = QApplication::focusWidget();
  if (target == nullptr) target = &window_.bench();
  QTest::keyClick(target, static_cast<Qt::Key>(key), modifiers);
  QTest::qWait(5);
  settle();
}

bool WindowDriver::tool(const QString& name) {
  for (QToolButton* b : window_.findChildren<QToolButton*>(QStringLiteral("tool"))) {
    if (b->menu() != nullptr && b->isVisible() && b->isEnabled()) {
      // A list of tools: opened, then its line is clicked.
      for (QAction* line : b->menu()->actions()) {
        if (line->text() != name || !line->isEnabled()) continue;
        QTimer::singleShot(100, b->menu(), [menu = b->menu(), line] {
          QTest::mouseClick(menu, Qt::LeftButton, {}, menu->actionGeometry(line).center());
        });
        QTest::mouseClick(b, Qt::LeftButton);
        QTest::qWait(60);
        return true;
      }
      continue;
    }
    if (b->property("name").toString() == name && b->isVisible() && b->isEnabled()) {
      QTest::mouseClick(b, Qt::LeftButton);
      QTest::qWait(60);
      return true;
    }
  }
  return false;
}

bool WindowDriver::button(const QString& object_name) {
  for (QPushButton* b : window_.findChildren<QPushButton*>(object_name)) {
    if (!b->isVisible() || !b->isEnabled()) continue;
    QTest::mouseClick(b, Qt::LeftButton);
    QTest::qWait(40);
    return settle();
  }
  return false;
}

void WindowDriver::number(const QString& object_name, double value) {
  auto* box = window_.findChild<QAbstractSpinBox*>(object_name);
  if (box == nullptr) return;
  const auto* real = qobject_cast<QDoubleSpinBox*>(box);
  box->setFocus();
  box->selectAll();
  QTest::keyClicks(box, QString::number(value, 'f', real != nullptr ? real->decimals() : 0));
  QTest::keyClick(box, Qt::Key_Tab);
  QTest::qWait(5);
}

void WindowDriver::choose(const QString& object_name, int index) {
  auto* box = window_.findChild<QComboBox*>(object_name);
  if (box == nullptr) return;
  box->setFocus();
  QTest::keyClick(box, Qt::Key_Home);
  for (int i = 0; i < index; ++i) QTest::keyClick(box, Qt::Key_Down);
  QTest::qWait(5);
}

void WindowDriver::text(const QString& object_name, const QString& text) {
  for (QLineEdit* edit : window_.findChildren<QLineEdit*>(object_name)) {
    if (!edit->isVisible()) continue;
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, text);
  }
}

void WindowDriver::click(const QPointF& at) {
  QTest::mouseClick(&window_.bench(), Qt::LeftButton, {}, at.toPoint());
  QTest::qWait(5);
}

bool WindowDriver::clickRegion(std::uint32_t region, const Vec3& toward) {
  const project::Document& d = document();
  app::BenchView& bench = window_.bench();
  const Vec3 up = std::abs(toward.normalized().z()) < 0.9 ? Vec3::UnitZ() : Vec3::UnitY();
  bench.lookAt(toward, up);
  QTest::qWait(5);
  const auto triangles = survey::triangles_of(*d.survey, region);
  for (std::size_t i = 0; i < triangles.size();
       i += std::max<std::size_t>(1, triangles.size() / 300)) {
    const QPointF at = bench.camera().toScreen(d.to_part() * d.scan->mesh->centroid(triangles[i]));
    if (!bench.rect().adjusted(20, 20, -20, -20).contains(at.toPoint())) continue;
    if (bench.pickAt(QPointF(at.toPoint())).region != region) continue;
    click(at);
    return true;
  }
  return false;
}

void WindowDriver::clickEntity(const project::TracedSketch& traced, const sketch::Sketch& s,
                               sketch::Id id) {
  const sketch::Entity& e = *s.find_entity(id);
  // Not quite the middle, where something else may lie.
  const auto curve = sketch::placed(s, e);
  const Vec2 p = curve->at((curve->closed() ? 0.1 : 0.55) * curve->range());
  clickPoint(traced.base.to_space(p, traced.level));
}

bool WindowDriver::selectRow(const QString& row) {
  auto* table = window_.findChild<QTableView*>(QStringLiteral("ledger"));
  for (int r = 0; r < table->model()->rowCount(); ++r) {
    if (table->model()->index(r, 0).data().toString() != row) continue;
    table->scrollTo(table->model()->index(r, 0));
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {},
                      table->visualRect(table->model()->index(r, 0)).center());
    QTest::qWait(40);
    // What can be done with it takes room beneath; it stays in sight.
    const QRect seen = table->viewport()->rect();
    const QRect now = table->visualRect(table->model()->index(r, 0));
    return now.top() >= seen.top() && now.bottom() <= seen.bottom();
  }
  return false;
}

bool WindowDriver::ink(const QString& row, double value) {
  if (!selectRow(row)) return false;
  const QString text = QString::fromStdString(format_trimmed(value));
  if (button(QStringLiteral("ink ") + text)) return true;
  for (QLineEdit* edit : window_.findChildren<QLineEdit*>(QStringLiteral("typedIntent"))) {
    if (!edit->isVisible()) continue;
    edit->setFocus();
    QTest::keyClicks(edit, QString::number(value));
    QTest::keyClick(edit, Qt::Key_Return);
    return settle();
  }
  return false;
}

void WindowDriver::shot(const QString& name) {
  if (shot_folder.isEmpty()) return;
  rest();
  window_.grab().save(shot_folder + QLatin1Char('/') + name + QStringLiteral(".png"));
}

}  // namespace lostline::testing
