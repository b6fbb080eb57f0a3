#include <QtWidgets>

#include "io/formats.h"
#include "look/file_filter.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "tools/step_cards.h"
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
  add(file, tr("&Open \u2026"), QKeySequence::Open, [this] {
    const QString path = QFileDialog::getOpenFileName(
        this, tr("Open a scan or project"), {},
        file_filter(tr("Scans and projects"), {io::reads_mesh, io::is_project}));
    if (!path.isEmpty()) openFile(path);
  });
  add(file, tr("Open scans &beside \u2026"), {}, [this] {
    addScans(QFileDialog::getOpenFileNames(this, tr("Open scans beside the one worked on"), {},
                                           file_filter(tr("Scans"), {io::reads_mesh})));
  });
  QMenu* recent = file->addMenu(tr("Open &recent"));
  recent->setToolTipsVisible(true);
  connect(recent, &QMenu::aboutToShow, this, [this, recent] { fillRecent(*recent); });
  add(file, tr("Open the &demo"), {}, [this] { openFile(demoPath()); });
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
  for (int i = 0; i < 7; ++i)
    add(stage, Rail::stageName(i), QKeySequence(QStringLiteral("Ctrl+%1").arg(i + 1)),
        [this, i] { setStage(i); });
  QMenu* help = menuBar()->addMenu(tr("&Help"));
  add(help, tr("&Guide"), QKeySequence::HelpContents, [this] { show_guide(this); });
  add(help, tr("&Keys and mouse"), {}, [this] {
    QMessageBox box(this);
    box.setWindowTitle(tr("Keys and mouse"));
    box.setText(
        tr("Left drag, where no tool takes it, or middle drag: orbit about the place under the "
           "pointer.\nAlt + left drag: orbit always.  Right drag: pan.  Wheel: zoom at the "
           "pointer.\n"
           "Touchpad: two fingers pan, a pinch zooms.\n"
           "Space held: see-through scan.  F4: scan, model or both.\n"
           "Alt+1, Alt+2, Alt+3: fold the left column, the right one, the Strip.\n"
           "Return keeps, Esc discards.  Ctrl+1 \u2026 Ctrl+7: stages.  Ctrl+F: search.\n"
           "Leader keys, then a letter: W view, F fit, K section, G draw, R constraint,\n"
           "V value, B build feature."));
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
  search_ = new SearchBox(*rail_, *ledger_, session_);
  row->addWidget(search_);
  connect(search_, &SearchBox::toolChosen, this, [this](int stage, const QString& name) {
    setStage(stage);
    if (!rail_->startTool(name)) say(tr("%1 is not possible yet.").arg(name), true);
  });
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

void MainWindow::buildRail() {
  const auto has_scan = [this] { return session_.document().scan != nullptr; };
  const auto has_survey = [this] { return session_.document().survey != nullptr; };
  const auto has_sketch = [this] { return !session_.document().sketches.empty(); };
  const auto has_model = [this] { return session_.route()->tessellation != nullptr; };
  const auto tool = [this](const QString& name, const QString& icon_name, const QString& tip,
                           ToolCard* (*make)(Workplace), std::function<bool()> possible) {
    return ToolEntry{name, icon_name, tip,
                     [this, name, make, possible] {
                       say({}, false);
                       desk_->start({name, 0, make, possible, rail_->stage()});
                     },
                     possible};
  };
  rail_->setTools(
      kReceive,
      {ToolEntry{tr("Open"), QStringLiteral("scan-line"), tr("Open a scan or project (Ctrl+O)"),
                 [this] {
                   rail_->setRunning({});
                   const QString path = QFileDialog::getOpenFileName(
                       this, tr("Open a scan or project"), {},
                       file_filter(tr("Scans and projects"), {io::reads_mesh, io::is_project}));
                   if (!path.isEmpty()) openFile(path);
                 },
                 [] { return true; }},
       tool(tr("Health"), QStringLiteral("stethoscope"), tr("Unit, health and islands of the scan"),
            make_receive_tool, has_scan),
       tool(tr("Quality"), QStringLiteral("chart-scatter"),
            tr("Noise and spacing of the scan, place by place"), make_quality_tool, has_scan),
       tool(tr("Clean"), QStringLiteral("lasso-select"),
            tr("Select on the scan; delete, fill holes, thin, smooth"), make_clean_tool, has_scan),
       tool(tr("Scale"), QStringLiteral("scaling"),
            tr("Settle the scale by a length that you know"), make_scale_tool, has_scan)});
  rail_->setTools(
      kSurvey,
      {tool(tr("Regions"), QStringLiteral("shapes"), tr("Split the scan into regions (F s)"),
            make_survey_tool, has_scan),
       tool(tr("Repaint"), QStringLiteral("paintbrush"),
            tr("Merge, split, repaint, lock regions by hand (F p)"), make_repaint_tool, has_survey),
       tool(tr("Fit"), QStringLiteral("pointer"), tr("Fit a surface, a line or a circle (F f)"),
            make_fit_tool, has_scan),
       tool(tr("Patterns"), QStringLiteral("component"),
            tr("Bolt circles, grids, stacks, mirrored pairs found: accept one, some, all"),
            make_patterns_tool, has_survey),
       tool(tr("Relate"), QStringLiteral("link-2"),
            tr("Relations between fits, imposed together (F r)"), make_relate_tool, has_survey),
       tool(tr("Measure"), QStringLiteral("ruler"),
            tr("Distances, angles, radius by three points, wall thickness (F m)"),
            make_measure_tool, has_scan)});
  rail_->setTools(
      kDatum,
      {tool(tr("Frame"), QStringLiteral("move-3d"), tr("Datum frame by 3-2-1"), make_frame_tool,
            has_survey),
       tool(tr("Feature"), QStringLiteral("circle-dot"),
            tr("Midplane, common axis, bolt circle, symmetry plane"), make_construct_tool,
            has_survey),
       tool(tr("Targets"), QStringLiteral("crosshair"),
            tr("Datum frame by six datum targets on rough faces"), make_targets_tool, has_scan),
       tool(tr("To model"), QStringLiteral("file-output"), tr("Bring the scan upon a STEP model"),
            make_bring_tool, has_survey)});
  rail_->setTools(
      kTrace,
      {tool(tr("Section"), QStringLiteral("slice"), tr("Section by a datum plane (K k)"),
            make_section_tool, has_scan),
       ToolEntry{tr("Sketch"), QStringLiteral("pen-tool"),
                 tr("Constraints and dimensions of the last sketch (K s)"),
                 [this] { startSketch(session_.document().sketches.back()->id); }, has_sketch}});
  std::vector<ToolEntry> build;
  std::vector<ToolEntry> bodies{tool(tr("Bodies"), QStringLiteral("layers"),
                                     tr("Name, colour, show and hide the bodies of the model"),
                                     make_bodies_tool, has_model)};
  for (const StepCard& card : step_cards()) {
    const auto possible = card.needs == StepCard::Needs::Sketch  ? std::function<bool()>(has_sketch)
                          : card.needs == StepCard::Needs::Model ? std::function<bool()>(has_model)
                                                                 : [] { return true; };
    ToolEntry entry{
        card.name, card.icon, card.tip,
        [this, &card, possible] {
          say({}, false);
          desk_->start({card.name, 0, [&card](Workplace place) { return card.make(place, 0); },
                        possible, kBuild});
        },
        possible};
    (card.on_bodies ? bodies : build).push_back(std::move(entry));
  }
  for (ToolEntry& entry : bodies) {
    entry.group = tr("Bodies");
    build.push_back(std::move(entry));
  }
  rail_->setTools(kBuild, std::move(build));
  const auto has_both = [has_model, has_scan] { return has_model() && has_scan(); };
  rail_->setTools(
      kProve,
      {tool(tr("Deviation"), QStringLiteral("gauge"),
            tr("Signed distance of the scan from the model"), make_deviation_tool, has_both),
       tool(tr("Compare"), QStringLiteral("slice"),
            tr("A plane section of scan against model, with whiskers"), make_compare_tool,
            has_both),
       tool(tr("Missing"), QStringLiteral("scan-eye"),
            tr("What of the model the scan does not show"), make_missing_tool, has_both)});
  rail_->setTools(kRelease, {tool(tr("Hand on"), QStringLiteral("file-output"),
                                  tr("Write the model, the report, the Ledger or sketches"),
                                  make_export_tool, has_model)});
}

}  // namespace lostline::app
