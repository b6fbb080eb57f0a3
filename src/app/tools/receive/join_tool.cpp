#include <QListWidget>

#include "look/catalogue.h"
#include "look/theme.h"
#include "project/join_scans.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Brings the open scans of one part together and merges them to one.
class JoinTool : public ToolCard {
 public:
  explicit JoinTool(Workplace place) : ToolCard(place, tr("Join"), tr("Receive")) {
    list_ = new QListWidget;
    list_->setObjectName(QStringLiteral("joinScans"));
    list_->setAccessibleName(tr("scans"));
    list_->setToolTip(tr("Those ticked are joined; the first one ticked stays where it lies"));
    list_->setMaximumHeight(80);
    addRow(tr("scans"), list_);
    links_ = new QListWidget;
    links_->setObjectName(QStringLiteral("joinLinks"));
    links_->setAccessibleName(tr("links"));
    links_->setToolTip(tr("Two scans each that overlap; untick one to leave it out of account"));
    links_->setMaximumHeight(96);
    links_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    addWide(links_);
    smooth_ = number(3, 0, 20, 0.5, 1, QStringLiteral("joinSmooth"));
    smooth_->setToolTip(tr("Spacings over which noise is averaged when they are merged"));
    addRow(tr("averaged over"), smooth_);
    addButtons({{tr("join again"), QStringLiteral("joinAgain"),
                 tr("Bring the ticked scans together anew"), [this] { join(); }}});
    fill();
    connect(list_, &QListWidget::itemChanged, this, [this] { join(); });
    connect(links_, &QListWidget::itemChanged, this, [this](QListWidgetItem* item) {
      cut_.clear();
      for (int k = 0; k < links_->count(); ++k) {
        if (links_->item(k)->checkState() == Qt::Checked) continue;
        const QPoint pair = links_->item(k)->data(Qt::UserRole).toPoint();
        cut_.emplace_back(pair.x(), pair.y());
      }
      touch();
      static_cast<void>(item);
      join();
    });
  }
  void begin() override {
    place_.bench.setShow(Show::Scan);
    join();
  }
  void resume() override {
    if (joined_) return show();
    join();
  }
  void documentChanged() override {
    if (project::open_scans(document()) == scans_) return;
    fill();
    join();
  }
  bool keep() override {
    if (!joined_) return false;
    cloud::MeshingOptions options;
    options.smooth = smooth_->value();
    place_.session.longEdit(
        tr("join %n scan(s)", nullptr, static_cast<int>(which_.size())),
        [which = which_, joined = *joined_, options, scans = scans_](
            const project::Document& d, const Task& task) -> Result<project::Document> {
          if (project::open_scans(d) != scans)
            return Error{ErrorCode::InvalidInput,
                         "The open scans are others by now, so this was not done."};
          return project::with_joined_scans(d, which, joined, options, task);
        });
    return true;
  }

 private:
  void fill() {
    scans_ = project::open_scans(document());
    joined_.reset();
    cut_.clear();
    const QSignalBlocker block(list_);
    list_->clear();
    for (std::size_t i = 0; i < scans_.size(); ++i) {
      auto* item = new QListWidgetItem(
          QStringLiteral("%1  %2").arg(i + 1).arg(QString::fromStdString(scans_[i]->name)), list_);
      // What was joined before is not joined with its own parts.
      item->setCheckState(scans_[i]->name == "joined" ? Qt::Unchecked : Qt::Checked);
    }
  }
  void join() {
    joined_.reset();
    setKeepEnabled(false);
    place_.bench.setMarks({});
    which_.clear();
    for (int k = 0; k < list_->count(); ++k) {
      if (list_->item(k)->checkState() == Qt::Checked)
        which_.push_back(static_cast<std::size_t>(k));
    }
    if (scans_.size() < 2)
      return setEvidence(
          tr("Open the other scans of the part beside this one first (File, Open scans beside)."));
    if (which_.size() < 2) return setEvidence(tr("Tick the scans that are to be joined."));
    setEvidence(
        tr("bringing %n scan(s) together \u2026", nullptr, static_cast<int>(which_.size())));
    std::vector<std::shared_ptr<const project::Scan>> those;
    for (const std::size_t i : which_) those.push_back(scans_[i]);
    joining::JoinOptions options;
    options.cut = cut_;
    aside([this, those, options](const Task& task) -> Session::Finish {
      std::vector<const scan::Mesh*> meshes;
      for (const auto& scan : those) meshes.push_back(scan->mesh.get());
      const auto joined = joining::join_scans(meshes, options, task);
      return [this, joined] {
        if (!joined) return setError(core_text(joined.error().message));
        joined_ = *joined;
        showLinks();
        show();
      };
    });
  }
  void showLinks() {
    const QSignalBlocker block(links_);
    links_->clear();
    const auto add = [&](std::size_t a, std::size_t b, const QString& text, bool on) {
      auto* item = new QListWidgetItem(text, links_);
      item->setData(Qt::UserRole, QPoint(static_cast<int>(a), static_cast<int>(b)));
      item->setCheckState(on ? Qt::Checked : Qt::Unchecked);
    };
    for (const joining::Link& link : joined_->links)
      add(link.a, link.b,
          tr("%1 and %2: RMS %3, %4 % shared")
              .arg(which_[link.a] + 1)
              .arg(which_[link.b] + 1)
              .arg(length_shown(link.rms, 4))
              .arg(100 * link.overlap, 0, 'f', 0),
          true);
    for (const auto& [a, b] : cut_)
      add(a, b, tr("%1 and %2: left out").arg(which_[a] + 1).arg(which_[b] + 1), false);
  }
  /// The other scans where they come to lie, drawn over the first by their edges.
  void show() {
    constexpr std::size_t kMost = 6000;  // edges of each
    const Transform to_part = document().to_part();
    std::vector<LineBatch> marks;
    for (std::size_t k = 0; k < which_.size(); ++k) {
      const scan::Mesh& mesh = *scans_[which_[k]]->mesh;
      if (scans_[which_[k]] == document().scan) continue;
      const Transform pose = to_part * joined_->poses[k];
      LineBatch batch{
          {}, QColor::fromHsv((40 + 70 * static_cast<int>(k)) % 360, 90, 130), 1.0F, false};
      const std::size_t stride = std::max<std::size_t>(1, mesh.triangles.size() / kMost);
      for (std::size_t t = 0; t < mesh.triangles.size(); t += stride)
        batch.segments.emplace_back(pose * mesh.corner(t, 0), pose * mesh.corner(t, 1));
      marks.push_back(std::move(batch));
    }
    place_.bench.setMarks(marks);
    QString text = tr("RMS %1 over all links").arg(length_shown(joined_->rms, 4));
    for (std::size_t k = 1; k < which_.size(); ++k)
      text += tr("\nscan %1: \u00b1 %2, \u00b1 %3\u00b0")
                  .arg(which_[k] + 1)
                  .arg(length_shown(joined_->u_shift[k], 4))
                  .arg(joined_->u_turn[k] * kDegrees, 0, 'f', 4);
    for (std::size_t k = 0; k < which_.size(); ++k) {
      if (joined_->inside_out[k])
        text += tr("\nscan %1 faces inwards and is turned inside out").arg(which_[k] + 1);
    }
    for (const std::string& doubt : joined_->doubts) text += QLatin1Char('\n') + core_text(doubt);
    setEvidence(text);
    setKeepEnabled(true);
  }

  QListWidget *list_, *links_;
  QDoubleSpinBox* smooth_;
  std::vector<std::shared_ptr<const project::Scan>> scans_;
  std::vector<std::size_t> which_;  ///< places of those ticked
  std::vector<std::pair<std::size_t, std::size_t>> cut_;
  std::optional<joining::Joined> joined_;
};

}  // namespace

Tool join_tool() {
  return {QT_TRANSLATE_NOOP("tools", "Join"),
          "puzzle",
          QT_TRANSLATE_NOOP("tools", "Bring several scans of the part together"),
          kReceive,
          'j',
          Tool::Needs::Scan,
          [](Workplace place, project::Id) -> ToolCard* { return new JoinTool(place); }};
}

}  // namespace lostline::app
