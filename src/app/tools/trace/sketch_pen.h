#pragma once

#include "bench/camera.h"
#include "project/document.h"

namespace lostline::app {

/// Draws lines, arcs and circles into a sketch by clicks that snap to its points and to the
/// section.
class SketchPen {
 public:
  enum class Mode { Off, Line, Arc, Circle };

  void start(Mode mode) {
    mode_ = mode;
    clicks_.clear();
  }
  [[nodiscard]] Mode mode() const { return mode_; }
  /// Ends the chain being drawn, then the drawing. False when it was off already.
  bool stop();
  /// One click. True when the sketch changed.
  bool click(const Camera& camera, project::TracedSketch& traced, const QPointF& at);
  /// What the next click does, in words.
  [[nodiscard]] QString hint() const;

 private:
  /// A point of the sketch, or a place to make one.
  struct Spot {
    sketch::Id point = 0;
    Vec2 at = Vec2::Zero();
  };
  static std::optional<Spot> snap(const Camera& camera, const project::TracedSketch& traced,
                                  const QPointF& at);
  static sketch::Id point_of(sketch::Sketch& sketch, const Spot& spot);

  Mode mode_ = Mode::Off;
  std::vector<Spot> clicks_;
};

}  // namespace lostline::app
