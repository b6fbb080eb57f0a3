#include "panels/plot_style.h"

#include <qcustomplot.h>

#include "look/theme.h"

namespace lostline::app {

void style_plot(QCustomPlot& plot) {
  plot.setBackground(QBrush(role::card));
  for (QCPAxis* axis : {plot.xAxis, plot.yAxis}) {
    axis->setBasePen(QPen(role::graphite_light));
    axis->setTickPen(QPen(role::graphite_light));
    axis->setSubTickPen(Qt::NoPen);
    axis->setTickLabelColor(role::graphite);
    axis->setTickLabelFont(body_font(10));
    axis->setLabelColor(role::graphite);
    axis->setLabelFont(body_font(10));
    axis->grid()->setPen(QPen(role::rule, 1, Qt::DotLine));
  }
}

}  // namespace lostline::app
