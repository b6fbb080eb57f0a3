#pragma once

#include <QLabel>
#include <QMouseEvent>
#include <QStackedWidget>

#include "deviation/section_compare.h"
#include "jobs/session.h"

class QCustomPlot;

namespace lostline::reading {
struct Valley;
}

namespace lostline::app {

class ValleyPlot;

/// Flat picture of a section with its sketch and whiskers, true to scale: the wheel zooms, a drag
/// pans, a double click shows all of it.
class SectionPlot : public QWidget {
  Q_OBJECT
 public:
  explicit SectionPlot(QWidget* parent = nullptr);
  void show(const section::Section& section, const sketch::Sketch& sketch, double reach);
  void show(const deviation::SectionComparison& comparison);
  [[nodiscard]] const sketch::Drift& drift() const { return drift_; }
  /// Pixels of a millimetre, and the place of the section that is in the middle.
  [[nodiscard]] double scale() const { return scale_; }
  [[nodiscard]] Vec2 middle() const { return middle_; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override { last_ = event->position(); }
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  void setContent();
  void fit();
  void paintScaleBar(QPainter& painter);
  [[nodiscard]] Eigen::AlignedBox2d box() const;
  section::Section section_;
  sketch::Sketch sketch_;
  sketch::Drift drift_;
  section::Section model_;  ///< second cut, drawn in ink
  double scale_ = 1;
  Vec2 middle_ = Vec2::Zero();
  QPointF last_;
  bool fitted_ = true;  ///< shows all of it: a new size fits it anew
};

/// The band under the Bench: histogram of the deviation, or the section with its drift.
class Strip : public QWidget {
  Q_OBJECT
 public:
  explicit Strip(Session& session, QWidget* parent = nullptr);
  void showHistogram();
  void showValley(const reading::Valley& valley, project::Id dimension);
  [[nodiscard]] ValleyPlot& valley() { return *valley_; }
  void showSection(const section::Section& section, const sketch::Sketch& sketch, double reach,
                   const QString& title);
  /// A cut of the scan against one of the model.
  void showComparison(const deviation::SectionComparison& comparison, const QString& title);

 private:
  void refreshHistogram();

  Session& session_;
  QLabel* title_;
  QLabel* detail_;
  QStackedWidget* stack_;
  QCustomPlot* histogram_;
  SectionPlot* section_;
  ValleyPlot* valley_;
  QLabel* empty_;
  bool histogram_wanted_ = true;
};

}  // namespace lostline::app
