#include <QComboBox>
#include <numbers>

#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/datums.h"
#include "reading/probe.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

constexpr std::array<const char*, 6> kNames{"A1", "A2", "A3", "B1", "B2", "C1"};

/// The frame of a casting: six places on its rough faces, three, two and one, each averaged over a
/// small area.
class TargetsTool : public ToolCard {
 public:
  explicit TargetsTool(Workplace place) : ToolCard(place, tr("Targets"), tr("Datum")) {
    diameter_ = length(6, 0.5, 100, 1, 1, QStringLiteral("targetDiameter"));
    diameter_->setToolTip(tr("Of the area that each target is averaged over"));
    addRow(in_unit(tr("\u2300 of area, mm")), diameter_);
    primary_ = axisBox(datum::Axis::MinusZ, QStringLiteral("A becomes"));
    addRow(tr("A becomes"), primary_);
    secondary_ = axisBox(datum::Axis::MinusX, QStringLiteral("B becomes"));
    addRow(tr("B becomes"), secondary_);
    addButtons(
        {{tr("take back"), QStringLiteral("takeBack"), tr("Take the last target back"), [this] {
            if (!clicks_.empty()) clicks_.pop_back();
            update();
          }}});
    addCheckViews();
    connect(diameter_, &QDoubleSpinBox::valueChanged, this, [this] { update(); });
    for (QComboBox* box : {primary_, secondary_})
      connect(box, &QComboBox::currentIndexChanged, this, [this] { update(); });
    update();
  }
  void pick(const Pick& pick) override {
    if (pick.what != Pick::What::Scan || clicks_.size() == kNames.size()) return;
    // The preview may lie elsewhere than the document's frame: back to the scan's own place.
    const Vec3 at = shown().inverse() * pick.point;
    clicks_.push_back({pick.triangle, at});
    update();
  }
  void documentChanged() override {
    if (document().scan == scan_) return;
    clicks_.clear();
    update();
  }
  void resume() override { update(); }
  bool keep() override {
    if (!targets_) return false;
    commitAside(
        tr("set frame on targets"),
        [targets = *targets_, a = axisOf(primary_), b = axisOf(secondary_)](
            const project::Document& d) { return project::set_frame_on_targets(d, targets, a, b); },
        [this] { place_.bench.setPreviewPlacement({}); });
    return false;
  }

 private:
  struct Click {
    std::uint32_t triangle;
    Vec3 at;  ///< scan coordinates
  };
  static QComboBox* axisBox(datum::Axis axis, const QString& name) {
    auto* box = new QComboBox;
    for (int a = 0; a < 6; ++a)
      box->addItem(QString::fromUtf8(datum::axis_name(static_cast<datum::Axis>(a))));
    box->setCurrentIndex(static_cast<int>(axis));
    box->setObjectName(name);
    box->setToolTip(tr("What the outward normal of these targets becomes"));
    return box;
  }
  static datum::Axis axisOf(const QComboBox* box) {
    return static_cast<datum::Axis>(box->currentIndex());
  }
  [[nodiscard]] Transform shown() const { return preview_.value_or(document().to_part()); }
  /// What the clicks so far give: a probe each, the frame once there are six.
  struct Outcome {
    std::vector<reading::Probe> probes;
    std::optional<Error> error;
    std::optional<std::array<fit::SurfaceFit, 3>> planes;
    Transform to_part;
  };
  static Outcome settle(const project::Scan& scan, const std::vector<Click>& clicks, double reach,
                        datum::Axis primary, datum::Axis secondary) {
    Outcome out;
    for (const Click& c : clicks) {
      const auto probe = reading::probe_scan(scan, c.triangle, c.at, reach);
      if (!probe) {
        out.error = probe.error();
        return out;
      }
      out.probes.push_back(*probe);
    }
    if (out.probes.size() < kNames.size()) return out;
    const auto planes = datum::planes_of_targets(targetsOf(out.probes));
    if (!planes) {
      out.error = planes.error();
      return out;
    }
    datum::FrameInput input;
    input.primary = (*planes)[0].surface;
    input.primary_axis = primary;
    input.secondary = {(*planes)[1].surface};
    input.secondary_axis = secondary;
    input.origin = {(*planes)[1].surface, (*planes)[2].surface};
    const auto frame = datum::frame_321(input);
    if (!frame) {
      out.error = frame.error();
      return out;
    }
    out.planes = *planes;
    out.to_part = frame->to_part;
    return out;
  }
  static std::array<datum::TargetPoint, 6> targetsOf(const std::vector<reading::Probe>& probes) {
    std::array<datum::TargetPoint, 6> targets;
    for (std::size_t i = 0; i < targets.size(); ++i)
      targets[i] = {probes[i].point, probes[i].normal, probes[i].sigma};
    return targets;
  }
  void update() {
    scan_ = document().scan;
    targets_.reset();
    preview_.reset();
    place_.bench.setPreviewPlacement({});
    setKeepEnabled(false);
    if (!scan_) return;
    aside([this, scan = scan_, clicks = clicks_, reach = 0.5 * diameter_->value(),
           a = axisOf(primary_), b = axisOf(secondary_)](const Task&) -> Session::Finish {
      return [this, out = settle(*scan, clicks, reach, a, b)] { show(out); };
    });
  }
  void show(const Outcome& out) {
    // A click that gives no probe is taken back.
    if (out.probes.size() < clicks_.size()) clicks_.resize(out.probes.size());
    if (out.planes) {
      targets_ = targetsOf(out.probes);
      preview_ = out.to_part;
      place_.bench.setPreviewPlacement(preview_);
    }
    draw(out.probes);
    if (out.error) return setError(core_text(out.error->message));
    if (!out.planes)
      return setEvidence(tr("Click target %1: %2.")
                             .arg(QString::fromLatin1(kNames[out.probes.size()]),
                                  out.probes.size() < 3 ? tr("three places that the part stands on")
                                  : out.probes.size() < 5
                                      ? tr("two on the side that it is pushed against")
                                      : tr("one on the end stop")));
    QString text;
    for (std::size_t k = 0; k < 3; ++k)
      text += tr("%1: place \u00b1 %2, direction \u00b1 %3\u00b0\n")
                  .arg(QStringLiteral("ABC").mid(static_cast<int>(k), 1),
                       length_shown((*out.planes)[k].u_offset, 3),
                       QString::number((*out.planes)[k].u_angle * kDegrees, 'f', 3));
    setEvidence(text + tr("Preview shown."));
    setKeepEnabled(true);
  }
  /// Each target as a circle of its area with a cross, and its name.
  void draw(const std::vector<reading::Probe>& probes) {
    const Transform to_part = shown();
    LineBatch lines{{}, role::red_pencil, 1.8F, true};
    std::vector<Callout> names;
    const double r = 0.5 * diameter_->value();
    for (std::size_t i = 0; i < probes.size(); ++i) {
      const Vec3 c = to_part * probes[i].point;
      const Vec3 u = to_part.linear() * any_perpendicular(probes[i].normal);
      const Vec3 v = (to_part.linear() * probes[i].normal).cross(u);
      constexpr int kPieces = 40;
      for (int k = 0; k < kPieces; ++k) {
        const double a = 2 * std::numbers::pi * k / kPieces;
        const double b = 2 * std::numbers::pi * (k + 1) / kPieces;
        lines.segments.emplace_back(c + r * (std::cos(a) * u + std::sin(a) * v),
                                    c + r * (std::cos(b) * u + std::sin(b) * v));
      }
      lines.segments.emplace_back(c - r * u, c + r * u);
      lines.segments.emplace_back(c - r * v, c + r * v);
      names.push_back({c, QString::fromLatin1(kNames[i]), false});
    }
    place_.bench.setMarks({lines}, std::move(names));
  }
  QDoubleSpinBox* diameter_;
  QComboBox* primary_;
  QComboBox* secondary_;
  std::vector<Click> clicks_;
  std::shared_ptr<const project::Scan> scan_;
  std::optional<std::array<datum::TargetPoint, 6>> targets_;
  std::optional<Transform> preview_;
};

}  // namespace

Tool targets_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Targets"),
          "crosshair",
          QT_TRANSLATE_NOOP("tools", "Datum frame by six datum targets on rough faces"),
          kDatum,
          't',
          Tool::Needs::Scan,
          [](Workplace place, project::Id) -> ToolCard* { return new TargetsTool(place); }};
}

}  // namespace lostline::app
