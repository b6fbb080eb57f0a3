#include "panels/valley_plot.h"

#include <qcustomplot.h>

#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "look/preferences.h"
#include "look/theme.h"
#include "panels/plot_style.h"
#include "project/ledger.h"
#include "reading/row_nominals.h"

namespace lostline::app {

ValleyPlot::ValleyPlot(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), aside_(session), plot_(new QCustomPlot) {
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(plot_);
  style_plot(*plot_);
  plot_->setObjectName(QStringLiteral("valley"));
  plot_->setAccessibleName(tr("Valley: RMS deviation against the value"));
  plot_->setToolTip(tr("Drag the red marker: the model follows; letting go inks the value"));
  plot_->setCursor(Qt::SizeHorCursor);
  connect(plot_, &QCustomPlot::mousePress, this, [this](QMouseEvent* event) {
    dragging_ = event->button() == Qt::LeftButton;
    if (dragging_) moved(event->position());
  });
  connect(plot_, &QCustomPlot::mouseMove, this, [this](QMouseEvent* event) {
    if (dragging_) moved(event->position());
  });
  connect(plot_, &QCustomPlot::mouseRelease, this, [this](QMouseEvent* event) {
    if (dragging_) released(event->position());
  });
}

void ValleyPlot::show(const reading::Valley& valley, project::Id dimension) {
  dimension_ = dimension;
  const project::Dimension* row = session_.document().find_dimension(dimension);
  if (row == nullptr) return;
  plot_->clearPlottables();
  plot_->clearItems();
  const bool angle = row->quantity == standards::Quantity::Angle;
  scale_ = angle ? 1 : length_factor();
  low_ = valley.samples.front().value * scale_;
  high_ = valley.samples.back().value * scale_;
  double top = 0;
  double bottom = 1e300;
  QVector<double> x;
  QVector<double> y;
  for (const auto& s : valley.samples) {
    x << s.value * scale_;
    y << s.rms * length_factor();
    top = std::max(top, y.back());
    bottom = std::min(bottom, y.back());
  }
  const double margin = std::max(0.12 * (top - bottom), 1e-4);
  plot_->xAxis->setRange(low_, high_);
  plot_->yAxis->setRange(std::max(0.0, bottom - margin), top + 2.2 * margin);
  plot_->xAxis->setLabel(QString::fromStdString(row->name) +
                         (angle ? tr(", \u00b0") : in_unit(tr(", mm"))));
  plot_->yAxis->setLabel(in_unit(tr("RMS, mm")));
  if (row->reading && row->u > 0) {
    auto* band = new QCPItemRect(plot_);
    band->setPen(Qt::NoPen);
    band->setBrush(QColor(0x6E, 0x6A, 0x63, 40));
    band->topLeft->setTypeY(QCPItemPosition::ptAxisRectRatio);
    band->bottomRight->setTypeY(QCPItemPosition::ptAxisRectRatio);
    band->topLeft->setCoords((*row->reading - row->u) * scale_, 0);
    band->bottomRight->setCoords((*row->reading + row->u) * scale_, 1);
  }
  const auto upright = [&](double at, const QColor& colour, Qt::PenStyle style) {
    auto* line = new QCPItemStraightLine(plot_);
    line->point1->setCoords(at, 0);
    line->point2->setCoords(at, 1);
    line->setPen(QPen(colour, 1, style));
    return line;
  };
  if (row->reading) upright(*row->reading * scale_, role::graphite, Qt::DashLine);
  nominals_.clear();
  int shown = 0;
  for (const auto& n : reading::nominals_of(session_.document(), *row)) {
    const double at = n.value * scale_;
    if (at < low_ || at > high_) continue;
    nominals_.push_back(at);
    if (++shown > 4) continue;
    upright(at, role::ink, Qt::DotLine);
    auto* text = new QCPItemText(plot_);
    text->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
    text->position->setCoords(at, 0.08);
    text->setFont(body_font(10));
    text->setColor(role::ink);
    text->setText(QString::fromStdString(format_trimmed(at, 3)));
    text->setBrush(role::card);
  }
  plot_->addGraph();
  plot_->graph()->setData(x, y);
  plot_->graph()->setPen(QPen(role::ink, 1.8));
  plot_->graph()->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, role::ink, 4));
  marker_ = upright(row->value() * scale_, role::red_pencil, Qt::SolidLine);
  marker_->setPen(QPen(role::red_pencil, 2));
  label_ = new QCPItemText(plot_);
  label_->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
  label_->setFont(body_font(11, true));
  label_->setColor(role::red_pencil);
  label_->setBrush(role::card);
  placeMarker(row->value() * scale_);
}

double ValleyPlot::valueAt(const QPointF& at) const {
  double value = std::clamp(plot_->xAxis->pixelToCoord(at.x()), low_, high_);
  // Near a nominal the marker falls into it.
  const double snap =
      std::abs(plot_->xAxis->pixelToCoord(at.x() + 7) - plot_->xAxis->pixelToCoord(at.x()));
  double nearest = snap;
  for (const double n : nominals_) {
    if (std::abs(plot_->xAxis->pixelToCoord(at.x()) - n) < nearest) {
      nearest = std::abs(plot_->xAxis->pixelToCoord(at.x()) - n);
      value = n;
    }
  }
  if (nearest == snap) {  // else to a round figure the eye can set
    const double step = std::pow(10.0, std::floor(std::log10(std::max(1e-6, (high_ - low_) / 40))));
    value = std::round(value / step) * step;
  }
  return value;
}

void ValleyPlot::placeMarker(double value) {
  value_ = value;
  if (marker_ == nullptr) return;
  marker_->point1->setCoords(value, 0);
  marker_->point2->setCoords(value, 1);
  label_->position->setCoords(value, 0.92);
  label_->setText(QString::fromStdString(format_trimmed(value, 3)));
  plot_->replot(QCustomPlot::rpQueuedRefresh);
}

void ValleyPlot::moved(const QPointF& at) {
  const double value = valueAt(at);
  if (value == value_) return;
  placeMarker(value);
  tryValue(value / scale_);
}

void ValleyPlot::released(const QPointF& at) {
  dragging_ = false;
  placeMarker(valueAt(at));
  Q_EMIT valueChosen(value_ / scale_);
}

void ValleyPlot::tryValue(double value) {
  aside_.run([this, value, id = dimension_,
              document = session_.snapshot()](const Task& task) -> Session::Finish {
    const auto changed = project::ink(*document, id, value, "trial");
    if (!changed) return {};
    model::RouteCache cache;
    const auto results = model::recompute(changed->steps, changed->placed_sketches(), cache, task,
                                          model::Wanted::last());
    if (!results || results->empty()) return {};
    const auto tessellation = model::tessellate(results->back().solid, {0.2, 0.3});
    if (!tessellation) return {};
    std::vector<std::pair<Vec3, Vec3>> edges;
    for (const auto& line : tessellation->edges) {
      for (std::size_t i = 1; i < line.points.size(); ++i)
        edges.emplace_back(line.points[i - 1], line.points[i]);
    }
    return [this, edges = std::move(edges)] { Q_EMIT modelTried(edges); };
  });
}

}  // namespace lostline::app
