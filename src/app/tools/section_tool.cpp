#include <QCheckBox>
#include <QComboBox>

#include "look/theme.h"
#include "tools/sketch_marks.h"
#include "tools/tool_card.h"

namespace lostline::app {
namespace {

QString fixed(double value, int decimals = 3) {
  return QString::fromStdString(format_fixed(value, decimals));
}

/// Cuts the scan by a datum plane at a level that can be dragged, and resolves the cut live.
class SectionTool : public ToolCard {
 public:
  explicit SectionTool(Workplace place) : ToolCard(place, tr("Plane section"), tr("Trace")) {
    plane_ = new QComboBox;
    plane_->addItems({tr("xy, from below"), tr("xz, from the front"), tr("yz, from the side")});
    plane_->setItemText(0, tr("xy plane"));
    plane_->setItemText(1, tr("xz plane"));
    plane_->setItemText(2, tr("yz plane"));
    plane_->setObjectName(QStringLiteral("sectionPlane"));
    addRow(tr("datum"), plane_);
    level_ = number(0, -10000, 10000, 1, 2, QStringLiteral("sectionLevel"));
    level_->setToolTip(
        tr("Distance from the datum plane; drag on the Bench or use the arrow keys"));
    addRow(tr("offset, mm"), level_);
    const double noise = document().scan->health.noise_sigma;
    tolerance_ = number(std::max(0.1, std::ceil(80 * noise) / 10), 0.005, 10, 0.05, 3,
                        QStringLiteral("sectionTolerance"));
    tolerance_->setToolTip(tr("How far points may lie from their line or arc"));
    addRow(tr("tolerance, mm"), tolerance_);
    suggested_ = new QCheckBox(tr("with the suggested constraints"));
    suggested_->setChecked(true);
    suggested_->setToolTip(
        tr("Tangent, level, upright, equal … where the section is within tolerance of it"));
    addWide(suggested_);
    connect(plane_, &QComboBox::currentIndexChanged, this, [this] {
      centre();
      update();
    });
    connect(level_, &QDoubleSpinBox::valueChanged, this, &SectionTool::update);
    connect(tolerance_, &QDoubleSpinBox::valueChanged, this, &SectionTool::update);
  }
  void begin() override {
    centre();
    update();
  }
  void pick(const Pick& pick) override {
    dragged_from_ = pick.screen, level_at_press_ = level_->value();
  }
  void drag(const QPointF& at, bool) override {
    // Along the plane's normal as it lies on the screen.
    const Camera& camera = place_.bench.camera();
    const Placement base = datum();
    const QPointF axis = camera.toScreen(base.origin + base.normal) - camera.toScreen(base.origin);
    const double squared = QPointF::dotProduct(axis, axis);
    if (squared < 0.01) return;
    const double moved = QPointF::dotProduct(at - dragged_from_, axis) / squared;
    level_->setValue(std::round((level_at_press_ + moved) * 10) / 10);
    place_.bench.stir();
  }
  bool keep() override {
    if (sketch_.entities.empty()) {
      setError(
          tr("Nothing to keep: the plane misses the scan, or the tolerance resolves nothing. Move "
             "the plane."));
      return false;
    }
    project::TracedSketch traced;
    traced.plane = static_cast<project::DatumPlane>(plane_->currentIndex());
    traced.base = datum();
    traced.level = level_->value();
    traced.tolerance = tolerance_->value();
    traced.sketch = sketch_;
    if (suggested_->isChecked()) {
      for (const sketch::Constraint& c : sketch::suggest_constraints(sketch_))
        traced.sketch.add_constraint(c.type, c.first, c.second);
    }
    traced.name = project::section_name(traced);
    commitAside(
        tr("section %1").arg(QString::fromStdString(traced.name)),
        [traced](const project::Document& d) -> Result<project::Document> {
          auto added = project::add_sketch(d, traced);
          if (!added) return added.error();
          return (*added).document;
        },
        [this] { Q_EMIT sketchWanted(document().sketches.back()->id); });
    return false;
  }

 private:
  [[nodiscard]] Placement datum() const {
    return project::datum_placement(static_cast<project::DatumPlane>(plane_->currentIndex()));
  }
  void centre() {
    // Start where there is something to cut: the middle of the part along the normal, or zero when
    // the datum cuts it.
    Box3 box;
    const auto& mesh = *document().scan->mesh;
    const Transform to_part = document().to_part();
    for (std::size_t i = 0; i < mesh.vertices.size(); i += 31)
      box.extend(to_part * mesh.vertices[i]);
    const Placement base = datum();
    double low = 1e300;
    double high = -1e300;
    for (int c = 0; c < 8; ++c) {
      const double l = base.level_of(box.corner(static_cast<Box3::CornerType>(c)));
      low = std::min(low, l);
      high = std::max(high, l);
    }
    const QSignalBlocker block(level_);
    level_->setValue(low < -1 && high > 1 ? 0 : std::round((low + high) / 2));
  }
  void update() {
    const Placement base = datum();
    const section::Section cut = project::cut_scan(document(), base, level_->value());
    sketch_ =
        sketch::sketch_from_section(cut, tolerance_->value(), document().scan->health.spacing);
    const std::set<sketch::Id> loose = [&] {
      std::set<sketch::Id> all;
      for (const auto& e : sketch_.entities) all.insert(e.id);
      return all;
    }();
    std::vector<LineBatch> marks =
        sketch_marks(base, level_->value(), cut, sketch_, loose, {}, false, 1);
    place_.bench.setMarks(marks);
    place_.bench.setSeeThrough(true);
    place_.strip.showSection(cut, sketch_, 20 * tolerance_->value(),
                             tr("Section %1 at %2")
                                 .arg(plane_->currentText(),
                                      QString::fromStdString(format_trimmed(level_->value(), 2))));
    std::size_t gaps = 0;
    for (const auto& line : cut.polylines) gaps += line.gaps.size();
    int lines = 0, arcs = 0, circles = 0;
    for (const auto& e : sketch_.entities) {
      lines += e.type == sketch::EntityType::Line;
      arcs += e.type == sketch::EntityType::Arc;
      circles += e.type == sketch::EntityType::Circle;
    }
    if (cut.polylines.empty()) return setEvidence(tr("The plane misses the scan."));
    const auto drift = sketch::measure_drift(sketch_, cut, 20 * tolerance_->value());
    setEvidence(tr("%1 outlines, %2 gaps: %3 lines, %4 arcs, %5 circles\nRMS %6 \u00b7 greatest %7")
                    .arg(cut.polylines.size())
                    .arg(gaps)
                    .arg(lines)
                    .arg(arcs)
                    .arg(circles)
                    .arg(fixed(drift.rms), fixed(std::abs(drift.greatest))));
  }
  QComboBox* plane_;
  QDoubleSpinBox* level_;
  QDoubleSpinBox* tolerance_;
  QCheckBox* suggested_;
  sketch::Sketch sketch_;
  QPointF dragged_from_;
  double level_at_press_ = 0;
};

}  // namespace

ToolCard* make_section_tool(Workplace place) { return new SectionTool(place); }

}  // namespace lostline::app
