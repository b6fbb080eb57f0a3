#include "look/catalogue.h"
#include "look/theme.h"
#include "model/steps/pipe_run/pipe_run.h"
#include "reading/free_form.h"
#include "tools/build/step_tool.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

QString said(double value, double u) { return QString::fromStdString(length_reading(value, u)); }

/// A bent pipe or bar that was clicked on the scan: its centre line is followed and fitted.
class PipeTool : public StepTool {
 public:
  PipeTool(Workplace place, project::Id step)
      : StepTool(place, tr("Pipe"), step,
                 tr("pipe %1").arg(place.session.document().steps.size() + 1)) {
    addButtons({{tr("click the pipe again"), QStringLiteral("pipeAgain"),
                 tr("Forget the centre line and click the pipe on the scan"), [this] {
                   picks_.clear();
                   run_.path = {};
                   run_.along.clear();
                   reading_.reset();
                   follow();
                 }}});
    simpler_ = length(0, 0, 1000, 0.1, 3, QStringLiteral("simpler"));
    simpler_->setToolTip(tr("Departures below this are nobody's bend; 0: what the noise tells"));
    addRow(in_unit(tr("simpler, mm")), simpler_);
    bridge_ = number(3, 0, 100, 1, 1, QStringLiteral("bridge"));
    bridge_->setToolTip(tr("Gaps as long as so many radii are bridged"));
    addRow(tr("bridge, radii"), bridge_);
    radius_ = length(10, 0.01, 1e4, 0.5, 3, QStringLiteral("radius"));
    addRow(in_unit(tr("R, mm")), radius_);
    wall_ = length(0, 0, 1e4, 0.5, 3, QStringLiteral("wall"));
    wall_->setToolTip(tr("0: a solid bar"));
    addRow(in_unit(tr("wall, mm")), wall_);
    bend_ = length(0, 0, 1e5, 0.5, 3, QStringLiteral("bend"));
    bend_->setToolTip(tr("Radius of the centre line at every bend; 0: each as it was read"));
    addRow(in_unit(tr("bends, mm")), bend_);
    operation_ = new QComboBox;
    operation_->addItems({tr("add"), tr("cut"), tr("common"), tr("new body")});
    operation_->setObjectName(QStringLiteral("operation"));
    addRow(tr("as"), operation_);
    if (const model::Step* s = editedStep()) {
      run_ = *s->feature.as<model::PipeRun>();
      show();
    }
    for (QDoubleSpinBox* box : {radius_, wall_, bend_})
      connect(box, &QDoubleSpinBox::valueChanged, this, [this] { tryAgain(); });
    connect(operation_, &QComboBox::currentIndexChanged, this, [this] { tryAgain(); });
    // Once the pipe was clicked these follow it anew; a path that was kept stays as it is.
    for (QDoubleSpinBox* box : {simpler_, bridge_}) {
      connect(box, &QDoubleSpinBox::valueChanged, this, [this] {
        if (!picks_.empty()) follow();
      });
    }
  }
  void begin() override {
    place_.bench.setShow(step_ == 0 ? Show::Both : Show::Model);
    tryAgain();
  }
  void pick(const Pick& pick) override {
    if (const auto body = bodyAt(pick); body && body->kind == model::BodyKind::Curve) {
      touch();
      picks_.clear();
      reading_.reset();
      run_.path = {};
      run_.along = {body->key};
      return tryAgain();
    }
    if (pick.what != Pick::What::Scan) return setEvidence(tr("Click the pipe on the scan."));
    run_.along.clear();
    picks_.push_back(pick.point);
    follow();
  }
  bool keep() override {
    const std::string source = "centre line of the scan";
    const auto read = [&](const std::optional<double>& value) {
      return reading_ ? value : std::nullopt;
    };
    std::vector<project::FieldReading> readings{{"wall", std::nullopt, 0, "typed", wall_->value()}};
    // Numbers of a path that was not read anew keep the readings they have.
    if (reading_ || editedStep() == nullptr || radius_->value() != run_.radius.value)
      readings.push_back(field("radius", radius_, read(reading_ ? reading_->radius : 0),
                               reading_ ? reading_->u_radius : 0, source));
    if (!run_.path.bends.empty() &&
        (reading_ || editedStep() == nullptr || bend_->value() != run_.bend.value))
      readings.push_back(field("bend", bend_, read(reading_ ? reading_->bend : std::nullopt),
                               reading_ ? reading_->u_bend : 0, source));
    commit(feature(), readings);
    return false;
  }

 private:
  std::vector<Grip> grips() override {
    if (run_.path.corners.size() < 2) return {};
    const Vec3 a = run_.path.corners.front();
    const Vec3 along = (run_.path.corners[1] - a).normalized();
    const Vec3 out = along.unitOrthogonal();
    return {{radius_, a + radius_->value() * out, out, 1,
             reading_ ? std::optional(reading_->radius) : std::nullopt}};
  }
  [[nodiscard]] model::PipeRun feature() const {
    model::PipeRun run = run_;
    run.radius.value = radius_->value();
    run.wall.value = wall_->value();
    run.bend.value = bend_->value();
    run.operation = static_cast<model::Operation>(operation_->currentIndex());
    return run;
  }
  void show() {
    const auto set = [](QDoubleSpinBox* box, double value) {
      const QSignalBlocker block(box);
      box->setValue(value);
    };
    set(radius_, run_.radius.value);
    set(wall_, run_.wall.value);
    set(bend_, run_.bend.value);
    const QSignalBlocker block(operation_);
    operation_->setCurrentIndex(static_cast<int>(run_.operation));
  }
  /// Follows the pipe from the places clicked, takes what the scan says, and tries the step.
  void follow() {
    if (picks_.empty()) return tryAgain();
    setKeepEnabled(false);
    setEvidence(tr("following the pipe \u2026"));
    pipe::CentrelineOptions options;
    options.bridge = bridge_->value();
    options.simpler = simpler_->value();
    aside([this, picks = picks_, options, ground = ground(),
           feature = feature()](const Task& task) mutable -> Session::Finish {
      auto read = reading::read_pipe(*ground.document, picks, options, task);
      if (!read) {
        return [this, error = read.error()] {
          // A click beside the pipe is taken back; what was followed before stays.
          picks_.pop_back();
          setKeepEnabled(!picks_.empty());
          setError(core_text(error.message));
        };
      }
      feature.path = read->path;
      feature.radius.value = read->radius;
      feature.bend.value = read->bend.value_or(0);
      return [this, feature, read = *std::move(read), trial = ground.attempt(feature)] {
        run_ = feature;
        reading_ = read;
        show();
        if (showTrial(trial)) setEvidence(words());
        if (trial.solid) drawCentreline(trial.edges);
      };
    });
  }
  void tryAgain() override {
    setKeepEnabled(false);
    if (run_.path.corners.size() < 2 && run_.along.empty()) {
      place_.bench.setPreview({});
      place_.bench.setMarks({});
      return setEvidence(tr(
          "Click the pipe on the scan; on both sides of a gap where it has one. Or click a curve "
          "that it runs along."));
    }
    aside([this, ground = ground(), feature = feature()](const Task&) -> Session::Finish {
      return [this, trial = ground.attempt(feature)] {
        if (!showTrial(trial)) return;
        setEvidence(words());
        drawCentreline(trial.edges);
      };
    });
  }
  void drawCentreline(const LineBatch& edges) {
    if (!reading_) return;
    LineBatch line{{}, role::red_pencil, 1.6F, true};
    const auto points = reading_->line.points_along(reading_->line.radius);
    for (std::size_t i = 1; i < points.size(); ++i)
      line.segments.emplace_back(points[i - 1], points[i]);
    place_.bench.setMarks({edges, line});
  }
  [[nodiscard]] QString words() const {
    if (!run_.along.empty()) return tr("along a curve");
    const std::size_t bends = run_.path.bends.size();
    QString text = bends == 1 ? tr("1 bend") : tr("%1 bends").arg(bends);
    if (!reading_) return text;
    text += tr(", %1 long \u00b7 RMS %2")
                .arg(length_shown(reading_->line.length(), 1), length_shown(reading_->line.rms, 4));
    text += tr("\nscan: R %1").arg(said(reading_->radius, reading_->u_radius));
    if (reading_->line.hollow) text += tr(" (inside)");
    if (reading_->bend) text += tr("\nscan: bends %1").arg(said(*reading_->bend, reading_->u_bend));
    if (!reading_->bend && bends > 1) text += tr("\nthe bends differ");
    double bridged = 0;
    for (const double gap : reading_->line.bridged) bridged += gap;
    if (bridged > 0) text += tr("\nbridged %1").arg(length_shown(bridged, 1));
    return text;
  }

  model::PipeRun run_;
  std::vector<Vec3> picks_;  ///< part coordinates
  std::optional<reading::PipeReading> reading_;
  QDoubleSpinBox *simpler_, *bridge_, *radius_, *wall_, *bend_;
  QComboBox* operation_;
};

}  // namespace

Tool pipe_tool() {
  Tool tool = step_tool(
      model::PipeRun::kind, Tool::Needs::Scan,
      [](Workplace place, project::Id step) -> ToolCard* { return new PipeTool(place, step); });
  tool.group = QT_TRANSLATE_NOOP("tools", "From scan");
  return tool;
}

}  // namespace lostline::app
