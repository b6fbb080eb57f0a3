#pragma once

#include <QLabel>
#include <QStackedWidget>

#include "deviation/section_compare.h"
#include "jobs/session.h"

class QCustomPlot;

namespace lostline::reading {
struct Valley;
}

namespace lostline::app {

class ValleyPlot;

/// Flat picture of a section with its sketch and whiskers.
class SectionPlot : public QWidget {
  Q_OBJECT
 public:
  explicit SectionPlot(QWidget* parent = nullptr);
  void show(const section::Section& section, const sketch::Sketch& sketch, double reach);
  void show(const deviation::SectionComparison& comparison);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  section::Section section_;
  sketch::Sketch sketch_;
  sketch::Drift drift_;
  section::Section model_;  ///< second cut, drawn in ink
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
