#pragma once

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTreeWidget>
#include <functional>
#include <set>

#include "jobs/aside.h"
#include "panels/evidence_rows.h"

class QMenu;

namespace lostline::app {

/// The table of scans, regions, fits, datums, sketches and bodies: in groups, sorted by any column,
/// narrowed by typing, renamed in place.
class EvidencePanel : public QWidget {
  Q_OBJECT
 public:
  explicit EvidencePanel(Session& session, QWidget* parent = nullptr);
  /// Tints the row of the region under the pointer on the Bench; 0 for none.
  void showHovered(std::uint32_t region);
  using Wanted = std::function<bool(const fit::SurfaceFit&)>;
  /// Shows only the fits and regions that suit an input that waits for a pick; empty shows all.
  void setWanted(Wanted wanted);

 Q_SIGNALS:
  /// A row was clicked; a group stands for all that is in it.
  void chosen(const std::vector<lostline::app::Item>& items, const lostline::app::Item& clicked);
  void rowHovered(const lostline::project::FitRef& ref);
  void opened(const lostline::app::Item& item);
  /// A menu for the rows chosen is about to open; what can be done with any item goes in front.
  void menuWanted(QMenu* menu);

 protected:
  bool eventFilter(QObject* object, QEvent* event) override;

 private:
  void rebuild();
  void fill(const std::vector<EvidenceRow>& rows);
  void add(QTreeWidgetItem* parent, const EvidenceRow& row);
  void filter();
  void renamed(QTreeWidgetItem* item);
  void removeSelected();
  void showSelection();
  void addScanActions(QMenu& menu, const QTreeWidgetItem& item);
  void showMenu(const QPoint& at);
  void showColumnMenu(const QPoint& at);
  [[nodiscard]] std::vector<Item> chosenItems() const;

  Session& session_;
  Aside aside_;
  QTreeWidget* tree_;
  QLineEdit* words_;
  QComboBox* grouping_;
  QLabel* empty_;
  QPushButton* narrowed_;  ///< says that only what suits an input is shown, and shows all
  Wanted wanted_;
  RegionExtents extents_;
  std::uint32_t hovered_ = 0;
  std::set<QString> folded_;  ///< keys of groups that the engineer folded
};

}  // namespace lostline::app
