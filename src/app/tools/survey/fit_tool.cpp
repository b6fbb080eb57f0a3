#include <QComboBox>
#include <array>
#include <numbers>

#include "fit/surface_kind.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/fits.h"
#include "project/relations.h"
#include "reading/probe.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Fits a surface to a region or a selection grown over similar normals, a line or circle to a rim
/// or to clicked points, with a relation if wanted.
class FitTool : public ToolCard {
 public:
  explicit FitTool(Workplace place) : ToolCard(place, tr("Fit"), tr("Survey")) {
    source_ = new QComboBox;
    source_->addItems({tr("the clicked region"), tr("grown over similar normals"),
                       tr("the rim nearest the click"), tr("clicked points")});
    source_->setObjectName(QStringLiteral("fitEvidence"));
    addRow(tr("evidence"), source_);
    angle_ = number(8, 1, 45, 1, 0, QStringLiteral("growAngle"));
    angle_->setSuffix(QStringLiteral("\u00b0"));
    angle_->setToolTip(
        tr("How far neighbouring normals may differ; the selection follows at once"));
    angle_label_ = addRow(tr("angle"), angle_);
    kind_ = new QComboBox;
    kind_->addItems({tr("plane"), tr("cylinder"), tr("cone"), tr("sphere"), tr("torus"), tr("line"),
                     tr("circle"), tr("ellipse")});
    kind_->setObjectName(QStringLiteral("fitKind"));
    addRow(tr("geometry"), kind_);
    relation_ = new QComboBox;
    relation_->setObjectName(QStringLiteral("fitRelation"));
    relation_->addItem(tr("free"), -1);
    for (const fit::RelationType type : kOffered)
      relation_->addItem(QString::fromUtf8(fit::relation_word(type)), static_cast<int>(type));
    addRow(tr("held"), relation_);
    other_ = new PickField(tr("pick a fit"), 1, tr("other fit"));
    other_label_ = addRow(tr("of"), other_);
    value_ = length(0, 0, 1e5, 0.5, 3, QStringLiteral("relationValue"));
    value_label_ = addRow(tr("value"), value_);
    connect(value_, &QDoubleSpinBox::valueChanged, this, [this] { fit(); });
    connect(other_, &QPushButton::clicked, this, [this] { other_->setWaiting(true); });
    connect(relation_, &QComboBox::currentIndexChanged, this, [this] {
      offerValue();
      showRows();
      other_->setWaiting(wantsOther() && other_->refs().empty());
      fit();
    });
    connect(kind_, &QComboBox::currentIndexChanged, this, [this](int index) {
      // A curve rests on a rim or on points, a surface on an area.
      const bool curve = fit::is_curve(static_cast<fit::Kind>(index));
      if (curve != (source_->currentIndex() >= kRim)) {
        const QSignalBlocker block(source_);
        source_->setCurrentIndex(curve ? kRim : 0);
        points_.clear();
        triangles_.reset();
      }
      showRows();
      fit();
    });
    connect(source_, &QComboBox::currentIndexChanged, this, [this] {
      points_.clear();
      showRows();
      select();
    });
    connect(angle_, &QDoubleSpinBox::valueChanged, this, [this] { select(); });
    showRows();
    setKeepEnabled(false);
    setEvidence(tr("Click the scan where the surface is."));
  }
  void take(const Item& item) override {
    const auto survey = document().survey;
    if (item.kind != Item::Kind::Region || other_->waiting() || !survey)
      return ToolCard::take(item);
    const auto& labels = survey->triangle_region;
    const auto at = std::find(labels.begin(), labels.end(), item.id);
    if (at == labels.end()) return;
    Pick pick;
    pick.what = Pick::What::Scan;
    pick.triangle = static_cast<std::uint32_t>(at - labels.begin());
    pick.region = *at;
    pick.point = document().to_part() * document().scan->mesh->centroid(pick.triangle);
    this->pick(pick);
  }
  void pick(const Pick& pick) override {
    if (pick.what != Pick::What::Scan) return;
    if (other_->waiting()) return pickRef({pick.region, 0});
    seed_ = pick.triangle;
    near_ = document().to_part().inverse() * pick.point;
    if (source_->currentIndex() == kPoints) {
      const auto probe = reading::probe_scan(*document().scan, seed_, near_);
      if (!probe) return setError(core_text(probe.error().message));
      points_.push_back(probe->point);
      return fit();
    }
    region_ = pick.region;
    if (source_->currentIndex() == kRim) return select();
    if (const fit::SurfaceFit* f = document().fit_of({region_, 0})) {
      const QSignalBlocker block(kind_);
      kind_->setCurrentIndex(static_cast<int>(f->surface.kind));
    }
    select();
  }
  void pickRef(const project::FitRef& ref) override {
    if (!other_->waiting()) return;
    other_->offer(ref, document());
    other_->setWaiting(other_->refs().empty());
    fit();
  }
  void documentChanged() override {
    const auto& d = document();
    const bool pruned = other_->prune(d);
    if (d.scan == scan_ && d.survey == survey_ && !pruned) return;
    if (d.scan != scan_) {
      seed_ = scan::kNone;
      points_.clear();
    }
    scan_ = d.scan;
    survey_ = d.survey;
    region_ = seed_ != scan::kNone && d.survey && seed_ < d.survey->triangle_region.size()
                  ? d.survey->triangle_region[seed_]
                  : 0;
    triangles_.reset();
    resume();
  }
  void resume() override {
    if (seed_ != scan::kNone) return fit();
    trial_.reset();
    setKeepEnabled(false);
    place_.bench.setMarks({});
    setEvidence(tr("Click the scan where the surface is."));
  }
  bool keep() override {
    if (!trial_) return false;
    const QString name = QString::fromStdString(trial_->fit.name);
    place_.session.commit(tr("fit %1").arg(name), project::add_fit(document(), *trial_).document);
    return true;
  }

 private:
  static constexpr int kRim = 2;
  static constexpr int kPoints = 3;
  static constexpr std::array kOffered{
      fit::RelationType::Parallel, fit::RelationType::Perpendicular, fit::RelationType::Coaxial,
      fit::RelationType::Coplanar, fit::RelationType::EqualSize,     fit::RelationType::Angle,
      fit::RelationType::Distance, fit::RelationType::Size};
  [[nodiscard]] std::optional<fit::RelationType> relation() const {
    const int data = relation_->currentData().toInt();
    return data < 0 ? std::nullopt : std::optional(static_cast<fit::RelationType>(data));
  }
  [[nodiscard]] bool wantsOther() const { return relation() && fit::members_of(*relation()) == 2; }
  [[nodiscard]] bool inDegrees() const {
    return relation() == fit::RelationType::Angle ||
           (relation() == fit::RelationType::Size &&
            kind_->currentIndex() == static_cast<int>(fit::Kind::Cone));
  }
  void showRows() {
    angle_->setVisible(source_->currentIndex() == 1);
    angle_label_->setVisible(source_->currentIndex() == 1);
    other_->setVisible(wantsOther());
    other_label_->setVisible(wantsOther());
    const bool value = relation() && fit::has_value(*relation());
    value_->setVisible(value);
    value_label_->setVisible(value);
    value_->setLength(!inDegrees());
    value_label_->setText(inDegrees() ? tr("value, \u00b0") : in_unit(tr("value, mm")));
    settleHeight();
  }
  /// The reading as a start for the value that is held.
  void offerValue() {
    if (!trial_ || relation() != fit::RelationType::Size) return;
    const fit::Surface& s = trial_->fit.alone.surface;
    const QSignalBlocker block(value_);
    if (const fit::SizeInfo* size = fit::about(s.kind).size()) value_->setValue(size->held(s));
  }
  void select() {
    if (seed_ == scan::kNone) return;
    triangles_.reset();
    points_.clear();
    fit();
  }
  /// Gathers the evidence when it is not known yet, and fits, off the interface's thread.
  void fit() {
    trial_.reset();
    if (seed_ == scan::kNone) return;
    project::FitRequest request;
    request.kind = static_cast<fit::Kind>(kind_->currentIndex());
    request.triangles = triangles_;
    request.points = points_;
    request.relation = relation();
    request.value = inDegrees() ? value_->value() / kDegrees : value_->value();
    if (wantsOther()) {
      if (other_->refs().empty()) {
        setKeepEnabled(false);
        return setEvidence(tr("Pick the fit that gives the relation."));
      }
      request.relation_to = other_->refs().front();
    }
    const int source = source_->currentIndex();
    const bool whole = source != 1 && region_ != 0;
    if (source == kPoints && points_.empty())
      return setEvidence(tr("Click points on the scan, one after the other."));
    aside([this, request, whole, source, document = place_.session.snapshot(), region = region_,
           seed = seed_, near = near_,
           angle = angle_->value() / kDegrees](const Task& task) mutable -> Session::Finish {
      const project::Scan& scan = *document->scan;
      if (!request.triangles && source != kPoints) {
        request.triangles = std::make_shared<const std::vector<std::uint32_t>>(
            whole ? survey::triangles_of(*document->survey, region)
                  : survey::grow_by_normal(*scan.mesh, scan.topology, seed, angle));
      }
      const auto shown = request.triangles;
      if (source == kRim) {
        request.points = project::rim_of(scan, *request.triangles, near);
        request.triangles.reset();
      }
      auto trial = project::try_fit(*document, request, task);
      auto form = trial ? fit::form_of(trial->fit.result.surface, trial->patch.points)
                        : std::optional<fit::Form>();
      return [this, shown, form, points = request.points, trial = std::move(trial)] {
        triangles_ = shown;
        place_.bench.setSelection({}, shown ? *shown : std::vector<std::uint32_t>{});
        if (!trial) {
          drawPoints(points);
          return setError(core_text(trial.error().message));
        }
        trial_ = *trial;
        form_ = form;
        show();
      };
    });
  }
  /// Crosses where points were picked.
  void drawPoints(const std::vector<Vec3>& points) {
    const Transform to_part = document().to_part();
    LineBatch crosses{{}, role::red_pencil, 1.6F, true};
    for (const Vec3& p : points) {
      for (const Vec3& d : {Vec3(1, 0, 0), Vec3(0, 1, 0), Vec3(0, 0, 1)})
        crosses.segments.emplace_back(to_part * p - d, to_part * p + d);
    }
    place_.bench.setMarks({crosses});
  }
  void show() {
    const fit::SurfaceFit& shown = trial_->fit.result;
    const fit::Surface& s = shown.surface;
    QString text = tr("RMS %1 \u00b7 form error %2 \u00b7 %3 of %4 points")
                       .arg(length_shown(shown.rms, 3), length_shown(shown.form_error, 3),
                            QString::fromStdString(format_count(shown.used)),
                            QString::fromStdString(format_count(shown.points)));
    QStringList sizes;
    for (const fit::SizeInfo& size : fit::about(s.kind).size_list()) {
      const bool angle = size.unit == fit::SizeInfo::Unit::Angle;
      const std::string value = angle ? format_reading(size.said(s), size.said_u(shown)) + "\u00b0"
                                      : length_reading(size.said(s), size.said_u(shown));
      sizes << QStringLiteral("%1 %2").arg(tr(size.symbol), QString::fromStdString(value));
    }
    if (!sizes.isEmpty()) text += QLatin1Char('\n') + sizes.join(QStringLiteral(", "));
    text += tr("\ndirection \u00b1 %1\u00b0, place \u00b1 %2")
                .arg(QString::number(shown.u_angle * kDegrees, 'g', 2),
                     QString::number(shown.u_offset * length_factor(), 'g', 2));
    if (!shown.settled)
      text += tr("\nnot settled: after %1 rounds other points were still left out each time")
                  .arg(shown.rounds);
    if (trial_->weighted) text += tr("\nweighted by trust: rough regions count less");
    if (form_) text += QLatin1Char('\n') + core_text(form_->words());
    if (trial_->relation)
      text += QLatin1Char('\n') +
              QString::fromStdString(project::describe(document(), *trial_->relation));
    setEvidence(text);
    setKeepEnabled(true);
    if (fit::is_curve(s.kind))
      drawCurve(trial_->patch, s);
    else
      drawResiduals(trial_->patch, s);
  }
  /// The curve as fitted, over its points.
  void drawCurve(const survey::Patch& patch, const fit::Surface& s) {
    const Transform to_part = document().to_part();
    LineBatch curve{{}, role::red_pencil, 2.0F, true};
    if (s.kind == fit::Kind::Line) {
      const Eigen::VectorXd along = (patch.points.colwise() - s.point).transpose() * s.axis;
      curve.segments.emplace_back(to_part * Vec3(s.point + along.minCoeff() * s.axis),
                                  to_part * Vec3(s.point + along.maxCoeff() * s.axis));
    } else {
      const Vec3 u = any_perpendicular(s.axis);
      const Vec3 v = s.axis.cross(u);
      const bool oval = s.kind == fit::Kind::Ellipse;
      const Vec3 x = s.radius * (oval ? s.major : u);
      const Vec3 y = oval ? Vec3(s.minor_radius * s.axis.cross(s.major)) : Vec3(s.radius * v);
      const auto at = [&](int k) {
        const double a = 2 * std::numbers::pi * k / 90;
        return Vec3(to_part * Vec3(s.point + std::cos(a) * x + std::sin(a) * y));
      };
      for (int k = 0; k < 90; ++k) curve.segments.emplace_back(at(k), at(k + 1));
    }
    LineBatch dots{{}, role::ink, 2.0F, true};
    for (Eigen::Index i = 0; i < patch.points.cols(); ++i) {
      const Vec3 p = to_part * Vec3(patch.points.col(i));
      dots.segments.emplace_back(p - Vec3(0.15, 0, 0), p + Vec3(0.15, 0, 0));
    }
    place_.bench.setMarks({curve, dots});
  }
  void drawResiduals(const survey::Patch& patch, const fit::Surface& s) {
    // Whiskers off the patch, a hundred times the residual, on up to 3000 points.
    const Transform to_part = document().to_part();
    LineBatch proud{{}, QColor(0xC8, 0x6A, 0x10), 1.0F, true};
    LineBatch under{{}, QColor(0x6B, 0x46, 0xA0), 1.0F, true};
    const Eigen::Index stride = std::max<Eigen::Index>(1, patch.points.cols() / 3000);
    for (Eigen::Index i = 0; i < patch.points.cols(); i += stride) {
      const Vec3 p = patch.points.col(i);
      const double d = s.distance(p);
      const Vec3 tip = p + s.normal_at(p) * std::clamp(100 * std::abs(d), 0.0, 15.0);
      (d > 0 ? proud : under).segments.emplace_back(to_part * p, to_part * tip);
    }
    place_.bench.setMarks({proud, under});
  }
  QComboBox* source_;
  QDoubleSpinBox* angle_;
  QLabel* angle_label_;
  QComboBox* kind_;
  QComboBox* relation_;
  PickField* other_;
  QLabel* other_label_;
  LengthBox* value_;
  QLabel* value_label_;
  std::shared_ptr<const project::Scan> scan_ = document().scan;
  std::shared_ptr<const survey::Survey> survey_ = document().survey;
  std::uint32_t seed_ = scan::kNone;
  std::uint32_t region_ = 0;
  Vec3 near_ = Vec3::Zero();  ///< of the last click, scan coordinates
  std::shared_ptr<const std::vector<std::uint32_t>> triangles_;
  std::vector<Vec3> points_;
  std::optional<project::FitTrial> trial_;
  std::optional<fit::Form> form_;  ///< of the trial
};

}  // namespace

Tool fit_tool() {
  Tool tool{QT_TRANSLATE_NOOP("tools", "Fit"),
            "pointer",
            QT_TRANSLATE_NOOP("tools", "Fit a surface, a line or a circle"),
            kSurvey,
            'f',
            Tool::Needs::Scan,
            [](Workplace place, project::Id) -> ToolCard* { return new FitTool(place); }};
  tool.takes = {Item::Kind::Region};
  return tool;
}

}  // namespace lostline::app
