#include <QSpinBox>
#include <cmath>
#include <set>

#include "look/catalogue.h"
#include "model/steps/patch_face/patch_face.h"
#include "reading/free_form.h"
#include "tools/build/step_tool.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// A free-form face through regions of the scan, or through what goes on smoothly from a click.
class PatchTool : public StepTool {
 public:
  PatchTool(Workplace place, project::Id step)
      : StepTool(place, tr("Patch"), step,
                 tr("patch %1").arg(place.session.document().steps.size() + 1)) {
    addButtons({{tr("choose the area again"), QStringLiteral("areaAgain"),
                 tr("Forget the area and click it on the scan"), [this] {
                   area_ = {};
                   face_.reset();
                   reading_.reset();
                   fit();
                 }}});
    tolerance_ = length(0, 0, 100, 0.01, 4, QStringLiteral("patchTolerance"));
    tolerance_->setToolTip(tr("95 % of the points lie nearer than this; 0: as the noise asks"));
    addRow(in_unit(tr("tolerance, mm")), tolerance_);
    spans_ = new QSpinBox;
    spans_->setRange(0, 60);
    spans_->setAlignment(Qt::AlignRight);
    spans_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    spans_->setKeyboardTracking(false);
    spans_->setObjectName(QStringLiteral("spans"));
    spans_->setToolTip(tr("Along the longer side; 0: by the tolerance"));
    addRow(tr("spans"), spans_);
    stiffness_ = number(0, -3, 3, 1, 0, QStringLiteral("stiffness"));
    stiffness_->setToolTip(tr("Larger is stiffer: each step counts tenfold"));
    addRow(tr("stiffer"), stiffness_);
    beyond_ = number(3, 0, 100, 1, 0, QStringLiteral("beyond"));
    beyond_->setToolTip(tr("Extended beyond the area by this share of its size, for trimming"));
    addRow(tr("beyond, %"), beyond_);
    if (const model::Step* s = editedStep()) face_ = s->feature.as<model::PatchFace>()->face;
    for (QDoubleSpinBox* box : {tolerance_, stiffness_, beyond_}) {
      connect(box, &QDoubleSpinBox::valueChanged, this, [this] {
        if (!empty()) fit();
      });
    }
    connect(spans_, &QSpinBox::valueChanged, this, [this] {
      if (!empty()) fit();
    });
  }
  void begin() override {
    place_.bench.setShow(Show::Both);
    tryAgain();
  }
  void pick(const Pick& pick) override {
    if (pick.what != Pick::What::Scan) return setEvidence(tr("Click an area of the scan."));
    if (pick.region != 0) return toggle(pick.region);
    area_.triangles.push_back(pick.triangle);
    fit();
  }
  void take(const Item& item) override {
    if (item.kind == Item::Kind::Region) toggle(static_cast<std::uint32_t>(item.id));
  }
  bool keep() override {
    model::PatchFace patch;
    patch.face = face_;
    commit(patch, {});
    return false;
  }

 private:
  [[nodiscard]] bool empty() const { return area_.regions.empty() && area_.triangles.empty(); }
  void toggle(std::uint32_t region) {
    const auto known = std::find(area_.regions.begin(), area_.regions.end(), region);
    if (known != area_.regions.end())
      area_.regions.erase(known);
    else
      area_.regions.push_back(region);
    fit();
  }
  /// Regions and triangles are numbered anew by a new split or scan.
  void refill() override {
    if (scan_ == document().scan && survey_ == document().survey) return;
    scan_ = document().scan;
    survey_ = document().survey;
    area_ = {};
  }
  void fit() {
    setKeepEnabled(false);
    place_.bench.setSelection(area_.regions, area_.triangles);
    if (empty()) return tryAgain();
    setEvidence(tr("fitting the face \u2026"));
    patch::PatchOptions options;
    options.tolerance = tolerance_->value();
    options.spans = static_cast<std::size_t>(spans_->value());
    options.stiffness *= std::pow(10.0, stiffness_->value());
    options.beyond = beyond_->value() / 100;
    aside([this, area = area_, options, ground = ground()](const Task& task) -> Session::Finish {
      auto read = reading::read_patch(*ground.document, area, options, task);
      if (!read) return [this, error = read.error()] { setError(core_text(error.message)); };
      model::PatchFace patch;
      patch.face = std::make_shared<const patch::SplineSurface>(read->patch.surface);
      return [this, patch, read = *std::move(read), trial = ground.attempt(patch)] {
        face_ = patch.face;
        reading_ = read;
        if (showTrial(trial)) setEvidence(words());
      };
    });
  }
  void tryAgain() override {
    setKeepEnabled(false);
    place_.bench.setSelection(area_.regions, area_.triangles);
    if (!face_) {
      place_.bench.setPreview({});
      place_.bench.setMarks({});
      return setEvidence(tr("Click a free-form region of the scan, or any smooth area."));
    }
    model::PatchFace patch;
    patch.face = face_;
    aside([this, patch, ground = ground()](const Task&) -> Session::Finish {
      return [this, trial = ground.attempt(patch)] {
        if (showTrial(trial)) setEvidence(words());
      };
    });
  }
  [[nodiscard]] QString words() const {
    QString text = tr("%1 \u00d7 %2 poles").arg(face_->nu).arg(face_->nv);
    if (!reading_) return text;
    const patch::Patch& p = reading_->patch;
    text += tr(" \u00b7 RMS %1 \u00b7 95 % within %2 \u00b7 greatest %3")
                .arg(length_shown(p.rms, 4), length_shown(p.p95, 4), length_shown(p.greatest, 4));
    if (!p.within) text += QStringLiteral("\n") + tr("The tolerance is not met.");
    if (p.follows_noise)
      text += QStringLiteral("\n") + tr("It follows noise: fewer spans would do.");
    return text;
  }

  reading::PatchArea area_;
  std::shared_ptr<const patch::SplineSurface> face_;
  std::optional<reading::PatchReading> reading_;
  std::shared_ptr<const project::Scan> scan_ = document().scan;
  std::shared_ptr<const survey::Survey> survey_ = document().survey;
  QDoubleSpinBox *tolerance_, *stiffness_, *beyond_;
  QSpinBox* spans_;
};

}  // namespace

Tool patch_tool() {
  Tool tool = step_tool(
      model::PatchFace::kind, Tool::Needs::Scan,
      [](Workplace place, project::Id step) -> ToolCard* { return new PatchTool(place, step); });
  tool.takes = {Item::Kind::Region};
  tool.group = QT_TRANSLATE_NOOP("tools", "From scan");
  return tool;
}

}  // namespace lostline::app
