#include "windows/main_window.h"

#include <QtWidgets>

#include "look/preferences.h"
#include "look/theme.h"
#include "panels/body_showing.h"
#include "panels/valley_plot.h"
#include "reading/evidence.h"
#include "tools/step_cards.h"
#include "windows/fold_splitter.h"
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
  buildColumns();
  buildMenus();
  buildRail();
  buildStatus();
  connectPanels();
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

void MainWindow::buildColumns() {
  columns_ = new FoldSplitter(Qt::Horizontal);
  middle_ = new FoldSplitter(Qt::Vertical);
  right_ = new FoldSplitter(Qt::Vertical);
  middle_->addWidget(bench_);
  middle_->addWidget(strip_);
  middle_->setStretchFactor(0, 1);
  middle_->setSizes({560, 160});
  middle_->setCollapsible(0, false);
  right_->addWidget(ledger_);
  right_->addWidget(route_);
  right_->setSizes({500, 240});
  left_ = new QWidget;
  left_->setObjectName(QStringLiteral("page"));
  left_->setAttribute(Qt::WA_StyledBackground);
  left_->setMinimumWidth(240);
  auto* left = new QVBoxLayout(left_);
  left->setContentsMargins(6, 4, 4, 2);
  left->setSpacing(4);
  next_ = new QPushButton;
  next_->setObjectName(QStringLiteral("next"));
  connect(next_, &QPushButton::clicked, this, &MainWindow::doNext);
  left->addWidget(next_);
  evidence_->setMinimumHeight(120);
  left->addWidget(evidence_, 1);
  columns_->addWidget(left_);
  columns_->addWidget(middle_);
  columns_->addWidget(right_);
  columns_->setStretchFactor(1, 1);
  columns_->setCollapsible(1, false);
  columns_->setSizes({290, 572, 316});
  auto* page = new QWidget;
  page->setObjectName(QStringLiteral("page"));
  auto* layout = new QHBoxLayout(page);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  layout->addWidget(rail_);
  layout->addWidget(columns_, 1);
  setCentralWidget(page);
  desk_ = new Desk({session_, *bench_, *strip_}, left, this);
}

void MainWindow::connectPanels() {
  connect(rail_, &Rail::stageChosen, this, &MainWindow::setStage);
  connect(desk_, &Desk::changed, this, &MainWindow::showDesk);
  connect(desk_, &Desk::said, this, [this](const QString& text) { say(text, false); });
  connect(desk_, &Desk::sketchWanted, this, [this](project::Id id) {
    // After the present card has closed.
    QTimer::singleShot(0, this, [this, id] { startSketch(id); });
  });
  connect(&session_, &Session::changed, this, [this] {
    documentChanged();
    desk_->documentChanged();
  });
  connect(session_.undoStack(), &History::cleanChanged, this, &MainWindow::documentChanged);
  connect(&session_, &Session::routeChanged, this, [this] {
    documentChanged();
    desk_->documentChanged();
  });
  connect(&session_, &Session::failed, this, [this](const QString& text) { say(text, true); });
  connect(&session_, &Session::said, this, [this](const QString& text) { say(text, false); });
  connect(bench_, &BenchView::picked, this, &MainWindow::picked);
  bench_->setDragTaker(
      [this](const Pick& pick) { return card() != nullptr && card()->takesDrag(pick); });
  connect(bench_, &BenchView::dragged, this, [this](const QPointF& at, bool released) {
    if (card() == nullptr) return;
    card()->touch();
    card()->drag(at, released);
  });
  connect(bench_, &BenchView::hovered, this,
          [this](const QString& text) { hover_->setText(text); });
  connect(bench_, &BenchView::demoRequested, this, [this] { openFile(demoPath()); });
  connect(evidence_, &EvidencePanel::refPicked, this, [this](const project::FitRef& ref) {
    if (card() != nullptr) {
      card()->touch();
      return card()->pickRef(ref);
    }
    select({ref});
  });
  connect(evidence_, &EvidencePanel::refsSelected, this,
          [this](const std::vector<project::FitRef>& refs) { select(refs); });
  connect(evidence_, &EvidencePanel::bodyPicked, this, [this](std::size_t body) {
    if (card() != nullptr) return;
    std::vector<std::uint32_t> faces;
    const model::Model& solid = session_.route()->solid;
    for (std::size_t f = 0; f < solid.face_count(); ++f) {
      if (solid.body_of_face(f) == body) faces.push_back(static_cast<std::uint32_t>(f));
    }
    bench_->setModelSelection(faces);
  });
  connect(evidence_, &EvidencePanel::toolWanted, this, &MainWindow::startWith);
  connect(evidence_, &EvidencePanel::viewWanted, this,
          [this](const project::FitRef& ref, bool straight) {
            select({ref});
            view(straight ? kNormal : kFitSelection);
          });
  connect(bench_, &BenchView::hoveredRegion, evidence_, &EvidencePanel::showHovered);
  connect(evidence_, &EvidencePanel::rowHovered, this, [this](const project::FitRef& ref) {
    bench_->setHovered({ref.region, scan::kNone});
  });
  connect(bench_, &BenchView::menuWanted, this, &MainWindow::benchMenu);
  connect(evidence_, &EvidencePanel::sketchPicked, this, [this](project::Id id) {
    if (const auto* s = session_.document().find_sketch(id))
      strip_->showSection(s->section, s->sketch, s->reach(),
                          tr("Sketch %1 against its section").arg(QString::fromStdString(s->name)));
  });
  connect(evidence_, &EvidencePanel::sketchOpened, this, &MainWindow::startSketch);
  connect(ledger_, &LedgerPanel::rowPicked, this, [this](project::Id row) {
    if (card() == nullptr) show_row_evidence(session_, *bench_, *strip_, row);
  });
  connect(ledger_, &LedgerPanel::inkingWanted, this, &MainWindow::startInking);
  connect(ledger_, &LedgerPanel::valleyWanted, this, &MainWindow::drawValley);
  connect(
      &strip_->valley(), &ValleyPlot::modelTried, this,
      [this](const std::vector<std::pair<Vec3, Vec3>>& edges) {
        if (card() == nullptr)
          bench_->setMarks({LineBatch{{edges.begin(), edges.end()}, role::red_pencil, 1.3F, true}});
      });
  connect(&strip_->valley(), &ValleyPlot::valueChosen, ledger_, &LedgerPanel::inkFromValley);
  connect(route_, &RoutePanel::stepOpened, this, &MainWindow::editStep);
}

void MainWindow::select(const std::vector<project::FitRef>& refs) {
  std::vector<std::uint32_t> triangles;
  for (const project::FitRef& ref : refs) {
    const project::Fit* f = session_.document().find_fit(ref.fit);
    if (f != nullptr && f->triangles)
      triangles.insert(triangles.end(), f->triangles->begin(), f->triangles->end());
  }
  bench_->setSelection(regions_of(refs), triangles);
}

void MainWindow::startWith(const QString& tool, const project::FitRef& ref) {
  for (int stage = kReceive; stage <= kRelease; ++stage) {
    if (!rail_->toolNames(stage).contains(tool)) continue;
    setStage(stage);
    if (!rail_->startTool(tool)) return say(tr("%1 is not possible yet.").arg(tool), true);
    card()->touch();
    return card()->pickRef(ref);
  }
}

void MainWindow::benchMenu(const Pick& pick, const QPointF& at) {
  QMenu menu(this);
  const project::FitRef ref{pick.region, 0};
  const bool face = pick.what == Pick::What::Model && pick.face != scan::kNone;
  if (pick.region != 0 || face) {
    const auto look = [this, pick, ref, face](int which) {
      if (card() == nullptr) picked(pick);
      if (card() != nullptr && !face) select({ref});
      view(which);
    };
    menu.addAction(tr("Zoom to it"), this, [look] { look(kFitSelection); });
    menu.addAction(tr("Look straight at it"), this, [look] { look(kNormal); });
    menu.addSeparator();
  }
  if (pick.region != 0) {
    for (const auto& [text, tool] :
         {std::pair{tr("Measure from it"), tr("Measure")}, std::pair{tr("Relate it"), tr("Relate")},
          std::pair{tr("Frame on it"), tr("Frame")}, std::pair{tr("Feature of it"), tr("Feature")},
          std::pair{tr("Repaint it"), tr("Repaint")}})
      menu.addAction(text, this, [this, tool = tool, ref] { startWith(tool, ref); });
    menu.addSeparator();
  }
  const model::Model& solid = session_.route()->solid;
  if (face && pick.face < solid.face_count()) {
    const std::size_t body = solid.body_of_face(pick.face);
    menu.addAction(tr("Hide this body"), this,
                   [this, body] { show_bodies(session_, body, Showing::Toggle); });
    menu.addAction(tr("Show only this body"), this,
                   [this, body] { show_bodies(session_, body, Showing::Only); });
    menu.addAction(tr("Show all bodies"), this,
                   [this, body] { show_bodies(session_, body, Showing::All); });
    menu.addSeparator();
  }
  menu.addAction(tr("Whole part"), this, [this] { view(kFitView); });
  menu.addAction(tr("Zoom by window"), this, [this] { view(kWindow); });
  menu.exec(bench_->mapToGlobal(at.toPoint()));
}

void MainWindow::picked(const Pick& pick) {
  if (card() != nullptr) {
    card()->touch();
    return card()->pick(pick);
  }
  bench_->setSelection(pick.region != 0 ? std::vector{pick.region} : std::vector<std::uint32_t>{});
  bench_->setModelSelection(pick.face != scan::kNone && pick.what == Pick::What::Model
                                ? std::vector{pick.face}
                                : std::vector<std::uint32_t>{});
  if (pick.region != 0) evidence_->showRegions({pick.region});
  reading::Place place;
  place.region = pick.region;
  if (pick.what != Pick::What::Nothing) place.point = pick.point;
  const model::Model& solid = session_.route()->solid;
  if (pick.what == Pick::What::Model && pick.face < solid.face_count())
    place.face = solid.face_name(pick.face);
  ledger_->mark(reading::rows_resting_on(session_.document(), place));
}

MainWindow::~MainWindow() {
  // Panels and cards look at the session: they go before it, and it has nobody to tell then.
  session_.disconnect();
  session_.undoStack()->disconnect();
  delete takeCentralWidget();
}

void MainWindow::applyPreferences() {
  apply_theme();
  undo_->setIcon(icon(QStringLiteral("undo-2")));
  redo_->setIcon(icon(QStringLiteral("redo-2")));
  buildRail();
  rail_->setStage(rail_->stage());
  desk_->unitChanged();
  unit_->setText(length_unit() + QLatin1Char(' '));
  bench_->sheetChanged();
  session_.announce();
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
  connect(cancel_, &QPushButton::clicked, &session_.works(), &Works::stopShown);
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
  connect(&session_.works(), &Works::shown, this,
          [this, show](const QString& title, double share, int others) {
            work_->setText(others > 0 ? tr("%1 (and %2 more)").arg(title).arg(others) : title);
            progress_->setValue(static_cast<int>(100 * share));
            show(!title.isEmpty());
          });
}

void MainWindow::say(const QString& text, bool error) {
  message_->setObjectName(error ? QStringLiteral("error") : QString());
  message_->setStyleSheet(error ? QStringLiteral("color: %1;").arg(role::red_pencil.name())
                                : QString());
  message_->setText(text);
  message_->setToolTip(text);
}

void MainWindow::setStage(int stage) {
  const bool same = rail_->stage() == stage;
  if (!same) desk_->setAside();
  rail_->setStage(stage);
  if (!same || card() == nullptr) {
    bench_->setMarks({});
    bench_->setModelSelection({});
    bench_->setSelection({});
  }
  bench_->setSeeThrough(stage == kTrace);
  bench_->setPaint(stage == kSurvey || stage == kDatum ? Paint::Tint
                   : stage == kProve                   ? Paint::Deviation
                                                       : Paint::Plain);
  bench_->setShow(stage <= kTrace && stage != kReceive   ? Show::Scan
                  : stage == kBuild || stage == kRelease ? Show::Model
                                                         : Show::Both);
  if (stage == kBuild || stage == kProve || stage == kRelease) strip_->showHistogram();
  documentChanged();
  // What waits for this stage comes back, unless a tool is started at once.
  QTimer::singleShot(0, this, [this, stage] {
    if (rail_->stage() == stage) desk_->comeBack(stage);
  });
}

void MainWindow::startSketch(project::Id id) {
  say({}, false);
  desk_->start({tr("Sketch"), id,
                [id](Workplace place) -> ToolCard* { return make_sketch_tool(place, id); },
                [this, id] { return session_.document().find_sketch(id) != nullptr; }, kTrace});
}

void MainWindow::startInking() {
  say({}, false);
  desk_->start({tr("Ink"), 0, make_ink_tool,
                [this] { return !session_.document().dimensions.empty(); }, rail_->stage()});
}

void MainWindow::editStep(project::Id id) {
  const model::Step* step = session_.document().find_step(id);
  if (step == nullptr) return;
  setStage(kBuild);
  say({}, false);
  const StepCard& card = card_of(step->feature);
  desk_->start({card.name, id, [id, make = card.make](Workplace place) { return make(place, id); },
                [this, id] { return session_.document().find_step(id) != nullptr; }, kBuild});
}

void MainWindow::showDesk(const QString& running) {
  rail_->setRunning(running);
  rail_->setWaiting(desk_->unkept(false), desk_->waitingStages());
  next_->setVisible(running.isEmpty());
  if (running.isEmpty()) bench_->setFocus();
}

void MainWindow::doNext() {
  const NextThing next = next_thing_;
  if (next.step != 0) return editStep(next.step);
  setStage(next.stage);
  if (next.tool == tr("Ink")) return startInking();
  rail_->startTool(next.tool);
}

void MainWindow::documentChanged() {
  const project::Document& d = session_.document();
  const auto route = session_.route();
  rail_->refresh({d.scan != nullptr, d.survey != nullptr, d.frame != nullptr, !d.sketches.empty(),
                  !d.steps.empty(), route->map != nullptr, false});
  next_thing_ = next_thing(d, *route);
  next_->setText(tr("Next: %1")
                     .arg(QString(next_thing_.text)
                              .replace(QStringLiteral(": "), QStringLiteral(",\n\u2192 "))));
  next_->setAccessibleName(tr("Next: %1").arg(next_thing_.text));
  next_->setToolTip(tr("%1\nClick to start it.").arg(next_thing_.text));
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
  session_.works().run(
      Works::Lane::Read, tr("valley of %1").arg(QString::fromStdString(row->name)),
      [this, dimension, document = session_.snapshot()](const Task& task) -> Session::Finish {
        auto valley = reading::compute_valley(*document, dimension, {}, task);
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
  if (QApplication::activeModalWidget() != nullptr) return QMainWindow::eventFilter(object, event);
  auto* widget = qobject_cast<QWidget*>(object);
  const bool in_card = widget != nullptr && card() != nullptr && card()->isAncestorOf(widget);
  // What is pressed or typed in a card is work that another tool must not throw away.
  if (in_card && (event->type() == QEvent::MouseButtonPress || event->type() == QEvent::Wheel))
    card()->touch();
  if (event->type() != QEvent::KeyPress || widget == nullptr ||
      widget != QApplication::focusWidget())
    return QMainWindow::eventFilter(object, event);
  auto* key = static_cast<QKeyEvent*>(event);
  if (in_card && !key->text().isEmpty() && key->key() != Qt::Key_Escape &&
      key->key() != Qt::Key_Return && key->key() != Qt::Key_Enter && key->key() != Qt::Key_Tab)
    card()->touch();
  if (key->key() == Qt::Key_Escape)
    return escape(widget, in_card) || QMainWindow::eventFilter(object, event);
  if ((key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter) && card() != nullptr &&
      (widget == bench_ || (in_card && qobject_cast<QPushButton*>(widget) == nullptr))) {
    // A number being typed counts first.
    if (auto* box = qobject_cast<QAbstractSpinBox*>(widget)) box->interpretText();
    card()->tryKeep();
    return true;
  }
  const bool typing = qobject_cast<QLineEdit*>(widget) != nullptr ||
                      qobject_cast<QAbstractSpinBox*>(widget) != nullptr;
  if (typing || key->modifiers() != Qt::NoModifier) return QMainWindow::eventFilter(object, event);
  if (leader_ != nullptr) {
    leaderKey(key->key());
    return true;
  }
  if (widget != bench_) return QMainWindow::eventFilter(object, event);
  if ((leader_ = find_leader(key->key())) != nullptr) {
    say(hint(*leader_), false);
    return true;
  }
  return QMainWindow::eventFilter(object, event);
}

bool MainWindow::escape(QWidget* focus, bool in_card) {
  if (leader_ != nullptr) {
    leader_ = nullptr;
    say({}, false);
    return true;
  }
  if (!in_card && focus != bench_) {
    // A field or table of its own: it is cleared, then left; the card stays.
    if (auto* edit = qobject_cast<QLineEdit*>(focus); edit != nullptr && !edit->text().isEmpty()) {
      edit->clear();
      return true;
    }
    if (auto* view = qobject_cast<QAbstractItemView*>(focus)) view->clearSelection();
    bench_->setFocus();
    return true;
  }
  if (card() == nullptr) return false;
  if (!card()->escape()) card()->close();
  return true;
}

void MainWindow::leaderKey(int key) {
  const Leader* leader = std::exchange(leader_, nullptr);
  say({}, false);
  const LeaderKey* chosen = find_key(*leader, key);
  if (chosen == nullptr) return;
  if (chosen->view >= 0) {
    view(chosen->view);
    return;
  }
  if (chosen->tool == nullptr) {
    if (card() == nullptr) return;
    card()->touch();
    card()->command(QString::fromLatin1(chosen->command));
    return;
  }
  setStage(chosen->stage);
  rail_->startTool(tr(chosen->tool));
}

void MainWindow::view(int which) {
  switch (which) {
    case kFitView:
      return bench_->fitView();
    case kFitSelection:
      if (!bench_->fitSelection()) say(tr("Nothing is selected to zoom to."), true);
      return;
    case kWindow:
      say(tr("Drag the window that the view is zoomed to."), false);
      return bench_->zoomByWindow();
    case kNormal:
      if (!bench_->lookNormalToSelection())
        say(tr("Select a face or region first: the view turns to look straight at it."), true);
      return;
    default:
      bench_->lookAlong(which);
  }
}

}  // namespace lostline::app
