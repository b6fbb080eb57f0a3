#include <QComboBox>
#include <algorithm>
#include <cmath>

#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "scan/health.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

QString millimetres(double value) { return length_shown(value, value < 0.1 ? 4 : 3); }

/// Noise and spacing of the scan, painted place by place, and its open borders.
class QualityTool : public ToolCard {
 public:
  explicit QualityTool(Workplace place) : ToolCard(place, tr("Quality"), tr("Receive")) {
    what_ = new QComboBox;
    what_->setObjectName(QStringLiteral("qualityWhat"));
    what_->addItems({tr("noise"), tr("spacing (coverage)")});
    addRow(tr("show"), what_);
    connect(what_, &QComboBox::currentIndexChanged, this, [this] { show(); });
    setOnlyDone();
  }
  void begin() override { measure(); }
  void documentChanged() override {
    if (document().scan != scan_) measure();
  }
  bool keep() override { return true; }

 private:
  void measure() {
    scan_ = document().scan;
    quality_.reset();
    if (!scan_) return;
    setEvidence(tr("looking at every place \u2026"));
    aside([this, scan = scan_](const Task& task) -> Session::Finish {
      auto found = scan::local_quality(*scan->mesh, scan->topology, task);
      return [this, found = std::move(found)] {
        if (!found) return setError(core_text(found.error().message));
        quality_ = std::make_shared<const scan::LocalQuality>(*found);
        setKeepEnabled(true);
        show();
      };
    });
  }
  void show() {
    if (!quality_) return;
    const bool noise = what_->currentIndex() == 0;
    const std::vector<float>& values = noise ? quality_->noise : quality_->spacing;
    std::vector<float> sorted;
    for (const float v : values) {
      if (std::isfinite(v) && v > 0) sorted.push_back(v);
    }
    if (sorted.empty()) return setError(tr("The scan is too small to tell."));
    std::sort(sorted.begin(), sorted.end());
    const auto at = [&](double share) {
      return static_cast<double>(
          sorted[static_cast<std::size_t>(share * static_cast<double>(sorted.size() - 1))]);
    };
    // Doublings of the typical value: what is twice as rough is one step of the scale.
    const double typical = at(0.5);
    auto doublings = std::make_shared<std::vector<float>>(values.size());
    for (std::size_t i = 0; i < values.size(); ++i)
      (*doublings)[i] = static_cast<float>(std::log2(values[i] / typical));
    Field field;
    field.values = doublings;
    field.range = 2;
    field.tolerance = 0.5F;
    for (const int k : {2, 1, 0, -1, -2})
      field.ticks.emplace_back(k, millimetres(typical * std::pow(2.0, k)));
    field.high = noise ? tr("noisier") : tr("sparser");
    field.low = noise ? tr("smoother") : tr("denser");
    place_.bench.setField(field);
    const Transform to_part = document().to_part();
    const scan::Mesh& mesh = *scan_->mesh;
    LineBatch borders{{}, role::red_pencil, 1.6F, false};
    double length = 0;
    for (std::size_t i = 0; i < scan_->topology.across.size(); ++i) {
      if (scan_->topology.across[i] != scan::kNone) continue;
      const Vec3 a = to_part * mesh.corner(i / 3, static_cast<int>(i % 3));
      const Vec3 b = to_part * mesh.corner(i / 3, static_cast<int>((i + 1) % 3));
      borders.segments.emplace_back(a, b);
      length += (b - a).norm();
    }
    place_.bench.setMarks({borders});
    const auto beyond =
        std::count_if(sorted.begin(), sorted.end(), [&](float v) { return v > 2 * typical; });
    setEvidence(
        tr("typical %1 %5; nine tenths below %2\n%3 % of the points above twice that\n"
           "open borders %4 %5, in red")
            .arg(millimetres(typical), millimetres(at(0.9)),
                 QString::fromStdString(format_fixed(
                     100.0 * static_cast<double>(beyond) / static_cast<double>(sorted.size()), 1)),
                 length_shown(length, 0), length_unit()));
  }
  QComboBox* what_;
  std::shared_ptr<const project::Scan> scan_;
  std::shared_ptr<const scan::LocalQuality> quality_;
};

}  // namespace

Tool quality_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Quality"),
          "chart-scatter",
          QT_TRANSLATE_NOOP("tools", "Noise and spacing of the scan, place by place"),
          kReceive,
          'q',
          Tool::Needs::Scan,
          [](Workplace place, project::Id) -> ToolCard* { return new QualityTool(place); }};
}

}  // namespace lostline::app
