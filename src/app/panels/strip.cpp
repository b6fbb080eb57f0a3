#include "panels/strip.h"

#include <qcustomplot.h>

#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

#include "bench/sketch_marks.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "panels/plot_style.h"
#include "panels/valley_plot.h"
#include "sketch/curve_kind.h"

namespace lostline::app {

SectionPlot::SectionPlot(QWidget* parent) : QWidget(parent) {
  setAccessibleName(tr("Section with drift"));
  setToolTip(tr("The wheel zooms, a drag pans, a double click shows all of it"));
}

void SectionPlot::show(const section::Section& section, const sketch::Sketch& sketch,
                       double reach) {
  section_ = section;
  sketch_ = sketch;
  drift_ = sketch::measure_drift(sketch, section, reach);
  model_ = {};
  setContent();
}

void SectionPlot::show(const deviation::SectionComparison& c) {
  section_ = c.scan;
  sketch_ = {};
  model_ = c.model;
  drift_ = {};
  for (const auto& w : c.whiskers) drift_.whiskers.push_back({w.foot, w.point, w.value, 0});
  drift_.rms = c.rms;
  drift_.greatest = c.greatest;
  drift_.greatest_at = c.greatest_at;
  setContent();
}

Eigen::AlignedBox2d SectionPlot::box() const {
  Eigen::AlignedBox2d box;
  for (const section::Section* section : {&section_, &model_}) {
    for (const auto& line : section->polylines) {
      for (const Vec2& p : line.points) box.extend(p);
    }
  }
  return box;
}

void SectionPlot::setContent() {
  // Another section of the same place keeps the view; what lies elsewhere is shown whole.
  const Eigen::AlignedBox2d all = box();
  if (fitted_ || all.isEmpty() || !all.contains(middle_)) fit();
  update();
}

void SectionPlot::fit() {
  const Eigen::AlignedBox2d all = box();
  fitted_ = true;
  if (all.isEmpty()) return;
  middle_ = all.center();
  scale_ = std::min((width() - 60) / std::max(all.sizes().x(), 1e-6),
                    (height() - 24) / std::max(all.sizes().y(), 1e-6));
}

void SectionPlot::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  if (fitted_) fit();
}

void SectionPlot::wheelEvent(QWheelEvent* event) {
  const double factor = std::pow(1.0015, event->angleDelta().y());
  // What is under the pointer stays there.
  const QPointF off = event->position() - QPointF(width() / 2.0, height() / 2.0);
  const Vec2 from(off.x(), -off.y());
  middle_ += from / scale_ * (1 - 1 / factor);
  scale_ *= factor;
  fitted_ = false;
  update();
}

void SectionPlot::mouseMoveEvent(QMouseEvent* event) {
  if ((event->buttons() & (Qt::LeftButton | Qt::RightButton | Qt::MiddleButton)) == 0) return;
  const QPointF moved = event->position() - std::exchange(last_, event->position());
  middle_ -= Vec2(moved.x(), -moved.y()) / scale_;
  fitted_ = false;
  update();
}

void SectionPlot::mouseDoubleClickEvent(QMouseEvent*) {
  fit();
  update();
}

void SectionPlot::paintScaleBar(QPainter& painter) {
  // A round length of about a hundred pixels.
  double length = std::pow(10.0, std::floor(std::log10(120 / (scale_ / length_factor()))));
  for (const double more : {2.0, 2.5}) {
    if (length * more * scale_ / length_factor() < 130) length *= more;
  }
  const double pixels = length * scale_ / length_factor();
  const QPointF left(14, height() - 10);
  // Label above, on a ground of its own: the section may fill the whole plot.
  painter.fillRect(QRectF(left.x() - 4, left.y() - 22, pixels + 8, 27), role::card);
  painter.setPen(QPen(role::ink, 1.4));
  painter.drawLine(left, left + QPointF(pixels, 0));
  for (const double x : {0.0, pixels})
    painter.drawLine(left + QPointF(x, -4), left + QPointF(x, 0));
  painter.setFont(body_font(11));
  painter.drawText(QRectF(left.x(), left.y() - 21, pixels, 16), Qt::AlignCenter,
                   QStringLiteral("%1 %2").arg(QString::number(length), length_unit()));
}

void SectionPlot::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.fillRect(rect(), role::card);
  painter.setRenderHint(QPainter::Antialiasing);
  if (box().isEmpty()) return;
  const QPointF middle(width() / 2.0, height() / 2.0);
  const auto at = [&](const Vec2& p) {
    return middle + scale_ * QPointF(p.x() - middle_.x(), -(p.y() - middle_.y()));
  };
  const WhiskerScale whiskers = whisker_scale(drift_, section_);
  for (const auto& w : drift_.whiskers) {
    const Vec2 d = w.point - w.foot;
    const double length = d.norm();
    if (!(length > 1e-9)) continue;
    const Vec2 tip = w.foot + std::min(length * whiskers.gain, whiskers.longest) / length * d;
    painter.setPen(QPen(
        deviation_colour(w.value / std::max(std::abs(drift_.greatest), 1e-9), 0).darker(112), 1));
    painter.drawLine(at(w.foot), at(tip));
  }
  painter.setPen(QPen(role::graphite_light, 1));
  for (const auto& line : section_.polylines) {
    QPolygonF polygon;
    for (const Vec2& p : line.points) polygon << at(p);
    if (line.closed) polygon << at(line.points.front());
    if (sketch_.entities.empty()) painter.drawPolyline(polygon);
    painter.save();
    painter.setPen(QPen(role::red_pencil, 1.4, Qt::DotLine));
    for (const std::size_t gap : line.gaps)
      painter.drawLine(at(line.points[gap]), at(line.points[(gap + 1) % line.points.size()]));
    painter.restore();
  }
  painter.setPen(QPen(role::ink, 1.6));
  for (const auto& line : model_.polylines) {
    QPolygonF polygon;
    for (const Vec2& p : line.points) polygon << at(p);
    if (line.closed) polygon << at(line.points.front());
    painter.drawPolyline(polygon);
  }
  for (const auto& e : sketch_.entities) {
    QPolygonF curve;
    for (const Vec2& p : sketch::placed(sketch_, e)->chords()) curve << at(p);
    painter.drawPolyline(curve);
  }
  if (!drift_.whiskers.empty()) {
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(role::red_pencil, 1.4));
    painter.drawEllipse(at(drift_.greatest_at), 5, 5);
    painter.setFont(body_font(11));
    painter.setPen(role::graphite);
    const QString gain = tr("whiskers \u00d7 %1").arg(whiskers.gain);
    const int wide = painter.fontMetrics().horizontalAdvance(gain);
    const QRectF ground(width() - wide - 14, height() - 24, wide + 8, 18);
    painter.fillRect(ground, role::card);
    painter.drawText(ground, Qt::AlignCenter, gain);
  }
  paintScaleBar(painter);
}

Strip::Strip(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      title_(new QLabel),
      detail_(new QLabel),
      stack_(new QStackedWidget),
      histogram_(new QCustomPlot),
      section_(new SectionPlot),
      valley_(new ValleyPlot(session)),
      empty_(new QLabel) {
  setObjectName(QStringLiteral("page"));
  setMinimumHeight(90);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(12, 6, 12, 6);
  layout->setSpacing(4);
  auto* head = new QHBoxLayout;
  title_->setObjectName(QStringLiteral("heading"));
  detail_->setObjectName(QStringLiteral("summary"));
  detail_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  detail_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  head->addWidget(title_);
  head->addWidget(detail_, 1);
  layout->addLayout(head);
  empty_->setObjectName(QStringLiteral("empty"));
  empty_->setWordWrap(true);
  empty_->setText(
      tr("Flat pictures appear here: the section with its drift while tracing, the histogram of "
         "the deviation once there is a model."));
  stack_->addWidget(empty_);
  stack_->addWidget(histogram_);
  stack_->addWidget(section_);
  stack_->addWidget(valley_);
  layout->addWidget(stack_, 1);
  histogram_->setAccessibleName(tr("Histogram of the deviation"));
  style_plot(*histogram_);
  connect(&session_, &Session::routeChanged, this, &Strip::refreshHistogram);
  connect(&session_, &Session::changed, this, &Strip::refreshHistogram);
  refreshHistogram();
}

void Strip::showHistogram() {
  histogram_wanted_ = true;
  refreshHistogram();
}

void Strip::showSection(const section::Section& section, const sketch::Sketch& sketch, double reach,
                        const QString& title) {
  histogram_wanted_ = false;
  section_->show(section, sketch, reach);
  title_->setText(title);
  const sketch::Drift& drift = section_->drift();
  if (section.polylines.empty())
    detail_->setText(tr("the plane misses the scan"));
  else if (drift.whiskers.empty())
    detail_->setText(tr("%n outline(s)", nullptr, static_cast<int>(section.polylines.size())));
  else
    detail_->setText(tr("drift RMS %1 \u00b7 greatest %2")
                         .arg(length_shown(drift.rms, 3),
                              QString::fromStdString((drift.greatest > 0 ? "+" : "") +
                                                     length_fixed(drift.greatest, 3))));
  stack_->setCurrentWidget(section_);
}

void Strip::showComparison(const deviation::SectionComparison& c, const QString& title) {
  histogram_wanted_ = false;
  section_->show(c);
  title_->setText(title);
  const auto f = [](double v) { return length_shown(v, 3); };
  detail_->setText(
      c.whiskers.empty()
          ? tr("nothing to compare here")
          : tr("RMS %1 \u00b7 greatest %2")
                .arg(f(c.rms), (c.greatest > 0 ? QStringLiteral("+") : QString()) + f(c.greatest)));
  stack_->setCurrentWidget(section_);
}

void Strip::showValley(const reading::Valley& valley, project::Id dimension) {
  const project::Dimension* row = session_.document().find_dimension(dimension);
  if (row == nullptr) return;
  histogram_wanted_ = false;
  title_->setText(tr("Valley of %1").arg(QString::fromStdString(row->name)));
  detail_->setText(
      tr("lowest at %1 \u00b7 %2 points of the scan \u00b7 grey band: reading \u00b1 U")
          .arg(QString::fromStdString(format_fixed(valley.lowest, 3)),
               QString::fromStdString(format_count(valley.points))));
  valley_->show(valley, dimension);
  stack_->setCurrentWidget(valley_);
}

void Strip::refreshHistogram() {
  if (!histogram_wanted_) return;
  const auto route = session_.route();
  const project::Document& d = session_.document();
  if (!route->map || route->statistics.n == 0) {
    title_->setText(tr("Strip"));
    detail_->setText(session_.busy() && !d.steps.empty() ? tr("comparing \u2026") : QString());
    stack_->setCurrentWidget(empty_);
    return;
  }
  const deviation::Statistics& s = route->statistics;
  title_->setText(route->map_is_old || route->stopped
                      ? tr("Deviation from the model as it was before")
                      : tr("Deviation from the model"));
  const auto f = [](double v) { return length_shown(v, 3); };
  detail_->setText(tr("RMS %1 \u00b7 95 % within %2 \u00b7 %3 % within \u00b1%4")
                       .arg(f(s.rms), f(s.p95_abs),
                            QString::fromStdString(format_fixed(100 * s.within_fraction, 1)),
                            QString::fromStdString(length_trimmed(d.tolerance, 3))));
  const deviation::Histogram& h = route->histogram;
  style_plot(*histogram_);  // the sheet may have changed
  histogram_->clearPlottables();
  histogram_->clearItems();
  const double width = 2 * d.deviation_range / static_cast<double>(h.counts.size());
  double top = 1;
  for (std::size_t i = 0; i < h.counts.size(); ++i) {
    const double value = -d.deviation_range + (static_cast<double>(i) + 0.5) * width;
    const double x = value * length_factor();
    auto* bar = new QCPBars(histogram_->xAxis, histogram_->yAxis);
    bar->setWidth(width * length_factor());
    const QColor c = deviation_colour(value / d.deviation_range, d.tolerance / d.deviation_range);
    bar->setBrush(c);
    bar->setPen(QPen(c.darker(125), 0.6));
    const double share = 100.0 * static_cast<double>(h.counts[i]) / static_cast<double>(s.n);
    bar->addData(x, share);
    top = std::max(top, share);
  }
  for (const double limit : {-d.tolerance, d.tolerance}) {
    auto* line = new QCPItemStraightLine(histogram_);
    line->point1->setCoords(limit * length_factor(), 0);
    line->point2->setCoords(limit * length_factor(), 1);
    line->setPen(QPen(role::ink, 1));
  }
  histogram_->xAxis->setRange(-d.deviation_range * length_factor(),
                              d.deviation_range * length_factor());
  histogram_->yAxis->setRange(0, top * 1.08);
  histogram_->xAxis->setLabel(tr("short  \u2190  %1  \u2192  proud").arg(length_unit()));
  histogram_->yAxis->setLabel(tr("share, %"));
  histogram_->replot(QCustomPlot::rpQueuedRefresh);
  stack_->setCurrentWidget(histogram_);
}

}  // namespace lostline::app
