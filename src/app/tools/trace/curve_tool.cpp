#include <QCheckBox>

#include "look/catalogue.h"
#include "look/theme.h"
#include "model/steps/space_curve/space_curve.h"
#include "reading/space_curves.h"
#include "tools/build/step_tool.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// What a curve in space follows.
enum Follows { kPlaces, kBorder, kMiddle, kEdge, kCrossing };

/// A curve in space from what is clicked: places on the scan, a border or the middle line of a
/// region, an edge of the model, or the crossing of two sketches.
class CurveTool : public StepTool {
 public:
  CurveTool(Workplace place, project::Id step)
      : StepTool(place, tr("Curve"), step,
                 tr("curve %1").arg(place.session.document().steps.size() + 1),
                 QObject::tr("Trace")) {
    follows_ = new QComboBox;
    follows_->setObjectName(QStringLiteral("curveFollows"));
    follows_->addItems({tr("places"), tr("border of a region"), tr("middle of a strip"),
                        tr("edge of the model"), tr("crossing of two sketches")});
    follows_->setToolTip(tr("What the curve follows"));
    addRow(tr("follows"), follows_);
    on_scan_ = new QCheckBox(tr("stays on the scan"));
    on_scan_->setObjectName(QStringLiteral("curveOnScan"));
    on_scan_->setToolTip(tr("Places are put between where it would leave the scan"));
    on_scan_->setChecked(step == 0);
    addWide(on_scan_);
    closed_ = new QCheckBox(tr("closed"));
    closed_->setObjectName(QStringLiteral("curveClosed"));
    addWide(closed_);
    for (auto* box : {&first_, &second_}) {
      *box = new QComboBox;
      connect(*box, &QComboBox::currentIndexChanged, this, [this] { changed(); });
    }
    first_->setObjectName(QStringLiteral("curveFirst"));
    second_->setObjectName(QStringLiteral("curveSecond"));
    refill();
    if (second_->count() > 1) second_->setCurrentIndex(1);
    first_label_ = addRow(tr("sketch"), first_);
    second_label_ = addRow(tr("and sketch"), second_);
    runs_ = new QComboBox;
    runs_->setObjectName(QStringLiteral("curveRuns"));
    runs_->addItems({tr("smooth"), tr("straight")});
    addRow(tr("runs"), runs_);
    tolerance_ = length(0, 0, 1000, 0.05, 3, QStringLiteral("curveTolerance"));
    tolerance_->setToolTip(
        tr("How far it may lie from what it follows; 0: what noise and spacing tell"));
    addRow(in_unit(tr("within, mm")), tolerance_);
    addButtons(
        {{tr("take back"), QStringLiteral("takeBack"), tr("Take the last place back"), [this] {
            if (!picks_.empty()) picks_.pop_back();
            changed();
          }}});
    if (const model::Step* s = editedStep()) {
      curve_ = *s->feature.as<model::SpaceCurve>();
      picks_ = curve_.path.corners;
      closed_->setChecked(curve_.closed);
      runs_->setCurrentIndex(static_cast<int>(curve_.runs));
    }
    connect(follows_, &QComboBox::currentIndexChanged, this, [this] {
      picks_.clear();
      region_ = 0;
      edge_.clear();
      changed();
    });
    for (QCheckBox* box : {on_scan_, closed_})
      connect(box, &QCheckBox::toggled, this, [this] { changed(); });
    connect(runs_, &QComboBox::currentIndexChanged, this, [this] { changed(); });
    connect(tolerance_, &QDoubleSpinBox::valueChanged, this, [this] { changed(); });
    showRows();
  }
  void begin() override {
    place_.bench.setShow(document().scan ? Show::Scan : Show::Both);
    tryAgain();
  }
  void pick(const Pick& pick) override {
    const int follows = follows_->currentIndex();
    if (follows == kPlaces) {
      // A press on a place takes it.
      held_ = near(pick.screen);
      if (held_ || pick.what == Pick::What::Nothing) return;
      picks_.push_back(pick.point);
    } else if (follows == kBorder || follows == kMiddle) {
      if (pick.what != Pick::What::Scan || pick.region == 0)
        return setEvidence(tr("Click a region of the scan."));
      region_ = pick.region;
      picks_ = {pick.point};
    } else if (follows == kEdge) {
      if (!pick.edge) return setEvidence(tr("Click an edge of the model."));
      edge_.clear();
      const auto triangles = shownTriangles();
      for (std::size_t k = 0; triangles && k < triangles->edges.size(); ++k) {
        if (triangles->edges[k].edge == *pick.edge) edge_ = triangles->edges[k].points;
      }
    }
    changed();
  }
  /// The sketches that there are now; those chosen stay chosen.
  void refill() override {
    for (QComboBox* box : {first_, second_}) {
      const QVariant chosen = box->currentData();
      const QSignalBlocker block(box);
      box->clear();
      for (const auto& s : document().sketches)
        box->addItem(QString::fromStdString(s->name), static_cast<qulonglong>(s->id));
      if (const int row = box->findData(chosen); chosen.isValid() && row >= 0)
        box->setCurrentIndex(row);
    }
  }
  /// A place is taken near the pointer.
  [[nodiscard]] bool takesDrag(const Pick& pick) const override {
    return follows_->currentIndex() == kPlaces && near(pick.screen).has_value();
  }
  void drag(const QPointF& at, bool released) override {
    if (!held_) held_ = near(at);
    if (!held_) return;
    const Pick pick = place_.bench.pickAt(at);
    if (pick.what != Pick::What::Nothing) picks_[*held_] = pick.point;
    if (released) held_.reset();
    changed();
  }
  bool keep() override {
    if (curve_.path.corners.size() < 2) return false;
    commit(curve_, {});
    return false;
  }

 private:
  [[nodiscard]] std::optional<std::size_t> near(const QPointF& at) const {
    constexpr double kReach = 9;  // pixels
    for (std::size_t i = 0; i < picks_.size(); ++i) {
      const QPointF d = place_.bench.camera().toScreen(picks_[i]) - at;
      if (std::hypot(d.x(), d.y()) < kReach) return i;
    }
    return std::nullopt;
  }
  void changed() {
    touch();
    showRows();
    tryAgain();
  }
  void showRows() {
    const int follows = follows_->currentIndex();
    on_scan_->setVisible(follows == kPlaces);
    closed_->setVisible(follows == kPlaces);
    for (QWidget* w : std::initializer_list<QWidget*>{first_, first_label_, second_, second_label_})
      w->setVisible(follows == kCrossing);
    settleHeight();
  }
  /// What there is to follow; empty while something is missing.
  using Read = std::function<Result<reading::CurveReading>(const project::Document&)>;
  [[nodiscard]] Read wanted() const {
    const double said = tolerance_->value();
    const auto within = [said](const project::Document& d) {
      return said > 0 ? said : reading::curve_tolerance(d);
    };
    switch (follows_->currentIndex()) {
      case kPlaces: {
        const bool closed = closed_->isChecked();
        if (picks_.size() < (closed ? 3U : 2U)) return {};
        const bool on_scan = on_scan_->isChecked() && document().scan;
        return [picks = picks_, closed, on_scan,
                within](const project::Document& d) -> Result<reading::CurveReading> {
          if (on_scan) return reading::curve_on_scan(d, picks, closed, within(d));
          return reading::CurveReading{picks, closed, 0, 0, "places"};
        };
      }
      case kBorder:
      case kMiddle: {
        if (region_ == 0) return {};
        const bool border = follows_->currentIndex() == kBorder;
        return [region = region_, at = picks_.front(), border, within](const project::Document& d) {
          return border ? reading::border_curve(d, region, at, within(d))
                        : reading::middle_curve(d, region, within(d));
        };
      }
      case kEdge:
        if (edge_.size() < 2) return {};
        return [edge = edge_, said](const project::Document&) {
          const bool closed = (edge.front() - edge.back()).norm() < 1e-6;
          return reading::curve_along(edge, closed, said > 0 ? said : 0.01, "edge of the model");
        };
      default:
        break;
    }
    const auto* a = document().find_sketch(first_->currentData().toULongLong());
    const auto* b = document().find_sketch(second_->currentData().toULongLong());
    if (a == nullptr || b == nullptr || a == b) return {};
    return [a = a->id, b = b->id, said](const project::Document& d) {
      return reading::crossing_curve(*d.find_sketch(a), *d.find_sketch(b), said > 0 ? said : 0.01);
    };
  }
  void tryAgain() override {
    setKeepEnabled(false);
    drawPlaces({});
    const Read read = wanted();
    if (!read) {
      curve_.path.corners.clear();
      return setEvidence(lack());
    }
    model::SpaceCurve feature;
    feature.runs = static_cast<model::SpaceCurve::Runs>(runs_->currentIndex());
    aside([this, read, feature, ground = ground()](const Task& task) mutable -> Session::Finish {
      const auto said = read(*ground.document);
      if (!said) return [this, error = said.error()] { setError(core_text(error.message)); };
      feature.path.corners = said->places;
      feature.closed = said->closed;
      return [this, feature, said = *said, trial = ground.attempt(feature, task)] {
        if (!trial.solid) return setError(core_text(trial.solid.error().message));
        curve_ = feature;
        setKeepEnabled(true);
        drawPlaces(feature.path.corners);
        QString text = tr("%1 places").arg(feature.path.corners.size());
        if (said.greatest > 0)
          text += tr(" \u00b7 RMS %1, at most %2")
                      .arg(length_shown(said.rms, 4), length_shown(said.greatest, 3));
        const auto spline = curve::SpaceSpline::through(feature.path.corners, feature.closed);
        if (spline && feature.runs == model::SpaceCurve::Runs::Smooth)
          text += tr("\n%1 long").arg(length_shown(spline->length(), 2));
        setEvidence(text);
      };
    });
  }
  [[nodiscard]] QString lack() const {
    switch (follows_->currentIndex()) {
      case kPlaces:
        return tr("Click places on the scan or the model, in order; drag them.");
      case kBorder:
        return tr("Click a region near the border that the curve follows.");
      case kMiddle:
        return tr("Click a region that is a long strip.");
      case kEdge:
        return tr("Click an edge of the model.");
      default:
        return tr("Choose two sketches on planes that are not parallel.");
    }
  }
  /// The curve and its places, those that were clicked larger.
  void drawPlaces(const std::vector<Vec3>& places) {
    std::vector<LineBatch> marks;
    const bool smooth = runs_->currentIndex() == 0;
    LineBatch line{{}, role::red_pencil, 2.0F, true};
    std::vector<Vec3> points = places;
    if (places.size() > 1 && smooth) {
      if (const auto spline = curve::SpaceSpline::through(places, curve_.closed))
        points = spline->points(spline->range() / (20.0 * static_cast<double>(places.size())));
    } else if (places.size() > 2 && curve_.closed) {
      points.push_back(points.front());
    }
    for (std::size_t k = 1; k < points.size(); ++k)
      line.segments.emplace_back(points[k - 1], points[k]);
    marks.push_back(std::move(line));
    // A cross at each place, of a few pixels.
    const double pixel = 1 / place_.bench.camera().scale;
    const auto cross = [&](const std::vector<Vec3>& at, double size, float width) {
      LineBatch batch{{}, role::red_pencil, width, true};
      for (const Vec3& p : at) {
        for (int k = 0; k < 3; ++k)
          batch.segments.emplace_back(p - size * pixel * Vec3::Unit(k),
                                      p + size * pixel * Vec3::Unit(k));
      }
      marks.push_back(std::move(batch));
    };
    cross(places, 2.5, 1.2F);
    if (follows_->currentIndex() == kPlaces) cross(picks_, 5, 2.4F);
    place_.bench.setMarks(std::move(marks));
  }

  QComboBox *follows_, *runs_, *first_ = nullptr, *second_ = nullptr;
  QLabel *first_label_, *second_label_;
  QCheckBox *on_scan_, *closed_;
  QDoubleSpinBox* tolerance_;
  model::SpaceCurve curve_;
  std::vector<Vec3> picks_;  ///< part coordinates
  std::uint32_t region_ = 0;
  std::vector<Vec3> edge_;  ///< points of the edge clicked
  std::optional<std::size_t> held_;
};

}  // namespace

Tool curve_tool() {
  Tool tool = step_tool(
      model::SpaceCurve::kind, Tool::Needs::Nothing,
      [](Workplace place, project::Id step) -> ToolCard* { return new CurveTool(place, step); });
  tool.stage = kTrace;
  tool.letter = 'c';
  return tool;
}

}  // namespace lostline::app
