#pragma once

#include "jobs/aside.h"
#include "reading/valley.h"

class QCustomPlot;
class QCPItemStraightLine;
class QCPItemText;

namespace lostline::app {

/// The curve of RMS deviation against one value, with its reading ± U, its nominals, and a marker
/// that can be dragged: the model follows, and on release the value is inked.
class ValleyPlot : public QWidget {
  Q_OBJECT
 public:
  explicit ValleyPlot(Session& session, QWidget* parent = nullptr);
  void show(const reading::Valley& valley, project::Id dimension);

 Q_SIGNALS:
  /// Edges of the model as it would be with the value under the marker.
  void modelTried(const std::vector<std::pair<Vec3, Vec3>>& edges);
  void valueChosen(double value);

 private:
  void placeMarker(double value);
  void tryValue(double value);
  void moved(const QPointF& at);
  void released(const QPointF& at);
  [[nodiscard]] double valueAt(const QPointF& at) const;

  Session& session_;
  Aside aside_;
  QCustomPlot* plot_;
  QCPItemStraightLine* marker_ = nullptr;
  QCPItemText* label_ = nullptr;
  project::Id dimension_ = 0;
  // What is drawn is in the unit shown: `scale_` of it to a millimetre, or 1 for degrees.
  double scale_ = 1;
  std::vector<double> nominals_;
  double low_ = 0, high_ = 1, value_ = 0;
  bool dragging_ = false;
};

}  // namespace lostline::app
