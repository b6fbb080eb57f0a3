#pragma once

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QTreeWidget>
#include <set>

#include "jobs/aside.h"
#include "panels/evidence_rows.h"

namespace lostline::app {

/// The table of scans, regions, fits, datums, sketches and bodies: in groups, sorted by any column,
/// narrowed by typing, renamed in place.
class EvidencePanel : public QWidget {
  Q_OBJECT
 public:
  explicit EvidencePanel(Session& session, QWidget* parent = nullptr);
  /// Marks the rows of these regions as selected without emitting.
  void showRegions(const std::vector<std::uint32_t>& regions);
  /// Tints the row of the region under the pointer on the Bench; 0 for none.
  void showHovered(std::uint32_t region);

 Q_SIGNALS:
  void refPicked(const lostline::project::FitRef& ref);
  /// All that is selected, when it is more than one row.
  void refsSelected(const std::vector<lostline::project::FitRef>& refs);
  void bodyPicked(std::size_t body);
  void rowHovered(const lostline::project::FitRef& ref);
  void sketchPicked(lostline::project::Id sketch);
  void sketchOpened(lostline::project::Id sketch);
  /// A tool of the rail is to start with this as its first pick.
  void toolWanted(const QString& tool, const lostline::project::FitRef& ref);
  /// The view is to be brought to it; `straight` looks along its normal or axis.
  void viewWanted(const lostline::project::FitRef& ref, bool straight);

 protected:
  bool eventFilter(QObject* object, QEvent* event) override;

 private:
  void rebuild();
  void fill(const std::vector<EvidenceRow>& rows);
  void add(QTreeWidgetItem* parent, const EvidenceRow& row);
  void filter();
  void renamed(QTreeWidgetItem* item);
  void removeSelected();
  void showMenu(const QPoint& at);
  void showColumnMenu(const QPoint& at);
  static project::FitRef ref_of(const QTreeWidgetItem* item);

  Session& session_;
  Aside aside_;
  QTreeWidget* tree_;
  QLineEdit* words_;
  QComboBox* grouping_;
  QLabel* empty_;
  RegionExtents extents_;
  std::uint32_t hovered_ = 0;
  std::set<QString> folded_;  ///< keys of groups that the engineer folded
};

}  // namespace lostline::app
