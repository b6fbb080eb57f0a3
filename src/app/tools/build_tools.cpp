#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <numbers>

#include "look/theme.h"
#include "project/evidence.h"
#include "tools/sketch_marks.h"
#include "tools/tool_card.h"

namespace lostline::app {
namespace {

constexpr double kDegrees = 180 / std::numbers::pi;

QString fixed(double value, int decimals = 3) {
  return QString::fromStdString(format_fixed(value, decimals));
}

QComboBox* sketch_box(const project::Document& d, project::Id chosen) {
  auto* box = new QComboBox;
  for (const auto& s : d.sketches)
    box->addItem(QString::fromStdString(s->name), static_cast<qulonglong>(s->id));
  box->setCurrentIndex(chosen != 0 ? box->findData(static_cast<qulonglong>(chosen))
                                   : box->count() - 1);
  box->setObjectName(QStringLiteral("stepSketch"));
  return box;
}

/// What extrude and hole share: a sketch whose closed areas or circles are picked, levels, and a
/// trial of the step before it is kept.
class SketchedTool : public ToolCard {
 protected:
  SketchedTool(Workplace place, const QString& title, project::Id step, project::Id sketch,
               const QString& name)
      : ToolCard(place, title, step != 0 ? QObject::tr("edit step") : QObject::tr("Build")),
        step_(step) {
    name_ = new QLineEdit(name);
    name_->setObjectName(QStringLiteral("stepName"));
    addRow(tr("name"), name_);
    sketch_ = sketch_box(document(), sketch);
    addRow(tr("profile"), sketch_);
    connect(sketch_, &QComboBox::currentIndexChanged, this, [this] {
      chosen_.clear();
      sketchChanged();
    });
  }
  virtual void sketchChanged() = 0;
  virtual void choose(sketch::Id entity) = 0;
  [[nodiscard]] const project::TracedSketch* traced() const {
    return document().find_sketch(sketch_->currentData().toULongLong());
  }
  void pick(const Pick& pick) override {
    if (traced() == nullptr) return;
    const sketch::Id id = sketch_item_at(place_.bench, place_.bench.camera(), traced()->base,
                                         traced()->level, traced()->sketch, pick.screen, false);
    if (id != 0) choose(id);
  }
  void draw() {
    if (traced() == nullptr) return;
    // The whole loop of a chosen entity is marked.
    std::set<sketch::Id> marked;
    for (const sketch::Loop& loop : sketch::find_loops(traced()->sketch)) {
      const bool on = std::any_of(loop.uses.begin(), loop.uses.end(),
                                  [&](const auto& use) { return chosen_.contains(use.entity); });
      for (const auto& use : loop.uses) {
        if (on) marked.insert(use.entity);
      }
    }
    place_.bench.setMarks(
        sketch_marks(traced()->base, traced()->level, {}, traced()->sketch, {}, marked, false, 1));
  }
  /// Tries the feature on what the Route gives before this step.
  Result<model::Solid> trial(const model::Feature& feature) const {
    model::Step step;
    step.id = step_ != 0 ? step_ : document().next_id;
    step.name = name_->text().toStdString();
    step.feature = feature;
    model::Solid before;
    const auto route = place_.session.route();
    for (std::size_t i = 0; i < document().steps.size() && i < route->steps.size(); ++i) {
      if (document().steps[i].id == step_) break;
      before = route->steps[i].solid;
    }
    return model::apply_feature(step, document().placed_sketches(), before);
  }
  bool commit(const model::Feature& feature, const std::vector<project::FieldReading>& readings) {
    const QString name = name_->text().trimmed();
    if (name.isEmpty()) {
      setError(tr("Give the step a name."));
      return false;
    }
    if (step_ != 0)
      return place_.session.apply(tr("edit step %1").arg(name),
                                  project::edit_step(document(), step_, feature, readings));
    place_.session.commit(
        tr("%1 %2").arg(QString::fromUtf8(model::feature_name(feature)), name),
        project::add_step(document(), feature, name.toStdString(), readings).document);
    return true;
  }
  /// The Ledger's value of a field while editing, so that a decision is not lost.
  [[nodiscard]] const project::Dimension* row(const char* field) const {
    for (const project::Dimension& d : document().dimensions) {
      if (step_ != 0 && d.owner.step == step_ && d.owner.field == field) return &d;
    }
    return nullptr;
  }
  /// Value typed beside what the scan says: typed away from the reading it is a decision.
  project::FieldReading field(const char* name, const QDoubleSpinBox* box,
                              std::optional<double> reading, double u,
                              const std::string& source) const {
    project::FieldReading f{name, reading, u, source, {}};
    const double shown = box->value();
    if (!reading || std::abs(*reading - shown) > 0.6 * std::pow(10.0, -box->decimals()))
      f.intent = shown;
    return f;
  }

  project::Id step_;
  QLineEdit* name_;
  QComboBox* sketch_;
  std::set<sketch::Id> chosen_;
};

/// Extrudes closed areas of a sketch between two levels read from the scan.
class ExtrudeTool : public SketchedTool {
 public:
  ExtrudeTool(Workplace place, project::Id step, bool cut)
      : SketchedTool(place, cut ? tr("Cut") : tr("Extrude"), step, sketch_of(place, step),
                     name_of(place, step)) {
    operation_ = new QComboBox;
    operation_->addItems({tr("add"), tr("cut")});
    operation_->setCurrentIndex(cut ? 1 : 0);
    addRow(tr("material"), operation_);
    through_ = new QCheckBox(tr("through everything"));
    addWide(through_);
    from_ = number(0, -1e5, 1e5, 0.1, 3, QStringLiteral("from"));
    to_ = number(10, -1e5, 1e5, 0.1, 3, QStringLiteral("to"));
    draft_ = number(0, -45, 45, 0.25, 3, QStringLiteral("draft"));
    addRow(tr("from, mm"), from_);
    addRow(tr("to, mm"), to_);
    addRow(tr("draft, \u00b0"), draft_);
    if (const model::Step* s = document().find_step(step)) {
      const auto& e = std::get<model::Extrude>(s->feature);
      chosen_.insert(e.loops.begin(), e.loops.end());
      operation_->setCurrentIndex(e.operation == model::Operation::Cut ? 1 : 0);
      through_->setChecked(e.extent.through);
    } else if (cut) {
      through_->setChecked(true);
    }
    const auto changed = [this] { preview(); };
    connect(operation_, &QComboBox::currentIndexChanged, this, changed);
    connect(through_, &QCheckBox::toggled, this, changed);
    for (auto* box : {from_, to_, draft_})
      connect(box, &QDoubleSpinBox::valueChanged, this, changed);
  }
  void begin() override {
    place_.bench.setSeeThrough(false);
    if (step_ == 0 && traced() != nullptr && chosen_.empty()) chooseLargest();
    read();
    if (step_ != 0) {  // decisions stand
      const model::Step* s = document().find_step(step_);
      const auto& e = std::get<model::Extrude>(s->feature);
      const QSignalBlocker b1(from_), b2(to_), b3(draft_);
      from_->setValue(e.extent.from.value);
      to_->setValue(e.extent.to.value);
      draft_->setValue(e.draft.value * kDegrees);
    }
    preview();
  }
  bool keep() override {
    std::vector<project::FieldReading> readings;
    if (!through_->isChecked()) {
      readings.push_back(field("from", from_, below_ ? std::optional(below_->level) : std::nullopt,
                               below_ ? below_->u : 0, "scan level below the section"));
      readings.push_back(field("to", to_, above_ ? std::optional(above_->level) : std::nullopt,
                               above_ ? above_->u : 0, "scan level above the section"));
    }
    if (taper_ || draft_->value() != 0)
      readings.push_back(field("draft", draft_,
                               taper_ ? std::optional(taper_->angle * kDegrees) : std::nullopt,
                               taper_ ? taper_->u * kDegrees : 0, "cone of the survey"));
    return commit(feature(), readings);
  }

 private:
  static project::Id sketch_of(Workplace place, project::Id step) {
    const model::Step* s = place.session.document().find_step(step);
    return s != nullptr ? std::get<model::Extrude>(s->feature).sketch : 0;
  }
  static QString name_of(Workplace place, project::Id step) {
    const model::Step* s = place.session.document().find_step(step);
    return s != nullptr ? QString::fromStdString(s->name)
                        : tr("body %1").arg(place.session.document().steps.size() + 1);
  }
  void chooseLargest() {
    const auto loops = sketch::find_loops(traced()->sketch);
    if (!loops.empty()) chosen_ = {loops.front().uses.front().entity};
  }
  void sketchChanged() override {
    if (traced() != nullptr) chooseLargest();
    read();
    preview();
  }
  void choose(sketch::Id entity) override {
    for (const sketch::Loop& loop : sketch::find_loops(traced()->sketch)) {
      const auto in_loop = [&](sketch::Id id) {
        return std::any_of(loop.uses.begin(), loop.uses.end(),
                           [&](const auto& use) { return use.entity == id; });
      };
      if (!in_loop(entity)) continue;
      const auto chosen = std::find_if(chosen_.begin(), chosen_.end(), in_loop);
      if (chosen != chosen_.end())
        chosen_.erase(chosen);
      else
        chosen_.insert(entity);
    }
    read();
    preview();
  }
  [[nodiscard]] std::vector<sketch::Id> loops() const { return {chosen_.begin(), chosen_.end()}; }
  void read() {
    below_.reset();
    above_.reset();
    taper_.reset();
    draw();
    if (traced() == nullptr || chosen_.empty()) return;
    const auto pair = project::suggest_extent(project::find_levels(document(), *traced(), loops()),
                                              traced()->level);
    below_ = pair.below;
    above_ = pair.above;
    taper_ = project::find_draft(document(), *traced(), loops());
    const QSignalBlocker b1(from_), b2(to_), b3(draft_);
    if (below_) from_->setValue(below_->level);
    if (above_) to_->setValue(above_->level);
    draft_->setValue(taper_ ? taper_->angle * kDegrees : 0);
  }
  [[nodiscard]] model::Extrude feature() const {
    model::Extrude e;
    e.sketch = traced() != nullptr ? traced()->id : 0;
    e.loops = loops();
    e.operation = operation_->currentIndex() == 1 ? model::Operation::Cut : model::Operation::Add;
    e.extent = {{from_->value(), 0}, {to_->value(), 0}, through_->isChecked()};
    e.draft.value = draft_->value() / kDegrees;
    return e;
  }
  void preview() {
    for (QWidget* w : {static_cast<QWidget*>(from_), static_cast<QWidget*>(to_)})
      w->setEnabled(!through_->isChecked());
    draw();
    setKeepEnabled(false);
    if (traced() == nullptr)
      return setError(tr("There is no sketch yet. Take a section in Trace first."));
    if (chosen_.empty()) return setEvidence(tr("Click an outline of the sketch."));
    const auto solid = trial(feature());
    if (!solid) return setError(QString::fromStdString(solid.error().message));
    const auto tessellation = model::tessellate(*solid, {0.2, 0.3});
    if (tessellation) {
      LineBatch edges{{}, role::red_pencil, 1.3F, true};
      for (const auto& line : tessellation->edges) {
        for (std::size_t i = 1; i < line.points.size(); ++i)
          edges.segments.emplace_back(line.points[i - 1], line.points[i]);
      }
      place_.bench.setMarks({edges});
    }
    QString text = tr("%1 cm\u00b3 after this step").arg(fixed(solid->volume() / 1000, 2));
    if (!through_->isChecked()) {
      text += below_ ? tr("\nscan below: %1")
                           .arg(QString::fromStdString(format_reading(below_->level, below_->u)))
                     : tr("\nno scan level below");
      text += above_ ? tr("\nscan above: %1")
                           .arg(QString::fromStdString(format_reading(above_->level, above_->u)))
                     : tr("\nno scan level above");
    }
    if (taper_)
      text += tr("\ntaper of the scan: %1\u00b0")
                  .arg(QString::fromStdString(
                      format_reading(taper_->angle * kDegrees, taper_->u * kDegrees)));
    setEvidence(text);
    setKeepEnabled(true);
  }

  QComboBox* operation_;
  QCheckBox* through_;
  QDoubleSpinBox* from_;
  QDoubleSpinBox* to_;
  QDoubleSpinBox* draft_;
  std::optional<project::Level> below_, above_;
  std::optional<project::DraftReading> taper_;
};

/// Drills circles of a sketch as one step with one diameter.
class HoleTool : public SketchedTool {
 public:
  HoleTool(Workplace place, project::Id step)
      : SketchedTool(place, tr("Hole"), step, sketch_of(place, step), name_of(place, step)) {
    diameter_ = number(10, 0.01, 1e4, 0.1, 3, QStringLiteral("diameter"));
    addRow(tr("\u2300, mm"), diameter_);
    if (const model::Step* s = document().find_step(step)) {
      const auto& h = std::get<model::Hole>(s->feature);
      chosen_.insert(h.circles.begin(), h.circles.end());
    }
    connect(diameter_, &QDoubleSpinBox::valueChanged, this, [this] { preview(); });
  }
  void begin() override {
    read();
    if (step_ != 0) {
      const QSignalBlocker block(diameter_);
      diameter_->setValue(
          std::get<model::Hole>(document().find_step(step_)->feature).diameter.value);
    }
    preview();
  }
  bool keep() override {
    return commit(feature(),
                  {field("diameter", diameter_, reading_, u_,
                         "circles of " + (traced() != nullptr ? traced()->name : std::string()))});
  }

 private:
  static project::Id sketch_of(Workplace place, project::Id step) {
    const model::Step* s = place.session.document().find_step(step);
    return s != nullptr ? std::get<model::Hole>(s->feature).sketch : 0;
  }
  static QString name_of(Workplace place, project::Id step) {
    const model::Step* s = place.session.document().find_step(step);
    return s != nullptr ? QString::fromStdString(s->name)
                        : tr("hole %1").arg(place.session.document().steps.size() + 1);
  }
  void sketchChanged() override {
    read();
    preview();
  }
  void choose(sketch::Id entity) override {
    if (traced()->sketch.find_entity(entity)->type == sketch::EntityType::Line)
      return setError(tr("A hole needs circles; this is a line."));
    if (chosen_.contains(entity))
      chosen_.erase(entity);
    else
      chosen_.insert(entity);
    read();
    preview();
  }
  void read() {
    reading_.reset();
    draw();
    if (traced() == nullptr || chosen_.empty()) return;
    // The circles share one diameter: equal ones are fitted together.
    sketch::Sketch s = traced()->sketch;
    const sketch::Id dimension = s.add_constraint(sketch::ConstraintType::Radius, *chosen_.begin());
    for (const sketch::Id id : chosen_) {
      if (id != *chosen_.begin())
        s.add_constraint(sketch::ConstraintType::Equal, *chosen_.begin(), id);
    }
    sketch::FitOptions options;
    options.hold_dimensions = false;
    const auto fit = sketch::fit_to_section(s, traced()->section, options);
    if (!fit) return;
    for (const auto& r : fit->readings) {
      if (r.constraint != dimension) continue;
      reading_ = 2 * r.value;
      u_ = 2 * r.u;
    }
    const QSignalBlocker block(diameter_);
    if (reading_) diameter_->setValue(*reading_);
  }
  [[nodiscard]] model::Hole feature() const {
    model::Hole h;
    h.sketch = traced() != nullptr ? traced()->id : 0;
    h.circles.assign(chosen_.begin(), chosen_.end());
    h.diameter.value = diameter_->value();
    return h;
  }
  void preview() {
    draw();
    setKeepEnabled(false);
    if (traced() == nullptr)
      return setError(tr("There is no sketch yet. Take a section in Trace first."));
    if (chosen_.empty()) return setEvidence(tr("Click the circles to drill."));
    const auto solid = trial(feature());
    if (!solid) return setError(QString::fromStdString(solid.error().message));
    setEvidence(
        tr("%1 circles, through everything").arg(chosen_.size()) +
        (reading_
             ? tr("\nscan: \u2300 %1").arg(QString::fromStdString(format_reading(*reading_, u_)))
             : QString()));
    setKeepEnabled(true);
  }
  QDoubleSpinBox* diameter_;
  std::optional<double> reading_;
  double u_ = 0;
};

/// Rounds edges of the model with a constant radius that the scan suggests.
class FilletTool : public ToolCard {
 public:
  FilletTool(Workplace place, project::Id step)
      : ToolCard(place, tr("Fillet"), step != 0 ? tr("edit step") : tr("Build")), step_(step) {
    name_ = new QLineEdit(tr("fillet %1").arg(document().steps.size() + 1));
    name_->setObjectName(QStringLiteral("stepName"));
    addRow(tr("name"), name_);
    radius_ = number(2, 0.01, 1000, 0.5, 3, QStringLiteral("radius"));
    addRow(tr("R, mm"), radius_);
    if (const model::Step* s = document().find_step(step)) {
      name_->setText(QString::fromStdString(s->name));
      const auto& f = std::get<model::Fillet>(s->feature);
      edges_ = f.edges;
      radius_->setValue(f.radius.value);
    }
    connect(radius_, &QDoubleSpinBox::valueChanged, this, [this] { preview(); });
    preview();
  }
  void begin() override { place_.bench.setShow(Show::Model), preview(); }
  void pick(const Pick& pick) override {
    if (!pick.edge) return setEvidence(tr("Click an edge of the model."));
    const model::EdgeRef ref = place_.session.route()->solid.ref_of_edge(*pick.edge, pick.point);
    const auto same = std::find_if(edges_.begin(), edges_.end(), [&](const auto& e) {
      return e.face_a == ref.face_a && e.face_b == ref.face_b &&
             before().find_edge(e) == before().find_edge(ref);
    });
    if (same != edges_.end())
      edges_.erase(same);
    else
      edges_.push_back(ref);
    readRadius(*pick.edge);
    preview();
  }
  bool keep() override {
    const std::string name = name_->text().trimmed().toStdString();
    project::FieldReading f{"radius", reading_, u_, "scan beside the edge", {}};
    if (!reading_ || std::abs(*reading_ - radius_->value()) > 6e-4) f.intent = radius_->value();
    model::Fillet feature{edges_, {radius_->value(), 0}};
    place_.bench.setShow(Show::Both);
    if (step_ != 0)
      return place_.session.apply(tr("edit step %1").arg(name_->text()),
                                  project::edit_step(document(), step_, feature, {f}));
    place_.session.commit(tr("fillet %1").arg(name_->text()),
                          project::add_step(document(), feature, name, {f}).document);
    return true;
  }

 private:
  [[nodiscard]] model::Solid before() const {
    const auto route = place_.session.route();
    model::Solid solid;
    for (std::size_t i = 0; i < document().steps.size() && i < route->steps.size(); ++i) {
      if (document().steps[i].id == step_) break;
      solid = route->steps[i].solid;
    }
    return solid;
  }
  void readRadius(std::size_t edge) {
    // The scan's own surfaces on either side of the edge: the nearest regions with a fit there.
    if (!document().survey) return;
    std::vector<Vec3> along;
    for (const auto& line : place_.session.route()->tessellation->edges) {
      if (line.edge == edge) along = line.points;
    }
    if (along.empty()) return;
    std::vector<std::pair<double, const survey::Region*>> near;
    for (const survey::Region& r : document().survey->regions) {
      if (!r.fit) continue;
      const fit::Surface s = fit::transformed(r.fit->surface, document().to_part());
      double worst = 0;
      for (const Vec3& p : along) worst = std::max(worst, std::abs(s.distance(p)));
      near.emplace_back(worst - 1e-4 * r.area, &r);
    }
    std::sort(near.begin(), near.end(),
              [](const auto& a, const auto& b) { return a.first < b.first; });
    if (near.size() < 2 || near[1].first > 1.5) return;
    const auto found = project::find_fillet_radius(
        document(), fit::transformed(near[0].second->fit->surface, document().to_part()),
        fit::transformed(near[1].second->fit->surface, document().to_part()), along);
    if (!found) return;
    reading_ = found->radius;
    u_ = found->u;
    const QSignalBlocker block(radius_);
    radius_->setValue(found->radius);
  }
  void preview() {
    setKeepEnabled(false);
    if (edges_.empty()) return setEvidence(tr("Click an edge of the model."));
    model::Step step;
    step.id = step_ != 0 ? step_ : document().next_id;
    step.name = name_->text().toStdString();
    step.feature = model::Fillet{edges_, {radius_->value(), 0}};
    const auto solid = model::apply_feature(step, {}, before());
    if (!solid) return setError(QString::fromStdString(solid.error().message));
    const auto tessellation = model::tessellate(*solid, {0.2, 0.3});
    LineBatch marks{{}, role::red_pencil, 1.3F, true};
    if (tessellation) {
      for (const auto& line : tessellation->edges) {
        for (std::size_t i = 1; i < line.points.size(); ++i)
          marks.segments.emplace_back(line.points[i - 1], line.points[i]);
      }
    }
    place_.bench.setMarks({marks});
    setEvidence(tr("%1 edges").arg(edges_.size()) +
                (reading_
                     ? tr("\nscan: R %1").arg(QString::fromStdString(format_reading(*reading_, u_)))
                     : tr("\nthe scan gives no radius here")));
    setKeepEnabled(true);
  }
  project::Id step_;
  QLineEdit* name_;
  QDoubleSpinBox* radius_;
  std::vector<model::EdgeRef> edges_;
  std::optional<double> reading_;
  double u_ = 0;
};

}  // namespace

ToolCard* make_extrude_tool(Workplace place, project::Id step, bool cut) {
  return new ExtrudeTool(place, step, cut);
}
ToolCard* make_hole_tool(Workplace place, project::Id step) { return new HoleTool(place, step); }
ToolCard* make_fillet_tool(Workplace place, project::Id step) {
  return new FilletTool(place, step);
}

}  // namespace lostline::app
