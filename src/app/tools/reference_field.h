#pragma once

#include <QComboBox>

#include "bench/bench_view.h"

namespace lostline::app {

/// A field for a plane or an axis: one of the datums from the list, or a face of the model, a
/// region or a fit picked on the Bench or in Evidence.
class ReferenceField : public QComboBox {
  Q_OBJECT
 public:
  enum class Wants { Axis, Plane, Surface };
  ReferenceField(Wants wants, const QString& name);

  [[nodiscard]] const model::Reference& reference() const { return reference_; }
  void assign(const model::Reference& reference, const project::Document& document);
  /// Takes what was picked, if it suits. True when taken.
  bool offer(const Pick& pick, const model::Model& solid, const project::Document& document);
  bool offer(const project::FitRef& ref, const project::Document& document);
  [[nodiscard]] bool takes(const fit::SurfaceFit& fit) const;
  /// A field alone on its card waits whenever it shows; of several one at a time does.
  void setWaiting(bool on);
  [[nodiscard]] bool waiting() const { return waiting_ && isVisible(); }

 Q_SIGNALS:
  void referenceChanged();
  void waitingChanged();

 protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

 private:
  void show(const QString& picked);

  Wants wants_;
  model::Reference reference_;
  bool waiting_ = true;
};

}  // namespace lostline::app
