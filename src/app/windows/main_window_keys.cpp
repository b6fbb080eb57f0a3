#include <QtWidgets>

#include "windows/main_window.h"

// What keys do: leader keys, Return, Escape.

namespace lostline::app {

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
  start(*chosen->tool);
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
    case kClip:
      if (bench_->clip()) return bench_->setClip({});
      say(tr("Drag the clip plane by its handle; W f shows the other side, W c takes it away."),
          false);
      return bench_->clipAcrossView();
    case kFlipClip:
      if (const auto& clip = bench_->clip())
        return bench_->setClip(BenchView::Clip{-clip->normal, -clip->offset});
      return say(tr("There is no clip plane: W c puts one in."), true);
    case kAsPoints:
      bench_->setScanAsPoints(!bench_->scanAsPoints());
      return say(bench_->scanAsPoints()
                     ? tr("The scan is drawn by its points; W p shows its surface again.")
                     : QString(),
                 false);
    default:
      bench_->lookAlong(which);
  }
}

}  // namespace lostline::app
