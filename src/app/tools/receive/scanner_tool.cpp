#include <QCheckBox>
#include <QPointer>
#include <QTimer>
#include <atomic>
#include <mutex>

#include "look/catalogue.h"
#include "look/theme.h"
#include "project/edits.h"
#include "project/received.h"
#include "tools/receive/instrument_card.h"

namespace lostline::app {
namespace {

using Batches = std::vector<std::shared_ptr<const PointBatch>>;

/// The points of a view as the Bench takes them, without those of the table where one is known.
struct Drawing {
  std::optional<cloud::Table> table;
  double spacing = 0;  ///< mm, of the instrument's points
  Transform to_part = Transform::Identity();

  [[nodiscard]] std::shared_ptr<const PointBatch> of(const instruments::View& view) const {
    const scan::PointCloud& cloud = view.cloud;
    std::vector<bool> keep(cloud.points.size(), true);
    if (table) keep = cloud::above(*table, cloud.points, spacing);
    std::vector<Vec3> points;
    std::vector<Vec3> normals;
    for (std::size_t i = 0; i < cloud.points.size(); ++i) {
      if (!keep[i]) continue;
      points.emplace_back(to_part * cloud.points[i]);
      normals.emplace_back(to_part.linear() * cloud.normals[i]);
    }
    return point_batch(points, normals, QColor(0xB9, 0xB4, 0xAA));
  }
  [[nodiscard]] Batches of(
      const std::vector<std::shared_ptr<const instruments::View>>& views) const {
    Batches batches;
    for (const auto& view : views) batches.push_back(of(*view));
    return batches;
  }
};

/// What a worker that scans hands over while it goes on.
struct Feed {
  std::mutex mutex;
  std::vector<std::shared_ptr<const instruments::View>> views;  ///< not yet taken
  std::optional<Batches> batches;  ///< of all views so far, not yet taken
  std::optional<project::SoFar> so_far;
  std::atomic<double> spacing{0};   ///< mm, of the instrument's points
  std::atomic<bool> cut{true};      ///< the table is not wanted
  std::atomic<bool> enough{false};  ///< the engineer has seen enough
};

/// Views of a scanner as they come, what is missing so far, and the mesh of all of them.
class ScannerTool : public InstrumentCard {
 public:
  explicit ScannerTool(Workplace place)
      : InstrumentCard(place, tr("Scanner"), instruments::Introduction::Kind::Scanner) {
    table_ = new QCheckBox(tr("cut the table away"));
    table_->setObjectName(QStringLiteral("cutTable"));
    table_->setChecked(true);
    table_->setToolTip(tr("A plane that everything stands on and that reaches beyond it"));
    connect(table_, &QCheckBox::toggled, this, [this](bool on) {
      feed_->cut = on;
      drawAnew();
    });
    addWide(table_);
    smooth_ = number(3, 0, 20, 0.5, 1, QStringLiteral("scannerSmooth"));
    smooth_->setToolTip(tr("Spacings over which noise is averaged when the points are meshed"));
    addRow(tr("averaged over"), smooth_);
    addButtons({{tr("scan"), QStringLiteral("scannerScan"),
                 tr("Take the views one after another, from the first one"), [this] { scan(); }},
                {tr("enough"), QStringLiteral("scannerStop"), tr("Stop after the present view"),
                 [this] { feed_->enough = true; }}});
    poll_.setInterval(80);
    connect(&poll_, &QTimer::timeout, this, [this] { take(); });
    setKeepEnabled(false);
    setEvidence(
        tr("Press scan. The points appear as they come, borders that no view has closed "
           "yet in red."));
  }
  void resume() override {
    place_.bench.setPoints(batches_);
    drawAnew();
    setKeepEnabled(!cloud_.points.empty());
  }
  bool keep() override {
    if (cloud_.points.empty()) return false;
    cloud::MeshingOptions options;
    options.smooth = smooth_->value();
    place_.session.longEdit(
        tr("scan by instrument"),
        [cloud = cloud_, cut = table_->isChecked(), options](
            const project::Document& d, const Task& task) -> Result<project::Document> {
          const auto made = project::mesh_views(cloud, cut, options, task.part(0, 0.7));
          if (!made) return made.error();
          const std::string name =
              "scan " + std::to_string(1 + (d.scan ? 1 : 0) + d.other_scans.size());
          auto scan = project::prepare_scan(made->meshed.mesh, name, "instrument", Unit::Millimetre,
                                            task.part(0.7, 1));
          if (!scan) return scan.error();
          return d.scan ? project::with_other_scan(d, *scan) : project::with_scan(d, *scan);
        });
    return true;
  }

 private:
  void scan() {
    touch();
    hangUp();  // from the first view
    cloud_ = {};
    batches_.clear();
    views_.clear();
    so_far_.reset();
    place_.bench.setPoints({});
    place_.bench.setMarks({});
    feed_ = std::make_shared<Feed>();
    feed_->cut = table_->isChecked();
    poll_.start();
    setEvidence(tr("scanning \u2026"));
    withTalk([this, feed = feed_, to_part = document().to_part()](
                 const std::shared_ptr<Talk>& talk, const Task& task) -> Session::Finish {
      const int all = talk->client.instrument().views;
      feed->spacing = talk->client.instrument().spacing;
      scan::PointCloud cloud;
      std::vector<std::shared_ptr<const instruments::View>> views;
      Batches batches;
      Drawing drawing{{}, feed->spacing, to_part};
      std::optional<Error> error;
      for (int k = 1; !feed->enough; ++k) {
        const auto view = talk->client.next_view(task);
        if (!view) {
          error = view.error();
          break;
        }
        if (!*view) break;
        const auto& points = (*view)->cloud;
        cloud.points.insert(cloud.points.end(), points.points.begin(), points.points.end());
        cloud.normals.insert(cloud.normals.end(), points.normals.begin(), points.normals.end());
        views.push_back(std::make_shared<const instruments::View>(**view));
        const bool cut = feed->cut;
        if (!cut && drawing.table) {
          drawing.table.reset();
          batches = drawing.of(views);
        } else {
          batches.push_back(drawing.of(*views.back()));
        }
        {
          const std::scoped_lock lock(feed->mutex);
          feed->views.push_back(views.back());
          feed->batches = batches;
        }
        auto seen = project::look_at(cloud, cut, task);
        if (seen) {
          // Once it is known, the table goes from what was drawn before.
          if (cut && seen->table && !drawing.table) {
            drawing.table = seen->table;
            batches = drawing.of(views);
          }
          const std::scoped_lock lock(feed->mutex);
          feed->batches = batches;
          feed->so_far = *std::move(seen);
        }
        if (all > 0) task.report(static_cast<double>(k) / all);
      }
      return [this, error] {
        poll_.stop();
        take();
        if (error) return setError(core_text(error->message));
        setKeepEnabled(!cloud_.points.empty());
      };
    });
  }
  /// What has come since the last look.
  void take() {
    std::vector<std::shared_ptr<const instruments::View>> views;
    std::optional<project::SoFar> so_far;
    std::optional<Batches> batches;
    {
      const std::scoped_lock lock(feed_->mutex);
      views.swap(feed_->views);
      so_far.swap(feed_->so_far);
      batches.swap(feed_->batches);
    }
    for (const auto& view : views) {
      cloud_.points.insert(cloud_.points.end(), view->cloud.points.begin(),
                           view->cloud.points.end());
      cloud_.normals.insert(cloud_.normals.end(), view->cloud.normals.begin(),
                            view->cloud.normals.end());
      views_.push_back(view);
    }
    if (!batches && !so_far) return;
    if (so_far) {
      // Not looked for while it is wanted, it is still where it was found.
      if (!so_far->table && so_far_) so_far->table = so_far_->table;
      so_far_ = std::move(so_far);
    }
    if (batches) {
      batches_ = *std::move(batches);
      place_.bench.setPoints(batches_);
    }
    showBorders();
    tell();
  }
  /// All views anew: where the part's frame or the wish about the table has changed.
  void drawAnew() {
    if (views_.empty()) return;
    Drawing drawing{{}, feed_->spacing, document().to_part()};
    if (table_->isChecked() && so_far_) drawing.table = so_far_->table;
    place_.session.works().run(
        Works::Lane::Read, tr("preparing the points for the Bench"),
        [self = QPointer(this), views = views_, drawing](const Task&) -> Works::Finish {
          return [self, batches = drawing.of(views)] {
            // More views may have come meanwhile.
            if (!self || batches.size() != self->views_.size()) return;
            self->batches_ = batches;
            self->place_.bench.setPoints(batches);
            self->showBorders();
            self->tell();
          };
        });
  }
  void showBorders() {
    if (!so_far_) return;
    const Transform to_part = document().to_part();
    LineBatch borders{{}, role::red_pencil, 2.0F, true};
    for (const auto& [a, b] : so_far_->edges)
      borders.segments.emplace_back(to_part * a, to_part * b);
    place_.bench.setMarks({borders});
  }
  void tell() {
    const auto count = [](std::size_t n) { return QString::fromStdString(format_count(n)); };
    QString text = tr("%1 points, views: %2").arg(count(cloud_.points.size())).arg(views_.size());
    if (so_far_) {
      text += tr("\nseen so far: %1 cm\u00b2").arg(so_far_->area / 100, 0, 'f', 0);
      text += in_unit(tr("\nstill open: %1 borders, %2 mm together"))
                  .arg(count(so_far_->openings), length_shown(so_far_->border, 0));
      if (table_->isChecked())
        text += so_far_->table ? tr("\nthe table is found and will be cut away")
                               : tr("\nno table found");
    }
    setEvidence(text);
  }

  QCheckBox* table_;
  QDoubleSpinBox* smooth_;
  QTimer poll_;
  std::shared_ptr<Feed> feed_ = std::make_shared<Feed>();
  scan::PointCloud cloud_;
  std::vector<std::shared_ptr<const instruments::View>> views_;
  std::vector<std::shared_ptr<const PointBatch>> batches_;  ///< of each view
  std::optional<project::SoFar> so_far_;
};

}  // namespace

Tool scanner_tool() {
  Tool tool{QT_TRANSLATE_NOOP("tools", "Scanner"),
            "orbit",
            QT_TRANSLATE_NOOP("tools", "Scan with an instrument, view by view"),
            kReceive,
            'v',
            Tool::Needs::Nothing,
            [](Workplace place, project::Id) -> ToolCard* { return new ScannerTool(place); }};
  tool.group = QT_TRANSLATE_NOOP("tools", "Devices");
  return tool;
}

}  // namespace lostline::app
