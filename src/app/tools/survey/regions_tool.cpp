#include <QSlider>

#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Splits the scan into regions; the split is shown while the slider moves.
class RegionsTool : public ToolCard {
 public:
  explicit RegionsTool(Workplace place) : ToolCard(place, tr("Regions"), tr("Survey")) {
    slider_ = new QSlider(Qt::Horizontal);
    slider_->setRange(0, 100);
    slider_->setValue(50);
    slider_->setObjectName(QStringLiteral("sensitivity"));
    slider_->setToolTip(tr("Smaller faces become regions of their own further right"));
    addRow(tr("smallest face"), slider_);
    connect(slider_, &QSlider::valueChanged, this, &RegionsTool::preview);
    setKeepText(tr("Split  \u23ce"));
    setEvidence(describe());
  }
  void begin() override { preview(); }
  void documentChanged() override {
    if (document().scan != split_ && document().scan) preview();
  }
  bool entered() override {
    // Not waiting for the preview: the split runs on by itself, with progress and cancel.
    if (found_) return false;
    survey::SurveyOptions options;
    options.sensitivity = slider_->value() / 100.0;
    place_.session.longEdit(
        tr("split into regions"),
        [options](const project::Document& d, const Task& task) -> Result<project::Document> {
          if (!d.scan)
            return Error{ErrorCode::InvalidInput, "The scan is gone, so this was not done."};
          auto found = survey::split_into_regions(*d.scan->mesh, d.scan->topology, options, task);
          if (!found) return found.error();
          return project::with_new_split(d,
                                         std::make_shared<const survey::Survey>(*std::move(found)));
        });
    close();
    return true;
  }
  bool keep() override {
    if (!found_) return false;
    place_.session.commit(tr("split into %1 regions").arg(found_->regions.size()),
                          project::with_new_split(document(), found_));
    return true;
  }

 private:
  [[nodiscard]] QString describe() const {
    const double share = std::pow(10.0, -2.3 - 2 * slider_->value() / 100.0);
    return tr("Regions down to %1 (%2 % of the surface).")
        .arg(area_text(share * document().scan->health.area), QString::number(100 * share, 'g', 2));
  }
  void preview() {
    found_.reset();
    split_ = document().scan;
    setEvidence(describe() + tr("\nSplitting …"));
    survey::SurveyOptions options;
    options.sensitivity = slider_->value() / 100.0;
    aside([this, scan = document().scan, options](const Task& task) -> Session::Finish {
      auto found = survey::split_into_regions(*scan->mesh, scan->topology, options, task);
      LineBatch borders{{}, role::red_pencil, 1.4F, true};
      if (found) {
        for (std::size_t t = 0; t < scan->mesh->triangles.size(); ++t) {
          for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t other = scan->topology.across[3 * t + k];
            if (other == scan::kNone || other < t ||
                found->triangle_region[other] == found->triangle_region[t])
              continue;
            borders.segments.emplace_back(scan->mesh->corner(t, static_cast<int>(k)),
                                          scan->mesh->corner(t, (static_cast<int>(k) + 1) % 3));
          }
        }
      }
      return [this, scan, found = std::move(found), borders = std::move(borders)]() mutable {
        if (document().scan != scan) return;  // another scan by now
        if (!found) return setError(core_text(found.error().message));
        found_ = std::make_shared<const survey::Survey>(*std::move(found));
        const Transform to_part = document().to_part();
        for (auto& [a, b] : borders.segments) {
          a = to_part * a;
          b = to_part * b;
        }
        place_.bench.setMarks({borders});
        std::size_t fits = 0;
        for (const survey::Region& r : found_->regions) fits += r.fit ? 1 : 0;
        setEvidence(describe() +
                    tr("\n%1 regions, %2 with a fit, %3 patterns; %4 % of the surface in none.")
                        .arg(found_->regions.size())
                        .arg(fits)
                        .arg(found_->patterns.size())
                        .arg(100 * found_->unassigned_area_fraction, 0, 'f', 1));
        setKeepEnabled(true);
      };
    });
  }
  QSlider* slider_;
  std::shared_ptr<const survey::Survey> found_;
  std::shared_ptr<const project::Scan> split_;  ///< that the preview is of
};

}  // namespace

Tool regions_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Regions"),
          "shapes",
          QT_TRANSLATE_NOOP("tools", "Split the scan into regions"),
          kSurvey,
          's',
          Tool::Needs::Scan,
          [](Workplace place, project::Id) -> ToolCard* { return new RegionsTool(place); }};
}

}  // namespace lostline::app
