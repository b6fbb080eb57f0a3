#include <QComboBox>
#include <algorithm>
#include <array>
#include <cmath>

#include "base/median.h"
#include "base/parallel.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/cloud_scan.h"
#include "project/edits.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

using Batch = std::shared_ptr<const PointBatch>;
using ScanPtr = std::shared_ptr<const project::Scan>;

const QColor kClay(0xB9, 0xB4, 0xAA);
constexpr std::size_t kMostShown = 2000000;  // points: 48 MB on the graphics card

/// The points of a cloud where they were measured; those that lie on no surface of the mesh in red.
std::vector<Batch> measured(const scan::PointCloud& cloud, const project::Scan& meshed,
                            const Transform& to_part) {
  const std::size_t stride = cloud.points.size() / kMostShown + 1;
  const std::size_t count = (cloud.points.size() + stride - 1) / stride;
  struct Placed {
    Vec3 normal;
    bool on;
  };
  std::vector<Placed> placed(count);
  // As far as noise takes a point off its surface, and as far as a triangle's edges lie apart.
  const double near = std::max(2 * meshed.health.spacing, 6 * meshed.points->noise);
  constexpr std::size_t kGrain = 4096;
  parallel_for(count, kGrain, [&](std::size_t begin, std::size_t end) {
    for (std::size_t k = begin; k < end; ++k) {
      const Vec3& p = cloud.points[k * stride];
      const auto foot = meshed.index->nearest(p);
      placed[k] = {to_part.linear() * meshed.mesh->area_vector(foot->triangle).normalized(),
                   (foot->point - p).norm() <= near};
    }
  });
  std::array<std::vector<Vec3>, 2> points;
  std::array<std::vector<Vec3>, 2> normals;
  for (std::size_t k = 0; k < count; ++k) {
    const std::size_t side = placed[k].on ? 0 : 1;
    points.at(side).push_back(to_part * cloud.points[k * stride]);
    normals.at(side).push_back(placed[k].normal);
  }
  std::vector<Batch> batches{point_batch(points[0], normals[0], kClay)};
  if (!points[1].empty())
    batches.push_back(point_batch(points[1], normals[1], role::red_pencil, 3));
  return batches;
}

/// The vertices of the mesh by how much of the noise is left there, in doublings about the typical.
struct Confidence {
  std::vector<Batch> batches;
  double typical = 0;  ///< mm
};
Confidence confidence_of(const project::Scan& meshed, const Transform& to_part) {
  const std::vector<float>& u = *meshed.points->u;
  Confidence found;
  found.typical = median(std::vector<double>(u.begin(), u.end()));
  constexpr std::size_t kBins = 5;
  std::array<std::vector<Vec3>, kBins> points;
  std::array<std::vector<Vec3>, kBins> normals;
  const std::vector<Vec3> all = scan::vertex_normals(*meshed.mesh);
  for (std::size_t v = 0; v < u.size(); ++v) {
    const double doublings =
        std::log2(std::max<double>(u[v], 1e-9) / std::max(found.typical, 1e-9));
    const auto bin = static_cast<std::size_t>(std::clamp(std::round(2 * doublings), -2.0, 2.0) + 2);
    points.at(bin).push_back(to_part * meshed.mesh->vertices[v]);
    normals.at(bin).emplace_back(to_part.linear() * all[v]);
  }
  for (std::size_t bin = 0; bin < kBins; ++bin) {
    const QColor colour =
        bin == 2 ? kClay : deviation_colour((static_cast<double>(bin) - 2) / 2, 0.1);
    if (!points.at(bin).empty())
      found.batches.push_back(point_batch(points.at(bin), normals.at(bin), colour, 3));
  }
  return found;
}

double open_border(const project::Scan& scan) {
  const scan::Mesh& mesh = *scan.mesh;
  double length = 0;
  for (std::size_t i = 0; i < scan.topology.across.size(); ++i) {
    if (scan.topology.across[i] == scan::kNone)
      length += (mesh.corner(i / 3, static_cast<int>((i + 1) % 3)) -
                 mesh.corner(i / 3, static_cast<int>(i % 3)))
                    .norm();
  }
  return length;
}

/// The points that the scan was meshed from, and how they are meshed.
class MeshTool : public ToolCard {
 public:
  explicit MeshTool(Workplace place) : ToolCard(place, tr("Mesh"), tr("Receive")) {
    shown_ = new QComboBox;
    shown_->setObjectName(QStringLiteral("meshShown"));
    shown_->addItems({tr("the points"), tr("noise that is left")});
    addRow(tr("show"), shown_);
    connect(shown_, &QComboBox::currentIndexChanged, this, [this] { show(); });
    spacing_ = length(0, 0, 1e4, 0.1, 3, QStringLiteral("meshSpacing"));
    spacing_->setToolTip(tr("Of the mesh; 0: as the points lie"));
    addRow(in_unit(tr("spacing, mm")), spacing_);
    smooth_ = number(3, 0, 20, 0.5, 1, QStringLiteral("meshSmooth"));
    smooth_->setToolTip(
        tr("Spacings over which noise is averaged; 0: the points stay where they are"));
    smooth_->setSuffix(tr(" spacings"));
    addRow(tr("averaged over"), smooth_);
    bridge_ = number(3, 1.5, 100, 0.5, 1, QStringLiteral("meshBridge"));
    bridge_->setToolTip(
        tr("Spacings: no triangle reaches further, so nothing is made where no "
           "points were"));
    bridge_->setSuffix(tr(" spacings"));
    addRow(tr("bridges up to"), bridge_);
    island_ = number(50, 0, 1e6, 10, 0, QStringLiteral("meshIsland"));
    island_->setToolTip(tr("Triangles: smaller islands are dropped"));
    island_->setSuffix(tr(" triangles"));
    addRow(tr("islands from"), island_);
    for (QDoubleSpinBox* box : {static_cast<QDoubleSpinBox*>(spacing_), smooth_, bridge_, island_})
      connect(box, &QDoubleSpinBox::valueChanged, this, [this] { make(); });
  }
  void begin() override {
    scan_ = document().scan;
    cloud_.reset();
    meshed_.reset();
    points_.clear();
    setKeepEnabled(false);
    if (!scan_) return;
    if (!scan_->points)
      return setError(
          tr("The scan is no cloud of points, or was worked on since it was opened. Open its file "
             "again to mesh it another way."));
    const cloud::MeshingOptions& now = scan_->points->options;
    const auto set = [](QDoubleSpinBox* box, double value) {
      const QSignalBlocker block(box);
      box->setValue(value);
    };
    set(spacing_, now.spacing);
    set(smooth_, now.smooth);
    set(bridge_, now.bridge);
    set(island_, static_cast<double>(now.least_island));
    make();
  }
  void resume() override {
    if (document().scan != scan_) return begin();
    meshed_ ? show() : make();
  }
  void documentChanged() override {
    if (document().scan != scan_) return begin();
    if (!document().to_part().isApprox(placed_, 1e-12)) make();
  }
  bool keep() override {
    if (!meshed_) return false;
    scan_ = meshed_;  // what comes is known
    place_.session.commit(tr("mesh the points anew"),
                          project::with_changed_scan(document(), meshed_));
    return true;
  }

 private:
  [[nodiscard]] cloud::MeshingOptions asked() const {
    return {spacing_->value(), smooth_->value(), bridge_->value(),
            static_cast<std::size_t>(island_->value())};
  }
  void make() {
    if (!scan_ || !scan_->points) return;
    setKeepEnabled(false);
    meshed_.reset();
    placed_ = document().to_part();
    setEvidence(cloud_ ? tr("meshing \u2026") : tr("reading the points \u2026"));
    aside([this, scan = scan_, have = cloud_, options = asked(),
           to_part = placed_](const Task& task) -> Session::Finish {
      std::shared_ptr<const scan::PointCloud> cloud = have;
      if (!cloud) {
        auto read = project::points_of(*scan, task.part(0, 0.3));
        if (!read) return [this, read] { setError(core_text(read.error().message)); };
        cloud = std::make_shared<const scan::PointCloud>(*std::move(read));
      }
      ScanPtr meshed = scan;
      const bool anew = options != scan->points->options;
      if (anew || !scan->points->u) {
        const auto made = project::meshed_anew(*scan, *cloud, options, task.part(0.3, 0.9));
        if (!made) {
          return [this, cloud, made] {
            cloud_ = cloud;
            setError(core_text(made.error().message));
          };
        }
        meshed = *made;
      }
      auto points = measured(*cloud, *meshed, to_part);
      auto confidence = confidence_of(*meshed, to_part);
      return [this, cloud, meshed, anew, open = open_border(*meshed), points = std::move(points),
              confidence = std::move(confidence)] {
        cloud_ = cloud;
        meshed_ = meshed;
        open_ = open;
        points_ = points;
        confidence_ = confidence;
        setKeepEnabled(anew);
        show();
      };
    });
  }
  void show() {
    if (!meshed_) return;
    const bool noise = shown_->currentIndex() == 1;
    place_.bench.setPoints(noise ? confidence_.batches : points_, true);
    const auto count = [](std::size_t n) { return QString::fromStdString(format_count(n)); };
    const project::FromPoints& from = *meshed_->points;
    QString text = tr("%1 points").arg(count(from.count));
    if (!from.columns.empty()) text += tr(", read as %1").arg(QString::fromStdString(from.columns));
    text += tr("\n%1 %3 apart, noise %2 %3")
                .arg(length_shown(from.spacing, 3), length_shown(from.noise, 4), length_unit());
    text += from.dropped == 0 ? tr("\nall of them lie on the surface")
                              : tr("\n%1 belong to no surface, in red").arg(count(from.dropped));
    text += tr("\n%1 triangles, open borders %2 %3")
                .arg(count(meshed_->mesh->triangles.size()), length_shown(open_, 0), length_unit());
    const auto left = [&](double share) {
      return length_shown(share * confidence_.typical, confidence_.typical < 0.05 ? 4 : 3);
    };
    text += tr("\nleft of the noise, U: %1 %2").arg(left(1), length_unit());
    if (noise)
      text +=
          tr("; purple below %1, orange above %2").arg(left(std::sqrt(0.5)), left(std::sqrt(2)));
    setEvidence(text);
  }

  QComboBox* shown_;
  LengthBox* spacing_;
  QDoubleSpinBox* smooth_;
  QDoubleSpinBox* bridge_;
  QDoubleSpinBox* island_;
  ScanPtr scan_;
  std::shared_ptr<const scan::PointCloud> cloud_;
  ScanPtr meshed_;                            ///< with what is asked now; null until it is there
  Transform placed_ = Transform::Identity();  ///< of the points as they are drawn
  double open_ = 0;                           ///< length of its borders, mm
  std::vector<Batch> points_;
  Confidence confidence_;
};

}  // namespace

Tool mesh_tool() {
  return {
      QT_TRANSLATE_NOOP("tools", "Mesh"),
      "chart-network",
      QT_TRANSLATE_NOOP("tools", "How the points of a cloud were meshed; mesh them another way"),
      kReceive,
      'm',
      Tool::Needs::Scan,
      [](Workplace place, project::Id) -> ToolCard* { return new MeshTool(place); }};
}

}  // namespace lostline::app
