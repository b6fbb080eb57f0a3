#include "tools/build/step_tool.h"

#include <algorithm>

#include "bench/sketch_marks.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/bodies.h"
#include "sketch/curve_kind.h"
#include "tools/tool.h"

namespace lostline::app {

StepTool::StepTool(Workplace place, const QString& title, project::Id step, const QString& new_name,
                   const QString& stage)
    : ToolCard(place, title, step != 0 ? QObject::tr("edit step") : stage), step_(step) {
  const model::Step* edited = editedStep();
  name_ = new QLineEdit(edited != nullptr ? QString::fromStdString(edited->name) : new_name);
  name_->setObjectName(QStringLiteral("stepName"));
  addRow(tr("name"), name_);
}

void StepTool::documentChanged() {
  const auto document = place_.session.snapshot();
  const auto route = place_.session.route();
  // The distances of the scan alone change nothing here.
  const bool same_model =
      tried_with_ != nullptr && tried_with_->tessellation == route->tessellation;
  if (document == tried_on_ && same_model) return;
  const bool first = tried_on_ == nullptr;
  tried_on_ = document;
  tried_with_ = route;
  if (!same_model && guest_) {
    guest_.reset();
    place_.bench.setGuest({});
  }
  refill();
  if (!first) tryAgain();
}

StepTool::Ground StepTool::ground() const {
  Ground ground;
  ground.document = place_.session.snapshot();
  ground.step = step_ != 0 ? step_ : document().next_id;
  ground.after = step_ == 0 ? place_.session.insertAfter() : 0;
  ground.name = name_->text().toStdString();
  ground.cache = place_.session.cache();
  const auto route = place_.session.route();
  ground.before = place_.session.modelBefore(step_);
  const auto& shown = route->solid;
  ground.show_before = guest_ == nullptr && !ground.before.empty() && !shown.empty() &&
                       &ground.before.impl() != &shown.impl();
  return ground;
}

StepTool::Trial StepTool::Ground::attempt(const model::Feature& feature, const Task& task) const {
  model::Step trial;
  trial.id = step;
  trial.name = name;
  trial.feature = feature;
  // The step stands where it will be, so that it may refer to steps before it.
  const auto sketches = document->placed_sketches();
  std::vector<model::Step> steps;
  for (const model::Step& s : document->steps) {
    if (s.id == step) break;
    steps.push_back(s);
    if (s.id == after) break;
  }
  steps.push_back(trial);
  const auto made = model::recompute(steps, sketches, *cache, task, model::Wanted::trial(step));
  const auto solid = [&]() -> Result<model::Model> {
    if (!made) return made.error();
    const model::StepResult& last = made->back();
    if (last.state != model::StepState::Sound) return Error{ErrorCode::Failed, last.reason};
    return last.solid;
  };
  Trial result{feature, solid(), {{}, role::red_pencil, 1.3F, true}, {}, {}};
  if (show_before) {
    if (auto triangles = model::tessellate(before)) {
      auto guest = std::make_shared<BenchView::Guest>();
      guest->index = std::make_shared<const scan::MeshIndex>(triangles->mesh);
      guest->tessellation = std::make_shared<const model::Tessellation>(*std::move(triangles));
      result.guest = std::move(guest);
    }
  }
  if (!result.solid) return result;
  if (const auto tessellation = model::tessellate(*result.solid, {0.2, 0.3})) {
    const std::string mine = "s" + std::to_string(step) + ":";
    model::Tessellation made;
    made.mesh.vertices = tessellation->mesh.vertices;
    made.normals = tessellation->normals;
    for (std::size_t t = 0; t < tessellation->mesh.triangles.size(); ++t) {
      const std::uint32_t face = tessellation->triangle_face[t];
      if (!result.solid->face_name(face).starts_with(mine)) continue;
      made.mesh.triangles.push_back(tessellation->mesh.triangles[t]);
      made.triangle_face.push_back(face);
    }
    result.made = std::make_shared<const model::Tessellation>(std::move(made));
    for (const auto& line : tessellation->edges) {
      for (std::size_t i = 1; i < line.points.size(); ++i)
        result.edges.segments.emplace_back(line.points[i - 1], line.points[i]);
    }
  }
  return result;
}

bool StepTool::showTrial(const Trial& trial) {
  setKeepEnabled(false);
  if (trial.guest) {
    guest_ = trial.guest;
    place_.bench.setGuest(guest_);
  }
  if (!trial.solid) {
    place_.bench.setPreview({});
    setError(core_text(trial.solid.error().message));
    return false;
  }
  place_.bench.setMarks({trial.edges});
  place_.bench.setPreview(trial.made);
  showGrips();
  setKeepEnabled(true);
  return true;
}

model::Model StepTool::shownModel() const {
  return guest_ ? ground().before : place_.session.route()->solid;
}

std::shared_ptr<const model::Tessellation> StepTool::shownTriangles() const {
  return guest_ ? guest_->tessellation : place_.session.route()->tessellation;
}

void StepTool::showGrips() {
  const std::size_t before = grips_.size();
  grips_ = grips();
  if (grips_.size() != before) {  // the one held may be gone
    grip_start_.reset();
    snapped_.clear();
  }
  std::vector<BenchView::Handle> handles;
  for (std::size_t i = 0; i < grips_.size(); ++i) {
    const Grip& grip = grips_[i];
    QString text = grip.box->text();
    if (grip.quantity == standards::Quantity::Angle) text += QStringLiteral("\u00b0");
    if (held_grip_ == static_cast<int>(i) && !snapped_.isEmpty())
      text += QStringLiteral(" \u00b7 ") + snapped_;
    handles.push_back({static_cast<int>(i), grip.at, grip.along, text});
  }
  place_.bench.setHandles(std::move(handles), [this](int id, double moved, bool released) {
    touch();
    dragGrip(id, moved, released);
  });
}

void StepTool::dragGrip(int id, double moved, bool released) {
  if (id < 0 || static_cast<std::size_t>(id) >= grips_.size()) return;
  const Grip& grip = grips_[static_cast<std::size_t>(id)];
  if (!grip_start_) grip_start_ = grip.box->value();
  // To the reading when it is near, else to round numbers, as the view lets them be told apart.
  constexpr double kNear = 6;  // pixels
  const double pixel = std::abs(grip.gain) / place_.bench.camera().scale;
  held_grip_ = id;
  double value = *grip_start_ + grip.gain * moved;
  double step = 0.01;
  while (step < 4 * pixel) step *= std::fmod(std::log10(step) + 20, 1) < 0.1 ? 5 : 2;
  snapped_.clear();
  const auto snaps = [&](double to, const QString& what) {
    if (!snapped_.isEmpty() || std::abs(value - to) >= kNear * pixel) return;
    value = to;
    snapped_ = what;
  };
  if (grip.reading) {
    snaps(*grip.reading, tr("scan"));
    // Nominals as near to the reading as the pointer can tell apart.
    const double u = std::max(0.1, 20 * pixel);
    for (const standards::Nominal& n : standards::nominals_near(*grip.reading, u, grip.quantity))
      snaps(n.value, QString::fromStdString(n.source));
  }
  if (snapped_.isEmpty()) value = std::round(value / step) * step;
  if (released) grip_start_.reset();
  grip.box->setValue(value);
}

std::optional<model::Body> StepTool::bodyAt(const Pick& pick) const {
  const model::Model solid = shownModel();
  if (pick.what != Pick::What::Model || solid.empty()) return std::nullopt;
  const auto triangles = shownTriangles();
  for (std::size_t k = 0; pick.edge && triangles && k < triangles->edges.size(); ++k) {
    const auto& line = triangles->edges[k];
    if (line.edge == *pick.edge && solid.body(line.body).kind == model::BodyKind::Curve)
      return solid.body(line.body);
  }
  if (pick.face >= solid.face_count()) return std::nullopt;
  return solid.body(solid.body_of_face(pick.face));
}

void StepTool::commit(const model::Feature& feature,
                      const std::vector<project::FieldReading>& readings) {
  const QString name = name_->text().trimmed();
  if (name.isEmpty()) return setError(tr("Give the step a name."));
  if (step_ != 0) {
    commitAside(tr("edit step %1").arg(name),
                [step = step_, feature, readings, name = name.toStdString()](
                    const project::Document& d) -> Result<project::Document> {
                  const auto edited = project::edit_step(d, step, feature, readings);
                  if (!edited || edited->find_step(step)->name == name) return edited;
                  return project::rename_step(*edited, step, name);
                });
    return;
  }
  commitAside(
      tr("%1 %2").arg(core_text(feature.words()), name),
      [feature, readings, name = name.toStdString(), after = place_.session.insertAfter()](
          const project::Document& d) -> Result<project::Document> {
        return project::add_step(d, feature, name, readings, after).document;
      },
      [this, after = place_.session.insertAfter()] { insertNextBehind(after); });
}

void StepTool::insertNextBehind(project::Id after) {
  if (after == 0) return;
  const auto& steps = document().steps;
  for (std::size_t i = 0; i + 1 < steps.size(); ++i) {
    if (steps[i].id == after) return place_.session.setInsertAfter(steps[i + 1].id);
  }
}

project::FieldReading StepTool::field(const char* name, const QDoubleSpinBox* box,
                                      std::optional<double> reading, double u,
                                      const std::string& source) {
  project::FieldReading f{name, reading, u, source, {}};
  const double shown = box->value();
  if (!reading || std::abs(*reading - shown) > 0.6 * std::pow(10.0, -box->decimals()))
    f.intent = shown;
  return f;
}

SketchedTool::SketchedTool(Workplace place, const QString& title, project::Id step,
                           project::Id sketch, const QString& new_name)
    : StepTool(place, title, step, new_name), sketch_(new QComboBox) {
  fillSketches(sketch);
  sketch_->setObjectName(QStringLiteral("stepSketch"));
  addRow(tr("profile"), sketch_);
  connect(sketch_, &QComboBox::currentIndexChanged, this, [this] {
    chosen_.clear();
    areas_.clear();
    sketchChanged();
  });
}

void SketchedTool::fillSketches(project::Id chosen) {
  for (const auto& s : document().sketches)
    sketch_->addItem(QString::fromStdString(s->name), static_cast<qulonglong>(s->id));
  sketch_->setCurrentIndex(chosen != 0 ? sketch_->findData(static_cast<qulonglong>(chosen))
                                       : sketch_->count() - 1);
}

void SketchedTool::refill() {
  const project::Id before = sketch_->currentData().toULongLong();
  {
    const QSignalBlocker block(sketch_);
    sketch_->clear();
    fillSketches(document().find_sketch(before) != nullptr ? before : 0);
  }
  if (traced() == nullptr || traced()->id != before) {  // undo took it away
    chosen_.clear();
    areas_.clear();
    if (traced() != nullptr) sketchChanged();
    return;
  }
  std::erase_if(chosen_,
                [this](sketch::Id id) { return traced()->sketch.find_entity(id) == nullptr; });
}

void SketchedTool::take(const Item& item) {
  const int row =
      item.kind == Item::Kind::Sketch ? sketch_->findData(static_cast<qulonglong>(item.id)) : -1;
  if (row < 0) return StepTool::take(item);
  sketch_->setCurrentIndex(row);
}

void SketchedTool::pick(const Pick& pick) {
  if (traced() == nullptr) return;
  const sketch::Id id = sketch_item_at(place_.bench, place_.bench.camera(), traced()->base,
                                       traced()->level, traced()->sketch, pick.screen, false);
  if (id != 0)
    choose(id);
  else if (surface_ == nullptr || !surface_->isChecked())
    chooseArea(pick.screen);
}

bool SketchedTool::chooseArea(const QPointF& at) {
  const auto p = plane_point(place_.bench.camera(), traced()->base, traced()->level, at);
  if (!p) return false;
  const sketch::Areas found = sketch::find_areas(traced()->sketch);
  const auto area = std::find_if(found.areas.begin(), found.areas.end(),
                                 [&](const sketch::Area& a) { return a.has(*p); });
  if (area == found.areas.end()) return false;
  const auto known = std::find_if(areas_.begin(), areas_.end(),
                                  [&](const Vec2& inside) { return area->has(inside); });
  if (known != areas_.end())
    areas_.erase(known);
  else
    areas_.push_back(area->inside);
  chosen_.clear();
  areasChanged();
  return true;
}

void SketchedTool::addSurfaceChoice() {
  surface_ = new QCheckBox(tr("surface only, from open outlines too"));
  surface_->setObjectName(QStringLiteral("surface"));
  surface_->setToolTip(tr("The curves sweep out a surface body without an inside"));
  // An outline that closes nowhere can make nothing else.
  if (step_ == 0 && traced() != nullptr && sketch::find_loops(traced()->sketch).empty() &&
      sketch::find_areas(traced()->sketch).areas.empty() && !traced()->sketch.entities.empty())
    surface_->setChecked(true);
  addWide(surface_);
}

void SketchedTool::addBodyChoice(const std::vector<std::string>& named) {
  onto_ = new QComboBox;
  onto_->setObjectName(QStringLiteral("onto"));
  onto_->setToolTip(tr("Bodies that the material is added to, cut from or kept in common with"));
  onto_->addItem(tr("those it touches"), QStringList());
  QStringList keys;
  for (const std::string& key : named) keys << QString::fromStdString(key);
  if (named.size() > 1) onto_->addItem(tr("%1 bodies").arg(named.size()), keys);
  const model::Model before = ground().before;
  for (std::size_t i = 0; i < before.body_count(); ++i) {
    const model::Body& body = before.body(i);
    if (body.kind == model::BodyKind::Curve) continue;
    onto_->addItem(QString::fromStdString(project::body_title(document(), body)),
                   QStringList{QString::fromStdString(body.key)});
    if (named.size() == 1 && body.is(named.front())) onto_->setCurrentIndex(onto_->count() - 1);
  }
  if (named.size() > 1) onto_->setCurrentIndex(1);
  QLabel* label = addRow(tr("bodies"), onto_);
  const bool choice = before.body_count() > 1 || !named.empty();
  onto_->setVisible(choice);
  label->setVisible(choice);
  connect(onto_, &QComboBox::currentIndexChanged, this, [this] { bodiesChosen(); });
}

std::vector<std::string> SketchedTool::bodies() const {
  std::vector<std::string> keys;
  if (onto_ == nullptr) return keys;
  for (const QString& key : onto_->currentData().toStringList()) keys.push_back(key.toStdString());
  return keys;
}

std::vector<sketch::Loop> SketchedTool::loops() const {
  std::vector<sketch::Loop> all = sketch::find_loops(traced()->sketch);
  if (surface_ != nullptr && surface_->isChecked()) {
    const std::vector<sketch::Loop> chains = sketch::open_chains(traced()->sketch);
    all.insert(all.end(), chains.begin(), chains.end());
  }
  return all;
}

QString SketchedTool::leftOut() const {
  if (traced() == nullptr) return {};
  const sketch::Sketch& sketch = traced()->sketch;
  const auto taken = [&](const sketch::Loop& loop) {
    return std::any_of(loop.uses.begin(), loop.uses.end(),
                       [&](const auto& use) { return chosen_.contains(use.entity); });
  };
  QString text;
  const std::vector<sketch::Loop> closed = sketch::find_loops(sketch);
  int inner = 0;
  if (!chosen_.empty()) {
    for (const sketch::Loop& loop : closed) {
      if (taken(loop)) continue;
      const sketch::Polygon outline = sketch::polygon_of(sketch, loop);
      inner += std::any_of(closed.begin(), closed.end(), [&](const sketch::Loop& outer) {
        return taken(outer) && !outline.empty() &&
               sketch::contains(sketch::polygon_of(sketch, outer), outline.front());
      });
    }
  }
  if (inner > 0)
    text += tr("\nleaves %n outline(s) inside it: click to take them as openings", nullptr, inner);
  if (surface_ != nullptr && surface_->isChecked()) return text;
  for (const sketch::Loop& chain : sketch::open_chains(sketch)) {
    const auto end = [&](const sketch::Loop::Use& use, bool last) {
      const std::vector<Vec2> line =
          sketch::placed(sketch, *sketch.find_entity(use.entity))->chords();
      return last == use.reversed ? line.front() : line.back();
    };
    const Vec2 at = end(chain.uses.front(), false);
    const Vec2 other = end(chain.uses.back(), true);
    text += tr("\nleaves an outline that does not close: its ends lie %1 apart, one at %2, %3")
                .arg(length_shown((other - at).norm(), 2), length_shown(at.x(), 1),
                     length_shown(at.y(), 1));
    if (text.size() > 300) return text + tr("\n\u2026 and more");
  }
  return text;
}

void SketchedTool::draw() {
  if (traced() == nullptr) return;
  std::set<sketch::Id> marked;
  for (const sketch::Loop& loop : loops()) {
    const bool on = std::any_of(loop.uses.begin(), loop.uses.end(),
                                [&](const auto& use) { return chosen_.contains(use.entity); });
    for (const auto& use : loop.uses) {
      if (on) marked.insert(use.entity);
    }
  }
  auto marks =
      sketch_marks(traced()->base, traced()->level, {}, traced()->sketch, {}, marked, false, 1);
  if (!areas_.empty()) {  // hatched at 45 degrees, as a cut is on a drawing
    LineBatch hatch{{}, role::red_pencil, 1.0F, true};
    const sketch::Areas found = sketch::find_areas(traced()->sketch);
    for (const sketch::Area& area : found.areas) {
      if (std::any_of(areas_.begin(), areas_.end(), [&](const Vec2& p) { return area.has(p); }))
        for (const auto& [a, b] : hatch_lines(area.outlines, std::sqrt(area.size) / 12))
          hatch.segments.emplace_back(traced()->base.to_space(a, traced()->level),
                                      traced()->base.to_space(b, traced()->level));
    }
    marks.push_back(std::move(hatch));
  }
  place_.bench.setMarks(std::move(marks));
}

}  // namespace lostline::app
