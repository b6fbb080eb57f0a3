#include <QSlider>

#include "look/preferences.h"
#include "tools/tool_card.h"

namespace lostline::app {
namespace {

QString fixed(double value, int decimals) {
  return QString::fromStdString(format_fixed(value, decimals));
}

/// Splits the scan into regions.
class SurveyTool : public ToolCard {
 public:
  explicit SurveyTool(Workplace place) : ToolCard(place, tr("Split into regions"), tr("Survey")) {
    slider_ = new QSlider(Qt::Horizontal);
    slider_->setRange(0, 100);
    slider_->setValue(50);
    slider_->setToolTip(tr("Smaller faces become regions of their own further right"));
    addRow(tr("smallest face"), slider_);
    connect(slider_, &QSlider::valueChanged, this, &SurveyTool::describe);
    setKeepText(tr("Split  \u23ce"));
    describe();
  }
  bool keep() override {
    Session& session = place_.session;
    const auto scan = document().scan;
    survey::SurveyOptions options;
    options.sensitivity = slider_->value() / 100.0;
    session.run(tr("survey"), [&session, scan, options](const Task& task) -> Session::Finish {
      auto found = survey::split_into_regions(*scan->mesh, scan->topology, options, task);
      return [&session, scan, found = std::move(found)] {
        if (!found) return session.report(found.error());
        if (session.document().scan != scan) return;  // another scan by now
        session.commit(tr("split into %1 regions").arg(found->regions.size()),
                       project::with_survey(session.document(),
                                            std::make_shared<const survey::Survey>(*found)));
      };
    });
    return true;
  }

 private:
  void describe() {
    const double share = std::pow(10.0, -2.3 - 2 * slider_->value() / 100.0);
    setEvidence(tr("Regions down to %1 mm\u00b2 (%2 % of the surface).")
                    .arg(fixed(share * document().scan->health.area, 1),
                         QString::number(100 * share, 'g', 2)));
  }
  QSlider* slider_;
};

}  // namespace

ToolCard* make_survey_tool(Workplace place) { return new SurveyTool(place); }

}  // namespace lostline::app
