#include "look/catalogue.h"
#include "reading/from_regions.h"
#include "tools/build/step_tool.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Sketch and step in one go, straight from walls or a turned face that were clicked on the scan.
class RegionsStepTool : public StepTool {
 public:
  explicit RegionsStepTool(Workplace place)
      : StepTool(place, tr("From regions"), 0,
                 tr("step %1").arg(place.session.document().steps.size() + 1)) {
    making_ = new QComboBox;
    making_->addItems({tr("extrude"), tr("revolve")});
    making_->setObjectName(QStringLiteral("making"));
    addRow(tr("make"), making_);
    constexpr std::size_t kMost = 200;  // walls of one profile
    from_ = new PickField(tr("click regions"), kMost, QStringLiteral("fromRegions"));
    addRow(tr("from"), from_);
    tolerance_ = length(0, 0, 100, 0.05, 3, QStringLiteral("resolveTolerance"));
    tolerance_->setToolTip(
        tr("Larger is simpler: departures below this are nobody's intent; 0: as the scan asks"));
    addRow(in_unit(tr("tolerance, mm")), tolerance_);
    suggested_ = new QCheckBox(tr("with the suggested constraints"));
    suggested_->setObjectName(QStringLiteral("suggested"));
    suggested_->setChecked(true);
    addWide(suggested_);
    connect(from_, &QPushButton::clicked, this, [this] {
      from_->clear(document());
      tryAgain();
    });
    connect(making_, &QComboBox::currentIndexChanged, this, [this] { tryAgain(); });
    connect(tolerance_, &QDoubleSpinBox::valueChanged, this, [this] { tryAgain(); });
    connect(suggested_, &QCheckBox::toggled, this, [this] { tryAgain(); });
  }
  void begin() override {
    place_.bench.setShow(Show::Both);
    from_->setWaiting(true);
    tryAgain();
  }
  void pick(const Pick& pick) override {
    if (pick.region == 0)
      return setEvidence(tr("Click regions of the scan: the walls, and an end if wanted."));
    pickRef({pick.region, 0});
  }
  void pickRef(const project::FitRef& ref) override {
    if (ref.region == 0) return;
    from_->offer(ref, document());
    tryAgain();
  }
  bool keep() override {
    if (!made_) return false;
    const QString name = name_->text().trimmed();
    if (name.isEmpty()) {
      setError(tr("Give the step a name."));
      return false;
    }
    const project::Id after = place_.session.insertAfter();
    commitAside(
        tr("%1 from regions").arg(making_->currentText()),
        [made = *made_, name = name.toStdString(),
         after](const project::Document& d) -> Result<project::Document> {
          const auto added = reading::add_from_regions(d, made, name, after);
          if (!added) return added.error();
          return added->document;
        },
        [this, after] { insertNextBehind(after); });
    return false;
  }

 private:
  void refill() override { from_->prune(document()); }
  void tryAgain() override {
    made_.reset();
    setKeepEnabled(false);
    const std::vector<std::uint32_t> regions = regions_of(from_->refs());
    place_.bench.setSelection(regions);
    const auto making = static_cast<reading::Making>(making_->currentIndex());
    if (regions.empty()) {
      place_.bench.setPreview({});
      place_.bench.setMarks({});
      return setEvidence(making == reading::Making::Extrude
                             ? tr("Click the walls of one profile, and its ends if wanted.")
                             : tr("Click a round face of what was turned."));
    }
    reading::FromRegionsOptions options;
    options.tolerance = tolerance_->value();
    options.suggested = suggested_->isChecked();
    aside([this, regions, making, options,
           ground = ground()](const Task& task) mutable -> Session::Finish {
      const auto fails = [this](const Error& error) -> Session::Finish {
        return [this, error] {
          place_.bench.setPreview({});
          place_.bench.setMarks({});
          setError(core_text(error.message));
        };
      };
      auto made = reading::from_regions(*ground.document, regions, making, options, task);
      if (!made) return fails(made.error());
      const auto added =
          reading::add_from_regions(*ground.document, *made, ground.name, ground.after);
      if (!added) return fails(added.error());
      const model::Feature feature = added->document.find_step(added->id)->feature;
      ground.step = added->id;
      ground.document = std::make_shared<const project::Document>(added->document);
      return [this, made = *std::move(made), trial = ground.attempt(feature, task)] {
        made_ = made;
        if (showTrial(trial)) setEvidence(words());
      };
    });
  }
  [[nodiscard]] QString words() const {
    QString text = QString::fromStdString(made_->said);
    for (const project::FieldReading& reading : made_->readings) {
      if (reading.reading)
        text += tr("\nscan: %1 %2")
                    .arg(QString::fromStdString(reading.field),
                         QString::fromStdString(length_reading(*reading.reading, reading.u)));
    }
    return text;
  }

  std::optional<reading::FromRegions> made_;
  QComboBox* making_;
  PickField* from_;
  QDoubleSpinBox* tolerance_;
  QCheckBox* suggested_;
};

}  // namespace

Tool regions_step_tool() {
  Tool tool{QT_TRANSLATE_NOOP("tools", "From regions"),
            "vector-square",
            QT_TRANSLATE_NOOP("tools", "Sketch and step straight from picked regions"),
            kBuild,
            'q',
            Tool::Needs::Survey,
            [](Workplace place, project::Id) -> ToolCard* { return new RegionsStepTool(place); }};
  tool.takes = {Item::Kind::Region};
  tool.group = QT_TRANSLATE_NOOP("tools", "From scan");
  return tool;
}

}  // namespace lostline::app
