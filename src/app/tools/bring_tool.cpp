#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QLineEdit>

#include "io/step.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/datums.h"
#include "project/model_target.h"
#include "tools/tool_card.h"

namespace lostline::app {
namespace {

/// What placing the scan on a model gave, ready to be shown.
struct Brought {
  std::shared_ptr<const datum::Target> target;
  std::shared_ptr<const model::Tessellation> model;
  std::vector<datum::Candidate> candidates;
};

/// Brings the scan upon an existing model: every way that it lies on it, areas that differ.
class BringTool : public ToolCard {
 public:
  explicit BringTool(Workplace place) : ToolCard(place, tr("To a model"), tr("Datum")) {
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
    way_ = new QComboBox;
    way_->setObjectName(QStringLiteral("candidate"));
    way_->setToolTip(tr("Every way in which a symmetric part lies alike"));
    addRow(tr("lies"), way_);
    connect(path_, &QLineEdit::editingFinished, this, [this] { bring(); });
    connect(search_, &QDoubleSpinBox::valueChanged, this, [this] { bring(); });
    connect(way_, &QComboBox::currentIndexChanged, this, [this] { show(); });
    setKeepEnabled(false);
    setEvidence(tr("Choose the model. Surfaces of the scan are matched with its faces."));
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
    return brought_->candidates[static_cast<std::size_t>(way_->currentIndex())];
  }
  void choose() {
    const QString file =
        QFileDialog::getOpenFileName(this, tr("Model"), {}, tr("STEP files (*.step *.stp)"));
    if (file.isEmpty()) return;
    path_->setText(file);
    bring();
  }
  void bring() {
    const std::string file = path_->text().toStdString();
    const double search = search_->value();
    if (file.empty() || (file == placed_ && search == searched_)) return;
    placed_ = file;
    searched_ = search;
    brought_.reset();
    setEvidence(tr("Matching surfaces …"));
    aside([this, file, search,
           document = place_.session.snapshot()](const Task& task) -> Session::Finish {
      const auto fail = [this](const Error& error) -> Session::Finish {
        return [this, error] {
          placed_.clear();
          setError(QString::fromStdString(error.message));
        };
      };
      const auto solid = io::read_step(file);
      if (!solid) return fail(solid.error());
      auto brought = std::make_shared<Brought>();
      auto target = project::target_of(*solid);
      if (!target) return fail(target.error());
      auto lines = model::tessellate(*solid);
      if (!lines) return fail(lines.error());
      datum::PlaceOptions options;
      options.fit.search = search;
      options.fit.noise = std::max(0.5 * document->survey->noise_sigma, 1e-4);
      const auto cloud =
          datum::cloud_of(*document->scan->mesh, project::trust_of(*document->survey), 200000);
      auto placed = datum::place_on(*target, project::found_of(*document->survey), cloud, options,
                                    task, document->to_part());
      if (!placed) return fail(placed.error());
      brought->candidates = *std::move(placed);
      brought->target = std::make_shared<const datum::Target>(*std::move(target));
      brought->model = std::make_shared<const model::Tessellation>(*std::move(lines));
      return [this, brought] {
        brought_ = brought;
        const QSignalBlocker block(way_);
        way_->clear();
        for (std::size_t i = 0; i < brought->candidates.size(); ++i)
          way_->addItem(tr("way %1 of %2: %3 % agrees")
                            .arg(i + 1)
                            .arg(brought->candidates.size())
                            .arg(100 * brought->candidates[i].agreement, 0, 'f', 1));
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
    for (const auto& edge : brought_->model->edges) {
      for (std::size_t i = 1; i < edge.points.size(); ++i)
        edges.segments.emplace_back(edge.points[i - 1], edge.points[i]);
    }
    place_.bench.setMarks({edges});
    place_.bench.fitView();
    aside([this, fit, brought = brought_, search = search_->value(),
           scan = document().scan](const Task&) -> Session::Finish {
      const double size = brought->target->size;
      const double tolerance = std::max(5 * fit.sigma, 0.05);
      auto differing =
          datum::differences(*brought->target, *scan->mesh, scan->topology, fit.motion, tolerance,
                             search > 0 ? search : size / 30, 1e-4 * size * size);
      return [this, fit, tolerance, differing = std::move(differing)] {
        std::vector<std::uint32_t> red;
        for (const datum::Difference& d : differing)
          red.insert(red.end(), d.triangles.begin(), d.triangles.end());
        place_.bench.setSelection({}, red);
        QString text = tr("RMS %1 on %2 % of the scan")
                           .arg(QString::fromStdString(length_fixed(fit.rms, 3)))
                           .arg(100 * fit.used_fraction, 0, 'f', 1);
        for (const auto& loose : fit.loose)
          text += tr("\nnot held: %1").arg(QString::fromStdString(loose.words()));
        text += tr("\n%n area(s) beyond %1, left out", nullptr, static_cast<int>(differing.size()))
                    .arg(QString::fromStdString(length_fixed(tolerance, 2)));
        for (std::size_t i = 0; i < std::min<std::size_t>(differing.size(), 4); ++i) {
          const datum::Difference& d = differing[i];
          text += tr("\n  %1 mm\u00b2: %2")
                      .arg(d.area, 0, 'f', 0)
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
  std::shared_ptr<const Brought> brought_;
};

}  // namespace

ToolCard* make_bring_tool(Workplace place) { return new BringTool(place); }

}  // namespace lostline::app
