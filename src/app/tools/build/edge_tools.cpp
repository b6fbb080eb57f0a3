
#include "look/preferences.h"
#include "model/steps/chamfer/chamfer.h"
#include "model/steps/fillet/fillet.h"
#include "reading/evidence.h"
#include "reading/step_reading.h"
#include "scan/mesh.h"
#include "tools/build/step_tool.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// A step on edges that are picked on the model.
class EdgeTool : public StepTool {
 protected:
  using StepTool::StepTool;
  void begin() override {
    place_.bench.setShow(Show::Model);
    update({});
  }
  void pick(const Pick& pick) override {
    if (!pick.edge && pick.what == Pick::What::Model && pick.face < shownModel().face_count())
      return pickFace(pick.face);
    if (!pick.edge) return setEvidence(tr("Click an edge of the model, or a face for all of its."));
    const model::Model before = ground().before;
    const model::EdgeRef ref = shownModel().ref_of_edge(*pick.edge, pick.point);
    const auto same = std::find_if(edges_.begin(), edges_.end(), [&](const auto& e) {
      return e.face_a == ref.face_a && e.face_b == ref.face_b &&
             before.find_edge(e) == before.find_edge(ref);
    });
    if (same != edges_.end())
      edges_.erase(same);
    else
      edges_.push_back(ref);
    std::vector<Vec3> along;
    for (const auto& line : shownTriangles()->edges) {
      if (line.edge == *pick.edge) along = line.points;
    }
    update(along);
  }
  void tryAgain() override { update({}); }
  /// All edges of a face, or none of them where all were chosen.
  void pickFace(std::size_t face) {
    const model::Model solid = shownModel();
    const std::string& name = solid.face_name(face);
    std::vector<model::EdgeRef> all;
    for (const auto& line : shownTriangles()->edges) {
      const model::EdgeRef ref = solid.ref_of_edge(line.edge, line.points[line.points.size() / 2]);
      if (ref.face_a == name || ref.face_b == name) all.push_back(ref);
    }
    const auto chosen = [&](const model::EdgeRef& ref) {
      return std::find_if(edges_.begin(), edges_.end(), [&](const auto& e) {
        return solid.find_edge(e) == solid.find_edge(ref);
      });
    };
    const bool every = std::all_of(all.begin(), all.end(),
                                   [&](const auto& ref) { return chosen(ref) != edges_.end(); });
    for (const model::EdgeRef& ref : all) {
      const auto known = chosen(ref);
      if (every)
        edges_.erase(known);
      else if (known == edges_.end())
        edges_.push_back(ref);
    }
    update({});
  }
  /// A grip at the last edge: away from the part makes it larger.
  std::vector<Grip> gripOf(QDoubleSpinBox* box, std::optional<double> reading) {
    if (edges_.empty() || !shownTriangles()) return {};
    const Vec3 at = edges_.back().near;
    const Vec3 out = at - scan::bounds(shownTriangles()->mesh).center();
    if (!(out.norm() > 0)) return {};
    return {{box, at, out.normalized(), 1, reading}};
  }
  /// Tries the step; reads the scan beside a newly picked edge when one is given.
  virtual void update(const std::vector<Vec3>& along) = 0;

  std::vector<model::EdgeRef> edges_;
};

/// Rounds edges of the model with a constant radius that the scan suggests.
class FilletTool : public EdgeTool {
 public:
  FilletTool(Workplace place, project::Id step)
      : EdgeTool(place, tr("Fillet"), step,
                 tr("fillet %1").arg(place.session.document().steps.size() + 1)) {
    radius_ = length(2, 0.01, 1000, 0.5, 3, QStringLiteral("radius"));
    addRow(in_unit(tr("R, mm")), radius_);
    end_ = length(0, 0, 1000, 0.5, 3, QStringLiteral("endRadius"));
    end_->setToolTip(tr("Radius at the other end of each chain of edges; 0: the same"));
    addRow(in_unit(tr("to R, mm")), end_);
    other_ = new QCheckBox(tr("from the other end"));
    other_->setObjectName(QStringLiteral("otherEnd"));
    addWide(other_);
    if (const model::Step* s = editedStep()) {
      const auto& f = *s->feature.as<model::Fillet>();
      decided_ = true;
      edges_ = f.edges;
      radius_->setValue(f.radius.value);
      end_->setValue(f.grows ? f.end_radius.value : 0);
      other_->setChecked(f.other_end);
    }
    connect(radius_, &QDoubleSpinBox::valueChanged, this, [this] {
      decided_ = true;
      update({});
    });
    connect(end_, &QDoubleSpinBox::valueChanged, this, [this] { update({}); });
    connect(other_, &QCheckBox::toggled, this, [this] { update({}); });
  }
  bool keep() override {
    std::vector<project::FieldReading> rows{
        field("radius", radius_, reading_ ? reading_->reading : std::nullopt,
              reading_ ? reading_->u : 0, reading_ ? reading_->source : "typed")};
    if (end_->value() > 0) rows.push_back(field("end radius", end_, std::nullopt, 0, "typed"));
    commit(feature(), rows);
    return false;
  }

 private:
  void update(const std::vector<Vec3>&) override {
    setKeepEnabled(false);
    if (edges_.empty()) return setEvidence(tr("Click an edge of the model."));
    aside([this, read = edges_ != read_for_, decided = decided_, ground = ground(),
           feature = feature(), reading = reading_](const Task& task) mutable -> Session::Finish {
      if (read) {
        const auto found =
            reading::read_step(*ground.document, feature, ground.before, ground.step, task);
        reading = found.empty() ? std::nullopt : std::optional(found.front());
        if (reading && reading->reading && !decided) feature.radius.value = *reading->reading;
      }
      return [this, feature, reading, trial = ground.attempt(feature, task)] {
        reading_ = reading;
        read_for_ = feature.edges;
        const QSignalBlocker block(radius_);
        radius_->setValue(feature.radius.value);
        if (!showTrial(trial)) return;
        setEvidence(tr("%1 edges").arg(edges_.size()) +
                    (reading_ ? tr("\nscan: R %1")
                                    .arg(QString::fromStdString(
                                        length_reading(*reading_->reading, reading_->u)))
                              : tr("\nthe scan gives no radius here")));
      };
    });
  }
  std::vector<Grip> grips() override {
    return gripOf(radius_, reading_ ? reading_->reading : std::nullopt);
  }
  [[nodiscard]] model::Fillet feature() const {
    model::Fillet fillet;
    fillet.edges = edges_;
    fillet.radius.value = radius_->value();
    fillet.grows = end_->value() > 0;
    fillet.end_radius.value = end_->value();
    fillet.other_end = other_->isChecked();
    return fillet;
  }
  QDoubleSpinBox *radius_, *end_;
  QCheckBox* other_;
  std::optional<project::FieldReading> reading_;  ///< of the edges that it was read for
  std::vector<model::EdgeRef> read_for_;
  bool decided_ = false;  ///< the radius was typed: a reading does not change it
};

/// Bevels edges of the model with a leg and an angle.
class ChamferTool : public EdgeTool {
 public:
  ChamferTool(Workplace place, project::Id step)
      : EdgeTool(place, tr("Chamfer"), step,
                 tr("chamfer %1").arg(place.session.document().steps.size() + 1)) {
    leg_ = length(1, 0.01, 1000, 0.5, 3, QStringLiteral("leg"));
    angle_ = number(45, 1, 89, 5, 2, QStringLiteral("angle"));
    addRow(in_unit(tr("leg, mm")), leg_);
    addRow(tr("angle, \u00b0"), angle_);
    if (const model::Step* s = editedStep()) {
      const auto& c = *s->feature.as<model::Chamfer>();
      edges_ = c.edges;
      leg_->setValue(c.distance.value);
      angle_->setValue(c.angle.value * kDegrees);
    }
    for (auto* box : {leg_, angle_})
      connect(box, &QDoubleSpinBox::valueChanged, this, [this] { update({}); });
  }
  bool keep() override {
    commit(feature(), {field("leg", leg_, reading_ ? std::optional(reading_->leg) : std::nullopt,
                             reading_ ? reading_->u : 0, "scan beside the edge"),
                       field("angle", angle_,
                             reading_ ? std::optional(reading_->angle * kDegrees) : std::nullopt,
                             reading_ ? reading_->u_angle * kDegrees : 0, "scan beside the edge")});
    return false;
  }

 private:
  [[nodiscard]] model::Chamfer feature() const {
    return {edges_, {leg_->value(), 0}, {angle_->value() / kDegrees, 0}};
  }
  void update(const std::vector<Vec3>& along) override {
    setKeepEnabled(false);
    if (edges_.empty()) return setEvidence(tr("Click an edge of the model."));
    aside([this, along, ground = ground(), feature = feature(),
           reading = reading_](const Task& task) mutable -> Session::Finish {
      if (!along.empty()) {
        if (const auto found = reading::read_edge_bevel(*ground.document, ground.before,
                                                        feature.edges.back(), along)) {
          reading = found;
          feature.distance.value = found->leg;
          feature.angle.value = found->angle;
        }
      }
      return [this, feature, reading, trial = ground.attempt(feature, task)] {
        reading_ = reading;
        const QSignalBlocker b1(leg_), b2(angle_);
        leg_->setValue(feature.distance.value);
        angle_->setValue(feature.angle.value * kDegrees);
        if (!showTrial(trial)) return;
        setEvidence(
            tr("%1 edges").arg(edges_.size()) +
            (reading_ ? tr("\nscan: leg %1 at %2\u00b0")
                            .arg(QString::fromStdString(length_reading(reading_->leg, reading_->u)),
                                 QString::fromStdString(format_reading(
                                     reading_->angle * kDegrees, reading_->u_angle * kDegrees)))
                      : tr("\nthe scan gives no bevel here")));
      };
    });
  }
  std::vector<Grip> grips() override {
    return gripOf(leg_, reading_ ? std::optional(reading_->leg) : std::nullopt);
  }
  QDoubleSpinBox* leg_;
  QDoubleSpinBox* angle_;
  std::optional<reading::BevelReading> reading_;
};

}  // namespace

Tool fillet_tool() {
  Tool tool = step_tool(
      model::Fillet::kind, Tool::Needs::Model,
      [](Workplace place, project::Id step) -> ToolCard* { return new FilletTool(place, step); });
  tool.takes = {Item::Kind::Edge};
  return tool;
}

Tool chamfer_tool() {
  Tool tool = step_tool(
      model::Chamfer::kind, Tool::Needs::Model,
      [](Workplace place, project::Id step) -> ToolCard* { return new ChamferTool(place, step); });
  tool.takes = {Item::Kind::Edge};
  return tool;
}

}  // namespace lostline::app
