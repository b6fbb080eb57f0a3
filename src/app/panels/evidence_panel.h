#pragma once

#include <QLabel>
#include <QTreeWidget>

#include "jobs/session.h"

namespace lostline::app {

/// The list of scans, regions, fits, datums and sections.
class EvidencePanel : public QWidget {
  Q_OBJECT
 public:
  explicit EvidencePanel(Session& session, QWidget* parent = nullptr);
  /// Marks the rows of these regions as selected without emitting.
  void showRegions(const std::vector<std::uint32_t>& regions);

 Q_SIGNALS:
  void refPicked(const lostline::project::FitRef& ref);
  void sketchPicked(lostline::project::Id sketch);
  void sketchOpened(lostline::project::Id sketch);

 private:
  void rebuild();
  void removeCurrent();
  void showMenu(const QPoint& at);

  Session& session_;
  QTreeWidget* tree_;
  QLabel* empty_;
};

}  // namespace lostline::app
