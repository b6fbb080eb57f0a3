// Handles of the running tool's numbers, its preview, and the sketch as it stands on a drawing.
#include <QPainter>
#include <cmath>

#include "bench/bench_view.h"
#include "look/theme.h"

namespace lostline::app {

void BenchView::setHandles(std::vector<Handle> handles, HandleDragged dragged) {
  handles_ = std::move(handles);
  handle_dragged_ = std::move(dragged);
  update();
}

std::optional<std::size_t> BenchView::handleAt(const QPointF& at) const {
  constexpr double kHold = 11;  // pixels
  for (std::size_t i = 0; i < handles_.size(); ++i) {
    const QPointF d = camera_.toScreen(handles_[i].at) - at;
    if (std::hypot(d.x(), d.y()) < kHold) return i;
  }
  return std::nullopt;
}

void BenchView::dragHandle(const QPointF& at, bool released) {
  if (held_ >= handles_.size() || !handle_dragged_) return;
  const QPointF along = camera_.toScreen(held_from_ + held_along_) - camera_.toScreen(held_from_);
  const double squared = QPointF::dotProduct(along, along);
  // Seen from its end a direction cannot be dragged along.
  if (squared < 0.01 * camera_.scale * camera_.scale) return;
  handle_dragged_(handles_[held_].id, QPointF::dotProduct(at - pressed_, along) / squared,
                  released);
}

void BenchView::paintHandles(QPainter& painter) {
  painter.setFont(body_font(11));
  for (const Handle& handle : handles_) {
    const QPointF at = camera_.toScreen(handle.at);
    const QPointF along = camera_.toScreen(handle.at + handle.along) - at;
    const double l = std::hypot(along.x(), along.y());
    painter.setPen(QPen(role::red_pencil, 2));
    if (l > 0.1 * camera_.scale) {
      const QPointF d = along / l;
      const QPointF side(-d.y(), d.x());
      for (const double s : {-1.0, 1.0}) {
        const QPointF tip = at + s * 16 * d;
        painter.drawLine(at + s * 6 * d, tip);
        painter.drawLine(tip, tip - s * 5 * d + 4 * side);
        painter.drawLine(tip, tip - s * 5 * d - 4 * side);
      }
    }
    painter.setBrush(role::card);
    painter.drawEllipse(at, 5, 5);
    if (handle.text.isEmpty()) continue;
    const double wide = painter.fontMetrics().horizontalAdvance(handle.text) + 8;
    const QRectF box(at.x() + 12, at.y() - 24, wide, 16);
    QColor paper = role::card;
    paper.setAlpha(225);
    painter.fillRect(box, paper);
    painter.drawText(box, Qt::AlignCenter, handle.text);
  }
}

void BenchView::setPreview(std::shared_ptr<const model::Tessellation> preview) {
  if (preview == preview_) return;
  preview_ = std::move(preview);
  preview_dirty_ = true;
  redraw();
}

void BenchView::setDrafting(std::shared_ptr<const Drafting> drafting) {
  drafting_ = std::move(drafting);
  drafted_.clear();
  update();
}

std::optional<Drafting::Placed> BenchView::draftedAt(const QPointF& at) const {
  for (const Drafting::Placed& placed : drafted_) {
    if (placed.box.contains(at)) return placed;
  }
  return std::nullopt;
}

}  // namespace lostline::app
