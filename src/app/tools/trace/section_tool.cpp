#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <array>
#include <map>
#include <numbers>

#include "bench/sketch_marks.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/sketch_plane.h"
#include "reading/draw_section.h"
#include "sketch/curve_kind.h"
#include "sketch/section_judge.h"
#include "sketch/shapes.h"
#include "tools/reference_field.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Cuts the scan by a plane at a level that can be dragged, by a half-plane about an axis, or by a
/// fan of half-planes, or takes the outline that it has seen along a direction; resolves it live.
class SectionTool : public ToolCard {
 public:
  SectionTool(Workplace place, bool outline)
      : ToolCard(place, outline ? tr("Outline") : tr("Section"), tr("Trace")), outline_(outline) {
    plane_ = new QComboBox;
    if (outline)
      plane_->addItems({tr("z axis"), tr("y axis"), tr("x axis"), tr("normal of a face or fit")});
    else
      plane_->addItems({tr("xy plane"), tr("xz plane"), tr("yz plane"), tr("on a face or fit"),
                        tr("turn about an axis"), tr("fan about an axis"),
                        tr("through three points")});
    plane_->setObjectName(QStringLiteral("sectionPlane"));
    addRow(outline ? tr("seen along") : tr("cut by"), plane_);
    face_ = new ReferenceField(ReferenceField::Wants::Plane, QStringLiteral("sectionFace"));
    face_label_ = addRow(tr("on"), face_);
    axis_ = new ReferenceField(ReferenceField::Wants::Axis, QStringLiteral("sectionAxis"));
    axis_label_ = addRow(tr("about"), axis_);
    model::Reference upright;
    upright.datum = 2;
    axis_->assign(upright, document());
    angle_ = number(0, -360, 360, 5, 1, QStringLiteral("sectionAngle"));
    angle_label_ = addRow(tr("angle, \u00b0"), angle_);
    level_ = length(0, -10000, 10000, 1, 2, QStringLiteral("sectionLevel"));
    level_->setToolTip(tr("Distance from the plane; drag on the Bench or use the arrow keys"));
    level_label_ = addRow(in_unit(tr("offset, mm")), level_);
    outside_ = length(0, -1000, 1000, 0.5, 2, QStringLiteral("outlineOffset"));
    outside_->setToolTip(tr("So far outside of the silhouette; minus inside"));
    tilt_x_ = number(0, -90, 90, 1, 2, QStringLiteral("sectionTiltX"));
    tilt_x_->setToolTip(tr("Turns the plane about its own x axis"));
    tilt_x_label_ = addRow(tr("tilt x, \u00b0"), tilt_x_);
    tilt_y_ = number(0, -90, 90, 1, 2, QStringLiteral("sectionTiltY"));
    tilt_y_->setToolTip(tr("Turns the plane about its own y axis"));
    tilt_y_label_ = addRow(tr("tilt y, \u00b0"), tilt_y_);
    more_ = new QLineEdit;
    more_->setObjectName(QStringLiteral("sectionMore"));
    more_->setPlaceholderText(tr("none"));
    more_->setToolTip(
        tr("Further offsets whose sections are gathered on this plane, with blanks between"));
    more_label_ = addRow(in_unit(tr("and at, mm")), more_);
    scan_part_ = new QComboBox;
    scan_part_->setObjectName(QStringLiteral("sectionScan"));
    scan_part_->addItem(tr("all of it"), static_cast<int>(Through::Scan));
    if (document().survey)
      scan_part_->addItem(tr("picked regions"), static_cast<int>(Through::Regions));
    if (!document().other_scans.empty())
      scan_part_->addItem(tr("with those beside"), static_cast<int>(Through::AllScans));
    scan_part_->setToolTip(
        tr("What is cut: the whole scan, only regions that are clicked, or the scans beside too"));
    scan_part_label_ = addRow(tr("scan"), scan_part_);
    QLabel* outside_label = addRow(in_unit(tr("outwards, mm")), outside_);
    openings_ = new QCheckBox(tr("with its openings"));
    openings_->setToolTip(tr("What can be looked through"));
    openings_->setObjectName(QStringLiteral("outlineOpenings"));
    openings_->setChecked(true);
    addWide(openings_);
    for (QWidget* field : std::initializer_list<QWidget*>{outside_, outside_label, openings_})
      field->setVisible(outline);
    tolerance_ = length(project::resolving_tolerance(document()), 0.001, 10, 0.02, 3,
                        QStringLiteral("sectionTolerance"));
    tolerance_->setToolTip(tr(
        "Departures below this are nobody's intent; what the noise explains is left out anyway"));
    addRow(in_unit(tr("tolerance, mm")), tolerance_);
    suggested_ = new QCheckBox(tr("with the suggested constraints"));
    suggested_->setChecked(true);
    suggested_->setToolTip(
        tr("Tangent, level, upright, equal \u2026 where the section is within tolerance of it"));
    addWide(suggested_);
    better_ =
        button({QString(), QStringLiteral("cleanerLevel"),
                tr("The plane runs through rounds, chamfers, edges or gaps: an outline that no "
                   "wall has. This is the nearest level without them"),
                [this] {
                  if (cleaner_) level_->setValue(*cleaner_);
                }});
    better_->hide();
    addWide(better_);
    connect(plane_, &QComboBox::currentIndexChanged, this, [this] {
      showRows();
      centre();
      update();
    });
    for (ReferenceField* field : {face_, axis_})
      connect(field, &ReferenceField::referenceChanged, this, [this] {
        centre();
        update();
      });
    connect(scan_part_, &QComboBox::currentIndexChanged, this, [this] {
      place_.bench.setSelection(through() == Through::Regions ? regions_
                                                              : std::vector<std::uint32_t>());
      update();
    });
    connect(openings_, &QCheckBox::toggled, this, &SectionTool::update);
    connect(more_, &QLineEdit::editingFinished, this, &SectionTool::update);
    connect(level_, &QDoubleSpinBox::valueChanged, this, [this] { middle_ = false; });
    for (QDoubleSpinBox* box : {angle_, level_, tolerance_, outside_, tilt_x_, tilt_y_})
      connect(box, &QDoubleSpinBox::valueChanged, this, &SectionTool::update);
    showRows();
  }
  void begin() override {
    centre();
    update();
  }
  void resume() override { update(); }
  void documentChanged() override {
    if (document().survey != survey_) {  // the numbers of its regions are others
      survey_ = document().survey;
      regions_.clear();
      part_.reset();
      if (through() == Through::Regions) update();
    }
    if (document().scan == scan_ && document().to_part().isApprox(to_part_, 1e-12)) return;
    scan_ = document().scan;
    to_part_ = document().to_part();
    if (scan_) update();
  }
  void pick(const Pick& pick) override {
    dragged_from_ = pick.screen, level_at_press_ = level_->value();
    if (plane_->currentIndex() == kPoints) {
      if (pick.what == Pick::What::Nothing) return;
      if (points_.size() == 3) points_.clear();
      points_.push_back(pick.point);
      return update();
    }
    ReferenceField* field = waiting();
    const bool filled = field == nullptr || !field->reference().empty();
    if (through() == Through::Regions && pick.region != 0 && filled) return toggle(pick.region);
    if (field != nullptr) field->offer(pick, place_.session.route()->solid, document());
  }
  void pickRef(const project::FitRef& ref) override {
    if (through() == Through::Regions && ref.region != 0) return toggle(ref.region);
    // Begun with a pick: on a plane, or about an axis.
    if (const fit::SurfaceFit* fit = document().fit_of(ref); fit != nullptr && waiting() == nullptr)
      plane_->setCurrentIndex(fit::is_flat(fit->surface.kind) ? kOnFace : kTurn);
    if (ReferenceField* field = waiting()) field->offer(ref, document());
  }
  [[nodiscard]] bool takesDrag(const Pick& pick) const override {
    const bool pointing = plane_->currentIndex() == kPoints && points_.size() < 3;
    // While regions are picked a drag on them turns the view.
    const bool picking = through() == Through::Regions && pick.region != 0;
    return !turned() && !outline_ && !pointing && !picking && pick.what != Pick::What::Nothing;
  }
  void drag(const QPointF& at, bool) override {
    if (turned()) return;
    // Along the plane's normal as it lies on the screen.
    const Camera& camera = place_.bench.camera();
    const Placement base = traced().base;
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
    project::TracedSketch traced = this->traced();
    traced.sketch = sketch_;
    if (turned()) project::close_on_axis(traced.sketch, 3 * document().scan->health.spacing);
    if (suggested_->isChecked()) {
      for (const sketch::Constraint& c : offered_)
        traced.sketch.add_constraint(c.type, c.first, c.second);
    }
    traced.name = project::section_name(document(), traced);
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
  enum class Through { Scan, Regions, AllScans };
  [[nodiscard]] Through through() const {
    return outline_ ? Through::Scan : static_cast<Through>(scan_part_->currentData().toInt());
  }
  /// Takes a region into the part that is cut, or out of it.
  void toggle(std::uint32_t region) {
    const auto at = std::find(regions_.begin(), regions_.end(), region);
    if (at != regions_.end())
      regions_.erase(at);
    else
      regions_.push_back(region);
    const auto part = project::part_of_regions(document(), regions_);
    part_ = part ? *part : nullptr;
    place_.bench.setSelection(regions_);
    update();
  }
  enum { kOnFace = 3, kTurn = 4, kFan = 5, kPoints = 6 };
  [[nodiscard]] bool turned() const {
    return plane_->currentIndex() == kTurn || plane_->currentIndex() == kFan;
  }
  [[nodiscard]] ReferenceField* waiting() const {
    return plane_->currentIndex() == kOnFace ? face_ : turned() ? axis_ : nullptr;
  }
  void showRows() {
    const int kind = plane_->currentIndex();
    const auto show = [](QWidget* field, QLabel* label, bool on) {
      field->setVisible(on);
      label->setVisible(on);
    };
    show(face_, face_label_, kind == kOnFace);
    show(axis_, axis_label_, turned());
    show(angle_, angle_label_, kind == kTurn);
    const bool plain = !turned() && !outline_;
    show(level_, level_label_, plain);
    show(tilt_x_, tilt_x_label_, plain && kind != kPoints);
    show(tilt_y_, tilt_y_label_, plain && kind != kPoints);
    show(more_, more_label_, plain);
    show(scan_part_, scan_part_label_, !outline_ && scan_part_->count() > 1);
    settleHeight();
  }
  /// Where the cut lies, without a sketch yet.
  [[nodiscard]] project::TracedSketch traced() const {
    project::TracedSketch t;
    t.tolerance = tolerance_->value();
    if (through() == Through::Regions) t.part = part_;
    if (through() == Through::AllScans) {
      for (const auto& other : document().other_scans) t.also.push_back(other->name);
    }
    if (outline_) t.silhouette = project::Silhouette{openings_->isChecked(), outside_->value()};
    const int kind = plane_->currentIndex();
    if (!turned() && !outline_) {
      t.level = level_->value();
      t.more_levels = more();
    }
    if (kind == kPoints) {
      t.plane = project::DatumPlane::Free;
      if (points_.size() == 3) t.base = through(points_);
      return t;
    }
    if (kind < kOnFace) {
      t.plane = static_cast<project::DatumPlane>(kind);
      t.base = project::datum_placement(t.plane);
      tilt(t);
      return t;
    }
    const ReferenceField* field = waiting();
    t.on = field->reference();
    const auto meant = model::resolve(t.on, place_.session.route()->solid);
    if (meant) t.on.surface = *meant;
    if (kind == kOnFace) {
      if (t.on.datum >= 0) {  // a datum plane after all: the one square to that axis
        constexpr std::array kSquare{project::DatumPlane::Yz, project::DatumPlane::Xz,
                                     project::DatumPlane::Xy};
        t.plane = kSquare[static_cast<std::size_t>(t.on.datum % 3)];
        t.base = project::datum_placement(t.plane);
        t.on = {};
      } else if (meant) {
        t.base = placement_on(meant->point, meant->axis);
      }
      tilt(t);
    } else if (meant) {
      t.turn = project::Turn{angle_->value() * std::numbers::pi / 180, kind == kFan};
      t.base = project::half_plane(meant->point, meant->axis, kind == kFan ? 0 : t.turn->angle);
    }
    return t;
  }
  /// Offsets typed beside the first; what is no number is left out.
  [[nodiscard]] std::vector<double> more() const {
    std::vector<double> levels;
    const QString text = more_->text().replace(QLatin1Char(';'), QLatin1Char(' '));
    for (const QString& word : text.split(QLatin1Char(' '), Qt::SkipEmptyParts)) {
      bool good = false;
      const double value =
          QString(word).replace(QLatin1Char(','), QLatin1Char('.')).toDouble(&good);
      if (good) levels.push_back(value / length_factor());
    }
    return levels;
  }
  static Placement through(const std::vector<Vec3>& points) {
    Vec3 normal = (points[1] - points[0]).cross(points[2] - points[0]);
    if (normal.norm() < 1e-9) return {};
    // Looked at from where most of it is seen.
    if (normal.sum() < 0) normal = -normal;
    return placement_on(points[0], normal.normalized());
  }
  /// Turns the plane about its own axes; tilted, it is a plane of its own.
  void tilt(project::TracedSketch& t) const {
    if (outline_ || (tilt_x_->value() == 0 && tilt_y_->value() == 0)) return;
    const double radians = std::numbers::pi / 180;
    const Eigen::Matrix3d turn = (Eigen::AngleAxisd(tilt_y_->value() * radians, t.base.y) *
                                  Eigen::AngleAxisd(tilt_x_->value() * radians, t.base.x))
                                     .toRotationMatrix();
    t.base.x = turn * t.base.x;
    t.base.y = turn * t.base.y;
    t.base.normal = turn * t.base.normal;
    t.plane = project::DatumPlane::Free;
    t.on = {};
  }
  void centre() {
    // Start where there is something to cut: the middle of the part along the normal, or zero when
    // the datum cuts it.
    Box3 box;
    const auto& mesh = *document().scan->mesh;
    const Transform to_part = document().to_part();
    for (std::size_t i = 0; i < mesh.vertices.size(); i += 31)
      box.extend(to_part * mesh.vertices[i]);
    const Placement base = traced().base;
    double low = 1e300;
    double high = -1e300;
    for (int c = 0; c < 8; ++c) {
      const double l = base.level_of(box.corner(static_cast<Box3::CornerType>(c)));
      low = std::min(low, l);
      high = std::max(high, l);
    }
    const QSignalBlocker block(level_);
    if (outline_ || plane_->currentIndex() == kPoints) return level_->setValue(0);
    // On a face the cut would graze: one millimetre into the material.
    if (plane_->currentIndex() == kOnFace) return level_->setValue(-1);
    level_->setValue(low < -1 && high > 1 ? 0 : std::round((low + high) / 2));
    middle_ = true;
  }
  void update() {
    const ReferenceField* field = waiting();
    if (field != nullptr && field->reference().empty()) {
      setKeepEnabled(false);
      return setEvidence(tr("Click a flat face of the model, or a plane of the scan."));
    }
    if (plane_->currentIndex() == kPoints && points_.size() < 3) {
      setKeepEnabled(false);
      return setEvidence(
          tr("Click three places of the scan: %1 of 3.").arg(static_cast<int>(points_.size())));
    }
    if (through() == Through::Regions && regions_.empty()) {
      setKeepEnabled(false);
      return setEvidence(tr("Click the regions of the scan that are to be cut."));
    }
    // A fan is many cuts: off the interface's thread, the latest wins.
    aside([this, traced = this->traced(), tolerance = tolerance_->value(),
           document = place_.session.snapshot()](const Task& task) -> Session::Finish {
      if (const auto along = project::along_face(*document, traced))
        return [this, along = *along] { showAlongFace(along); };
      auto cut = project::cut_scan(*document, traced, task);
      if (task.stopped()) return {};
      std::optional<double> cleaner;
      if (!traced.silhouette && !traced.turn) cleaner = project::cleaner_level(*document, traced);
      auto sketch = reading::draw_section(*document, traced, cut);
      auto offered = sketch::suggest_constraints(
          sketch, cut, project::fit_options(*document, traced), 0.25 * tolerance, {}, task);
      return [this, traced, cleaner, cut = std::move(cut), sketch = std::move(sketch),
              offered = std::move(offered)] {
        sketch_ = sketch;
        offered_ = offered;
        offerLevel(cleaner);
        setKeepEnabled(true);
        show(traced, cut);
      };
    });
  }
  void offerLevel(const std::optional<double>& cleaner) {
    cleaner_ = cleaner;
    better_->setVisible(cleaner.has_value());
    if (cleaner)
      better_->setText(tr("cut at %1, through walls only").arg(length_shown(*cleaner, 2)));
    settleHeight();
  }
  /// Nothing to be kept. The level that the card began with goes where the walls are.
  void showAlongFace(const project::AlongFace& along) {
    // A further level that runs so is the engineer's to change: the button sets the first one.
    const auto better = along.level == level_->value() ? along.better : std::nullopt;
    if (better && std::exchange(middle_, false)) return level_->setValue(*better);
    offerLevel(better);
    if (better) better_->setText(tr("cut at %1 instead").arg(length_shown(*better, 2)));
    setKeepEnabled(false);
    place_.bench.setMarks({});
    place_.strip.showHistogram();
    setEvidence(tr("At %1 the plane runs along a face of the scan: the cut follows its noise, in "
                   "%2 runs.")
                    .arg(length_shown(along.level, 2))
                    .arg(along.runs));
  }
  void show(const project::TracedSketch& traced, const section::Section& cut) {
    const std::set<sketch::Id> loose = [&] {
      std::set<sketch::Id> all;
      for (const auto& e : sketch_.entities) all.insert(e.id);
      return all;
    }();
    std::vector<LineBatch> marks =
        sketch_marks(traced.base, traced.level, cut, sketch_, loose, {}, false, 1);
    place_.bench.setMarks(marks);
    place_.bench.setSeeThrough(true);
    const QString name = QString::fromStdString(project::section_name(document(), traced));
    place_.strip.showSection(
        cut, sketch_, 20 * tolerance_->value(),
        outline_ ? name.left(1).toUpper() + name.mid(1) : tr("Section %1").arg(name));
    std::size_t gaps = 0;
    std::size_t outlines = 0;
    int few = 0;
    for (const auto& line : cut.polylines) {
      few += line.few ? 1 : 0;
      if (line.support || line.few) continue;
      gaps += line.gaps.size();
      ++outlines;
    }
    QStringList pieces;
    for (const sketch::CurveKind* kind : sketch::curve_kinds()) {
      const auto count =
          std::count_if(sketch_.entities.begin(), sketch_.entities.end(),
                        [&](const sketch::Entity& e) { return e.type == kind->type(); });
      if (count > 0)
        pieces << tr("%1 %2%3").arg(count).arg(tr(kind->key()), count == 1 ? QString() : tr("s"));
    }
    if (cut.polylines.empty())
      return setEvidence(outline_ ? tr("Nothing of the outline is left so far inside.")
                                  : tr("The plane misses the scan."));
    sketch::ShapeOptions shapes;
    shapes.length = std::max(0.25 * tolerance_->value(), 0.02 * document().scan->health.spacing);
    std::map<QString, int> found;
    for (const sketch::Shape& shape : sketch::find_shapes(sketch_, shapes))
      ++found[core_word(sketch::shape_name(shape.type))];
    QStringList named;
    for (const auto& [name, count] : found) named << tr("%1 \u00d7 %2").arg(count).arg(name);
    const auto drift = sketch::measure_drift(sketch_, cut, 20 * tolerance_->value());
    setEvidence(
        tr("%1 outlines, %2 gaps: %3\nRMS %4 \u00b7 greatest %5")
            .arg(outlines)
            .arg(gaps)
            .arg(pieces.isEmpty() ? tr("no curves") : pieces.join(tr(", ")))
            .arg(length_shown(drift.rms), length_shown(std::abs(drift.greatest))) +
        (cut.spread ? tr("\nspread of the blades %1").arg(length_shown(*cut.spread)) : QString()) +
        (few > 0 ? tr("\nseen by few blades, left out: %n run(s)", nullptr, few) : QString()) +
        (named.isEmpty() ? QString() : tr("\nshapes: %1").arg(named.join(tr(", ")))));
  }
  bool outline_;
  QPushButton* better_;
  std::optional<double> cleaner_;  ///< level through walls only
  bool middle_ = false;            ///< the level is the card's own choice still
  QComboBox* plane_;
  QDoubleSpinBox* outside_;
  QCheckBox* openings_;
  ReferenceField* face_;
  QLabel* face_label_;
  ReferenceField* axis_;
  QLabel* axis_label_;
  QDoubleSpinBox* angle_;
  QLabel* angle_label_;
  QLabel* level_label_;
  QDoubleSpinBox *tilt_x_, *tilt_y_;
  QLabel *tilt_x_label_, *tilt_y_label_;
  QLineEdit* more_;
  QLabel* more_label_;
  QComboBox* scan_part_;
  QLabel* scan_part_label_;
  std::vector<std::uint32_t> regions_;  ///< that are cut, and their triangles
  std::shared_ptr<const std::vector<std::uint32_t>> part_;
  std::shared_ptr<const survey::Survey> survey_ = document().survey;
  std::vector<Vec3> points_;  ///< clicked, part coordinates
  QDoubleSpinBox* level_;
  QDoubleSpinBox* tolerance_;
  QCheckBox* suggested_;
  sketch::Sketch sketch_;
  std::vector<sketch::Constraint> offered_;
  std::shared_ptr<const project::Scan> scan_ = document().scan;
  Transform to_part_ = document().to_part();
  QPointF dragged_from_;
  double level_at_press_ = 0;
};

}  // namespace

Tool section_tool() {
  Tool tool{
      QT_TRANSLATE_NOOP("tools", "Section"),
      "slice",
      QT_TRANSLATE_NOOP("tools", "Section by a datum plane, a face, an axis"),
      kTrace,
      'k',
      Tool::Needs::Scan,
      [](Workplace place, project::Id) -> ToolCard* { return new SectionTool(place, false); }};
  tool.takes = {Item::Kind::Region, Item::Kind::Fit, Item::Kind::Face};
  return tool;
}

Tool outline_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Outline"),
          "torus",
          QT_TRANSLATE_NOOP("tools", "What the scan covers seen along a direction, with an offset"),
          kTrace,
          'o',
          Tool::Needs::Scan,
          [](Workplace place, project::Id) -> ToolCard* { return new SectionTool(place, true); }};
}

}  // namespace lostline::app
