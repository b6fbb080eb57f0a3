#pragma once

class QCustomPlot;

namespace lostline::app {

/// Paper, graphite axes and quiet grid for a plot of the Strip.
void style_plot(QCustomPlot& plot);

}  // namespace lostline::app
