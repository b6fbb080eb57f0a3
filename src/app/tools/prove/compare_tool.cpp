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

QString signed_length(double value, int decimals = 3) {
  return QString::fromStdString((value > 0 ? "+" : "") + length_fixed(value, decimals));
}

/// A plane section of scan against model: both cuts in the Strip, with whiskers.
class CompareTool : public ToolCard {
 public:
  explicit CompareTool(Workplace place) : ToolCard(place, tr("Compare"), tr("Prove")) {
    plane_ = new QComboBox;
    plane_->setObjectName(QStringLiteral("comparePlane"));
    plane_->addItems({tr("xy plane"), tr("xz plane"), tr("yz plane")});
    addRow(tr("cut by"), plane_);
    level_ = length(0, -10000, 10000, 1, 2, QStringLiteral("compareLevel"));
    level_->setToolTip(tr("Distance from the plane; drag on the Bench or use the arrow keys"));
    addRow(in_unit(tr("offset, mm")), level_);
    // However the card ends, the Strip goes back to the deviation.
    connect(this, &ToolCard::finished, this, [this] { place_.strip.showHistogram(); });
    connect(plane_, &QComboBox::currentIndexChanged, this, [this] { update(); });
    connect(level_, &QDoubleSpinBox::valueChanged, this, [this] { update(); });
    setOnlyDone();
  }
  void begin() override {
    // A level that cuts the part: its middle.
    const Box3 box = place_.session.route()->solid.box();
    if (!box.isEmpty()) level_->setValue(std::round(box.center().z()));
    update();
  }
  void documentChanged() override { update(); }
  void pick(const Pick& pick) override {
    dragged_from_ = pick.screen;
    level_at_press_ = level_->value();
  }
  void drag(const QPointF& at, bool) override {
    const Camera& camera = place_.bench.camera();
    const Placement plane = base();
    const QPointF axis =
        camera.toScreen(plane.origin + plane.normal) - camera.toScreen(plane.origin);
    const double squared = QPointF::dotProduct(axis, axis);
    if (squared < 0.01) return;
    level_->setValue(
        std::round(level_at_press_ + QPointF::dotProduct(at - dragged_from_, axis) / squared));
    place_.bench.stir();
  }
  bool keep() override { return true; }

 private:
  [[nodiscard]] Placement base() const {
    return project::datum_placement(static_cast<project::DatumPlane>(plane_->currentIndex()));
  }
  void update() {
    const auto route = place_.session.route();
    if (route->solid.empty()) return setEvidence(tr("There is no model yet: build a step first."));
    aside([this, document = place_.session.snapshot(), solid = route->solid, plane = base(),
           level = level_->value()](const Task&) -> Session::Finish {
      const auto model = deviation::cut_solid(solid, plane.shifted(level));
      if (!model) return [this, error = model.error()] { setError(core_text(error.message)); };
      const double reach = std::max(2.0, 5 * document->deviation_range);
      auto compared =
          std::make_shared<const deviation::SectionComparison>(deviation::compare_sections(
              project::cut_scan(*document, plane, level), *model, reach, document->tolerance));
      return [this, compared, plane, level, document] {
        setKeepEnabled(true);
        show(*compared, plane, level, document->tolerance);
      };
    });
  }
  void show(const deviation::SectionComparison& c, const Placement& plane, double level,
            double tolerance) {
    LineBatch scan{{}, role::graphite, 1.6F, true};
    LineBatch model{{}, role::ink, 2.0F, true};
    const auto add = [&](const section::Section& section, LineBatch& batch) {
      for (const auto& line : section.polylines) {
        for (std::size_t i = 1; i < line.points.size() + (line.closed ? 1 : 0); ++i)
          batch.segments.emplace_back(plane.to_space(line.points[i - 1], level),
                                      plane.to_space(line.points[i % line.points.size()], level));
      }
    };
    add(c.scan, scan);
    add(c.model, model);
    std::vector<Callout> callouts;
    if (!c.whiskers.empty())
      callouts.push_back({plane.to_space(c.greatest_at, level), signed_length(c.greatest), false});
    place_.bench.setMarks({scan, model}, callouts);
    place_.strip.showComparison(
        c, tr("Scan against model, %1 at %2")
               .arg(plane_->currentText(),
                    QString::fromStdString(length_trimmed(level_->value(), 2))));
    if (c.model.polylines.empty()) return setEvidence(tr("The plane misses the model."));
    if (c.whiskers.empty()) return setEvidence(tr("The scan shows nothing near this cut."));
    setEvidence(tr("RMS %1 \u00b7 mean %2 \u00b7 greatest %3\n%4 % within \u00b1%5; %6 scan points "
                   "have no model near")
                    .arg(length_shown(c.rms, 3), signed_length(c.mean), signed_length(c.greatest),
                         QString::fromStdString(format_fixed(100 * c.within_fraction, 1)),
                         QString::fromStdString(length_trimmed(tolerance, 3)),
                         QString::fromStdString(format_count(c.far))));
  }
  QComboBox* plane_;
  QDoubleSpinBox* level_;
  QPointF dragged_from_;
  double level_at_press_ = 0;
};

}  // namespace

Tool compare_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Compare"),
          "diff",
          QT_TRANSLATE_NOOP("tools", "A plane section of scan against model, with whiskers"),
          kProve,
          'c',
          Tool::Needs::ScanAndModel,
          [](Workplace place, project::Id) -> ToolCard* { return new CompareTool(place); }};
}

}  // namespace lostline::app
