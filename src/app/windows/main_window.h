#pragma once

#include <QLabel>
#include <QMainWindow>
#include <QProgressBar>
#include <QPushButton>
#include <QSplitter>

#include "bench/bench_view.h"
#include "jobs/session.h"
#include "panels/evidence_panel.h"
#include "panels/ledger_panel.h"
#include "panels/route_panel.h"
#include "panels/strip.h"
#include "tools/tool_card.h"
#include "windows/rail.h"

namespace lostline::app {

enum Stage { kReceive, kDatum, kSurvey, kTrace, kBuild, kProve, kRelease };

class MainWindow : public QMainWindow {
  Q_OBJECT
 public:
  explicit MainWindow(QWidget* parent = nullptr);

  /// Opens a scan or a project by its name's ending.
  void openFile(const QString& path);
  Session& session() { return session_; }
  BenchView& bench() { return *bench_; }
  [[nodiscard]] ToolCard* card() const { return card_; }
  Rail& rail() { return *rail_; }
  void setStage(int stage);
  bool saveTo(const QString& path);
  static QString demoPath();

 protected:
  void closeEvent(QCloseEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;
  bool eventFilter(QObject* object, QEvent* event) override;

 private:
  void buildMenus();
  void buildRail();
  void buildStatus();
  void start(const QString& name, const std::function<ToolCard*(Workplace)>& make);
  void endTool();
  void editStep(project::Id step);
  void documentChanged();
  void showEvidence(project::Id dimension);
  void placeCard();
  bool save();
  bool saveAs();
  bool mayDiscard();
  void leaderKey(int key);
  void say(const QString& text, bool error);

  Session session_;
  BenchView* bench_;
  Strip* strip_;
  EvidencePanel* evidence_;
  LedgerPanel* ledger_;
  RoutePanel* route_;
  Rail* rail_;
  QSplitter* columns_;
  QSplitter* middle_;
  QSplitter* right_;
  ToolCard* card_ = nullptr;
  QLabel* hover_;
  QLabel* message_;
  QLabel* work_;
  QLabel* heading_;
  QProgressBar* progress_;
  QPushButton* cancel_;
  int leader_ = 0;
};

}  // namespace lostline::app
