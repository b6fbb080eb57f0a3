
#include "bench/sketch_marks.h"
#include "look/preferences.h"
#include "model/steps/extrude/extrude.h"
#include "reading/evidence.h"
#include "reading/twist.h"
#include "sketch/curve_kind.h"
#include "tools/build/step_tool.h"
#include "tools/reference_field.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Extrudes closed areas of a sketch: between two levels read from the scan, evenly about a middle,
/// up to a surface, or through everything.
class ExtrudeTool : public SketchedTool {
 public:
  ExtrudeTool(Workplace place, project::Id step, bool cut)
      : SketchedTool(place, cut ? tr("Cut") : tr("Extrude"), step, sketch_of(place, step),
                     tr("body %1").arg(place.session.document().steps.size() + 1)) {
    operation_ = new QComboBox;
    operation_->addItems({tr("add"), tr("cut"), tr("keep in common"), tr("new body")});
    operation_->setObjectName(QStringLiteral("operation"));
    operation_->setCurrentIndex(cut ? 1 : 0);
    addRow(tr("material"), operation_);
    addSurfaceChoice();
    const model::Step* edited = editedStep();
    addBodyChoice(edited != nullptr ? edited->feature.as<model::Extrude>()->bodies
                                    : std::vector<std::string>());
    reach_ = new QComboBox;
    reach_->addItems({tr("from level to level"), tr("even about a middle"), tr("up to a surface"),
                      tr("through")});
    reach_->setObjectName(QStringLiteral("reach"));
    addRow(tr("reach"), reach_);
    const auto level = [&](const QString& label, const QString& name, double value) {
      auto* box = length(value, -1e5, 1e5, 0.1, 3, name);
      labels_.push_back(addRow(label, box));
      boxes_.push_back(box);
      return box;
    };
    from_ = level(in_unit(tr("from, mm")), QStringLiteral("from"), 0);
    to_ = level(in_unit(tr("to, mm")), QStringLiteral("to"), 10);
    middle_ = level(in_unit(tr("middle, mm")), QStringLiteral("middle"), 0);
    thickness_ = level(in_unit(tr("thickness, mm")), QStringLiteral("thickness"), 10);
    target_ = new ReferenceField(ReferenceField::Wants::Surface, QStringLiteral("target"));
    target_label_ = addRow(tr("up to"), target_);
    draft_ = number(0, -45, 45, 0.25, 3, QStringLiteral("draft"));
    addRow(tr("draft, \u00b0"), draft_);
    twist_ = number(0, -7200, 7200, 1, 3, QStringLiteral("twist"));
    twist_->setToolTip(tr("By which the profile turns on its way, about the axis below"));
    addRow(tr("twist, \u00b0"), twist_);
    about_ = new ReferenceField(ReferenceField::Wants::Axis, QStringLiteral("about"));
    about_label_ = addRow(tr("about"), about_);
    addButtons({{tr("read the twist"), QStringLiteral("readTwist"),
                 tr("The scan's walls tell how the profile turns, and by how much"),
                 [this] { readTwist(); }}});
    if (const model::Step* s = editedStep()) {
      const auto& e = *s->feature.as<model::Extrude>();
      chosen_.insert(e.loops.begin(), e.loops.end());
      areas_ = e.areas;
      operation_->setCurrentIndex(static_cast<int>(e.operation));
      surface_->setChecked(e.surface);
      reach_->setCurrentIndex(static_cast<int>(e.extent.reach));
      from_->setValue(e.extent.from.value);
      to_->setValue(e.extent.to.value);
      middle_->setValue(e.extent.middle.value);
      thickness_->setValue(e.extent.thickness.value);
      target_->assign(e.extent.target, document());
      draft_->setValue(e.draft.value * kDegrees);
      twist_->setValue(e.twist.value * kDegrees);
      about_->assign(e.about, document());
    } else if (cut) {
      reach_->setCurrentIndex(static_cast<int>(model::Reach::Through));
    }
    const auto changed = [this] { update(false); };
    connect(surface_, &QCheckBox::toggled, this, [this] { surfaceToggled(); });
    connect(operation_, &QComboBox::currentIndexChanged, this, changed);
    connect(reach_, &QComboBox::currentIndexChanged, this, changed);
    connect(target_, &ReferenceField::referenceChanged, this, changed);
    connect(about_, &ReferenceField::referenceChanged, this, changed);
    for (auto* box : {from_, to_, middle_, thickness_, draft_, twist_})
      connect(box, &QDoubleSpinBox::valueChanged, this, changed);
  }
  void begin() override {
    place_.bench.setSeeThrough(false);
    if (step_ == 0 && traced() != nullptr && chosen_.empty() && areas_.empty()) chooseLargest();
    update(true, step_ != 0);  // decisions stand
  }
  bool keep() override {
    std::vector<project::FieldReading> readings;
    const auto& [below, above] = evidence_.extent;
    const auto level = [](const std::optional<reading::Level>& l) {
      return l ? std::optional(l->level) : std::nullopt;
    };
    if (reach() == model::Reach::Levels || reach() == model::Reach::UpTo)
      readings.push_back(
          field("from", from_, level(below), below ? below->u : 0, "scan level below the section"));
    if (reach() == model::Reach::Levels)
      readings.push_back(
          field("to", to_, level(above), above ? above->u : 0, "scan level above the section"));
    if (reach() == model::Reach::Symmetric) {
      const bool known = below && above;
      const double u = known ? std::hypot(below->u, above->u) : 0;
      readings.push_back(
          field("middle", middle_,
                known ? std::optional((below->level + above->level) / 2) : std::nullopt, u / 2,
                "between the scan levels beside the section"));
      readings.push_back(field("thickness", thickness_,
                               known ? std::optional(above->level - below->level) : std::nullopt, u,
                               "between the scan levels beside the section"));
    }
    const auto& taper = evidence_.taper;
    if (taper || draft_->value() != 0)
      readings.push_back(field("draft", draft_,
                               taper ? std::optional(taper->angle * kDegrees) : std::nullopt,
                               taper ? taper->u * kDegrees : 0, "cone of the survey"));
    const model::Step* edited = editedStep();
    if (twist_->value() != 0 ||
        (edited != nullptr && edited->feature.as<model::Extrude>()->twist.value != 0))
      readings.push_back(
          field("twist", twist_,
                evidence_.twist ? std::optional(evidence_.twist->angle * kDegrees) : std::nullopt,
                evidence_.twist ? evidence_.twist->u * kDegrees : 0, "walls of the scan"));
    commit(feature(), readings);
    return false;
  }

 private:
  /// What the scan says about the profile.
  struct Evidence {
    reading::LevelPair extent;
    std::optional<reading::DraftReading> taper;
    std::optional<reading::TwistReading> twist;  ///< once it was asked for
  };
  static project::Id sketch_of(Workplace place, project::Id step) {
    const model::Step* s = place.session.document().find_step(step);
    return s != nullptr ? s->feature.as<model::Extrude>()->sketch : 0;
  }
  [[nodiscard]] model::Reach reach() const {
    return static_cast<model::Reach>(reach_->currentIndex());
  }
  std::vector<Grip> grips() override {
    if (traced() == nullptr || reach() == model::Reach::Through) return {};
    Eigen::AlignedBox2d box;
    for (const sketch::Loop& loop : loops()) {
      const bool taken = std::any_of(loop.uses.begin(), loop.uses.end(),
                                     [&](const auto& use) { return chosen_.contains(use.entity); });
      for (const auto& use : loop.uses) {
        if (!taken && areas_.empty()) continue;
        for (const Vec2& p :
             sketch::placed(traced()->sketch, *traced()->sketch.find_entity(use.entity))->chords())
          box.extend(p);
      }
    }
    if (box.isEmpty()) return {};
    const Placement& base = traced()->base;
    const auto at = [&](double level) { return base.to_space(Vec2(box.center()), level); };
    const auto level = [](const std::optional<reading::Level>& l) {
      return l ? std::optional(l->level) : std::nullopt;
    };
    if (reach() == model::Reach::Symmetric)
      return {{thickness_, at(middle_->value() + thickness_->value() / 2), base.normal, 2}};
    std::vector<Grip> grips{
        {from_, at(from_->value()), base.normal, 1, level(evidence_.extent.below)}};
    if (reach() == model::Reach::Levels)
      grips.push_back({to_, at(to_->value()), base.normal, 1, level(evidence_.extent.above)});
    // The draft at the edge of the end face: outwards by as much as the wall leans over its height.
    const double height = to_->value() - traced()->level;
    if (reach() == model::Reach::Levels && std::abs(height) > 1e-3) {
      const Vec2 rim(box.max().x() + std::tan(draft_->value() / kDegrees) * -height,
                     box.center().y());
      const auto& taper = evidence_.taper;
      grips.push_back({draft_, base.to_space(rim, to_->value()), base.x, -kDegrees / height,
                       taper ? std::optional(taper->angle * kDegrees) : std::nullopt,
                       standards::Quantity::Angle});
    }
    return grips;
  }
  void pick(const Pick& pick) override {
    // A line of the sketch under the pointer goes before the surface behind it.
    if (reach() == model::Reach::UpTo && traced() != nullptr &&
        sketch_item_at(place_.bench, place_.bench.camera(), traced()->base, traced()->level,
                       traced()->sketch, pick.screen, false) == 0 &&
        target_->offer(pick, ground().before, document()))
      return;
    SketchedTool::pick(pick);
  }
  void pickRef(const project::FitRef& ref) override {
    if (about_->waiting() && about_->offer(ref, document())) return;
    if (reach() == model::Reach::UpTo) target_->offer(ref, document());
  }
  void chooseLargest() {
    const auto all = loops();
    if (!all.empty()) chosen_ = {all.front().uses.front().entity};
  }
  void tryAgain() override { update(false); }
  void sketchChanged() override {
    if (traced() != nullptr) chooseLargest();
    update(true);
  }
  void bodiesChosen() override { update(false); }
  void areasChanged() override { update(true); }
  void surfaceToggled() override {
    chosen_.clear();
    areas_.clear();
    if (traced() != nullptr) chooseLargest();
    update(false);
  }
  void choose(sketch::Id entity) override {
    areas_.clear();
    for (const sketch::Loop& loop : loops()) {
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
    e.areas = areas_;
    e.operation = static_cast<model::Operation>(operation_->currentIndex());
    e.bodies = bodies();
    e.surface = surface_->isChecked();
    e.extent.reach = reach();
    e.extent.from.value = from_->value();
    e.extent.to.value = to_->value();
    e.extent.middle.value = middle_->value();
    e.extent.thickness.value = thickness_->value();
    e.extent.target = target_->reference();
    e.draft.value = draft_->value() / kDegrees;
    e.twist.value = twist_->value() / kDegrees;
    e.about = about_->reference();
    return e;
  }
  /// Asks the scan's walls how the profile turns between the levels.
  void readTwist() {
    if (traced() == nullptr || reach() == model::Reach::Through || reach() == model::Reach::UpTo)
      return setError(tr("A twist is read between two levels."));
    setKeepEnabled(false);
    setEvidence(tr("following the walls \u2026"));
    aside([this, ground = ground(), feature = feature()](const Task& task) -> Session::Finish {
      const project::TracedSketch& traced = *ground.document->find_sketch(feature.sketch);
      Vec2 about = Vec2::Zero();
      if (!feature.about.empty()) {
        const auto axis = model::resolve(feature.about, ground.before);
        if (!axis) return [this, e = axis.error()] { setError(core_text(e.message)); };
        about = traced.base.to_plane(axis->point);
      }
      const bool even = feature.extent.reach == model::Reach::Symmetric;
      const double half = feature.extent.thickness.value / 2;
      const double from = even ? feature.extent.middle.value - half : feature.extent.from.value;
      const double to = even ? feature.extent.middle.value + half : feature.extent.to.value;
      const auto twist = reading::read_twist(*ground.document, traced,
                                             {feature.loops, feature.areas}, about, from, to, task);
      return [this, twist] {
        evidence_.twist = twist;
        if (!twist) {
          update(false);
          return setError(tr("The scan's walls tell no even twist about this axis."));
        }
        const QSignalBlocker block(twist_);
        // Zero within its U is none.
        twist_->setValue(std::abs(twist->angle) > twist->u ? twist->angle * kDegrees : 0);
        update(false);
      };
    });
  }
  /// Reads the scan when asked to, takes its values unless they are kept, and tries the step.
  void update(bool read, bool keep_values = false) {
    showRows();
    draw();
    setKeepEnabled(false);
    if (traced() == nullptr)
      return setError(tr("There is no sketch yet. Take a section in Trace first."));
    if (chosen_.empty() && areas_.empty())
      return setEvidence(tr("Click an outline of the sketch, or inside an area."));
    if (reach() == model::Reach::UpTo && target_->reference().empty())
      return setEvidence(tr("Now click the surface it runs up to."));
    aside([this, read, keep_values, ground = ground(), feature = feature(),
           evidence = evidence_](const Task& task) mutable -> Session::Finish {
      if (read) {
        const project::TracedSketch& traced = *ground.document->find_sketch(feature.sketch);
        evidence.extent = reading::suggest_extent(
            reading::find_levels(*ground.document, traced, {feature.loops, feature.areas}),
            traced.level);
        evidence.twist.reset();
        evidence.taper = feature.areas.empty()
                             ? reading::find_draft(*ground.document, traced, feature.loops)
                             : std::nullopt;
        if (!keep_values) {
          if (evidence.extent.below) feature.extent.from.value = evidence.extent.below->level;
          if (evidence.extent.above) feature.extent.to.value = evidence.extent.above->level;
          if (evidence.extent.below && evidence.extent.above) {
            const double low = evidence.extent.below->level;
            const double high = evidence.extent.above->level;
            feature.extent.middle.value = (low + high) / 2;
            feature.extent.thickness.value = high - low;
          }
          feature.draft.value = evidence.taper ? evidence.taper->angle : 0;
        }
      }
      return [this, feature, evidence, trial = ground.attempt(feature, task)] {
        evidence_ = evidence;
        const QSignalBlocker b1(from_), b2(to_), b3(draft_), b4(middle_), b5(thickness_);
        from_->setValue(feature.extent.from.value);
        to_->setValue(feature.extent.to.value);
        middle_->setValue(feature.extent.middle.value);
        thickness_->setValue(feature.extent.thickness.value);
        draft_->setValue(feature.draft.value * kDegrees);
        if (showTrial(trial)) describe(*trial.solid);
      };
    });
  }
  void describe(const model::Model& solid) {
    QString text = tr("%1 cm\u00b3 after this step")
                       .arg(QString::fromStdString(format_fixed(solid.volume() / 1000, 2)));
    if (reach() != model::Reach::Through) {
      const auto& [below, above] = evidence_.extent;
      text += below ? tr("\nscan below: %1")
                          .arg(QString::fromStdString(length_reading(below->level, below->u)))
                    : tr("\nno scan level below");
      text += above ? tr("\nscan above: %1")
                          .arg(QString::fromStdString(length_reading(above->level, above->u)))
                    : tr("\nno scan level above");
    }
    if (evidence_.twist)
      text += tr("\ntwist of the scan: %1\u00b0")
                  .arg(QString::fromStdString(format_reading(evidence_.twist->angle * kDegrees,
                                                             evidence_.twist->u * kDegrees)));
    if (evidence_.taper)
      text += tr("\ntaper of the scan: %1\u00b0")
                  .arg(QString::fromStdString(format_reading(evidence_.taper->angle * kDegrees,
                                                             evidence_.taper->u * kDegrees)));
    setEvidence(text + leftOut());
  }

  void showRows() {
    const std::array wanted{reach() == model::Reach::Levels || reach() == model::Reach::UpTo,
                            reach() == model::Reach::Levels, reach() == model::Reach::Symmetric,
                            reach() == model::Reach::Symmetric};
    for (std::size_t i = 0; i < boxes_.size(); ++i) {
      boxes_[i]->setVisible(wanted[i]);
      labels_[i]->setVisible(wanted[i]);
    }
    about_->setVisible(twist_->value() != 0);
    about_label_->setVisible(twist_->value() != 0);
    target_->setVisible(reach() == model::Reach::UpTo);
    target_label_->setVisible(reach() == model::Reach::UpTo);
    settleHeight();
  }

  QComboBox* operation_;
  QComboBox* reach_;
  std::vector<QDoubleSpinBox*> boxes_;
  std::vector<QLabel*> labels_;
  QDoubleSpinBox* from_;
  QDoubleSpinBox* to_;
  QDoubleSpinBox* middle_;
  QDoubleSpinBox* thickness_;
  ReferenceField* target_;
  QLabel* target_label_;
  QDoubleSpinBox* draft_;
  QDoubleSpinBox* twist_;
  ReferenceField* about_;
  QLabel* about_label_;
  Evidence evidence_;
};

}  // namespace

namespace {

bool is_cut(const model::Feature& feature) {
  const auto* e = feature.as<model::Extrude>();
  return e != nullptr && e->operation == model::Operation::Cut;
}

}  // namespace

Tool extrude_tool() {
  Tool tool = step_tool(model::Extrude::kind, Tool::Needs::Sketch,
                        [](Workplace place, project::Id step) -> ToolCard* {
                          return new ExtrudeTool(place, step, false);
                        });
  tool.edits = [](const model::Feature& feature) { return !is_cut(feature); };
  return tool;
}

Tool cut_tool() {
  Tool tool = step_tool(model::Extrude::kind, Tool::Needs::Model,
                        [](Workplace place, project::Id step) -> ToolCard* {
                          return new ExtrudeTool(place, step, true);
                        });
  tool.name = QT_TRANSLATE_NOOP("steps", "Cut");
  tool.icon = "scissors";
  tool.tip = QT_TRANSLATE_NOOP("steps", "cut closed areas of a sketch");
  tool.letter = 'c';
  tool.edits = is_cut;
  tool.takes = {Item::Kind::Sketch};
  return tool;
}

}  // namespace lostline::app
