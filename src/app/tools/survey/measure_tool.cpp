#include <QComboBox>

#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/fits.h"
#include "reading/probe.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Distance or angle between two fits; radius by three points, wall thickness or distance between
/// points of the scan. Kept as a Ledger row.
class MeasureTool : public ToolCard {
 public:
  explicit MeasureTool(Workplace place) : ToolCard(place, tr("Measure"), tr("Survey")) {
    what_ = new QComboBox;
    what_->setObjectName(QStringLiteral("measureWhat"));
    what_->addItems({tr("distance of two fits"), tr("angle of two fits"),
                     tr("radius by three points"), tr("wall thickness"),
                     tr("distance of two points")});
    addRow(tr("what"), what_);
    between_ = new PickField(tr("pick two fits"), 2, tr("between"));
    between_->setWaiting(true);
    between_label_ = addRow(tr("between"), between_);
    connect(between_, &QPushButton::clicked, this, [this] {
      between_->clear(document());
      update();
    });
    connect(what_, &QComboBox::currentIndexChanged, this, [this] {
      probes_.clear();
      update();
    });
    if (!document().survey && document().fits.empty()) what_->setCurrentIndex(kThickness);
    update();
  }
  void pick(const Pick& pick) override {
    if (!byPoints()) {
      if (pick.region != 0) pickRef({pick.region, 0});
      return;
    }
    if (pick.what != Pick::What::Scan) return;
    const auto probe = reading::probe_scan(*document().scan, pick.triangle,
                                           document().to_part().inverse() * pick.point);
    if (!probe) return setError(core_text(probe.error().message));
    if (probes_.size() >= wanted()) probes_.clear();
    probes_.push_back(*probe);
    update();
  }
  void documentChanged() override {
    const bool pruned = between_->prune(document());
    if (document().scan == scan_ && !pruned) return;
    if (document().scan != scan_) probes_.clear();
    scan_ = document().scan;
    update();
  }
  void resume() override { update(); }
  void pickRef(const project::FitRef& ref) override {
    if (byPoints()) return;
    between_->offer(ref, document());
    update();
  }
  bool keep() override {
    if (byPoints()) {
      if (!measured_) return false;
      place_.session.commit(
          tr("measure %1").arg(what_->currentText()),
          reading::add_point_measurement(document(), *measured_, probes_).document);
      return true;
    }
    auto added = project::add_measurement(document(), between_->refs()[0], between_->refs()[1],
                                          what_->currentIndex() == kAngle);
    if (!added) {
      setError(core_text(added.error().message));
      return false;
    }
    place_.session.commit(tr("measure"), added->document);
    return true;
  }

 private:
  enum { kDistance, kAngle, kRadius, kThickness, kPoints };
  [[nodiscard]] bool byPoints() const { return what_->currentIndex() >= kRadius; }
  [[nodiscard]] std::size_t wanted() const {
    const int what = what_->currentIndex();
    return what == kRadius ? 3 : what == kThickness ? 1 : 2;
  }
  void update() {
    between_->setVisible(!byPoints());
    between_label_->setVisible(!byPoints());
    measured_.reset();
    setKeepEnabled(false);
    byPoints() ? updatePoints() : updateFits();
  }
  void updateFits() {
    place_.bench.setMarks({});
    place_.bench.setSelection(regions_of(between_->refs()));
    if (between_->refs().size() < 2) return setEvidence(tr("Click two regions or fits."));
    const bool angle = what_->currentIndex() == kAngle;
    const auto m = project::measure(document(), between_->refs()[0], between_->refs()[1], angle);
    if (!m) return setError(core_text(m.error().message));
    setEvidence(angle ? QString::fromStdString(m->what + "\n" + format_reading(m->value, m->u)) +
                            QStringLiteral("\u00b0")
                      : QString::fromStdString(m->what + "\n" + length_reading(m->value, m->u)) +
                            QLatin1Char(' ') + length_unit());
    setKeepEnabled(true);
  }
  void updatePoints() {
    const Transform to_part = document().to_part();
    LineBatch marks{{}, role::red_pencil, 1.8F, true};
    const auto cross = [&](const Vec3& p) {
      for (const Vec3& d : {Vec3(1, 0, 0), Vec3(0, 1, 0), Vec3(0, 0, 1)})
        marks.segments.emplace_back(to_part * p - d, to_part * p + d);
    };
    for (const reading::Probe& p : probes_) cross(p.point);
    if (probes_.size() < wanted()) {
      place_.bench.setMarks({marks});
      return setEvidence(
          tr("Click %1 of %2 points on the scan.").arg(probes_.size() + 1).arg(wanted()));
    }
    Result<project::Measurement> m = Error{ErrorCode::InvalidInput, ""};
    Vec3 at = to_part * probes_.front().point;
    if (what_->currentIndex() == kRadius) {
      m = reading::radius_by_three(probes_);
    } else if (what_->currentIndex() == kPoints) {
      m = reading::point_distance(probes_[0], probes_[1]);
      marks.segments.emplace_back(to_part * probes_[0].point, to_part * probes_[1].point);
      at = 0.5 * (to_part * probes_[0].point + to_part * probes_[1].point);
    } else {
      const auto t = reading::wall_thickness(*document().scan, probes_.front());
      if (t) {
        m = t->measurement;
        cross(t->far.point);
        marks.segments.emplace_back(to_part * t->near.point, to_part * t->far.point);
      } else {
        m = t.error();
      }
    }
    if (!m) {
      place_.bench.setMarks({marks});
      return setError(core_text(m.error().message));
    }
    measured_ = *m;
    const QString reading = QString::fromStdString(length_reading(m->value, m->u));
    place_.bench.setMarks({marks}, {{at, reading, true}});
    setEvidence(QString::fromStdString(m->what) + QLatin1Char('\n') + reading + QLatin1Char(' ') +
                length_unit());
    setKeepEnabled(true);
  }
  QComboBox* what_;
  PickField* between_;
  QLabel* between_label_;
  std::shared_ptr<const project::Scan> scan_ = document().scan;
  std::vector<reading::Probe> probes_;
  std::optional<project::Measurement> measured_;
};

}  // namespace

Tool measure_tool() {
  Tool tool{QT_TRANSLATE_NOOP("tools", "Measure"),
            "ruler",
            QT_TRANSLATE_NOOP("tools", "Distances, angles, radius by three points, wall thickness"),
            kSurvey,
            'm',
            Tool::Needs::Scan,
            [](Workplace place, project::Id) -> ToolCard* { return new MeasureTool(place); }};
  tool.takes = {Item::Kind::Region, Item::Kind::Fit};
  return tool;
}

}  // namespace lostline::app
