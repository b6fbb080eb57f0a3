#include <QComboBox>

#include "deviation/places.h"
#include "deviation/section_compare.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/sketch_plane.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// What of the model the scan does not show, hatched on the model.
class MissingTool : public ToolCard {
 public:
  explicit MissingTool(Workplace place) : ToolCard(place, tr("Missing"), tr("Prove")) {
    reach_ = length(1, 0.05, 100, 0.25, 2, QStringLiteral("missingReach"));
    reach_->setToolTip(tr("A place of the model counts as seen when the scan lies this near"));
    addRow(in_unit(tr("seen within, mm")), reach_);
    connect(reach_, &QDoubleSpinBox::valueChanged, this, [this] { update(); });
    setOnlyDone();
    // However the card ends, the Bench shows what it showed.
    connect(this, &ToolCard::finished, this, [this] { place_.bench.setShow(shown_); });
  }
  void begin() override {
    shown_ = place_.bench.show();
    place_.bench.setShow(Show::Model);
    update();
  }
  void documentChanged() override { update(); }
  bool keep() override { return true; }

 private:
  void update() {
    const auto route = place_.session.route();
    if (!route->tessellation) return setEvidence(tr("There is no model yet: build a step first."));
    aside([this, route, document = place_.session.snapshot(),
           reach = reach_->value()](const Task& task) -> Session::Finish {
      auto found =
          deviation::coverage(*route->tessellation, route->solid.face_count(),
                              *document->scan->index, document->to_part().inverse(), reach, task);
      return [this, route, document, found = std::move(found)] {
        if (!found) return setError(core_text(found.error().message));
        setKeepEnabled(true);
        // One stroke across every piece that is not seen: a hatch.
        LineBatch hatch{{}, role::red_pencil, 1.0F, false};
        for (const auto& piece : found->unseen)
          hatch.segments.emplace_back(0.5 * (piece[0] + piece[1]), 0.5 * (piece[0] + piece[2]));
        place_.bench.setMarks({hatch});
        std::vector<std::pair<double, std::size_t>> faces;
        for (std::size_t f = 0; f < found->face_share.size(); ++f)
          faces.emplace_back(found->face_share[f], f);
        std::sort(faces.begin(), faces.end());
        QString text = tr("%1 % of the model's surface is seen; hatched: not")
                           .arg(QString::fromStdString(format_fixed(100 * found->share, 1)));
        for (std::size_t i = 0; i < std::min<std::size_t>(faces.size(), 4); ++i) {
          if (faces[i].first > 0.98) break;
          text += tr("\n%1 % of %2")
                      .arg(QString::fromStdString(format_fixed(100 * faces[i].first, 0)),
                           QString::fromStdString(project::face_title(
                               *document, route->solid.face_name(faces[i].second))));
        }
        setEvidence(text);
      };
    });
  }
  QDoubleSpinBox* reach_;
  Show shown_ = Show::Both;
};

}  // namespace

Tool missing_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Missing"),
          "scan-eye",
          QT_TRANSLATE_NOOP("tools", "What of the model the scan does not show"),
          kProve,
          'm',
          Tool::Needs::ScanAndModel,
          [](Workplace place, project::Id) -> ToolCard* { return new MissingTool(place); }};
}

}  // namespace lostline::app
