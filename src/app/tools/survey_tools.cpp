#include <QButtonGroup>
#include <QComboBox>
#include <QRadioButton>
#include <QSlider>
#include <numbers>

#include "look/theme.h"
#include "project/fits.h"
#include "tools/tool_card.h"

namespace lostline::app {
namespace {

constexpr double kDegrees = 180 / std::numbers::pi;

QString fixed(double value, int decimals) {
  return QString::fromStdString(format_fixed(value, decimals));
}

/// Splits the scan into regions.
class SurveyTool : public ToolCard {
 public:
  explicit SurveyTool(Workplace place) : ToolCard(place, tr("Split into regions"), tr("Survey")) {
    slider_ = new QSlider(Qt::Horizontal);
    slider_->setRange(0, 100);
    slider_->setValue(50);
    slider_->setToolTip(tr("Smaller faces become regions of their own further right"));
    addRow(tr("smallest face"), slider_);
    connect(slider_, &QSlider::valueChanged, this, &SurveyTool::describe);
    setKeepText(tr("Split  \u23ce"));
    describe();
  }
  bool keep() override {
    Session& session = place_.session;
    const auto scan = document().scan;
    survey::SurveyOptions options;
    options.sensitivity = slider_->value() / 100.0;
    session.run(tr("survey"), [&session, scan, options](const Task& task) -> Session::Finish {
      auto found = survey::split_into_regions(*scan->mesh, scan->topology, options, task);
      return [&session, scan, found = std::move(found)] {
        if (!found) return session.report(found.error());
        if (session.document().scan != scan) return;  // another scan by now
        session.commit(tr("split into %1 regions").arg(found->regions.size()),
                       project::with_survey(session.document(),
                                            std::make_shared<const survey::Survey>(*found)));
      };
    });
    return true;
  }

 private:
  void describe() {
    const double share = std::pow(10.0, -2.3 - 2 * slider_->value() / 100.0);
    setEvidence(tr("Regions down to %1 mm\u00b2 (%2 % of the surface).")
                    .arg(fixed(share * document().scan->health.area, 1),
                         QString::number(100 * share, 'g', 2)));
  }
  QSlider* slider_;
};

/// Fits a plane, cylinder, cone, sphere or torus to regions or to a selection grown over similar
/// normals, with a relation if wanted.
class FitTool : public ToolCard {
 public:
  explicit FitTool(Workplace place) : ToolCard(place, tr("Fit"), tr("Survey")) {
    source_ = new QComboBox;
    source_->addItems({tr("the clicked region"), tr("grown over similar normals")});
    addRow(tr("evidence"), source_);
    angle_ = number(8, 1, 45, 1, 0, QStringLiteral("growAngle"));
    angle_->setSuffix(QStringLiteral("\u00b0"));
    angle_->setToolTip(
        tr("How far neighbouring normals may differ; the selection follows at once"));
    addRow(tr("angle"), angle_);
    kind_ = new QComboBox;
    kind_->addItems({tr("plane"), tr("cylinder"), tr("cone"), tr("sphere"), tr("torus")});
    addRow(tr("surface"), kind_);
    relation_ = new QComboBox;
    relation_->addItems({tr("free"), tr("parallel to"), tr("square to")});
    addRow(tr("direction"), relation_);
    other_ = new PickField(tr("pick a fit"), 1, tr("other fit"));
    addRow(tr("of"), other_);
    other_->setEnabled(false);
    connect(other_, &QPushButton::clicked, this, [this] { other_->setWaiting(true); });
    connect(relation_, &QComboBox::currentIndexChanged, this, [this](int index) {
      other_->setEnabled(index > 0);
      other_->setWaiting(index > 0 && other_->refs().empty());
      fit();
    });
    connect(kind_, &QComboBox::currentIndexChanged, this, [this] { fit(); });
    connect(source_, &QComboBox::currentIndexChanged, this, [this] { select(); });
    connect(angle_, &QDoubleSpinBox::valueChanged, this, [this] { select(); });
    setKeepEnabled(false);
    setEvidence(tr("Click the scan where the surface is."));
  }
  void pick(const Pick& pick) override {
    if (pick.what != Pick::What::Scan) return;
    if (other_->waiting()) return pickRef({pick.region, 0});
    seed_ = pick.triangle;
    region_ = pick.region;
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
  bool keep() override {
    if (!trial_) return false;
    const QString name = QString::fromStdString(trial_->fit.name);
    place_.session.commit(tr("fit %1").arg(name),
                          project::add_fit(document(), trial_->fit).document);
    return true;
  }

 private:
  void select() {
    if (seed_ == scan::kNone) return;
    triangles_.reset();
    fit();
  }
  /// Gathers the triangles when they are not known yet, and fits, off the interface's thread.
  void fit() {
    trial_.reset();
    if (seed_ == scan::kNone) return;
    project::FitRequest request;
    request.kind = static_cast<fit::Kind>(kind_->currentIndex());
    request.triangles = triangles_;
    if (relation_->currentIndex() > 0) {
      if (other_->refs().empty()) {
        setKeepEnabled(false);
        return setEvidence(tr("Pick the fit that gives the direction."));
      }
      request.relation = relation_->currentIndex() == 1 ? fit::DirectionRule::Type::Parallel
                                                        : fit::DirectionRule::Type::Perpendicular;
      request.relation_to = other_->refs().front();
    }
    const bool whole = source_->currentIndex() == 0 && region_ != 0;
    aside([this, request, whole, document = place_.session.snapshot(), region = region_,
           seed = seed_,
           angle = angle_->value() / kDegrees](const Task& task) mutable -> Session::Finish {
      if (!request.triangles) {
        const project::Scan& scan = *document->scan;
        request.triangles = std::make_shared<const std::vector<std::uint32_t>>(
            whole ? survey::triangles_of(*document->survey, region)
                  : survey::grow_by_normal(*scan.mesh, scan.topology, seed, angle));
      }
      auto trial = project::try_fit(*document, request, task);
      return [this, triangles = request.triangles, trial = std::move(trial)] {
        triangles_ = triangles;
        place_.bench.setSelection({}, *triangles_);
        if (!trial) return setError(QString::fromStdString(trial.error().message));
        trial_ = *trial;
        show();
      };
    });
  }
  void show() {
    const fit::SurfaceFit& shown = trial_->fit.result;
    const fit::Surface& s = shown.surface;
    QString text = tr("RMS %1 \u00b7 form error %2 \u00b7 %3 of %4 points")
                       .arg(fixed(shown.rms, 3), fixed(shown.form_error, 3),
                            QString::fromStdString(format_count(shown.used)),
                            QString::fromStdString(format_count(shown.points)));
    if (s.kind == fit::Kind::Cylinder)
      text += tr("\n\u2300 %1")
                  .arg(QString::fromStdString(format_reading(2 * s.radius, 2 * shown.u_radius)));
    if (s.kind == fit::Kind::Cone)
      text += tr("\nhalf angle %1\u00b0")
                  .arg(QString::fromStdString(
                      format_reading(s.half_angle * kDegrees, shown.u_half_angle * kDegrees)));
    if (s.kind == fit::Kind::Sphere)
      text += tr("\nS\u2300 %1")
                  .arg(QString::fromStdString(format_reading(2 * s.radius, 2 * shown.u_radius)));
    if (s.kind == fit::Kind::Torus)
      text +=
          tr("\nring \u2300 %1, tube R %2")
              .arg(QString::fromStdString(format_reading(2 * s.radius, 2 * shown.u_radius)),
                   QString::fromStdString(format_reading(s.minor_radius, shown.u_minor_radius)));
    text += tr("\ndirection \u00b1 %1\u00b0, place \u00b1 %2")
                .arg(QString::number(shown.u_angle * kDegrees, 'g', 2),
                     QString::number(shown.u_offset, 'g', 2));
    if (trial_->fit.relation != fit::DirectionRule::Type::Free)
      text += tr("\nrelation costs %1 RMS, turns %2\u00b0: %3")
                  .arg(fixed(std::max(0.0, shown.rms - trial_->fit.free_rms), 4),
                       fixed(trial_->turned * kDegrees, 3),
                       trial_->within_noise ? tr("within noise") : tr("the part disagrees"));
    setEvidence(text);
    setKeepEnabled(true);
    drawResiduals(trial_->patch, s);
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
  QComboBox* kind_;
  QComboBox* relation_;
  PickField* other_;
  std::uint32_t seed_ = scan::kNone;
  std::uint32_t region_ = 0;
  std::shared_ptr<const std::vector<std::uint32_t>> triangles_;
  std::optional<project::FitTrial> trial_;
};

/// Distance or angle between two fits, kept as a Ledger row.
class MeasureTool : public ToolCard {
 public:
  explicit MeasureTool(Workplace place) : ToolCard(place, tr("Measure"), tr("Survey")) {
    what_ = new QComboBox;
    what_->addItems({tr("distance"), tr("angle")});
    addRow(tr("what"), what_);
    between_ = new PickField(tr("pick two fits"), 2, tr("between"));
    between_->setWaiting(true);
    addRow(tr("between"), between_);
    connect(between_, &QPushButton::clicked, this, [this] {
      between_->clear(document());
      update();
    });
    connect(what_, &QComboBox::currentIndexChanged, this, &MeasureTool::update);
    setKeepEnabled(false);
    setEvidence(tr("Click two regions or fits."));
  }
  void pick(const Pick& pick) override {
    if (pick.region != 0) pickRef({pick.region, 0});
  }
  void pickRef(const project::FitRef& ref) override {
    between_->offer(ref, document());
    update();
  }
  bool keep() override {
    auto added = project::add_measurement(document(), between_->refs()[0], between_->refs()[1],
                                          what_->currentIndex() == 1);
    if (!added) {
      setError(QString::fromStdString(added.error().message));
      return false;
    }
    place_.session.commit(tr("measure"), added->document);
    return true;
  }

 private:
  void update() {
    place_.bench.setSelection(regions_of(between_->refs()));
    setKeepEnabled(false);
    if (between_->refs().size() < 2) return setEvidence(tr("Click two regions or fits."));
    const auto m = project::measure(document(), between_->refs()[0], between_->refs()[1],
                                    what_->currentIndex() == 1);
    if (!m) return setError(QString::fromStdString(m.error().message));
    setEvidence(QString::fromStdString(m->what + "\n" + format_reading(m->value, m->u)) +
                (what_->currentIndex() == 1 ? QStringLiteral("\u00b0") : QStringLiteral(" mm")));
    setKeepEnabled(true);
  }
  QComboBox* what_;
  PickField* between_;
};

}  // namespace

ToolCard* make_survey_tool(Workplace place) { return new SurveyTool(place); }
ToolCard* make_fit_tool(Workplace place) { return new FitTool(place); }
ToolCard* make_measure_tool(Workplace place) { return new MeasureTool(place); }

}  // namespace lostline::app
