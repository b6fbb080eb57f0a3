#pragma once

#include <QLabel>
#include <QPainter>

namespace lostline::app {

/// One line of text that ends in dots where the room ends; all of it is in the tooltip.
class ElidedLabel : public QLabel {
 public:
  explicit ElidedLabel(const QString& text) : QLabel(text) {
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    setToolTip(text);
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter painter(this);
    painter.setPen(palette().color(foregroundRole()));
    painter.drawText(rect(), static_cast<int>(alignment()) | Qt::TextSingleLine,
                     fontMetrics().elidedText(text(), Qt::ElideRight, width()));
  }
};

}  // namespace lostline::app
