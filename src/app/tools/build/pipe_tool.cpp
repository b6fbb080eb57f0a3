#include <QCheckBox>
#include <QLabel>

#include "look/catalogue.h"
#include "look/theme.h"
#include "model/path_pieces.h"
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
                   collar_.reset();
                   onto_->setCurrentIndex(0);
                   follow();
                 }}});
    onto_ = new QComboBox;
    onto_->setObjectName(QStringLiteral("onto"));
    onto_->setToolTip(
        tr("A pipe that is there: click where it has another radius, as a collar, a "
           "bead or a reduced end"));
    fillOnto();
    addRow(tr("along"), onto_);
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
    part_ = new QCheckBox(tr("only a stretch of it"));
    part_->setObjectName(QStringLiteral("inPart"));
    addWide(part_);
    from_ = length(0, -1e5, 1e5, 0.5, 3, QStringLiteral("from"));
    from_->setToolTip(tr("Along the centre line from its start; below 0 before it"));
    to_ = length(10, -1e5, 1e5, 0.5, 3, QStringLiteral("to"));
    to_->setToolTip(tr("Along the centre line; more than its length goes straight on"));
    stretch_ = {{addRow(in_unit(tr("from, mm")), from_), from_},
                {addRow(in_unit(tr("to, mm")), to_), to_}};
    operation_ = new QComboBox;
    operation_->addItems({tr("add"), tr("cut"), tr("common"), tr("new body")});
    operation_->setObjectName(QStringLiteral("operation"));
    addRow(tr("as"), operation_);
    if (const model::Step* s = editedStep()) {
      run_ = *s->feature.as<model::PipeRun>();
      show();
    }
    showStretch();
    connect(part_, &QCheckBox::toggled, this, [this] {
      offerWhole();
      showStretch();
      tryAgain();
    });
    connect(onto_, &QComboBox::currentIndexChanged, this, [this] { chosen(); });
    for (QDoubleSpinBox* box : {radius_, wall_, bend_, from_, to_})
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
      collar_.reset();
      run_.path = {};
      run_.along = {body->key};
      return tryAgain();
    }
    if (pick.what != Pick::What::Scan) return setEvidence(tr("Click the pipe on the scan."));
    if (host() != nullptr) return readCollar(pick.point);
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
    if (collar_) {
      const std::string along = "scan along the pipe";
      readings.push_back(field("radius", radius_, collar_->radius, collar_->u_radius, along));
      readings.push_back(field("from", from_, collar_->from, collar_->u_from, along));
      readings.push_back(field("to", to_, collar_->to, collar_->u_to, along));
    } else if (reading_ || editedStep() == nullptr || radius_->value() != run_.radius.value) {
      readings.push_back(field("radius", radius_, read(reading_ ? reading_->radius : 0),
                               reading_ ? reading_->u_radius : 0, source));
    }
    if (!collar_ && part_->isChecked()) {
      if (editedStep() == nullptr || from_->value() != run_.from.value)
        readings.push_back(field("from", from_, std::nullopt, 0, "typed"));
      if (editedStep() == nullptr || to_->value() != run_.to.value)
        readings.push_back(field("to", to_, std::nullopt, 0, "typed"));
    }
    if (!collar_ && !run_.path.bends.empty() &&
        (reading_ || editedStep() == nullptr || bend_->value() != run_.bend.value))
      readings.push_back(field("bend", bend_, read(reading_ ? reading_->bend : std::nullopt),
                               reading_ ? reading_->u_bend : 0, source));
    commit(feature(), readings);
    return false;
  }

 private:
  /// A stretch begins as all of the centre line: one end of it is moved most often.
  void offerWhole() {
    if (!part_->isChecked() || collar_ || run_.path.corners.size() < 2 ||
        run_.to.value != model::PipeRun().to.value)
      return;
    const auto pieces = model::pieces_of(run_.path, bend_->value());
    if (!pieces) return;
    double length = 0;
    for (const pipe::Piece& piece : *pieces) length += piece.length();
    const QSignalBlocker b1(from_), b2(to_);
    from_->setValue(0);
    to_->setValue(length);
  }
  std::vector<Grip> grips() override {
    const model::PipeRun run = feature();
    auto pieces = model::pieces_of(run.path, run.bend.value);
    if (!pieces || pieces->empty()) return {};
    if (run.in_part) pieces = model::stretch_of(*pieces, run.from.value, run.to.value);
    if (pieces->empty()) return {};
    const Vec3 out = pieces->front().direction(0).unitOrthogonal();
    return {{radius_, pieces->front().a + radius_->value() * out, out, 1,
             collar_    ? std::optional(collar_->radius)
             : reading_ ? std::optional(reading_->radius)
                        : std::nullopt}};
  }
  [[nodiscard]] model::PipeRun feature() const {
    model::PipeRun run = run_;
    run.radius.value = radius_->value();
    run.wall.value = wall_->value();
    run.bend.value = bend_->value();
    run.in_part = part_->isChecked();
    run.from.value = from_->value();
    run.to.value = to_->value();
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
    set(from_, run_.from.value);
    set(to_, run_.to.value);
    {
      const QSignalBlocker block(part_);
      part_->setChecked(run_.in_part);
    }
    showStretch();
    const QSignalBlocker block(operation_);
    operation_->setCurrentIndex(static_cast<int>(run_.operation));
  }
  void showStretch() {
    for (const auto& [label, field] : stretch_) {
      label->setVisible(part_->isChecked());
      field->setVisible(part_->isChecked());
    }
    settleHeight();
  }
  void refill() override { fillOnto(); }
  /// Pipes before this step that were clicked on the scan.
  void fillOnto() {
    const QSignalBlocker block(onto_);
    const QVariant was = onto_->currentData();
    onto_->clear();
    onto_->addItem(tr("the pipe that is clicked"), QVariant::fromValue<qulonglong>(0));
    for (const model::Step& s : document().steps) {
      if (s.id == step_) break;
      const auto* run = s.feature.as<model::PipeRun>();
      if (run != nullptr && run->along.empty())
        onto_->addItem(QString::fromStdString(s.name), QVariant::fromValue<qulonglong>(s.id));
    }
    onto_->setCurrentIndex(std::max(0, onto_->findData(was)));
  }
  /// The pipe whose stretch this is to be; null for a pipe of its own.
  [[nodiscard]] const model::PipeRun* host() const {
    const auto id = onto_->currentData().toULongLong();
    const model::Step* s = id != 0 ? document().find_step(id) : nullptr;
    return s != nullptr ? s->feature.as<model::PipeRun>() : nullptr;
  }
  void chosen() {
    touch();
    picks_.clear();
    reading_.reset();
    collar_.reset();
    run_.path = {};
    tryAgain();
  }
  /// The stretch of the chosen pipe that was clicked.
  void readCollar(const Vec3& place) {
    touch();
    setKeepEnabled(false);
    setEvidence(tr("reading along the pipe \u2026"));
    aside([this, place, ground = ground(), host = *host(),
           feature = feature()](const Task& task) mutable -> Session::Finish {
      const auto read = reading::read_collar(*ground.document, host, place);
      if (!read) {
        return [this, error = read.error()] {
          setKeepEnabled(!run_.path.corners.empty());
          setError(core_text(error.message));
        };
      }
      feature.path = host.path;
      feature.bend = host.bend;
      feature.in_part = true;
      feature.radius.value = read->radius;
      feature.from.value = read->from;
      feature.to.value = read->to;
      return [this, feature, read = *read, trial = ground.attempt(feature, task)] {
        run_ = feature;
        collar_ = read;
        show();
        if (showTrial(trial)) setEvidence(words());
      };
    });
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
      return [this, feature, read = *std::move(read), trial = ground.attempt(feature, task)] {
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
      if (host() != nullptr)
        return setEvidence(tr("Click on the scan where the pipe has another radius."));
      return setEvidence(tr(
          "Click the pipe on the scan; on both sides of a gap where it has one. Or click a curve "
          "that it runs along."));
    }
    aside([this, ground = ground(), feature = feature()](const Task& task) -> Session::Finish {
      return [this, trial = ground.attempt(feature, task)] {
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
    if (collar_)
      return tr("%1 long \u00b7 RMS %2\nscan: R %3\nfrom %4\nto %5")
          .arg(length_shown(collar_->to - collar_->from, 2), length_shown(collar_->rms, 4),
               said(collar_->radius, collar_->u_radius), said(collar_->from, collar_->u_from),
               said(collar_->to, collar_->u_to));
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
  std::optional<pipe::Collar> collar_;
  QDoubleSpinBox *simpler_, *bridge_, *radius_, *wall_, *bend_, *from_, *to_;
  QCheckBox* part_;
  std::vector<std::pair<QLabel*, QWidget*>> stretch_;
  QComboBox *operation_, *onto_;
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
