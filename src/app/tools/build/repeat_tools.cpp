#include <QSpinBox>

#include "look/preferences.h"
#include "model/steps/mirror/mirror.h"
#include "model/steps/pattern/pattern.h"
#include "project/bodies.h"
#include "tools/build/step_tool.h"
#include "tools/reference_field.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// A step that repeats another: which one, and a plane or axis.
class RepeatTool : public StepTool {
 protected:
  RepeatTool(Workplace place, const QString& title, project::Id step, const QString& new_name)
      : StepTool(place, title, step, new_name) {
    source_ = new QComboBox;
    source_->setObjectName(QStringLiteral("source"));
    source_->setToolTip(tr("The step whose material or cut is repeated; click it in the Route"));
  }
  void take(const Item& item) override {
    const int row =
        item.kind == Item::Kind::Step ? source_->findData(static_cast<qulonglong>(item.id)) : -1;
    if (row < 0) return StepTool::take(item);
    source_->setCurrentIndex(row);
  }
  void fillSources(project::Id chosen) {
    for (const model::Step& s : document().steps) {
      if (s.id == step_) break;
      if (s.feature.kind().tool == nullptr) continue;
      source_->addItem(QStringLiteral("%1 %2").arg(s.number).arg(QString::fromStdString(s.name)),
                       static_cast<qulonglong>(s.id));
    }
    const int index = source_->findData(static_cast<qulonglong>(chosen));
    source_->setCurrentIndex(index >= 0 ? index : source_->count() - 1);
  }
  void refill() override {
    const project::Id before = source();
    const QSignalBlocker block(source_);
    for (int i = source_->count(); i-- > 0;) {
      if (source_->itemData(i).toULongLong() != 0) source_->removeItem(i);
    }
    fillSources(before);
  }
  void pick(const Pick& pick) override { reference_->offer(pick, ground().before, document()); }
  void pickRef(const project::FitRef& ref) override { reference_->offer(ref, document()); }
  [[nodiscard]] project::Id source() const { return source_->currentData().toULongLong(); }
  void attempt(const model::Feature& feature) {
    setKeepEnabled(false);
    aside([this, ground = ground(), feature](const Task& task) -> Session::Finish {
      return [this, trial = ground.attempt(feature, task)] {
        if (!showTrial(trial)) return;
        setEvidence(
            tr("%1 cm\u00b3 after this step")
                .arg(QString::fromStdString(format_fixed(trial.solid->volume() / 1000, 2))));
      };
    });
  }
  QComboBox* source_;
  ReferenceField* reference_;
};

class PatternTool : public RepeatTool {
 public:
  PatternTool(Workplace place, project::Id step)
      : RepeatTool(place, tr("Pattern"), step,
                   tr("pattern %1").arg(place.session.document().steps.size() + 1)) {
    addRow(tr("of step"), source_);
    kind_ = new QComboBox;
    kind_->addItems(
        {tr("in a row"), tr("round an axis"), tr("at points of a sketch"), tr("along a curve")});
    kind_->setObjectName(QStringLiteral("patternKind"));
    kind_->setCurrentIndex(1);
    addRow(tr("arranged"), kind_);
    reference_ = new ReferenceField(ReferenceField::Wants::Axis, QStringLiteral("axis"));
    model::Reference z;
    z.datum = 2;
    reference_->assign(z, document());
    axis_label_ = addRow(tr("axis"), reference_);
    count_ = new QSpinBox;
    count_->setRange(2, 2000);
    count_->setValue(4);
    count_->setObjectName(QStringLiteral("count"));
    count_->setAccessibleName(tr("count"));
    count_->setAlignment(Qt::AlignRight);
    count_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    count_->setKeyboardTracking(false);
    count_label_ = addRow(tr("count, with it"), count_);
    spacing_ = length(90, -1e5, 1e5, 1, 4, QStringLiteral("spacing"));
    spacing_->setLength(false);
    label_ = addRow(tr("apart, \u00b0"), spacing_);
    points_ = new QComboBox;
    points_->setObjectName(QStringLiteral("patternPoints"));
    points_->setToolTip(tr("One at each point and at the centre of each circle of this sketch"));
    points_label_ = addRow(tr("points of"), points_);
    curve_ = new QComboBox;
    curve_->setObjectName(QStringLiteral("patternCurve"));
    curve_label_ = addRow(tr("curve"), curve_);
    turns_ = new QCheckBox(tr("turn with the curve"));
    turns_->setObjectName(QStringLiteral("patternTurns"));
    addWide(turns_);
    fillPlaces();
    project::Id source = 0;
    if (const model::Step* s = editedStep()) {
      const auto& p = *s->feature.as<model::Pattern>();
      source = p.source;
      kind_->setCurrentIndex(static_cast<int>(p.arranged));
      spacing_->setLength(!circular());
      reference_->assign(p.direction, document());
      count_->setValue(p.count);
      turns_->setChecked(p.turns);
      if (!p.points.empty())
        points_->setCurrentIndex(points_->findData(static_cast<qulonglong>(p.points.front())));
      if (!p.along.empty())
        curve_->setCurrentIndex(curve_->findData(QString::fromStdString(p.along.front())));
      spacing_->setValue(circular() ? p.spacing.value * kDegrees : p.spacing.value);
    }
    fillSources(source);
    connect(count_, &QSpinBox::valueChanged, this, [this](int count) {
      // Evenly all round is what is meant most often.
      const QSignalBlocker block(spacing_);
      if (circular()) spacing_->setValue(360.0 / count);
      update();
    });
    connect(kind_, &QComboBox::currentIndexChanged, this, [this] {
      const QSignalBlocker block(spacing_);
      spacing_->setLength(!circular());
      spacing_->setValue(circular() ? 360.0 / count_->value() : 20);
      update();
    });
    for (QComboBox* box : {source_, points_, curve_, static_cast<QComboBox*>(reference_)})
      connect(box, &QComboBox::currentIndexChanged, this, [this] { update(); });
    connect(reference_, &ReferenceField::referenceChanged, this, [this] { update(); });
    connect(spacing_, &QDoubleSpinBox::valueChanged, this, [this] { update(); });
    connect(turns_, &QCheckBox::toggled, this, [this] { update(); });
  }
  void begin() override { update(); }
  void tryAgain() override { update(); }
  void refill() override {
    RepeatTool::refill();
    fillPlaces();
  }
  bool keep() override {
    if (arranged() == model::Pattern::Kind::Points) {
      commit(feature(), {});
      return false;
    }
    commit(feature(), {project::FieldReading{"spacing", {}, 0, "typed", spacing_->value()}});
    return false;
  }

 private:
  [[nodiscard]] bool circular() const { return kind_->currentIndex() == 1; }
  [[nodiscard]] model::Pattern feature() const {
    model::Pattern p;
    p.source = source();
    p.arranged = arranged();
    if (p.arranged == model::Pattern::Kind::Points && points_->count() > 0)
      p.points = {points_->currentData().toULongLong()};
    if (p.arranged == model::Pattern::Kind::Curve && curve_->count() > 0)
      p.along = {curve_->currentData().toString().toStdString()};
    p.turns = turns_->isChecked();
    p.direction = reference_->reference();
    p.count = count_->value();
    p.spacing.value = circular() ? spacing_->value() / kDegrees : spacing_->value();
    return p;
  }
  [[nodiscard]] model::Pattern::Kind arranged() const {
    return static_cast<model::Pattern::Kind>(kind_->currentIndex());
  }
  /// Sketches and curves that the pattern may follow.
  void fillPlaces() {
    const QVariant sketch = points_->currentData();
    const QVariant curve = curve_->currentData();
    const QSignalBlocker block_points(points_);
    const QSignalBlocker block_curve(curve_);
    points_->clear();
    for (const auto& s : document().sketches)
      points_->addItem(QString::fromStdString(s->name), static_cast<qulonglong>(s->id));
    curve_->clear();
    const model::Model before = ground().before;
    for (std::size_t b = 0; b < before.body_count(); ++b) {
      if (before.body(b).kind == model::BodyKind::Curve)
        curve_->addItem(QString::fromStdString(project::body_title(document(), before.body(b))),
                        QString::fromStdString(before.body(b).key));
    }
    if (const int row = points_->findData(sketch); row >= 0) points_->setCurrentIndex(row);
    if (const int row = curve_->findData(curve); row >= 0) curve_->setCurrentIndex(row);
  }
  void showRows() {
    using Kind = model::Pattern::Kind;
    const Kind kind = arranged();
    const auto show = [](bool on, std::initializer_list<QWidget*> widgets) {
      for (QWidget* w : widgets) w->setVisible(on);
    };
    show(kind == Kind::Linear || kind == Kind::Circular, {reference_, axis_label_});
    show(kind != Kind::Points, {count_, count_label_, spacing_, label_});
    show(kind == Kind::Points, {points_, points_label_});
    show(kind == Kind::Curve, {curve_, curve_label_, turns_});
    settleHeight();
  }
  void update() {
    showRows();
    label_->setText(circular() ? tr("apart, \u00b0") : in_unit(tr("apart, mm")));
    if (source_->count() == 0) {
      setKeepEnabled(false);
      return setError(tr("There is no step to repeat yet. Build one first."));
    }
    attempt(feature());
  }
  QComboBox* kind_;
  QSpinBox* count_;
  LengthBox* spacing_;
  QComboBox *points_, *curve_;
  QCheckBox* turns_;
  QLabel *label_, *axis_label_, *count_label_, *points_label_, *curve_label_;
};

class MirrorTool : public RepeatTool {
 public:
  MirrorTool(Workplace place, project::Id step)
      : RepeatTool(place, tr("Mirror"), step,
                   tr("mirrored %1").arg(place.session.document().steps.size() + 1)) {
    source_->addItem(tr("the whole part"), 0ULL);
    addRow(tr("of"), source_);
    reference_ = new ReferenceField(ReferenceField::Wants::Plane, QStringLiteral("plane"));
    model::Reference yz;
    yz.datum = 0;
    reference_->assign(yz, document());
    addRow(tr("in plane"), reference_);
    project::Id source = 0;
    if (const model::Step* s = editedStep()) {
      const auto& m = *s->feature.as<model::Mirror>();
      source = m.source;
      reference_->assign(m.plane, document());
    }
    fillSources(source);
    connect(source_, &QComboBox::currentIndexChanged, this, [this] { attempt(feature()); });
    connect(reference_, &ReferenceField::referenceChanged, this, [this] { attempt(feature()); });
  }
  void begin() override { attempt(feature()); }
  void tryAgain() override { attempt(feature()); }
  bool keep() override {
    commit(feature(), {});
    return false;
  }

 private:
  [[nodiscard]] model::Mirror feature() const { return {source(), reference_->reference()}; }
};

}  // namespace

Tool pattern_tool() {
  Tool tool = step_tool(
      model::Pattern::kind, Tool::Needs::Model,
      [](Workplace place, project::Id step) -> ToolCard* { return new PatternTool(place, step); });
  tool.takes = {Item::Kind::Step};
  return tool;
}

Tool mirror_tool() {
  Tool tool = step_tool(
      model::Mirror::kind, Tool::Needs::Model,
      [](Workplace place, project::Id step) -> ToolCard* { return new MirrorTool(place, step); });
  tool.takes = {Item::Kind::Step};
  return tool;
}

}  // namespace lostline::app
