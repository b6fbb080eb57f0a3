#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QLineEdit>

#include "io/formats.h"
#include "look/catalogue.h"
#include "look/file_filter.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/datums.h"
#include "project/model_target.h"
#include "reading/probe.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// A model that was read, ready to be matched, shown and picked.
struct Loaded {
  std::string file;
  std::shared_ptr<const project::Scan> scan;  ///< that was worked on then
  std::shared_ptr<const datum::Target> target;
  std::shared_ptr<const BenchView::Guest> guest;
};
using Brought = std::vector<datum::Candidate>;

Result<std::shared_ptr<Loaded>> load(const std::string& file) {
  const auto solid = io::read_model(file);
  if (!solid) return solid.error();
  auto target = project::target_of(*solid);
  if (!target) return target.error();
  auto shown = model::tessellate(*solid);
  if (!shown) return shown.error();
  auto loaded = std::make_shared<Loaded>();
  loaded->file = file;
  loaded->target = std::make_shared<const datum::Target>(*std::move(target));
  auto guest = std::make_shared<BenchView::Guest>();
  guest->tessellation = std::make_shared<const model::Tessellation>(*std::move(shown));
  guest->index = std::make_shared<const scan::MeshIndex>(guest->tessellation->mesh);
  loaded->guest = std::move(guest);
  return loaded;
}

/// Brings the scan upon an existing model: every way that it lies on it, areas that differ.
class ToModelTool : public ToolCard {
 public:
  explicit ToModelTool(Workplace place) : ToolCard(place, tr("To model"), tr("Datum")) {
    path_ = new QLineEdit;
    path_->setObjectName(QStringLiteral("modelPath"));
    path_->setPlaceholderText(tr("a STEP file"));
    path_->setToolTip(tr("The model that the scan is laid upon"));
    addRow(tr("model"), path_);
    addButtons({{tr("choose…"), QStringLiteral("chooseModel"), tr("Choose a STEP file"),
                 [this] { choose(); }}});
    search_ = length(0, 0, 1000, 1, 1, QStringLiteral("searchDistance"));
    search_->setSpecialValueText(tr("by size"));
    search_->setToolTip(tr("What lies further from the model belongs to none of it"));
    addRow(in_unit(tr("search, mm")), search_);
    by_ = new QComboBox;
    by_->setObjectName(QStringLiteral("placeBy"));
    by_->addItems({tr("matching surfaces"), tr("features paired"), tr("points paired")});
    by_->setToolTip(tr("Where matching fails: say which features or points belong together"));
    addRow(tr("by"), by_);
    pairs_row_ =
        button({tr("none yet"), QStringLiteral("pairs"),
                tr("The pairs so far; click to take the last one back"), [this] { takeBack(); }});
    pairs_label_ = addRow(tr("pairs"), pairs_row_);
    way_ = new QComboBox;
    way_->setObjectName(QStringLiteral("candidate"));
    way_->setToolTip(tr("Every way in which a symmetric part lies alike"));
    addRow(tr("lies"), way_);
    connect(path_, &QLineEdit::editingFinished, this, [this] { bring(); });
    connect(search_, &QDoubleSpinBox::valueChanged, this, [this] { bring(); });
    connect(way_, &QComboBox::currentIndexChanged, this, [this] { show(); });
    connect(by_, &QComboBox::currentIndexChanged, this, [this] {
      pairs_.clear();
      scan_half_.reset();
      refreshPairs();
      placed_.clear();
      bring();
    });
    addCheckViews();
    refreshPairs();
    connect(this, &ToolCard::finished, this,
            [&bench = place_.bench, shown = place_.bench.show()] { bench.setShow(shown); });
    setKeepEnabled(false);
    setEvidence(tr("Choose the model. Surfaces of the scan are matched with its faces."));
  }
  /// A half of a pair: first on the scan, then on the model.
  void pick(const Pick& pick) override {
    if (by_->currentIndex() == 0 || !loaded_ || pick.what == Pick::What::Nothing) return;
    const bool points = by_->currentIndex() == 2;
    if (!scan_half_) {
      if (pick.what != Pick::What::Scan) return;
      // Once a way is found the scan is shown there, not where the document has it.
      const Transform shown = brought_ ? chosen().fit.motion : document().to_part();
      if (points) {
        const auto probe =
            reading::probe_scan(*document().scan, pick.triangle, shown.inverse() * pick.point);
        if (!probe) return setError(core_text(probe.error().message));
        scan_half_ = probe->point;
      } else if (const fit::SurfaceFit* f = document().fit_of({pick.region, 0})) {
        scan_half_ = f->surface;
      } else {
        return setError(tr("No surface was found there. Click a region with a fit."));
      }
      return waitForModel();
    }
    if (pick.what != Pick::What::Model) return;
    datum::Pair pair{*scan_half_, pick.point};
    if (!points) {
      const auto& face = loaded_->target->faces[pick.face];
      if (!face) return setError(tr("This face of the model is free-form. Click another."));
      pair.model = *face;
    }
    pairs_.push_back(pair);
    scan_half_.reset();
    refreshPairs();
    placed_.clear();
    bring();
  }
  /// The scan is another now, as after undo: it is placed again.
  void documentChanged() override {
    if (!loaded_ || document().scan == loaded_->scan) return;
    pairs_.clear();
    scan_half_.reset();
    loaded_.reset();
    brought_.reset();
    way_->clear();
    refreshPairs();
    placed_.clear();
    setKeepEnabled(false);
    setEvidence(tr("The scan changed; it needs a survey to be matched."));
    bring();
  }
  void resume() override {
    if (brought_) return show();
    if (scan_half_) return waitForModel();
    if (byPairs() && loaded_) waitForScan({});
  }
  bool keep() override {
    if (!brought_ || way_->currentIndex() < 0) return false;
    const datum::Candidate& c = chosen();
    const project::BroughtUpon upon{QFileInfo(path_->text()).fileName().toStdString(), c.fit.rms,
                                    c.fit.used_fraction, c.agreement};
    commitAside(
        tr("bring scan upon %1").arg(QFileInfo(path_->text()).fileName()),
        [motion = c.fit.motion, upon](const project::Document& d) {
          return project::set_frame_upon(d, motion, upon);
        },
        [this] { place_.bench.setPreviewPlacement({}); });
    return false;
  }

 protected:
  bool entered() override {
    // Return behind the path looks for the way; the next one keeps it.
    if (!path_->hasFocus()) return false;
    place_.bench.setFocus();
    bring();
    return true;
  }

 private:
  [[nodiscard]] const datum::Candidate& chosen() const {
    return (*brought_)[static_cast<std::size_t>(way_->currentIndex())];
  }
  void choose() {
    const QString file = QFileDialog::getOpenFileName(this, tr("Model"), {},
                                                      file_filter(tr("Models"), {io::reads_model}));
    if (file.isEmpty()) return;
    path_->setText(file);
    bring();
  }
  [[nodiscard]] bool byPairs() const { return by_->currentIndex() > 0; }
  void refreshPairs() {
    pairs_row_->setVisible(byPairs());
    pairs_label_->setVisible(byPairs());
    QStringList names;
    for (const datum::Pair& p : pairs_) {
      const auto* s = std::get_if<fit::Surface>(&p.scan);
      names << (s != nullptr ? core_word(fit::kind_name(s->kind)) : tr("point"));
    }
    pairs_row_->setText(names.isEmpty() ? tr("none yet") : names.join(QStringLiteral(", ")));
    settleHeight();
  }
  void takeBack() {
    if (scan_half_)
      scan_half_.reset();
    else if (!pairs_.empty())
      pairs_.pop_back();
    refreshPairs();
    placed_.clear();
    bring();
  }
  /// The scan alone, to click the next feature or point of it.
  void waitForScan(const QString& why) {
    brought_.reset();
    place_.bench.setPreviewPlacement({});
    place_.bench.setMarks({});
    place_.bench.setSelection({});
    place_.bench.setGuest({});
    place_.bench.setShow(Show::Scan);
    place_.bench.restoreView();
    setEvidence(why + (by_->currentIndex() == 2 ? tr("Click a point on the scan.")
                                                : tr("Click a feature of the scan.")));
  }
  /// The model alone, to click what belongs to it.
  void waitForModel() {
    place_.bench.setMarks({});
    place_.bench.setGuest(loaded_->guest);
    place_.bench.setShow(Show::Model);
    // The model may lie far from the scan until it is placed.
    place_.bench.keepView();
    place_.bench.fitView();
    setEvidence(by_->currentIndex() == 2 ? tr("Now the same point on the model.")
                                         : tr("Now the same feature on the model."));
  }
  void bring() {
    const std::string file = path_->text().toStdString();
    const double search = search_->value();
    if (file.empty() || !document().scan || !document().survey ||
        (file == placed_ && search == searched_))
      return;
    placed_ = file;
    searched_ = search;
    brought_.reset();
    setKeepEnabled(false);
    project::PlaceRequest request;
    request.search = search;
    request.pairs = pairs_;
    request.hint = document().to_part();
    setEvidence(tr("Matching surfaces …"));
    aside([this, file, request, only_load = byPairs() && pairs_.empty(),
           known = loaded_ && loaded_->file == file ? loaded_ : nullptr,
           document = place_.session.snapshot()](const Task& task) -> Session::Finish {
      const auto fail = [this](const Error& error) -> Session::Finish {
        return [this, error] {
          if (byPairs() && loaded_)
            return waitForScan(core_text(error.message) + QLatin1Char('\n'));
          placed_.clear();
          setError(core_text(error.message));
        };
      };
      std::shared_ptr<const Loaded> loaded = known;
      if (!loaded) {
        auto fresh = load(file);
        if (!fresh) return fail(fresh.error());
        fresh.value()->scan = document->scan;
        loaded = *std::move(fresh);
      }
      task.report(0.2);
      if (only_load)
        return [this, loaded] {
          loaded_ = loaded;
          waitForScan({});
        };
      auto placed = project::place_scan(*document->scan->mesh, *document->survey, *loaded->target,
                                        request, task.part(0.2, 1));
      if (!placed)
        return [this, loaded, then = fail(placed.error())] {
          loaded_ = loaded;
          then();
        };
      return [this, loaded, brought = std::make_shared<const Brought>(*std::move(placed))] {
        loaded_ = loaded;
        brought_ = brought;
        const QSignalBlocker block(way_);
        way_->clear();
        for (std::size_t i = 0; i < brought->size(); ++i)
          way_->addItem(tr("way %1 of %2: %3 % agrees")
                            .arg(i + 1)
                            .arg(brought->size())
                            .arg(100 * (*brought)[i].agreement, 0, 'f', 1));
        place_.bench.setGuest({});
        place_.bench.setShow(Show::Scan);
        show();
      };
    });
  }
  /// The scan where the chosen way puts it, the model's edges over it, what differs in red.
  void show() {
    if (!brought_ || way_->currentIndex() < 0) return;
    const datum::BestFit fit = chosen().fit;
    place_.bench.setPreviewPlacement(fit.motion);
    LineBatch edges{{}, role::ink, 1.8F, true};
    for (const auto& edge : loaded_->guest->tessellation->edges) {
      for (std::size_t i = 1; i < edge.points.size(); ++i)
        edges.segments.emplace_back(edge.points[i - 1], edge.points[i]);
    }
    place_.bench.setMarks({edges});
    place_.bench.restoreView();
    aside([this, fit, target = loaded_->target, search = search_->value(),
           scan = document().scan](const Task&) -> Session::Finish {
      const double size = target->size;
      const double tolerance = std::max(5 * fit.sigma, 0.05);
      auto differing =
          datum::differences(*target, *scan->mesh, scan->topology, fit.motion, tolerance,
                             search > 0 ? search : size / 30, 1e-4 * size * size);
      return [this, fit, tolerance, differing = std::move(differing)] {
        std::vector<std::uint32_t> red;
        for (const datum::Difference& d : differing)
          red.insert(red.end(), d.triangles.begin(), d.triangles.end());
        place_.bench.setSelection({}, red);
        QString text = tr("RMS %1 on %2 % of the scan")
                           .arg(length_shown(fit.rms, 3))
                           .arg(100 * fit.used_fraction, 0, 'f', 1);
        if (!fit.settled)
          text += tr("\nnot settled: still moving after %1 rounds").arg(fit.iterations);
        for (const auto& loose : fit.loose)
          text += tr("\nnot held: %1").arg(core_text(loose.words()));
        text += (differing.size() == 1 ? tr("\n%1 area beyond %2, left out")
                                       : tr("\n%1 areas beyond %2, left out"))
                    .arg(differing.size())
                    .arg(length_shown(tolerance, 2));
        for (std::size_t i = 0; i < std::min<std::size_t>(differing.size(), 4); ++i) {
          const datum::Difference& d = differing[i];
          text += tr("\n  %1: %2")
                      .arg(area_text(d.area, 0))
                      .arg(std::isnan(d.mean) ? tr("no model near")
                                              : QString::fromStdString((d.mean > 0 ? "+" : "") +
                                                                       length_fixed(d.mean, 2)));
        }
        setEvidence(text);
        setKeepEnabled(true);
      };
    });
  }
  QLineEdit* path_;
  QDoubleSpinBox* search_;
  QComboBox* way_;
  std::string placed_;
  double searched_ = -1;
  QComboBox* by_;
  QPushButton* pairs_row_;
  QLabel* pairs_label_;
  std::vector<datum::Pair> pairs_;
  std::optional<std::variant<Vec3, fit::Surface>> scan_half_;  ///< waits for the model's
  std::shared_ptr<const Loaded> loaded_;
  std::shared_ptr<const Brought> brought_;
};

}  // namespace

Tool to_model_tool() {
  return {QT_TRANSLATE_NOOP("tools", "To model"),
          "file-axis-3d",
          QT_TRANSLATE_NOOP("tools", "Bring the scan upon a STEP model"),
          kDatum,
          'm',
          Tool::Needs::Survey,
          [](Workplace place, project::Id) -> ToolCard* { return new ToModelTool(place); }};
}

}  // namespace lostline::app
