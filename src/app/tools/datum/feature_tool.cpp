#include <QComboBox>

#include "datum/symmetry.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/datums.h"
#include "project/model_target.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

using Type = project::Construction::Type;

/// Datum features that follow from fits: midplanes, axes, bolt circles, points; and planes of
/// symmetry of the scan, from a guess or from nothing.
class FeatureTool : public ToolCard {
 public:
  explicit FeatureTool(Workplace place) : ToolCard(place, tr("Feature"), tr("Datum")) {
    type_ = new QComboBox;
    type_->setObjectName(QStringLiteral("constructionType"));
    for (int t = 0; t <= static_cast<int>(Type::Symmetry); ++t)
      type_->addItem(core_word(project::construction_name(static_cast<Type>(t))));
    addRow(tr("feature"), type_);
    from_ = new PickField(tr("pick regions or fits"), 60, tr("parts"));
    from_->setWaiting(true);
    addRow(tr("from"), from_);
    found_ = new QComboBox;
    found_->setObjectName(QStringLiteral("symmetryPlane"));
    found_label_ = addRow(tr("found"), found_);
    connect(type_, &QComboBox::currentIndexChanged, this, [this] {
      planes_.clear();
      update();
    });
    connect(from_, &QPushButton::clicked, this, [this] {
      from_->clear(document());
      update();
    });
    connect(found_, &QComboBox::currentIndexChanged, this, [this] { showPlane(); });
    update();
  }
  void pick(const Pick& pick) override {
    if (pick.region != 0) pickRef({pick.region, 0});
  }
  void pickRef(const project::FitRef& ref) override {
    from_->offer(ref, document());
    update();
  }
  /// Regions and fits are others now, as after undo.
  void documentChanged() override {
    const bool pruned = from_->prune(document());
    if (document().scan == scan_ && document().survey == survey_ && !pruned) return;
    scan_ = document().scan;
    survey_ = document().survey;
    planes_.clear();
    update();
  }
  void resume() override { update(); }
  bool keep() override {
    if (type() == Type::Symmetry) {
      if (found_->currentIndex() < 0) return false;
      place_.session.commit(
          tr("symmetry plane"),
          project::add_symmetry(document(),
                                planes_[static_cast<std::size_t>(found_->currentIndex())].plane)
              .document);
      return true;
    }
    commitAside(tr("construct %1").arg(type_->currentText()),
                [what = construction()](const project::Document& d) -> Result<project::Document> {
                  auto added = project::add_construction(d, what);
                  if (!added) return added.error();
                  return std::move(added).value().document;
                });
    return false;
  }

 private:
  [[nodiscard]] Type type() const { return static_cast<Type>(type_->currentIndex()); }
  [[nodiscard]] project::Construction construction() const { return {type(), from_->refs()}; }
  void update() {
    const bool symmetry = type() == Type::Symmetry;
    found_->setVisible(symmetry);
    found_label_->setVisible(symmetry);
    settleHeight();
    place_.bench.setSelection(regions_of(from_->refs()));
    place_.bench.setMarks({});
    setKeepEnabled(false);
    if (symmetry) return find();
    if (from_->refs().empty()) {
      const QString hints[] = {
          tr("Click two planes."), tr("Click two holes, circles or points; a plane third."),
          tr("Click the holes that share an axis."), tr("Click the holes of the circle."),
          tr("Click three planes, a plane and an axis, or two axes.")};
      return setEvidence(hints[type_->currentIndex()]);
    }
    aside([this, what = construction(),
           document = place_.session.snapshot()](const Task&) -> Session::Finish {
      const auto made = project::construct(*document, what);
      return [this, made] {
        if (!made) return setError(core_text(made.error().message));
        show(*made);
        setKeepEnabled(true);
      };
    });
  }
  void show(const fit::SurfaceFit& f) {
    const auto shown = [](double v, int decimals = 3) { return length_shown(v, decimals); };
    const Vec3 at = document().to_part() * f.surface.point;
    QString text = tr("%1 at %2, %3, %4")
                       .arg(core_word(fit::kind_name(f.surface.kind)), shown(at.x()), shown(at.y()),
                            shown(at.z()));
    if (f.surface.kind == fit::Kind::Circle)
      text +=
          tr("\n\u2300 %1")
              .arg(QString::fromStdString(length_reading(2 * f.surface.radius, 2 * f.u_radius)));
    text += tr("\nplace \u00b1 %1").arg(QString::number(f.u_offset, 'g', 2));
    if (fit::has_direction(f.surface.kind))
      text += tr(", direction \u00b1 %1\u00b0").arg(QString::number(f.u_angle * 57.29578, 'g', 2));
    if (f.form_error > 0) text += tr("\nparts depart by %1").arg(shown(f.form_error));
    setEvidence(text);
    draw(f.surface);
  }
  /// A plane as a cross-hatched square, a line, a circle or a cross, in red pencil.
  void draw(const fit::Surface& scan_surface) {
    const fit::Surface s = fit::transformed(scan_surface, document().to_part());
    const double size = 0.35 * document().scan->health.box.diagonal().norm();
    LineBatch lines{{}, role::red_pencil, 1.8F, true};
    const Vec3 u = any_perpendicular(s.axis);
    const Vec3 v = s.axis.cross(u);
    if (fit::is_flat(s.kind)) {
      for (int k = -4; k <= 4; ++k) {
        const double at = size * k / 4;
        lines.segments.emplace_back(s.point + at * u - size * v, s.point + at * u + size * v);
        lines.segments.emplace_back(s.point + at * v - size * u, s.point + at * v + size * u);
      }
    } else if (s.kind == fit::Kind::Circle) {
      for (int k = 0; k < 72; ++k) {
        const auto at = [&](int i) {
          const double a = i * 6.283185307 / 72;
          return Vec3(s.point + s.radius * (std::cos(a) * u + std::sin(a) * v));
        };
        lines.segments.emplace_back(at(k), at(k + 1));
      }
    } else if (s.kind == fit::Kind::Point) {
      for (int k = 0; k < 3; ++k)
        lines.segments.emplace_back(s.point - 0.2 * size * Vec3::Unit(k),
                                    s.point + 0.2 * size * Vec3::Unit(k));
    } else {
      lines.segments.emplace_back(s.point - size * s.axis, s.point + size * s.axis);
    }
    place_.bench.setMarks({lines});
  }
  /// Planes of symmetry: near the picked plane, midway between two picked, or anywhere.
  void find() {
    std::optional<fit::Surface> guess;
    if (from_->refs().size() == 2) {
      const auto mid = project::construct(document(), {Type::Midplane, from_->refs()});
      if (mid) guess = mid->surface;
    } else if (from_->refs().size() == 1) {
      const fit::SurfaceFit* f = document().fit_of(from_->refs().front());
      if (f != nullptr && fit::is_flat(f->surface.kind)) guess = f->surface;
    }
    setEvidence(tr("Mirroring the scan upon itself …"));
    aside([this, guess, document = place_.session.snapshot()](const Task& task) -> Session::Finish {
      datum::Target scan;
      scan.mesh = *document->scan->mesh;
      scan.settle();
      const auto cloud =
          datum::cloud_of(scan.mesh, project::trust_of(*document->survey, scan.mesh), 40000);
      auto found =
          datum::find_symmetry(scan, cloud, project::found_of(*document->survey), guess, task);
      return [this, found = std::move(found)] {
        const QSignalBlocker block(found_);
        found_->clear();
        if (!found) return setError(core_text(found.error().message));
        planes_ = *found;
        for (const datum::Symmetry& s : planes_)
          found_->addItem(tr("%1 % mirrored, RMS %2")
                              .arg(100 * s.agreement, 0, 'f', 1)
                              .arg(length_shown(s.plane.rms, 3)));
        showPlane();
      };
    });
  }
  void showPlane() {
    if (found_->currentIndex() < 0) return;
    show(planes_[static_cast<std::size_t>(found_->currentIndex())].plane);
    setKeepEnabled(true);
  }
  QComboBox* type_;
  PickField* from_;
  QComboBox* found_;
  QLabel* found_label_;
  std::vector<datum::Symmetry> planes_;
  std::shared_ptr<const project::Scan> scan_ = document().scan;
  std::shared_ptr<const survey::Survey> survey_ = document().survey;
};

}  // namespace

Tool feature_tool() {
  Tool tool{QT_TRANSLATE_NOOP("tools", "Feature"),
            "drafting-compass",
            QT_TRANSLATE_NOOP("tools", "Midplane, common axis, bolt circle, symmetry plane"),
            kDatum,
            'e',
            Tool::Needs::Survey,
            [](Workplace place, project::Id) -> ToolCard* { return new FeatureTool(place); }};
  tool.takes = {Item::Kind::Region, Item::Kind::Fit};
  return tool;
}

}  // namespace lostline::app
