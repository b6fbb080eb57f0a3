#include <QSpinBox>
#include <numbers>

#include "look/catalogue.h"
#include "model/steps/free_body/free_body.h"
#include "reading/free_form.h"
#include "tools/build/step_tool.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// The whole closed scan as a solid of smooth patches.
class FreeBodyTool : public StepTool {
 public:
  FreeBodyTool(Workplace place, project::Id step)
      : StepTool(place, tr("Free body"), step,
                 tr("free body %1").arg(place.session.document().steps.size() + 1)) {
    addButtons({{tr("fit"), QStringLiteral("fitBody"),
                 tr("Fit patches to the whole scan with these numbers"), [this] { fit(); }}});
    patches_ = count(2000, QStringLiteral("patches"), tr("About so many; 0: as few as do"));
    addRow(tr("patches"), patches_);
    tolerance_ = length(0, 0, 100, 0.01, 4, QStringLiteral("bodyTolerance"));
    tolerance_->setToolTip(tr("95 % of the points lie nearer than this; 0: as the noise asks"));
    addRow(in_unit(tr("tolerance, mm")), tolerance_);
    spans_ =
        count(40, QStringLiteral("spans"), tr("Of each side of each patch; 0: by the tolerance"));
    addRow(tr("spans"), spans_);
    stiffness_ = number(0, -3, 3, 1, 0, QStringLiteral("stiffness"));
    stiffness_->setToolTip(tr("Larger is stiffer: each step counts tenfold"));
    addRow(tr("stiffer"), stiffness_);
    if (const model::Step* s = editedStep()) body_ = *s->feature.as<model::FreeBody>();
  }
  void begin() override {
    place_.bench.setShow(Show::Both);
    if (body_.faces == nullptr) return fit();
    tryAgain();
  }
  bool keep() override {
    commit(body_, {});
    return false;
  }

 private:
  QSpinBox* count(int most, const QString& name, const QString& tip) {
    auto* box = new QSpinBox;
    box->setRange(0, most);
    box->setAlignment(Qt::AlignRight);
    box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    box->setKeyboardTracking(false);
    box->setObjectName(name);
    box->setToolTip(tip);
    return box;
  }
  void fit() {
    setKeepEnabled(false);
    setEvidence(tr("fitting the patches \u2026"));
    patch::FreeBodyOptions options;
    options.tolerance = tolerance_->value();
    options.patches = static_cast<std::size_t>(patches_->value());
    options.spans = static_cast<std::size_t>(spans_->value());
    options.stiffness *= std::pow(10.0, stiffness_->value());
    aside([this, body = body_, options,
           ground = ground()](const Task& task) mutable -> Session::Finish {
      auto read = reading::read_free_body(*ground.document, options, task);
      if (!read) return [this, error = read.error()] { setError(core_text(error.message)); };
      body.faces = std::make_shared<const patch::SplineSurfaces>(read->patches);
      return [this, body, read = *std::move(read), trial = ground.attempt(body, task)] {
        body_ = body;
        fitted_ = read;
        if (showTrial(trial)) setEvidence(words());
      };
    });
  }
  void tryAgain() override {
    setKeepEnabled(false);
    if (body_.faces == nullptr) {
      place_.bench.setPreview({});
      return;
    }
    aside([this, body = body_, ground = ground()](const Task& task) -> Session::Finish {
      return [this, trial = ground.attempt(body, task)] {
        if (showTrial(trial)) setEvidence(words());
      };
    });
  }
  [[nodiscard]] QString words() const {
    const auto& faces = *body_.faces;
    QString text = tr("%1 patches of %2 \u00d7 %3 poles")
                       .arg(faces.size())
                       .arg(faces.front().nu)
                       .arg(faces.front().nv);
    if (!fitted_) return text;
    text += QStringLiteral("\n") + tr("RMS %1 \u00b7 95 % within %2 \u00b7 greatest %3")
                                       .arg(length_shown(fitted_->rms, 4),
                                            length_shown(fitted_->p95, 4),
                                            length_shown(fitted_->greatest, 4));
    text +=
        QStringLiteral("\n") +
        tr("patches meet within %1\u00b0").arg(fitted_->crease * 180 / std::numbers::pi, 0, 'f', 2);
    if (!fitted_->within) text += QStringLiteral("\n") + tr("The tolerance is not met.");
    return text;
  }

  model::FreeBody body_;
  std::optional<patch::FreeBody> fitted_;
  QDoubleSpinBox *tolerance_, *stiffness_;
  QSpinBox *patches_, *spans_;
};

}  // namespace

Tool free_body_tool() {
  Tool tool = step_tool(
      model::FreeBody::kind, Tool::Needs::Scan,
      [](Workplace place, project::Id step) -> ToolCard* { return new FreeBodyTool(place, step); });
  tool.group = QT_TRANSLATE_NOOP("tools", "From scan");
  return tool;
}

}  // namespace lostline::app
