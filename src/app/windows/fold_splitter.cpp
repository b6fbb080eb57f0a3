#include "windows/fold_splitter.h"

#include <QMouseEvent>
#include <QPainter>

#include "look/theme.h"

namespace lostline::app {
namespace {

constexpr int kGrip = 5;        // pixels that the pointer can hold
constexpr int kUnfolded = 160;  // pixels of a part that was never open

class Handle : public QSplitterHandle {
 public:
  Handle(Qt::Orientation orientation, FoldSplitter* parent)
      : QSplitterHandle(orientation, parent), parent_(parent) {
    setToolTip(tr("Drag to resize; double-click to fold away or bring back"));
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter painter(this);
    painter.fillRect(rect(), role::paper);
    painter.setPen(QPen(role::rule, 1));
    const QPoint c = rect().center();
    if (orientation() == Qt::Horizontal)
      painter.drawLine(c.x(), 0, c.x(), height());
    else
      painter.drawLine(0, c.y(), width(), c.y());
  }
  void mouseDoubleClickEvent(QMouseEvent*) override {
    // The outer one of the two that the handle parts.
    const int right = parent_->indexOf(this);
    parent_->fold(right == 1 && parent_->count() > 2 ? 0 : right);
  }

 private:
  FoldSplitter* parent_;
};

}  // namespace

FoldSplitter::FoldSplitter(Qt::Orientation orientation) : QSplitter(orientation) {
  setHandleWidth(kGrip);
}

QSplitterHandle* FoldSplitter::createHandle() { return new Handle(orientation(), this); }

void FoldSplitter::fold(int part) {
  QList<int> now = sizes();
  const auto at = static_cast<qsizetype>(part);
  if (at < 0 || at >= now.size()) return;
  unfolded_.resize(static_cast<std::size_t>(now.size()), kUnfolded);
  int& kept = unfolded_[static_cast<std::size_t>(at)];
  // The largest of the others gives or takes the room.
  qsizetype other = at == 0 ? 1 : at - 1;
  for (qsizetype i = 0; i < now.size(); ++i) {
    if (i != at && now[i] > now[other]) other = i;
  }
  if (now[at] > 0) {
    kept = now[at];
    now[other] += now[at];
    now[at] = 0;
  } else {
    now[other] -= kept;
    now[at] = kept;
  }
  setSizes(now);
}

}  // namespace lostline::app
