#include "panels/evidence_panel.h"

#include <QAction>
#include <QHeaderView>
#include <QLabel>
#include <QMenu>
#include <QVBoxLayout>

#include "fit/surface_kind.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/fits.h"
#include "project/relations.h"

namespace lostline::app {
namespace {

constexpr int kKind = Qt::UserRole;
constexpr int kId = Qt::UserRole + 1;
enum Kind { Nothing, Region, FitItem, SketchItem, OtherScan };

QTreeWidgetItem* row(QTreeWidgetItem* parent, const QString& name, const QString& detail,
                     Kind kind = Nothing, quint64 id = 0) {
  auto* item = new QTreeWidgetItem(parent, {name, detail});
  item->setData(0, kKind, kind);
  item->setData(0, kId, id);
  item->setTextAlignment(1, Qt::AlignRight | Qt::AlignVCenter);
  item->setForeground(1, role::graphite);
  return item;
}

/// The form characteristic of a surface, ISO 1101: flatness, cylindricity; what is
/// neither is judged by its surface profile.
QString symbol(const fit::SurfaceFit* f) {
  if (f == nullptr) return QStringLiteral("\u223f ");
  switch (f->surface.kind) {
    case fit::Kind::Plane:
      return QStringLiteral("\u25b1 ");
    case fit::Kind::Cylinder:
      return QStringLiteral("\u232d ");
    case fit::Kind::Cone:
    case fit::Kind::Sphere:
    case fit::Kind::Torus:
      return QStringLiteral("\u2313 ");
    case fit::Kind::Line:
      return QStringLiteral("\u23e4 ");
    case fit::Kind::Circle:
      return QStringLiteral("\u25cb ");
    case fit::Kind::Ellipse:
      return QStringLiteral("\u2312 ");
    case fit::Kind::Point:
      return QStringLiteral("\u00d7 ");
  }
  return {};
}

}  // namespace

EvidencePanel::EvidencePanel(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), tree_(new QTreeWidget) {
  setObjectName(QStringLiteral("page"));
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 8, 2, 4);
  auto* heading = new QLabel(tr("Evidence"));
  heading->setObjectName(QStringLiteral("heading"));
  layout->addWidget(heading);
  tree_->setColumnCount(2);
  tree_->setHeaderHidden(true);
  tree_->setIndentation(10);
  tree_->setRootIsDecorated(false);
  tree_->header()->setStretchLastSection(false);
  tree_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
  tree_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
  tree_->setAccessibleName(tr("Evidence"));
  tree_->setToolTip(tr("Click a row to see it on the Bench; Del removes a fit or sketch"));
  empty_ = new QLabel(
      tr("Scans, regions, fits and sections will be listed here. Open a scan to begin."));
  empty_->setObjectName(QStringLiteral("empty"));
  empty_->setWordWrap(true);
  empty_->setAlignment(Qt::AlignTop);
  layout->addWidget(empty_, 1);
  layout->addWidget(tree_, 1);
  connect(&session_, &Session::changed, this, &EvidencePanel::rebuild);
  connect(tree_, &QTreeWidget::itemClicked, this, [this](QTreeWidgetItem* item) {
    const auto id = item->data(0, kId).toULongLong();
    if (item->data(0, kKind) == Region) Q_EMIT refPicked({static_cast<std::uint32_t>(id), 0});
    if (item->data(0, kKind) == FitItem) Q_EMIT refPicked({0, id});
    if (item->data(0, kKind) == SketchItem) Q_EMIT sketchPicked(id);
  });
  connect(tree_, &QTreeWidget::itemActivated, this, [this](QTreeWidgetItem* item) {
    if (item->data(0, kKind) == SketchItem) Q_EMIT sketchOpened(item->data(0, kId).toULongLong());
  });
  tree_->setContextMenuPolicy(Qt::CustomContextMenu);
  connect(tree_, &QTreeWidget::customContextMenuRequested, this, &EvidencePanel::showMenu);
  auto* remove = new QAction(tr("Remove"), this);
  remove->setShortcut(QKeySequence::Delete);
  remove->setShortcutContext(Qt::WidgetWithChildrenShortcut);
  addAction(remove);
  connect(remove, &QAction::triggered, this, &EvidencePanel::removeCurrent);
  rebuild();
}

void EvidencePanel::showRegions(const std::vector<std::uint32_t>& regions) {
  const QSignalBlocker block(tree_);
  tree_->clearSelection();
  for (QTreeWidgetItemIterator it(tree_); *it != nullptr; ++it) {
    if ((*it)->data(0, kKind) != Region) continue;
    const auto id = static_cast<std::uint32_t>((*it)->data(0, kId).toULongLong());
    if (std::find(regions.begin(), regions.end(), id) == regions.end()) continue;
    tree_->setCurrentItem(*it);
    tree_->scrollToItem(*it);
  }
}

void EvidencePanel::showMenu(const QPoint& at) {
  QTreeWidgetItem* item = tree_->itemAt(at);
  if (item == nullptr || item->data(0, kKind) != OtherScan) return;
  const auto place = static_cast<std::size_t>(item->data(0, kId).toULongLong());
  const QString name = item->text(0);
  QMenu menu(this);
  menu.addAction(tr("Work on %1").arg(name), this, [this, place, name] {
    session_.edit(tr("work on %1").arg(name),
                  [place](const project::Document& d) { return project::work_on_scan(d, place); });
  });
  menu.addAction(tr("Join %1 to the scan worked on").arg(name), this, [this, place, name] {
    session_.edit(tr("join %1").arg(name),
                  [place](const project::Document& d) { return project::join_scan(d, place); });
  });
  menu.addAction(tr("Close %1").arg(name), this, &EvidencePanel::removeCurrent);
  menu.exec(tree_->viewport()->mapToGlobal(at));
}

void EvidencePanel::removeCurrent() {
  QTreeWidgetItem* item = tree_->currentItem();
  if (item == nullptr) return;
  const auto id = item->data(0, kId).toULongLong();
  if (item->data(0, kKind) == OtherScan)
    session_.apply(tr("close %1").arg(item->text(0)),
                   project::remove_other_scan(session_.document(), static_cast<std::size_t>(id)));
  if (item->data(0, kKind) == FitItem)
    session_.apply(tr("remove fit"), project::remove_fit(session_.document(), id));
  if (item->data(0, kKind) == SketchItem)
    session_.apply(tr("remove sketch"), project::remove_sketch(session_.document(), id));
}

void EvidencePanel::rebuild() {
  const project::Document& d = session_.document();
  tree_->clear();
  empty_->setVisible(!d.scan);
  tree_->setVisible(d.scan != nullptr);
  QFont bold = body_font(12, true);
  const auto top = [&](const QString& name, const QString& detail = {}) {
    auto* item = new QTreeWidgetItem(tree_, {name, detail});
    item->setFont(0, bold);
    item->setTextAlignment(1, Qt::AlignRight | Qt::AlignVCenter);
    item->setForeground(1, role::graphite);
    item->setExpanded(true);
    return item;
  };
  if (!d.scan) {
    return;
  }
  auto* scan = top(
      QString::fromStdString(d.scan->name),
      QString::fromStdString(format_count(d.scan->health.triangles)) + QStringLiteral(" \u25b5"));
  if (!d.survey) {
    row(scan, tr("no regions yet: Survey finds them"), {})->setForeground(0, role::graphite);
  } else {
    int rest = 0;
    for (const survey::Region& r : d.survey->regions) {
      if (r.triangles == 0) continue;  // merged into another
      if (!r.fit || r.id > 40) {
        ++rest;
        continue;
      }
      QString name = symbol(&*r.fit) + QString::number(r.id);
      const fit::Surface& s = r.fit->surface;
      if (const fit::SizeInfo* size = fit::about(s.kind).size()) {
        const bool angle = size->unit == fit::SizeInfo::Unit::Angle;
        const std::string value =
            angle ? format_fixed(size->said(s), 2) + "\u00b0" : length_fixed(size->said(s), 2);
        name += QStringLiteral("  ") + (angle ? QString() : tr(size->symbol) + QLatin1Char(' ')) +
                QString::fromStdString(value);
      }
      auto* item = row(scan, name, QString::fromUtf8(survey::finish_name(r.finish)), Region, r.id);
      item->setToolTip(
          0,
          tr("%1 %2: RMS %3, form error %4, %5 triangles")
                  .arg(QString::fromUtf8(fit::kind_name(s.kind)))
                  .arg(r.id)
                  .arg(QString::fromStdString(length_fixed(r.fit->rms, 3)))
                  .arg(QString::fromStdString(length_fixed(r.fit->form_error, 3)))
                  .arg(r.triangles) +
              (r.form ? QLatin1Char('\n') + QString::fromStdString(r.form->words()) : QString()) +
              (r.shared != 0 && r.shared != r.id
                   ? tr("\non one surface with region %1").arg(r.shared)
                   : QString()) +
              (r.direction_of != 0
                   ? tr("\ndirection of region %1: its own is uncertain by %2\u00b0")
                         .arg(r.direction_of)
                         .arg(r.fit->u_angle * 57.29577951308232, 0, 'f', 2)
                   : QString()));
    }
    if (rest > 0) row(scan, tr("other regions %1").arg(rest), {})->setForeground(0, role::graphite);
  }
  for (std::size_t i = 0; i < d.other_scans.size(); ++i) {
    const project::Scan& other = *d.other_scans[i];
    auto* item = top(
        QString::fromStdString(other.name),
        QString::fromStdString(format_count(other.health.triangles)) + QStringLiteral(" \u25b5"));
    item->setData(0, kKind, OtherScan);
    item->setData(0, kId, static_cast<quint64>(i));
    item->setForeground(0, role::graphite);
    item->setToolTip(0,
                     tr("Beside the scan worked on; right-click to work on it, join or close it"));
  }
  if (!d.fits.empty()) {
    auto* fits = top(tr("Fits"));
    for (const auto& f : d.fits)
      row(fits, symbol(&f->result) + QString::fromStdString(f->name),
          QString::fromStdString(length_fixed(f->result.form_error, 3)), FitItem, f->id);
  }
  if (!d.relations.empty()) {
    auto* relations = top(tr("Relations"));
    for (const project::FitRelation& r : d.relations) {
      const QString words = QString::fromStdString(d.name_of(r.a) + " " + project::describe(d, r));
      auto* item = row(relations, words.section(QStringLiteral(": costs"), 0, 0),
                       r.cost.within_noise           ? tr("within noise")
                       : project::matters(d, r.cost) ? tr("disagrees")
                                                     : tr("no matter"),
                       FitItem, r.a.fit);
      if (project::matters(d, r.cost)) item->setForeground(1, role::red_pencil);
      item->setToolTip(0, words);
    }
  }
  if (d.frame) {
    auto* datums = top(tr("Datums"));
    const auto datum = [&](const QString& letter, const project::FitRef& ref) {
      const fit::SurfaceFit* f = d.fit_of(ref);
      row(datums,
          letter + QStringLiteral("  ") + symbol(f) + QString::fromStdString(d.name_of(ref)),
          f != nullptr ? QString::fromStdString(length_fixed(f->form_error, 3)) : QString(),
          ref.fit != 0 ? FitItem : Region, ref.fit != 0 ? ref.fit : ref.region);
    };
    if (d.frame->upon)
      row(datums, tr("upon %1").arg(QString::fromStdString(d.frame->upon->model)),
          QString::fromStdString(length_fixed(d.frame->upon->rms, 3)));
    else
      datum(QStringLiteral("A"), d.frame->primary);
    for (const auto& ref : d.frame->secondary) datum(QStringLiteral("B"), ref);
    for (const auto& ref : d.frame->origin) datum(QStringLiteral("C"), ref);
  }
  if (!d.sketches.empty()) {
    auto* sections = top(tr("Sections"));
    for (const auto& s : d.sketches) {
      const auto solution = sketch::solve(s->sketch);
      QString state = tr("clashing");
      if (solution && solution->state == sketch::State::Held) state = tr("held");
      if (solution && solution->state == sketch::State::Loose)
        state = tr("loose %1").arg(solution->freedoms);
      auto* item = row(sections, QString::fromStdString(s->name), state, SketchItem, s->id);
      if (state == tr("clashing")) item->setForeground(1, role::red_pencil);
      item->setToolTip(0, tr("Double-click to edit the sketch"));
    }
  }
  tree_->expandAll();
}

}  // namespace lostline::app
