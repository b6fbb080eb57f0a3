#include "look/preferences.h"
#include "look/theme.h"
#include "scan/clean.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Settles the scale by a length that is known: two clicks and the true value.
class ScaleTool : public ToolCard {
 public:
  explicit ScaleTool(Workplace place) : ToolCard(place, tr("Scale"), tr("Receive")) {
    length_ = length(0, 0, 1e6, 1, 3, QStringLiteral("knownLength"));
    addRow(in_unit(tr("true length, mm")), length_);
    connect(length_, &QDoubleSpinBox::valueChanged, this, [this] { describe(); });
    describe();
  }
  void documentChanged() override {
    if (document().scan == scan_) return;
    scan_ = document().scan;
    points_.clear();
    resume();
    describe();
  }
  void pick(const Pick& pick) override {
    if (pick.what != Pick::What::Scan) return;
    if (points_.size() == 2) points_.clear();
    points_.push_back(pick.point);
    if (points_.size() == 2) {
      const QSignalBlocker block(length_);
      length_->setValue(measured());
    }
    resume();
    describe();
  }
  void resume() override {
    LineBatch line{{}, role::red_pencil, 1.6F, true};
    std::vector<Callout> ends;
    for (const Vec3& p : points_) ends.push_back({p, QString::number(ends.size() + 1), false});
    if (points_.size() == 2) line.segments.emplace_back(points_[0], points_[1]);
    place_.bench.setMarks({line}, ends);
  }
  bool keep() override {
    const double factor = length_->value() / measured();
    place_.session.longEdit(
        tr("scale by %1").arg(QString::fromStdString(format_trimmed(factor, 5))),
        [factor](const project::Document& d, const Task& task) -> Result<project::Document> {
          if (!d.scan)
            return Error{ErrorCode::InvalidInput, "The scan is gone, so this was not done."};
          const project::Scan& now = *d.scan;
          const auto prepared =
              project::prepare_scan(scan::transformed(*now.mesh, Transform(Eigen::Scaling(factor))),
                                    now.name, now.source, now.unit, task);
          if (!prepared) return prepared.error();
          return project::with_changed_scan(d, *prepared);
        });
    return true;
  }

 private:
  [[nodiscard]] double measured() const {
    return points_.size() == 2 ? (points_[1] - points_[0]).norm() : 0;
  }
  void describe() {
    if (points_.size() < 2) {
      setKeepEnabled(false);
      return setEvidence(tr("Click the two ends of a length that you know."));
    }
    if (!(measured() > 1e-6)) {
      setKeepEnabled(false);
      return setError(tr("The two places are one. Click another end."));
    }
    const double factor = length_->value() / measured();
    setKeepEnabled(length_->value() > 0);
    setEvidence(tr("The scan says %1 %3; the scan will be scaled by %2.")
                    .arg(length_shown(measured(), 3),
                         QString::fromStdString(format_trimmed(factor, 5)), length_unit()));
  }
  QDoubleSpinBox* length_;
  std::vector<Vec3> points_;
  std::shared_ptr<const project::Scan> scan_ = document().scan;
};

}  // namespace

Tool scale_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Scale"),
          "scaling",
          QT_TRANSLATE_NOOP("tools", "Settle the scale by a length that you know"),
          kReceive,
          's',
          Tool::Needs::Scan,
          [](Workplace place, project::Id) -> ToolCard* { return new ScaleTool(place); }};
}

}  // namespace lostline::app
