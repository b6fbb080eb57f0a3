#pragma once

#include <QLabel>
#include <QMainWindow>
#include <QProgressBar>
#include <QPushButton>

#include "bench/bench_view.h"
#include "jobs/autosave.h"
#include "jobs/project_hold.h"
#include "jobs/session.h"
#include "panels/evidence_panel.h"
#include "panels/ledger_panel.h"
#include "panels/route_panel.h"
#include "panels/strip.h"
#include "windows/desk.h"
#include "windows/fold_splitter.h"
#include "windows/leader_keys.h"
#include "windows/next_thing.h"
#include "windows/rail.h"
#include "windows/search_box.h"
#include "windows/start_page.h"
#include "windows/tour.h"

namespace lostline::app {

class MainWindow : public QMainWindow {
  Q_OBJECT
 public:
  explicit MainWindow(QWidget* parent = nullptr);
  ~MainWindow() override;

  /// Opens a scan or a project by its name's ending.
  void openFile(const QString& path);
  /// Opens a part that ships with the program: its scan, and others of it beside.
  void openDemo(const QStringList& scans);
  /// Opens scans beside the one worked on.
  void addScans(const QStringList& paths);
  Session& session() { return session_; }
  BenchView& bench() { return *bench_; }
  [[nodiscard]] ToolCard* card() const { return desk_->card(); }
  Desk& desk() { return *desk_; }
  Rail& rail() { return *rail_; }
  void setStage(int stage);
  /// Saves off the interface's thread; `then` runs when the project is on the disk.
  void saveTo(const QString& path, std::function<void()> then = {});
  /// Brings the window in line with changed preferences.
  void applyPreferences();
  static QString demoPath(const QString& scan = QStringLiteral("pedestal.stl"));
  /// Offers work that an earlier run left unsaved; call once the window is shown.
  void offerRecovery();

 protected:
  void closeEvent(QCloseEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;
  bool eventFilter(QObject* object, QEvent* event) override;

 private:
  void buildMenus();
  QAction* makeUndo(bool back);
  void buildStatus();
  void buildColumns();
  void connectPanels();
  void picked(const Pick& pick);
  /// Rows of a list were clicked: picks for the running card, else the selection.
  void choose(const std::vector<Item>& items, const Item& clicked);
  void boxed(const QRectF& box, Qt::KeyboardModifiers modifiers);
  [[nodiscard]] Item itemOf(const Pick& pick) const;
  void showSelection();
  void showWanted();
  /// What can be done with the items that are selected.
  void fillItemMenu(QMenu* menu);
  void startWithSelection(const Tool& tool);
  /// Starts a tool in its stage.
  void start(const Tool& tool, project::Id subject = 0);
  void openDialog();
  void startTour();
  void benchMenu(const Pick& pick, const QPointF& at);
  void editStep(project::Id step);
  void showDesk(const QString& running);
  void doNext();
  void drawValley(project::Id dimension);
  void documentChanged();
  void save(std::function<void()> then = {});
  void saveAs(std::function<void()> then = {});
  /// Runs `then` once nothing unsaved is lost by it: at once, after saving, or never.
  void whenSafe(std::function<void()> then);
  void load(const QString& path);
  /// Plane curves of a drawing as a sketch of the part that is open.
  void addDrawing(const QString& path);
  void rememberFile(const QString& path);
  void fillRecent(QMenu& menu);
  void keepView();
  void fillViews(QMenu& menu);
  void leaderKey(int key);
  void view(int which);
  bool escape(QWidget* focus, bool in_card);
  void say(const QString& text, bool error);
  /// Shows a project that was read, or a copy of it where another window works on the file; false
  /// when the engineer wants neither.
  bool openProject(const project::Document& document, const QString& path);

  Session session_;
  ProjectHold hold_;
  Autosave autosave_{session_};
  BenchView* bench_;
  Strip* strip_;
  EvidencePanel* evidence_;
  LedgerPanel* ledger_;
  RoutePanel* route_;
  Rail* rail_;
  SearchBox* search_ = nullptr;
  FoldSplitter* columns_;
  FoldSplitter* middle_;
  FoldSplitter* right_;
  QWidget* left_;
  Desk* desk_ = nullptr;
  Tour* tour_ = nullptr;
  StartPage* start_page_ = nullptr;
  QPushButton* next_ = nullptr;  ///< the natural next thing, at the head of the left column
  NextThing next_thing_;
  QLabel* hover_;
  QLabel* message_;
  QLabel* work_;
  QLabel* heading_;
  QLabel* unit_;
  QAction* undo_ = nullptr;
  QAction* redo_ = nullptr;
  QProgressBar* progress_;
  QPushButton* cancel_;
  const Leader* leader_ = nullptr;  ///< pressed, waiting for its second key
  bool closing_ = false;
};

}  // namespace lostline::app
