#include "windows/main_window.h"

#include <QtWidgets>

#include "look/preferences.h"
#include "look/theme.h"
#include "panels/valley_plot.h"
#include "project/evidence.h"
#include "windows/guide.h"
#include "windows/preferences_dialog.h"
#include "windows/row_evidence.h"

namespace lostline::app {

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent),
      bench_(new BenchView(session_)),
      strip_(new Strip(session_)),
      evidence_(new EvidencePanel(session_)),
      ledger_(new LedgerPanel(session_)),
      route_(new RoutePanel(session_)),
      rail_(new Rail) {
  setAcceptDrops(true);
  resize(1280, 800);
  columns_ = new QSplitter(Qt::Horizontal);
  middle_ = new QSplitter(Qt::Vertical);
  right_ = new QSplitter(Qt::Vertical);
  middle_->addWidget(bench_);
  middle_->addWidget(strip_);
  middle_->setStretchFactor(0, 1);
  middle_->setSizes({560, 170});
  right_->addWidget(ledger_);
  right_->addWidget(route_);
  right_->setSizes({430, 300});
  columns_->addWidget(evidence_);
  columns_->addWidget(middle_);
  columns_->addWidget(right_);
  columns_->setStretchFactor(1, 1);
  columns_->setSizes({196, 658, 334});
  columns_->setChildrenCollapsible(false);
  for (QSplitter* s : {columns_, middle_, right_}) s->setHandleWidth(1);
  auto* page = new QWidget;
  page->setObjectName(QStringLiteral("page"));
  auto* layout = new QHBoxLayout(page);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  layout->addWidget(rail_);
  layout->addWidget(columns_, 1);
  setCentralWidget(page);
  buildMenus();
  buildRail();
  buildStatus();
  connect(rail_, &Rail::stageChosen, this, &MainWindow::setStage);
  connect(&session_, &Session::changed, this, &MainWindow::documentChanged);
  connect(session_.undoStack(), &QUndoStack::cleanChanged, this, &MainWindow::documentChanged);
  connect(&session_, &Session::routeChanged, this, [this] {
    documentChanged();
    if (card_ != nullptr) card_->documentChanged();
  });
  connect(&session_, &Session::failed, this, [this](const QString& text) { say(text, true); });
  connect(&session_, &Session::said, this, [this](const QString& text) { say(text, false); });
  connect(bench_, &BenchView::picked, this, [this](const Pick& pick) {
    if (card_ != nullptr) return card_->pick(pick);
    bench_->setSelection(pick.region != 0 ? std::vector{pick.region}
                                          : std::vector<std::uint32_t>{});
    bench_->setModelSelection(pick.face != scan::kNone && pick.what == Pick::What::Model
                                  ? std::vector{pick.face}
                                  : std::vector<std::uint32_t>{});
    if (pick.region != 0) evidence_->showRegions({pick.region});
    project::Place place;
    place.region = pick.region;
    if (pick.what != Pick::What::Nothing) place.point = pick.point;
    const model::Solid& solid = session_.route()->solid;
    if (pick.what == Pick::What::Model && pick.face < solid.face_count())
      place.face = solid.face_name(pick.face);
    ledger_->mark(project::rows_resting_on(session_.document(), place));
  });
  connect(bench_, &BenchView::dragged, this, [this](const QPointF& at, bool released) {
    if (card_ != nullptr) card_->drag(at, released);
  });
  connect(bench_, &BenchView::hovered, this,
          [this](const QString& text) { hover_->setText(text); });
  connect(bench_, &BenchView::demoRequested, this, [this] { openFile(demoPath()); });
  connect(evidence_, &EvidencePanel::refPicked, this, [this](const project::FitRef& ref) {
    if (card_ != nullptr) return card_->pickRef(ref);
    if (ref.region != 0)
      bench_->setSelection({ref.region});
    else if (const project::Fit* f = session_.document().find_fit(ref.fit))
      bench_->setSelection({}, *f->triangles);
  });
  connect(evidence_, &EvidencePanel::sketchPicked, this, [this](project::Id id) {
    if (const auto* s = session_.document().find_sketch(id))
      strip_->showSection(s->section, s->sketch, std::max(1.0, 6 * s->tolerance),
                          tr("Sketch %1 against its section").arg(QString::fromStdString(s->name)));
  });
  const auto open_sketch = [this](project::Id id) {
    start(tr("Sketch"), [id](Workplace place) { return make_sketch_tool(place, id); });
  };
  connect(evidence_, &EvidencePanel::sketchOpened, this, open_sketch);
  connect(ledger_, &LedgerPanel::rowPicked, this, [this](project::Id row) {
    if (card_ == nullptr) show_row_evidence(session_, *bench_, *strip_, row);
  });
  connect(ledger_, &LedgerPanel::inkingWanted, this, [this] { start(tr("Ink"), make_ink_tool); });
  connect(ledger_, &LedgerPanel::valleyWanted, this, &MainWindow::drawValley);
  connect(
      &strip_->valley(), &ValleyPlot::modelTried, this,
      [this](const std::vector<std::pair<Vec3, Vec3>>& edges) {
        if (card_ == nullptr)
          bench_->setMarks({LineBatch{{edges.begin(), edges.end()}, role::red_pencil, 1.3F, true}});
      });
  connect(&strip_->valley(), &ValleyPlot::valueChosen, ledger_, &LedgerPanel::inkFromValley);
  connect(route_, &RoutePanel::stepOpened, this, &MainWindow::editStep);
  bench_->installEventFilter(this);
  qApp->installEventFilter(this);
  QSettings settings;
  if (settings.contains(QStringLiteral("window/geometry"))) {
    restoreGeometry(settings.value(QStringLiteral("window/geometry")).toByteArray());
    columns_->restoreState(settings.value(QStringLiteral("window/columns")).toByteArray());
    middle_->restoreState(settings.value(QStringLiteral("window/middle")).toByteArray());
    right_->restoreState(settings.value(QStringLiteral("window/right")).toByteArray());
  }
  setStage(kReceive);
}

MainWindow::~MainWindow() {
  // Panels and cards look at the session: they go before it, and it has nobody to tell then.
  session_.disconnect();
  session_.undoStack()->disconnect();
  delete takeCentralWidget();
}

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
        tr("Scans and projects (*.stl *.ply *.obj *.off *.3mf *.lostline)"));
    if (!path.isEmpty()) openFile(path);
  });
  add(file, tr("Open scans &beside \u2026"), {}, [this] {
    addScans(QFileDialog::getOpenFileNames(this, tr("Open scans beside the one worked on"), {},
                                           tr("Scans (*.stl *.ply *.obj *.off *.3mf)")));
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
  QAction* undo = session_.undoStack()->createUndoAction(this, tr("Undo"));
  undo->setShortcut(QKeySequence::Undo);
  undo->setIcon(icon(QStringLiteral("undo-2")));
  QAction* redo = session_.undoStack()->createRedoAction(this, tr("Redo"));
  redo->setShortcut(QKeySequence(tr("Ctrl+Shift+Z")));
  redo->setIcon(icon(QStringLiteral("redo-2")));
  edit->addAction(undo);
  edit->addAction(redo);
  edit->addSeparator();
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
  add(view, tr("Fit to window\tW 0"), {}, [this] { bench_->fitView(); });
  view->addSeparator();
  add(view, tr("&Keep this view for the report \u2026"), {}, [this] { keepView(); });
  QMenu* kept = view->addMenu(tr("Kept &views"));
  connect(kept, &QMenu::aboutToShow, this, [this, kept] { fillViews(*kept); });
  view->addSeparator();
  add(view, tr("Scan, model or both\tTab"), {},
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
        tr("Middle drag: orbit.  Shift + middle drag: pan.  Wheel: zoom at the pointer.\nSpace "
           "held: see-through scan.  Tab: scan, model or both.\n"
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
    for (QToolButton* button : rail_->findChildren<QToolButton*>(QStringLiteral("tool"))) {
      if (button->text() == name && button->isEnabled()) return button->click();
    }
    say(tr("%1 is not possible yet.").arg(name), true);
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

void MainWindow::applyPreferences() {
  if (card_ != nullptr) card_->close();
  apply_theme();
  undo_->setIcon(icon(QStringLiteral("undo-2")));
  redo_->setIcon(icon(QStringLiteral("redo-2")));
  buildRail();
  setStage(rail_->stage());
  unit_->setText(length_unit() + QLatin1Char(' '));
  bench_->sheetChanged();
  session_.announce();
}

void MainWindow::buildRail() {
  const auto has_scan = [this] { return session_.document().scan != nullptr; };
  const auto has_survey = [this] { return session_.document().survey != nullptr; };
  const auto has_sketch = [this] { return !session_.document().sketches.empty(); };
  const auto has_model = [this] { return session_.route()->tessellation != nullptr; };
  const auto tool = [this](const QString& name, const QString& icon_name, const QString& tip,
                           ToolCard* (*make)(Workplace), std::function<bool()> possible) {
    return ToolEntry{name, icon_name, tip, [this, name, make] { start(name, make); },
                     std::move(possible)};
  };
  rail_->setTools(
      kReceive,
      {ToolEntry{tr("Open"), QStringLiteral("scan-line"), tr("Open a scan or project (Ctrl+O)"),
                 [this] {
                   rail_->setRunning({});
                   const QString path = QFileDialog::getOpenFileName(
                       this, tr("Open a scan or project"), {},
                       tr("Scans and projects (*.stl *.ply *.obj *.off *.3mf *.lostline)"));
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
      kTrace, {tool(tr("Section"), QStringLiteral("slice"), tr("Section by a datum plane (K k)"),
                    make_section_tool, has_scan),
               ToolEntry{tr("Sketch"), QStringLiteral("pen-tool"),
                         tr("Constraints and dimensions of the last sketch (K s)"),
                         [this] {
                           const project::Id id = session_.document().sketches.back()->id;
                           start(tr("Sketch"),
                                 [id](Workplace place) { return make_sketch_tool(place, id); });
                         },
                         has_sketch}});
  const auto step_tool = [this](const QString& name, const QString& icon_name, const QString& tip,
                                ToolCard* (*make)(Workplace, project::Id),
                                std::function<bool()> possible) {
    return ToolEntry{
        name, icon_name, tip,
        [this, name, make] { start(name, [make](Workplace p) { return make(p, 0); }); },
        std::move(possible)};
  };
  rail_->setTools(
      kBuild,
      {ToolEntry{tr("Extrude"), QStringLiteral("box"), tr("Extrude closed areas of a sketch (B e)"),
                 [this] {
                   start(tr("Extrude"), [](Workplace p) { return make_extrude_tool(p, 0, false); });
                 },
                 has_sketch},
       ToolEntry{
           tr("Cut"), QStringLiteral("scissors"), tr("Cut closed areas of a sketch (B c)"),
           [this] { start(tr("Cut"), [](Workplace p) { return make_extrude_tool(p, 0, true); }); },
           has_model},
       step_tool(tr("Revolve"), QStringLiteral("rotate-3d"),
                 tr("Turn closed areas of a sketch about an axis (B r)"), make_revolve_tool,
                 has_sketch),
       step_tool(tr("Hole"), QStringLiteral("circle-dot"), tr("Drill circles of a sketch (B h)"),
                 make_hole_tool, has_model),
       step_tool(tr("Fillet"), QStringLiteral("spline"), tr("Round edges of the model (B f)"),
                 make_fillet_tool, has_model),
       step_tool(tr("Chamfer"), QStringLiteral("octagon"), tr("Bevel edges of the model (B b)"),
                 make_chamfer_tool, has_model),
       step_tool(tr("Pattern"), QStringLiteral("component"),
                 tr("Repeat a step in a row or round an axis (B p)"), make_pattern_tool, has_model),
       step_tool(tr("Mirror"), QStringLiteral("flip-horizontal-2"),
                 tr("Mirror a step or the whole part (B m)"), make_mirror_tool, has_model)});
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

void MainWindow::buildStatus() {
  hover_ = new QLabel;
  message_ = new QLabel;
  work_ = new QLabel;
  progress_ = new QProgressBar;
  progress_->setRange(0, 100);
  progress_->setTextVisible(false);
  progress_->setFixedWidth(110);
  cancel_ = new QPushButton(tr("\u00d7"));
  cancel_->setAccessibleName(tr("Cancel the running work"));
  cancel_->setToolTip(tr("Cancel"));
  cancel_->setMaximumSize(22, 20);
  cancel_->setStyleSheet(QStringLiteral("padding: 0;"));
  connect(cancel_, &QPushButton::clicked, &session_, &Session::cancel);
  statusBar()->setSizeGripEnabled(false);
  statusBar()->addWidget(hover_, 2);
  statusBar()->addWidget(message_, 3);
  statusBar()->addPermanentWidget(work_);
  statusBar()->addPermanentWidget(progress_);
  statusBar()->addPermanentWidget(cancel_);
  unit_ = new QLabel(length_unit() + QLatin1Char(' '));
  statusBar()->addPermanentWidget(unit_);
  const auto show = [this](bool on) {
    work_->setVisible(on);
    progress_->setVisible(on);
    cancel_->setVisible(on);
  };
  show(false);
  connect(&session_, &Session::workStarted, this, [this, show](const QString& title) {
    work_->setText(title);
    progress_->setValue(0);
    show(true);
  });
  connect(&session_, &Session::workProgress, this,
          [this](double share) { progress_->setValue(static_cast<int>(100 * share)); });
  connect(&session_, &Session::workEnded, this, [show] { show(false); });
}

void MainWindow::say(const QString& text, bool error) {
  message_->setObjectName(error ? QStringLiteral("error") : QString());
  message_->setStyleSheet(error ? QStringLiteral("color: %1;").arg(role::red_pencil.name())
                                : QString());
  message_->setText(text);
  message_->setToolTip(text);
}

void MainWindow::setStage(int stage) {
  if (card_ != nullptr && rail_->stage() != stage) card_->close();
  rail_->setStage(stage);
  bench_->setMarks({});
  bench_->setModelSelection({});
  bench_->setSelection({});
  bench_->setSeeThrough(stage == kTrace);
  bench_->setPaint(stage == kSurvey || stage == kDatum ? Paint::Tint
                   : stage == kProve                   ? Paint::Deviation
                                                       : Paint::Plain);
  bench_->setShow(stage <= kTrace && stage != kReceive   ? Show::Scan
                  : stage == kBuild || stage == kRelease ? Show::Model
                                                         : Show::Both);
  if (stage == kBuild || stage == kProve || stage == kRelease) strip_->showHistogram();
  documentChanged();
}

void MainWindow::start(const QString& name, const std::function<ToolCard*(Workplace)>& make) {
  if (card_ != nullptr) card_->close();
  say({}, false);
  card_ = make(Workplace{session_, *bench_, *strip_});
  rail_->setRunning(name);
  connect(card_, &ToolCard::finished, this, &MainWindow::endTool);
  connect(card_, &ToolCard::sketchWanted, this, [this](project::Id id) {
    // After the present card has closed.
    QTimer::singleShot(0, this, [this, id] {
      start(tr("Sketch"), [id](Workplace place) { return make_sketch_tool(place, id); });
    });
  });
  card_->show();
  bench_->setLeftInset(card_->width());
  card_->begin();
  placeCard();
  bench_->fitView();
  bench_->setFocus();
}

void MainWindow::endTool() {
  if (card_ == nullptr) return;
  card_->hide();
  card_->deleteLater();
  card_ = nullptr;
  bench_->setLeftInset(0);
  bench_->fitView();
  rail_->setRunning({});
  const int stage = rail_->stage();
  bench_->setShow(stage <= kTrace && stage != kReceive   ? Show::Scan
                  : stage == kBuild || stage == kRelease ? Show::Model
                                                         : Show::Both);
  bench_->setFocus();
}

void MainWindow::placeCard() {
  if (card_ == nullptr) return;
  card_->adjustSize();
  card_->move(28, 28);
}

void MainWindow::editStep(project::Id id) {
  const model::Step* step = session_.document().find_step(id);
  if (step == nullptr) return;
  setStage(kBuild);
  start(step_tool_name(step->feature),
        [copy = *step](Workplace place) { return make_step_tool(place, copy); });
}

void MainWindow::documentChanged() {
  const project::Document& d = session_.document();
  const auto route = session_.route();
  rail_->refresh({d.scan != nullptr, d.frame != nullptr, d.survey != nullptr, !d.sketches.empty(),
                  !d.steps.empty(), route->map != nullptr, false});
  const bool dirty = !session_.undoStack()->isClean();
  const QString title =
      d.scan || !d.steps.empty() ? QString::fromStdString(d.title) : tr("no part yet");
  heading_->setText(title + (dirty ? QStringLiteral(" *") : QString()));
  setWindowTitle(title + (dirty ? QStringLiteral(" * \u2013 ") : QStringLiteral(" \u2013 ")) +
                 QStringLiteral("Lost Line"));
}

void MainWindow::drawValley(project::Id dimension) {
  const project::Dimension* row = session_.document().find_dimension(dimension);
  if (row == nullptr) return;
  session_.run(
      tr("valley of %1").arg(QString::fromStdString(row->name)),
      [this, dimension, document = session_.snapshot()](const Task& task) -> Session::Finish {
        auto valley = project::compute_valley(*document, dimension, {}, task);
        return [this, dimension, valley = std::move(valley)] {
          if (!valley) return session_.report(valley.error());
          strip_->showValley(*valley, dimension);
        };
      });
}

void MainWindow::closeEvent(QCloseEvent* event) {
  if (!closing_ && !session_.undoStack()->isClean()) {
    event->ignore();
    whenSafe([this] {
      closing_ = true;
      close();
    });
    return;
  }
  QSettings settings;
  settings.setValue(QStringLiteral("window/geometry"), saveGeometry());
  settings.setValue(QStringLiteral("window/columns"), columns_->saveState());
  settings.setValue(QStringLiteral("window/middle"), middle_->saveState());
  settings.setValue(QStringLiteral("window/right"), right_->saveState());
  event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}
void MainWindow::dropEvent(QDropEvent* event) {
  const QList<QUrl> urls = event->mimeData()->urls();
  if (!urls.isEmpty() && urls.front().isLocalFile()) openFile(urls.front().toLocalFile());
}

bool MainWindow::eventFilter(QObject* object, QEvent* event) {
  if (event->type() != QEvent::KeyPress || QApplication::activeModalWidget() != nullptr)
    return QMainWindow::eventFilter(object, event);
  auto* key = static_cast<QKeyEvent*>(event);
  QWidget* focus = QApplication::focusWidget();
  const bool typing = qobject_cast<QLineEdit*>(focus) != nullptr ||
                      qobject_cast<QAbstractSpinBox*>(focus) != nullptr;
  if (object != focus) return QMainWindow::eventFilter(object, event);
  if (key->key() == Qt::Key_Escape && leader_ != nullptr) {
    leader_ = nullptr;
    say({}, false);
    return true;
  }
  if (key->key() == Qt::Key_Escape && card_ != nullptr) {
    if (!card_->escape()) card_->close();
    return true;
  }
  if ((key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter) && card_ != nullptr &&
      (focus == bench_ ||
       (card_->isAncestorOf(focus) && qobject_cast<QPushButton*>(focus) == nullptr))) {
    // A number being typed counts first.
    if (auto* box = qobject_cast<QAbstractSpinBox*>(focus)) box->interpretText();
    card_->tryKeep();
    return true;
  }
  if (typing || key->modifiers() != Qt::NoModifier) return QMainWindow::eventFilter(object, event);
  if (leader_ != nullptr) {
    leaderKey(key->key());
    return true;
  }
  if (key->key() == Qt::Key_Tab && focus == bench_) {
    bench_->setShow(static_cast<Show>((static_cast<int>(bench_->show()) + 1) % 3));
    return true;
  }
  if (focus != bench_) return QMainWindow::eventFilter(object, event);
  if ((leader_ = find_leader(key->key())) != nullptr) {
    say(hint(*leader_), false);
    return true;
  }
  return QMainWindow::eventFilter(object, event);
}

void MainWindow::leaderKey(int key) {
  const Leader* leader = std::exchange(leader_, nullptr);
  say({}, false);
  const LeaderKey* chosen = find_key(*leader, key);
  if (chosen == nullptr) return;
  if (chosen->view >= 0) {
    chosen->view == kFitView ? bench_->fitView() : bench_->lookAlong(chosen->view);
    return;
  }
  if (chosen->tool == nullptr) {
    if (card_ != nullptr) card_->command(QString::fromLatin1(chosen->command));
    return;
  }
  setStage(chosen->stage);
  const QString name = tr(chosen->tool);
  for (QToolButton* button : rail_->findChildren<QToolButton*>(QStringLiteral("tool"))) {
    if (button->text() == name && button->isEnabled()) return button->click();
  }
}

}  // namespace lostline::app
