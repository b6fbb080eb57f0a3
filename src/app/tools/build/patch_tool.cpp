#include <QSpinBox>
#include <cmath>
#include <set>

#include "look/catalogue.h"
#include "model/border.h"
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
                   patch_.face.reset();
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
    border_ = new QPushButton;
    border_->setObjectName(QStringLiteral("border"));
    border_->setCheckable(true);
    border_->setToolTip(
        tr("While it is pressed, clicks take curves and edges of the model that bound the face; "
           "what of the area lies inside them is the evidence"));
    addRow(tr("border"), border_);
    tangent_ = new QCheckBox(tr("tangent to the faces of its edges"));
    tangent_->setObjectName(QStringLiteral("tangent"));
    addWide(tangent_);
    if (const model::Step* s = editedStep()) {
      patch_ = *s->feature.as<model::PatchFace>();
      tangent_->setChecked(patch_.tangent);
    }
    connect(border_, &QPushButton::toggled, this, [this] { showBorder(); });
    connect(tangent_, &QCheckBox::toggled, this, [this](bool on) {
      patch_.tangent = on;
      fit();
    });
    showBorder();
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
    if (border_->isChecked()) return pickBorder(pick);
    if (pick.what != Pick::What::Scan) return setEvidence(tr("Click an area of the scan."));
    // A region without a surface of its own may hold several smooth areas with creases between:
    // the one that was clicked is meant. From Evidence it is taken whole.
    if (document().fit_of({pick.region, 0}) != nullptr) return toggle(pick.region);
    area_.triangles.push_back(pick.triangle);
    fit();
  }
  void take(const Item& item) override {
    if (item.kind == Item::Kind::Region) toggle(static_cast<std::uint32_t>(item.id));
  }
  bool keep() override {
    commit(patch_, {});
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
  void pickBorder(const Pick& pick) {
    const model::Model solid = shownModel();
    const auto body = bodyAt(pick);
    if (body && body->kind == model::BodyKind::Curve) {
      const auto known = std::find_if(patch_.curves.begin(), patch_.curves.end(),
                                      [&](const std::string& key) { return body->is(key); });
      if (known != patch_.curves.end())
        patch_.curves.erase(known);
      else
        patch_.curves.push_back(body->key);
    } else if (pick.edge) {
      const model::EdgeRef ref = solid.ref_of_edge(*pick.edge, pick.point);
      const auto known = std::find_if(
          patch_.edges.begin(), patch_.edges.end(),
          [&](const model::EdgeRef& e) { return solid.find_edge(e) == solid.find_edge(ref); });
      if (known != patch_.edges.end())
        patch_.edges.erase(known);
      else
        patch_.edges.push_back(ref);
    } else {
      return setEvidence(tr("Click a curve, or an edge of the model."));
    }
    showBorder();
    fit();
  }
  void showBorder() {
    const auto count = static_cast<int>(patch_.curves.size() + patch_.edges.size());
    border_->setText(count == 0 ? border_->isChecked() ? tr("click curves and edges") : tr("free")
                                : tr("%n curve(s) and edge(s)", nullptr, count));
    tangent_->setVisible(!patch_.edges.empty());
    settleHeight();
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
    aside([this, area = area_, options, patch = patch_,
           ground = ground()](const Task& task) mutable -> Session::Finish {
      const auto failed = [this](const Error& error) -> Session::Finish {
        return [this, error] {
          place_.bench.setPreview({});
          setError(core_text(error.message));
        };
      };
      if (!patch.curves.empty() || !patch.edges.empty()) {
        const auto border =
            model::border_of(ground.before, patch.curves, patch.edges, patch.tangent);
        if (!border) return failed(border.error());
        options.held = model::places_of(*border);
      }
      auto read = reading::read_patch(*ground.document, area, options, task);
      if (!read) return failed(read.error());
      patch.face = std::make_shared<const patch::SplineSurface>(read->patch.surface);
      return [this, patch, read = *std::move(read), trial = ground.attempt(patch, task)] {
        patch_ = patch;
        reading_ = read;
        if (showTrial(trial)) setEvidence(words());
      };
    });
  }
  void tryAgain() override {
    setKeepEnabled(false);
    place_.bench.setSelection(area_.regions, area_.triangles);
    if (!patch_.face) {
      place_.bench.setPreview({});
      place_.bench.setMarks({});
      return setEvidence(tr("Click a free-form region of the scan, or any smooth area."));
    }
    aside([this, patch = patch_, ground = ground()](const Task& task) -> Session::Finish {
      return [this, trial = ground.attempt(patch, task)] {
        if (showTrial(trial)) setEvidence(words());
      };
    });
  }
  [[nodiscard]] QString words() const {
    QString text = tr("%1 \u00d7 %2 poles").arg(patch_.face->nu).arg(patch_.face->nv);
    if (!reading_) return text;
    const patch::Patch& p = reading_->patch;
    text += tr(" \u00b7 RMS %1 \u00b7 95 % within %2 \u00b7 greatest %3")
                .arg(length_shown(p.rms, 4), length_shown(p.p95, 4), length_shown(p.greatest, 4));
    if (!patch_.curves.empty() || !patch_.edges.empty())
      text +=
          QStringLiteral("\n") + (patch_.tangent && !patch_.edges.empty()
                                      ? tr("border within %1, turned by at most %2\u00b0")
                                            .arg(length_shown(p.border_off, 4))
                                            .arg(p.border_turn * kDegrees, 0, 'f', 2)
                                      : tr("border within %1").arg(length_shown(p.border_off, 4)));
    if (!p.within) text += QStringLiteral("\n") + tr("The tolerance is not met.");
    if (p.follows_noise)
      text += QStringLiteral("\n") + tr("It follows noise: fewer spans would do.");
    return text;
  }

  reading::PatchArea area_;
  model::PatchFace patch_;
  std::optional<reading::PatchReading> reading_;
  std::shared_ptr<const project::Scan> scan_ = document().scan;
  std::shared_ptr<const survey::Survey> survey_ = document().survey;
  QDoubleSpinBox *tolerance_, *stiffness_, *beyond_;
  QSpinBox* spans_;
  QPushButton* border_;
  QCheckBox* tangent_;
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
