#include "look/preferences.h"
#include "model/steps/hole/hole.h"
#include "reading/evidence.h"
#include "sketch/curve_kind.h"
#include "tools/build/step_tool.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Drills circles of a sketch as one step with one diameter.
class HoleTool : public SketchedTool {
 public:
  HoleTool(Workplace place, project::Id step)
      : SketchedTool(place, tr("Hole"), step, sketch_of(place, step),
                     tr("hole %1").arg(place.session.document().steps.size() + 1)) {
    diameter_ = length(10, 0.01, 1e4, 0.1, 3, QStringLiteral("diameter"));
    addRow(in_unit(tr("\u2300, mm")), diameter_);
    if (const model::Step* s = editedStep()) {
      const auto& h = *s->feature.as<model::Hole>();
      chosen_.insert(h.circles.begin(), h.circles.end());
      diameter_->setValue(h.diameter.value);
    }
    const model::Step* edited = editedStep();
    addBodyChoice(edited != nullptr ? edited->feature.as<model::Hole>()->bodies
                                    : std::vector<std::string>());
    connect(diameter_, &QDoubleSpinBox::valueChanged, this, [this] { update(false); });
  }
  void begin() override { update(true, step_ != 0); }
  bool keep() override {
    if (traced() == nullptr) return false;
    commit(feature(), {field("diameter", diameter_,
                             reading_ ? std::optional(reading_->diameter) : std::nullopt,
                             reading_ ? reading_->u : 0, "circles of " + traced()->name)});
    return false;
  }

 private:
  static project::Id sketch_of(Workplace place, project::Id step) {
    const model::Step* s = place.session.document().find_step(step);
    return s != nullptr ? s->feature.as<model::Hole>()->sketch : 0;
  }
  std::vector<Grip> grips() override {
    if (traced() == nullptr || chosen_.empty()) return {};
    const sketch::Entity* e = traced()->sketch.find_entity(*chosen_.begin());
    if (e == nullptr) return {};
    const Placement& base = traced()->base;
    const Vec2 rim = traced()->sketch.position(e->centre) + Vec2(diameter_->value() / 2, 0);
    return {{diameter_, base.to_space(rim, traced()->level), base.x, 2,
             reading_ ? std::optional(reading_->diameter) : std::nullopt}};
  }
  void bodiesChosen() override { update(false); }
  void tryAgain() override { update(false); }
  void sketchChanged() override { update(true); }
  void choose(sketch::Id entity) override {
    if (!sketch::has_radius(traced()->sketch.find_entity(entity)))
      return setError(tr("A hole needs circles; this is %1.")
                          .arg(QString::fromStdString(sketch::name_of(traced()->sketch, entity))));
    if (chosen_.contains(entity))
      chosen_.erase(entity);
    else
      chosen_.insert(entity);
    update(true);
  }
  [[nodiscard]] model::Hole feature() const {
    model::Hole h;
    // How deep it goes is not this card's: what the step has stays.
    if (const model::Step* edited = editedStep())
      h.extent = edited->feature.as<model::Hole>()->extent;
    h.bodies = bodies();
    h.sketch = traced() != nullptr ? traced()->id : 0;
    h.circles.assign(chosen_.begin(), chosen_.end());
    h.diameter.value = diameter_->value();
    return h;
  }
  /// Reads the circles when asked to, takes their diameter unless it is kept, and tries the step.
  void update(bool read, bool keep_value = false) {
    draw();
    setKeepEnabled(false);
    if (traced() == nullptr)
      return setError(tr("There is no sketch yet. Take a section in Trace first."));
    if (chosen_.empty()) return setEvidence(tr("Click the circles to drill."));
    aside([this, read, keep_value, ground = ground(), feature = feature(),
           reading = reading_](const Task&) mutable -> Session::Finish {
      if (read) {
        reading =
            reading::read_diameter(*ground.document->find_sketch(feature.sketch), feature.circles);
        if (reading && !keep_value) feature.diameter.value = reading->diameter;
      }
      return [this, feature, reading, trial = ground.attempt(feature)] {
        reading_ = reading;
        const QSignalBlocker block(diameter_);
        diameter_->setValue(feature.diameter.value);
        if (!showTrial(trial)) return;
        setEvidence(tr("%1 circles, through everything").arg(chosen_.size()) +
                    (reading_ ? tr("\nscan: \u2300 %1")
                                    .arg(QString::fromStdString(
                                        length_reading(reading_->diameter, reading_->u)))
                              : QString()));
      };
    });
  }
  QDoubleSpinBox* diameter_;
  std::optional<reading::DiameterReading> reading_;
};

}  // namespace

Tool hole_tool() {
  Tool tool = step_tool(
      model::Hole::kind, Tool::Needs::Model,
      [](Workplace place, project::Id step) -> ToolCard* { return new HoleTool(place, step); });
  tool.takes = {Item::Kind::Sketch};
  return tool;
}

}  // namespace lostline::app
