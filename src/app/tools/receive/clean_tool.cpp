#include <QCheckBox>
#include <QComboBox>
#include <QSpinBox>
#include <numbers>

#include "look/preferences.h"
#include "look/theme.h"
#include "scan/clean.h"
#include "scan/defects.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Selects triangles of the scan and cleans: delete, spikes, holes, thinning, smoothing.
class CleanTool : public ToolCard {
 public:
  explicit CleanTool(Workplace place) : ToolCard(place, tr("Clean"), tr("Receive")) {
    mode_ = new QComboBox;
    mode_->setObjectName(QStringLiteral("selectMode"));
    mode_->addItems({tr("box"), tr("lasso"), tr("brush"), tr("connected"), tr("same normal")});
    mode_->setToolTip(tr("Drag on the Bench; hold Ctrl to take away from the selection"));
    addRow(tr("select by"), mode_);
    through_ = new QCheckBox(tr("also what lies behind"));
    addWide(through_);
    addButtons({{tr("invert"), QStringLiteral("invert"), tr("Select what is not selected"),
                 [this] { set(scan::inverted(selection_)); }},
                {tr("grow"), QStringLiteral("grow"), tr("One ring of triangles more"),
                 [this] { set(scan::grown(mesh(), selection_)); }},
                {tr("shrink"), QStringLiteral("shrink"), tr("One ring of triangles less"),
                 [this] { set(scan::shrunk(mesh(), selection_)); }},
                {tr("none"), QStringLiteral("selectNone"), tr("Select nothing"),
                 [this] { set(scan::Selection(selection_.size(), 0)); }}});
    what_ = new QComboBox;
    what_->setObjectName(QStringLiteral("cleanWhat"));
    what_->addItems({tr("delete the selection"), tr("keep only the selection"), tr("drop spikes"),
                     tr("fill holes flat"), tr("fill holes curved"), tr("thin evenly"),
                     tr("thin by curvature"), tr("smooth"), tr("even edges"),
                     tr("mend crossings and folds")});
    addRow(tr("then"), what_);
    value_ = length(0, 0, 1e6, 1, 2, QStringLiteral("cleanValue"));
    label_ = addRow(QString(), value_);
    connect(what_, &QComboBox::currentIndexChanged, this, [this] { offerValue(); });
    selection_.assign(mesh().triangles.size(), 0);
    setKeepText(tr("Do it  \u23ce"));
    setDiscardText(tr("Done  Esc"));
    offerValue();
  }
  void resume() override { set(selection_); }
  void documentChanged() override {
    if (document().scan == scan_) return;
    scan_ = document().scan;
    if (scan_) set(scan::Selection(mesh().triangles.size(), 0));
  }
  void pick(const Pick& pick) override {
    path_ = {pick.screen};
    adding_ = (pick.modifiers & Qt::ControlModifier) == 0;
    if (pick.what != Pick::What::Scan) return;
    const auto mode = mode_->currentIndex();
    if (mode == kConnected) {
      scan::select_connected(document().scan->topology, {pick.triangle}, adding_, selection_);
      set(selection_);
    } else if (mode == kNormal) {
      for (const std::uint32_t t : survey::grow_by_normal(
               mesh(), document().scan->topology, pick.triangle, 8 * std::numbers::pi / 180))
        selection_[t] = adding_ ? 1 : 0;
      set(selection_);
    } else if (mode == kBrush) {
      brush(pick.screen);
    }
  }
  [[nodiscard]] bool takesDrag(const Pick& pick) const override {
    const int mode = mode_->currentIndex();
    return mode == kBox || mode == kLasso || (mode == kBrush && pick.what == Pick::What::Scan);
  }
  void drag(const QPointF& at, bool released) override {
    if (path_.isEmpty()) return;
    if (mode_->currentIndex() == kBrush) return brush(at);
    if (mode_->currentIndex() != kBox && mode_->currentIndex() != kLasso) return;
    QPolygonF outline;
    if (mode_->currentIndex() == kBox) {
      outline = QPolygonF(QRectF(path_.first(), at).normalized());
    } else {
      path_ << at;
      outline = path_;
    }
    place_.bench.setRubber(released ? QPolygonF() : outline);
    if (!released) return;
    path_.clear();
    // What faces the eye inside the outline; behind it too when asked for.
    const Transform to_part = document().to_part();
    scan::Sight sight;
    sight.direction =
        (to_part.linear().transpose() * place_.bench.camera().viewDirection()).normalized();
    sight.through = through_->isChecked();
    sight.slack = 2 * document().scan->health.spacing;
    aside([this, sight, outline, to_part, camera = place_.bench.camera(), adding = adding_,
           scan = document().scan](const Task& task) -> Session::Finish {
      const auto seen = scan::select_seen(
          *scan->mesh, *scan->index, sight,
          [&](const Vec3& p) {
            return outline.containsPoint(camera.toScreen(to_part * p), Qt::OddEvenFill);
          },
          true, scan::Selection(scan->mesh->triangles.size(), 0), task);
      return [this, seen, adding] {
        // Onto the selection as it is now: it may have been inverted meanwhile.
        if (!seen || seen->size() != selection_.size())
          return describe(scan::indices_of(selection_).size());
        for (std::size_t t = 0; t < selection_.size(); ++t) {
          if ((*seen)[t] != 0) selection_[t] = adding ? 1 : 0;
        }
        set(selection_);
      };
    });
  }
  bool keep() override {
    const auto scan = document().scan;
    const double value = value_->value();
    const QString name = what_->currentText();
    Session& session = place_.session;
    const auto cleaned = clean(what_->currentIndex(), scan, selection_, value);
    const QPointer<CleanTool> self(this);
    struct Said {
      std::size_t count = 0;
      double rms = 0, most = 0;
    };
    const auto made_said = std::make_shared<Said>();
    session.longEdit(
        name,
        [scan, cleaned, made_said](const project::Document& d,
                                   const Task& task) -> Result<project::Document> {
          if (d.scan != scan)
            return Error{ErrorCode::InvalidInput,
                         "The scan changed meanwhile, so this was not done. Select again."};
          const auto made = cleaned(task.part(0, 0.5));
          if (!made) return made.error();
          const auto prepared = project::prepare_scan(made->mesh, scan->name, scan->source,
                                                      scan->unit, task.part(0.5, 1));
          if (!prepared) return prepared.error();
          *made_said = {made->count, made->moved_rms, made->moved_most};
          return project::with_changed_scan(d, *prepared);
        },
        [&session, self, name, made_said](const Error* error) {
          if (error != nullptr) return session.report(*error);
          QString said = QObject::tr("%1: %2").arg(
              name, QString::fromStdString(format_count(made_said->count)));
          if (made_said->most > 0)
            said += QObject::tr(", moved RMS %1, at most %2 %3")
                        .arg(length_shown(made_said->rms, 4), length_shown(made_said->most, 3),
                             length_unit());
          Q_EMIT session.said(said);
          if (self) self->setEvidence(said);
        });
    return false;
  }

 private:
  enum Mode { kBox, kLasso, kBrush, kConnected, kNormal };
  enum What {
    kDelete,
    kKeep,
    kSpikes,
    kFlat,
    kCurved,
    kEven,
    kByCurvature,
    kSmooth,
    kRemesh,
    kMend
  };
  [[nodiscard]] const scan::Mesh& mesh() const { return *document().scan->mesh; }
  void set(scan::Selection selection) {
    selection_ = std::move(selection);
    const auto triangles = scan::indices_of(selection_);
    place_.bench.setSelection({}, triangles);
    describe(triangles.size());
  }
  void describe(std::size_t selected) {
    const int what = what_->currentIndex();
    const bool needs = what == kDelete || what == kKeep || what == kMend;
    setKeepEnabled(!needs || (selected > 0 && selected < selection_.size()));
    setEvidence(
        selected == 0
            ? (needs ? tr("Drag on the scan to select; Ctrl takes away.")
                     : tr("Nothing selected: the whole scan is meant."))
            : tr("%1 triangles selected").arg(QString::fromStdString(format_count(selected))));
  }
  void offerValue() {
    const int what = what_->currentIndex();
    const double spacing = document().scan->health.spacing;
    const QSignalBlocker block(value_);
    const bool wanted = what >= kSpikes && what != kMend;
    value_->setVisible(wanted);
    label_->setVisible(wanted);
    const bool spaced = what == kEven || what == kByCurvature || what == kRemesh;
    value_->setLength(spaced);
    label_->setText(what == kSpikes                    ? tr("beyond, \u03c3")
                    : what == kFlat || what == kCurved ? tr("edges, at most")
                    : spaced                           ? in_unit(tr("spacing, mm"))
                                                       : tr("passes"));
    value_->setValue(what == kSpikes                    ? 6
                     : what == kFlat || what == kCurved ? 200
                     : spaced                           ? (what == kRemesh ? 1 : 2) * spacing
                                                        : 3);
    settleHeight();
    describe(scan::indices_of(selection_).size());
    if (what == kMend) showDefects();
  }
  /// What crosses, folds or lies double becomes the selection: what of it is kept selected is
  /// mended.
  void showDefects() {
    setEvidence(tr("looking for crossings and folds \u2026"));
    setKeepEnabled(false);
    aside([this, scan = document().scan](const Task& task) -> Session::Finish {
      const auto found = scan::find_defects(*scan->mesh, scan->topology, task);
      return [this, found, scan] {
        if (!found || document().scan != scan || what_->currentIndex() != kMend) return;
        scan::Selection selection(scan->mesh->triangles.size(), 0);
        for (const std::uint32_t t : found->all()) selection[t] = 1;
        set(std::move(selection));
        const auto count = [](std::size_t n) { return QString::fromStdString(format_count(n)); };
        setEvidence(tr("%1 cross, %2 fold, %3 lie double, %4 at edges of three")
                        .arg(count(found->crossing.size()), count(found->folded.size()),
                             count(found->doubled.size()), count(found->non_manifold.size())));
      };
    });
  }
  void brush(const QPointF& at) {
    constexpr double kRadius = 14;  // pixels
    const Camera& camera = place_.bench.camera();
    const Pick under = place_.bench.pickAt(at);
    if (under.what != Pick::What::Scan) return;
    const Vec3 centre = document().to_part().inverse() * under.point;
    for (const std::uint32_t t : scan::patch_around(mesh(), document().scan->topology,
                                                    under.triangle, centre, kRadius / camera.scale))
      selection_[t] = adding_ ? 1 : 0;
    set(selection_);
  }
  static std::function<Result<scan::Cleaned>(const Task&)> clean(
      int what, const std::shared_ptr<const project::Scan>& scan, const scan::Selection& selection,
      double value) {
    return [what, scan, selection, value](const Task& task) -> Result<scan::Cleaned> {
      const scan::Mesh& mesh = *scan->mesh;
      switch (what) {
        case kDelete:
        case kKeep: {
          scan::Cleaned result;
          const auto keep = what == kKeep ? selection : scan::inverted(selection);
          result.mesh = scan::extract(mesh, keep);
          result.count = mesh.triangles.size() - result.mesh.triangles.size();
          return result;
        }
        case kSpikes:
          return scan::drop_spikes(mesh, scan->topology, scan->health.noise_sigma, value);
        case kFlat:
        case kCurved:
          return scan::fill_holes(mesh, what == kFlat ? scan::Filling::Flat : scan::Filling::Curved,
                                  static_cast<std::size_t>(value), task);
        case kEven:
        case kByCurvature:
          return scan::thin(mesh, what == kEven ? scan::Thinning::Even : scan::Thinning::Curvature,
                            value, task);
        case kRemesh: {
          const bool some = std::find(selection.begin(), selection.end(), 1) != selection.end();
          return scan::remesh(mesh, some ? selection : scan::Selection{}, value, task);
        }
        case kMend:
          return scan::mend(mesh, scan->topology, scan::indices_of(selection), task);
        default:
          return scan::smooth(mesh, scan->topology, selection, static_cast<int>(value), task);
      }
    };
  }

  QComboBox* mode_;
  QCheckBox* through_;
  QComboBox* what_;
  LengthBox* value_;
  QLabel* label_;
  scan::Selection selection_;
  std::shared_ptr<const project::Scan> scan_ = document().scan;
  QPolygonF path_;
  bool adding_ = true;
};

}  // namespace

Tool clean_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Clean"),
          "lasso-select",
          QT_TRANSLATE_NOOP("tools", "Select on the scan; delete, fill holes, thin, smooth"),
          kReceive,
          'c',
          Tool::Needs::Scan,
          [](Workplace place, project::Id) -> ToolCard* { return new CleanTool(place); }};
}

}  // namespace lostline::app
