#include <QCheckBox>

#include "model/steps/revolve/revolve.h"
#include "sketch/curve_kind.h"
#include "tools/build/step_tool.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Turns closed areas of a sketch about a line of it.
class RevolveTool : public SketchedTool {
 public:
  RevolveTool(Workplace place, project::Id step)
      : SketchedTool(place, tr("Revolve"), step, sketch_of(place, step),
                     tr("turned %1").arg(place.session.document().steps.size() + 1)) {
    axis_ = new QComboBox;
    axis_->setObjectName(QStringLiteral("revolveAxis"));
    axis_->addItem(tr("upright through origin"), sketch::kYAxis);
    axis_->addItem(tr("level through origin"), sketch::kXAxis);
    axis_->addItem(tr("click a line"), 0U);
    axis_->setToolTip(tr("What the areas are turned about"));
    addRow(tr("axis"), axis_);
    operation_ = new QComboBox;
    operation_->addItems({tr("add"), tr("cut"), tr("keep in common"), tr("new body")});
    operation_->setObjectName(QStringLiteral("operation"));
    addRow(tr("material"), operation_);
    addSurfaceChoice();
    const model::Step* edited = editedStep();
    addBodyChoice(edited != nullptr ? edited->feature.as<model::Revolve>()->bodies
                                    : std::vector<std::string>());
    angle_ = number(360, 0.01, 360, 5, 3, QStringLiteral("angle"));
    addRow(tr("angle, \u00b0"), angle_);
    both_ = new QCheckBox(tr("half to either side of the sketch"));
    addWide(both_);
    if (const model::Step* s = editedStep()) {
      const auto& r = *s->feature.as<model::Revolve>();
      chosen_.insert(r.loops.begin(), r.loops.end());
      areas_ = r.areas;
      line_ = r.axis;
      axis_->setCurrentIndex(std::max(0, axis_->findData(r.axis)));
      if (r.axis != sketch::kXAxis && r.axis != sketch::kYAxis) axis_->setCurrentIndex(2);
      operation_->setCurrentIndex(static_cast<int>(r.operation));
      surface_->setChecked(r.surface);
      angle_->setValue(r.angle.value * kDegrees);
      both_->setChecked(r.both_ways);
    }
    connect(axis_, &QComboBox::activated, this, [this] {
      line_ = axis_->currentData().toUInt();
      update();
    });
    connect(surface_, &QCheckBox::toggled, this, [this] { surfaceToggled(); });
    connect(operation_, &QComboBox::currentIndexChanged, this, [this] { update(); });
    connect(angle_, &QDoubleSpinBox::valueChanged, this, [this] { update(); });
    connect(both_, &QCheckBox::toggled, this, [this] { update(); });
  }
  void begin() override {
    place_.bench.setSeeThrough(false);
    if (step_ == 0) sketchChanged();
    update();
  }
  bool keep() override {
    commit(feature(), {project::FieldReading{"angle", {}, 0, "typed", angle_->value()}});
    return false;
  }

 private:
  static project::Id sketch_of(Workplace place, project::Id step) {
    const model::Step* s = place.session.document().find_step(step);
    return s != nullptr ? s->feature.as<model::Revolve>()->sketch : 0;
  }
  /// The angle at the middle of the profile where it ends, square to its plane there.
  std::vector<Grip> grips() override {
    if (traced() == nullptr || line_ == 0) return {};
    Eigen::AlignedBox2d box;
    for (const sketch::Loop& loop : loops()) {
      if (areas_.empty() && std::none_of(chosen_.begin(), chosen_.end(),
                                         [&](sketch::Id id) { return loop.uses_entity(id); }))
        continue;
      for (const auto& use : loop.uses) {
        for (const Vec2& p :
             sketch::placed(traced()->sketch, *traced()->sketch.find_entity(use.entity))->chords())
          box.extend(p);
      }
    }
    if (box.isEmpty()) return {};
    Vec2 foot = Vec2::Zero();
    Vec2 along = line_ == sketch::kXAxis ? Vec2::UnitX() : Vec2::UnitY();
    if (const sketch::Entity* line = traced()->sketch.find_entity(line_)) {
      foot = traced()->sketch.position(line->a);
      along = (traced()->sketch.position(line->b) - foot).normalized();
    }
    const Placement& base = traced()->base;
    const Vec3 centre = base.to_space(foot, traced()->level);
    const Vec3 axis = along.x() * base.x + along.y() * base.y;
    const double turned = angle_->value() / kDegrees / (both_->isChecked() ? 2 : 1);
    const Vec3 arm = Eigen::AngleAxisd(turned, axis) *
                     (base.to_space(Vec2(box.center()), traced()->level) - centre);
    const Vec3 tangent = axis.cross(arm);
    if (!(tangent.norm() > 1e-6)) return {};
    return {{angle_,
             centre + arm,
             tangent.normalized(),
             kDegrees * (both_->isChecked() ? 2 : 1) / tangent.norm(),
             {},
             standards::Quantity::Angle}};
  }
  void tryAgain() override { update(); }
  void sketchChanged() override {
    if (traced() == nullptr) return;
    const auto all = loops();
    if (!all.empty()) chosen_ = {all.front().uses.front().entity};
    update();
  }
  void bodiesChosen() override { update(); }
  void areasChanged() override { update(); }
  void surfaceToggled() override { sketchChanged(); }
  void choose(sketch::Id entity) override {
    const sketch::Entity& e = *traced()->sketch.find_entity(entity);
    if (axis_->currentIndex() == 2 && line_ == 0 && sketch::is_straight(&e)) {
      line_ = entity;
      return update();
    }
    areas_.clear();
    for (const sketch::Loop& loop : loops()) {
      if (!loop.uses_entity(entity)) continue;
      const auto chosen = std::find_if(chosen_.begin(), chosen_.end(),
                                       [&](sketch::Id id) { return loop.uses_entity(id); });
      if (chosen != chosen_.end())
        chosen_.erase(chosen);
      else
        chosen_.insert(entity);
    }
    update();
  }
  [[nodiscard]] model::Revolve feature() const {
    model::Revolve r;
    r.sketch = traced() != nullptr ? traced()->id : 0;
    r.loops = {chosen_.begin(), chosen_.end()};
    r.areas = areas_;
    r.axis = line_;
    r.operation = static_cast<model::Operation>(operation_->currentIndex());
    r.bodies = bodies();
    r.surface = surface_->isChecked();
    r.angle.value = angle_->value() / kDegrees;
    r.both_ways = both_->isChecked();
    return r;
  }
  void update() {
    draw();
    setKeepEnabled(false);
    if (traced() == nullptr)
      return setError(tr("There is no sketch yet. Take a section in Trace first."));
    if (line_ > sketch::kYAxis && traced()->sketch.find_entity(line_) == nullptr) line_ = 0;
    if (line_ == 0) return setEvidence(tr("Click the line that is the axis."));
    if (chosen_.empty() && areas_.empty())
      return setEvidence(tr("Click an outline of the sketch, or inside an area."));
    aside([this, ground = ground(), feature = feature()](const Task& task) -> Session::Finish {
      return [this, trial = ground.attempt(feature, task)] {
        if (!showTrial(trial)) return;
        setEvidence(
            tr("%1 cm\u00b3 after this step")
                .arg(QString::fromStdString(format_fixed(trial.solid->volume() / 1000, 2))));
      };
    });
  }
  QComboBox* axis_;
  QComboBox* operation_;
  QDoubleSpinBox* angle_;
  QCheckBox* both_;
  sketch::Id line_ = sketch::kYAxis;
};

}  // namespace

Tool revolve_tool() {
  return step_tool(
      model::Revolve::kind, Tool::Needs::Sketch,
      [](Workplace place, project::Id step) -> ToolCard* { return new RevolveTool(place, step); });
}

}  // namespace lostline::app
