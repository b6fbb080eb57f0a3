#include "windows/main_window.h"

#include <QtWidgets>

#include "look/preferences.h"
#include "look/theme.h"
#include "panels/valley_plot.h"
#include "reading/evidence.h"
#include "tools/step_cards.h"
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
    reading::Place place;
    place.region = pick.region;
    if (pick.what != Pick::What::Nothing) place.point = pick.point;
    const model::Model& solid = session_.route()->solid;
    if (pick.what == Pick::What::Model && pick.face < solid.face_count())
      place.face = solid.face_name(pick.face);
    ledger_->mark(reading::rows_resting_on(session_.document(), place));
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
      strip_->showSection(s->section, s->sketch, s->reach(),
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
  const StepCard& card = card_of(step->feature);
  start(card.name, [id, make = card.make](Workplace place) { return make(place, id); });
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
  rail_->startTool(tr(chosen->tool));
}

}  // namespace lostline::app
