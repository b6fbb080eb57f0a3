#include <QtWidgets>

#include "io/formats.h"
#include "jobs/showing.h"
#include "look/file_filter.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "windows/guide.h"
#include "windows/main_window.h"
#include "windows/preferences_dialog.h"

// What the menus and the stage rail offer.

namespace lostline::app {

void MainWindow::buildMenus() {
  const auto add = [&](QMenu* menu, const QString& name, const QKeySequence& key, auto slot) {
    QAction* action = menu->addAction(name);
    action->setShortcut(key);
    connect(action, &QAction::triggered, this, slot);
    return action;
  };
  QMenu* file = menuBar()->addMenu(tr("&File"));
  add(file, tr("&Open \u2026"), QKeySequence::Open, [this] { openDialog(); });
  add(file, tr("Open scans &beside \u2026"), {}, [this] {
    addScans(QFileDialog::getOpenFileNames(
        this, tr("Open scans beside the one worked on"), {},
        file_filter(tr("Scans"), {io::reads_mesh, io::reads_points})));
  });
  QMenu* recent = file->addMenu(tr("Open &recent"));
  recent->setToolTipsVisible(true);
  connect(recent, &QMenu::aboutToShow, this, [this, recent] { fillRecent(*recent); });
  QMenu* demo = file->addMenu(tr("Open a &demo part"));
  const auto part = [&](const QString& name, const QStringList& scans) {
    add(demo, name, {}, [this, scans] { openDemo(scans); });
  };
  part(tr("&Pedestal"), {QStringLiteral("pedestal.stl")});
  part(tr("Drum &flange"), {QStringLiteral("drum-flange.ply")});
  part(tr("&Wall bracket"), {QStringLiteral("wall-bracket.ply")});
  part(tr("&Crank, in two scans"), {QStringLiteral("crank-1.ply"), QStringLiteral("crank-2.ply")});
  part(tr("&Brake drum"), {QStringLiteral("brake-drum.ply")});
  file->addSeparator();
  add(file, tr("&Save"), QKeySequence::Save, [this] { save(); });
  add(file, tr("Save &as \u2026"), QKeySequence::SaveAs, [this] { saveAs(); });
  file->addSeparator();
  add(file, tr("&Quit"), QKeySequence::Quit, [this] { close(); });
  QMenu* edit = menuBar()->addMenu(tr("&Edit"));
  QAction* undo = makeUndo(true);
  QAction* redo = makeUndo(false);
  edit->addAction(undo);
  edit->addAction(redo);
  edit->addSeparator();
  add(edit, tr("Re&compute the model"), QKeySequence(Qt::Key_F5), [this] { session_.recompute(); });
  add(edit, tr("&Preferences \u2026"), QKeySequence::Preferences, [this] {
    PreferencesDialog dialog(this);
    if (dialog.exec() == QDialog::Accepted) applyPreferences();
  });
  undo_ = undo;
  redo_ = redo;
  QMenu* view = menuBar()->addMenu(tr("&View"));
  const QString names[] = {tr("Oblique"), tr("Front"), tr("Back"),  tr("Left"),
                           tr("Right"),   tr("Top"),   tr("Bottom")};
  for (int i = 0; i <= 6; ++i)
    add(view,
        names[i] + QStringLiteral("\tW %1").arg(i == 0 ? QStringLiteral("o") : QString::number(i)),
        {}, [this, i] { bench_->lookAlong(i); });
  const auto look = [&](const QString& name, int which) {
    add(view, name, {}, [this, which] { this->view(which); });
  };
  look(tr("Whole part\tW 0"), kFitView);
  look(tr("Zoom to the selection\tW s"), kFitSelection);
  look(tr("Zoom by window\tW w"), kWindow);
  look(tr("Straight at the selection\tW n"), kNormal);
  look(tr("Clip plane across the view\tW c"), kClip);
  look(tr("Other side of the clip plane\tW f"), kFlipClip);
  look(tr("Scan as points\tW p"), kAsPoints);
  view->addSeparator();
  add(view, tr("Show everything that is hidden"), {}, [this] { show_all(session_); });
  view->addSeparator();
  add(view, tr("Left column"), QKeySequence(tr("Alt+1")), [this] { columns_->fold(0); });
  add(view, tr("Right column"), QKeySequence(tr("Alt+2")), [this] { columns_->fold(2); });
  add(view, tr("Strip"), QKeySequence(tr("Alt+3")), [this] { middle_->fold(1); });
  view->addSeparator();
  add(view, tr("&Keep this view for the report \u2026"), {}, [this] { keepView(); });
  QMenu* kept = view->addMenu(tr("Kept &views"));
  connect(kept, &QMenu::aboutToShow, this, [this, kept] { fillViews(*kept); });
  view->addSeparator();
  add(view, tr("Scan, model or both"), QKeySequence(Qt::Key_F4),
      [this] { bench_->setShow(static_cast<Show>((static_cast<int>(bench_->show()) + 1) % 3)); });
  QMenu* stage = menuBar()->addMenu(tr("&Stage"));
  for (int i = 0; i < kStages; ++i) {
    add(stage, stage_name(i), QKeySequence(QStringLiteral("Ctrl+%1").arg(i + 1)),
        [this, i] { setStage(i); });
  }
  stage->addSeparator();
  stage->setToolTipsVisible(true);
  for (int i = 0; i < kStages; ++i) {
    QMenu* list = stage->addMenu(tr("Tools of %1").arg(stage_name(i)));
    list->setToolTipsVisible(true);
    for (const Tool& tool : tools()) {
      if (tool.stage != i) continue;
      const QString keys = QStringLiteral("\t%1 %2").arg(QKeySequence(stage_info(i).key).toString(),
                                                         QString(QLatin1Char(tool.letter)));
      QAction* action = list->addAction(icon(QString::fromUtf8(tool.icon)), tool.title() + keys);
      action->setToolTip(tool.hint());
      connect(action, &QAction::triggered, this, [this, &tool] { start(tool); });
    }
  }
  QMenu* help = menuBar()->addMenu(tr("&Help"));
  add(help, tr("&Guide"), QKeySequence::HelpContents,
      [this] { show_guide(this, desk_->tool() != nullptr ? desk_->tool()->title() : QString()); });
  add(help, tr("&Tour of the demo"), {}, [this] { startTour(); });
  add(help, tr("&Keys and mouse"), {}, [this] {
    QMessageBox box(this);
    box.setWindowTitle(tr("Keys and mouse"));
    box.setText(tr(
        "Left drag, where no tool takes it, or middle drag: orbit about the place under the "
        "pointer.\nAlt + left drag: orbit always.  Right drag: pan.  Wheel: zoom at the "
        "pointer.\n"
        "Touchpad: two fingers pan, a pinch zooms.\n"
        "Space held: see-through scan.  F4: scan, model or both.\n"
        "Alt+1, Alt+2, Alt+3: fold the left column, the right one, the Strip.\n"
        "Return keeps, Esc discards.  Ctrl+1 \u2026 Ctrl+7: stages.  Ctrl+F: search.\n"
        "Leader keys, then a letter that the status line shows: W view; the tools of a stage: I\n"
        "Receive, F Survey, D Datum, K Trace, B Build, P Prove, O Release; in a sketch G draw,\n"
        "R constraint, V value.  F1: the guide at the running tool."));
    box.exec();
  });
  add(help, tr("&About"), {}, [this] {
    QMessageBox::about(
        this, tr("About Lost Line"),
        tr("Lost Line %1\nFrom a scan to the part that was meant.\nGPL-3.0-or-later; fonts B612 "
           "and osifont, icons Lucide, with their licences in the sources.")
            .arg(QStringLiteral("0.1.0")));
  });
  heading_ = new QLabel;
  heading_->setObjectName(QStringLiteral("quiet"));
  auto* corner = new QWidget;
  auto* row = new QHBoxLayout(corner);
  row->setContentsMargins(0, 0, 8, 0);
  row->addWidget(heading_);
  search_ = new SearchBox(*ledger_, session_);
  row->addWidget(search_);
  connect(search_, &SearchBox::toolChosen, this, [this](const Tool& tool) { start(tool); });
  connect(search_, &SearchBox::stepChosen, this, &MainWindow::editStep);
  auto* find = new QAction(tr("Search"), this);
  find->setShortcut(QKeySequence::Find);
  addAction(find);
  connect(find, &QAction::triggered, search_, [this] { search_->setFocus(); });
  for (QAction* action : {undo, redo}) {
    auto* button = new QToolButton;
    button->setDefaultAction(action);
    button->setObjectName(QStringLiteral("tool"));
    button->setToolButtonStyle(Qt::ToolButtonIconOnly);
    row->addWidget(button);
  }
  menuBar()->setCornerWidget(corner);
}

QAction* MainWindow::makeUndo(bool back) {
  History* stack = session_.undoStack();
  auto* action = new QAction(this);
  action->setShortcut(back ? QKeySequence(QKeySequence::Undo) : QKeySequence(tr("Ctrl+Shift+Z")));
  action->setIcon(icon(back ? QStringLiteral("undo-2") : QStringLiteral("redo-2")));
  const auto name = [action, back, stack] {
    const QString what = back ? stack->undoText() : stack->redoText();
    const QString word = back ? tr("Undo") : tr("Redo");
    action->setText(what.isEmpty() ? word : word + QLatin1Char(' ') + what);
  };
  name();
  connect(stack, &History::indexChanged, action, name);
  // A card's own steps come first; then what was kept.
  connect(action, &QAction::triggered, this, [this, back, stack] {
    if (card() != nullptr && (back ? card()->undoOwn() : card()->redoOwn())) return;
    if (!(back ? stack->canUndo() : stack->canRedo()))
      return say(back ? tr("There is nothing to undo.") : tr("There is nothing to redo."), false);
    back ? stack->undo() : stack->redo();
  });
  return action;
}

void MainWindow::startTour() {
  whenSafe([this] {
    load(demoPath());
    tour_->begin();
    next_->hide();
  });
}

namespace {

bool reads_drawing(const io::Format& format) {
  return format.carries == io::Carries::Curves && io::reads_curves(format);
}

}  // namespace

void MainWindow::openDialog() {
  const QString path = QFileDialog::getOpenFileName(
      this, tr("Open a scan or project"), {},
      file_filter(tr("Scans and projects"), {io::reads_mesh, io::reads_points, io::is_project}) +
          QStringLiteral(";;") + file_filter(tr("Curves for a sketch"), {reads_drawing}));
  if (!path.isEmpty()) openFile(path);
}

}  // namespace lostline::app
