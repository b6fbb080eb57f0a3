#include <QCheckBox>
#include <numbers>

#include "project/evidence.h"
#include "tools/step_tool.h"

namespace lostline::app {
namespace {

constexpr double kDegrees = 180 / std::numbers::pi;

/// Extrudes closed areas of a sketch between two levels read from the scan.
class ExtrudeTool : public SketchedTool {
 public:
  ExtrudeTool(Workplace place, project::Id step, bool cut)
      : SketchedTool(place, cut ? tr("Cut") : tr("Extrude"), step, sketch_of(place, step),
                     tr("body %1").arg(place.session.document().steps.size() + 1)) {
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
    if (const model::Step* s = editedStep()) {
      const auto& e = std::get<model::Extrude>(s->feature);
      chosen_.insert(e.loops.begin(), e.loops.end());
      operation_->setCurrentIndex(e.operation == model::Operation::Cut ? 1 : 0);
      through_->setChecked(e.extent.reach == model::Reach::Through);
      from_->setValue(e.extent.from.value);
      to_->setValue(e.extent.to.value);
      draft_->setValue(e.draft.value * kDegrees);
    } else if (cut) {
      through_->setChecked(true);
    }
    const auto changed = [this] { update(false); };
    connect(operation_, &QComboBox::currentIndexChanged, this, changed);
    connect(through_, &QCheckBox::toggled, this, changed);
    for (auto* box : {from_, to_, draft_})
      connect(box, &QDoubleSpinBox::valueChanged, this, changed);
  }
  void begin() override {
    place_.bench.setSeeThrough(false);
    if (step_ == 0 && traced() != nullptr && chosen_.empty()) chooseLargest();
    update(true, step_ != 0);  // decisions stand
  }
  bool keep() override {
    std::vector<project::FieldReading> readings;
    if (!through_->isChecked()) {
      const auto level = [](const std::optional<project::Level>& l) {
        return l ? std::optional(l->level) : std::nullopt;
      };
      readings.push_back(field("from", from_, level(evidence_.extent.below),
                               evidence_.extent.below ? evidence_.extent.below->u : 0,
                               "scan level below the section"));
      readings.push_back(field("to", to_, level(evidence_.extent.above),
                               evidence_.extent.above ? evidence_.extent.above->u : 0,
                               "scan level above the section"));
    }
    const auto& taper = evidence_.taper;
    if (taper || draft_->value() != 0)
      readings.push_back(field("draft", draft_,
                               taper ? std::optional(taper->angle * kDegrees) : std::nullopt,
                               taper ? taper->u * kDegrees : 0, "cone of the survey"));
    commit(feature(), readings);
    return false;
  }

 private:
  /// What the scan says about the profile.
  struct Evidence {
    project::LevelPair extent;
    std::optional<project::DraftReading> taper;
  };
  static project::Id sketch_of(Workplace place, project::Id step) {
    const model::Step* s = place.session.document().find_step(step);
    return s != nullptr ? std::get<model::Extrude>(s->feature).sketch : 0;
  }
  void chooseLargest() {
    const auto loops = sketch::find_loops(traced()->sketch);
    if (!loops.empty()) chosen_ = {loops.front().uses.front().entity};
  }
  void sketchChanged() override {
    if (traced() != nullptr) chooseLargest();
    update(true);
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
    update(true);
  }
  [[nodiscard]] model::Extrude feature() const {
    model::Extrude e;
    e.sketch = traced() != nullptr ? traced()->id : 0;
    e.loops = {chosen_.begin(), chosen_.end()};
    e.operation = operation_->currentIndex() == 1 ? model::Operation::Cut : model::Operation::Add;
    e.extent.reach = through_->isChecked() ? model::Reach::Through : model::Reach::Levels;
    e.extent.from.value = from_->value();
    e.extent.to.value = to_->value();
    e.draft.value = draft_->value() / kDegrees;
    return e;
  }
  /// Reads the scan when asked to, takes its values unless they are kept, and tries the step.
  void update(bool read, bool keep_values = false) {
    for (QWidget* w : {static_cast<QWidget*>(from_), static_cast<QWidget*>(to_)})
      w->setEnabled(!through_->isChecked());
    draw();
    setKeepEnabled(false);
    if (traced() == nullptr)
      return setError(tr("There is no sketch yet. Take a section in Trace first."));
    if (chosen_.empty()) return setEvidence(tr("Click an outline of the sketch."));
    aside([this, read, keep_values, ground = ground(), feature = feature(),
           evidence = evidence_](const Task&) mutable -> Session::Finish {
      if (read) {
        const project::TracedSketch& traced = *ground.document->find_sketch(feature.sketch);
        evidence.extent = project::suggest_extent(
            project::find_levels(*ground.document, traced, feature.loops), traced.level);
        evidence.taper = project::find_draft(*ground.document, traced, feature.loops);
        if (!keep_values) {
          if (evidence.extent.below) feature.extent.from.value = evidence.extent.below->level;
          if (evidence.extent.above) feature.extent.to.value = evidence.extent.above->level;
          feature.draft.value = evidence.taper ? evidence.taper->angle : 0;
        }
      }
      return [this, feature, evidence, trial = ground.attempt(feature)] {
        evidence_ = evidence;
        const QSignalBlocker b1(from_), b2(to_), b3(draft_);
        from_->setValue(feature.extent.from.value);
        to_->setValue(feature.extent.to.value);
        draft_->setValue(feature.draft.value * kDegrees);
        if (showTrial(trial)) describe(*trial.solid);
      };
    });
  }
  void describe(const model::Solid& solid) {
    QString text = tr("%1 cm\u00b3 after this step")
                       .arg(QString::fromStdString(format_fixed(solid.volume() / 1000, 2)));
    if (!through_->isChecked()) {
      const auto& [below, above] = evidence_.extent;
      text += below ? tr("\nscan below: %1")
                          .arg(QString::fromStdString(format_reading(below->level, below->u)))
                    : tr("\nno scan level below");
      text += above ? tr("\nscan above: %1")
                          .arg(QString::fromStdString(format_reading(above->level, above->u)))
                    : tr("\nno scan level above");
    }
    if (evidence_.taper)
      text += tr("\ntaper of the scan: %1\u00b0")
                  .arg(QString::fromStdString(format_reading(evidence_.taper->angle * kDegrees,
                                                             evidence_.taper->u * kDegrees)));
    setEvidence(text);
  }

  QComboBox* operation_;
  QCheckBox* through_;
  QDoubleSpinBox* from_;
  QDoubleSpinBox* to_;
  QDoubleSpinBox* draft_;
  Evidence evidence_;
};

}  // namespace

ToolCard* make_extrude_tool(Workplace place, project::Id step, bool cut) {
  return new ExtrudeTool(place, step, cut);
}

}  // namespace lostline::app
