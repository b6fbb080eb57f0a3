#include "project/evidence.h"
#include "tools/step_tool.h"

namespace lostline::app {
namespace {

/// Rounds edges of the model with a constant radius that the scan suggests.
class FilletTool : public StepTool {
 public:
  FilletTool(Workplace place, project::Id step)
      : StepTool(place, tr("Fillet"), step,
                 tr("fillet %1").arg(place.session.document().steps.size() + 1)) {
    radius_ = number(2, 0.01, 1000, 0.5, 3, QStringLiteral("radius"));
    addRow(tr("R, mm"), radius_);
    if (const model::Step* s = editedStep()) {
      const auto& f = std::get<model::Fillet>(s->feature);
      edges_ = f.edges;
      radius_->setValue(f.radius.value);
    }
    connect(radius_, &QDoubleSpinBox::valueChanged, this, [this] { update({}); });
  }
  void begin() override {
    place_.bench.setShow(Show::Model);
    update({});
  }
  void pick(const Pick& pick) override {
    if (!pick.edge) return setEvidence(tr("Click an edge of the model."));
    const model::Solid before = ground().before;
    const model::EdgeRef ref = place_.session.route()->solid.ref_of_edge(*pick.edge, pick.point);
    const auto same = std::find_if(edges_.begin(), edges_.end(), [&](const auto& e) {
      return e.face_a == ref.face_a && e.face_b == ref.face_b &&
             before.find_edge(e) == before.find_edge(ref);
    });
    if (same != edges_.end())
      edges_.erase(same);
    else
      edges_.push_back(ref);
    std::vector<Vec3> along;
    for (const auto& line : place_.session.route()->tessellation->edges) {
      if (line.edge == *pick.edge) along = line.points;
    }
    update(along);
  }
  bool keep() override {
    commit(model::Fillet{edges_, {radius_->value(), 0}},
           {field("radius", radius_, reading_ ? std::optional(reading_->radius) : std::nullopt,
                  reading_ ? reading_->u : 0, "scan beside the edge")});
    return false;
  }

 private:
  /// Reads the radius beside a picked edge, if one is given, and tries the step.
  void update(const std::vector<Vec3>& along) {
    setKeepEnabled(false);
    if (edges_.empty()) return setEvidence(tr("Click an edge of the model."));
    model::Fillet feature{edges_, {radius_->value(), 0}};
    aside([this, along, ground = ground(), feature,
           reading = reading_](const Task&) mutable -> Session::Finish {
      if (!along.empty()) {
        if (const auto found = project::read_edge_radius(*ground.document, along)) {
          reading = found;
          feature.radius.value = found->radius;
        }
      }
      return [this, feature, reading, trial = ground.attempt(feature)] {
        reading_ = reading;
        const QSignalBlocker block(radius_);
        radius_->setValue(feature.radius.value);
        if (!showTrial(trial)) return;
        setEvidence(tr("%1 edges").arg(edges_.size()) +
                    (reading_ ? tr("\nscan: R %1")
                                    .arg(QString::fromStdString(
                                        format_reading(reading_->radius, reading_->u)))
                              : tr("\nthe scan gives no radius here")));
      };
    });
  }
  QDoubleSpinBox* radius_;
  std::vector<model::EdgeRef> edges_;
  std::optional<project::RadiusReading> reading_;
};

}  // namespace

ToolCard* make_fillet_tool(Workplace place, project::Id step) {
  return new FilletTool(place, step);
}

}  // namespace lostline::app
