#include "by_mouse.h"

#include "fit/surface.h"
#include "sketch/curve_kind.h"

namespace lostline::testing {

std::string Hands::told() const {
  std::string text = "status:";
  for (QLabel* label : window_.statusBar()->findChildren<QLabel*>())
    text += " " + label->text().toStdString();
  if (window_.card() != nullptr) {
    text += " card:";
    for (QLabel* label : window_.card()->findChildren<QLabel*>())
      if (label->isVisible()) text += " | " + label->text().toStdString();
  }
  return text;
}

void Hands::require(bool good, const std::string& what) const {
  if (!good) throw Trouble(what + "; " + told());
}

std::uint32_t Hands::region(const std::string& what, const Suits& suits) const {
  const project::Document& d = document();
  std::vector<const survey::Region*> regions;
  for (const survey::Region& r : d.survey->regions)
    if (r.fit) regions.push_back(&r);
  std::stable_sort(regions.begin(), regions.end(),
                   [](const auto* a, const auto* b) { return a->area > b->area; });
  for (const survey::Region* r : regions)
    if (suits(*r, fit::transformed(r->fit->surface, d.to_part()))) return r->id;
  throw Trouble("there is no region that is " + what);
}

Hands::Suits Hands::of_area(fit::Kind kind, double area) {
  return [kind, area](const survey::Region& r, const fit::Surface& s) {
    return s.kind == kind && std::abs(r.area - area) < 0.1 * area;
  };
}

Hands::Suits Hands::of_radius(double radius) {
  return [radius](const survey::Region&, const fit::Surface& s) {
    return s.kind == fit::Kind::Cylinder && std::abs(s.radius - radius) < 0.02 * radius;
  };
}

void Hands::open(const QString& scan) {
  window_.openFile(scan);
  require(driver_.settle() && document().scan != nullptr, "the scan does not open");
  window_.bench().setFocus();
  driver_.key(Qt::Key_Return);  // the health card's proposals
  require(driver_.settle(), "the scan is not kept");
}

void Hands::survey() {
  tool(app::kSurvey, "Regions");
  driver_.key(Qt::Key_Return);
  require(driver_.settle() && document().survey != nullptr, "there are no regions");
}

void Hands::click(std::uint32_t region) {
  std::vector<Vec3> views;
  const fit::SurfaceFit* fit = document().fit_of({region, 0});
  if (fit != nullptr) {
    const fit::Surface s = fit::transformed(fit->surface, document().to_part());
    const Vec3 side = any_perpendicular(s.axis);
    if (fit::is_flat(s.kind)) views.push_back(s.axis + 0.2 * side);
    for (int k = 0; k < 8; ++k) {
      const Vec3 out = Eigen::AngleAxisd(k * std::numbers::pi / 4, s.axis) * side;
      views.push_back(s.axis + 0.5 * out);
      views.push_back(-s.axis + 0.5 * out);
      views.push_back(out + 0.15 * s.axis);
    }
  }
  for (const double x : {-1.0, 0.0, 1.0})
    for (const double y : {-1.0, 0.0, 1.0})
      for (const double z : {-1.0, 0.0, 1.0})
        if (x != 0 || y != 0 || z != 0) views.emplace_back(x, y, z);
  for (const Vec3& view : views)
    if (driver_.clickRegion(region, view)) {
      require(driver_.settle(), "the click is not taken");
      return;
    }
  throw Trouble("region " + std::to_string(region) + " is not seen from anywhere");
}

void Hands::clickInEvidence(std::uint32_t region) {
  auto* tree = window_.findChild<QTreeWidget*>(QStringLiteral("evidence"));
  for (QTreeWidgetItemIterator it(tree); *it != nullptr; ++it) {
    QTreeWidgetItem* group = *it;
    while (group->parent() != nullptr) group = group->parent();
    // "▱ 12 -z": its sign, its number, where it faces.
    if ((*it)->childCount() > 0 || !group->text(0).startsWith(QStringLiteral("Regions")) ||
        (*it)->text(0).section(QLatin1Char(' '), 1, 1).toUInt() != region)
      continue;
    tree->scrollToItem(*it);
    QTest::mouseClick(tree->viewport(), Qt::LeftButton, {}, tree->visualItemRect(*it).center());
    require(driver_.settle(), "the row is not taken");
    return;
  }
  throw Trouble("region " + std::to_string(region) + " is not in Evidence");
}

void Hands::frame(std::uint32_t primary, const std::vector<std::uint32_t>& secondary,
                  std::uint32_t origin) {
  tool(app::kDatum, "Frame");
  click(primary);
  for (const std::uint32_t r : secondary) clickInEvidence(r);
  clickInEvidence(origin);
  lookAlong(0);
  keep();
  require(document().frame != nullptr, "there is no frame");
}

void Hands::tool(int stage, const char* name) {
  driver_.stage(stage);
  require(driver_.tool(QString::fromUtf8(name)), std::string("there is no tool ") + name);
  require(driver_.settle(), std::string(name) + " does not settle");
}

const project::TracedSketch& Hands::section(int plane, double level) {
  const std::size_t before = document().sketches.size();
  tool(app::kTrace, "Section");
  choose("sectionPlane", plane);
  number(plane == 4 ? "sectionAngle" : "sectionLevel", level);
  require(driver_.settle(), "the section does not settle");
  window_.bench().setFocus();
  driver_.key(Qt::Key_Return);
  require(driver_.settle(), "the section is not kept");
  QTest::qWait(60);
  require(document().sketches.size() == before + 1 && window_.card() != nullptr,
          "the section gives no sketch");
  return driver_.lastSketch();
}

void Hands::draw(const std::vector<Vec3>& places) {
  window_.bench().setFocus();
  driver_.key(Qt::Key_G);
  driver_.key(Qt::Key_L);
  for (const Vec3& place : places) driver_.clickPoint(place);
  driver_.key(Qt::Key_Escape);
  driver_.key(Qt::Key_Escape);
  require(driver_.settle(), "drawing does not settle");
}

void Hands::press(const char* button) {
  require(driver_.button(QString::fromUtf8(button)), std::string("there is no button ") + button);
}

void Hands::pressIfThere(const char* button) { driver_.button(QString::fromUtf8(button)); }

void Hands::number(const char* name, double value) {
  auto* box = field<QAbstractSpinBox>(name);
  const auto* real = qobject_cast<QDoubleSpinBox*>(box);
  box->setFocus();
  box->selectAll();
  QTest::keyClicks(box, QString::number(value, 'f', real != nullptr ? real->decimals() : 0));
  QTest::keyClick(box, Qt::Key_Tab);
  require(driver_.settle(), std::string(name) + " does not settle");
}

double Hands::value(const char* name) const { return field<QDoubleSpinBox>(name)->value(); }

void Hands::choose(const char* name, int index) {
  auto* box = field<QComboBox>(name);
  box->setFocus();
  QTest::keyClick(box, Qt::Key_Home);
  for (int i = 0; i < index; ++i) QTest::keyClick(box, Qt::Key_Down);
  require(driver_.settle(), std::string(name) + " does not settle");
}

void Hands::chooseText(const char* name, const QString& text) {
  auto* box = field<QComboBox>(name);
  int index = -1;
  for (int k = 0; k < box->count(); ++k)
    if (box->itemText(k).contains(text)) index = k;
  require(index >= 0, std::string(name) + " does not offer " + text.toStdString());
  choose(name, index);
}

void Hands::tick(const char* name, const QString& text) {
  auto* list = field<QListWidget>(name);
  const auto found = list->findItems(text, Qt::MatchExactly);
  require(found.size() == 1, std::string(name) + " does not list " + text.toStdString());
  const QRect row = list->visualItemRect(found.front());
  list->scrollToItem(found.front());
  QTest::mouseClick(list->viewport(), Qt::LeftButton, {},
                    QPoint(row.left() + 10, list->visualItemRect(found.front()).center().y()));
  if (found.front()->checkState() != Qt::Checked) {
    list->setCurrentItem(found.front());
    QTest::keyClick(list, Qt::Key_Space);
  }
  require(found.front()->checkState() == Qt::Checked, text.toStdString() + " is not ticked");
  require(driver_.settle(), std::string(name) + " does not settle");
}

void Hands::check(const char* name, bool on) {
  auto* box = field<QAbstractButton>(name);
  if (box->isChecked() == on) return;
  box->setFocus();
  QTest::keyClick(box, Qt::Key_Space);
  require(box->isChecked() == on, std::string(name) + " does not change");
  require(driver_.settle(), std::string(name) + " does not settle");
}

void Hands::name(const char* step) {
  driver_.text(QStringLiteral("stepName"), QString::fromUtf8(step));
}

void Hands::clickRow(const QString& text) {
  auto* tree = window_.findChild<QTreeWidget*>(QStringLiteral("evidence"));
  for (QTreeWidgetItemIterator it(tree); *it != nullptr; ++it) {
    if ((*it)->text(0) != text) continue;
    tree->scrollToItem(*it);
    QTest::mouseClick(tree->viewport(), Qt::LeftButton, {}, tree->visualItemRect(*it).center());
    require(driver_.settle(), "the row is not taken");
    return;
  }
  throw Trouble("Evidence has no row " + text.toStdString() + "; " + told());
}

void Hands::waitFor(const char* pick) {
  auto* button = field<QPushButton>(pick);
  if (!button->isCheckable() || !button->isChecked()) QTest::mouseClick(button, Qt::LeftButton);
  require(driver_.settle(), std::string(pick) + " does not settle");
}

void Hands::keep() {
  keepAndGoOn();
  require(window_.card() == nullptr, "the card is not kept");
}

void Hands::keepAndGoOn() {
  window_.bench().setFocus();
  driver_.key(Qt::Key_Return);
  require(driver_.settle(), "keeping does not settle");
}

void Hands::keepStep(std::size_t steps) {
  keepAndGoOn();
  require(document().steps.size() == steps, "the step is not kept");
  const auto& route = window_.session().route()->steps;
  require(route.size() == steps && route.back().state == model::StepState::Sound,
          "the step is not sound: " + (route.empty() ? std::string() : route.back().reason));
}

void Hands::lookAlong(int view) {
  window_.bench().lookAlong(view);
  QTest::qWait(60);
}

void Hands::zoomAt(const Vec3& place, int notches) {
  app::BenchView& bench = window_.bench();
  for (int k = 0; k < notches; ++k) {
    const QPointF at = bench.camera().toScreen(place);
    QWheelEvent wheel(at, bench.mapToGlobal(at), {}, {0, 120}, Qt::NoButton, {}, Qt::NoScrollPhase,
                      false);
    QApplication::sendEvent(&bench, &wheel);
    QTest::qWait(10);
  }
  require(driver_.settle(), "zooming does not settle");
}

void Hands::lookAt(const Vec3& from) {
  window_.bench().lookAt(from.normalized(),
                         std::abs(from.normalized().z()) < 0.9 ? Vec3::UnitZ() : Vec3::UnitY());
  QTest::qWait(60);
}

void Hands::trim(const char* step, const QString& body, const QString& surface, std::size_t steps) {
  tool(app::kBuild, "Split");
  name(step);
  waitFor("bodies");
  clickRow(body);
  waitFor("surface_bodies");
  clickRow(surface);
  chooseText("keeps", QStringLiteral("far"));
  check("keep_surfaces", false);
  lookAlong(0);
  shot(step);
  keepStep(steps);
}

void Hands::prove(const char* picture, double most) {
  tool(app::kProve, "Deviation");
  require(window_.session().route()->map != nullptr, "there is no deviation");
  lookAlong(0);
  shot(picture);
  const double rms = window_.session().route()->statistics.rms;
  require(rms < most, "the model lies " + std::to_string(rms) + " off the scan");
  driver_.key(Qt::Key_Escape);
}

std::string told(const std::function<void()>& work) {
  try {
    work();
  } catch (const Trouble& trouble) {
    return trouble.what();
  }
  return {};
}

/// Circles of a sketch by their radius.
std::vector<sketch::Id> circles_of(const sketch::Sketch& s, double radius) {
  std::vector<sketch::Id> found;
  for (const sketch::Entity& e : s.entities)
    if (e.type == sketch::EntityType::Circle && std::abs(e.radius - radius) < 0.05 * radius)
      found.push_back(e.id);
  return found;
}

/// The line of a sketch that passes nearest to a place.
sketch::Id line_near(const sketch::Sketch& s, const Vec2& place) {
  sketch::Id nearest = 0;
  double least = 1e300;
  for (const sketch::Entity& e : s.entities) {
    if (e.type != sketch::EntityType::Line) continue;
    const double off = std::abs(sketch::placed(s, e)->drift(place));
    if (off >= least) continue;
    least = off;
    nearest = e.id;
  }
  return nearest;
}

}  // namespace lostline::testing
