#include "windows/main_window.h"

#include <QtWidgets>

#include "look/preferences.h"
#include "look/progress.h"
#include "look/theme.h"
#include "panels/valley_plot.h"
#include "reading/evidence.h"
#include "windows/fold_splitter.h"

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
  tour_ = new Tour(session_);
  left->addWidget(tour_);
  left->addWidget(next_);
  start_page_ = new StartPage(bench_);
  bench_->setWelcome(start_page_);
  evidence_->setMinimumHeight(120);
  left->addWidget(evidence_, 1);
  columns_->addWidget(left_);
  columns_->addWidget(middle_);
  columns_->addWidget(right_);
  // On a wide screen the Bench takes most of the room; names of rows are cut no more.
  columns_->setStretchFactor(0, 2);
  columns_->setStretchFactor(1, 6);
  columns_->setStretchFactor(2, 3);
  columns_->setCollapsible(1, false);
  columns_->setSizes({290, 546, 342});
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
  connect(rail_, &Rail::openWanted, this, &MainWindow::openDialog);
  connect(rail_, &Rail::toolChosen, this, [this](const Tool& tool) { start(tool); });
  connect(desk_, &Desk::changed, this, &MainWindow::showDesk);
  connect(desk_, &Desk::said, this, [this](const QString& text) { say(text, false); });
  connect(desk_, &Desk::sketchWanted, this, [this](project::Id id) {
    // After the present card has closed.
    QTimer::singleShot(0, this, [this, id] { start(*find_tool("Sketch"), id); });
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
  connect(bench_, &BenchView::pointed, this, [this](const QPointF& at) {
    if (card() != nullptr) card()->point(at);
  });
  connect(bench_, &BenchView::doubleClicked, this, [this](const QPointF& at) {
    if (card() == nullptr) return;
    card()->touch();
    card()->doubleClick(at);
  });
  connect(bench_, &BenchView::hovered, this,
          [this](const QString& text) { hover_->setText(text); });
  connect(start_page_, &StartPage::openWanted, this, &MainWindow::openDialog);
  connect(start_page_, &StartPage::demoWanted, this, [this] { openFile(demoPath()); });
  connect(start_page_, &StartPage::fileWanted, this, &MainWindow::openFile);
  connect(start_page_, &StartPage::tourWanted, this, &MainWindow::startTour);
  connect(tour_, &Tour::toolWanted, this, [this](const Tool& tool) { start(tool); });
  connect(evidence_, &EvidencePanel::chosen, this,
          [this](const std::vector<Item>& items, const Item& clicked) { choose(items, clicked); });
  connect(evidence_, &EvidencePanel::menuWanted, this, &MainWindow::fillItemMenu);
  connect(route_, &RoutePanel::menuWanted, this, &MainWindow::fillItemMenu);
  connect(&session_.selection(), &Selection::changed, this, &MainWindow::showSelection);
  connect(bench_, &BenchView::boxed, this, &MainWindow::boxed);
  connect(bench_, &BenchView::hoveredRegion, evidence_, &EvidencePanel::showHovered);
  connect(evidence_, &EvidencePanel::rowHovered, this, [this](const project::FitRef& ref) {
    bench_->setHovered({ref.region, scan::kNone});
  });
  connect(bench_, &BenchView::menuWanted, this, &MainWindow::benchMenu);
  connect(evidence_, &EvidencePanel::opened, this, [this](const Item& item) {
    if (item.kind == Item::Kind::Sketch) start(*find_tool("Sketch"), item.id);
  });
  connect(ledger_, &LedgerPanel::rowPicked, this, [this](project::Id row) {
    const Item item{Item::Kind::Row, row};
    choose({item}, item);
  });
  connect(route_, &RoutePanel::chosen, this, [this](const Item& step) { choose({step}, step); });
  connect(ledger_, &LedgerPanel::inkingWanted, this, [this] { start(*find_tool("Ink")); });
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
            show_progress(*progress_, share);
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
  if (!same || card() == nullptr) showSelection();
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

void MainWindow::start(const Tool& tool, project::Id subject) {
  if (rail_->stage() != tool.stage) setStage(tool.stage);
  say({}, false);
  if (subject == 0) subject = tool.usualSubject(session_.document());
  if (!tool.stands(session_, subject)) {
    rail_->setRunning(desk_->tool() != nullptr ? desk_->tool()->title() : QString());
    return say(tr("%1 is not possible yet. %2").arg(tool.title(), tool.lack()), true);
  }
  desk_->start(tool, subject);
}

void MainWindow::editStep(project::Id id) {
  const model::Step* step = session_.document().find_step(id);
  if (step == nullptr) return;
  session_.whenKnown(id, [this, id] {
    const model::Step* known = session_.document().find_step(id);
    if (known != nullptr) start(tool_of(known->feature), id);
  });
}

void MainWindow::showDesk(const QString& running) {
  rail_->setRunning(running);
  rail_->setWaiting(desk_->unkept(false), desk_->waitingStages());
  next_->setVisible(running.isEmpty() && !tour_->running());
  if (card() != nullptr)
    connect(card(), &ToolCard::wantsOther, this, &MainWindow::showWanted, Qt::UniqueConnection);
  showWanted();
  if (!running.isEmpty()) return;
  bench_->setFocus();
  showSelection();
}

void MainWindow::showWanted() {
  // After the card has come to rest: it may change several inputs at once.
  QTimer::singleShot(0, this, [this] {
    evidence_->setWanted(card() != nullptr ? card()->wanted() : EvidencePanel::Wanted());
  });
}

void MainWindow::doNext() {
  const NextThing next = next_thing_;
  if (next.step != 0) return editStep(next.step);
  if (next.tool == nullptr) return openDialog();
  start(*next.tool);
}

void MainWindow::documentChanged() {
  const project::Document& d = session_.document();
  const auto route = session_.route();
  rail_->refresh({d.scan != nullptr, d.survey != nullptr, d.frame != nullptr, !d.sketches.empty(),
                  !d.steps.empty(), route->map != nullptr, false},
                 session_);
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

}  // namespace lostline::app
